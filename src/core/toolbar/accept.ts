import { canonical } from '../json';
import type { BlockNode, Document, DocumentNode, TextNode } from '../content';
import { apartOf, type AcceptFault, type BlocksApart } from './apart';
import { isAtom, isPlain, lessOne, makeOf, nodesOf, runsOf, type Blocks } from './made';
import type { ConstructPolicy } from './policy';
import { newWords } from './words';

export interface Hands {
  /** Whether a tool at hand makes it: a construct, of headings and links with level and kind (`makeOf`). */
  makes: (made: string) => boolean;
  /** What holds of a construct that none makes. */
  policyOf: (construct: string) => ConstructPolicy;
}

/**
 * Whether what somebody made of a text can be accepted: everything new in it can be made with the tools at hand, what
 * had to stay is there, everything else is free. Words under a mark or in a block of a kind may be typed, taken away,
 * moved and parted; words that stood elsewhere do not come under it. What stands in one of the texts they take `from` is
 * not new: the one before, one they began with, or a version they went back to. Empty means accepted.
 */
export function acceptChange(
  before: Document,
  after: Document,
  hands: Hands,
  from: readonly Document[] = [before],
): AcceptFault[] {
  const guarded = (made: string) => !isPlain(made) && !hands.makes(made);
  const apart = apartOf(before, after);
  if (!apart && from.includes(before)) return [];
  let words: AcceptFault[] | undefined;
  for (const text of from.length > 0 ? from : [EMPTY]) {
    if (words?.length === 0) break;
    const other = text === before ? apart : apartOf(text, after);
    const here = other ? newWords(other, guarded) : [];
    // Where something came to be is the same place of the later text, whatever that is compared with.
    const there = new Set(here.map(placeOf));
    words = words ? words.filter((fault) => there.has(placeOf(fault))) : here;
  }
  return [
    ...(apart ? goneOf(apart, hands) : []),
    ...(words ?? []),
    ...newAtoms(from, after, guarded),
    ...newTables(from, after, guarded),
  ];
}
const EMPTY: Document = { type: 'doc', content: [] };
const placeOf = ({ made, path }: AcceptFault): string => `${made} ${path}`;

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
function goneOf({ before, after }: BlocksApart, { makes, policyOf }: Hands): AcceptFault[] {
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
    // Rows and columns can be changed with a tool of their own: then a table only has to be there.
    const isRows = construct === 'table' && makes('tableRow');
    const keyOf = (part: Part) => (isRows ? construct : canonical(policy === 'whole' ? joined(part.whole) : part.form));
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
    if (policy !== 'words' || faults.some((fault) => fault.construct === construct)) continue;
    const parted = kept(parts.after).find((part) => {
      const count = left.get(keyOf(part)) ?? 0;
      left.set(keyOf(part), count - 1);
      return count > 0;
    });
    if (parted) faults.push({ construct, made: parted.made, path: parted.path, why: 'changed' });
  }
  return faults;
}

/** Pictures and parts nobody knows, more of one than stood in any of the texts: each is one whole. */
function newAtoms(texts: readonly Document[], after: Document, guarded: (made: string) => boolean): AcceptFault[] {
  const atomsOf = ({ content }: Document) =>
    nodesOf({ content, at: 0 })
      .filter(({ node }) => isAtom(node) && guarded(makeOf(node)))
      .map(({ node, path }) => ({ node, path, key: canonical(node) }));
  const atoms = atomsOf(after);
  if (atoms.length === 0) return [];
  const left = new Map<string, number>();
  for (const text of texts)
    for (const [key, count] of countOf(atomsOf(text), (one) => one.key))
      left.set(key, Math.max(left.get(key) ?? 0, count));
  return atoms.flatMap(({ node, path, key }): AcceptFault[] => {
    const count = left.get(key) ?? 0;
    left.set(key, count - 1);
    return count > 0 ? [] : [{ construct: node.type, made: makeOf(node), path, why: 'new' }];
  });
}

/** Whether the first of two lists is the second, less some. */
const isPartOf = <T>(some: readonly T[], all: readonly T[], fits: (one: T, other: T) => boolean): boolean => {
  let at = 0;
  for (const one of all) {
    const next = some[at];
    if (next !== undefined && fits(next, one)) at++;
  }
  return at === some.length;
};

/** As many tables of other forms than before as are compared with one another; what is beyond is not accepted. */
const MOST_TABLES = 60;

/** Tables of another form than those that stood in one of the texts; rows and columns may go, none may come. */
function newTables(texts: readonly Document[], after: Document, guarded: (made: string) => boolean): AcceptFault[] {
  if (!guarded('table')) return [];
  const tablesOf = ({ content }: Document): Table[] =>
    nodesOf({ content, at: 0 }).flatMap(({ node, path }) =>
      node.type === 'table' ? [{ path, node, form: canonical(formOf(node)) }] : [],
    );
  let left = tablesOf(after);
  for (const text of texts) {
    if (left.length === 0) break;
    left = tablesBeside(tablesOf(text), left, guarded('tableRow'));
  }
  return left.map(({ path }): AcceptFault => ({ construct: 'table', made: 'table', path, why: 'new' }));
}

interface Table {
  path: string;
  node: DocumentNode;
  form: string;
}

/** The tables that are none of those that were, less some rows and columns. */
function tablesBeside(were: readonly Table[], are: readonly Table[], isRowsToo: boolean): Table[] {
  // First those of one form: most are.
  const same = countOf(were, ({ form }) => form);
  const changed = are.filter(({ form }) => !lessOne(same, form));
  const free = were.filter(({ form }) => lessOne(same, form));
  const [some, those] = [changed.slice(0, MOST_TABLES), free.slice(0, MOST_TABLES)];
  const childrenOf = (node: DocumentNode) => (node as BlockNode).content ?? [];
  const isCell = (a: DocumentNode, b: DocumentNode) =>
    canonical([a.type, (a as BlockNode).attrs ?? null]) === canonical([b.type, (b as BlockNode).attrs ?? null]);
  const isRow = (a: DocumentNode, b: DocumentNode) => isPartOf(childrenOf(a), childrenOf(b), isCell);
  const fits = some.map(({ node }) =>
    those.flatMap((was, i) => (!isRowsToo || isPartOf(childrenOf(node), childrenOf(was.node), isRow) ? [i] : [])),
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
  return changed.filter((_, i) => i >= some.length || !place(i, new Set()));
}
