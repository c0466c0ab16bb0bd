import type { Spot } from './spot';
import { holdsAt, ranksAt, type When } from './when';

/** Something decided by place: of several that hold the stronger comes after the weaker. */
export interface Rule<T> {
  id: string;
  when: When;
  then: T;
}

/** Whether a rule is for a role; `extended` holds the role itself and every role it extends, by any way. */
export const holdsFor = (when: When, extended: ReadonlySet<string>): boolean =>
  when.roles === undefined || when.roles.some((role) => extended.has(role));

/** How close a rule is to a role: its own, of one it extends, for everybody. */
export const closenessOf = (when: When, role: string): number =>
  when.roles === undefined ? 0 : when.roles.includes(role) ? 2 : 1;

const compareRanks = (a: readonly number[], b: readonly number[]): number => {
  for (const [i, one] of a.entries()) {
    const difference = one - (b[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return 0;
};

/**
 * The rules that hold for a role on a spot, the weakest first. Stronger is what says more by the first of `CONDITIONS`
 * by which two differ, then what names this very role before one it extends before none; of two as strong the one
 * further down the list.
 */
export function rankedRules<R extends Pick<Rule<unknown>, 'when'>>(
  rules: readonly R[],
  role: string,
  extended: ReadonlySet<string>,
  spot: Spot,
): R[] {
  return (
    rules
      .filter((rule) => holdsAt(rule.when, spot) && holdsFor(rule.when, extended))
      .map((rule) => ({ rule, rank: [...ranksAt(rule.when, spot), closenessOf(rule.when, role)] }))
      // A stable sort: as strong as another keeps its place in the list.
      .sort((a, b) => compareRanks(a.rank, b.rank))
      .map(({ rule }) => rule)
  );
}
