import { among } from '../db/among';
import type { Audience } from '@/core/access';
import { recordAll } from '../activity/activity';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound, Problem } from '../gate/problems';
import { findKeptBack } from './move';
import { mustHavePanel } from '../items/allowed';
import { titlesOf } from '../items/publishing';
import { sortOut, type Refused } from '../items/together';
import { findAllPlaced } from '../tree/tree';

/**
 * Gives pages rights of their own for visitors, or with null those of the page above. Gives those that cannot have
 * them, each with why. Runs in a transaction.
 */
export async function setAudience(
  tx: Tx,
  access: Access,
  pageIds: readonly number[],
  audience: Audience | null,
): Promise<Refused> {
  if (audience?.kind === 'roles') {
    const unknown = audience.roles.find((id) => !access.plan.roles.some((role) => role.id === id && !role.archived));
    if (unknown !== undefined) throw new Problem('role-not-in-force', { role: unknown });
  }
  const keptBack = await findKeptBack(tx, access, 'page.publish', pageIds);
  const places = await findAllPlaced(tx, access.site.id, pageIds);
  const { can, refused } = sortOut(pageIds, (id) => {
    const placed = places.get(id);
    if (placed?.type !== 'page') throw notFound('The page');
    const why = keptBack.get(id);
    if (why) throw why;
    mustHavePanel(access, placed, 'visitors');
  });
  const ids = [...can.keys()];
  if (ids.length === 0) return refused;
  await tx.update(items).set({ audience }).where(among(items.id, ids));
  const titles = await titlesOf(tx, ids);
  const words =
    audience === null
      ? 'As the page above'
      : audience.kind === 'everyone'
        ? 'Everyone'
        : audience.kind === 'members'
          ? 'Members only'
          : `Only ${audience.roles.map((id) => access.plan.roles.find((r) => r.id === id)?.name ?? id).join(', ')}`;
  await recordAll(
    tx,
    access,
    'changed who may visit',
    ids.map((id) => ({ subject: titles.get(id) ?? 'A page', href: `/room/pages/${id}`, detail: words })),
  );
  return refused;
}
