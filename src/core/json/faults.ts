import type { z } from 'zod';
import { canonical } from './canonical';

/** Something wrong in a document, with the JSON path to it (RFC 9535: `$.roles[0].id`). */
export interface Fault {
  path: string;
  message: string;
}

/**
 * A JSONPath (RFC 9535) that names one place, with the shorthand of section 2.5.1.1 where a name allows it: easier to
 * read than the normalized path of 2.7, and selects the same.
 */
export const jsonPath = (parts: readonly PropertyKey[]): string =>
  `$${parts.map((part) => (typeof part === 'number' ? `[${part}]` : /^[A-Za-z_]\w*$/.test(String(part)) ? `.${String(part)}` : `['${String(part).replaceAll('\\', '\\\\').replaceAll("'", "\\'")}']`)).join('')}`;

/** What sort of value was waited for, by the name the schema has for it. */
const SORTS: Record<string, string> = {
  string: 'text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'null',
};
const least = (n: number | bigint, of: string) => (of === 'string' ? `${n} characters` : of === 'array' ? `${n}` : n);

/** What is wrong with a value, in plain words, where its schema says nothing of its own: to be given to `safeParse`. */
export function inPlainWords(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined
        ? 'this is missing'
        : `this should be ${SORTS[issue.expected] ?? 'of another kind'}`;
    case 'invalid_value':
      return `this should be ${issue.values.length > 1 ? 'one of ' : ''}${issue.values.map((value) => JSON.stringify(value)).join(', ')}`;
    case 'too_big':
      return `this should be at most ${least(issue.maximum, issue.origin)}`;
    case 'too_small':
      return `this should be at least ${least(issue.minimum, issue.origin)}`;
    case 'unrecognized_keys':
      return `nothing of the name ${issue.keys.map((key) => `“${key}”`).join(', ')} belongs here`;
    case 'invalid_format':
      return 'this is not written as it should be';
    default:
      return 'this is not of any form that fits here';
  }
}

export const faultsOf = (error: z.ZodError): Fault[] =>
  error.issues.flatMap((issue) =>
    issue.code === 'unrecognized_keys'
      ? issue.keys.map((key) => ({
          path: jsonPath([...issue.path, key]),
          message: 'nothing of this name belongs here',
        }))
      : [{ path: jsonPath(issue.path), message: issue.message }],
  );

/** The entries of a list that run in a circle along `next`. */
function circles(ids: readonly string[], next: (id: string) => readonly string[]): string[] {
  const done = new Map<string, 'open' | 'done'>();
  const found: string[] = [];
  for (const start of ids) {
    // Depth first with a stack of our own: chains can be longer than the call stack.
    const stack: { id: string; below: readonly string[]; at: number }[] = [];
    const enter = (one: string) => {
      done.set(one, 'open');
      stack.push({ id: one, below: next(one), at: 0 });
    };
    if (!done.has(start)) enter(start);
    for (let top = stack.at(-1); top; top = stack.at(-1)) {
      const below = top.below[top.at++];
      if (below === undefined) {
        done.set(top.id, 'done');
        stack.pop();
      } else if (done.get(below) === 'open') found.push(top.id);
      else if (!done.has(below)) enter(below);
    }
  }
  return found;
}

/**
 * What is wrong in an open document beyond its form: ids that stand there twice, that name nothing, or that run in a
 * circle.
 */
export function documentFaults() {
  const faults: Fault[] = [];
  const fault = (path: readonly PropertyKey[], message: string) => void faults.push({ path: jsonPath(path), message });
  return {
    faults,
    fault,
    /** Where in a list each id stands first. */
    index: (list: readonly { id: string }[], path: readonly PropertyKey[]): Map<string, number> => {
      const map = new Map<string, number>();
      list.forEach((entry, i) => {
        if (map.has(entry.id)) fault([...path, i, 'id'], `"${entry.id}" stands there twice`);
        else map.set(entry.id, i);
      });
      return map;
    },
    known: (
      map: { has: (id: string) => boolean },
      what: string,
      one: string | undefined | null,
      path: readonly PropertyKey[],
    ) => {
      if (one !== undefined && one !== null && !map.has(one)) fault(path, `there is no ${what} "${one}"`);
    },
    once: (list: readonly unknown[], path: readonly PropertyKey[]) => {
      const seen = new Set<string>();
      list.forEach((entry, i) => {
        const key = canonical(entry);
        if (seen.has(key)) fault([...path, i], 'stands there twice');
        seen.add(key);
      });
    },
    /** Tells of the entries of a list that run in a circle along `next`, each once. */
    inCircle: <T extends { id: string }>(
      list: readonly T[],
      next: (entry: T) => readonly string[],
      tell: (id: string, at: number) => void,
    ) => {
      const byId = new Map(list.map((entry, i) => [entry.id, { entry, i }]));
      const found = circles(
        list.map((entry) => entry.id),
        (id) => {
          const there = byId.get(id);
          return there ? next(there.entry) : [];
        },
      );
      for (const id of new Set(found)) tell(id, byId.get(id)?.i ?? 0);
    },
  };
}
