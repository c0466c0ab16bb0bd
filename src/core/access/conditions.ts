import type { Bits } from './bits';
import type { Tree } from './tree';

/** What must hold of the thing beside its branch. Number 0 is "nothing more". */
export interface Condition {
  own: boolean;
  layouts: readonly string[] | undefined;
  states: readonly string[] | undefined;
}

/** Conditions by number, and on which pages of a tree each fits. */
export class Conditions {
  private readonly list: Condition[] = [{ own: false, layouts: undefined, states: undefined }];
  private readonly numbers = new Map<string, number>();
  private own = new Uint8Array(64);
  /** Condition × class of page (layout and state) → 1 where it fits. */
  private fit: Uint8Array;
  private readonly bits = new Map<number, Bits>();

  constructor(private readonly tree: Tree) {
    this.fit = new Uint8Array(64 * tree.classes.length).fill(1, 0, tree.classes.length);
  }

  /** Whether it holds for what is somebody's own only. */
  isOwn(condition: number): boolean {
    return this.own[condition] === 1;
  }

  /** Whether a page, by number, has a layout and a state that fit. */
  fits(condition: number, page: number): boolean {
    return this.fit[condition * this.tree.classes.length + (this.tree.classOf[page] as number)] === 1;
  }

  /** The pages whose layout and state fit; null for all. */
  bitsOf(condition: number): Bits | null {
    const { layouts, states } = this.list[condition] as Condition;
    if (!layouts && !states) return null;
    let bits = this.bits.get(condition);
    if (!bits) {
      bits = new Uint32Array(this.tree.words);
      for (let page = 0; page < this.tree.classOf.length; page++)
        if (this.fits(condition, page)) bits[page >>> 5] = (bits[page >>> 5] as number) | (1 << (page & 31));
      this.bits.set(condition, bits);
    }
    return bits;
  }

  /** The number of a condition, a new one where there is none yet. */
  number(condition: Condition): number {
    const { own, layouts, states } = condition;
    if (!own && !layouts && !states) return 0;
    const key = JSON.stringify([own, layouts?.toSorted(), states?.toSorted()]);
    const known = this.numbers.get(key);
    if (known !== undefined) return known;
    const number = this.list.push(condition) - 1;
    this.numbers.set(key, number);
    if (number >= this.own.length) this.grow(number * 2);
    this.own[number] = own ? 1 : 0;
    const { classes } = this.tree;
    for (let k = 0; k < classes.length; k++) {
      const there = classes[k] ?? null;
      this.fit[number * classes.length + k] =
        there === null
          ? Number(!layouts && !states)
          : Number((!layouts || layouts.includes(there.layout)) && (!states || states.includes(there.state)));
    }
    return number;
  }

  private grow(length: number): void {
    const own = new Uint8Array(length);
    own.set(this.own);
    this.own = own;
    const fit = new Uint8Array(length * this.tree.classes.length);
    fit.set(this.fit);
    this.fit = fit;
  }
}
