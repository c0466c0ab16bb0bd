import { toolName } from '../../inventory';
import { canonical } from '../../json';
import { toolRuleInWords, toolsOfSet } from '../../toolbar';
import type { Telling } from './part';
import { isOf } from './placeRules';
import { ruleNames, sayingOf, setsOf, type PlanToolRule, type PlanToolSet, type Toolbars } from './toolbarsForm';

const same = (a: unknown, b: unknown) => canonical(a) === canonical(b);

/** What differs in sets and rules, of those a role has for its own; of everybody's where none is asked for. */
export function toolbarDifferences(
  { inventory, of, role, page }: Telling,
  before: Toolbars,
  after: Toolbars,
): string[] {
  const [was, is] = [before, after].map((value) => ruleNames(inventory, value.sets, { role, page }));
  if (!was || !is) return [];
  const isAsked = (rule: PlanToolRule) => (of === null ? rule.when.roles === undefined : isOf(rule, of));
  const lines: string[] = [];
  const differs = (a: PlanToolSet | PlanToolRule, b: PlanToolSet | PlanToolRule) =>
    !same(sayingOf(inventory, a), sayingOf(inventory, b));
  for (const rule of after.rules) {
    const old = before.rules.find((one) => one.id === rule.id);
    // One that was this role's and is no longer is told of it, too.
    if (!isAsked(rule) && !(old && isAsked(old))) continue;
    if (!old) lines.push(`A rule for tools: ${toolRuleInWords(rule, is)}`);
    else if (differs(old, rule))
      lines.push(`A rule for tools was: ${toolRuleInWords(old, was)} Now: ${toolRuleInWords(rule, is)}`);
  }
  for (const old of before.rules)
    if (isAsked(old) && !after.rules.some((rule) => rule.id === old.id))
      lines.push(`No longer a rule for tools: ${toolRuleInWords(old, was)}`);
  // A set is told of whom it is used for; of everybody where that is nobody of one role.
  const usedBy = (value: Toolbars, set: string) =>
    value.rules.filter((rule) => rule.when.roles && setsOf(value, rule).includes(set));
  for (const id of new Set([...before.sets, ...after.sets].map((set) => set.id))) {
    const users = [before, after].flatMap((value) => usedBy(value, id));
    if (of === null ? users.length > 0 : !users.some((rule) => isOf(rule, of))) continue;
    const [a, b] = [before, after].map((value) => value.sets.find((set) => set.id === id));
    if (!a || !b) {
      const list = (set: PlanToolSet) =>
        [
          set.base !== undefined && `as “${(b ? is : was).set(set.base)}”`,
          ...set.add.map((tool) => `“${toolName(inventory, tool)}”`),
        ]
          .filter(Boolean)
          .join(', ') || 'nothing';
      if (b) lines.push(`A new set of tools, “${b.name}”: ${list(b)}.`);
      else if (a) lines.push(`The set of tools “${a.name}” is gone.`);
      continue;
    }
    if (!differs(a, b)) continue;
    const held = (value: Toolbars) => toolsOfSet(new Map(value.sets.map((set) => [set.id, set])), id);
    const [had, has] = [held(before), held(after)];
    const told = [
      ...[...has].filter((tool) => !had.has(tool)).map((tool) => `gains “${toolName(inventory, tool)}”`),
      ...[...had].filter((tool) => !has.has(tool)).map((tool) => `loses “${toolName(inventory, tool)}”`),
      ...(a.name === b.name ? [] : [`is called “${b.name}”`]),
      ...(same(a.groups ?? null, b.groups ?? null) ? [] : ['has its groups in another order']),
    ];
    lines.push(
      ...(told.length > 0 ? told : ['is put together otherwise, with the same tools']).map(
        (one) => `The set of tools “${a.name}” ${one}.`,
      ),
    );
  }
  const order = (value: Toolbars, other: Toolbars) =>
    value.rules.map(({ id }) => id).filter((id) => other.rules.some((rule) => rule.id === id));
  if (of === null && !same(order(before, after), order(after, before)))
    lines.push('The rules for tools stand in another order.');
  return lines;
}
