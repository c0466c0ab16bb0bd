/**
 * Dates and times as people say them, on the site's own clock and in a language. Pure: "now" is given. Their words and
 * order are those of the Unicode CLDR, as `Intl` has them (ECMA-402).
 */

/** How dates are told to somebody. */
export interface Calendar {
  /** The clock, by its IANA name: `Europe/London`. */
  timeZone: string;
  /** The language of dates, by its tag (BCP 47); order of names in lists goes by it, too. */
  language: string;
}

const USUAL = 'en-GB';
/** Languages screens tell dates in: those that browsers know, too, whose scripts tell them again. */
export const SCREEN_LANGUAGES = ['en-GB', 'en-US', 'nl', 'fr', 'de', 'nb', 'pl', 'ar', 'he'] as const;
/**
 * Languages the website tells dates in, each with the Gregorian calendar and digits from 0 to 9: those and Welsh and
 * Scottish Gaelic, of which Chromium's part of the CLDR has no dates (seen; ECMA-402 leaves it to the maker).
 */
const DATE_LANGUAGES = [...SCREEN_LANGUAGES, 'cy', 'gd'] as const;
type DateLanguage = (typeof DATE_LANGUAGES)[number];

/** The language dates are told in where a website or a page has some language: "en" tells them the British way. */
export const dateLanguageOf = (language: string | undefined): DateLanguage =>
  DATE_LANGUAGES.find((one) => one === language) ?? USUAL;
/** The same for a screen of the back office. */
export const screenLanguageOf = (language: string | undefined): DateLanguage =>
  SCREEN_LANGUAGES.find((one) => one === language) ?? USUAL;

/** Without what a language would bring along: other calendars and digits. */
const locale = (language: string) => `${language}-u-ca-gregory-nu-latn`;

