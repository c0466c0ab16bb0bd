import { eq, sql } from 'drizzle-orm';
import { holdersInTheWay, lockOutOf, patchOf, readPlan, touchedBy, type Plan } from '@/core/plan';
import type { PolicyPerson } from '@/core/access';
import { sayDay } from '@/core/words';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { planMarks, plans, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { getLivePlan, getPlanState } from './plans';

/** Locks the prepared plan. Runs in a transaction. */
export async function lockPlan(tx: Tx, access: Access): Promise<{ plan: Plan; revision: number }> {
  const [row] = await tx.select().from(plans).where(eq(plans.siteId, access.site.id)).for('update');
  if (!row) throw new Error(`site ${access.site.id} has no prepared plan`);
  return { plan: readPlan(row.plan), revision: row.revision };
}

/** Locks the prepared plan and checks that it is still the very one that was looked at. Runs in a transaction. */
export async function lockPlanAt(tx: Tx, access: Access, revision: number): Promise<Plan> {
  const row = await lockPlan(tx, access);
  if (row.revision !== revision) throw await movedOn(tx, access, null);
  return row.plan;
}

export async function movedOn(tx: Tx, access: Access, role: string | null): Promise<Problem> {
  const state = await getPlanState(tx, access.inventory, access.site.id, { personId: access.signedInId, role });
  const last = state.recent[0];
  const by = last ? ` The last change is “${last.words}” by ${last.by}.` : '';
  return new Problem('plan-moved', { by }, { state });
}

/** Puts a plan in the place of the prepared one, and says what was touched. */
export async function storePlan(tx: Tx, access: Access, before: Plan, plan: Plan): Promise<void> {
  const [row] = await tx
    .update(plans)
    .set({ plan, revision: sql`${plans.revision} + 1` })
    .where(eq(plans.siteId, access.site.id))
    .returning({ revision: plans.revision });
  await tx
    .insert(planMarks)
    .values({
      siteId: access.site.id,
      revision: row?.revision ?? 0,
      touched: touchedBy(patchOf(plan, before), patchOf(before, plan)),
      madeBy: access.signedInId,
    });
}

/** Refuses a plan that archives a role somebody holds, or keeps roles apart that somebody holds together. */
export function refuseHeld(plan: Plan, everybody: readonly PolicyPerson[]): void {
  const nameOf = (id: string) => plan.roles.find((role) => role.id === id)?.name ?? id;
  const told = holdersInTheWay(plan, everybody).map(({ person, pair, archived }) =>
    pair
      ? `${person.name} holds “${nameOf(pair[0])}” and “${nameOf(pair[1])}”, which shall be kept apart.`
      : `${person.name} still holds “${nameOf(archived ?? '')}”.`,
  );
  if (told.length > 0)
    throw new Problem('roles-held', {
      told: `${told.slice(0, 5).join(' ')}${told.length > 5 ? ` So it is with ${told.length - 5} more.` : ''}`,
    });
}

/**
 * Refuses a plan under which, from some instant on, no keyholder could look after the website; one that was so already
 * may still be mended.
 */
export function refuseLockOut(access: Access, before: Plan, after: Plan, everybody: readonly PolicyPerson[]): void {
  const atMs = now().getTime();
  const gap = lockOutOf(access.inventory, after, everybody, atMs);
  if (!gap || lockOutOf(access.inventory, before, everybody, atMs)) return;
  const day = (ms: number) => sayDay(new Date(ms), access.calendar, now());
  const when =
    gap.fromMs <= atMs ? 'at once' : `from ${day(gap.fromMs)}${gap.untilMs ? ` to ${day(gap.untilMs)}` : ' on'}`;
  throw new Problem('locks-out', { when });
}

/** The plan in force as it is now that the plan is locked: somebody may have gone live since the request began. */
export async function getLiveNow(tx: Tx, access: Access): Promise<{ releaseId: number | null; plan: Plan }> {
  const [site] = await tx.select().from(sites).where(eq(sites.id, access.site.id));
  if (!site) throw new Error(`there is no site ${access.site.id}`);
  return { releaseId: site.liveReleaseId, plan: await getLivePlan(tx, site) };
}
