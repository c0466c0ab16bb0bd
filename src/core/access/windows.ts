/** Spans of time by number; number 0 is always. */
export class Windows {
  /** From (inclusive) and until (exclusive) of window after window, in ms since 1970. */
  private ends = new Float64Array([-Infinity, Infinity]);
  private readonly numbers = new Map<string, number>([['-Infinity Infinity', 0]]);

  isOpen(window: number, atMs: number): boolean {
    return atMs >= (this.ends[2 * window] as number) && atMs < (this.ends[2 * window + 1] as number);
  }

  /** The number of a window, a new one where there is none yet. */
  number(fromMs = -Infinity, untilMs = Infinity): number {
    const key = `${fromMs} ${untilMs}`;
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const number = this.numbers.size;
    this.numbers.set(key, number);
    if (2 * number >= this.ends.length) {
      const larger = new Float64Array(4 * number + 32);
      larger.set(this.ends);
      this.ends = larger;
    }
    this.ends[2 * number] = fromMs;
    this.ends[2 * number + 1] = untilMs;
    return number;
  }
}
