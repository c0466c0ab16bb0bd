import { numberOf } from '../values';
import { isNothing, isShortText, type FieldKind } from './kind';

/** A number; `unit` stands behind it. */
export const number: FieldKind<{ kind: 'number'; min: number; max: number; unit?: string }> = {
  read: ({ name, min, max }, given) => {
    if (isNothing(given)) return { value: null };
    return typeof given === 'number' && Number.isFinite(given) && given >= min && given <= max
      ? { value: given }
      : { fault: `${name} must be a number from ${min} to ${max}.` };
  },
  waits: (given) => typeof given === 'number' || isShortText(given),
  say: ({ id, unit }, content) => {
    const value = numberOf(content, id);
    return [value === null ? '' : `${value}${unit ? ` ${unit}` : ''}`];
  },
  begins: ({ min, max }) => ({ as: 'number', min, max }),
  samples: {
    field: { id: 'x', kind: 'number', name: 'Price', min: 0, max: 100, unit: 'pounds' },
    says: [0, 7.5],
    words: ['0 pounds', '7.5 pounds'],
    halfTyped: [101, 'many'],
    refuses: [true],
  },
};
