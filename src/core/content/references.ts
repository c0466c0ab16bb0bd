import { thingOf, type LinkedThing } from './linked';
import { kindOfField, type Field } from './layout';
import type { FieldValue, PageContent } from './value';

/** Every address in a content, whatever it is made of: in marks, in link fields. */
export function hrefsIn(value: unknown): string[] {
  const found: string[] = [];
  eachIn(value, (one) => {
    if (typeof one['href'] === 'string') found.push(one['href']);
  });
  return found;
}

/** Goes through every object in a value, outermost first: in one walk, since texts can have thousands of them. */
function eachIn(value: unknown, see: (object: Readonly<Record<string, unknown>>) => void): void {
  if (Array.isArray(value)) for (const part of value) eachIn(part, see);
  else if (typeof value === 'object' && value !== null) {
    see(value as Record<string, unknown>);
    for (const key in value) eachIn((value as Record<string, unknown>)[key], see);
  }
}

/** The same with other addresses; the very same where none changes. */
export function withHrefs<T>(value: T, change: (href: string) => string): T {
  if (typeof value !== 'object' || value === null) return value;
  let changed: T | undefined;
  for (const key in value) {
    const part: unknown = value[key];
    const next = key === 'href' && typeof part === 'string' ? change(part) : withHrefs(part, change);
    if (next === part) continue;
    changed ??= (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as T & object;
    // Not by assigning: unknown parts of a text are kept whole, and may hold what objects call their own.
    Object.defineProperty(changed, key, { value: next, writable: true, enumerable: true, configurable: true });
  }
  return changed ?? value;
}

/** That one field of a content needs something: a page, a picture, a person; or an address where nothing is. */
export interface Reference {
  field: string;
  kind: LinkedThing['kind'] | 'person' | 'address';
  /** Its id; of an address the path. */
  target: string;
}

const picturesIn = (value: unknown): string[] => {
  const found: string[] = [];
  eachIn(value, ({ type, attrs, picture }) => {
    const own = type === 'picture' ? (attrs as { id?: unknown } | null | undefined)?.id : picture;
    if (typeof own === 'string') found.push(own);
  });
  return found;
};

function inField(field: Field, value: FieldValue | undefined): Omit<Reference, 'field'>[] {
  const links = hrefsIn(value).flatMap((href): Omit<Reference, 'field'>[] => {
    const thing = thingOf(href);
    const path = ownPath(href);
    return thing
      ? [{ kind: thing.kind, target: thing.id }]
      : path === undefined
        ? []
        : [{ kind: 'address', target: path }];
  });
  const own = typeof value === 'string' && value !== '' ? [value] : [];
  const { refersTo } = kindOfField(field);
  return [
    ...links,
    ...(refersTo ? own.map((target) => ({ kind: refersTo, target })) : []),
    ...picturesIn(value).map((target) => ({ kind: 'picture' as const, target })),
  ];
}

/** Path of an address of this website without what follows it; undefined for any other address. */
export const ownPath = (href: string): string | undefined =>
  href.startsWith('/') ? (href.split(/[?#]/)[0] ?? '').replace(/(.)\/+$/, '$1') : undefined;

/** All that a kept content needs, each once a field; what no field of `fields` holds is nobody's. */
export function referencesOf(fields: Iterable<Field>, content: PageContent): Reference[] {
  return [...fields].flatMap((field) => {
    const found = inField(field, content[field.id]).map((one) => ({ field: field.id, ...one }));
    return [...new Map(found.map((one) => [`${one.kind} ${one.target}`, one])).values()];
  });
}
