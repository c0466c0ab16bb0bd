import type { BlockNode } from '../content';
import { align, Steps } from './align';
import type { AcceptFault, BlocksApart } from './apart';
import { lessOne, makeOf, tokensOf, type Token } from './made';

/** From what share of their letters on words are those that stood there, and not new ones; and those brought along. */
const [SAME_WORDS, BROUGHT_WORDS] = [0.5, 0.8];
/** From how many letters on a row of them that stood there is no accident; and from how many on it decides alone. */
const [NO_ACCIDENT, SURELY] = [3, 20];
/** Up to how many letters two pieces of text, and all pieces together, are compared letter by letter. */
const [LETTER_BY_LETTER, LETTERS_AT_MOST] = [3000, 40_000];

/** How many pieces at the most can be put in between two parts of a block. */
const MOST_BETWEEN = 100;

/** A word, a letter, the beginning of a paragraph or heading, or an atom, as part of a text laid beside another. */
interface Unit {
  text: string;
  token: Token;
}

/** Two texts laid beside one another. Numbers are places among the units of `before` and `after`. */
interface Beside {
  before: Unit[];
  after: Unit[];
  /** The place of each unit in the other text, -1 where it has none. */
  toBefore: Int32Array;
  toAfter: Int32Array;
  /** How many pairs stand before each unit: units between two pairs lie in one gap. */
  gapBefore: Int32Array;
  gapAfter: Int32Array;
  /** Gaps beyond what comparing may cost. */
  blind: ReadonlySet<number>;
}

const looksAside = ({ text, token }: Unit): string => (token.begins ? '¶' : token.atom ? `\u0001${token.text}` : text);
const asUnit = (token: Token): Unit => ({ text: token.begins || token.atom ? '' : token.text, token });
const asLetters = (token: Token): Unit[] =>
  token.begins || token.atom ? [asUnit(token)] : [...token.text].map((text) => ({ text, token }));

/**
 * First what stands under the same of what is `watched`, in words, then in letters; then, between that, what is the same
 * when looks are left aside.
 */
function layBeside(older: readonly Token[], newer: readonly Token[], watched: ReadonlySet<string>): Beside {
  const effort = new Steps();
  const [before, after]: [Unit[], Unit[]] = [[], []];
  const pairs: [number, number][] = [];
  const blindFrom: number[] = [];
  let lettersLeft = LETTERS_AT_MOST;
  const signs = new Map<Token, string>();
  const signOf = (token: Token): string => {
    let sign = signs.get(token);
    if (sign === undefined) {
      sign = [...token.under].flatMap(([key, { length }]) => (watched.has(key) ? [`${key}×${length}`] : [])).join(' ');
      signs.set(token, sign);
    }
    return sign;
  };
  const withSign = (unit: Unit) => `${looksAside(unit)}\n${signOf(unit.token)}`;
  const keys: ((side: string) => (unit: Unit, at: number) => string)[] = [
    // A space alone holds nothing in place.
    (side) => (unit, at) =>
      unit.token.begins || unit.token.atom || unit.text.trim() !== '' ? withSign(unit) : `${side} ${at}`,
    () => withSign,
    () => looksAside,
  ];
  /** What one stage holds in place parts the rest, which the next one looks at; short pieces from the second on in letters. */
  const lay = (a: readonly Unit[], b: readonly Unit[], stage: number): void => {
    const key = a.length > 0 && b.length > 0 ? keys[stage] : undefined;
    if (!key) {
      for (const unit of a) before.push(unit);
      for (const unit of b) after.push(unit);
      return;
    }
    const letters = stage === 1 ? [...a, ...b].reduce((sum, unit) => sum + unit.text.length, 0) : Infinity;
    const isShort = letters <= Math.min(LETTER_BY_LETTER, lettersLeft);
    if (isShort) lettersLeft -= letters;
    const [were, are] = isShort ? [a, b].map((units) => units.flatMap(({ token }) => asLetters(token))) : [a, b];
    const found = align((were ?? []).map(key('older')), (are ?? []).map(key('newer')), effort);
    const blind = new Set(stage === keys.length - 1 ? found.blind.map(([from]) => from) : []);
    // Single letters that happen to be the same hold nothing in place: what they part is looked at whole.
    const held = isShort && stage < keys.length - 1 ? inRows(found.pairs) : found.pairs;
    let [i, j] = [0, 0];
    const upTo = (x: number, y: number) => {
      if (blind.has(j)) blindFrom.push(after.length);
      lay((were ?? []).slice(i, x), (are ?? []).slice(j, y), stage + 1);
    };
    for (const [x, y] of held) {
      upTo(x, y);
      const [was, is] = [were?.[x], are?.[y]];
      if (was && is) pairs.push([before.push(was) - 1, after.push(is) - 1]);
      [i, j] = [x + 1, y + 1];
    }
    upTo(were?.length ?? 0, are?.length ?? 0);
  };
  lay(older.map(asUnit), newer.map(asUnit), 0);

  const toBefore = new Int32Array(after.length).fill(-1);
  const toAfter = new Int32Array(before.length).fill(-1);
  for (const [x, y] of pairs) [toBefore[y], toAfter[x]] = [x, y];
  // Where a paragraph begins parts nothing: what stands at its end and at the beginning of the next are in one place.
  const gaps = (to: Int32Array, units: readonly Unit[]) => {
    let count = 0;
    return to.map((place, at) => (place >= 0 && units[at]?.token.begins === false ? count++ : count));
  };
  const gapAfter = gaps(toBefore, after);
  return {
    before,
    after,
    toBefore,
    toAfter,
    gapBefore: gaps(toAfter, before),
    gapAfter,
    blind: new Set(blindFrom.map((at) => gapAfter[at] ?? 0)),
  };
}

