import { fieldTime, sayCalendarDay } from '@/core/words';
import { findInstant } from './clock';
import { problemAt } from './gate/problems';

/**
 * The instant of an hour as it was typed in a field, on the site's own clock. Refuses what is none, also an hour that
 * the change of clocks in spring leaves out.
 */
export function instantOf(local: string, timeZone: string, field: string): Date {
  const instant = findInstant(local, timeZone);
  if (!instant) throw problemAt(field, 'no-time');
  if (fieldTime(instant, timeZone) !== local)
    throw problemAt(field, 'hour-skipped', { hour: local.slice(11), day: sayCalendarDay(local.slice(0, 10)) });
  return instant;
}
