import { canonical } from '../json';
import type { BlockNode, DocumentNode, Mark } from '../content';

/** A construct of the document schema: the name of a node or a mark. */
export type Construct = DocumentNode['type'] | Mark['type'];
export const CONSTRUCTS: ReadonlySet<string> = new Set<Construct>([
  'paragraph',
  'heading',
  'bulletList',
  'orderedList',
  'listItem',
  'blockquote',
  'table',
  'tableRow',
  'tableHeader',
  'tableCell',
  'highlight',
  'alert',
  'picture',
  'unknown',
  'unknownInline',
  'text',
  'hardBreak',
  'bold',
  'italic',
  'link',
]);

/** A path as a browser asks for it: without `.` and `..` (RFC 3986, section 5.2.4), and with what was escaped. */
function withoutDots(href: string): string {
  const out: string[] = [];
  for (const part of href.split(/[?#]/)[0]?.split(/[\\/]/).slice(1) ?? []) {
    let plain = part;
    try {
      plain = decodeURIComponent(part);
    } catch {
      // Not escaped as it should be: taken as it stands.
    }
    if (plain === '..') out.pop();
    else if (plain !== '.') out.push(plain);
  }
  return `/${out.join('/')}`;
}

/** What kind of thing a link leads to. */
export type LinkKind = 'page' | 'file' | 'web' | 'mail' | 'phone';
export function linkKindOf(href: string): LinkKind {
  if (/^mailto:/i.test(href)) return 'mail';
  if (/^tel:/i.test(href)) return 'phone';
  if (/^https?:/i.test(href)) return 'web';
  return /^picture:/i.test(href) || /^\/media\//i.test(withoutDots(href)) ? 'file' : 'page';
}

/**
 * What a tool would have to make for this to be there: the construct, of headings with the level, of links with the kind
 * (`heading.2`, `link.web`).
 */
export function makeOf(part: Pick<DocumentNode | Mark, 'type'> & { attrs?: object | undefined }): string {
  const attrs = (part.attrs ?? {}) as Record<string, unknown>;
  if (part.type === 'heading') return `heading.${String(attrs['level'])}`;
  if (part.type === 'link') return `link.${linkKindOf(String(attrs['href']))}`;
  return part.type;
}

/** What comes with plain writing: no tool is needed for it. */
const PLAIN: ReadonlySet<string> = new Set(['paragraph', 'listItem', 'text', 'hardBreak']);
export const isPlain = (construct: string): boolean => PLAIN.has(construct);

/** Parts that are one whole, whatever they hold. */
const ATOMS: ReadonlySet<string> = new Set(['picture', 'unknown', 'unknownInline']);
export const isAtom = (node: DocumentNode): boolean => ATOMS.has(node.type);

/** Some blocks of a document that follow one another, and the place of the first among all. */
export interface Blocks {
  content: readonly DocumentNode[];
  at: number;
}

/** A node of a document, and where it stands (a JSON pointer). */
export interface StandingNode {
  node: DocumentNode;
  path: string;
}

/** Every node of some blocks in its order, with its path. */
export function nodesOf(blocks: Blocks): StandingNode[] {
  const out: StandingNode[] = [];
  const visit = (node: DocumentNode, path: string) => {
    out.push({ node, path });
    ((node as BlockNode).content ?? []).forEach((child, i) => visit(child, `${path}/content/${i}`));
  };
  blocks.content.forEach((node, i) => visit(node, `/content/${blocks.at + i}`));
  return out;
}

/** Words under one mark, running on over breaks: the mark, the nodes and where they begin. */
export interface Run {
  mark: Mark;
  nodes: DocumentNode[];
  path: string;
}

/** Every run of words under a mark. */
export function runsOf(blocks: Blocks): Run[] {
  const out: Run[] = [];
  for (const { node, path } of nodesOf(blocks)) {
    if (node.type !== 'paragraph' && node.type !== 'heading') continue;
    let open = new Map<string, Run>();
    (node.content ?? []).forEach((child, i) => {
      if (child.type === 'hardBreak') {
        for (const run of open.values()) run.nodes.push(child);
        return;
      }
      const here = new Map<string, Run>();
      for (const mark of child.type === 'text' ? (child.marks ?? []) : []) {
        const key = canonical(mark);
        const run = open.get(key) ?? { mark, nodes: [], path: `${path}/content/${i}` };
        run.nodes.push(child);
        if (!open.has(key)) out.push(run);
        here.set(key, run);
      }
      open = here;
    });
  }
  // A break at the end of a run is no part of it.
  for (const run of out) while (run.nodes.at(-1)?.type === 'hardBreak') run.nodes.pop();
  return out;
}

/** A piece of writing: some letters, the beginning of a paragraph or heading, or an atom. */
export interface Token {
  /** The letters; empty for a beginning. */
  text: string;
  /** Canonical form of every mark on it and of every block around it, with the paths of those blocks, the outer first. */
  under: ReadonlyMap<string, readonly string[]>;
  /** Equal for tokens that are equal in all. */
  key: string;
  path: string;
  begins: boolean;
  atom: boolean;
}

/**
 * Some blocks as a flat list of words with all they stand under. What lies in a table stands under what it is in there,
 * not under the table itself: that one is compared by its form.
 */
export function tokensOf(blocks: Blocks): Token[] {
  const out: Token[] = [];
  const push = (text: string, under: Token['under'], signed: string, path: string, what?: 'begins' | 'atom') =>
    out.push({
      text,
      under,
      key: `${what === 'begins' ? '¶' : text}\n${signed}`,
      path,
      begins: what === 'begins',
      atom: what === 'atom',
    });
  const sign = (under: Token['under']) => [...under].map(([key, { length }]) => `${key}×${length}`).join(' ');
  const visit = (node: DocumentNode, path: string, around: Token['under']) => {
    if (node.type === 'text') {
      const under = node.marks?.length
        ? new Map([...around, ...node.marks.map((m) => [canonical(m), ['']] as const)])
        : around;
      const signed = sign(under);
      for (const [word] of node.text.matchAll(/\S+\s*|\s+/gu)) push(word, under, signed, path);
      return;
    }
    if (isAtom(node) || node.type === 'hardBreak') {
      push(canonical(node), around, sign(around), path, 'atom');
      return;
    }
    const { content = [], attrs } = node as BlockNode;
    const counts = !isPlain(node.type) && !node.type.startsWith('table');
    const key = canonical({ type: node.type, ...(attrs && { attrs }) });
    const under = counts ? new Map(around).set(key, [...(around.get(key) ?? []), path]) : around;
    if (node.type === 'paragraph' || node.type === 'heading') push('', under, sign(under), path, 'begins');
    content.forEach((child, i) => visit(child, `${path}/content/${i}`, under));
  };
  blocks.content.forEach((node, i) => visit(node, `/content/${blocks.at + i}`, new Map()));
  return out;
}

/** Takes one away from a count; whether there was one. */
export function lessOne(counts: Map<string, number>, key: string): boolean {
  const count = counts.get(key) ?? 0;
  if (count > 0) counts.set(key, count - 1);
  return count > 0;
}