/** Pairs that follow one another in rows that are no accident. */
function inRows(pairs: readonly (readonly [number, number])[]): (readonly [number, number])[] {
  const out: (readonly [number, number])[] = [];
  let from = 0;
  pairs.forEach(([x, y], at) => {
    const next = pairs[at + 1];
    if (next?.[0] === x + 1 && next[1] === y + 1) return;
    if (at + 1 - from >= NO_ACCIDENT) out.push(...pairs.slice(from, at + 1));
    from = at + 1;
  });
  return out;
}

/** Words that came under a mark or into a block of a kind, as it stands in the later text. */
interface Segment {
  /** Of a block where it stands, of words under a mark where they begin: the same whatever it is compared with. */
  path: string;
  units: number[];
}

/** The places of all that stands under something, for each thing, and each time it stands in itself. */
function placesUnder(units: readonly Unit[]): Map<string, number[][]> {
  const out = new Map<string, number[][]>();
  units.forEach(({ token }, at) => {
    for (const [key, { length }] of token.under) {
      let depths = out.get(key);
      if (!depths) out.set(key, (depths = []));
      for (let depth = 0; depth < length; depth++) (depths[depth] ??= []).push(at);
    }
  });
  return out;
}

/** The blocks of a kind, or runs of words under a mark, that some units are; atoms do not part words. */
function segmentsOf(units: readonly Unit[], places: readonly number[], key: string, depth: number): Segment[] {
  const out: Segment[] = [];
  let last: { block: string; at: number } | undefined;
  for (const at of places) {
    const token = units[at]?.token;
    const block = token?.under.get(key)?.[depth] ?? '';
    let goesOn = last?.block === block;
    // Of a mark: only what follows, with nothing between but atoms.
    for (let i = (last?.at ?? at) + 1; goesOn && block === '' && i < at; i++) goesOn = units[i]?.token.atom === true;
    if (goesOn) out.at(-1)?.units.push(at);
    else out.push({ path: block === '' ? (token?.path ?? '') : block, units: [at] });
    last = { block, at };
  }
  return out;
}

