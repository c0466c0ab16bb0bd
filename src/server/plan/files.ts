import { bundleJsonSchema, PERMISSION_PATTERN } from '@/core/access';
import { canonical, faultsOf, inPlainWords, jsonPath, type Fault } from '@/core/json';
import {
  crossFaults,
  MATRIX_HEAD,
  matrixOf,
  openRoles,
  planJsonSchema,
  planSchema,
  readablePlanSchema,
  unknownIn,
  upgradedPlan,
  unknownInGrant,
  withMatrix,
  withPages,
  type Plan,
} from '@/core/plan';
import { differences, type RoleDifference } from '@/core/release';
import { listPages, type PageFacts } from '../tree/tree';
import { readCsv, writeCsv } from '../csv';
import type { Tx } from '../db/client';
import type { Site } from '../gate/access';
import { Problem } from '../gate/problems';
import { listPeople } from '../people/people';
import { getLivePlan, getPreparedPlan } from './plans';
import type { Inventory } from '@/core/inventory';
import { inventoryOf } from '@/office';

export const EXPORTS = ['json', 'csv', 'bundle', 'schema', 'bundle-schema'] as const;
export type ExportKind = (typeof EXPORTS)[number];

/** A plan as a file: the whole of it, its rules as a matrix, what `decide` reads, or the JSON Schema of the first. */
export async function exportPlan(
  tx: Tx,
  site: Site,
  as: ExportKind,
  live: boolean,
): Promise<{ name: string; type: string; text: string }> {
  const plan = live ? await getLivePlan(tx, site) : (await getPreparedPlan(tx, site.id)).plan;
  const json = (name: string, value: unknown) => ({
    name,
    type: 'application/json',
    text: `${JSON.stringify(value, null, 2)}\n`,
  });
  if (as === 'schema') return json('plan.schema.json', planJsonSchema());
  if (as === 'bundle-schema') return json('bundle.schema.json', bundleJsonSchema());
  const pages = await listPages(tx, site.id);
  const named = withPages(plan, pageInFile(pages));
  if (as === 'json') return json('plan.json', named);
  if (as === 'csv')
    return { name: 'plan.csv', type: 'text/csv', text: writeCsv([[...MATRIX_HEAD], ...matrixOf(named)]) };
  const people = await listPeople(tx, site.id);
  const instant = (ms: number | undefined) => (ms === undefined ? undefined : new Date(ms).toISOString());
  // The open form wants an author for every page: where none is known, somebody who holds nothing.
  const nobody = pages.some((p) => p.place.author === null) ? [{ id: 'nobody', assignments: [] }] : [];
  return json('bundle.json', {
    roles: openRoles(inventoryOf(site), plan),
    people: [
      ...nobody,
      ...people.map((p) => ({
        id: p.id,
        ...(p.suspended && { suspended: true }),
        assignments: p.assignments.map((a) => ({
          role: a.role,
          ...(a.branch !== undefined && { branch: a.branch }),
          ...(a.fromMs !== undefined && { from: instant(a.fromMs) }),
          ...(a.untilMs !== undefined && { until: instant(a.untilMs) }),
        })),
      })),
    ],
    pages: pages.map((p) => ({
      id: p.id,
      parent: p.parent,
      layout: p.place.layout,
      state: p.place.state,
      author: p.place.author ?? 'nobody',
    })),
    apart: plan.apart,
  });
}

/**
 * A page as files name it: by its address, which another website may have too; one too long for that, by its number.
 */
const pageInFile = (pages: readonly PageFacts[]) => (id: string) => {
  const address = pages.find((p) => p.id === id)?.address;
  return address !== undefined && address.length <= 400 ? address : id;
};
/** The number of a page a file names, by address or number; what is none is left as it stands. */
const pageFromFile = (pages: readonly PageFacts[]) => (name: string) =>
  name.startsWith('/') ? (pages.find((p) => p.address === name)?.id ?? name) : name;

/**
 * Reads a plan from JSON, or the rules of `current` anew from a CSV matrix. All faults at once, each with the path, or
 * the line, where it is.
 */
