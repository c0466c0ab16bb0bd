import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { applyOperation, growsBetween, holdersInTheWay, lockOutOf, operationInWords, partOf, planSchema, releaseBeyond, roleOf, withPart, type Operation, type Plan } from '@/core/plan';
import type { PolicyPerson } from '@/core/access';
import { canonical } from '@/core/json';
import { sayDay } from '@/core/words';
import { inventory } from '@/office';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { plans, planSteps, releases, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { beyondInWords } from '../gate/bounds';
import { loadGround } from '../gate/ground';
import { Problem } from '../gate/problems';
import { endLinks } from '../gate/set-up';
import { listPeople } from '../people/people';
import { getLivePlan, getPlanState, type PlanState } from './plans';

/** Locks the prepared plan and checks that it is still the one the change was made on. Runs in a transaction. */
async function lockPlan(tx: Tx, access: Access, revision: number): Promise<Plan> {
  const [row] = await tx.select().from(plans).where(eq(plans.siteId, access.site.id)).for('update');
  if (!row) throw new Error(`site ${access.site.id} has no prepared plan`);
  if (row.revision !== revision) {
    const state = await getPlanState(tx, access.site.id);
    const by = state.undo ? ` The last change is “${state.undo.words}” by ${state.undo.by}.` : '';
    throw new Problem('conflict', `The plan has moved on since you opened it, so nothing was overwritten.${by} You now see the newest plan; make your change again if it is still wanted.`, { state });
  }
  return row.plan;
}

const store = (tx: Tx, access: Access, plan: Plan) =>
  tx.update(plans).set({ plan, revision: sql`${plans.revision} + 1` }).where(eq(plans.siteId, access.site.id));

/** What an operation is told to have changed. */
const subjectOf = (operation: Operation, plan: Plan): string => plan.roles.find((role) => role.id === roleOf(operation))?.name ?? 'The whole plan';

/** Refuses a plan that archives a role somebody holds, or keeps roles apart that somebody holds together. */
function refuseHeld(plan: Plan, everybody: readonly PolicyPerson[]): void {
  const nameOf = (id: string) => plan.roles.find((role) => role.id === id)?.name ?? id;
  const told = holdersInTheWay(plan, everybody).map(({ person, pair, archived }) => (pair ? `${person.name} holds “${nameOf(pair[0])}” and “${nameOf(pair[1])}”, which shall be kept apart.` : `${person.name} still holds “${nameOf(archived ?? '')}”.`));
  if (told.length > 0) throw new Problem('bad-input', `${told.slice(0, 5).join(' ')}${told.length > 5 ? ` So it is with ${told.length - 5} more.` : ''} Give them other roles first.`);
}

/** Refuses a plan under which, from some instant on, no keyholder could look after the website; one that was so already may still be mended. */
function refuseLockOut(access: Access, before: Plan, after: Plan, everybody: readonly PolicyPerson[]): void {
  const atMs = now().getTime();
  const gap = lockOutOf(inventory, after, everybody, atMs);
  if (!gap || lockOutOf(inventory, before, everybody, atMs)) return;
  const day = (ms: number) => sayDay(new Date(ms), access.site.timeZone, now());
  const when = gap.fromMs <= atMs ? 'at once' : `from ${day(gap.fromMs)}${gap.untilMs ? ` to ${day(gap.untilMs)}` : ' on'}`;
  throw new Problem('bad-input', `Then ${when} no keyholder could prepare rooms, step in, go live and look after people. Somebody must always be able to.`);
}

/** Applies operations to the prepared plan, all or none. Runs in a transaction. */
export async function changePlan(tx: Tx, access: Access, revision: number, operations: readonly Operation[]): Promise<PlanState> {
  let plan = await lockPlan(tx, access, revision);
  const before = plan;
  const everybody = await listPeople(tx, access.site.id);
  await tx.update(planSteps).set({ state: 'gone' }).where(and(eq(planSteps.siteId, access.site.id), eq(planSteps.state, 'undone')));
  for (const operation of operations) {
    const applied = applyOperation(inventory, plan, operation);
    if (!applied.ok) throw new Problem('bad-input', applied.detail, { operation: operation.do });
    if (operation.do === 'archive-role' && operation.archived) refuseHeld(applied.plan, everybody);
    await tx.insert(planSteps).values({ siteId: access.site.id, operation, before: partOf(plan, applied.plan), after: partOf(applied.plan, plan), madeBy: access.signedInId });
    await record(tx, access, 'prepared', subjectOf(operation, applied.plan), { href: roleOf(operation) === null ? '/workshop' : `/workshop/roles/${roleOf(operation)}/tasks`, detail: operationInWords(inventory, operation) });
    plan = applied.plan;
  }
  refuseLockOut(access, before, plan, everybody);
  await store(tx, access, plan);
  return getPlanState(tx, access.site.id);
}

/** Takes the last operation back, or makes the one taken back last again. Runs in a transaction. */
export async function moveInHistory(tx: Tx, access: Access, revision: number, direction: 'undo' | 'redo'): Promise<PlanState> {
  const plan = await lockPlan(tx, access, revision);
  const [state, order] = direction === 'undo' ? (['done', desc(planSteps.id)] as const) : (['undone', asc(planSteps.id)] as const);
  const [step] = await tx.select().from(planSteps).where(and(eq(planSteps.siteId, access.site.id), eq(planSteps.state, state))).orderBy(order).limit(1);
  if (!step) throw new Problem('already-done', direction === 'undo' ? 'There is nothing left to undo.' : 'There is nothing to redo.');
  const next = planSchema.parse(withPart(plan, direction === 'undo' ? step.before : step.after));
  refuseLockOut(access, plan, next, await listPeople(tx, access.site.id));
  await tx.update(planSteps).set({ state: direction === 'undo' ? 'undone' : 'done' }).where(eq(planSteps.id, step.id));
  await store(tx, access, next);
  await record(tx, access, direction === 'undo' ? 'took back' : 'made again', subjectOf(step.operation, direction === 'undo' ? plan : next), { detail: operationInWords(inventory, step.operation) });
  return getPlanState(tx, access.site.id);
}

async function addRelease(tx: Tx, access: Pick<Access, 'site' | 'signedInId'>, plan: Plan, more: { note: string; returnsTo?: number }): Promise<number> {
  const [last] = await tx.select({ number: releases.number }).from(releases).where(eq(releases.siteId, access.site.id)).orderBy(desc(releases.number)).limit(1);
  const number = (last?.number ?? 0) + 1;
  const [release] = await tx.insert(releases).values({ siteId: access.site.id, number, plan, madeBy: access.signedInId, note: more.note, returnsTo: more.returnsTo ?? null }).returning({ id: releases.id });
  await tx.update(sites).set({ liveReleaseId: release?.id ?? null }).where(eq(sites.id, access.site.id));
  return number;
}

/** The plan in force as it is now that the plan is locked: somebody may have gone live since the request began. */
async function getLiveNow(tx: Tx, access: Access): Promise<{ releaseId: number | null; plan: Plan }> {
  const [site] = await tx.select().from(sites).where(eq(sites.id, access.site.id));
  if (!site) throw new Error(`there is no site ${access.site.id}`);
  return { releaseId: site.liveReleaseId, plan: await getLivePlan(tx, site) };
}

/** Refuses a plan that somebody's hands are not clean for: who holds what it takes away, a time without anybody to look after the website, more for anybody than whoever does this has. */
async function refuseRelease(tx: Tx, access: Access, before: Plan, after: Plan): Promise<void> {
  const everybody = await listPeople(tx, access.site.id);
  refuseHeld(after, everybody);
  refuseLockOut(access, before, after, everybody);
  const ground = await loadGround(tx, access.site.id);
  const gain = releaseBeyond(ground, before, after, everybody, access.who);
  if (gain) throw new Problem('refused', `This would give ${gain.person.name} more than you have yourself: ${await beyondInWords(tx, { site: access.site, plan: after }, gain.beyond)}. Ask a keyholder to make it go live.`);
  // A link not used yet was made for somebody who could do less.
  await endLinks(tx, everybody.filter((person) => growsBetween(ground, { plan: before, person }, { plan: after, person })).map((person) => Number(person.id)));
}

/** Makes the prepared plan the one in force. Runs in a transaction. */
export async function goLive(tx: Tx, access: Access, revision: number, note: string): Promise<{ number: number }> {
  const plan = await lockPlan(tx, access, revision);
  const live = await getLiveNow(tx, access);
  if (canonical(plan) === canonical(live.plan)) throw new Problem('already-done', 'Nothing is waiting to go live: the prepared plan is the one in force.');
  await refuseRelease(tx, access, live.plan, plan);
  const number = await addRelease(tx, access, plan, { note });
  await record(tx, access, 'made a plan go live', `Release ${number}`, { href: '/workshop/releases', detail: note });
  return { number };
}

/**
 * Puts an earlier release in force again, as a new release; the prepared plan becomes the same, so that the
 * next release does not bring back what was just taken back. Refused while unreleased changes would be lost.
 * Runs in a transaction.
 */
export async function returnToRelease(tx: Tx, access: Access, revision: number, to: number): Promise<{ number: number }> {
  const prepared = await lockPlan(tx, access, revision);
  const [release] = await tx.select().from(releases).where(and(eq(releases.siteId, access.site.id), eq(releases.number, to)));
  if (!release) throw new Problem('not-found', `There is no release ${to}.`);
  const live = await getLiveNow(tx, access);
  if (release.id === live.releaseId) throw new Problem('already-done', `Release ${to} is in force already.`);
  if (canonical(prepared) !== canonical(live.plan))
    throw new Problem('already-done', 'Changes are prepared that are not live yet. Make them go live or undo them first; going back would lose them.');
  await refuseRelease(tx, access, live.plan, release.plan);
  const number = await addRelease(tx, access, release.plan, { note: `Back to release ${to}`, returnsTo: to });
  await store(tx, access, release.plan);
  await tx.update(planSteps).set({ state: 'gone' }).where(eq(planSteps.siteId, access.site.id));
  await record(tx, access, 'went back', `to release ${to}`, { href: '/workshop/releases', detail: `It is in force as release ${number}.` });
  return { number };
}
