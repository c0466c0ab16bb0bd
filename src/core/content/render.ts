import { sayCalendarDay } from '../words';
import { isHref, type Document, type DocumentNode, type Mark } from './document';
import { thingOf } from './linked';

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
/** Makes text safe inside HTML text and double-quoted attributes (HTML standard, section 13.3). */
export const escapeHtml = (text: string): string => text.replace(/[&<>"']/g, (c) => ESCAPES[c] ?? c);

export interface RenderOptions {
  /** Where a picture's bytes are; undefined when it is gone, and then nothing stands in its place. */
  pictureUrl?: (id: string) => string | undefined;
  /** The day on the site's clock: an alert that has ended before it is left out. */
  today?: string;
  /** The language dates are told in; British English when left out. */
  language?: string;
  /** How many levels deeper headings stand, where the text lies below headings of its own. */
  deeper?: number;
  /** For the code view: what is not known and what has ended stays, in attributes that can be read back. */
  whole?: true;
}

const TAGS: Record<string, string> = {
  paragraph: 'p',
  bulletList: 'ul',
  orderedList: 'ol',
  listItem: 'li',
  blockquote: 'blockquote',
  tableRow: 'tr',
  tableHeader: 'th',
  tableCell: 'td',
};

const inMark = (html: string, mark: Mark, options: RenderOptions): string => {
  if (mark.type === 'bold') return `<strong>${html}</strong>`;
  if (mark.type === 'italic') return `<em>${html}</em>`;
  const href = mark.attrs?.href ?? '';
  return isHref(href) || (options.whole && thingOf(href)) ? `<a href="${escapeHtml(href)}">${html}</a>` : html;
};

/** Text of an attribute, whatever its type was said to be. */
const words = (value: unknown): string => (typeof value === 'string' ? value : '');

function renderNode(node: DocumentNode, options: RenderOptions): string {
  if (node.type === 'text')
    return (node.marks ?? []).reduce((html, mark) => inMark(html, mark, options), escapeHtml(node.text));
  if (node.type === 'hardBreak') return '<br>';
  if (node.type === 'unknownInline')
    return options.whole ? `<span data-unknown="${escapeHtml(node.attrs.json)}"></span>` : '';
  const inner = (node.content ?? []).map((child) => renderNode(child, options)).join('');
  const attrs = node.attrs ?? {};
  switch (node.type) {
    case 'heading': {
      const level = Math.min(6, Number(attrs['level']) + (options.deeper ?? 0));
      return `<h${level}>${inner}</h${level}>`;
    }
    case 'orderedList':
      return attrs['start'] === 1 ? `<ol>${inner}</ol>` : `<ol start="${Number(attrs['start'])}">${inner}</ol>`;
    case 'table':
      return options.whole
        ? `<table><tbody>${inner}</tbody></table>`
        : `<div class="table"><table><tbody>${inner}</tbody></table></div>`;
    case 'tableHeader':
    case 'tableCell': {
      const span = (['colspan', 'rowspan'] as const)
        .filter((a) => Number(attrs[a] ?? 1) > 1)
        .map((a) => ` ${a}="${Number(attrs[a])}"`);
      return `<${TAGS[node.type]}${span.join('')}>${inner}</${TAGS[node.type]}>`;
    }
    case 'highlight':
      return `<div data-style="highlight">${inner}</div>`;
    case 'alert': {
      const until = words(attrs['until']);
      if (!options.whole && until && options.today && until < options.today) return '';
      const told = options.whole
        ? ''
        : `<p data-word>For now${until ? `, until ${sayCalendarDay(until, options.language)}` : ''}</p>`;
      return `<div data-style="alert"${until ? ` data-until="${escapeHtml(until)}"` : ''}>${told}${inner}</div>`;
    }
    case 'picture': {
      const id = words(attrs['id']);
      const url = options.pictureUrl?.(id);
      if (!url && !options.whole) return '';
      return `<img src="${escapeHtml(url ?? '')}" alt="${escapeHtml(words(attrs['description']))}" data-picture="${escapeHtml(id)}" data-width="${escapeHtml(words(attrs['width']))}"${options.whole ? '' : ' loading="lazy"'}>`;
    }
    case 'unknown':
      return options.whole ? `<div data-unknown="${escapeHtml(words(attrs['json']))}"></div>` : '';
    default:
      return `<${TAGS[node.type]}>${inner}</${TAGS[node.type]}>`;
  }
}

/** A checked document as HTML. Text and attributes are escaped; nothing but the schema's own elements comes out. */
export const renderDocument = (document: Document, options: RenderOptions = {}): string =>
  document.content
    .map((node) => renderNode(node, options))
    .filter(Boolean)
    .join('\n');