/** Words under something that no tool at hand makes, where they were neither typed, nor brought from under the same. */
export function newWords({ wider }: BlocksApart, guarded: (made: string) => boolean): AcceptFault[] {
  const later = tokensOf(wider.after);
  const parts = new Map<string, { part: BlockNode; made: string }>();
  for (const token of later)
    for (const key of token.under.keys()) {
      if (parts.has(key)) continue;
      const part = JSON.parse(key) as BlockNode;
      parts.set(key, { part, made: makeOf(part) });
    }
  // Most texts hold nothing that is guarded: then there is nothing to compare them for.
  const watched = [...parts].filter(([, { made }]) => guarded(made));
  if (watched.length === 0) return [];
  const earlier = tokensOf(wider.before);
  const once = new Set(earlier.flatMap((token) => [...token.under.keys()]));
  // What stood nowhere came from nothing, and nothing has to be compared for it.
  const isFresh = watched.every(([key]) => !once.has(key));
  const beside = isFresh ? layBeside([], later, once) : layBeside(earlier, later, new Set(watched.map(([key]) => key)));
  const [were, are] = [placesUnder(beside.before), placesUnder(beside.after)];
  return watched.flatMap(([key, { part, made }]) =>
    (are.get(key) ?? []).flatMap((places, depth) =>
      newUnder(beside, key, depth, were.get(key)?.[depth] ?? [], places).map((path) => ({
        construct: part.type,
        made,
        path,
        why: 'new' as const,
      })),
    ),
  );
}

/** Where something came newly under one thing: the paths of its blocks or runs of words that nobody could have made. */
function newUnder(
  beside: Beside,
  key: string,
  depth: number,
  were: readonly number[],
  are: readonly number[],
): string[] {
  const { before, after, toBefore, toAfter, gapBefore, gapAfter, blind } = beside;
  const isUnder = (unit: Unit | undefined) => (unit?.token.under.get(key)?.length ?? 0) > depth;
  const stays = (at: number) => isUnder(before[toBefore[at] ?? -1]);
  const stayed = (at: number) => isUnder(after[toAfter[at] ?? -1]);
  const added = are.filter((at) => !stays(at));
  if (added.length === 0) return [];

  // Where something that stood there came under it, or out of it, two gaps are one.
  const parts = (unit: Unit | undefined) => unit?.token.begins === false;
  const moved = new Set([
    ...added.flatMap((at) => ((toBefore[at] ?? -1) >= 0 && parts(after[at]) ? [gapAfter[at] ?? 0] : [])),
    ...were.flatMap((at) => ((toAfter[at] ?? -1) >= 0 && !stayed(at) && parts(before[at]) ? [gapBefore[at] ?? 0] : [])),
  ]);
  const first = new Map<number, number>();
  for (const gap of [...moved].sort((one, other) => one - other)) first.set(gap, first.get(gap - 1) ?? gap);
  const gapOf = (gap: number) => first.get(gap) ?? first.get(gap - 1) ?? gap;

  // What is gone from under it: it may have been typed over, or moved.
  const gone = segmentsOf(before, were, key, depth).flatMap(({ units }) => runsOf(units, (at) => !stayed(at)));
  const over = new Map<number, number>();
  const lettersGone = new Map<number, number>();
  const pool = new Pool();
  for (const run of gone) {
    const gap = gapOf(gapBefore[run[0] ?? 0] ?? 0);
    over.set(gap, (over.get(gap) ?? 0) + 1);
    const words = wordsOf(before, run);
    lettersGone.set(gap, (lettersGone.get(gap) ?? 0) + words.length);
    pool.add(words, atomsOf(before, run));
  }

  /**
   * Whether a block that is new is the other part of one that stayed, with something put in between: a paragraph more
   * begins in it, and all between is new.
   */
  const isPartedOff = (units: readonly number[]): boolean => {
    const [from, to] = [units[0] ?? 0, units.at(-1) ?? 0];
    if (units.some((at) => (toBefore[at] ?? -1) >= 0)) return false;
    return [-1, 1].some((way) => {
      const edge = way < 0 ? from : to;
      let at = edge + way;
      while (Math.abs(at - edge) < MOST_BETWEEN && toBefore[at] === -1 && !isUnder(after[at])) at += way;
      return Math.abs(at - edge) > 1 && stays(at);
    });
  };
  return segmentsOf(after, are, key, depth).flatMap(({ path, units }) => {
    const chunks = runsOf(units, (at) => !stays(at));
    if (chunks.length === 0) return [];
    const isKept = units.some(stays);
    const take = (gap: number) => {
      const left = over.get(gap) ?? 0;
      over.set(gap, left - 1);
      return left > 0;
    };
    const gap = gapOf(gapAfter[chunks[0]?.[0] ?? 0] ?? 0);
    // Beyond what comparing may cost, no more may stand there than stood there.
    for (const chunk of chunks) {
      const hidden = chunk.filter((at) => blind.has(gapAfter[at] ?? 0));
      if (hidden.length === 0) continue;
      const [here, letters] = [gapOf(gapAfter[hidden[0] ?? 0] ?? 0), wordsOf(after, hidden).length];
      lettersGone.set(here, (lettersGone.get(here) ?? 0) - letters);
      if ((lettersGone.get(here) ?? 0) < 0) return [path];
    }
    if (chunks.some((chunk) => isDrawnIn(beside, chunk))) return [path];
    if (isKept || isPartedOff(units)) return [];
    return pool.take(wordsOf(after, units), atomsOf(after, units)) || take(gap) ? [] : [path];
  });
}

