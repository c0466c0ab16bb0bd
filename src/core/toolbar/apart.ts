import type { Document, DocumentNode } from '../content';
import { sameJson } from '../json';
import type { Blocks } from './made';

/** What is not accepted: something `new` that no tool at hand makes, or something `gone` or `changed` that had to stay. */
export interface AcceptFault {
  construct: string;
  /** What a tool would have to make (`makeOf`). */
  made: string;
  /** Where (a JSON pointer): in the later document what is new, in the earlier one what is gone or changed. */
  path: string;
  why: 'new' | 'gone' | 'changed';
}

/** How many entries two lists begin with alike, and how many they then end with alike. */
export function alikeEnds<T>(
  a: readonly T[],
  b: readonly T[],
  isSame: (one: T, other: T) => boolean,
): [number, number] {
  const most = Math.min(a.length, b.length);
  const same = (i: number, j: number) => {
    const [one, other] = [a[i], b[j]];
    return one !== undefined && other !== undefined && isSame(one, other);
  };
  let [first, last] = [0, 0];
  while (first < most && same(first, first)) first++;
  while (last < most - first && same(a.length - 1 - last, b.length - 1 - last)) last++;
  return [first, last];
}

/** Where two texts differ: all blocks but those they begin and end with alike. */
export interface BlocksApart {
  before: Blocks;
  after: Blocks;
  /** With one block more on each side, for what stands beside. */
  wider: { before: Blocks; after: Blocks };
}

/** Null where the two are the same. */
export function apartOf({ content: a }: Document, { content: b }: Document): BlocksApart | null {
  const [first, last] = alikeEnds(a, b, sameJson);
  if (first + last === a.length && a.length === b.length) return null;
  const cut = (list: readonly DocumentNode[], more: number): Blocks => {
    const at = Math.max(0, first - more);
    return { content: list.slice(at, list.length - Math.max(0, last - more)), at };
  };
  return { before: cut(a, 0), after: cut(b, 0), wider: { before: cut(a, 1), after: cut(b, 1) } };
}
