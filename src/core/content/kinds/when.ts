import { isDay, isMoment, sayCalendarDay, sayCalendarMoment } from '../../words';
import { textOf } from '../values';
import { isNothing, isShortText, type FieldKind } from './kind';

/** A day, `2026-11-25`. */
export const day: FieldKind<{ kind: 'day' }> = {
  read: ({ name }, given) =>
    isNothing(given) || (typeof given === 'string' && isDay(given))
      ? { value: given ?? '' }
      : { fault: `${name} must be a day, like 2026-11-25.` },
  waits: isShortText,
  say: ({ id }, content) => {
    const text = textOf(content, id);
    return [text && sayCalendarDay(text)];
  },
  samples: {
    field: { id: 'x', kind: 'day', name: 'Last day' },
    says: ['2026-11-25', '2026-11-26'],
    words: ['25 November 2026', '26 November 2026'],
    halfTyped: ['2026-02-30', 'soon'],
    refuses: [7],
  },
};

/** A day with its hour on the site's clock, `2026-11-25T18:30`. */
export const moment: FieldKind<{ kind: 'moment' }> = {
  read: ({ name }, given) =>
    isNothing(given) || (typeof given === 'string' && isMoment(given))
      ? { value: given ?? '' }
      : { fault: `${name} must be a day and an hour, like 2026-11-25T18:30.` },
  waits: isShortText,
  say: ({ id }, content) => {
    const text = textOf(content, id);
    return [text && sayCalendarMoment(text)];
  },
  samples: {
    field: { id: 'x', kind: 'moment', name: 'Begins' },
    says: ['2026-11-25T18:30', '2026-11-25T19:30'],
    words: ['25 November 2026, 18:30', '25 November 2026, 19:30'],
    halfTyped: ['2026-11-25', '2026-11-25T25:00'],
    refuses: [7],
  },
};
