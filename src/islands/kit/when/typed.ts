import * as chrono from 'chrono-node';
import { isDay, isMoment } from '@/core/words';

/** A day (`2026-12-04`), or an hour of one (`2026-12-04T09:30`). */
export type WhenKind = 'day' | 'moment';

export interface TypedIn {
  kind: WhenKind;
  /** The language of dates: numbers stand in its order. */
  language: string;
  /** Now on the site's clock, `2026-12-01T15:00`. */
  now: string;
  /** Whether a day named without its year may lie behind. */
  past: boolean;
}

const READERS: Readonly<Record<string, Pick<chrono.Chrono, 'parse'>>> = {
  'en-GB': chrono.en.GB,
  'en-US': chrono.en.casual,
  de: chrono.de.casual,
  fr: chrono.fr.casual,
  nl: chrono.nl.casual,
};
/** The hour meant where a day is named and no hour. */
const USUAL_HOUR = 9;
const two = (n: number) => String(n).padStart(2, '0');

/**
 * What somebody means who types a day or an hour: in numbers in the order of their language, or in its words or English
 * ones ("tomorrow 9", "4 Dec", "next Monday 18:30"); undefined where that is not certain, down to the last word.
 */
export function readTyped(typed: string, asked: TypedIn): string | undefined {
  const text = typed.trim().replaceAll(/\s+/g, ' ');
  if (isDay(text)) return asked.kind === 'day' ? text : `${text}T${two(USUAL_HOUR)}:00`;
  if (isMoment(text)) return asked.kind === 'day' ? text.slice(0, 10) : text;
  // What is written in numbers is no word, also where there is no such day.
  const numbers = NUMBERS.exec(text);
  return numbers ? inNumbers(numbers, asked) : inWords(text, asked);
}

const inKind = (day: string, hour: number, minute: number, kind: WhenKind): string | undefined => {
  const moment = `${day}T${two(hour)}:${two(minute)}`;
  return isMoment(moment) ? (kind === 'day' ? day : moment) : undefined;
};

const NUMBERS = /^(\d{1,4})[./ -](\d{1,2})(?:[./ -](\d{2,4}))?\.?(?:,? (\d{1,2})(?:[:.](\d\d))?)?$/;
/** "4.12.", "4/12/2026 9:30", "12/4" in the order the language has. */
function inNumbers(found: RegExpExecArray, { kind, language, now, past }: TypedIn): string | undefined {
  const [, one = '', other = '', third, hour, minute] = found;
  const order = new Intl.DateTimeFormat(`${language}-u-ca-gregory-nu-latn`, { dateStyle: 'short' })
    .formatToParts(0)
    .flatMap(({ type }) => (type === 'day' || type === 'month' ? [type] : []));
  if (one.length > 2 && third === undefined) return undefined;
  const [year, first, second] = one.length === 4 && third !== undefined ? [one, other, third] : [third, one, other];
  const isDayFirst = one.length !== 4 && order[0] === 'day';
  const [day, month] = (isDayFirst ? [first, second] : [second, first]).map(Number);
  const full = year === undefined ? undefined : Number(year.length === 2 ? `20${year}` : year);
  const on = (of: number) => `${String(of).padStart(4, '0')}-${two(month ?? 0)}-${two(day ?? 0)}`;
  const thisYear = Number(now.slice(0, 4));
  const chosen = on(full ?? (past || on(thisYear) >= now.slice(0, 10) ? thisYear : thisYear + 1));
  return inKind(chosen, hour === undefined ? USUAL_HOUR : Number(hour), Number(minute ?? 0), kind);
}

function inWords(text: string, { kind, language, now, past }: TypedIn): string | undefined {
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0] = now.split(/\D/).map(Number);
  const from = new Date(year, month - 1, day, hour, minute);
  for (const reader of new Set([READERS[language] ?? chrono.en.GB, chrono.en.GB])) {
    const [found, ...others] = reader.parse(text, from, { forwardDate: !past });
    if (!found || others.length > 0 || found.index !== 0 || found.end) continue;
    // "tomorrow 9": what is left can be the hour.
    const rest = /^(?:,? (\d{1,2})(?:[:.](\d\d))?)?$/.exec(text.slice(found.text.length));
    if (!rest) continue;
    const [, left, leftMinute] = rest;
    const of = (part: 'year' | 'month' | 'day' | 'hour' | 'minute') => found.start.get(part) ?? 0;
    const on = `${String(of('year')).padStart(4, '0')}-${two(of('month'))}-${two(of('day'))}`;
    if (left !== undefined) return inKind(on, Number(left), Number(leftMinute ?? 0), kind);
    return found.start.isCertain('hour') || found.start.isCertain('meridiem')
      ? inKind(on, of('hour'), of('minute'), kind)
      : inKind(on, USUAL_HOUR, 0, kind);
  }
  return undefined;
}
