import { canonical } from '../json';
import { isDay } from '../words';
import { thingOf } from './linked';

/**
 * The document schema of the writing area: the JSON form of a ProseMirror document
 * (ProseMirror guide, "Documents"). Always the full schema; a toolbar only decides what can be made.
 */
export type MarkName = 'bold' | 'italic' | 'link';
export interface Mark {
  type: MarkName;
  attrs?: { href: string } | undefined;
}
export interface TextNode {
  type: 'text';
  text: string;
  marks?: Mark[] | undefined;
}
export type BlockName =
  | 'paragraph'
  | 'heading'
  | 'bulletList'
  | 'orderedList'
  | 'listItem'
  | 'blockquote'
  | 'table'
  | 'tableRow'
  | 'tableHeader'
  | 'tableCell'
  | 'highlight'
  | 'alert'
  | 'picture'
  | 'unknown';
export interface BlockNode {
  type: BlockName;
  attrs?: Record<string, number | number[] | string | null> | undefined;
  content?: DocumentNode[] | undefined;
}
export interface BreakNode {
  type: 'hardBreak';
}
/** A part inside a line that this version does not know, as JSON: kept, never shown to visitors. */
export interface UnknownInline {
  type: 'unknownInline';
  attrs: { json: string };
}
export type DocumentNode = TextNode | BreakNode | UnknownInline | BlockNode;
export interface Document {
  type: 'doc';
  content: DocumentNode[];
}

