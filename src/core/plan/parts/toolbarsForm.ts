import { z } from 'zod';
import { planIdSchema } from '../../ids';
import { TOOL_GROUP_IDS, toolName, type Inventory, type Tool } from '../../inventory';
import { canonicalWhen } from '../../rules';
import { keepSchema, toolRuleSchema, toolSetSchema, type RuleNames, type ToolsAnswer } from '../../toolbar';
import { placeNames, readableWhen } from './placeRules';
import { readableMany, readableObject, readableText, wordsSchema, type Telling } from './part';

export const planSetSchema = toolSetSchema.extend({
  id: planIdSchema,
  name: wordsSchema(80),
  base: planIdSchema.optional(),
  /** The groups of tools in their order, as its base has them when left out; the others follow. */
  groups: z.array(z.enum(TOOL_GROUP_IDS)).optional(),
});
export const planRuleSchema = toolRuleSchema.extend({ id: planIdSchema, keep: keepSchema.optional() });
export const schema = z.strictObject({ sets: z.array(planSetSchema), rules: z.array(planRuleSchema).max(500) });
export type PlanToolSet = z.infer<typeof planSetSchema>;
export type PlanToolRule = z.infer<typeof planRuleSchema>;
export type Toolbars = z.infer<typeof schema>;

const words = z.array(z.string()).optional().catch(undefined);
export const readable = readableObject({
  sets: readableMany(
    readableObject({
      id: readableText,
      base: z.string().optional().catch(undefined),
      add: readableMany(readableText),
      take: readableMany(readableText),
    }),
  ),
  rules: readableMany(
    readableObject({
      id: readableText,
      when: readableWhen,
      then: readableObject({ use: z.string().optional().catch(undefined), add: words, take: words, cap: words }),
    }),
  ),
});
export type Readable = z.infer<typeof readable>;

/** Tools in the order of the inventory, each once. */
export const inOrder = (inventory: Pick<Inventory, 'tools'>, list: readonly string[]) => {
  const at = [...inventory.tools.keys()];
  return [...new Set(list)].sort((a, b) => at.indexOf(a) - at.indexOf(b));
};

/** How the sentences of rules call things. */
export function ruleNames(
  inventory: Inventory,
  sets: readonly PlanToolSet[],
  telling: Pick<Telling, 'role' | 'page'>,
): RuleNames {
  return {
    ...placeNames(inventory, telling),
    tool: (id) => toolName(inventory, id),
    set: (id) => sets.find((set) => set.id === id)?.name ?? id,
  };
}

/** A set or a rule as it is compared: what it says, in the one form of all that say the same. */
export function sayingOf(inventory: Inventory, one: PlanToolSet | PlanToolRule): unknown {
  if ('name' in one) return { ...one, add: inOrder(inventory, one.add), take: inOrder(inventory, one.take) };
  return {
    id: one.id,
    when: canonicalWhen(one.when),
    then: Object.fromEntries(
      Object.entries(one.then).map(([what, value]) => [what, Array.isArray(value) ? inOrder(inventory, value) : value]),
    ),
    keep: one.keep && Object.keys(one.keep).length > 0 ? one.keep : undefined,
  };
}

/** The groups of tools in the order a set has them, or the nearest of its bases that says; none where none does. */
export function groupsOf({ sets }: Pick<Toolbars, 'sets'>, set: string): readonly Tool['group'][] {
  for (const id of setAndBases(sets, set)) {
    const groups = sets.find((one) => one.id === id)?.groups;
    if (groups) return groups;
  }
  return [];
}

/** The same for a toolbar: as the set has them that the first of the roles writes with at last. */
export function groupsIn({ sets, rules }: Toolbars, { steps }: ToolsAnswer): readonly Tool['group'][] {
  const uses = steps.filter(({ did }) => did === 'use');
  const last = uses.findLast(({ role }) => role === uses[0]?.role)?.rule;
  const set = rules.find(({ id }) => id === last)?.then.use;
  return set === undefined ? [] : groupsOf({ sets }, set);
}

/** A set and the bases it is put together from, the nearest first; a circle ends where it closes. */
function setAndBases(sets: Toolbars['sets'], set: string | undefined): string[] {
  const out: string[] = [];
  for (let id = set; id !== undefined && !out.includes(id); id = sets.find((one) => one.id === id)?.base) out.push(id);
  return out;
}

/** The sets a rule's tools come from: its own and the bases of that. */
export const setsOf = ({ sets }: Pick<Toolbars, 'sets'>, rule: PlanToolRule): string[] =>
  setAndBases(sets, rule.then.use);
