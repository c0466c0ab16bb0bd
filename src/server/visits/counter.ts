import { dayKey, hourOf } from '@/core/words';

/**
 * Stand-in for a visitor counter: an outside service that Safe Room would ask over the network. It ships with the
 * application, needs no network, and makes up the same figures for the same site and day.
 */
export interface DayCount {
  day: string;
  visits: number;
  partial: boolean;
}

const DAY_MS = 86_400_000;

/** A number in [0, 1) that depends on the text alone (FNV-1a, 32 bit). */
function noise(text: string): number {
  let h = 0x811c9dc5;
  for (const c of text) h = Math.imul(h ^ (c.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return h / 2 ** 32;
}

/** The last seven days up to today on the site's own calendar; today counts up with the hours. */
export function visitsThisWeek(site: { id: number; timeZone: string }, at: Date): DayCount[] {
  const hour = hourOf(at, site.timeZone);
  return Array.from({ length: 7 }, (_, i) => {
    const date = new Date(at.getTime() - (6 - i) * DAY_MS);
    const day = dayKey(date, site.timeZone);
    const weekend = [0, 6].includes(new Date(`${day}T12:00:00Z`).getUTCDay()) ? 1.5 : 1;
    const whole = Math.round((320 + 260 * noise(`${site.id} ${day}`)) * weekend);
    const partial = i === 6;
    return { day, visits: partial ? Math.round((whole * (hour + 1)) / 24) : whole, partial };
  });
}
