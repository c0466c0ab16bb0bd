import { diffArrays, diffChars } from 'diff';
import type { BlockNode } from '../content';
import { alikeEnds, type AcceptFault, type BlocksApart } from './apart';
import { makeOf, tokensOf, type Token } from './made';

/** From what share of their letters on words are those that stood there, and not new ones; and those brought along. */
const [SAME_WORDS, BROUGHT_WORDS] = [0.5, 0.8];
/** Up to how many letters two texts are compared letter by letter, where they differ. */
const LETTER_BY_LETTER = 3000;

/**
 * What comparing one text may cost, in steps: D single changes take about D² of them, and every look at a text its
 * length. Beyond that all in between counts as written anew, and at last letters are only counted: how long it takes is
 * bounded on any machine.
 */
class Effort {
  left = 1_500_000;

  /** How many single changes are looked for next, before giving up. */
  get most(): number {
    return Math.max(20, Math.floor(Math.sqrt(Math.max(0, this.left))));
  }
  spend(changes: number, length: number): void {
    this.left -= changes ** 2 + length;
  }
}

/** Where two texts differ, as pieces of writing, with what stands right before and behind. */
interface Middle {
  before: Token[];
  after: Token[];
  from: Token | undefined;
  to: Token | undefined;
  /** What stands around in the later text. */
  outside: Token[];
  /** Which pieces of the later text are pieces of the earlier one, when looks are left aside. */
  was: ReadonlyMap<Token, Token>;
}

/** A piece of writing as its single letters. */
const letterByLetter = (token: Token): Token[] =>
  token.atom || token.begins ? [token] : [...token.text].map((text) => ({ ...token, text }));

const letters = (tokens: readonly Token[]): string => tokens.map((token) => (token.atom ? '' : token.text)).join('');

function middleOf(before: readonly Token[], after: readonly Token[], effort: Effort): Middle {
  const [first, last] = alikeEnds(before, after, (one, other) => one.key === other.key);
  const middle = [before.slice(first, before.length - last), after.slice(first, after.length - last)];
  const isShort = middle.flat().reduce((sum, token) => sum + token.text.length, 0) <= LETTER_BY_LETTER;
  const [a = [], b = []] = isShort ? middle.map((tokens) => tokens.flatMap(letterByLetter)) : middle;
  const was = new Map<Token, Token>();
  for (const [older, newer] of alike(a, b, wordOf, effort)) was.set(newer, older);
  const outside = [...after.slice(0, first), ...after.slice(after.length - last)];
  return { before: a, after: b, from: after[first - 1], to: after[after.length - last], outside, was };
}
const wordOf = (token: Token): string => (token.begins ? '¶' : token.text);

/** The pieces two texts share, in their order; none where there are too many changes to look for. */
function alike(
  a: readonly Token[],
  b: readonly Token[],
  keyOf: (token: Token) => string,
  effort: Effort,
): [Token, Token][] {
  if (a.length === 0 || b.length === 0) return [];
  const { most } = effort;
  const parts = diffArrays(a.map(keyOf), b.map(keyOf), { maxEditLength: most }) as
    { added?: boolean; removed?: boolean; count: number }[] | undefined;
  const changes = parts?.reduce((sum, part) => sum + (part.added || part.removed ? part.count : 0), 0) ?? most;
  effort.spend(changes, a.length + b.length);
  const pairs: [Token, Token][] = [];
  let [i, j] = [0, 0];
  for (const { added, removed, count } of parts ?? []) {
    for (let k = 0; k < count && !added && !removed; k++) {
      const [older, newer] = [a[i + k], b[j + k]];
      if (older && newer) pairs.push([older, newer]);
    }
    if (!added) i += count;
    if (!removed) j += count;
  }
  return pairs;
}

/** A place at which two texts differ, between pieces that are the same and under the same. */
interface Gap {
  removed: Token[];
  added: Token[];
  from: Token | undefined;
  to: Token | undefined;
}

function gapsOf({ before, after, from, to }: Middle, keyOf: (token: Token) => string, effort: Effort): Gap[] {
  const gaps: Gap[] = [];
  let [i, j] = [0, 0];
  let last = from;
  const upTo = (older: number, newer: number, next: Token | undefined) => {
    if (older > i || newer > j)
      gaps.push({ removed: before.slice(i, older), added: after.slice(j, newer), from: last, to: next });
    [i, j, last] = [older + 1, newer + 1, next];
  };
  const at = new Map([
    ...before.map((token, k) => [token, k] as const),
    ...after.map((token, k) => [token, k] as const),
  ]);
  for (const [older, newer] of alike(before, after, keyOf, effort)) upTo(at.get(older) ?? 0, at.get(newer) ?? 0, newer);
  upTo(before.length, after.length, to);
  return gaps;
}

/** Words under something that no tool at hand makes, where they were neither typed, nor brought from under the same. */
export function newWords({ wider }: BlocksApart, guarded: (made: string) => boolean): AcceptFault[] {
  const later = tokensOf(wider.after);
  const under = new Set(later.flatMap((token) => [...token.under.keys()]));
  const isGuarded = (key: string) => guarded(makeOf(JSON.parse(key) as BlockNode));
  // Most texts hold nothing that is: then there is nothing to compare them for.
  if (![...under].some(isGuarded)) return [];
  const effort = new Effort();
  const middle = middleOf(tokensOf(wider.before), later, effort);
  const faults: AcceptFault[] = [];
  const levels = new Map<string, number>();
  for (const token of middle.after)
    for (const [key, { length }] of token.under) levels.set(key, Math.max(levels.get(key) ?? 0, length));
  for (const [key, deepest] of levels) {
    const part = JSON.parse(key) as BlockNode;
    const made = makeOf(part);
    if (!guarded(made)) continue;
    for (let depth = 1; depth <= deepest; depth++)
      for (const path of newUnder(middle, (token) => token?.under.get(key)?.[depth - 1], effort))
        faults.push({ construct: part.type, made, path, why: 'new' });
  }
  return faults;
}

