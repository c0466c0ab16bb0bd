import type { MergedRule } from './merged';

/** Numbers a rule takes in the arrays. */
export const STRIDE = 4;
/** Places in the array of rules that everybody shares. */
export const NONE = 0;
export const ALL = 1;

/** Lists of rules, one after the other in one array. */
export class Rules {
  /** How many rules, then that many of `STRIDE` numbers; at `NONE` none, at `ALL` the one that always allows. */
  values = new Int32Array(1 << 12);
  private used = ALL + 1 + STRIDE;

  constructor() {
    this.values[ALL] = 1;
  }

  /** Where a list begins that was put there. */
  put(rules: readonly MergedRule[]): number {
    if (rules.length === 0) return NONE;
    const at = this.used;
    const needed = at + 1 + STRIDE * rules.length;
    if (needed > this.values.length) {
      const larger = new Int32Array(Math.ceil(this.values.length * 1.5) + STRIDE * rules.length);
      larger.set(this.values);
      this.values = larger;
    }
    this.values[at] = rules.length;
    let i = at + 1;
    for (const rule of rules) for (const value of rule) this.values[i++] = value;
    this.used = needed;
    return at;
  }
}
