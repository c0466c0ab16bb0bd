import { z } from 'zod';
import type { RuleCondition } from '../condition';

/** By their numbers of ISO 8601: Monday is 1. */
const DAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];
export const WEEKDAYS: readonly number[] = DAYS.map((_, i) => i + 1);
const name = (day: number) => DAYS[day - 1] ?? `day ${day}`;

/** It is one of these days of the week on the site's clock. */
export const onDays: RuleCondition<number[]> = {
  part: 'day',
  schema: z.array(z.int().min(1).max(7)),
  holds: (days, { day }) => days.includes(day),
  rank: () => 1,
  strength: () => true,
  canonical: (days) => [...new Set(days)].sort((a, b) => a - b),
  words: (days) => `on ${days.map(name).join(' or ')}`,
  names: () => [],
  keyOf: (all) => {
    const kinds = WEEKDAYS.map((day) => all.map((days) => Number(days.includes(day))).join(''));
    return ({ day }) => kinds[day - 1] ?? '';
  },
  others: ({ days }) => days.map((day) => ({ day })),
  asks: { label: 'On which days of the week', any: 'any day', rare: true, among: WEEKDAYS, name },
  samples: [[6], [1, 2, 3, 4, 5]],
};
