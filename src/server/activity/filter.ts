import { findDayStart } from '../clock';
import type { ActivityFilter } from './activity';

/** What a form asks of the activity; what does not fit is left out. The last day counts whole. */
export function readActivityFilter(asked: URLSearchParams, timeZone: string): ActivityFilter {
  const who = asked.get('who') ?? '';
  const day = (name: string, after: 0 | 1) => findDayStart(asked.get(name) ?? '', timeZone, after);
  return {
    who: /^\d{1,9}$/.test(who) ? Number(who) : undefined,
    action: asked.get('what')?.slice(0, 100) || undefined,
    q: asked.get('q')?.trim().slice(0, 200) || undefined,
    from: day('from', 0),
    until: day('until', 1),
  };
}
