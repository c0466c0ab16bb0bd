import { sameJson } from '../json';

// What changed within one value, by its fields and the entries of its lists, so that changes of different ones stand
// beside one another.

type Fields = Record<string, unknown>;
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** By what the entries of a list are told apart. */
const KEYS = ['id', 'task', 'section'] as const;

/** The entries of a list by name, words by themselves; undefined for a value that is no list of named entries. */
function entriesOf(value: unknown): Map<string, unknown> | undefined {
  if (!Array.isArray(value)) return undefined;
  if (value.length > 0 && value.every((one) => typeof one === 'string')) {
    const words = new Map(value.map((one) => [one, one]));
    return words.size === value.length ? words : undefined;
  }
  if (!value.every(isFields)) return undefined;
  const key = KEYS.find((one) => value.every((entry) => typeof entry[one] === 'string'));
  const nameOf = (entry: Fields) => {
    const name = key && entry[key];
    return typeof name === 'string' ? name : '';
  };
  const out = new Map(value.map((entry) => [nameOf(entry), entry]));
  return out.size === value.length ? out : undefined;
}

/** Whether what two collections share stands in another order. */
export function isMoved(a: ReadonlyMap<string, unknown>, b: ReadonlyMap<string, unknown>): boolean {
  const shared = (one: ReadonlyMap<string, unknown>, other: ReadonlyMap<string, unknown>) =>
    [...one.keys()].filter((name) => other.has(name)).join('\n');
  return shared(a, b) !== shared(b, a);
}
const keysOf = (a: Fields, b: Fields) => [...new Set([...Object.keys(a), ...Object.keys(b)])];

/** What differs between two values, each as a path of names that begins with the one given. */
export function differing(a: unknown, b: unknown, path: string): string[] {
  if (sameJson(a, b)) return [];
  if (isFields(a) && isFields(b)) return keysOf(a, b).flatMap((key) => differing(a[key], b[key], `${path} ${key}`));
  const [one, two] = [entriesOf(a), entriesOf(b)];
  if (!one || !two) return [path];
  const names = [...new Set([...one.keys(), ...two.keys()])];
  return [
    ...names.filter((name) => !sameJson(one.get(name), two.get(name))).map((name) => `${path} ${name}`),
    ...(isMoved(one, two) ? [`${path} order`] : []),
  ];
}

/** A value with what was changed from `from` to `to` changed in it, and all else left as it is. */
export function changedAlike(value: unknown, from: unknown, to: unknown): unknown {
  if (sameJson(from, to)) return value;
  if (isFields(from) && isFields(to) && isFields(value)) {
    const out: Fields = { ...value };
    for (const key of keysOf(from, to)) {
      const next = changedAlike(value[key], from[key], to[key]);
      if (next === undefined) delete out[key];
      else out[key] = next;
    }
    return out;
  }
  const [was, is, now] = [entriesOf(from), entriesOf(to), entriesOf(value)];
  if (!was || !is || !now) return to;
  const all = new Map(now);
  for (const name of new Set([...was.keys(), ...is.keys()])) {
    const entry = is.get(name);
    if (sameJson(was.get(name), entry)) continue;
    if (entry) all.set(name, entry);
    else all.delete(name);
  }
  return inOrderOf([...now.keys()], [...is.keys()], all, isMoved(was, is)).map((name) => all.get(name));
}

/**
 * The names of entries in their order. Where a change put what stays in another order (`isOther`), as it has them, what
 * it knows nothing of behind that; else as they stand `now`, each that is new behind the one it stands behind there.
 */
export function inOrderOf(
  now: readonly string[],
  changed: readonly string[],
  entries: ReadonlyMap<string, unknown>,
  isOther: boolean,
): string[] {
  const there = now.filter((name) => entries.has(name));
  const named = changed.filter((name) => entries.has(name));
  if (isOther) return [...named, ...there.filter((name) => !named.includes(name))];
  const names = [...there];
  named.forEach((name, i) => {
    if (there.includes(name)) return;
    const before = named[i - 1];
    names.splice(before === undefined ? 0 : names.indexOf(before) + 1, 0, name);
  });
  return [...names, ...[...entries.keys()].filter((name) => !names.includes(name))];
}

/** Whether two paths are of one thing: the same, or one within the other. */
export const isOneThing = (a: string, b: string): boolean => a === b || a.startsWith(`${b} `) || b.startsWith(`${a} `);
