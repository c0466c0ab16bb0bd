import { z } from 'zod';
import { inPlainWords } from '../json';
import { isDay, isMoment } from '../words';
import { isHref, emptyDocument, parseDocument, withoutControls } from './document';
import {
  elsewhere,
  type Entry,
  type Field,
  type FieldOf,
  type FieldValue,
  type Layout,
  type Layouts,
  type PageContent,
  type Piece,
} from './layout';
import { isOwnAddress, isSlug, OWN_ADDRESS_WORDS, SLUG_WORDS } from './address';
import { thingOf } from './linked';
import { SETTINGS } from './settings';

export interface ContentFault {
  field: string;
  message: string;
}
export type ParsedContent = { ok: true; layout: Layout; content: PageContent } | { ok: false; faults: ContentFault[] };

type Read = { value: FieldValue } | { fault: string };
const length = (text: string) => [...text].length;
const isNothing = (given: unknown): given is undefined | null | '' =>
  given === undefined || given === null || given === '';
const isId = (given: unknown): given is string => typeof given === 'string' && given.length <= 40;

function readText(field: { name: string; max: number }, given: unknown): { value: string } | { fault: string } {
  if (typeof given !== 'string') return { fault: `${field.name} must be text.` };
  const clean = withoutControls(given);
  if (length(clean) > field.max)
    return { fault: `${field.name} can have ${field.max} characters; this has ${length(clean)}.` };
  return { value: clean };
}

function readList(field: FieldOf<'list'>, given: unknown): Read {
  if (!Array.isArray(given)) return { fault: `${field.name} must be a list.` };
  if (given.length > field.most)
    return { fault: `${field.name} can have ${field.most} entries; this has ${given.length}.` };
  const entries: Entry[] = [];
  for (const [i, raw] of given.entries()) {
    const entry: Entry = {};
    for (const part of field.of) {
      const read = readText(
        { ...part, name: `${field.name}, entry ${i + 1}, ${part.name}` },
        (raw as Entry | null)?.[part.id] ?? '',
      );
      if ('fault' in read) return read;
      entry[part.id] = read.value;
    }
    entries.push(entry);
  }
  return { value: entries };
}

const pieceSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/i),
  region: z.string(),
  heading: z.string().default(''),
  text: z.unknown(),
  picture: z.string().max(40).nullable().default(null),
});

function readPieces(field: FieldOf<'pieces'>, given: unknown): Read {
  const list = z.array(pieceSchema).max(field.most).safeParse(given, { error: inPlainWords });
  if (!list.success) return { fault: `${field.name} does not fit: ${list.error.issues[0]?.message ?? ''}` };
  const pieces: Piece[] = [];
  for (const raw of list.data) {
    if (!field.regions.some((region) => region.id === raw.region))
      return { fault: `${field.name} has no part “${raw.region.slice(0, 40)}”.` };
    if (pieces.some((piece) => piece.id === raw.id)) return { fault: `${field.name} holds the same piece twice.` };
    const heading = readText({ name: 'The heading of a piece', max: 120 }, raw.heading);
    if ('fault' in heading) return heading;
    const text = parseDocument(raw.text ?? emptyDocument());
    if (!text.ok) return { fault: `${raw.heading || field.name}: ${text.message}.` };
    pieces.push({ id: raw.id, region: raw.region, heading: heading.value, text: text.document, picture: raw.picture });
  }
  return { value: pieces };
}

function readField(field: Field, given: unknown): Read {
  switch (field.kind) {
    case 'short':
    case 'long':
      return readText(field, given ?? '');
    case 'rich': {
      const parsed = parseDocument(given ?? emptyDocument());
      return parsed.ok ? { value: parsed.document } : { fault: `${field.name}: ${parsed.message}.` };
    }
    case 'picture':
      return given === null || given === undefined || isId(given)
        ? { value: given ?? null }
        : { fault: `${field.name} must be a picture of this site.` };
    case 'person':
      return given === null || given === undefined || isId(given)
        ? { value: given ?? null }
        : { fault: `${field.name} must be somebody of this site.` };
    case 'choice':
      return isNothing(given) || field.options.some((option) => option.id === given)
        ? { value: typeof given === 'string' ? given : '' }
        : { fault: `${field.name} must be one of ${field.options.map((option) => option.name).join(', ')}.` };
    case 'day':
      return isNothing(given) || (typeof given === 'string' && isDay(given))
        ? { value: given ?? '' }
        : { fault: `${field.name} must be a day, like 2026-11-25.` };
    case 'moment':
      return isNothing(given) || (typeof given === 'string' && isMoment(given))
        ? { value: given ?? '' }
        : { fault: `${field.name} must be a day and an hour, like 2026-11-25T18:30.` };
    case 'number':
      if (isNothing(given)) return { value: null };
      return typeof given === 'number' && Number.isFinite(given) && given >= field.min && given <= field.max
        ? { value: given }
        : { fault: `${field.name} must be a number from ${field.min} to ${field.max}.` };
    case 'yes':
      return given === undefined || given === null || typeof given === 'boolean'
        ? { value: given ?? false }
        : { fault: `${field.name} must be yes or no.` };
    case 'link': {
      if (given === undefined || given === null) return { value: null };
      const { href, words } = given as { href?: unknown; words?: unknown };
      if (typeof href !== 'string' || !(isHref(href) || thingOf(href)))
        return { fault: `${field.name} leads to no page, web address, mail address or phone number.` };
      const read = readText({ name: `The words of ${field.name}`, max: 120 }, words ?? '');
      return 'fault' in read ? read : { value: { href, words: read.value } };
    }
    case 'list':
      return readList(field, given ?? []);
    case 'pieces':
      return readPieces(field, given ?? []);
  }
}