/** Schemes a link may have (URL standard, section "Schemes"), and addresses of this site. */
const HREF = /^(https?:\/\/[^\s]+|mailto:[^\s]+|tel:[^\s]+|\/(?!\/)[^\s\\]*|#[^\s]*)$/i;
/** Whether a link can be given this address. */
export const isHref = (href: string): boolean => href.length <= 2000 && HREF.test(href);

/**
 * What somebody typed as the address of a link, as a link has it: "www.larkhaven.example" gets its https://, a mail
 * address its mailto:, a telephone number its tel: without spaces and without the "(0)" that nobody dials after a
 * country's number. Anything else comes back as it is.
 */
export function asHref(typed: string): string {
  const text = typed.trim();
  if (text === '' || isHref(text)) return text;
  if (/^[^\s@/:]+@[^\s@/:]+\.[^\s@/:.]{2,}$/.test(text)) return `mailto:${text}`;
  if (/^\+?[\d\s()./-]+$/.test(text) && text.replaceAll(/\D/g, '').length >= 3)
    return `tel:${(text.startsWith('+') ? text.replace(/\(0\)/, '') : text).replaceAll(/[^\d+]/g, '')}`;
  if (/^([a-z0-9-]+\.)+[a-z]{2,}([/?#:]\S*)?$/i.test(text)) return `https://${text}`;
  return text;
}

const BLOCKS = [
  'paragraph',
  'heading',
  'bulletList',
  'orderedList',
  'blockquote',
  'table',
  'highlight',
  'alert',
  'picture',
  'unknown',
] as const;
const INLINE = ['text', 'hardBreak', 'unknownInline'] as const;
/** What stands in one of the house styles: words, not further styles or tables. */
const STYLED = ['paragraph', 'bulletList', 'orderedList'] as const;
/** What may stand in what, and whether it may be empty. */
const CONTENT: Record<BlockName | 'doc', { of: readonly string[]; empty?: true; first?: string }> = {
  doc: { of: BLOCKS },
  paragraph: { of: INLINE, empty: true },
  heading: { of: INLINE, empty: true },
  bulletList: { of: ['listItem'] },
  orderedList: { of: ['listItem'] },
  listItem: { of: BLOCKS, first: 'paragraph' },
  blockquote: { of: BLOCKS },
  table: { of: ['tableRow'] },
  tableRow: { of: ['tableHeader', 'tableCell'] },
  tableHeader: { of: BLOCKS },
  tableCell: { of: BLOCKS },
  highlight: { of: STYLED },
  alert: { of: STYLED },
  picture: { of: [], empty: true },
  unknown: { of: [], empty: true },
};
const KNOWN: ReadonlySet<string> = new Set([...Object.keys(CONTENT), ...INLINE]);
const LIMITS = { depth: 12, nodes: 20_000, characters: 400_000, unknown: 20_000, description: 500 };
/** Shares of the line's width a picture may take; none is wider than its place. */
export const PICTURE_WIDTHS = ['full', 'half', 'third'] as const;

type Checked<T> = { value: T } | { fault: string };
const isWhole = (value: unknown, least: number, most: number): value is number =>
  Number.isInteger(value) && (value as number) >= least && (value as number) <= most;

/** The attributes of a block as the schema wants them, without any it does not know. */
function readAttrs(name: BlockName, given: unknown): Checked<BlockNode['attrs']> {
  const raw = (typeof given === 'object' && given !== null ? given : {}) as Record<string, unknown>;
  switch (name) {
    case 'heading':
      return raw['level'] === 2 || raw['level'] === 3
        ? { value: { level: raw['level'] } }
        : { fault: 'a heading has level 2 or 3' };
    case 'orderedList': {
      const start = raw['start'] ?? 1;
      return isWhole(start, 0, 100_000)
        ? { value: { start } }
        : { fault: 'a numbered list begins with a whole number' };
    }
    case 'tableHeader':
    case 'tableCell': {
      const { colspan = 1, rowspan = 1, colwidth = null } = raw;
      const fits =
        isWhole(colspan, 1, 50) &&
        isWhole(rowspan, 1, 200) &&
        (colwidth === null || (Array.isArray(colwidth) && colwidth.every((px) => isWhole(px, 0, 5000))));
      return fits ? { value: { colspan, rowspan, colwidth: colwidth } } : { fault: 'a cell of a table does not fit' };
    }
    case 'alert': {
      const until = raw['until'] ?? null;
      return until === null || (typeof until === 'string' && isDay(until))
        ? { value: { until } }
        : { fault: 'an alert ends on a day, like 2026-11-25' };
    }
    case 'picture': {
      const { id, description = '', width = 'full' } = raw;
      if (typeof id !== 'string' || !/^\d{1,9}$/.test(id)) return { fault: 'a picture has to be one of this site' };
      if (typeof description !== 'string' || description.length > LIMITS.description)
        return { fault: `a picture's description has at most ${LIMITS.description} characters` };
      const fits = PICTURE_WIDTHS.find((known) => known === width);
      return fits
        ? { value: { id, description: withoutControls(description), width: fits } }
        : { fault: 'a picture is as wide as the text, half or a third of it' };
    }
    case 'unknown': {
      const { json } = raw;
      return typeof json === 'string' && json.length <= LIMITS.unknown ? { value: { json } } : { fault: TOO_LONG };
    }
    default:
      return { value: undefined };
  }
}
const TOO_LONG = 'a part that is not known is too long to be kept';

/** The marks of a text in the order of their names. */
function readMarks(given: unknown): Checked<Mark[]> {
  if (given === undefined) return { value: [] };
  if (!Array.isArray(given) || given.length > 3) return { fault: 'a mark is not known' };
  const marks: Mark[] = [];
  for (const raw of given as unknown[]) {
    const { type, attrs } = (typeof raw === 'object' && raw !== null ? raw : {}) as {
      type?: unknown;
      attrs?: { href?: unknown };
    };
    if (type === 'link') {
      const href = attrs?.href;
      if (typeof href !== 'string' || !(isHref(href) || thingOf(href)))
        return { fault: 'a link must lead to a page, a web address, a mail address or a phone number' };
      marks.push({ type, attrs: { href } });
    } else if (type === 'bold' || type === 'italic') marks.push({ type });
    else return { fault: 'a mark is not known' };
  }
  if (new Set(marks.map((mark) => mark.type)).size !== marks.length)
    return { fault: 'the same mark stands there twice' };
  return { value: marks.sort((x, y) => x.type.localeCompare(y.type)) };
}

/** Text without control characters but tab and line breaks: neither PostgreSQL nor HTML can hold them. */
export const withoutControls = (text: string): string =>
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g, '');

export type ParsedDocument = { ok: true; document: Document } | { ok: false; path: string; message: string };

class DocumentFault extends Error {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message);
  }
}

/**
 * Checks an unknown value against the document schema and returns a clean copy: known nodes, marks and attributes only,
 * so that the same document always has the same JSON. A node of a type that is not known at all (made by a later
 * version, say) is kept whole as JSON and survives being edited around; visitors do not see it. A fault names the path
 * of the first thing that does not fit. Limits: depth 12, 20,000 nodes, 400,000 characters.
 */
export function parseDocument(value: unknown): ParsedDocument {
  let nodes = 0;
  let characters = 0;
  const node = (raw: unknown, path: string, depth: number, allowed: readonly string[]): DocumentNode => {
    const fail = (message: string): never => {
      throw new DocumentFault(path, message);
    };
    if (depth > LIMITS.depth) fail('the text is nested too deeply');
    if (++nodes > LIMITS.nodes) fail('the text has too many parts');
    if (typeof raw !== 'object' || raw === null) return fail('not a part of a text');
    const { type, text, marks, attrs, content } = raw as Record<string, unknown>;
    if (typeof type === 'string' && !KNOWN.has(type)) {
      const stands = (['unknown', 'unknownInline'] as const).find((name) => allowed.includes(name));
      const json = canonical(raw);
      if (json.length > LIMITS.unknown) fail(TOO_LONG);
      return stands ? { type: stands, attrs: { json } } : fail(`“${type}” cannot stand here`);
    }
    if (type === 'unknownInline' && allowed.includes(type)) {
      const json = (attrs as { json?: unknown } | undefined)?.json;
      return typeof json === 'string' && json.length <= LIMITS.unknown ? { type, attrs: { json } } : fail(TOO_LONG);
    }
    if (typeof type !== 'string' || !allowed.includes(type)) return fail(`“${String(type)}” cannot stand here`);
    if (type === 'hardBreak') return { type };
    if (type === 'text') {
      const words = typeof text === 'string' ? withoutControls(text) : '';
      if (words === '') return fail('an empty piece of text');
      characters += words.length;
      if (characters > LIMITS.characters) fail('the text is too long');
      const read = readMarks(marks ?? undefined);
      if ('fault' in read) return fail(read.fault);
      return { type, text: words, ...(read.value.length && { marks: read.value }) };
    }
    const name = type as BlockName;
    const rule = CONTENT[name];
    const read = readAttrs(name, attrs);
    if ('fault' in read) return fail(read.fault);
    const clean = children(content, path, depth, rule);
    return { type: name, ...(read.value && { attrs: read.value }), ...(clean.length && { content: clean }) };
  };
  const children = (content: unknown, path: string, depth: number, rule: (typeof CONTENT)['doc']): DocumentNode[] => {
    const list = content ?? [];
    if (!Array.isArray(list)) throw new DocumentFault(path, 'the content is not a list');
    if (!rule.empty && list.length === 0) throw new DocumentFault(path, 'a part without content');
    const clean = list.map((child, i) => node(child, `${path}/content/${i}`, depth + 1, rule.of));
    if (rule.first && clean[0]?.type !== rule.first) throw new DocumentFault(path, `must begin with a ${rule.first}`);
    return clean;
  };
  try {
    if (typeof value !== 'object' || value === null || (value as { type?: unknown }).type !== 'doc')
      throw new DocumentFault('', 'not a text');
    return {
      ok: true,
      document: { type: 'doc', content: children((value as { content?: unknown }).content, '', 0, CONTENT.doc) },
    };
  } catch (fault) {
    if (fault instanceof DocumentFault) return { ok: false, path: fault.path, message: fault.message };
    throw fault;
  }
}

export const emptyDocument = (): Document => ({ type: 'doc', content: [{ type: 'paragraph' }] });

/** The text of a node, blocks parted by a line break. */
export function plainText(node: Document | DocumentNode): string {
  if (node.type === 'text') return node.text;
  if (node.type === 'unknownInline') return '';
  if (node.type === 'hardBreak') return '\n';
  const parts = ((node as BlockNode).content ?? []).map(plainText);
  const inline = node.type === 'paragraph' || node.type === 'heading';
  return parts.join(inline ? '' : '\n');
}

/** From how many parts on a text is long: working out something about it may take long, too. */
const LONG = 1500;
export function isLong({ content }: Document): boolean {
  let left = LONG;
  const visit = (nodes: readonly DocumentNode[]): boolean =>
    nodes.some((node) => --left < 0 || ('content' in node && node.content !== undefined && visit(node.content)));
  return visit(content);
}