/** Places that follow one another in a segment and fulfil something, cut where one does not. */
function runsOf(places: readonly number[], holds: (at: number) => boolean): number[][] {
  const out: number[][] = [];
  let isOpen = false;
  for (const at of places) {
    if (!holds(at)) isOpen = false;
    else if (isOpen) out.at(-1)?.push(at);
    else {
      out.push([at]);
      isOpen = true;
    }
  }
  return out;
}

const wordsOf = (units: readonly Unit[], places: readonly number[]): string =>
  places.map((at) => units[at]?.text ?? '').join('');
const atomsOf = (units: readonly Unit[], places: readonly number[]): string[] =>
  places.flatMap((at) => {
    const token = units[at]?.token;
    return token?.atom && token.text !== '' ? [token.text] : [];
  });

const lettersIn = (text: string): number => text.replaceAll(/\s/g, '').length;
/**
 * Whether most of what came under something stood there, and not under it, in rows that are no accident: of several
 * letters, or with what stands before and behind them where it stood.
 */
function isDrawnIn({ after, before, toBefore, toAfter }: Beside, chunk: readonly number[]): boolean {
  const all = lettersIn(wordsOf(after, chunk));
  const goesOn = (at: number, place: number) =>
    (place < 0 && at < 0) ||
    (place >= before.length && at >= after.length) ||
    (toBefore[at] === place && toAfter[place] === at);
  let [drawn, longest] = [0, 0];
  let row: number[] = [];
  const end = () => {
    const [from = 0, to = 0] = [row[0], row.at(-1)];
    const letters = row.length === 0 ? 0 : lettersIn(wordsOf(after, row));
    const holds = () => goesOn(from - 1, (toBefore[from] ?? 0) - 1) && goesOn(to + 1, (toBefore[to] ?? 0) + 1);
    if (letters >= NO_ACCIDENT || (letters > 0 && holds())) drawn += letters;
    longest = Math.max(longest, letters);
    row = [];
  };
  for (const at of chunk) {
    const place = toBefore[at] ?? -1;
    const last = row.at(-1);
    if (place < 0 || (last !== undefined && place !== (toBefore[last] ?? -1) + 1)) end();
    if (place >= 0) row.push(at);
  }
  end();
  return all > 0 && (drawn >= SAME_WORDS * all || longest >= SURELY);
}

/** Words and atoms that are gone from under something, counted by rows of three letters: some may be there again. */
class Pool {
  private readonly letters = new Map<string, number>();
  private readonly atoms = new Map<string, number>();

  add(words: string, atoms: readonly string[]): void {
    for (const row of rowsOf(words)) this.letters.set(row, (this.letters.get(row) ?? 0) + 1);
    for (const atom of atoms) this.atoms.set(atom, (this.atoms.get(atom) ?? 0) + 1);
  }

  /** Whether something is from there, but for a few letters; then it is taken out. */
  take(words: string, atoms: readonly string[]): boolean {
    const rows = rowsOf(words);
    if (rows.length + atoms.length === 0) return false;
    const taken = rows.filter((row) => lessOne(this.letters, row));
    const isFrom = taken.length >= BROUGHT_WORDS * rows.length && atoms.every((atom) => lessOne(this.atoms, atom));
    if (!isFrom) for (const row of taken) this.letters.set(row, (this.letters.get(row) ?? 0) + 1);
    return isFrom;
  }
}
function rowsOf(words: string): string[] {
  const letters = words.replaceAll(/\s+/g, ' ').trim();
  if (letters === '') return [];
  return letters.length < NO_ACCIDENT
    ? [letters]
    : Array.from({ length: letters.length - NO_ACCIDENT + 1 }, (_, i) => letters.slice(i, i + NO_ACCIDENT));
}
