import { diffArrays } from 'diff';

/**
 * Which entries of a later list are entries of an earlier one, in their order: `pairs` of their places, rising in both.
 * `blind`: the places of the later list beyond what comparing may cost; of them nothing is known.
 */
export interface Alignment {
  pairs: (readonly [number, number])[];
  blind: (readonly [from: number, to: number, before: number, beforeTo: number])[];
}

/** What comparing two texts may cost, in steps; shared by all that belongs to one question. */
export class Steps {
  left = 2_000_000;
  spend(steps: number): void {
    this.left -= steps;
  }
}

/** How many single changes are looked for in a piece that nothing holds in place: it costs their square. */
const MOST_CHANGES = 250;

/** Up to which length rows of entries are looked for where no single one stands once on either side: 1, 2, 4, 8. */
const LONGEST_ROW = 8;

/**
 * Lays two lists beside one another. What stands once in both holds the rest in place (patience sorting of unique
 * entries: Bram Cohen's "patience diff"; value from memory), then rows of several; small rests are compared change by
 * change (Myers 1986, as in the package `diff`). Takes about as many steps as the lists are long.
 */
export function align(before: readonly string[], after: readonly string[], effort: Steps): Alignment {
  // As numbers, which are quicker to compare and to join into rows.
  const ids = new Map<string, number>();
  const numbered = (list: readonly string[]) =>
    Int32Array.from(list, (key) => {
      const id = ids.get(key) ?? ids.size;
      ids.set(key, id);
      return id;
    });
  const [was, is] = [numbered(before), numbered(after)];
  const out: Alignment = { pairs: [], blind: [] };
  const ranges: [number, number, number, number][] = [[0, was.length, 0, is.length]];
  while (ranges.length > 0) {
    let [from, to, fromB, toB] = ranges.pop() ?? [0, 0, 0, 0];
    while (from < to && fromB < toB && was[from] === is[fromB]) out.pairs.push([from++, fromB++]);
    while (from < to && fromB < toB && was[to - 1] === is[toB - 1]) out.pairs.push([--to, --toB]);
    if (from === to || fromB === toB) continue;
    effort.spend(to - from + toB - fromB);
    const fixed = effort.left > 0 ? heldBy(was.subarray(from, to), is.subarray(fromB, toB), ids.size) : [];
    if (fixed.length > 0) {
      let [i, j] = [from, fromB];
      for (const [dx, dy] of fixed) {
        const [x, y] = [from + dx, fromB + dy];
        if (x > i || y > j) ranges.push([i, x, j, y]);
        out.pairs.push([x, y]);
        [i, j] = [x + 1, y + 1];
      }
      if (i < to || j < toB) ranges.push([i, to, j, toB]);
      continue;
    }
    const most = Math.min(MOST_CHANGES, Math.floor(Math.sqrt(Math.max(0, effort.left / 4))));
    const parts = diffArrays([...was.subarray(from, to)], [...is.subarray(fromB, toB)], { maxEditLength: most }) as
      { added?: boolean; removed?: boolean; count: number }[] | undefined;
    const changes = parts?.reduce((sum, part) => sum + (part.added || part.removed ? part.count : 0), 0) ?? most;
    effort.spend(changes ** 2);
    if (!parts) {
      out.blind.push([fromB, toB, from, to]);
      continue;
    }
    let [i, j] = [from, fromB];
    for (const { added, removed, count } of parts) {
      for (let k = 0; k < count && !added && !removed; k++) out.pairs.push([i + k, j + k]);
      if (!added) i += count;
      if (!removed) j += count;
    }
  }
  out.pairs.sort(([one], [other]) => one - other);
  return out;
}

/** Places that stand for one another for certain: entries, or rows of them, that stand once on either side. */
function heldBy(before: Int32Array, after: Int32Array, most: number): [number, number][] {
  let [were, are, ids] = [before, after, most];
  if (ids > 4 * (were.length + are.length)) {
    // Of a short piece: numbers of its own, so that tables by number are as short.
    const own = new Map<number, number>();
    const numbered = (list: Int32Array) =>
      list.map((id) => {
        const mine = own.get(id) ?? own.size;
        own.set(id, mine);
        return mine;
      });
    [were, are] = [numbered(were), numbered(are)];
    ids = own.size;
  }
  for (let row = 1; row <= LONGEST_ROW; row *= 2) {
    if (row > 1) {
      // A row of two rows has a number of its own.
      const known = new Map<number, number>();
      const joined = (list: Int32Array, half: number) =>
        Int32Array.from({ length: Math.max(0, list.length - half) }, (_, at) => {
          const key = (list[at] ?? 0) * ids + (list[at + half] ?? 0);
          const id = known.get(key) ?? known.size;
          known.set(key, id);
          return id;
        });
      [were, are] = [joined(were, row / 2), joined(are, row / 2)];
      ids = known.size;
    }
    const [once, there] = [onceIn(were, ids), onceIn(are, ids)];
    const shared: [number, number][] = [];
    were.forEach((id, at) => {
      const place = there[id] ?? -1;
      if (once[id] === at && place >= 0) shared.push([at, place]);
    });
    const chosen = rising(shared);
    if (chosen.length === 0) continue;
    // A row holds all its entries; rows may run into one another.
    const pairs = new Map<number, number>();
    for (const [x, y] of chosen) for (let k = 0; k < row; k++) pairs.set(x + k, y + k);
    return row === 1 ? chosen : rising([...pairs].sort(([one], [other]) => one - other));
  }
  return [];
}

/** By the number of each entry where it stands; less than nothing where that is nowhere, or more than once. */
function onceIn(list: Int32Array, ids: number): Int32Array {
  const out = new Int32Array(ids).fill(-1);
  list.forEach((id, at) => {
    out[id] = out[id] === -1 ? at : -2;
  });
  return out;
}

/**
 * The longest part of some pairs, sorted by their first number, in which the second rises, too (longest increasing
 * subsequence: Fredman 1975).
 */
function rising(pairs: readonly [number, number][]): [number, number][] {
  const ends: number[] = [];
  const before = new Array<number>(pairs.length);
  pairs.forEach(([, y], i) => {
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((pairs[ends[middle] ?? 0]?.[1] ?? 0) < y) low = middle + 1;
      else high = middle;
    }
    before[i] = low > 0 ? (ends[low - 1] ?? -1) : -1;
    ends[low] = i;
  });
  const out: [number, number][] = [];
  for (let i = ends.at(-1) ?? -1; i >= 0; i = before[i] ?? -1) {
    const pair = pairs[i];
    if (pair) out.push(pair);
  }
  return out.reverse();
}
