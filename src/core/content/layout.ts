import type { Document } from './document';

interface Common {
  id: string;
  name: string;
  hint?: string;
  required?: true;
}

/**
 * A field a layout gives a page. `max` counts characters. Fields of the same id have the same kind in every layout,
 * so that text finds its place again when the layout is switched.
 */
export type Field = Common &
  (
    | { kind: 'short' | 'long'; max: number }
    | { kind: 'rich' }
    | { kind: 'picture' }
    | { kind: 'choice'; options: readonly { id: string; name: string }[] }
    /** A day, or a day with its hour on the site's clock. */
    | { kind: 'day' | 'moment' }
    /** `unit` stands behind the number. */
    | { kind: 'number'; min: number; max: number; unit?: string }
    | { kind: 'yes' }
    | { kind: 'link' }
    | { kind: 'person' }
    /** A list of small entries with fields of their own. */
    | { kind: 'list'; entry: string; of: readonly { id: string; name: string; max: number }[]; most: number }
    /** The page's body in ordered pieces, each in one of the regions. */
    | { kind: 'pieces'; regions: readonly { id: string; name: string }[]; most: number }
  );
export type FieldKind = Field['kind'];
export type FieldOf<K extends FieldKind> = Field & { kind: K };

/** A page's form: which fields it has. Every layout has a short `title`. */
export interface Layout {
  id: string;
  name: string;
  /** What it is good for, in a sentence. */
  purpose: string;
  fields: readonly Field[];
}
export type Layouts = ReadonlyMap<string, Layout>;

/** Where a link leads, and the words it stands on. */
export interface LinkValue {
  href: string;
  words: string;
}
/** An entry of a list: its fields' text. */
export type Entry = Record<string, string>;
/** One piece of a page's body. A picture stands beside the text when it has one. */
export interface Piece {
  id: string;
  region: string;
  heading: string;
  text: Document;
  picture: string | null;
}

export type FieldValue = string | number | boolean | null | Document | LinkValue | Entry[] | Piece[];
/**
 * Field id → value: text, a picture's or person's id, `2026-11-25` or `2026-11-25T18:30`, a document … It may hold
 * values of fields that only other layouts have: they are kept, and offered back.
 */
export type PageContent = Record<string, FieldValue>;

/** The heading a new piece begins with; nobody means it to be seen. */
export const PIECE_HEADING = 'New piece';

/** The fields of other layouts, by id: what a page may keep of them. */
export const elsewhere = (layouts: Layouts, layout: Layout): Map<string, Field> =>
  new Map(
    [...layouts.values()]
      .flatMap((other) => other.fields)
      .filter((field) => !layout.fields.some((own) => own.id === field.id))
      .map((field) => [field.id, field]),
  );

/** Every field there is, by id. Fields of the same id have the same kind in every layout. */
export const allFields = (layouts: Layouts): Map<string, Field> =>
  new Map([...layouts.values()].flatMap((layout) => layout.fields).map((field) => [field.id, field]));

/** What a page keeps from layouts it no longer has, and that says something: fields with their values. */
export function keptElsewhere(layouts: Layouts, layout: Layout, content: PageContent): Field[] {
  return [...elsewhere(layouts, layout).values()].filter((field) => content[field.id] !== undefined);
}
