import { sameJson } from '../json';
import { emptyDocument, plainText, type Document } from './document';
import type { Entry, FieldValue, LinkValue, PageContent, Piece } from './value';

export const sameValue = (a: FieldValue | undefined, b: FieldValue | undefined): boolean => sameJson(a, b);
export const sameContent = (a: PageContent | undefined, b: PageContent | undefined): boolean => sameJson(a, b);

const isDocument = (value: unknown): value is Document =>
  typeof value === 'object' && value !== null && 'type' in value && value.type === 'doc';

export const textOf = (content: PageContent, field: string): string =>
  typeof content[field] === 'string' ? content[field] : '';
export const numberOf = (content: PageContent, field: string): number | null =>
  typeof content[field] === 'number' ? content[field] : null;
export const documentOf = (content: PageContent, field: string): Document =>
  isDocument(content[field]) ? content[field] : emptyDocument();
export const linkOf = (content: PageContent, field: string): LinkValue | null => {
  const value = content[field];
  return value !== null && typeof value === 'object' && 'href' in value ? value : null;
};
export const entriesOf = (content: PageContent, field: string): Entry[] =>
  Array.isArray(content[field]) ? (content[field] as Entry[]) : [];
export const piecesOf = (content: PageContent, field: string): Piece[] =>
  Array.isArray(content[field]) ? (content[field] as Piece[]) : [];

/** Whether a document says nothing at all. */
export const isEmptyDocument = (document: Document): boolean =>
  plainText(document).trim() === '' &&
  !document.content.some((node) => node.type === 'picture' || node.type === 'unknown');
export const isEmptyValue = (value: FieldValue | undefined): boolean =>
  value === undefined ||
  value === null ||
  value === '' ||
  value === false ||
  (Array.isArray(value) && value.length === 0) ||
  (isDocument(value) && isEmptyDocument(value));
