import { diffArrays, diffChars } from 'diff';
import { canonical } from '../json';
import type { BlockNode, Document, DocumentNode, TextNode } from '../content';
import { isAtom, isPlain, makeOf, nodesOf, runsOf, tokensOf, type Blocks, type Token } from './made';

/**
 * What may become of a construct when no tool at hand makes it: it stays whole; its words may change and its form stays;
 * or it is free, and only no new one comes.
 */
export type Policy = 'whole' | 'words' | 'free';

/** What is not accepted: something `new` that no tool at hand makes, or something `gone` or `changed` that had to stay. */
export interface AcceptFault {
  construct: string;
  /** What a tool would have to make (`makeOf`). */
  made: string;
  /** Where (a JSON pointer): in the later document what is new, in the earlier one what is gone or changed. */
  path: string;
  why: 'new' | 'gone' | 'changed';
}

export interface Hands {
  /** Whether a tool at hand makes it: a construct, of headings and links with level and kind (`makeOf`). */
  makes: (made: string) => boolean;
  /** What holds of a construct that none makes. */
  policyOf: (construct: string) => Policy;
}

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

/**
 * Whether what somebody made of a text can be accepted: everything new in it can be made with the tools at hand, what
 * had to stay is there, everything else is free. Words under a mark or in a block of a kind may be typed, taken away,
 * moved and parted; words that stood elsewhere do not come under it. What stands in one of the `others` is not new
 * either: a text the writer began with, or a version they went back to. Empty means accepted.
 */
export function acceptChange(
  before: Document,
  after: Document,
  hands: Hands,
  others: readonly Document[] = [],
): AcceptFault[] {
  const guarded = (made: string) => !isPlain(made) && !hands.makes(made);
  const newSince = (text: Document): AcceptFault[] => {
    const apart = apartOf(text, after);
    return apart ? [...newWords(apart, guarded), ...newAtoms(apart, guarded), ...newTables(apart, guarded)] : [];
  };
  let fresh = newSince(before);
  for (const text of others) {
    if (fresh.length === 0) break;
    const there = newSince(text);
    fresh = fresh.filter((fault) => there.some((one) => one.path === fault.path && one.made === fault.made));
  }
  const apart = apartOf(before, after);
  return [...(apart ? goneOf(apart, hands) : []), ...fresh];
}

/** Where two texts differ: all blocks but those they begin and end with alike. */
interface Apart {
  before: Blocks;
  after: Blocks;
  /** With one block more on each side, for what stands beside. */
  wider: { before: Blocks; after: Blocks };
}

/** Null where the two are the same. */
function apartOf({ content: a }: Document, { content: b }: Document): Apart | null {
  let [first, last] = [0, 0];
  while (first < a.length && first < b.length && isSame(a[first], b[first])) first++;
  while (last < a.length - first && last < b.length - first && isSame(a.at(-1 - last), b.at(-1 - last))) last++;
  if (first + last === a.length && a.length === b.length) return null;
  const cut = (list: readonly DocumentNode[], more: number): Blocks => {
    const at = Math.max(0, first - more);
    return { content: list.slice(at, list.length - Math.max(0, last - more)), at };
  };
  return { before: cut(a, 0), after: cut(b, 0), wider: { before: cut(a, 1), after: cut(b, 1) } };
}

