import { and, desc, eq, gt, inArray, sql } from 'drizzle-orm';
import {
  applyOperation,
  growsBetween,
  holdersInTheWay,
  lockOutOf,
  operationInWords,
  patchOf,
  planSchema,
  readOperation,
  readPatch,
  readPlan,
  releaseBeyond,
  roleNames,
  roleOf,
  samePlan,
  touchedBy,
  withPatch,
  withRolesOf,
  type Operation,
  type Plan,
} from '@/core/plan';
import type { PolicyPerson } from '@/core/access';
import { canonical } from '@/core/json';
import { changeInWords } from '@/core/release';
import type { PlanState } from '@/core/wire';
import { sayDay } from '@/core/words';
import { inventory } from '@/office';
import { record } from '../activity/activity';
import { now } from '../clock';
import { findPageNames } from '../tree/tree';
import type { Tx } from '../db/client';
import { planMarks, plans, planSteps, releases, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { beyondInWords } from '../gate/bounds';
import { loadGround } from '../gate/ground';
import { Problem } from '../gate/problems';
import { endLinks } from '../gate/set-up';
import { listPeople } from '../people/people';
import { getLivePlan, getPlanState, readRelease } from './plans';

/** Locks the prepared plan. Runs in a transaction. */
async function lockPlan(tx: Tx, access: Access): Promise<{ plan: Plan; revision: number }> {
  const [row] = await tx.select().from(plans).where(eq(plans.siteId, access.site.id)).for('update');
  if (!row) throw new Error(`site ${access.site.id} has no prepared plan`);
  return { plan: readPlan(row.plan), revision: row.revision };
}

/** Locks the prepared plan and checks that it is still the very one that was looked at. Runs in a transaction. */
async function lockPlanAt(tx: Tx, access: Access, revision: number): Promise<Plan> {
  const row = await lockPlan(tx, access);
  if (row.revision !== revision) throw await movedOn(tx, access, null);
  return row.plan;
}

async function movedOn(tx: Tx, access: Access, role: string | null): Promise<Problem> {
  const state = await getPlanState(tx, access.site.id, { personId: access.signedInId, role });
  const last = state.recent[0];
  const by = last ? ` The last change is “${last.words}” by ${last.by}.` : '';
  return new Problem('plan-moved', { by }, { state });
}

/**
 * Refuses what was made on a plan in which the same roles have changed since. Changes to other roles are no hindrance.
 */
async function refuseCollision(
  tx: Tx,
  access: Access,
  since: number,
  now: number,
  touched: readonly string[],
  role: string | null,
): Promise<void> {
  if (since === now) return;
  const marks = await tx
    .select({ touched: planMarks.touched })
    .from(planMarks)
    .where(and(eq(planMarks.siteId, access.site.id), gt(planMarks.revision, since)));
  // Where not every revision in between is known any more, anything may have changed.
  if (
    since > now ||
    marks.length < now - since ||
    marks.some((mark) => mark.touched.some((one) => touched.includes(one)))
  )
    throw await movedOn(tx, access, role);
}

/** Puts a plan in the place of the prepared one, and says what was touched. */
async function store(tx: Tx, access: Access, before: Plan, plan: Plan): Promise<void> {
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
      touched: touchedBy(patchOf(plan, before)),
      madeBy: access.signedInId,
    });
}

const pageNamesOf = (names: ReadonlyMap<string, string>) => (id: string) => names.get(id) ?? 'a page that is gone';

/** What an operation is told to have changed. */
const subjectOf = (operation: Operation, plan: Plan): string =>
  plan.roles.find((role) => role.id === roleOf(operation))?.name ?? 'The whole plan';

