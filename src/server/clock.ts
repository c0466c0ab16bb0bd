import { TZDate } from '@date-fns/tz';
import { fieldTime } from '@/core/words';

/** The only clock. */
export const now = (): Date => new Date();

/**
 * An hour as typed on the site's own clock (`2026-11-25T18:30`) as an instant; undefined when it is none. An hour that
 * the spring change skips is moved on, one that the autumn change repeats is the first of the two (RFC 5545, section
 * 3.3.5).
 */
export function findInstant(local: string, timeZone: string): Date | undefined {
  const parts = /^(\d{4})-(\d\d)-(\d\d)T(\d\d):(\d\d)$/.exec(local)?.slice(1).map(Number);
  if (!parts) return undefined;
  const [y = 0, mo = 1, d = 1, h = 0, mi = 0] = parts;
  if (new Date(Date.UTC(y, mo - 1, d)).getUTCDate() !== d) return undefined;
  const instant = new Date(new TZDate(y, mo - 1, d, h, mi, timeZone).getTime());
  // Clocks are put back by an hour, on Lord Howe Island by half of one.
  const earlier = [3_600_000, 1_800_000]
    .map((ms) => new Date(instant.getTime() - ms))
    .find((before) => fieldTime(before, timeZone) === local);
  return earlier ?? instant;
}

/**
 * The first instant of a day (`2026-11-25`) on the site's own clock, or of the day after it; undefined when it is no
 * day.
 */
export function findDayStart(day: string, timeZone: string, after: 0 | 1 = 0): Date | undefined {
  const [y = 0, mo = 0, d = 0] = /^(\d{4})-(\d\d)-(\d\d)$/.exec(day)?.slice(1).map(Number) ?? [];
  if (new Date(Date.UTC(y, mo - 1, d)).toISOString().slice(0, 10) !== day) return undefined;
  return findInstant(`${new Date(Date.UTC(y, mo - 1, d + after)).toISOString().slice(0, 10)}T00:00`, timeZone);
}
