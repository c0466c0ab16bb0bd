/** Bits of `count` numbers, 32 a word. */
export type Bits = Uint32Array;

/** How many bits are set among the numbers from `lo` to `hi` inclusive. */
export function countBits(bits: Bits, lo: number, hi: number): number {
  let sum = 0;
  for (let w = lo >>> 5; w <= hi >>> 5; w++) {
    let v = maskedWord(bits[w] ?? 0, w, lo, hi);
    v -= (v >>> 1) & 0x55555555;
    v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
    sum += (((v + (v >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
  }
  return sum;
}

/** The part of word `w` that lies between two bit numbers, inclusive. */
function maskedWord(word: number, w: number, lo: number, hi: number): number {
  let mask = -1;
  if (w === lo >>> 5) mask &= -1 << (lo & 31);
  if (w === hi >>> 5) mask &= -1 >>> (31 - (hi & 31));
  return word & mask;
}

/** Sets or clears the bits from `lo` to `hi` inclusive, where `among` has them. */
export function paint(bits: Bits, lo: number, hi: number, among: Bits | null, set: boolean): void {
  for (let w = lo >>> 5; w <= hi >>> 5; w++) {
    const part = maskedWord(among ? (among[w] as number) : -1, w, lo, hi);
    bits[w] = set ? (bits[w] as number) | part : (bits[w] as number) & ~part;
  }
}
