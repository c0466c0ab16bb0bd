import type { When } from './when';

/** Something decided by place: of several that hold the stronger comes after the weaker. */
export interface Rule<T> {
  id: string;
  when: When;
  then: T;
}

/** A field of a page as rules see it. */
export interface Spot {
  /** Ids from the root of the tree down to the page itself. */
  path: readonly string[];
  layout: string;
  state: string;
  field: string;
}

/** How strong a rule is for a role, to be compared from left to right. */
type Rank = readonly [fields: number, branch: number, layouts: number, states: number, role: number];

const names = (list: readonly string[] | undefined, one: string) => list === undefined || list.includes(one);

/** Whether a rule holds on a spot, whoever it is for. */
export const holdsAt = (when: When, spot: Spot): boolean =>
  names(when.fields, spot.field) &&
  (when.branch === undefined || spot.path.includes(when.branch)) &&
  names(when.layouts, spot.layout) &&
  names(when.states, spot.state);

/** Whether a rule is for a role; `extended` holds the role itself and every role it extends, by any way. */
export const holdsFor = (when: When, extended: ReadonlySet<string>): boolean =>
  when.roles === undefined || when.roles.some((role) => extended.has(role));

function rankOf(when: When, role: string, spot: Spot): Rank {
  return [
    Number(when.fields !== undefined),
    when.branch === undefined ? 0 : spot.path.indexOf(when.branch) + 1,
    Number(when.layouts !== undefined),
    Number(when.states !== undefined),
    when.roles === undefined ? 0 : when.roles.includes(role) ? 2 : 1,
  ];
}

const compareRanks = (a: Rank, b: Rank): number => {
  for (const [i, one] of a.entries()) {
    const difference = one - (b[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return 0;
};

/**
 * The rules that hold for a role on a spot, the weakest first. Stronger is what names fields, then what names a branch
 * deeper in the tree, then layouts, then states, then this very role before one it extends before none; of two as
 * strong the one further down the list.
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
      .map((rule) => ({ rule, rank: rankOf(rule.when, role, spot) }))
      // A stable sort: as strong as another keeps its place in the list.
      .sort((a, b) => compareRanks(a.rank, b.rank))
      .map(({ rule }) => rule)
  );
}
