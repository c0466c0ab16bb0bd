import { z } from 'zod';
import { sameJson } from '../../json';
import { startSchema, type Preference, type StartPreferences } from '../../own';
import { operationsOn, type PlanPart, type WholePart } from './part';

type Value = StartPreferences | undefined;
const USUAL: StartPreferences = { start: {}, fixed: [] };
/** How everybody begins to read the back office, and what of it stays so. */
export const startPreferences = (plan: { reading?: Value }): StartPreferences => plan.reading ?? USUAL;

const NAMES: Record<Preference, string> = {
  text: 'Size of letters',
  density: 'How close things stand',
  palette: 'Colours',
  motion: 'Movement',
  bar: 'The line on the website, above a page',
  dates: 'Dates',
};
export const preferenceName = (id: Preference): string => NAMES[id];
const on = operationsOn<Value>();

/** What the administrator starts everybody with: how the back office is read. */
export const reading = {
  /** As `startPreferences` says when left out. */
  schema: startSchema.optional(),
  empty: undefined as Value,
  operations: [
    on(
      'set-reading',
      { reading: startSchema },
      {
        apply: (_, _value, op) => (sameJson(op.reading, USUAL) ? undefined : op.reading),
        say: () => 'How everybody begins to read the back office',
      },
    ),
  ],
  canonical: (_, value) => value ?? USUAL,
  differences({ of }, before = USUAL, after = USUAL) {
    if (of !== null) return [];
    return (Object.keys(NAMES) as Preference[]).flatMap((id) => [
      ...(before.start[id] === after.start[id]
        ? []
        : [
            `${NAMES[id]}: everybody begins with ${after.start[id] === undefined ? 'the usual' : `“${after.start[id]}”`}.`,
          ]),
      ...(before.fixed.includes(id) === after.fixed.includes(id)
        ? []
        : [
            after.fixed.includes(id)
              ? `${NAMES[id]}: nobody can choose their own any more.`
              : `${NAMES[id]}: everybody can choose their own.`,
          ]),
    ]);
  },
  taking: (value, from, ids) => (ids.includes(null) ? from : value),
  readable: z.unknown().optional(),
  twice: () => [],
  unknown: () => [],
} satisfies PlanPart<Value, unknown> & WholePart<Value>;
