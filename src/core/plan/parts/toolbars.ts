import { z } from 'zod';
import { toolName, writtenForms, type Inventory } from '../../inventory';
import { canonical } from '../../json';
import { toolRuleInWords } from '../../toolbar';
import {
  isForAny,
  isOf,
  rolesGone,
  rulesCopied,
  rulesOnPages,
  rulesTaking,
  unknownAmong,
  unknownInWhen,
} from './placeRules';
import { moved, operationsOn, role, type PlanPart, type PartFault, type WholePart } from './part';
import { isGeneral, toolsEverywhere, withTool } from './toolGiven';
import {
  planRuleSchema,
  planSetSchema,
  readable,
  ruleNames,
  sayingOf,
  schema,
  setsOf,
  type PlanToolRule,
  type PlanToolSet,
  type Readable,
  type Toolbars,
} from './toolbarsForm';
import { toolbarDifferences } from './toolbarsTold';

const EFFECTS = ['add', 'take', 'cap'] as const;
const put = <T extends { id: string }>(list: readonly T[], one: T): T[] =>
  list.some((old) => old.id === one.id) ? list.map((old) => (old.id === one.id ? one : old)) : [...list, one];
const on = operationsOn<Toolbars>();
const named = (inventory: Inventory, rule: PlanToolRule, role: (id: string) => string) =>
  toolRuleInWords(rule, ruleNames(inventory, [], { role, page: () => 'one page' }));

