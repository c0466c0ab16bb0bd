import { NOWHERE } from './tree';
import type { Assignment } from './types';

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

/** What one assignment brings: the merged rules of its role by permission number, its branch and its window. */
export interface MergedRow {
  assignment: Assignment;
  /** Undefined where the assignment names none, or one that is not there. */
  branch: readonly [number, number] | undefined;
  window: number;
  rules: readonly (readonly MergedRule[])[];
}

/** The rules of everything somebody holds for one permission; none when nothing allows. */
export function mergedOf(rows: readonly MergedRow[], permission: number): readonly MergedRule[] {
  // Most often one role alone says something, everywhere and always: then its own list is the answer.
  const saying = rows.filter((row) => (row.rules[permission] as readonly MergedRule[]).length > 0);
  const only = saying[0];
  if (!only) return [];
  if (saying.length === 1 && only.window === 0 && only.assignment.branch === undefined) {
    const list = only.rules[permission] as readonly MergedRule[];
    return list.every(isDeny) ? [] : list;
  }
  const out: MergedRule[] = [];
  for (const { assignment, branch, window, rules } of saying) {
    for (const [lo, hi, condition] of rules[permission] as readonly MergedRule[]) {
      if (assignment.branch === undefined) {
        out.push([lo, hi, condition, window]);
        continue;
      }
      if (lo === NOWHERE) out.push([NOWHERE, NOWHERE, condition, window]);
      if (!branch) continue;
      const from = Math.max(lo, branch[0]);
      const to = Math.min(hi, branch[1]);
      if (from <= to) out.push([from, to, condition, window]);
    }
  }
  if (out.every(isDeny)) return [];
  const rules = pruned(out);
  return rules.every(isDeny) ? [] : rules;
}
