/** What comes again, and when the next time is. Days are those of the calendar, `2026-11-25`. */

/** How often a duty comes again. */
export const EVERY = ['week', 'month', 'quarter', 'year'] as const;
export type Every = (typeof EVERY)[number];
export const EVERY_WORDS: Record<Every, string> = {
  week: 'every week',
  month: 'every month',
  quarter: 'every three months',
  year: 'every year',
};

const DAY_MS = 86_400_000;
const MONTHS = { month: 1, quarter: 3, year: 12 } as const;

/** The last day of which the calendar here has a name (ISO 8601-1: years of four digits). */
const LAST_DAY = '9999-12-31';

/**
 * The day that lies some periods after a first one; null where that is past the year 9999. Months keep the day of the first; where one is too short it is its
 * last (like `java.time` and `Temporal`, which call it to constrain), so that the 31st of January is followed by the
 * 28th of February and then the 31st of March.
 */
export function dayAfter(first: string, every: Every, times: number): string | null {
  const [year = 0, month = 0, day = 0] = first.split('-').map(Number);
  const months = month - 1 + (every === 'week' ? 0 : MONTHS[every] * times);
  const last = new Date(Date.UTC(year, months + 1, 0)).getUTCDate();
  const at =
    every === 'week'
      ? Date.UTC(year, month - 1, day) + 7 * times * DAY_MS
      : Date.UTC(year, months, Math.min(day, last));
  return at > Date.parse(LAST_DAY) ? null : new Date(at).toISOString().slice(0, 10);
}

/**
 * When a duty that was first due on a day is due next after another day: times that were missed are not made up for.
 * Null where that is past the year 9999: then it does not come again.
 */
export function nextDue(first: string, every: Every, after: string): string | null {
  // At least as many whole periods have gone by; a year has 53 weeks at the most.
  const years = Math.max(0, Number(after.slice(0, 4)) - Number(first.slice(0, 4)) - 1);
  let times = 1 + (every === 'week' ? years * 52 : (years * 12) / MONTHS[every]);
  for (;;) {
    const day = dayAfter(first, every, times);
    if (day === null || day > after) return day;
    times++;
  }
}

/** How a duty stands on a day; one without a day is never late. */
export type DutyStanding = 'late' | 'today' | 'later';
export const dutyStanding = (due: string | null, today: string): DutyStanding =>
  due === null || due > today ? 'later' : due === today ? 'today' : 'late';
