import type { BlockNode, Document, DocumentNode, Mark } from '@/core/content';

/** Writes inline text: `**bold**`, `_italic_`, `[words](/address)`. */
function inline(text: string): DocumentNode[] {
  const out: DocumentNode[] = [];
  for (const part of text.split(/(\*\*[^*]+\*\*|_[^_]+_|\[[^\]]+\]\([^)]+\))/).filter(Boolean)) {
    const link = /^\[([^\]]+)\]\(([^)]+)\)$/.exec(part);
    const marked = (words: string, mark: Mark) => out.push({ type: 'text', text: words, marks: [mark] });
    if (link?.[1] && link[2]) marked(link[1], { type: 'link', attrs: { href: link[2] } });
    else if (part.startsWith('**')) marked(part.slice(2, -2), { type: 'bold' });
    else if (part.startsWith('_') && part.endsWith('_')) marked(part.slice(1, -1), { type: 'italic' });
    else out.push({ type: 'text', text: part });
  }
  return out;
}

export const p = (text: string): BlockNode => ({ type: 'paragraph', content: inline(text) });
export const h2 = (text: string): BlockNode => ({ type: 'heading', attrs: { level: 2 }, content: inline(text) });
export const h3 = (text: string): BlockNode => ({ type: 'heading', attrs: { level: 3 }, content: inline(text) });
export const list = (...entries: string[]): BlockNode => ({
  type: 'bulletList',
  content: entries.map((text) => ({ type: 'listItem', content: [p(text)] })),
});
export const steps = (...entries: string[]): BlockNode => ({
  type: 'orderedList',
  attrs: { start: 1 },
  content: entries.map((text) => ({ type: 'listItem', content: [p(text)] })),
});
export const highlight = (text: string): BlockNode => ({ type: 'highlight', content: [p(text)] });
export const alert = (until: string, text: string): BlockNode => ({
  type: 'alert',
  attrs: { until },
  content: [p(text)],
});
export const quote = (text: string): BlockNode => ({ type: 'blockquote', content: [p(text)] });
export function table(head: string[], ...rows: string[][]): BlockNode {
  const cell =
    (type: 'tableHeader' | 'tableCell') =>
    (text: string): BlockNode => ({ type, attrs: { colspan: 1, rowspan: 1, colwidth: null }, content: [p(text)] });
  return {
    type: 'table',
    content: [
      { type: 'tableRow', content: head.map(cell('tableHeader')) },
      ...rows.map((row): BlockNode => ({ type: 'tableRow', content: row.map(cell('tableCell')) })),
    ],
  };
}
export const doc = (...blocks: BlockNode[]): Document => ({ type: 'doc', content: blocks });
