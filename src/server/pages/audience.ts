import { eq } from 'drizzle-orm';
import type { Audience } from '@/core/access';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { mustMayBelow } from './move';
import { mustHavePanel } from '../items/allowed';
import { findPageName, findPlace } from '../tree/tree';

/** Gives a page rights of its own for visitors, or with null those of the page above. Runs in a transaction. */
export async function setAudience(tx: Tx, access: Access, pageId: number, audience: Audience | null): Promise<void> {
  if (audience?.kind === 'roles') {
    const unknown = audience.roles.find((id) => !access.plan.roles.some((role) => role.id === id && !role.archived));
    if (unknown !== undefined) throw new Problem('role-not-in-force', { role: unknown });
  }
  await mustMayBelow(tx, access, 'page.publish', pageId);
  mustHavePanel(access, { place: await findPlace(tx, access.site.id, pageId) }, 'visitors');
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
