import { Temporal } from '@js-temporal/polyfill';
import { describe, expect, it } from 'vitest';
import { dayAfter, EVERY, nextDue, dutyStanding } from '@/core/duties';
import { randomFrom } from '../oracles/worlds';

/** What `Temporal` (ECMA-262 proposal, the polyfill of its champions) makes of the same. */
const PERIOD = { week: { weeks: 1 }, month: { months: 1 }, quarter: { months: 3 }, year: { years: 1 } } as const;
const byTemporal = (first: string, every: (typeof EVERY)[number], times: number) => {
  const [[unit, n]] = Object.entries(PERIOD[every]) as [[string, number]];
  return Temporal.PlainDate.from(first)
    .add({ [unit]: n * times })
    .toString();
};

describe('a duty that comes again', () => {
  it('is due on the days of the calendar that Temporal counts, over ten years of random ones (seed 20261128)', () => {
    const { below, oneOf } = randomFrom(20261128);
    for (let i = 0; i < 3000; i++) {
      const first = Temporal.PlainDate.from('2024-01-01')
        .add({ days: below(3650) })
        .toString();
      const [every, times] = [oneOf(EVERY), below(60)];
      expect(dayAfter(first, every, times), `${first} ${every} ${times}`).toBe(byTemporal(first, every, times));
    }
  });
  it('comes on the last day of a month that is too short, and on its own day again after it', () => {
    expect([1, 2, 3].map((n) => dayAfter('2027-01-31', 'month', n))).toEqual([
      '2027-02-28',
      '2027-03-31',
      '2027-04-30',
    ]);
    expect([1, 4].map((n) => dayAfter('2028-02-29', 'year', n))).toEqual(['2029-02-28', '2032-02-29']);
  });
  it('is next due after the day it was done, however many times were missed (random, seed 7)', () => {
    const { below, oneOf } = randomFrom(7);
    for (let i = 0; i < 1000; i++) {
      const first = Temporal.PlainDate.from('2025-01-01')
        .add({ days: below(800) })
        .toString();
      const after = Temporal.PlainDate.from(first)
        .add({ days: below(1500) })
        .toString();
      const every = oneOf(EVERY);
      const next = nextDue(first, every, after);
      let times = 1;
      while (byTemporal(first, every, times) <= after) times++;
      expect(next, `${first} ${every} ${after}`).toBe(byTemporal(first, every, times));
    }
  });
  it('stands late, for today or later, and without a day is never late', () => {
    const stands = (due: string | null) => dutyStanding(due, '2026-12-28');
    expect(['2026-12-27', '2026-12-28', '2026-12-29', null].map(stands)).toEqual(['late', 'today', 'later', 'later']);
  });
});
