import { canonical } from '../json';
import { closenessOf, holdsAt, holdsFor, othersOf, strengthOf, type KnownSpots, type Spot } from '../rules';
import { toolsIn, type ToolWorld } from './resolve';
import type { ToolRule } from './schema';

/** What is worth a word about the rules of a role. */
export type ToolFinding =
  /** Taking it away would change nothing anywhere, for any of the roles it is for. */
  | { kind: 'shadowed'; rule: string }
  /** Both are as strong on this spot, and what stands further down decides. */
  | { kind: 'tie'; rules: [string, string]; spot: Spot }
  /** The role writes there, and no rule says with what. */
  | { kind: 'gap'; spots: Spot[] }
  /** It holds on layouts where none of its roles writes; `writes`: those where one does. */
  | { kind: 'broad'; rule: string; holds: string[]; writes: string[] }
  /** Nobody holds a role it is for. */
  | { kind: 'unheld'; rule: string }
  /** No rule uses it, nor a set that one uses. */
  | { kind: 'unused'; set: string }
  /** A task of the role takes tools that some of the places where it writes lack, out of `of`. */
  | { kind: 'lacking'; task: string; tool: string; spots: Spot[]; of: number };

export interface FindingsInput {
  world: ToolWorld;
  /** One for all on which the same rules hold: `spotsThatDiffer`. */
  spots: readonly Spot[];
  role: string;
  writes: (role: string, spot: Spot) => boolean;
  /** Roles that somebody holds. */
  held: ReadonlySet<string>;
  /** Tools that each task of the role takes. */
  tasks: readonly { task: string; tools: readonly string[] }[];
}

const keyOf = (list: readonly string[]) => list.join(' ');

/**
 * Spots of which every other one is like one: the same rules hold on it, however they are ranked. `branches`: pages that
 * make a difference for something else. States and days only where a rule names some.
 */
export function spotsThatDiffer(
  rules: readonly ToolRule[],
  forms: readonly { layout: string; fields: readonly string[] }[],
  paths: readonly (readonly string[])[],
  known: KnownSpots,
  branches: Iterable<string> = [],
): Spot[] {
  const named = new Set([...rules.flatMap(({ when }) => when.branch ?? []), ...branches]);
  const chains = new Map<string, readonly string[]>();
  for (const path of paths) {
    const last = path.at(-1) ?? '';
    const key = `${keyOf(path.filter((page) => named.has(page)))}${named.has(last) ? ' alone' : ''}`;
    if (!chains.has(key)) chains.set(key, path);
  }
  const others = othersOf(rules, known);
  return [...chains.values()].flatMap((path) =>
    forms.flatMap(({ layout, fields }) => fields.flatMap((field) => others({ path, layout, field }))),
  );
}

/** Everything that is worth a word about the rules that are for a role, exactly: over all spots that differ. */
export function toolFindings(input: FindingsInput): ToolFinding[] {
  const { world, spots, role, writes, held, tasks } = input;
  const extendedOf = (id: string) => world.extended.get(id) ?? new Set([id]);
  const resolve = toolsIn(world);
  const theirs = world.rules.filter((rule) => holdsFor(rule.when, extendedOf(role)));
  const isFor = (rule: ToolRule) => [...world.extended.keys()].filter((id) => holdsFor(rule.when, extendedOf(id)));
  const says = (ask: typeof resolve, id: string, spot: Spot) => {
    const { tools, keep } = ask([id], spot);
    return canonical([tools, keep]);
  };
  /** The first spot on which some role has other tools in another world. */
  const differsOn = (other: ToolWorld, ids: readonly string[], on: readonly Spot[]): Spot | undefined => {
    const changed = toolsIn(other);
    return on.find((spot) => ids.some((id) => says(resolve, id, spot) !== says(changed, id, spot)));
  };
  const findings: ToolFinding[] = [];

  for (const rule of theirs) {
    const on = spots.filter((spot) => holdsAt(rule.when, spot));
    const ids = isFor(rule);
    const own = rule.when.roles?.includes(role) ?? false;
    if (!differsOn({ ...world, rules: world.rules.filter((one) => one !== rule) }, ids, on))
      findings.push({ kind: 'shadowed', rule: rule.id });
    if (own && rule.when.roles && !rule.when.roles.some((named) => [...held].some((id) => extendedOf(id).has(named))))
      findings.push({ kind: 'unheld', rule: rule.id });
    if (!rule.when.layouts && rule.when.branch === undefined) continue;
    const layoutsOf = (list: readonly Spot[]) => [...new Set(list.map((spot) => spot.layout))];
    const written = layoutsOf(on.filter((spot) => ids.some((id) => writes(id, spot))));
    const holds = layoutsOf(on);
    if (rule.when.layouts ? written.length < rule.when.layouts.length : written.length === 0)
      findings.push({ kind: 'broad', rule: rule.id, holds: rule.when.layouts ?? holds, writes: written });
  }

  theirs.forEach((a, i) => {
    for (const b of theirs.slice(i + 1)) {
      if (a.then.cap || b.then.cap || !isAsStrong(a, b, role)) continue;
      // Tools put to or taken from the set that stands above them are meant so.
      if (a.then.use !== undefined && b.then.use === undefined) continue;
      const on = spots.filter((spot) => holdsAt(a.when, spot) && holdsAt(b.when, spot));
      const swapped = world.rules.map((rule) => (rule === a ? b : rule === b ? a : rule));
      const spot = differsOn({ ...world, rules: swapped }, [role], on);
      if (spot) findings.push({ kind: 'tie', rules: [a.id, b.id], spot });
    }
  });

  const written = spots.filter((spot) => writes(role, spot));
  const without = written.filter((spot) => !theirs.some((rule) => !rule.then.cap && holdsAt(rule.when, spot)));
  if (without.length > 0) findings.push({ kind: 'gap', spots: without });

  for (const { task, tools } of tasks)
    for (const tool of tools) {
      const lacking = written.filter((spot) => !resolve([role], spot).tools.includes(tool));
      if (lacking.length > 0) findings.push({ kind: 'lacking', task, tool, spots: lacking, of: written.length });
    }

  const used = new Set<string>();
  for (const { then } of world.rules)
    for (let id = then.use; id !== undefined && !used.has(id); id = world.sets.get(id)?.base) used.add(id);
  for (const id of world.sets.keys()) if (!used.has(id)) findings.push({ kind: 'unused', set: id });
  return findings;
}

/** Whether two rules are as strong for a role wherever both hold. */
function isAsStrong(a: ToolRule, b: ToolRule, role: string): boolean {
  const shape = ({ when }: ToolRule) => [strengthOf(when), closenessOf(when, role)];
  return canonical(shape(a)) === canonical(shape(b));
}