function readPlan(
  inventory: Inventory,
  text: string,
  current: Plan,
  pages: readonly PageFacts[],
): { ok: true; plan: Plan } | { ok: false; faults: Fault[] } {
  const page = pageFromFile(pages);
  const ids = new Set(pages.map((one) => one.id));
  if (!text.trimStart().startsWith('{')) {
    const rows = readCsv(text, MATRIX_HEAD, ['branch', 'own', 'layouts', 'states', 'only', 'fields']);
    const branchAt = MATRIX_HEAD.indexOf('branch');
    const read = withMatrix(
      current,
      rows.map(({ cells }) => cells.with(branchAt, page(cells[branchAt] ?? ''))),
    );
    const faults = read.ok ? [] : read.faults;
    rows.forEach(({ cells }, i) => {
      const [, permission = '', branch = '', , , layouts = '', , , fields = ''] = cells;
      const named = {
        permission: PERMISSION_PATTERN.test(permission) ? permission : '',
        scope: {
          ...(branch && { branch: page(branch) }),
          layouts: layouts.split(' ').filter(Boolean),
          fields: fields.split(' ').filter(Boolean),
        },
      };
      for (const { path, message } of unknownInGrant(inventory, named, ids))
        faults.push({ path: jsonPath([i, ...path.filter((one) => one !== 'scope')]), message });
    });
    return read.ok && faults.length === 0
      ? read
      : {
          ok: false,
          faults: faults.map((f) => ({
            ...f,
            path: f.path.replace(/^\$\[(\d+)\]\.?/, (_, i: string) => `line ${rows[Number(i)]?.line ?? '?'} `).trim(),
          })),
        };
  }
  let value: unknown;
  try {
    value = upgradedPlan(JSON.parse(text));
  } catch (error) {
    return { ok: false, faults: [{ path: '$', message: `not JSON: ${error instanceof Error ? error.message : ''}` }] };
  }
  const parsed = planSchema.safeParse(value, { error: inPlainWords });
  const readable = readablePlanSchema.parse(value);
  const here = parsed.success ? withPages(parsed.data, page) : undefined;
  const told = [...crossFaults(readable), ...unknownIn(inventory, withPages(readable, page), ids)];
  const all = [
    ...(parsed.success ? [] : faultsOf(parsed.error)),
    ...told.map(({ path, message }) => ({ path: jsonPath(path), message })),
  ];
  const faults = [...new Map(all.map((fault) => [`${fault.path} ${fault.message}`, fault])).values()];
  return here && faults.length === 0 ? { ok: true, plan: here } : { ok: false, faults };
}

/** What a file would make of the prepared plan. Changes nothing; throws the faults, each with its place. */
export async function previewPlan(
  tx: Tx,
  site: Site,
  text: string,
): Promise<{ plan: Plan; revision: number; differences: RoleDifference[] }> {
  const prepared = await getPreparedPlan(tx, site.id);
  const pages = await listPages(tx, site.id);
  const read = readPlan(inventoryOf(site), text, prepared.plan, pages);
  if (!read.ok)
    throw new Problem(
      'plan-file-faulty',
      { faults: read.faults.length === 1 ? 'there is a fault' : `there are ${read.faults.length} faults` },
      { faults: read.faults.slice(0, 200).map(({ path, message }) => ({ field: path, message })) },
    );
  const nameOf = (id: string) => pages.find((p) => p.id === id)?.liveTitle ?? 'a page that is gone';
  const told = differences(inventoryOf(site), prepared.plan, read.plan, nameOf);
  const people = await listPeople(tx, site.id);
  for (const difference of told) {
    const held = read.plan.roles.some((role) => role.id === difference.role)
      ? []
      : people.filter((p) => p.assignments.some((a) => a.role === difference.role));
    if (held.length > 0)
      difference.lines.push(
        `Still held by ${held
          .slice(0, 6)
          .map((p) => p.name)
          .join(
            ', ',
          )}${held.length > 6 ? ` and ${held.length - 6} more` : ''}: once this goes live it gives ${held.length === 1 ? 'this person' : 'them'} nothing.`,
      );
  }
  // Order and ids can differ where nothing anybody sees does.
  if (told.length === 0 && canonical(prepared.plan) !== canonical(read.plan))
    told.push({ role: '', name: 'The file', lines: ['It says the same in another order.'] });
  return { plan: read.plan, revision: prepared.revision, differences: told };
}
