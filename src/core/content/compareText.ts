import { diffWordsWithSpace, diffArrays } from 'diff';
import { sayCalendarDay } from '../words';
import { type DocumentNode, type BlockNode, type Document, plainText } from './document';

export interface TextPart {
  change: 'same' | 'added' | 'removed';
  text: string;
  /** What became of the look of words that stayed: “now bold”, “no longer a link to /fares”. */
  look?: string;
}

/** One line of a comparison: a block of text, with what kind of block it is. */
export interface Line {
  change: 'same' | 'added' | 'removed' | 'changed' | 'moved';
  kind: string;
  pieces: TextPart[];
  /** Of a moved line: which line of the old text it was, from 0. */
  from?: number;
}
const KIND: Partial<Record<string, string>> = {
  paragraph: 'Text',
  heading: 'Heading',
  listItem: 'List entry',
  blockquote: 'Quote',
  tableRow: 'Table row',
  highlight: 'Highlight',
  alert: 'Alert for now',
  picture: 'Picture',
  unknown: 'Part that is not known',
};
const inlineMarks = (node: DocumentNode): string =>
  node.type === 'text'
    ? (node.marks ?? []).map((m) => `${m.type}${m.attrs?.href ?? ''}`).join('+') + '|' + node.text
    : ((node as BlockNode).content ?? []).map(inlineMarks).join('¦');
const MARK_WORDS: Record<string, string> = { bold: 'bold', italic: 'italic' };
/** The marks of each character of a line, in words. */
const marksOf = (node: DocumentNode): string[][] => {
  if (node.type === 'text') {
    const marks = (node.marks ?? []).map((mark) =>
      mark.type === 'link' ? `a link to ${mark.attrs?.href ?? ''}` : (MARK_WORDS[mark.type] ?? mark.type),
    );
    return Array.from({ length: node.text.length }, () => marks);
  }
  return node.type === 'hardBreak' ? [[]] : ((node as BlockNode).content ?? []).flatMap(marksOf);
};

/** The pieces of a changed line with what became of the look of words that stayed. */
function withLooks(pieces: readonly TextPart[], before: readonly string[][], after: readonly string[][]): TextPart[] {
  const out: TextPart[] = [];
  let [a, b] = [0, 0];
  for (const piece of pieces) {
    if (piece.change !== 'same') {
      out.push(piece);
      if (piece.change === 'removed') a += piece.text.length;
      else b += piece.text.length;
      continue;
    }
    let run: TextPart | undefined;
    for (let i = 0; i < piece.text.length; i++) {
      const [was, is] = [before[a + i] ?? [], after[b + i] ?? []];
      const look = [
        ...is.filter((mark) => !was.includes(mark)).map((mark) => `now ${mark}`),
        ...was.filter((mark) => !is.includes(mark)).map((mark) => `no longer ${mark}`),
      ].join(', ');
      if (!run || (run.look ?? '') !== look) out.push((run = { change: 'same', text: '', ...(look && { look }) }));
      run.text += piece.text[i] ?? '';
    }
    a += piece.text.length;
    b += piece.text.length;
  }
  return out;
}
interface Block {
  kind: string;
  text: string;
  form: string;
  /** The marks of each character of the text, as UTF-16 has them. */ marks?: readonly string[][];
}

/** A document as a flat list of lines: a paragraph, a heading, a list entry, a table row each. */
function linesOf(document: Document): Block[] {
  const out: Block[] = [];
  const visit = (node: DocumentNode, kind: string) => {
    if (node.type === 'text' || node.type === 'hardBreak' || node.type === 'unknownInline') return;
    if (node.type === 'picture' || node.type === 'unknown')
      out.push({
        kind: KIND[node.type] ?? '',
        text: String(node.attrs?.['description'] ?? ''),
        form: JSON.stringify(node.attrs),
      });
    else if (node.type === 'alert') {
      if (node.attrs?.['until'])
        out.push({ kind: 'Alert ends', text: sayCalendarDay(String(node.attrs['until'])), form: '' });
      for (const child of node.content ?? []) visit(child, KIND['alert'] ?? '');
    } else if (node.type === 'tableRow')
      out.push({
        kind: KIND['tableRow'] ?? '',
        text: (node.content ?? []).map((cell) => plainText(cell)).join(' · '),
        form: inlineMarks(node),
      });
    else if (node.type === 'paragraph' || node.type === 'heading') {
      const level = node.type === 'heading' ? String(node.attrs?.['level']) : '';
      out.push({
        kind: kind === 'Text' && level ? `Heading ${level}` : kind,
        text: plainText(node),
        form: level + inlineMarks(node),
        marks: marksOf(node),
      });
    } else for (const child of node.content ?? []) visit(child, KIND[node.type] ?? kind);
  };
  for (const node of document.content) visit(node, 'Text');
  return out;
}

/** Below this share of kept letters a line was written anew, and a patchwork of single words would be hard to read. */
const WRITTEN_ANEW = 0.3;
/**
 * What finding changes in one text may cost, in steps of the comparing: D single changes take about D² of them. The rest
 * is told as written anew, where only few changes are looked for: how long it takes is bounded on any machine.
 */
export class Effort {
  #left = 4_000_000;