/** Whether two parts of a document are the same through and through. */
function isSame(a: unknown, b: unknown): boolean {
  if (a === b || typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((one, i) => isSame(one, b[i]));
  const [one, other] = [a, b] as Record<string, unknown>[];
  return Object.keys({ ...one, ...other }).every((key) => isSame(one?.[key], other?.[key]));
}

/** What is left of a part when its words are left out. */
function formOf(node: DocumentNode): unknown {
  const { type, attrs, content = [] } = node as BlockNode;
  switch (type) {
    case 'table':
    case 'tableRow':
      return { type, attrs, content: content.map(formOf) };
    case 'bulletList':
    case 'orderedList':
      return { type, attrs, items: content.length };
    default:
      return { type, attrs };
  }
}

const countOf = <T>(list: readonly T[], keyOf: (one: T) => string): Map<string, number> => {
  const counts = new Map<string, number>();
  for (const one of list) counts.set(keyOf(one), (counts.get(keyOf(one)) ?? 0) + 1);
  return counts;
};

/** A part with words that stand under the same as one piece, however they came to be parted. */
function joined(value: unknown): unknown {
  if (Array.isArray(value)) {
    const out: unknown[] = [];
    for (const one of value.map(joined)) {
      const last = out.at(-1);
      if (isWords(last) && isWords(one) && canonical(last.marks ?? []) === canonical(one.marks ?? []))
        out[out.length - 1] = { ...last, text: last.text + one.text };
      else out.push(one);
    }
    return out;
  }
  return typeof value === 'object' && value !== null
    ? Object.fromEntries(Object.entries(value).map(([key, one]) => [key, joined(one)]))
    : value;
}
const isWords = (value: unknown): value is TextNode =>
  typeof value === 'object' && value !== null && 'type' in value && value.type === 'text';

/** What had to stay, whole or in its form, and did not. */
function goneOf({ before, after }: Apart, { makes, policyOf }: Hands): AcceptFault[] {
  interface Part {
    construct: string;
    made: string;
    path: string;
    whole: unknown;
    form: unknown;
  }
  const partsOf = (blocks: Blocks): Part[] => [
    ...nodesOf(blocks).map(({ node, path }): Part => ({
      construct: node.type,
      made: makeOf(node),
      path,
      whole: node,
      form: formOf(node),
    })),
    ...runsOf(blocks).map(({ mark, nodes, path }): Part => ({
      construct: mark.type,
      made: makeOf(mark),
      path,
      whole: { mark, nodes },
      form: mark,
    })),
  ];
  const faults: AcceptFault[] = [];
  const parts = { before: partsOf(before), after: partsOf(after) };
  for (const construct of new Set(parts.before.map((part) => part.construct))) {
    const policy = policyOf(construct);
    if (policy === 'free') continue;
    const keyOf = (part: Part) => canonical(policy === 'whole' ? joined(part.whole) : part.form);
    const kept = (list: readonly Part[]) => list.filter((part) => part.construct === construct && !makes(part.made));
    const left = countOf(kept(parts.after), keyOf);
    const sameMade = countOf(kept(parts.after), (part) => part.made);
    for (const part of kept(parts.before)) {
      const count = left.get(keyOf(part)) ?? 0;
      left.set(keyOf(part), count - 1);
      if (count > 0) continue;
      faults.push({
        construct,
        made: part.made,
        path: part.path,
        why: (sameMade.get(part.made) ?? 0) > 0 ? 'changed' : 'gone',
      });
    }
    // More of a form than there were: one of them was parted.
    if (policy === 'words')
      for (const part of kept(parts.after)) {
        const count = left.get(keyOf(part)) ?? 0;
        if (count <= 0 || faults.some((fault) => fault.construct === construct)) continue;
        faults.push({ construct, made: part.made, path: part.path, why: 'changed' });
      }
  }
  return faults;
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
  let [first, last] = [0, 0];
  while (first < before.length && first < after.length && before[first]?.key === after[first]?.key) first++;
  while (
    last < before.length - first &&
    last < after.length - first &&
    before[before.length - 1 - last]?.key === after[after.length - 1 - last]?.key
  )
    last++;
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
function newWords({ wider }: Apart, guarded: (made: string) => boolean): AcceptFault[] {
  const effort = new Effort();
  const middle = middleOf(tokensOf(wider.before), tokensOf(wider.after), effort);
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

/** Pictures and parts nobody knows that were not there: each is one whole. */
function newAtoms({ before, after }: Apart, guarded: (made: string) => boolean): AcceptFault[] {
  const atomsOf = (blocks: Blocks) => nodesOf(blocks).filter(({ node }) => isAtom(node));
  const left = countOf(atomsOf(before), ({ node }) => canonical(node));
  return atomsOf(after).flatMap(({ node, path }): AcceptFault[] => {
    const count = left.get(canonical(node)) ?? 0;
    left.set(canonical(node), count - 1);
    return count > 0 || !guarded(makeOf(node)) ? [] : [{ construct: node.type, made: makeOf(node), path, why: 'new' }];
  });
}

/** Whether the first of two lists is the second, less some. */
const isPartOf = <T>(some: readonly T[], all: readonly T[], isSame: (one: T, other: T) => boolean): boolean => {
  let at = 0;
  for (const one of all) {
    const next = some[at];
    if (next !== undefined && isSame(next, one)) at++;
  }
  return at === some.length;
};

/** Tables of another form than those that were there; rows and columns may go, none may come. */
function newTables({ before, after }: Apart, guarded: (made: string) => boolean): AcceptFault[] {
  if (!guarded('table')) return [];
  const tablesOf = (blocks: Blocks) =>
    nodesOf(blocks).flatMap(({ node, path }) => (node.type === 'table' ? [{ node, path }] : []));
  const childrenOf = (node: DocumentNode) => (node as BlockNode).content ?? [];
  const isCell = (a: DocumentNode, b: DocumentNode) =>
    canonical([a.type, (a as BlockNode).attrs ?? null]) === canonical([b.type, (b as BlockNode).attrs ?? null]);
  const isRow = (a: DocumentNode, b: DocumentNode) => isPartOf(childrenOf(a), childrenOf(b), isCell);
  const were = tablesOf(before);
  const fits = tablesOf(after).map(({ node }) =>
    were.flatMap((was, i) =>
      !guarded('tableRow') || isPartOf(childrenOf(node), childrenOf(was.node), isRow) ? [i] : [],
    ),
  );
  // Each is one of those that were (bipartite matching by augmenting paths: H. W. Kuhn, 1955).
  const taken = new Map<number, number>();
  const place = (table: number, tried: Set<number>): boolean =>
    (fits[table] ?? []).some((was) => {
      if (tried.has(was)) return false;
      tried.add(was);
      const holder = taken.get(was);
      if (holder !== undefined && !place(holder, tried)) return false;
      taken.set(was, table);
      return true;
    });
  return tablesOf(after).flatMap(({ path }, i): AcceptFault[] =>
    place(i, new Set()) ? [] : [{ construct: 'table', made: 'table', path, why: 'new' }],
  );
}
