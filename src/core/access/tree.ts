import type { PageId, PersonId } from './types';

/** The thing that lies nowhere, as a page number. Real pages count from 1. */
export const NOWHERE = 0;

export interface TreePage {
  id: PageId;
  parent: PageId | null;
  layout: string;
  state: string;
  author: PersonId | null;
}

/** A page tree as numbers: pages in pre-order from 1, so that a branch is an interval of numbers. */
export interface Tree {
  /** How many pages, which is also the last number. */
  size: number;
  /** 32-bit words that hold a bit for every number, 0 included. */
  words: number;
  /** Number of a page; undefined when there is none of that id. */
  number(id: PageId): number | undefined;
  /** Id of the page with a number from 1 on. */
  id(number: number): PageId;
  /** The layouts and states that occur together; class 0 is null, for what lies nowhere. */
  classes: readonly ({ layout: string; state: string } | null)[];
  classOf: Uint16Array;
  /** Person numbers by page number; -1 for nobody. */
  authors: Int32Array;
  /** First and last number of a page and all below it; undefined when there is no such page. */
  interval(id: PageId): readonly [number, number] | undefined;
  /** Numbers of the pages whose author is a person, ascending. */
  pagesBy(person: number): Uint32Array;
}

/**
 * Numbers pages in pre-order (Knuth, The Art of Computer Programming, vol. 1, 2.3.2; value from memory); brothers keep
 * the order they are given in. Throws a RangeError when a parent is not among the pages or the pages run in a circle.
 */
export function numberPages(pages: readonly TreePage[], personNumbers: ReadonlyMap<PersonId, number>): Tree {
  const size = pages.length;
  const given = new Map<PageId, number>();
  for (let i = 0; i < size; i++) given.set((pages[i] as TreePage).id, i);
  // One pass over the pages as they are given puts all that is needed into typed arrays; the walk then jumps about in
  // those only.
  const firstBelow = new Int32Array(size).fill(-1);
  const next = new Int32Array(size).fill(-1);
  const classGiven = new Uint16Array(size);
  const authorGiven = new Int32Array(size).fill(-1);
  const classes: ({ layout: string; state: string } | null)[] = [null];
  const classNumbers = new Map<string, Map<string, number>>();
  let root = -1;
  for (let i = size - 1; i >= 0; i--) {
    const { parent, id, layout, state, author } = pages[i] as TreePage;
    let ofLayout = classNumbers.get(layout);
    if (!ofLayout) classNumbers.set(layout, (ofLayout = new Map<string, number>()));
    let kind = ofLayout.get(state);
    if (kind === undefined) ofLayout.set(state, (kind = classes.push({ layout, state }) - 1));
    classGiven[i] = kind;
    if (author !== null) authorGiven[i] = personNumbers.get(author) ?? -1;
    if (parent === null) {
      next[i] = root;
      root = i;
      continue;
    }
    const above = given.get(parent);
    if (above === undefined) throw new RangeError(`page "${id}" lies under "${parent}", which is not there`);
    next[i] = firstBelow[above] as number;
    firstBelow[above] = i;
  }
  const numberOf = new Uint32Array(size);
  const givenOf = new Uint32Array(size + 1);
  const last = new Uint32Array(size + 1);
  const classOf = new Uint16Array(size + 1);
  const authors = new Int32Array(size + 1).fill(-1);
  const open = new Uint32Array(size);
  let depth = 0;
  let at = root;
  let n = 0;
  while (at !== -1 || depth > 0) {
    if (at === -1) {
      const done = open[--depth] as number;
      last[numberOf[done] as number] = n;
      at = next[done] as number;
      continue;
    }
    n++;
    numberOf[at] = n;
    givenOf[n] = at;
    classOf[n] = classGiven[at] as number;
    authors[n] = authorGiven[at] as number;
    open[depth++] = at;
    at = firstBelow[at] as number;
  }
  if (n !== size) throw new RangeError('some pages lie under one another in a circle');

  const starts = new Uint32Array(personNumbers.size + 1);
  for (let page = 1; page <= size; page++) if ((authors[page] as number) >= 0) starts[(authors[page] as number) + 1]!++;
  for (let p = 0; p < personNumbers.size; p++) starts[p + 1]! += starts[p] as number;
  const byAuthor = new Uint32Array(starts[personNumbers.size] as number);
  const filled = starts.slice();
  for (let page = 1; page <= size; page++)
    if ((authors[page] as number) >= 0) byAuthor[filled[authors[page] as number]!++] = page;

  const number = (id: PageId): number | undefined => {
    const i = given.get(id);
    return i === undefined ? undefined : numberOf[i];
  };
  return {
    size,
    words: (size >>> 5) + 1,
    number,
    id: (page) => (pages[givenOf[page] as number] as TreePage).id,
    classes,
    classOf,
    authors,
    interval: (id) => {
      const first = number(id);
      return first === undefined ? undefined : [first, last[first] as number];
    },
    pagesBy: (person) => byAuthor.subarray(starts[person], starts[person + 1]),
  };
}