  /** How many single changes are looked for next, before giving up. */
  get most(): number {
    return Math.max(20, Math.floor(Math.sqrt(this.#left)));
  }

  /** Takes off what a comparison has cost that looked for at most so many. */
  spend<T extends { added: boolean; removed: boolean; count: number }>(most: number, found: T[] | undefined): void {
    const changes = found?.reduce((sum, part) => sum + (part.added || part.removed ? part.count : 0), 0) ?? most;
    this.#left = Math.max(0, this.#left - changes ** 2);
  }
}

/**
 * Words changed one after the other as one change: the space between them stays by chance, and what went would be read
 * interleaved with what came.
 */
function inRuns(pieces: readonly TextPart[]): TextPart[] {
  const out: TextPart[] = [];
  let [removed, added] = ['', ''];
  const end = () => {
    if (removed) out.push({ change: 'removed', text: removed });
    if (added) out.push({ change: 'added', text: added });
    [removed, added] = ['', ''];
  };
  pieces.forEach(({ change, text }, i) => {
    const next = pieces[i + 1];
    const isBetween = change === 'same' && text.trim() === '' && removed !== '' && added !== '' && next !== undefined;
    if (change === 'removed' || isBetween) removed += text;
    if (change === 'added' || isBetween) added += text;
    if (change !== 'same' || isBetween) return;
    end();
    out.push({ change, text });
  });
  end();
  return out;
}

/** More changed words than this in a line are a line written anew. */
const MOST_WORDS = 1000;
export function wordDiff(before: string, after: string, effort: Effort): TextPart[] {
  const maxEditLength = Math.min(MOST_WORDS, effort.most);
  const found = diffWordsWithSpace(before, after, { maxEditLength });
  effort.spend(maxEditLength, found);
  const told = found ?? [
    { value: before, removed: true, added: false },
    { value: after, removed: false, added: true },
  ];
  const pieces = inRuns(
    told.map((part): TextPart => ({
      change: part.added ? 'added' : part.removed ? 'removed' : 'same',
      text: part.value,
    })),
  );
  const letters = (text: string) => text.replaceAll(/\s/g, '').length;
  const kept = pieces.reduce((sum, piece) => sum + (piece.change === 'same' ? letters(piece.text) : 0), 0);
  if (kept >= WRITTEN_ANEW * Math.max(letters(before), letters(after))) return pieces;
  return [
    ...(before ? [{ change: 'removed' as const, text: before }] : []),
    ...(after ? [{ change: 'added' as const, text: after }] : []),
  ];
}

/**
 * What became of one text: line by line, and word by word inside a line that was changed. Joining the pieces that are
 * not removed gives the new lines; joining those not added the old ones, with moved lines put back where `from` says.
 * Lines: longest common subsequence after E. W. Myers, "An O(ND) difference algorithm" (1986), by the package `diff`.
 */
export function compareDocuments(before: Document, after: Document): Line[] {
  const [old, now] = [linesOf(before), linesOf(after)];
  const effort = new Effort();
  const maxEditLength = effort.most;
  const found = diffArrays(old, now, {
    maxEditLength,
    comparator: (a, b) => a.kind === b.kind && a.text === b.text && a.form === b.form,
  });
  effort.spend(maxEditLength, found);
  const parts = found ?? [
    { value: old, removed: true, added: false },
    { value: now, removed: false, added: true },
  ];
  const out: Line[] = [];
  for (let i = 0; i < parts.length; i++) {
    const part = parts[i];
    if (!part) continue;
    const next = parts[i + 1];
    if (part.removed && next?.added) {
      const pairs = Math.max(part.value.length, next.value.length);
      for (let k = 0; k < pairs; k++) {
        const a = part.value[k];
        const b = next.value[k];
        if (a && b && a.kind === b.kind) {
          const formatting = a.text === b.text;
          out.push({
            change: 'changed',
            kind: formatting ? `${b.kind}, look changed` : b.kind,
            pieces: withLooks(wordDiff(a.text, b.text, effort), a.marks ?? [], b.marks ?? []),
          });
        } else {
          if (a) out.push({ change: 'removed', kind: a.kind, pieces: [{ change: 'removed', text: a.text }] });
          if (b) out.push({ change: 'added', kind: b.kind, pieces: [{ change: 'added', text: b.text }] });
        }
      }
      i++;
    } else {
      const change = part.added ? 'added' : part.removed ? 'removed' : 'same';
      for (const line of part.value) out.push({ change, kind: line.kind, pieces: [{ change, text: line.text }] });
    }
  }
  return withMoves(out);
}

/** A line that was taken out in one place and put in unchanged in another is told as moved, where it stands now. */
function withMoves(lines: Line[]): Line[] {
  const textOfLine = (line: Line) => line.pieces.map((piece) => piece.text).join('');
  const gone = new Map<string, number[]>();
  let old = 0;
  const oldAt = lines.map((line) => (line.change === 'added' ? -1 : old++));
  lines.forEach((line, i) => {
    if (line.change !== 'removed' || !textOfLine(line)) return;
    const called = `${line.kind} ${textOfLine(line)}`;
    const same = gone.get(called);
    if (same) same.push(i);
    else gone.set(called, [i]);
  });
  const moved = new Set<number>();
  const told = lines.map((line) => {
    const from = line.change === 'added' ? gone.get(`${line.kind} ${textOfLine(line)}`)?.shift() : undefined;
    if (from === undefined) return line;
    moved.add(from);
    return { ...line, change: 'moved' as const, from: oldAt[from] ?? 0 };
  });
  return told.filter((_, i) => !moved.has(i));
}
