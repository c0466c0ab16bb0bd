import type { Fault } from '@/core/access';
import { bundleJsonSchema, faultsOf, jsonPath } from '@/core/access';
import { canonical } from '@/core/json';
import { MATRIX_HEAD, matrixOf, openRoles, planJsonSchema, planSchema, withMatrix, type Plan } from '@/core/plan';
import { differences, type RoleDifference } from '@/core/release';
import { inventory } from '@/office';
import { listPages, type PageFacts } from '../content/tree';
import { readCsv, writeCsv } from '../csv';
import type { Tx } from '../db/client';
import type { Site } from '../gate/access';
import { Problem } from '../gate/problems';
import { listPeople } from '../people/people';
import { getLivePlan, getPreparedPlan } from './plans';

export const EXPORTS = ['json', 'csv', 'bundle', 'schema', 'bundle-schema'] as const;
export type ExportKind = (typeof EXPORTS)[number];

/** A plan as a file: the whole of it, its rules as a matrix, what `decide` reads, or the JSON Schema of the first. */
export async function exportPlan(tx: Tx, site: Site, as: ExportKind, live: boolean): Promise<{ name: string; type: string; text: string }> {
  const plan = live ? await getLivePlan(tx, site) : (await getPreparedPlan(tx, site.id)).plan;
  const json = (name: string, value: unknown) => ({ name, type: 'application/json', text: `${JSON.stringify(value, null, 2)}\n` });
  if (as === 'schema') return json('plan.schema.json', planJsonSchema());
  if (as === 'bundle-schema') return json('bundle.schema.json', bundleJsonSchema());
  if (as === 'json') return json('plan.json', plan);
  if (as === 'csv') return { name: 'plan.csv', type: 'text/csv', text: writeCsv([[...MATRIX_HEAD], ...matrixOf(plan)]) };
  const people = await listPeople(tx, site.id);
  const pages = await listPages(tx, site.id);
  const instant = (ms: number | undefined) => (ms === undefined ? undefined : new Date(ms).toISOString());
  // The open form wants an author for every page: where none is known, somebody who holds nothing.
  const nobody = pages.some((p) => p.place.author === null) ? [{ id: 'nobody', assignments: [] }] : [];
  return json('bundle.json', {
    roles: openRoles(inventory, plan),
    people: [...nobody, ...people.map((p) => ({ id: p.id, ...(p.suspended && { suspended: true }), assignments: p.assignments.map((a) => ({ role: a.role, ...(a.branch !== undefined && { branch: a.branch }), ...(a.fromMs !== undefined && { from: instant(a.fromMs) }), ...(a.untilMs !== undefined && { until: instant(a.untilMs) }) })) }))],
    pages: pages.map((p) => ({ id: p.id, parent: p.parent, layout: p.place.layout, state: p.place.state, author: p.place.author ?? 'nobody' })),
    apart: plan.apart,
  });
}

/** What a plan names that this website does not have. */
function unknownIn(plan: Plan, pages: readonly PageFacts[]): Fault[] {
  const faults: Fault[] = [];
  plan.roles.forEach((role, i) => {
    const fault = (path: PropertyKey[], message: string) => faults.push({ path: jsonPath(['roles', i, ...path]), message });
    role.grants.forEach((g, k) => {
      const [object = '', verb] = g.permission.split('.');
      const isKnown = g.permission === '*' || (verb === '*' ? inventory.sectionOfObject.has(object) : inventory.permissions.has(g.permission as never));
      if (!isKnown) fault(['grants', k, 'permission'], `the back office knows no permission "${g.permission}"`);
      if (g.scope.branch !== undefined && !pages.some((p) => p.id === g.scope.branch)) fault(['grants', k, 'scope', 'branch'], `there is no page "${g.scope.branch}" on this website`);
      g.scope.layouts?.forEach((layout, l) => { if (!inventory.layouts.has(layout)) fault(['grants', k, 'scope', 'layouts', l], `there is no layout "${layout}"`); });
    });
    role.tasks.forEach((t, k) => { if (!inventory.tasks.has(t.task)) fault(['tasks', k, 'task'], `the back office knows no task "${t.task}"`); });
    role.doors.forEach((d, k) => { if (!inventory.doors.some((s) => s.id === d.section)) fault(['doors', k, 'section'], `the back office has no section "${d.section}"`); });
    role.toolbar.tools.forEach((t, k) => { if (!inventory.tools.has(t)) fault(['toolbar', 'tools', k], `the back office has no tool "${t}"`); });
    role.dashboard.columns.forEach((column, c) => column.forEach((w, k) => { if (!inventory.widgets.has(w)) fault(['dashboard', 'columns', c, k], `the back office has no widget "${w}"`); }));
  });
  return faults;
}

/** Reads a plan from JSON, or the rules of `current` anew from a CSV matrix. Faults carry the path, or the line, where they are. */
function readPlan(text: string, current: Plan, pages: readonly PageFacts[]): { ok: true; plan: Plan } | { ok: false; faults: Fault[] } {
  if (!text.trimStart().startsWith('{')) {
    const rows = readCsv(text, MATRIX_HEAD, ['branch', 'own', 'layouts', 'states']);
    const read = withMatrix(current, rows.map((row) => row.cells));
    if (!read.ok) return { ok: false, faults: read.faults.map((f) => ({ ...f, path: f.path.replace(/^\$\[(\d+)\]\.?/, (_, i: string) => `line ${rows[Number(i)]?.line ?? '?'} `).trim() })) };
    const unknown = unknownIn(read.plan, pages);
    return unknown.length > 0 ? { ok: false, faults: unknown } : read;
  }
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { ok: false, faults: [{ path: '$', message: `not JSON: ${error instanceof Error ? error.message : ''}` }] };
  }
  const parsed = planSchema.safeParse(value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const unknown = unknownIn(parsed.data, pages);
  return unknown.length > 0 ? { ok: false, faults: unknown } : { ok: true, plan: parsed.data };
}

/** What a file would make of the prepared plan. Changes nothing; throws the faults, each with its place. */
export async function previewPlan(tx: Tx, site: Site, text: string): Promise<{ plan: Plan; revision: number; differences: RoleDifference[] }> {
  const prepared = await getPreparedPlan(tx, site.id);
  const pages = await listPages(tx, site.id);
  const read = readPlan(text, prepared.plan, pages);
  if (!read.ok) throw new Problem('bad-input', `The file cannot be used as it is: ${read.faults.length === 1 ? 'there is a fault' : `there are ${read.faults.length} faults`} in it.`, { faults: read.faults.slice(0, 200).map(({ path, message }) => ({ field: path, message })) });
  const nameOf = (id: string) => pages.find((p) => p.id === id)?.liveTitle ?? 'a page that is gone';
  const told = differences(inventory, prepared.plan, read.plan, nameOf);
  // Order and ids can differ where nothing anybody sees does.
  if (told.length === 0 && canonical(prepared.plan) !== canonical(read.plan)) told.push({ role: '', name: 'The file', lines: ['It says the same in another order.'] });
  return { plan: read.plan, revision: prepared.revision, differences: told };
}
