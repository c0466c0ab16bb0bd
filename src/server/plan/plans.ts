import { desc, eq } from 'drizzle-orm';
import { operationInWords, planSchema, roleOf, type Plan } from '@/core/plan';
import { inventory } from '@/office';
import type { Tx } from '../db/client';
import { people, plans, planSteps, releases, sites } from '../db/schema';

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
