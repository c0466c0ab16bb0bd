/** Dates and times as people say them, on the site's own clock. Pure: "now" is given. */

const made = new Map<string, Intl.DateTimeFormat>();
/** A formatter, made once: making one costs a hundred times what using it costs. */
function formatter(locale: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${locale} ${JSON.stringify(options)}`;
  let found = made.get(key);
  if (!found) made.set(key, (found = new Intl.DateTimeFormat(locale, options)));
  return found;
}

/** The calendar day on the site's clock, `2026-11-25`. */
export const dayKey = (date: Date, timeZone: string): string => formatter('en-CA', { timeZone }).format(date);
/** The hour and minute on the site's clock, `09:30`. */
const clock = (date: Date, timeZone: string) =>
  formatter('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(date);
/** "Mon" for a day `2026-11-23`. */
export const sayWeekday = (day: string): string =>
  formatter('en-GB', { weekday: 'short', timeZone: 'UTC' }).format(new Date(`${day}T12:00:00Z`));
/** The hour of the day on the site's clock, 0 to 23. */
export const hourOf = (date: Date, timeZone: string): number => Number(clock(date, timeZone).slice(0, 2));

/** "12 November", with the year when it is another one. */
export function sayDay(date: Date, timeZone: string, now: Date): string {
  const sameYear = dayKey(date, timeZone).slice(0, 4) === dayKey(now, timeZone).slice(0, 4);
  return formatter('en-GB', { timeZone, day: 'numeric', month: 'long', ...(!sameYear && { year: 'numeric' }) }).format(
    date,
  );
}

/** "today 09:30", "yesterday 17:05", "tomorrow 07:00", else "12 November, 09:30". */
export function sayTime(date: Date, timeZone: string, now: Date): string {
  const shifted = (days: number) => dayKey(new Date(now.getTime() + days * 86_400_000), timeZone);
  const key = dayKey(date, timeZone);
  const day = key === shifted(0) ? 'today' : key === shifted(-1) ? 'yesterday' : key === shifted(1) ? 'tomorrow' : null;
  return day ? `${day} ${clock(date, timeZone)}` : `${sayDay(date, timeZone, now)}, ${clock(date, timeZone)}`;
}

/** "25 November 2026, 09:30": for what is read on another day than it was written. */
export const sayFullTime = (date: Date, timeZone: string): string =>
  `${formatter('en-GB', { timeZone, day: 'numeric', month: 'long', year: 'numeric' }).format(date)}, ${clock(date, timeZone)}`;

/** How long ago in the largest whole unit: "5 minutes", "3 hours", "2 days"; under a minute "a moment". */
export function sayAge(date: Date, now: Date): string {
  const minutes = Math.floor((now.getTime() - date.getTime()) / 60_000);
  const count = (n: number, unit: string) => `${n} ${unit}${n === 1 ? '' : 's'}`;
  if (minutes < 1) return 'a moment';
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
export const sayCalendarDay = (day: string): string =>
  formatter('en-GB', { timeZone: 'UTC', day: 'numeric', month: 'long', year: 'numeric' }).format(
    new Date(`${day}T12:00:00Z`),
  );
/** "12 November 2026, 18:30" for `2026-11-12T18:30`. */
export const sayCalendarMoment = (moment: string): string =>
  `${sayCalendarDay(moment.slice(0, 10))}, ${moment.slice(11)}`;

/** The place whose clock a time zone goes by, as people say it: "London" for `Europe/London`. */
export const zoneCity = (timeZone: string): string => (timeZone.split('/').at(-1) ?? timeZone).replaceAll('_', ' ');
