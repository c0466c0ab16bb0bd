import { and, eq } from 'drizzle-orm';
import {
  decide,
  refuseInWords,
  rulesAllow,
  rulesFor,
  VISIT,
  type Decision,
  type PersonId,
  type Place,
} from '@/core/access';
import { now } from '../clock';
import { findPlace, rootPageId } from '../tree/tree';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import { allowedPages } from './filter';
import { namesFor, type Access } from './access';
import { Problem } from './problems';

/** What a permission is asked about. */
export interface Thing {
  place?: Place | undefined;
  author?: PersonId | undefined;
  writtenBy?: readonly PersonId[] | undefined;
  /** The field of a page that is to be changed. */
  field?: string | undefined;
  /** The type of an item: what is asked of any item (`item.edit`) is asked of its type (`page.edit`). */
  type?: string | undefined;
}

/** What a permission means for a thing. Throws where it is asked of an item whose type is not known. */
function permissionOn(permission: string, { type }: Thing): string {
  if (!permission.startsWith('item.')) return permission;
  if (type === undefined) throw new Error(`${permission} was asked of something that is no item`);
  return permission.replace('item.', `${type}.`);
}

export function mayNow(access: Access, permission: string, thing: Thing = {}): Decision {
  const { type: _, ...about } = thing;
  return decide(access.policy, {
    person: access.who.id,
    permission: permissionOn(permission, thing),
    ...about,
    atMs: now().getTime(),
  });
}

/** Whether somebody may visit a page on the website; without access they are a visitor like any other. */
export const mayVisit = (access: Access | undefined, place: Place): boolean =>
  decide(access?.policy ?? { roles: new Map(), people: new Map(), secondPerson: new Set() }, {
    person: access?.who.id ?? null,
    permission: VISIT,
    place,
    atMs: now().getTime(),
  }).allowed;

/** Answers like `mayNow` for one permission, of a field or the whole, and as many places as a list has. */
export function mayOn(access: Access, permission: string, field?: string): (place: Place) => boolean {
  const rules = rulesFor(access.policy, access.who.id, permission, now().getTime());
  return (place) => rulesAllow(rules, access.who.id, { place, field });
}

/** The gate: returns when the person may, throws the refusal with its sentence when not. Everything passes here. */
export async function authorize(tx: Tx, access: Access, needs: string, thing: Thing = {}): Promise<void> {
  const permission = permissionOn(needs, thing);
  const decision = mayNow(access, permission, thing);
  if (!decision.allowed)
    throw new Problem(
      'not-yours',
      { why: refuseInWords(decision, permission, await namesFor(tx, access)) },
      { permission, ...(thing.place && { page: thing.place.path.at(-1) }) },
    );
}

/** The gate for screens that list: a permission that has a place must be held somewhere, whichever page that is. */
export async function authorizeSomewhere(tx: Tx, access: Access, permission: string): Promise<void> {
  if (mayNow(access, permission).allowed) return;
  const isPlaced = access.inventory.permissions.get(permission as never)?.placed ?? false;
  const somewhere = isPlaced
    ? await tx
        .select({ id: items.id })
        .from(items)
        .where(and(eq(items.siteId, access.site.id), allowedPages(access, permission)))
        .limit(1)
    : [];
  if (somewhere.length > 0) return;
  // No on every page: told as it is for the top of the site.
  const root = isPlaced ? await rootPageId(tx, access.site.id) : null;
  const place = root === null ? undefined : await findPlace(tx, access.site.id, root);
  await authorize(tx, access, permission, place ? { place } : {});
}
