/** A page to be made: its title, and how deep it lies below the place chosen (0 directly below). */
export interface OutlineEntry {
  title: string;
  depth: number;
}
export type ParsedOutline = { ok: true; entries: OutlineEntry[] } | { ok: false; line: number; message: string };

const MOST = { entries: 200, title: 120, depth: 6 };
const TAB = 4;
const indentOf = (line: string): number =>
  [.../^[\t \u00a0]*/.exec(line)![0]].reduce((width, c) => width + (c === '\t' ? TAB - (width % TAB) : 1), 0);

/**
 * Reads an indented list, as it is pasted from a mail or a word processor: a title a line, deeper lines below those
 * that stand further left; signs of lists before a title are taken off. Any indentation will do, if it is kept to: a
 * line must stand under one that is there. At most 200 titles of 120 characters, 6 deep. `line` counts from 1.
 */
export function parseOutline(text: string): ParsedOutline {
  const entries: OutlineEntry[] = [];
  const indents: number[] = [];
  for (const [i, raw] of text.split(/\r\n|\r|\n/).entries()) {
    const line = raw.replace(/\s+$/u, '');
    const title = line.replace(/^[\s\u00a0]*(?:(?:[-*+•‣◦–—·]|\d{1,3}[.)])[\s\u00a0]+)?/u, '').trim();
    if (title === '') continue;
    const fault = (message: string): ParsedOutline => ({ ok: false, line: i + 1, message });
    const indent = indentOf(line);
    while (indents.length > 0 && indent < (indents.at(-1) ?? 0)) indents.pop();
    if (entries.length > 0 && indents.length === 0)
      return fault(`“${title.slice(0, 40)}” stands further left than the first title.`);
    if (indents.at(-1) !== indent) {
      const above = entries.at(-1);
      if (above && indents.length <= above.depth)
        return fault(`“${title.slice(0, 40)}” stands between two levels. Move it under the title it belongs to.`);
      indents.push(indent);
    }
    const depth = indents.length - 1;
    if (depth >= MOST.depth) return fault(`“${title.slice(0, 40)}” lies deeper than ${MOST.depth} levels.`);
    if ([...title].length > MOST.title)
      return fault(`“${title.slice(0, 40)}…” is longer than ${MOST.title} characters.`);
    entries.push({ title, depth });
    if (entries.length > MOST.entries) return fault(`More than ${MOST.entries} pages at once.`);
  }
  return entries.length > 0 ? { ok: true, entries } : { ok: false, line: 1, message: 'There is no title yet.' };
}
