import type { Every } from '@/core/duties';
import type { Duty } from '@/core/wire';

export const AGAIN: Record<Every, string> = {
  week: 'every week',
  month: 'every month',
  quarter: 'every three months',
  year: 'every year',
};

/** By the day they are due, those without one last. */
export const inOrder = (duties: readonly Duty[]): Duty[] =>
  duties.toSorted((a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.id - b.id);
