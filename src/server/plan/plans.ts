import { and, desc, eq, ne } from 'drizzle-orm';
import {
  isOneThing,
  operationInWords,
  patchOf,
  planSchema,
  readOperation,
  readPatch,
  readPlan,
  roleNames,
  roleOf,
  samePlan,
  touchedBy,
  withPatch,
  type Plan,
} from '@/core/plan';
import type { HistoryEntry, PlanState } from '@/core/wire';
import type { Tx } from '../db/client';
import { people, plans, planSteps, releases, sites } from '../db/schema';
import type { Inventory } from '@/core/inventory';

/** Releases never change, so a plan once read can be kept for good. */
const known = new Map<number, Plan>();

/** The plan of a release. */
export function readRelease({ id, plan }: { id: number; plan: unknown }): Plan {
  const kept = known.get(id) ?? readPlan(plan);
  if (known.size > 200) known.clear();
  known.set(id, kept);
  return kept;
}

/** The plan in force. Throws when nothing ever went live: set-up makes release 1. */
export async function getLivePlan(tx: Tx, site: { id: number; liveReleaseId: number | null }): Promise<Plan> {
  const id = site.liveReleaseId ?? -1;
  const kept = known.get(id);
  if (kept) return kept;
  const [row] = await tx.select({ plan: releases.plan }).from(releases).where(eq(releases.id, id));
  if (!row) throw new Error(`site ${site.id} has no release in force`);
  return readRelease({ id, plan: row.plan });
}

export async function getPreparedPlan(tx: Tx, siteId: number): Promise<{ plan: Plan; revision: number }> {
  const [row] = await tx.select().from(plans).where(eq(plans.siteId, siteId));
  if (!row) throw new Error(`site ${siteId} has no prepared plan`);
  return { plan: readPlan(row.plan), revision: row.revision };
}

/** Of some steps those that were made with one of them: in one transaction, and so at one instant. */
export const pressOf = <S extends { madeBy: number | null; madeAt: Date }>(
  steps: readonly S[],
  one: S | undefined,
): S[] => steps.filter((step) => step.madeBy === one?.madeBy && step.madeAt.getTime() === one?.madeAt.getTime());

/** The prepared plan, with what somebody can undo and redo of a role; null for what concerns the plan as a whole. */
export async function getPlanState(
  tx: Tx,
  inventory: Inventory,
  siteId: number,
  viewer: { personId: number; role: string | null },
): Promise<PlanState> {
  const prepared = await getPreparedPlan(tx, siteId);
  const rows = await tx
    .select({ step: planSteps, by: people.name })
    .from(planSteps)
    .leftJoin(people, eq(people.id, planSteps.madeBy))
    .where(and(eq(planSteps.siteId, siteId), ne(planSteps.state, 'gone')))
    .orderBy(desc(planSteps.id))
    .limit(300);
  const steps = rows.map(({ step, by }) => ({ ...step, by, operation: readOperation(step.operation) }));
  const entry = (step: (typeof steps)[number]): HistoryEntry => ({
    id: step.id,
    words: operationInWords(inventory, step.operation, roleNames(prepared.plan)),
    role: roleOf(step.operation),
    by: step.by ?? 'Somebody',
    at: step.madeAt.toISOString(),
  });
  const isMine = (step: (typeof steps)[number]) =>
    step.madeBy === viewer.personId && roleOf(step.operation) === viewer.role;
  const done = steps.filter((step) => step.state === 'done');
  // What was changed with one press is taken back, and made again, with one.
  const undo = pressOf(done, done.find(isMine));
  const redo = pressOf(
    steps.filter((step) => step.state === 'undone'),
    steps.filter((step) => step.state === 'undone' && isMine(step)).at(-1),
  );
  const touches = (step: (typeof steps)[number]) => touchedBy(readPatch(step.before), readPatch(step.after));
  const touched = undo.flatMap(touches);
  const [last, first] = [undo[0], undo.at(-1)];
  const also = done
    .filter(
      (step) =>
        first &&
        step.id > first.id &&
        !undo.includes(step) &&
        touches(step).some((one) => touched.some((other) => isOneThing(one, other))),
    )
    .map(entry);
  const pressed = (press: typeof steps, shown: (typeof steps)[number]) => ({
    ...entry(shown),
    words:
      press.length === 1
        ? entry(shown).words
        : `${entry(press.at(-1) ?? shown).words}, and ${press.length - 1} more with it`,
  });
  return {
    ...prepared,
    undo: last ? { ...pressed(undo, last), also } : null,
    redo: redo[0] ? { ...pressed(redo, redo[0]), also: [] } : null,
    recent: done.slice(0, 50).map(entry),
  };
}

/** Who else prepared something that is not live, of some roles or of all, and how many changes. */
export async function preparedByOthers(
  tx: Tx,
  inventory: Inventory,
  site: { id: number; liveReleaseId: number | null },
  me: number,
  roles: readonly (string | null)[] | null,
): Promise<{ name: string; changes: number }[]> {
  const [live, { plan: prepared }] = [await getLivePlan(tx, site), await getPreparedPlan(tx, site.id)];
  const waiting = touchedBy(patchOf(prepared, live), patchOf(live, prepared));
  if (waiting.length === 0) return [];
  const rows = await tx
    .select({ step: planSteps, name: people.name })
    .from(planSteps)
    .innerJoin(people, eq(people.id, planSteps.madeBy))
    .where(and(eq(planSteps.siteId, site.id), eq(planSteps.state, 'done'), ne(planSteps.madeBy, me)))
    .orderBy(desc(planSteps.id))
    .limit(300);
  const counts = new Map<string, number>();
  for (const { step, name } of rows) {
    const [before, after] = [readPatch(step.before), readPatch(step.after)];
    const isAsked = roles === null || roles.includes(roleOf(readOperation(step.operation)));
    const isNear = touchedBy(before, after).some((one) => waiting.some((other) => isOneThing(one, other)));
    if (!isAsked || !isNear) continue;
    // What they did is so in the prepared plan, and not in the one in force.
    const isSo = (plan: Plan) => samePlan(inventory, withPatch(plan, after, before), plan);
    if (isSo(prepared) && !isSo(live)) counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return [...counts].map(([name, changes]) => ({ name, changes }));
}

export interface ReleaseEntry {
  number: number;
  id: number;
  by: string;
  at: Date;
  note: string;
  returnsTo: number | null;
  plan: Plan;
}
export async function listReleases(tx: Tx, siteId: number): Promise<ReleaseEntry[]> {
  const rows = await tx
    .select({ release: releases, by: people.name })
    .from(releases)
    .leftJoin(people, eq(people.id, releases.madeBy))
    .where(eq(releases.siteId, siteId))
    .orderBy(desc(releases.number))
    .limit(100);
  return rows.map(({ release, by }) => ({
    number: release.number,
    id: release.id,
    by: by ?? 'Set-up',
    at: release.madeAt,
    note: release.note,
    returnsTo: release.returnsTo,
    plan: readRelease(release),
  }));
}

/** The first plan of a site: prepared and in force. Runs in a transaction. */
export async function installPlan(tx: Tx, siteId: number, plan: Plan): Promise<void> {
  const checked = planSchema.parse(plan);
  await tx.insert(plans).values({ siteId, plan: checked, revision: 1 });
  const [release] = await tx
    .insert(releases)
    .values({ siteId, number: 1, plan: checked, note: 'As set up' })
    .returning({ id: releases.id });
  await tx
    .update(sites)
    .set({ liveReleaseId: release?.id ?? null })
    .where(eq(sites.id, siteId));
}
