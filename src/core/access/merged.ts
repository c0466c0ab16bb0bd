/** What must hold of the thing beside its branch. Number 0 is "nothing more". */
export interface Condition {
  own: boolean;
  layouts: readonly string[] | undefined;
  states: readonly string[] | undefined;
}

/**
 * A grant for one permission: page numbers from `lo` to `hi` inclusive, a condition (`~condition` for a deny), a window
 * of time.
 */
export type MergedRule = readonly [lo: number, hi: number, condition: number, window: number];

export const isDeny = (rule: MergedRule) => rule[2] < 0;
export const bare = (packed: number) => (packed < 0 ? ~packed : packed);

/** Whether wherever `rule` applies `other` does too, and counts at least as much. */
function isCoveredBy(rule: MergedRule, other: MergedRule): boolean {
  return (
    other[0] <= rule[0] &&
    other[1] >= rule[1] &&
    (other[2] < 0 || rule[2] >= 0) &&
    (bare(other[2]) === 0 || bare(other[2]) === bare(rule[2])) &&
    (other[3] === 0 || other[3] === rule[3])
  );
}

/** Leaves out what another rule covers; denies first, then the wider first, so that most answers come early. */
export function pruned(rules: readonly MergedRule[]): readonly MergedRule[] {
  if (rules.length < 2) return rules;
  const sorted = rules.toSorted(
    (a, b) =>
      Number(isDeny(b)) - Number(isDeny(a)) || b[1] - b[0] - (a[1] - a[0]) || bare(a[2]) - bare(b[2]) || a[3] - b[3],
  );
  const kept: MergedRule[] = [];
  for (const rule of sorted) if (!kept.some((other) => isCoveredBy(rule, other))) kept.push(rule);
  return kept;
}
