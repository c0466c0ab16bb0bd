import { and, desc, eq, gt } from 'drizzle-orm';
import { among } from '../db/among';
import {
  applyOperation,
  isOneThing,
  operationInWords,
  patchOf,
  planSchema,
  readablePlanSchema,
  readOperation,
  readPatch,
  roleNames,
  roleOf,
  touchedBy,
  unknownIn,
  withPatch,
  withRolesOf,
  type Operation,
  type Plan,
} from '@/core/plan';
import { canonical } from '@/core/json';
import { changeInWords } from '@/core/release';
import type { PlanState } from '@/core/wire';
import { record } from '../activity/activity';
import { findPageNames } from '../tree/tree';
import type { Tx } from '../db/client';
import { planMarks, planSteps } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { listPeople } from '../people/people';
import { getPlanState, pressOf } from './plans';

import { getLiveNow, lockPlan, lockPlanAt, movedOn, refuseHeld, refuseLockOut, storePlan } from './prepared';
import type { Inventory } from '@/core/inventory';

/**
 * Refuses what was made on a plan in which the same thing has changed since. Changes to others are no hindrance, in the
 * same role either.
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
    marks.some((mark) => mark.touched.some((one) => touched.some((other) => isOneThing(one, other))))
  )
    throw await movedOn(tx, access, role);
}

const pageNamesOf = (names: ReadonlyMap<string, string>) => (id: string) => names.get(id) ?? 'a page that is gone';

/** What an operation is told to have changed. */
const subjectOf = (operation: Operation, plan: Plan): string =>
  plan.roles.find((role) => role.id === roleOf(operation))?.name ?? 'The whole plan';

/** What an undo cannot reach any more, because the same was changed since. */
const forgetUndone = async (tx: Tx, access: Access, touched: readonly string[]): Promise<void> => {
  const undone = await tx
    .select()
    .from(planSteps)
    .where(and(eq(planSteps.siteId, access.site.id), eq(planSteps.state, 'undone')));
  const gone = undone
    .filter((step) =>
      touchedBy(readPatch(step.before), readPatch(step.after)).some((one) =>
        touched.some((other) => isOneThing(one, other)),
      ),
    )
    .map((step) => step.id);
  if (gone.length > 0) await tx.update(planSteps).set({ state: 'gone' }).where(among(planSteps.id, gone));
};

/**
 * Refuses what would newly name something that is not there: such a plan could be written to a file, and not read again.
 * `known`: the plans whose names may stay, as of a page that is gone for good.
 */
function refuseUnknown(
  inventory: Inventory,
  known: readonly Plan[],
  after: Plan,
  pageNames: ReadonlyMap<string, string>,
): void {
  const pages = new Set(pageNames.keys());
  const unknown = (plan: Plan) =>
    unknownIn(inventory, readablePlanSchema.parse(plan), pages).map(({ message }) => message);
  const old = new Set(known.flatMap(unknown));
  const found = unknown(after).find((message) => !old.has(message));
  if (found !== undefined)
    throw new Problem('operation-impossible', { why: `${found.slice(0, 1).toUpperCase()}${found.slice(1)}.` });
}

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
  const pageNames = await findPageNames(tx, access.site.id);
  const pageName = pageNamesOf(pageNames);
  const lines: { operation: Operation; before: Plan; after: Plan }[] = [];
  for (const operation of operations) {
    const applied = applyOperation(access.inventory, plan, operation);
    if (!applied.ok) {
      // Somebody else may have done the same meanwhile, or made it impossible: then that is what there is to be told.
      if (locked.revision !== revision && applied.code === 'already-so') continue;
      if (locked.revision !== revision) throw await movedOn(tx, access, role);
      throw new Problem('operation-impossible', { why: applied.detail }, { operation: operation.do });
    }
    if (operation.do === 'archive-role' && operation.archived) refuseHeld(applied.plan, everybody);
    lines.push({ operation, before: plan, after: applied.plan });
    plan = applied.plan;
  }
  if (lines.length === 0)
    return getPlanState(tx, access.inventory, access.site.id, { personId: access.signedInId, role });
  // What is in force can be gone back to, whatever it names.
  refuseUnknown(access.inventory, [before, access.plan], plan, pageNames);
  const touched = touchedBy(patchOf(plan, before), patchOf(before, plan));
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
      detail: changeInWords(access.inventory, line.before, line.after, operation, pageName),
    });
  }
  await storePlan(tx, access, before, plan);
  return getPlanState(tx, access.inventory, access.site.id, { personId: access.signedInId, role });
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
  const state = await getPlanState(tx, access.inventory, access.site.id, viewer);
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
  const mine = await tx
    .select()
    .from(planSteps)
    .where(
      and(
        eq(planSteps.siteId, access.site.id),
        eq(planSteps.madeBy, access.signedInId),
        eq(planSteps.state, direction === 'undo' ? 'done' : 'undone'),
      ),
    );
  const press = pressOf(
    mine,
    mine.find((step) => step.id === entry.id),
  ).map((step) => step.id);
  const ids = direction === 'undo' ? [...entry.also.map((one) => one.id), ...press] : press;
  const rows = await tx.select().from(planSteps).where(among(planSteps.id, ids)).orderBy(desc(planSteps.id));
  const steps = rows.map((row) => ({ ...row, operation: readOperation(row.operation) }));
  if (direction === 'redo') steps.reverse();
  let next = plan;
  for (const step of steps) {
    const [before, after] = [readPatch(step.before), readPatch(step.after)];
    next = direction === 'undo' ? withPatch(next, before, after) : withPatch(next, after, before);
  }
  const checked = planSchema.safeParse(next);
  if (!checked.success)
    throw new Problem('built-upon', { why: checked.error.issues[0]?.message ?? 'the plan would not hold together' });
  refuseLockOut(access, plan, checked.data, await listPeople(tx, access.site.id));
  await tx
    .update(planSteps)
    .set({ state: direction === 'undo' ? 'undone' : 'done' })
    .where(among(planSteps.id, ids));
  await storePlan(tx, access, plan, checked.data);
  for (const step of steps)
    await record(
      tx,
      access,
      direction === 'undo' ? 'took back' : 'made again',
      subjectOf(step.operation, direction === 'undo' ? plan : checked.data),
      { detail: operationInWords(access.inventory, step.operation, roleNames(plan)) },
    );
  return getPlanState(tx, access.inventory, access.site.id, viewer);
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