/** Words that came under a mark or into one block, one after the other. */
interface Segment {
  gap: Gap;
  added: Token[];
  /** Whether words right beside it stood under the same already. */
  beside: boolean;
}

/** Where words came newly under something; `blockOf` tells which block of it a piece is in, '' for a mark. */
function newUnder(middle: Middle, blockOf: (token: Token | undefined) => string | undefined, effort: Effort): string[] {
  const isUnder = (token: Token | undefined) => blockOf(token) !== undefined;
  if (effort.left <= 0) {
    const [were, are] = [middle.before, middle.after].map((tokens) => tokens.filter(isUnder));
    return letters(are ?? []).length > letters(were ?? []).length ? [are?.[0]?.path ?? ''] : [];
  }
  const gaps = gapsOf(middle, (token) => `${wordOf(token)}${isUnder(token) ? '|' : ''}`, effort);
  // Blocks in which something stayed: words may be typed into them. Another one beside them is a new one.
  const fresh = new Set(gaps.flatMap((gap) => gap.added));
  const stayed = new Set([...middle.outside, ...middle.after.filter((token) => !fresh.has(token))].map(blockOf));
  const segments = gaps.flatMap((gap) => segmentsOf(gap, blockOf));
  // What is gone from under it: it may have been typed over, or moved.
  const gone = gaps.map((gap) => {
    const runs: Token[][] = [];
    let before: Token | undefined;
    for (const token of gap.removed) {
      if (isUnder(token)) {
        if (isUnder(before)) runs.at(-1)?.push(token);
        else runs.push([token]);
      }
      before = token;
    }
    return { gap, runs };
  });
  const pool = gone.flatMap(({ runs }) => runs.map(letters));
  const over = new Map(gone.map(({ gap, runs }) => [gap, runs.length]));
  return segments.flatMap(({ gap, added, beside }) => {
    const words = letters(added);
    const from = words === '' ? -1 : pool.findIndex((text) => text.includes(words));
    if (from >= 0) {
      // Brought from elsewhere under the same, whole or in part.
      pool[from] = (pool[from] ?? '').replace(words, '');
      return [];
    }
    if (words === '' || drawnIn(middle, added, isUnder) < SAME_WORDS * words.length) {
      const block = blockOf(added[0]);
      if (block === '' || words === '' ? beside : stayed.has(block)) return [];
      if (pool.some((text) => isMostlyFrom(words, text))) return [];
      const left = over.get(gap) ?? 0;
      over.set(gap, left - 1);
      if (left > 0) return [];
    }
    return [added[0]?.path ?? ''];
  });
}

/** What came under something at one place, block by block. */
function segmentsOf(gap: Gap, blockOf: (token: Token | undefined) => string | undefined): Segment[] {
  const segments: Segment[] = [];
  let open: Segment | undefined;
  // Pictures part words from what they stood beside, and are looked past.
  let before = gap.from;
  const last = gap.added.findLastIndex((token) => !token.atom);
  gap.added.forEach((token, i) => {
    if (token.atom) {
      open = undefined;
      return;
    }
    const block = blockOf(token);
    if (block === undefined) open = undefined;
    else {
      if (!open || blockOf(open.added[0]) !== block) {
        // One beside another that is beside what stayed is so, too.
        const beside = open ? open.beside : before === gap.from && blockOf(before) !== undefined;
        segments.push((open = { gap, added: [], beside }));
      }
      open.added.push(token);
      if (i === last && blockOf(gap.to) !== undefined) open.beside = true;
    }
    before = token;
  });
  return segments;
}

/** From how many letters on a row of them that stood there is no accident. */
const NO_ACCIDENT = 3;
/** How many letters of some pieces stood there, and not under it, in rows that are no accident. */
function drawnIn({ was, before }: Middle, added: readonly Token[], isUnder: (token: Token) => boolean): number {
  const at = new Map(before.map((token, i) => [token, i]));
  let [drawn, row, last] = [0, 0, -2];
  const all = letters(added).length;
  const end = () => {
    if (row >= Math.min(NO_ACCIDENT, all)) drawn += row;
    row = 0;
  };
  for (const token of added) {
    const older = was.get(token);
    const place = older && !isUnder(older) ? (at.get(older) ?? -2) : -2;
    if (place < 0 || place !== last + 1) end();
    if (place >= 0 && !token.atom) row += token.text.length;
    last = place;
  }
  end();
  return drawn;
}

/** Longest texts whose letters are compared one by one; longer ones are words of their own. */
const LONGEST_COMPARED = 2000;
/** Whether words are those of a text, but for a few letters. */
function isMostlyFrom(words: string, text: string): boolean {
  if (words === '' || Math.max(words.length, text.length) > LONGEST_COMPARED) return false;
  const same = diffChars(words, text).reduce(
    (sum, part) => sum + (part.added || part.removed ? 0 : part.value.length),
    0,
  );
  return same >= BROUGHT_WORDS * words.length;
}
