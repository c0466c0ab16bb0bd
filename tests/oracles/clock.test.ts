import { Temporal } from '@js-temporal/polyfill';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fieldTime, isDay, isMoment } from '@/core/words';
import { findDayStart, findInstant } from '@/server/clock';

const SEED = 20261125;
const ZONES = [
  'Europe/London',
  'America/New_York',
  'Australia/Lord_Howe',
  'Asia/Kathmandu',
  'UTC',
  'America/Sao_Paulo',
];
const pad = (n: number, width = 2) => String(n).padStart(width, '0');
const moments = fc
  .record({
    y: fc.integer({ min: 1990, max: 2037 }),
    mo: fc.integer({ min: 1, max: 12 }),
    d: fc.integer({ min: 1, max: 28 }),
    h: fc.integer({ min: 0, max: 23 }),
    mi: fc.integer({ min: 0, max: 59 }),
  })
  .map(({ y, mo, d, h, mi }) => `${pad(y, 4)}-${pad(mo)}-${pad(d)}T${pad(h)}:${pad(mi)}`);

/**
 * Oracle: the Temporal proposal's reference polyfill; its "compatible" reading of hours that are skipped or repeated is
 * that of RFC 5545.
 */
const wanted = (local: string, zone: string) =>
  Temporal.PlainDateTime.from(local).toZonedDateTime(zone, { disambiguation: 'compatible' }).epochMilliseconds;

describe('hours on the site’s clock', () => {
  it(`are the instants the Temporal polyfill gives, in ${ZONES.length} zones (seed ${SEED})`, () => {
    fc.assert(
      fc.property(moments, fc.constantFrom(...ZONES), (local, zone) => {
        expect(findInstant(local, zone)?.getTime(), `${local} in ${zone}`).toBe(wanted(local, zone));
      }),
      { seed: SEED, numRuns: 1500 },
    );
  });
  // The two nights of the year, quarter by quarter: 29 March and 25 October 2026 in London, the half-hour change of
  // Lord Howe.
  it.each([
    ['Europe/London', '2026-03-29'],
    ['Europe/London', '2026-10-25'],
    ['America/New_York', '2026-03-08'],
    ['America/New_York', '2026-11-01'],
    ['Australia/Lord_Howe', '2026-04-05'],
    ['Australia/Lord_Howe', '2026-10-04'],
  ])('in %s on %s', (zone, day) => {
    for (let quarter = 0; quarter < 96; quarter++) {
      const local = `${day}T${pad(Math.floor(quarter / 4))}:${pad((quarter % 4) * 15)}`;
      expect(findInstant(local, zone)?.getTime(), local).toBe(wanted(local, zone));
    }
    expect(findDayStart(day, zone)?.getTime()).toBe(wanted(`${day}T00:00`, zone));
    expect(findDayStart(day, zone, 1)?.getTime()).toBe(
      Temporal.PlainDate.from(day).add({ days: 1 }).toZonedDateTime(zone).epochMilliseconds,
    );
  });
  it(`come back as they were typed, but where the clocks skip them (seed ${SEED})`, () => {
    fc.assert(
      fc.property(moments, fc.constantFrom(...ZONES), (local, zone) => {
        const instant = findInstant(local, zone);
        if (!instant) throw new Error(local);
        const told = Temporal.Instant.fromEpochMilliseconds(instant.getTime())
          .toZonedDateTimeISO(zone)
          .toPlainDateTime()
          .toString({ smallestUnit: 'minute' });
        expect(fieldTime(instant, zone)).toBe(told);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
  it(`are told from what is no day or hour as the polyfill tells them (seed ${SEED})`, () => {
    const texts = fc.oneof(
      moments,
      fc.stringMatching(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/),
      fc.constantFrom(
        '2026-02-29T00:00',
        '2028-02-29T00:00',
        '2026-13-01T00:00',
        '2026-00-10T00:00',
        '2026-01-01T24:00',
        '2026-1-1T1:00',
        '',
      ),
    );
    const parses = (read: () => unknown) => {
      try {
        read();
        return true;
      } catch {
        return false;
      }
    };
    fc.assert(
      fc.property(texts, (text) => {
        expect(isMoment(text), text).toBe(
          /^\d{4}-\d\d-\d\dT\d\d:\d\d$/.test(text) &&
            parses(() => Temporal.PlainDateTime.from(text, { overflow: 'reject' })),
        );
        expect(isDay(text.slice(0, 10)), text).toBe(
          /^\d{4}-\d\d-\d\d$/.test(text.slice(0, 10)) &&
            parses(() => Temporal.PlainDate.from(text.slice(0, 10), { overflow: 'reject' })),
        );
      }),
      { seed: SEED, numRuns: 1500 },
    );
  });
});
