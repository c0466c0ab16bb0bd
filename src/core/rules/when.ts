import { z } from 'zod';
import type { KnownSpots, Name, PlaceNames, RuleCondition } from './condition';
import { CONDITIONS } from './conditions';
import type { Spot } from './spot';

export type ConditionId = keyof typeof CONDITIONS;

const IDS = Object.keys(CONDITIONS) as ConditionId[];
/** In the order in which somebody is asked and sentences have them: the place comes first, then the text in it. */
export const CONDITION_IDS: readonly ConditionId[] = [
  'branch',
  'layouts',
  ...IDS.filter((id) => id !== 'branch' && id !== 'layouts'),
];
/** As one that takes what a rule says of it: a rule's schema has seen to that. */
const conditionOf = (id: ConditionId) => CONDITIONS[id] as unknown as RuleCondition<unknown>;

const shapeOf = <T>(make: (schema: z.ZodType) => T) =>
  Object.fromEntries(IDS.map((id) => [id, make(conditionOf(id).schema)])) as Record<ConditionId, T>;
type Shape = { [Id in ConditionId]: z.ZodOptional<(typeof CONDITIONS)[Id]['schema']> };

/** Where a rule holds: everything that is named must hold together, what is left out holds always. */
export const whenSchema = z.strictObject({
  /** Any of these roles, or one that extends one of them. */
  roles: z.array(z.string().min(1)).optional(),
  ...(shapeOf((schema) => schema.optional()) as unknown as Shape),
});
export type When = z.infer<typeof whenSchema>;

/** Where a rule holds, as much of it as can be read. */
export const readableWhenShape = {
  roles: z.array(z.string()).optional().catch(undefined),
  ...(shapeOf((schema) => schema.optional().catch(undefined)) as unknown as {
    [Id in ConditionId]: z.ZodCatch<Shape[Id]>;
  }),
};

/** What a rule says, condition by condition, the strongest first. */
const saidIn = (when: When): { condition: RuleCondition<unknown>; id: ConditionId; said: unknown }[] =>
  IDS.flatMap((id) => (when[id] === undefined ? [] : [{ id, condition: conditionOf(id), said: when[id] }]));

/** Whether a rule holds on a spot, whoever it is for. */
export const holdsAt = (when: When, spot: Spot): boolean => {
  for (const id of IDS) if (when[id] !== undefined && !conditionOf(id).holds(when[id], spot)) return false;
  return true;
};

/** How strong what a rule says of a spot makes it there, condition by condition, to be compared from left to right. */
export const ranksAt = (when: When, spot: Spot): number[] =>
  IDS.map((id) => (when[id] === undefined ? 0 : conditionOf(id).rank(when[id], spot)));

/** What two rules that are as strong wherever both hold have alike. */
export const strengthOf = (when: When): unknown[] =>
  IDS.map((id) => (when[id] === undefined ? null : [conditionOf(id).strength(when[id])]));

/** The one form of all that say the same. */
export const canonicalWhen = (when: When): When => ({
  ...(when.roles && { roles: [...new Set(when.roles)].sort() }),
  ...(Object.fromEntries(saidIn(when).map(({ id, condition, said }) => [id, condition.canonical(said)])) as When),
});

/** The things a rule names, with their places in it. */
export const namesIn = (when: When): Name[] =>
  saidIn(when).flatMap(({ id, condition, said }) =>
    condition.names(said).map((name) => ({ ...name, at: [id, ...name.at] })),
  );

/** Where a rule holds, within a sentence: "on “News” and all below it, in “Text”". */
export function thereInWords(when: When, names: PlaceNames): string {
  const parts = CONDITION_IDS.flatMap((id) => (when[id] === undefined ? [] : [conditionOf(id).words(when[id], names)]));
  return parts.length === 0 ? 'everywhere' : parts.join(', ');
}
/** The same, beginning one. */
export function whereInWords(when: When, names: PlaceNames): string {
  const words = thereInWords(when, names);
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;
}

/** By the spot, what rules tell apart: on two with the same key the same rules hold, however they are ranked. */
export function keysOf(rules: readonly { when: When }[]): {
  path: (spot: Spot) => string;
  rest: (spot: Spot) => string;
} {
  const keys = IDS.map((id) =>
    conditionOf(id).keyOf(rules.flatMap(({ when }) => (when[id] === undefined ? [] : [when[id]]))),
  );
  const branchAt = IDS.indexOf('branch');
  const rest = keys.filter((_, i) => i !== branchAt);
  return { path: keys[branchAt] ?? (() => ''), rest: (spot) => rest.map((key) => key(spot)).join('|') };
}

/** Conditions that rules say something of and that tell spots apart which are one place, with the values there are. */
const apartBy = (rules: readonly { when: When }[], known: KnownSpots) =>
  IDS.filter((id) => rules.some(({ when }) => when[id] !== undefined)).flatMap((id) => {
    const condition = conditionOf(id);
    return condition.others ? [{ id, condition, values: condition.others(known) }] : [];
  });

/** A spot with every other value of its parts that rules tell apart. */
export function othersOf(
  rules: readonly { when: When }[],
  known: KnownSpots,
): (spot: Pick<Spot, 'path' | 'layout' | 'field'>) => Spot[] {
  const apart = apartBy(rules, known);
  const usual = { state: known.states[0] ?? '', day: known.days[0] ?? 1 };
  return (spot) =>
    apart.reduce<Spot[]>(
      (spots, { values }) => spots.flatMap((one) => values.map((value) => ({ ...one, ...value }))),
      [{ ...usual, ...spot }],
    );
}

/** What sets spots of some places apart from others there, as rules tell them apart: `{ days: [5] }`. */
export const apartOf = (rules: readonly { when: When }[], spots: readonly Spot[], known: KnownSpots): When =>
  Object.fromEntries(
    apartBy(rules, known).flatMap(({ id, condition: { part }, values }) => {
      const here = [...new Set(spots.map((spot) => spot[part]))];
      return here.length < values.length ? [[id, here]] : [];
    }),
  );
