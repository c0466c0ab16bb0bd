import type { Document } from './document';

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

/**
 * A rich text of a page: in a field of its own, or in one of its pieces. `key` is the same as long as it is the same
 * text.
 */
export interface RichText {
  key: string;
  name: string;
  document: Document;
}
