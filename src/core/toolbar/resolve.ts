import { holdsAt, holdsFor, keptBySpot, rankedRules, type Spot } from '../rules';
import { POLICIES, usualPolicy, type ConstructPolicy } from './policy';
import type { ToolRule, ToolSet } from './schema';

/** What a rule did: for which role (a cap is for the person), and with which tools. */
export interface ToolStep {
  rule: string;
  role: string | null;
  did: 'use' | 'add' | 'take' | 'cap';
  tools: string[];
}

/** A tool that is missing, and the nearest rule that took it or would give it; null where no rule speaks of it. */
export interface MissingTool {
  tool: string;
  rule: string | null;
  why: 'taken' | 'capped' | 'replaced' | 'elsewhere' | 'nowhere';
}

export interface ToolsAnswer {
  tools: string[];
  steps: ToolStep[];
  missing: MissingTool[];
  /** What the rules say becomes of constructs; the others are as is usual. */
  keep: Readonly<Record<string, ConstructPolicy>>;
}

/** What toolbars are resolved by. */
export interface ToolWorld {
  /** Every tool, in the order toolbars have them. */
  tools: readonly string[];
  sets: ReadonlyMap<string, ToolSet>;
  rules: readonly ToolRule[];
  /** Role → itself and every role it extends, by any way. */
  extended: ReadonlyMap<string, ReadonlySet<string>>;
}

/** The tools of a set, with those of its base; a base that runs in a circle ends there. */
export function toolsOfSet(sets: ReadonlyMap<string, ToolSet>, id: string): Set<string> {
  const chain: ToolSet[] = [];
  for (
    let set = sets.get(id);
    set && !chain.includes(set);
    set = set.base === undefined ? undefined : sets.get(set.base)
  )
    chain.unshift(set);
  const tools = new Set<string>();
  for (const set of chain) {
    for (const tool of set.take) tools.delete(tool);
    for (const tool of set.add) tools.add(tool);
  }
  return tools;
}

/**
 * The tools of whoever has these roles on a spot, and why. For each role the rules that hold are applied from the
 * weakest to the strongest, beginning with no tools; a person has the union; last, every cap that holds for any of the
 * roles cuts it down. What becomes of constructs is said, for each role, by the strongest rule that speaks of it; of
 * several roles that speak the freest counts.
 */
export function resolveTools(world: ToolWorld, roles: readonly string[], spot: Spot): ToolsAnswer {
  const steps: ToolStep[] = [];
  const had = new Set<string>();
  const keep: Record<string, ConstructPolicy> = {};
  const extendedOf = (role: string) => world.extended.get(role) ?? new Set([role]);
  for (const role of new Set(roles)) {
    let tools = new Set<string>();
    const ranked = rankedRules(world.rules, role, extendedOf(role), spot);
    const said: typeof keep = {};
    for (const rule of ranked) Object.assign(said, rule.keep);
    for (const [construct, policy] of Object.entries(said)) keep[construct] = freer(policy, keep[construct]);
    for (const { id, then } of ranked) {
      if (then.cap) continue;
      const step = (did: ToolStep['did'], list: Iterable<string>) =>
        void steps.push({ rule: id, role, did, tools: [...list] });
      if (then.use !== undefined) {
        tools = toolsOfSet(world.sets, then.use);
        step('use', tools);
      } else if (then.add) {
        for (const tool of then.add) tools.add(tool);
        step('add', then.add);
      } else {
        for (const tool of then.take ?? []) tools.delete(tool);
        step('take', then.take ?? []);
      }
    }
    for (const tool of tools) had.add(tool);
  }
  for (const { id, when, then } of world.rules) {
    const { cap } = then;
    if (!cap || !holdsAt(when, spot) || !roles.some((role) => holdsFor(when, extendedOf(role)))) continue;
    const cut = [...had].filter((tool) => !cap.includes(tool));
    for (const tool of cut) had.delete(tool);
    steps.push({ rule: id, role: null, did: 'cap', tools: cut });
  }
  const tools = world.tools.filter((tool) => had.has(tool));
  return { tools, steps, missing: missingOf(world, had, steps), keep };
}

const freer = (a: ConstructPolicy, b: ConstructPolicy | undefined): ConstructPolicy =>
  b !== undefined && POLICIES.indexOf(b) > POLICIES.indexOf(a) ? b : a;

/** Of what rules say of constructs in two cases the stricter; where one says nothing, it is as usual. */
const stricter = (
  a: Readonly<Record<string, ConstructPolicy>>,
  b: Readonly<Record<string, ConstructPolicy>>,
): Record<string, ConstructPolicy> =>
  Object.fromEntries(
    Object.keys({ ...a, ...b }).map((construct) => {
      const said = [a, b].map((keep) => keep[construct] ?? usualPolicy(construct));
      return [construct, POLICIES.find((policy) => said.includes(policy)) ?? 'free'];
    }),
  );

/**
 * What somebody writes with in a text that becomes a draft by the first letter: the tools that it has as it stands and
 * as a draft.
 */
export function asWritten(now: ToolsAnswer, draft: ToolsAnswer): ToolsAnswer {
  if (now === draft) return now;
  return {
    ...now,
    tools: now.tools.filter((tool) => draft.tools.includes(tool)),
    missing: [...now.missing, ...draft.missing.filter(({ tool }) => now.tools.includes(tool))],
    keep: stricter(now.keep, draft.keep),
  };
}

/** `resolveTools` for a world that is asked often. */
export const toolsIn = (world: ToolWorld): ((roles: readonly string[], spot: Spot) => ToolsAnswer) =>
  keptBySpot(world.rules, (roles, spot) => resolveTools(world, roles, spot));

/** Why each tool that is missing is: what took it last, or the rule that would give it. */
function missingOf(world: ToolWorld, had: ReadonlySet<string>, steps: readonly ToolStep[]): MissingTool[] {
  const gives = ({ then }: ToolRule, tool: string) =>
    then.use === undefined ? (then.add?.includes(tool) ?? false) : toolsOfSet(world.sets, then.use).has(tool);
  return world.tools
    .filter((tool) => !had.has(tool))
    .map((tool): MissingTool => {
      const capped = steps.find((step) => step.did === 'cap' && step.tools.includes(tool));
      if (capped) return { tool, rule: capped.rule, why: 'capped' };
      // The last that took it, or a set without it that came after something had given it.
      let given = false;
      let last: MissingTool | undefined;
      for (const step of steps) {
        if (step.did === 'take' && step.tools.includes(tool)) last = { tool, rule: step.rule, why: 'taken' };
        else if (step.did === 'use' && !step.tools.includes(tool) && given)
          last = { tool, rule: step.rule, why: 'replaced' };
        if ((step.did === 'use' || step.did === 'add') && step.tools.includes(tool)) given = true;
      }
      if (last) return last;
      const elsewhere = world.rules.findLast((rule) => gives(rule, tool));
      return { tool, rule: elsewhere?.id ?? null, why: elsewhere ? 'elsewhere' : 'nowhere' };
    });
}
