import type { Tx } from '../db/client';
import { findNotice } from '../notices/notices';
import { findPlaced, rootPageId } from '../tree/tree';
import { findReview } from '../items/reviews';
import type { Access } from './access';
import type { Thing } from './authorize';
import { ofInventory } from '@/core/inventory';

/** A kind of thing requests and screens are about. */
export interface ThingKind {
  /** As a sentence begins with it: "This page is not there." */
  words: string;
  /** Finds the very thing; null when it is not there. The body is as it came, not checked yet. */
  find: (tx: Tx, access: Access, asked: { id?: string | undefined; body: unknown }) => Promise<Thing | null>;
}

const number = (id: unknown): number | null => (typeof id === 'string' && /^\d{1,9}$/.test(id) ? Number(id) : null);
const fieldOf = (body: unknown, field: string): unknown =>
  typeof body === 'object' && body !== null ? (body as Record<string, unknown>)[field] : undefined;

/** An item of one type, or with null of any. */
async function placeOf(
  tx: Tx,
  access: Access,
  itemId: number | null,
  type: string | null = 'page',
  deleted = false,
): Promise<Thing | null> {
  const found = itemId === null ? undefined : await findPlaced(tx, access.site.id, itemId, deleted);
  return found && (type === null || found.type === type) ? found : null;
}

/** A thing that lies on a page and is somebody's, not its page's author's. */
const by = (personId: number | null, thing: Thing | null): Thing | null =>
  thing?.place ? { ...thing, place: { ...thing.place, author: personId === null ? null : String(personId) } } : thing;

const KINDS: Record<string, ThingKind> = {
  /** The item named in the address, which was deleted. */
  deletedItem: { words: 'This', find: (tx, access, { id }) => placeOf(tx, access, number(id), null, true) },
  /** The page below which something new shall lie. */
  pageAbove: {
    words: 'The page above',
    find: (tx, access, { body }) => placeOf(tx, access, number(String(fieldOf(body, 'parent')))),
  },
  /** The item named in the address, of whatever type: what is asked for is asked of its type. */
  item: { words: 'This', find: (tx, access, { id }) => placeOf(tx, access, number(id), null) },
  /** The review named in the address: where its item lies, and who wrote what was sent. */
  review: {
    words: 'This draft',
    find: async (tx, access, { id }) => {
      const reviewId = number(id);
      const found = reviewId === null ? undefined : await findReview(tx, access.site.id, reviewId);
      const thing = found && (await placeOf(tx, access, found.itemId, null));
      return thing && found ? { ...thing, writtenBy: found.writers.map(String) } : null;
    },
  },
  /** The notice named in the address: the page it shows on, and whose it is. */
  notice: {
    words: 'This notice',
    find: async (tx, access, { id }) => {
      const noticeId = number(id);
      const found = noticeId === null ? undefined : await findNotice(tx, access.site.id, noticeId);
      return found ? by(found.postedBy, await placeOf(tx, access, found.pageId)) : null;
    },
  },
  /** The page on which something new shall lie, as its maker's own; the root where none is named. */
  placeForNew: {
    words: 'This page',
    find: async (tx, access, { body }) => {
      const page = fieldOf(body, 'page');
      return by(
        access.signedInId,
        await placeOf(tx, access, page === undefined ? await rootPageId(tx, access.site.id) : number(page)),
      );
    },
  },
};

/** The kinds of things, by name: those above, and each type of item by its id. */
export const thingsOf = ofInventory(
  (inventory): ReadonlyMap<string, ThingKind> =>
    new Map([
      ...Object.entries(KINDS),
      ...[...inventory.items.values()].map(({ id: type, one }): [string, ThingKind] => [
        type,
        { words: `This ${one}`, find: (tx, access, { id }) => placeOf(tx, access, number(id), type) },
      ]),
    ]),
);
