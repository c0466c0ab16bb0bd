import { elsewhere, kindOfField, type Field, type Layout, type Layouts } from './layout';
import type { PageContent } from './value';
import { isOwnAddress, isSlug, OWN_ADDRESS_WORDS, SLUG_WORDS } from './address';
import { SETTINGS } from './settings';

export interface ContentFault {
  field: string;
  message: string;
}
export type ParsedContent = { ok: true; layout: Layout; content: PageContent } | { ok: false; faults: ContentFault[] };

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
    const read = kindOfField(field).read(field, raw[field.id]);
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
