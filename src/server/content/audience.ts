import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { decide, VISIT, type Audience, type Place } from '@/core/access';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { mustMayBelow } from './structure';
import { findPageName } from './tree';

/** Whether somebody may visit a page on the website; without access they are a visitor like any other. */
export const mayVisit = (access: Access | undefined, place: Place): boolean =>
  decide(access?.policy ?? { roles: new Map(), people: new Map(), secondPerson: new Set() }, {
    person: access?.who.id ?? null,
    permission: VISIT,
    place,
    atMs: now().getTime(),
  }).allowed;

/** Who may visit a page, as it comes over the wire and lies in its row. */
export const audienceSchema = z.union([
  z.strictObject({ kind: z.enum(['everyone', 'members']) }),
  z.strictObject({
    kind: z.literal('roles'),
    roles: z.array(z.string().max(80)).min(1, 'Choose at least one role.').max(50),
  }),
]);

/** Gives a page rights of its own for visitors, or with null those of the page above. Runs in a transaction. */
export async function setAudience(tx: Tx, access: Access, pageId: number, audience: Audience | null): Promise<void> {
  if (audience?.kind === 'roles') {
    const unknown = audience.roles.find((id) => !access.plan.roles.some((role) => role.id === id && !role.archived));
    if (unknown !== undefined) throw new Problem('bad-input', `There is no role “${unknown}” in force.`);
  }
  await mustMayBelow(tx, access, 'page.publish', pageId);
  await tx.update(items).set({ audience }).where(eq(items.id, pageId));
  const name = (await findPageName(tx, access.site.id, pageId)) ?? 'A page';
  const words =
    audience === null
      ? 'As the page above'
      : audience.kind === 'everyone'
        ? 'Everyone'
        : audience.kind === 'members'
          ? 'Members only'
          : `Only ${audience.roles.map((id) => access.plan.roles.find((r) => r.id === id)?.name ?? id).join(', ')}`;
  await record(tx, access, 'changed who may visit', name, { href: `/room/pages/${pageId}`, detail: words });
}
