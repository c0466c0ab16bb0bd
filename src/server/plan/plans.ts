import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { applyOperation, holdersInTheWay, operationInWords, partOf, planSchema, roleOf, withPart, type Operation, type Plan } from '@/core/plan';
import type { PolicyPerson } from '@/core/access';
import { canonical } from '@/core/json';
import { inventory } from '@/office';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { people, plans, planSteps, releases, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { listPeople } from '../people/people';

/** Releases never change, so a plan once read can be kept for good. */
const known = new Map<number, Plan>();

/** The plan in force. Throws when nothing ever went live: set-up makes release 1. */
export async function getLivePlan(tx: Tx, site: { id: number; liveReleaseId: number | null }): Promise<Plan> {
  const id = site.liveReleaseId ?? -1;
  const kept = known.get(id);
  if (kept) return kept;
  const [row] = await tx.select({ plan: releases.plan }).from(releases).where(eq(releases.id, id));
  if (!row) throw new Error(`site ${site.id} has no release in force`);
  if (known.size > 50) known.clear();
  known.set(id, row.plan);
  return row.plan;
}

export async function getPreparedPlan(tx: Tx, siteId: number): Promise<{ plan: Plan; revision: number }> {
  const [row] = await tx.select().from(plans).where(eq(plans.siteId, siteId));
  if (!row) throw new Error(`site ${siteId} has no prepared plan`);
  return { plan: row.plan, revision: row.revision };
}

/** `role` is null where an operation concerned the whole plan. */
export interface HistoryEntry { id: number; words: string; role: string | null; by: string; at: string }
export interface PlanState {
  plan: Plan;
  revision: number;
  undo: HistoryEntry | null;
  redo: HistoryEntry | null;
  /** Operations done since the last release, newest first. */
  recent: HistoryEntry[];
}

/** The prepared plan with what can be undone and redone. */
export async function getPlanState(tx: Tx, siteId: number): Promise<PlanState> {
  const prepared = await getPreparedPlan(tx, siteId);
  const rows = await tx.select({ step: planSteps, by: people.name }).from(planSteps).leftJoin(people, eq(people.id, planSteps.madeBy)).where(eq(planSteps.siteId, siteId)).orderBy(desc(planSteps.id)).limit(100);
  const entry = ({ step, by }: (typeof rows)[number]): HistoryEntry => ({ id: step.id, words: operationInWords(inventory, step.operation), role: roleOf(step.operation), by: by ?? 'Somebody', at: step.madeAt.toISOString() });
  const done = rows.filter((row) => row.step.state === 'done');
  const undone = rows.filter((row) => row.step.state === 'undone');
  const last = undone.at(-1);
  return { ...prepared, undo: done[0] ? entry(done[0]) : null, redo: last ? entry(last) : null, recent: done.slice(0, 20).map(entry) };
}

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

/** Applies operations to the prepared plan, all or none. Runs in a transaction. */
export async function changePlan(tx: Tx, access: Access, revision: number, operations: readonly Operation[]): Promise<PlanState> {
  let plan = await lockPlan(tx, access, revision);
  await tx.update(planSteps).set({ state: 'gone' }).where(and(eq(planSteps.siteId, access.site.id), eq(planSteps.state, 'undone')));
  for (const operation of operations) {
    const applied = applyOperation(inventory, plan, operation);
    if (!applied.ok) throw new Problem('bad-input', applied.detail, { operation: operation.do });
    if (operation.do === 'archive-role' && operation.archived) refuseHeld(applied.plan, await listPeople(tx, access.site.id));
    await tx.insert(planSteps).values({ siteId: access.site.id, operation, before: partOf(plan, applied.plan), after: partOf(applied.plan, plan), madeBy: access.signedInId });
    await record(tx, access, 'prepared', subjectOf(operation, applied.plan), { href: roleOf(operation) === null ? '/workshop' : `/workshop/roles/${roleOf(operation)}/tasks`, detail: operationInWords(inventory, operation) });
    plan = applied.plan;
  }
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

/** Makes the prepared plan the one in force. Runs in a transaction. */
export async function goLive(tx: Tx, access: Access, revision: number, note: string): Promise<{ number: number }> {
  const plan = await lockPlan(tx, access, revision);
  if (canonical(plan) === canonical(await getLivePlan(tx, access.site))) throw new Problem('already-done', 'Nothing is waiting to go live: the prepared plan is the one in force.');
  refuseHeld(plan, await listPeople(tx, access.site.id));
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
  if (release.id === access.site.liveReleaseId) throw new Problem('already-done', `Release ${to} is in force already.`);
  if (canonical(prepared) !== canonical(await getLivePlan(tx, access.site)))
    throw new Problem('already-done', 'Changes are prepared that are not live yet. Make them go live or undo them first; going back would lose them.');
  refuseHeld(release.plan, await listPeople(tx, access.site.id));
  const number = await addRelease(tx, access, release.plan, { note: `Back to release ${to}`, returnsTo: to });
  await store(tx, access, release.plan);
  await tx.update(planSteps).set({ state: 'gone' }).where(eq(planSteps.siteId, access.site.id));
  await record(tx, access, 'went back', `to release ${to}`, { href: '/workshop/releases', detail: `It is in force as release ${number}.` });
  return { number };
}

export interface ReleaseEntry { number: number; id: number; by: string; at: Date; note: string; returnsTo: number | null; plan: Plan }
export async function listReleases(tx: Tx, siteId: number): Promise<ReleaseEntry[]> {
  const rows = await tx.select({ release: releases, by: people.name }).from(releases).leftJoin(people, eq(people.id, releases.madeBy)).where(eq(releases.siteId, siteId)).orderBy(desc(releases.number)).limit(100);
  return rows.map(({ release, by }) => ({ number: release.number, id: release.id, by: by ?? 'Set-up', at: release.madeAt, note: release.note, returnsTo: release.returnsTo, plan: release.plan }));
}

/** The first plan of a site: prepared and in force. Runs in a transaction. */
export async function installPlan(tx: Tx, siteId: number, plan: Plan): Promise<void> {
  const checked = planSchema.parse(plan);
  await tx.insert(plans).values({ siteId, plan: checked, revision: 1 });
  const [release] = await tx.insert(releases).values({ siteId, number: 1, plan: checked, note: 'As set up' }).returning({ id: releases.id });
  await tx.update(sites).set({ liveReleaseId: release?.id ?? null }).where(eq(sites.id, siteId));
}