const slugFault = (slug: string): string | null => (slug === '' || isSlug(slug) ? null : SLUG_WORDS);
const addressFault = (address: string): string | null =>
  address === '' || isOwnAddress(address) ? null : OWN_ADDRESS_WORDS;

/** What could be read of a content, field by field, and what is wrong with the rest. */
export interface ReadContent {
  layout: Layout;
  content: PageContent;
  faults: ContentFault[];
}

/**
 * Reads an unknown value by the layout it names (`page.layout`, else `fallback`): what is right stands in `content`,
 * whatever is not has its fault and is left out. Text is kept as typed, but for control characters; what a field of
 * another layout holds is kept if it fits there, a field that no layout has is a fault. What must be filled in is asked
 * for when publishing, not while it is written: see `checkContent`; only a title is needed always. Null when nothing
 * was sent, or for no layout there is.
 */
export function readContent(
  layouts: Layouts,
  fallback: string,
  value: unknown,
  settings: readonly Field[] = SETTINGS,
): ReadContent | null {
  if (typeof value !== 'object' || value === null) return null;
  const raw = value as Record<string, unknown>;
  const faults: ContentFault[] = [];
  const named = raw['page.layout'] ?? fallback;
  const known = typeof named === 'string' ? layouts.get(named) : undefined;
  const layout = known ?? layouts.get(fallback);
  if (!layout) return null;
  const content: PageContent = {};
  const others = elsewhere(layouts, layout);
  const take = (field: Field) => {
    const read = readField(field, raw[field.id]);
    if ('value' in read) content[field.id] = read.value;
    else faults.push({ field: field.id, message: read.fault });
  };
  layout.fields.forEach(take);
  for (const key of Object.keys(raw)) {
    const setting = settings.find((field) => field.id === key);
    const other = others.get(key);
    if (layout.fields.some((field) => field.id === key)) continue;
    if (setting ?? other) take((setting ?? other) as Field);
    else faults.push({ field: key, message: `The layout “${layout.name}” has no field “${key.slice(0, 60)}”.` });
  }
  const wrong = (field: string, message: string) => {
    delete content[field];
    faults.push({ field, message });
  };
  if (!known) wrong('page.layout', `There is no layout “${typeof named === 'string' ? named.slice(0, 40) : ''}”.`);
  const title = content['title'];
  if (typeof title === 'string' && title.trim() === '')
    wrong(
      'title',
      `${layout.fields.find((field) => field.id === 'title')?.name ?? 'The title'} is needed: without it visitors cannot find the page.`,
    );
  for (const [field, fault] of [
    ['page.slug', slugFault],
    ['page.ownAddress', addressFault],
  ] as const) {
    const message = typeof content[field] === 'string' ? fault(content[field]) : null;
    if (message) wrong(field, message);
  }
  return { layout, content, faults };
}

/** Reads a content as a whole: one fault in it and it is refused, with all of them. */
export function parseContent(layouts: Layouts, fallback: string, value: unknown): ParsedContent {
  const read = readContent(layouts, fallback, value);
  if (!read) return { ok: false, faults: [{ field: '', message: 'Nothing was sent.' }] };
  return read.faults.length > 0
    ? { ok: false, faults: read.faults }
    : { ok: true, layout: read.layout, content: read.content };
}

/**
 * The faults that somebody can mend who writes with a layout: of its own fields and the settings; what is kept from
 * other layouts waits unseen. In the order of the form.
 */
export const faultsInSight = (layout: Layout, faults: readonly ContentFault[]): ContentFault[] =>
  [...layout.fields, ...SETTINGS].flatMap((field) => faults.filter((fault) => fault.field === field.id));