/** What was made stays: making a formatter costs a hundred times what using it costs. */
function kept<T>(make: (language: string, options: object) => T): (language: string, options: object) => T {
  const made = new Map<string, T>();
  return (language, options) => {
    const key = `${language} ${JSON.stringify(options)}`;
    let found = made.get(key);
    if (!found) made.set(key, (found = make(locale(language), options)));
    return found;
  };
}
const formatter = kept((tag, options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(tag, options));
const relative = kept((tag, options: Intl.RelativeTimeFormatOptions) => new Intl.RelativeTimeFormat(tag, options));
const quantity = kept((tag, options: Intl.NumberFormatOptions) => new Intl.NumberFormat(tag, options));
const collator = kept((tag, options: Intl.CollatorOptions) => new Intl.Collator(tag, options));

/** The order of two names in lists, as a language has it: small and capital letters side by side, numbers by size. */
export const byName = (a: string, b: string, language: string): number =>
  collator(language, { numeric: true, sensitivity: 'variant' }).compare(a, b);

/** The calendar day on the site's clock, `2026-11-25`. */
export const dayKey = (date: Date, timeZone: string): string => formatter('en-CA', { timeZone }).format(date);
/** The hour and minute on the site's clock, `09:30`. */
const clock = (date: Date, timeZone: string) =>
  formatter('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(date);
/** "Mon" for a day `2026-11-23`. */
export const sayWeekday = (day: string, language: string): string =>
  formatter(language, { weekday: 'short', timeZone: 'UTC' }).format(new Date(`${day}T12:00:00Z`));
/** Whether there is a clock of that name. */
export function isTimeZone(name: string): boolean {
  try {
    formatter('en-CA', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}
/** The day of the week on the site's clock, by its number of ISO 8601: Monday is 1, Sunday 7. */
export const weekdayOf = (date: Date, timeZone: string): number =>
  new Date(`${dayKey(date, timeZone)}T12:00:00Z`).getUTCDay() || 7;
/** The hour of the day on the site's clock, 0 to 23. */
export const hourOf = (date: Date, timeZone: string): number => Number(clock(date, timeZone).slice(0, 2));

/** "12 November", with the year when it is another one. */
export function sayDay(date: Date, { timeZone, language }: Calendar, now: Date): string {
  const sameYear = dayKey(date, timeZone).slice(0, 4) === dayKey(now, timeZone).slice(0, 4);
  const year = sameYear ? {} : { year: 'numeric' };
  return formatter(language, { timeZone, day: 'numeric', month: 'long', ...year }).format(date);
}

/** "today 09:30", "yesterday 17:05", "tomorrow 07:00", else "12 November, 09:30". */
export function sayTime(date: Date, calendar: Calendar, now: Date): string {
  const { timeZone, language } = calendar;
  const key = dayKey(date, timeZone);
  const near = [0, -1, 1].find((days) => key === dayKey(new Date(now.getTime() + days * 86_400_000), timeZone));
  return near === undefined
    ? `${sayDay(date, calendar, now)}, ${clock(date, timeZone)}`
    : `${relative(language, { numeric: 'auto' }).format(near, 'day')} ${clock(date, timeZone)}`;
}

/** "25 November 2026, 09:30": for what is read on another day than it was written. */
export const sayFullTime = (date: Date, { timeZone, language }: Calendar): string =>
  `${formatter(language, { timeZone, day: 'numeric', month: 'long', year: 'numeric' }).format(date)}, ${clock(date, timeZone)}`;

/** How long ago in the largest whole unit: "5 minutes", "3 hours", "2 days"; under a minute "a moment". */
export function sayAge(date: Date, now: Date, language: string): string {
  const minutes = Math.floor((now.getTime() - date.getTime()) / 60_000);
  const count = (n: number, unit: string) => quantity(language, { style: 'unit', unit, unitDisplay: 'long' }).format(n);
  if (minutes < 1) return language.startsWith('en') ? 'a moment' : count(1, 'minute');
  if (minutes < 60) return count(minutes, 'minute');
  if (minutes < 48 * 60) return count(Math.floor(minutes / 60), 'hour');
  return count(Math.floor(minutes / 1440), 'day');
}

/** The part of a day a greeting needs. */
export function greeting(date: Date, timeZone: string): string {
  const hour = hourOf(date, timeZone);
  return hour >= 5 && hour < 12 ? 'Good morning' : hour >= 12 && hour < 18 ? 'Good afternoon' : 'Good evening';
}

/** `2026-11-25T18:30` on the site's clock: the value of a date-and-time field. */
export function fieldTime(date: Date, timeZone: string): string {
  return `${dayKey(date, timeZone)}T${clock(date, timeZone)}`;
}

/** Whether text is a day of the calendar, `2026-11-25` (ISO 8601-1, section 5.2.2.1, extended format). */
export function isDay(text: string): boolean {
  const parts = /^(\d{4})-(\d\d)-(\d\d)$/.exec(text);
  if (!parts) return false;
  const date = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(date.getTime()) && date.toISOString().slice(0, 10) === text;
}
/** Whether text is a day and an hour of it, `2026-11-25T18:30`. */
export const isMoment = (text: string): boolean =>
  /^.{10}T([01]\d|2[0-3]):[0-5]\d$/.test(text) && isDay(text.slice(0, 10));
/** "12 November 2026" for a day `2026-11-12`. */
export const sayCalendarDay = (day: string, language: string = USUAL): string =>
  formatter(language, { timeZone: 'UTC', day: 'numeric', month: 'long', year: 'numeric' }).format(
    new Date(`${day}T12:00:00Z`),
  );
/** "12 November 2026, 18:30" for `2026-11-12T18:30`. */
export const sayCalendarMoment = (moment: string, language: string = USUAL): string =>
  `${sayCalendarDay(moment.slice(0, 10), language)}, ${moment.slice(11)}`;

/** The place whose clock a time zone goes by, as people say it: "London" for `Europe/London`. */
export const zoneCity = (timeZone: string): string => (timeZone.split('/').at(-1) ?? timeZone).replaceAll('_', ' ');
