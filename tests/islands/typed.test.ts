import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readTyped, type TypedIn } from '@/islands/kit/when/typed';
import { SCREEN_LANGUAGES, sayCalendarDay } from '@/core/words';

// 1 December 2026 is a Tuesday (ISO 8601 week 49).
const NOW = '2026-12-01T15:00';
const read = (text: string, more: Partial<TypedIn> = {}) =>
  readTyped(text, { kind: 'moment', language: 'en-GB', now: NOW, past: false, ...more });

describe('a day or an hour that is typed', () => {
  it.each([
    ['tomorrow 9', '2026-12-02T09:00'],
    ['tomorrow at 9:30', '2026-12-02T09:30'],
    ['Tomorrow', '2026-12-02T09:00'],
    ['today 18:00', '2026-12-01T18:00'],
    ['4 Dec', '2026-12-04T09:00'],
    ['4 December 2026, 09:30', '2026-12-04T09:30'],
    ['Dec 4 at 6pm', '2026-12-04T18:00'],
    ['fri 9:30', '2026-12-04T09:30'],
    ['next Monday', '2026-12-07T09:00'],
    ['in 2 hours', '2026-12-01T17:00'],
    ['31 jan', '2027-01-31T09:00'],
    ['4/12', '2026-12-04T09:00'],
    ['4.12.', '2026-12-04T09:00'],
    ['4/12/26 7:05', '2026-12-04T07:05'],
    ['1/11', '2027-11-01T09:00'],
    ['2026-12-04', '2026-12-04T09:00'],
    ['2026-12-04T23:15', '2026-12-04T23:15'],
    ['2026/12/04 23:15', '2026-12-04T23:15'],
  ])('“%s” is %s', (text, meant) => {
    expect(read(text)).toBe(meant);
    expect(read(`  ${text.replace(' ', '   ')} `)).toBe(meant);
    expect(read(text, { kind: 'day' })).toBe(meant.slice(0, 10));
  });

  it.each([
    ['en-US', '12/4', '2026-12-04T09:00'],
    ['en-US', '12/4/2026 18:30', '2026-12-04T18:30'],
    ['de', 'morgen 9', '2026-12-02T09:00'],
    ['de', '4. Dezember 18:30', '2026-12-04T18:30'],
    ['de', '4.12.2026 18:30', '2026-12-04T18:30'],
    ['fr', '4 décembre 2026', '2026-12-04T09:00'],
    ['nl', 'morgen', '2026-12-02T09:00'],
    ['nl', 'tomorrow 10', '2026-12-02T10:00'],
    ['nb', '4.12.', '2026-12-04T09:00'],
    ['pl', '4.12.2026', '2026-12-04T09:00'],
    ['he', '4.12.2026', '2026-12-04T09:00'],
  ])('in %s “%s” is %s', (language, text, meant) => expect(read(text, { language })).toBe(meant));

  it.each([
    '',
    'soon',
    'late boat tomorrow',
    'tomorrow and Friday',
    '32/12',
    '31/11/2026',
    '4/13',
    'tomorrow 25',
    '9:75',
    '2026-02-30',
    '4 Dec to 6 Dec',
    '12345',
    '1e9',
  ])('“%s” is none', (text) => expect(read(text)).toBeUndefined());

  it('may lie behind where that is so', () => {
    expect(read('1/11', { kind: 'day', past: true })).toBe('2026-11-01');
    expect(read('24 nov', { kind: 'day', past: true })).toBe('2026-11-24');
    expect(read('yesterday', { kind: 'day', past: true })).toBe('2026-11-30');
  });

  it('is read as it is said, in every language whose words are known', () => {
    const days = fc.date({ min: new Date('2026-12-02'), max: new Date('2040-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(days, fc.constantFrom('en-GB', 'en-US', 'de', 'fr', 'nl'), (date, language) => {
        const day = date.toISOString().slice(0, 10);
        expect(read(sayCalendarDay(day, language), { language, kind: 'day' })).toBe(day);
      }),
      { seed: 20261201, numRuns: 400 },
    );
  });

  it('in numbers of every language is what that language means by them', () => {
    const days = fc.date({ min: new Date('2026-12-02'), max: new Date('2040-12-31'), noInvalidDate: true });
    fc.assert(
      fc.property(days, fc.constantFrom(...SCREEN_LANGUAGES), (date, language) => {
        const day = date.toISOString().slice(0, 10);
        const numbers = new Intl.DateTimeFormat(`${language}-u-ca-gregory-nu-latn`, {
          timeZone: 'UTC',
          year: 'numeric',
          month: '2-digit',
          day: '2-digit',
        }).format(date);
        // Marks of direction are not typed.
        expect(read(numbers.replaceAll(/[\u200e\u200f]/g, ''), { language, kind: 'day' }), numbers).toBe(day);
      }),
      { seed: 20261201, numRuns: 400 },
    );
  });
});
