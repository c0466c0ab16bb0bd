import { closure } from '../../access';
import { freeId } from '../../ids';
import { canonical } from '../../json';
import type { Inventory } from '../../inventory';
import type { Spot, When } from '../../rules';
import { resolveTools, toolsOfSet, type ToolWorld } from '../../toolbar';
import type { OperationContext, OperationFault } from './part';
import { inOrder, type PlanToolRule, type PlanToolSet, type Toolbars } from './toolbarsForm';

const said = <T extends object>(value: T) =>
  Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined));

/** Whether a rule that changes tools holds exactly where another does. */
export const isJust = ({ when, then }: PlanToolRule, where: When): boolean =>
  !then.cap && canonical(said(when)) === canonical(said(where));

/** Whether it holds everywhere for a role alone. */
export const isGeneral = (rule: PlanToolRule, role: string): boolean => isJust(rule, { roles: [role] });

/** What toolbars are resolved by. `roles`: all of the plan. */
export const worldOfToolbars = (
  tools: Iterable<string>,
  { sets, rules }: Toolbars,
  roles: OperationContext['roles'],
): ToolWorld => {
  const byId = new Map(roles.map((role) => [role.id, role]));
  return {
    tools: [...tools],
    sets: new Map(sets.map((set) => [set.id, set])),
    rules,
    extended: new Map(
      roles.map(({ id }) => [id, new Set(closure({ roles: byId }, id).map((reached) => reached.role.id))]),
    ),
  };
};

/** Where and when only those rules hold that hold always. */
const NOWHERE: Spot = { path: [], layout: '', state: '', field: '', day: 0 };

/** The tools a role has wherever no rule says otherwise. */
export const toolsEverywhere = (
  tools: Iterable<string>,
  toolbars: Toolbars,
  roles: OperationContext['roles'],
  role: string,
): string[] => resolveTools(worldOfToolbars(tools, toolbars, roles), [role], NOWHERE).tools;

export interface ToolGiven {
  role: string;
  tool: string;
  on: boolean;
  /** Where, and on what spot it is seen whether they have it; everywhere when left out. */
  at?: { when: When; spot: Spot };
}

/** A set with a tool in it or not: what it says itself where its base says otherwise. */
export function setWithTool(
  { inventory }: { inventory: Pick<Inventory, 'tools'> },
  sets: readonly PlanToolSet[],
  set: PlanToolSet,
  tool: string,
  on: boolean,
): PlanToolSet {
  const fromBase = set.base !== undefined && toolsOfSet(new Map(sets.map((one) => [one.id, one])), set.base).has(tool);
  const without = (list: readonly string[]) => list.filter((one) => one !== tool);
  return {
    ...set,
    add: on && !fromBase ? inOrder(inventory, [...set.add, tool]) : without(set.add),
    take: !on && fromBase ? inOrder(inventory, [...set.take, tool]) : without(set.take),
  };
}

/**
 * Toolbars with a tool given to a role, or taken: in the set that it alone writes with there, or by a rule for just that
 * place. Where a rule for a narrower place says otherwise, it goes on doing so.
 */
export function withTool(
  { inventory, roles }: Pick<OperationContext, 'roles'> & { inventory: Pick<Inventory, 'tools'> },
  value: Toolbars,
  { role, tool, on, at }: ToolGiven,
): Toolbars | OperationFault {
  if (!inventory.tools.has(tool)) return 'no-such-thing';
  const theirs = roles.find((one) => one.id === role);
  if (!theirs) return 'no-role';
  if (theirs.archived) return 'archived';
  const when = at?.when ?? { roles: [role] };
  const has = ({ sets, rules }: Toolbars) =>
    resolveTools(
      worldOfToolbars([tool], { sets, rules: rules.filter((rule) => !rule.then.cap) }, roles),
      [role],
      at?.spot ?? NOWHERE,
    ).tools.length > 0;
  if (has(value) === on) return 'already-so';
  const without = (list: readonly string[]) => list.filter((one) => one !== tool);
  // What a rule for just that place says of the tool gives way; one that says nothing any more goes.
  const emptied = new Set<string>();
  const rules = value.rules.map((rule) => {
    const what = rule.then.add ? 'add' : 'take';
    const list = rule.then[what];
    if (!isJust(rule, when) || !list?.includes(tool)) return rule;
    const rest = without(list);
    if (rest.length === 0 && !rule.keep) emptied.add(rule.id);
    return { ...rule, then: { [what]: rest } };
  });
  let next: Toolbars = { ...value, rules: rules.filter((rule) => !emptied.has(rule.id)) };
  const main = next.rules.findLast((rule) => isJust(rule, when) && rule.then.use !== undefined);
  const set = next.sets.find((one) => one.id === main?.then.use);
  const isTheirs =
    set !== undefined &&
    !next.rules.some((rule) => rule !== main && rule.then.use === set.id) &&
    !next.sets.some((one) => one.base === set.id);
  if (has(next) !== on && isTheirs) {
    const changed = setWithTool({ inventory }, next.sets, set, tool, on);
    next = { ...next, sets: next.sets.map((one) => (one === set ? changed : one)) };
  }
  if (has(next) === on) return next;
  const what = on ? 'add' : 'take';
  const last = next.rules.findLast((rule) => isJust(rule, when));
  const given = last?.then[what];
  return {
    ...next,
    rules:
      last && given
        ? next.rules.map((rule) =>
            rule === last ? { ...rule, then: { [what]: inOrder(inventory, [...given, tool]) } } : rule,
          )
        : [...next.rules, { id: freeId(next.rules, `${role}-${what}`), when, then: { [what]: [tool] } }],
  };
}