/** Refuses a plan that archives a role somebody holds, or keeps roles apart that somebody holds together. */
function refuseHeld(plan: Plan, everybody: readonly PolicyPerson[]): void {
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
function refuseLockOut(access: Access, before: Plan, after: Plan, everybody: readonly PolicyPerson[]): void {
  const atMs = now().getTime();
  const gap = lockOutOf(inventory, after, everybody, atMs);
  if (!gap || lockOutOf(inventory, before, everybody, atMs)) return;
  const day = (ms: number) => sayDay(new Date(ms), access.calendar, now());
  const when =
    gap.fromMs <= atMs ? 'at once' : `from ${day(gap.fromMs)}${gap.untilMs ? ` to ${day(gap.untilMs)}` : ' on'}`;
  throw new Problem('locks-out', { when });
}

/** What an undo cannot reach any more, because the same was changed since. */
const forgetUndone = async (tx: Tx, access: Access, touched: readonly string[]): Promise<void> => {
  const undone = await tx
    .select()
    .from(planSteps)
    .where(and(eq(planSteps.siteId, access.site.id), eq(planSteps.state, 'undone')));
  const gone = undone
    .filter((step) => touchedBy(readPatch(step.before)).some((one) => touched.includes(one)))
    .map((step) => step.id);
  if (gone.length > 0) await tx.update(planSteps).set({ state: 'gone' }).where(inArray(planSteps.id, gone));
};

/**
 * Applies operations to the prepared plan, all or none; `role` is the one that is prepared, null for the plan as a
 * whole. Runs in a transaction.
 */
export async function changePlan(
  tx: Tx,
  access: Access,
  revision: number,
  operations: readonly Operation[],
  role: string | null = null,
): Promise<PlanState> {
  const locked = await lockPlan(tx, access);
  const before = locked.plan;
  let plan = before;
  const everybody = await listPeople(tx, access.site.id);
  const pageName = pageNamesOf(await findPageNames(tx, access.site.id));
  const lines: { operation: Operation; before: Plan; after: Plan }[] = [];
  for (const operation of operations) {
    const applied = applyOperation(inventory, plan, operation);
    if (!applied.ok) {
      // Somebody else may have made it impossible meanwhile: then that is what there is to be told.
      if (locked.revision !== revision && applied.code !== 'already-so') throw await movedOn(tx, access, role);
      throw new Problem('operation-impossible', { why: applied.detail }, { operation: operation.do });
    }
    if (operation.do === 'archive-role' && operation.archived) refuseHeld(applied.plan, everybody);
    lines.push({ operation, before: plan, after: applied.plan });
    plan = applied.plan;
  }
  const touched = touchedBy(patchOf(plan, before));
  await refuseCollision(tx, access, revision, locked.revision, touched, role);
  refuseLockOut(access, before, plan, everybody);
  await forgetUndone(tx, access, touched);
  for (const line of lines) {
    const { operation } = line;
    await tx
      .insert(planSteps)
      .values({
        siteId: access.site.id,
        operation,
        before: patchOf(line.before, line.after),
        after: patchOf(line.after, line.before),
        madeBy: access.signedInId,
      });
    await record(tx, access, 'prepared', subjectOf(operation, line.after), {
      href: roleOf(operation) === null ? '/workshop' : `/workshop/roles/${roleOf(operation)}/tasks`,
      detail: changeInWords(inventory, line.before, line.after, operation, pageName),
    });
  }
  await store(tx, access, before, plan);
  return getPlanState(tx, access.site.id, { personId: access.signedInId, role });
}

/**
 * Takes one's own last change to a role back, or makes it again. What was changed in the same place since goes with it,
 * and only when it was named first: `also` are the numbers of those changes. Runs in a transaction.
 */
export async function moveInHistory(
  tx: Tx,
  access: Access,
  asked: { direction: 'undo' | 'redo'; role: string | null; also: readonly number[] },
): Promise<PlanState> {
  const { direction, role } = asked;
  const { plan } = await lockPlan(tx, access);
  const viewer = { personId: access.signedInId, role };
  const state = await getPlanState(tx, access.site.id, viewer);
  const entry = state[direction];
  if (!entry) throw new Problem(direction === 'undo' ? 'nothing-to-undo' : 'nothing-to-redo');
  if (
    direction === 'undo' &&
    canonical(entry.also.map((one) => one.id)) !== canonical([...asked.also].sort((a, b) => b - a))
  )
    throw new Problem(
      'changed-since',
      { changes: entry.also.map((one) => `“${one.words}” by ${one.by}`).join(', ') },
      { state },
    );
  const ids = direction === 'undo' ? [...entry.also.map((one) => one.id), entry.id] : [entry.id];
  const rows = await tx.select().from(planSteps).where(inArray(planSteps.id, ids)).orderBy(desc(planSteps.id));
  const steps = rows.map((row) => ({ ...row, operation: readOperation(row.operation) }));
  let next = plan;
  for (const step of steps) next = withPatch(next, readPatch(direction === 'undo' ? step.before : step.after));
  const checked = planSchema.safeParse(next);
  if (!checked.success)
    throw new Problem('built-upon', { why: checked.error.issues[0]?.message ?? 'the plan would not hold together' });
  refuseLockOut(access, plan, checked.data, await listPeople(tx, access.site.id));
  await tx
    .update(planSteps)
    .set({ state: direction === 'undo' ? 'undone' : 'done' })
    .where(inArray(planSteps.id, ids));
  await store(tx, access, plan, checked.data);
  for (const step of steps)
    await record(
      tx,
      access,
      direction === 'undo' ? 'took back' : 'made again',
      subjectOf(step.operation, direction === 'undo' ? plan : checked.data),
      { detail: operationInWords(inventory, step.operation, roleNames(plan)) },
    );
  return getPlanState(tx, access.site.id, viewer);
}

/** Drops what is prepared and not live, of some roles or of all; it can be undone. Runs in a transaction. */
export async function dropPrepared(
  tx: Tx,
  access: Access,
  revision: number,
  roles: readonly (string | null)[] | null,
): Promise<PlanState> {
  const prepared = await lockPlanAt(tx, access, revision);
  const live = await getLiveNow(tx, access);
  const next = roles === null ? live.plan : withRolesOf(prepared, live.plan, roles);
  return changePlan(tx, access, revision, [{ do: 'replace-plan', plan: next, why: 'drop' }]);
}

async function addRelease(
  tx: Tx,
  access: Pick<Access, 'site' | 'signedInId'>,
  plan: Plan,
  more: { note: string; returnsTo?: number },
): Promise<number> {
  const [last] = await tx
    .select({ number: releases.number })
    .from(releases)
    .where(eq(releases.siteId, access.site.id))
    .orderBy(desc(releases.number))
    .limit(1);
  const number = (last?.number ?? 0) + 1;
  const [release] = await tx
    .insert(releases)
    .values({
      siteId: access.site.id,
      number,
      plan,
      madeBy: access.signedInId,
      note: more.note,
      returnsTo: more.returnsTo ?? null,
    })
    .returning({ id: releases.id });
  await tx
    .update(sites)
    .set({ liveReleaseId: release?.id ?? null })
    .where(eq(sites.id, access.site.id));
  return number;
}

/** The plan in force as it is now that the plan is locked: somebody may have gone live since the request began. */
async function getLiveNow(tx: Tx, access: Access): Promise<{ releaseId: number | null; plan: Plan }> {
  const [site] = await tx.select().from(sites).where(eq(sites.id, access.site.id));
  if (!site) throw new Error(`there is no site ${access.site.id}`);
  return { releaseId: site.liveReleaseId, plan: await getLivePlan(tx, site) };
}

/**
 * Refuses a plan that somebody's hands are not clean for: who holds what it takes away, a time without anybody to look
 * after the website, more for anybody than whoever does this has.
 */
async function refuseRelease(tx: Tx, access: Access, before: Plan, after: Plan): Promise<void> {
  const everybody = await listPeople(tx, access.site.id);
  refuseHeld(after, everybody);
  refuseLockOut(access, before, after, everybody);
  const ground = await loadGround(tx, access.site.id);
  const gain = releaseBeyond(ground, before, after, everybody, access.who);
  if (gain)
    throw new Problem('release-gives-more', {
      person: gain.person.name,
      what: await beyondInWords(tx, { site: access.site, plan: after }, gain.beyond),
    });
  // A link not used yet was made for somebody who could do less.
  await endLinks(
    tx,
    everybody
      .filter((person) => growsBetween(ground, { plan: before, person }, { plan: after, person }))
      .map((person) => Number(person.id)),
  );
}

/**
 * The plan there would be if what is prepared of some roles went live; everything that is prepared where none are
 * named.
 */
export function planToBe(live: Plan, prepared: Plan, roles: readonly (string | null)[] | null): Plan {
  if (roles === null) return prepared;
  const checked = planSchema.safeParse(withRolesOf(live, prepared, roles));
  if (!checked.success) throw new Problem('needs-others', { why: checked.error.issues[0]?.message ?? '' });
  return checked.data;
}

/** Makes what is prepared the plan in force, all of it or some roles. Runs in a transaction. */
export async function goLive(
  tx: Tx,
  access: Access,
  revision: number,
  given: { note: string; roles: readonly (string | null)[] | null },
): Promise<{ number: number }> {
  const prepared = await lockPlanAt(tx, access, revision);
  const live = await getLiveNow(tx, access);
  const plan = planToBe(live.plan, prepared, given.roles);
  if (samePlan(inventory, plan, live.plan)) throw new Problem('nothing-waits');
  await refuseRelease(tx, access, live.plan, plan);
  const number = await addRelease(tx, access, plan, { note: given.note });
  const part =
    given.roles === null
      ? ''
      : `Only ${given.roles.map((id) => (id === null ? 'what is asked for before publishing' : (plan.roles.find((role) => role.id === id)?.name ?? id))).join(', ')}.`;
  await record(tx, access, 'made a plan go live', `Release ${number}`, {
    href: '/workshop/releases',
    detail: [given.note, part].filter(Boolean).join(' '),
  });
  return { number };
}

/**
 * Puts an earlier release in force again, as a new release; the prepared plan becomes the same, so that the next
 * release does not bring back what was just taken back. What was prepared and not live is put aside by that, and one
 * undo brings it back. Runs in a transaction.
 */
export async function returnToRelease(
  tx: Tx,
  access: Access,
  revision: number,
  to: number,
): Promise<{ number: number }> {
  const prepared = await lockPlanAt(tx, access, revision);
  const [release] = await tx
    .select()
    .from(releases)
    .where(and(eq(releases.siteId, access.site.id), eq(releases.number, to)));
  if (!release) throw new Problem('no-release', { number: to });
  const plan = readRelease(release);
  const live = await getLiveNow(tx, access);
  if (release.id === live.releaseId || samePlan(inventory, plan, live.plan))
    throw new Problem('release-in-force', { number: to });
  await refuseRelease(tx, access, live.plan, plan);
  const number = await addRelease(tx, access, plan, { note: `Back to release ${to}`, returnsTo: to });
  await tx.update(planSteps).set({ state: 'gone' }).where(eq(planSteps.siteId, access.site.id));
  if (!samePlan(inventory, prepared, live.plan))
    await tx
      .insert(planSteps)
      .values({
        siteId: access.site.id,
        operation: { do: 'replace-plan', plan, why: 'return' },
        before: patchOf(prepared, plan),
        after: patchOf(plan, prepared),
        madeBy: access.signedInId,
      });
  await store(tx, access, prepared, plan);
  await record(tx, access, 'went back', `to release ${to}`, {
    href: '/workshop/releases',
    detail: `It is in force as release ${number}.`,
  });
  return { number };
}