/** Named sets of tools, and the rules that say who writes with which where. */
export const toolbars = {
  schema,
  empty: { sets: [], rules: [] } as Toolbars,
  operations: [
    on(
      'set-tool',
      { role, tool: z.string(), on: z.boolean() },
      {
        apply: (doing, value, op) => withTool(doing, value, op),
        say: (inventory, op) => `${op.on ? 'Give' : 'Take away'} tool “${toolName(inventory, op.tool)}”`,
      },
    ),
    on(
      'put-tool-set',
      { role, set: planSetSchema },
      {
        apply: (_, value, op) => ({ ...value, sets: put(value.sets, op.set) }),
        say: (_, op) => `Tools of the set “${op.set.name}”`,
      },
    ),
    on(
      'remove-tool-set',
      { role, set: z.string() },
      {
        apply(_, value, op) {
          const sets = value.sets.filter((set) => set.id !== op.set);
          return sets.length === value.sets.length ? 'no-such-thing' : { ...value, sets };
        },
        say: (_, op) => `Do away with the set “${op.set}”`,
      },
    ),
    on(
      'put-tool-rule',
      { role, rule: planRuleSchema },
      {
        apply: (_, value, op) => ({ ...value, rules: put(value.rules, op.rule) }),
        say: (inventory, op, role) => `Rule for tools: ${named(inventory, op.rule, role)}`,
      },
    ),
    on(
      'remove-tool-rule',
      { role, rule: z.string() },
      {
        apply(_, value, op) {
          const rules = value.rules.filter((rule) => rule.id !== op.rule);
          return rules.length === value.rules.length ? 'no-such-thing' : { ...value, rules };
        },
        say: () => 'Do away with a rule for tools',
      },
    ),
    on(
      'move-tool-rule',
      { role, rule: z.string(), to: z.int().min(0) },
      {
        apply(_, value, op) {
          const rule = value.rules.find((one) => one.id === op.rule);
          if (!rule) return 'no-such-thing';
          return { ...value, rules: moved(value.rules, rule, op.to) };
        },
        say: () => 'Rules for tools in another order',
      },
    ),
  ],
  canonical: (inventory, { sets, rules }) => ({
    sets: sets.map((set) => sayingOf(inventory, set)).sort((a, b) => (canonical(a) < canonical(b) ? -1 : 1)),
    rules: rules.map((rule) => sayingOf(inventory, rule)),
  }),
  differences: toolbarDifferences,
  taking(value, from, ids) {
    const taken = from.rules.filter((rule) => isForAny(rule, ids));
    const rules = rulesTaking(value.rules, from.rules, ids);
    const asFrom = new Set(taken.flatMap((rule) => setsOf(from, rule)));
    if (ids.includes(null))
      for (const set of from.sets)
        if (!from.rules.some((rule) => rule.when.roles && setsOf(from, rule).includes(set.id))) {
          asFrom.add(set.id);
          for (let { base } = set; base !== undefined && !asFrom.has(base);) {
            asFrom.add(base);
            base = from.sets.find((one) => one.id === base)?.base;
          }
        }
    const sets = [...value.sets.filter((set) => !asFrom.has(set.id)), ...from.sets.filter((set) => asFrom.has(set.id))];
    // What neither uses any more goes with the last rule that did.
    const used = new Set(rules.flatMap((rule) => setsOf({ sets }, rule)));
    const isGone = (set: PlanToolSet) => !used.has(set.id) && !from.sets.some((one) => one.id === set.id);
    const based = (set: PlanToolSet) => sets.some((one) => one.base === set.id && !isGone(one));
    return { sets: sets.filter((set) => !isGone(set) || based(set)), rules };
  },
  entries: {
    of: ({ sets, rules }) =>
      new Map<string, unknown>([
        ...sets.map((set) => [`set ${set.id}`, set] as const),
        ...rules.map((rule) => [`rule ${rule.id}`, rule] as const),
      ]),
    from: (entries) => {
      const of = <T>(kind: string) => [...entries].flatMap(([key, one]) => (key.startsWith(kind) ? [one as T] : []));
      return { sets: of<PlanToolSet>('set '), rules: of<PlanToolRule>('rule ') };
    },
  },
  copyRole: (value, from, to) => ({ ...value, rules: rulesCopied(value.rules, from, to) }),
  rowsOf: {
    name: 'Tools for texts',
    of(inventory, value, role, names) {
      const told = ruleNames(inventory, value.sets, names);
      const theirs = value.rules.filter((rule) => isOf(rule, role));
      const general = toolsEverywhere(inventory.tools.keys(), value, names.roles, role);
      return [
        ...[...inventory.tools.values()].map(({ id, name }): [string, string] => [
          name,
          general.includes(id) ? 'yes' : '',
        ]),
        [
          'In some places only',
          theirs
            .filter((rule) => !isGeneral(rule, role))
            .map((rule) => toolRuleInWords({ ...rule, when: { ...rule.when, roles: [role] } }, told))
            .join(' '),
        ],
      ];
    },
  },
  cross(value, roles) {
    const faults: PartFault[] = [];
    const sets = new Map(value.sets.map((set) => [set.id, set]));
    value.sets.forEach((set, i) => {
      if (set.base !== undefined && !sets.has(set.base))
        faults.push({ path: ['sets', i, 'base'], message: `no set "${set.base}"` });
      const seen = new Set([set.id]);
      for (let { base } = set; base !== undefined; base = sets.get(base)?.base) {
        if (seen.has(base)) {
          faults.push({ path: ['sets', i, 'base'], message: 'a set cannot be its own base, by whatever way' });
          break;
        }
        seen.add(base);
      }
    });
    value.rules.forEach(({ then }, i) => {
      if (then.use !== undefined && !sets.has(then.use))
        faults.push({ path: ['rules', i, 'then', 'use'], message: `no set "${then.use}"` });
    });
    faults.push(...rolesGone(value.rules, roles, ['rules']));
    return faults;
  },
  readable,
  twice: ({ sets, rules }) => [
    ...sets.map(({ id }) => id && `set ${id}`),
    ...rules.map(({ id }) => id && `rule ${id}`),
  ],
  unknown(inventory, { sets, rules }, pages) {
    const forms = writtenForms(inventory);
    const known = {
      layouts: new Set(forms.map(({ layout }) => layout.id)),
      fields: new Set(forms.flatMap(({ layout }) => layout.fields.map(({ id }) => id))),
      fieldsAre: 'field',
      pages,
    };
    const tools = (list: readonly string[] | undefined, path: (string | number)[]) =>
      unknownAmong(new Set(inventory.tools.keys()), 'tool', list, path);
    return [
      ...sets.flatMap(({ add, take }, i) => [...tools(add, ['sets', i, 'add']), ...tools(take, ['sets', i, 'take'])]),
      ...rules.flatMap(({ when, then }, i) => [
        ...EFFECTS.flatMap((what) => tools(then[what], ['rules', i, 'then', what])),
        ...unknownInWhen(when, known, ['rules', i, 'when']),
      ]),
    ];
  },
  withPages: <V extends Toolbars | Readable>(value: V, call: (page: string) => string): V => ({
    ...value,
    rules: rulesOnPages(value.rules, call),
  }),
} satisfies PlanPart<Toolbars, Readable> & WholePart<Toolbars>;
