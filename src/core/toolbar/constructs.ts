import type { BlockNode, Document, DocumentNode } from '../content';
import { canonical } from '../json';
import type { Tool } from '../inventory';

/**
 * What a document holds that some tool makes, counted: `heading` → 3, `link:/fares` → 1. A table, a picture and what is
 * not known count under all they are, so that one changed in any way is another one. Of a mark there is also how many
 * letters it stands on, under `letters ` and its name.
 */
export type Constructs = Record<string, number>;

const BLOCK_CONSTRUCTS = new Set(['heading', 'bulletList', 'orderedList', 'blockquote', 'highlight', 'alert']);
export const PROTECTED_BLOCKS: ReadonlySet<string> = new Set(['table', 'picture']);
/** What no tool makes: it can only come in by the code view. */
const UNKNOWN: ReadonlySet<string> = new Set(['unknown', 'unknownInline']);
const LETTERS = 'letters ';
/** Stands among the tools somebody has where the code view is theirs. */
export const CODE_VIEW = 'mode.code';

/** Counts the constructs of a document. A mark that runs on over a break counts once, one in a new paragraph anew. */
export function constructsOf(document: Document): Constructs {
  const counts: Constructs = {};
  const add = (key: string, by = 1) => void (counts[key] = (counts[key] ?? 0) + by);
  let running = new Set<string>();
  const visit = (node: DocumentNode) => {
    if (node.type === 'hardBreak') return;
    if (UNKNOWN.has(node.type)) {
      add(`${node.type}:${canonical(node)}`);
      return;
    }
    if (node.type === 'text') {
      const marks = new Set(
        (node.marks ?? []).map((mark) => (mark.type === 'link' ? `link:${mark.attrs?.href ?? ''}` : mark.type)),
      );
      for (const mark of marks) {
        if (!running.has(mark)) add(mark);
        add(LETTERS + mark, [...node.text].length);
      }
      running = marks;
      return;
    }
    if (PROTECTED_BLOCKS.has(node.type)) {
      add(`${node.type}:${canonical((node as BlockNode).content ?? (node as BlockNode).attrs ?? [])}`);
      running = new Set();
      return;
    }
    if (BLOCK_CONSTRUCTS.has(node.type)) add(node.type);
    running = new Set();
    for (const child of (node as BlockNode).content ?? []) visit(child);
    running = new Set();
  };
  for (const node of document.content) visit(node);
  return counts;
}

/** The larger count of each construct: what may still be there, since it once was. */
export function mergeConstructs(a: Constructs, b: Constructs): Constructs {
  const merged = { ...a };
  for (const [key, count] of Object.entries(b)) merged[key] = Math.max(merged[key] ?? 0, count);
  return merged;
}

/**
 * Whether a block that only a missing tool could make again would be lost: such blocks (tables, pictures) stay whole
 * while somebody without the tool edits around them.
 */
export function losesProtected(
  allowed: ReadonlySet<string>,
  tools: readonly Tool[],
  before: Document,
  after: Document,
): boolean {
  const guarded = new Set(
    [...PROTECTED_BLOCKS].filter((block) => !tools.some((tool) => tool.makes.includes(block) && allowed.has(tool.id))),
  );
  const now = constructsOf(after);
  return Object.entries(constructsOf(before)).some(
    ([construct, count]) => guarded.has(kindOf(construct)) && (now[construct] ?? 0) < count,
  );
}

/**
 * Pasted blocks with what no tool at hand could make turned into plain paragraphs and plain words. Gives the names
 * of what was taken out.
 */
export function plainOut(
  allowed: ReadonlySet<string>,
  tools: readonly Tool[],
  nodes: readonly DocumentNode[],
): { nodes: DocumentNode[]; dropped: string[] } {
  const dropped = new Set<string>();
  const forbids = (construct: string) => {
    const makers = tools.filter((tool) => tool.makes.includes(construct));
    const forbidden = makers.length > 0 && !makers.some((tool) => allowed.has(tool.id));
    if (forbidden) dropped.add(makers[0]?.name ?? construct);
    return forbidden;
  };
  const clean = (node: DocumentNode): DocumentNode[] => {
    if (node.type === 'hardBreak' || node.type === 'unknownInline') return [node];
    if (node.type === 'text') {
      const marks = (node.marks ?? []).filter((mark) => !forbids(mark.type));
      return [{ type: 'text', text: node.text, ...(marks.length && { marks }) }];
    }
    const content = (node.content ?? []).flatMap(clean);
    if (!forbids(node.type)) return [{ ...node, content }];
    if (node.type === 'heading') return [{ type: 'paragraph', content }];
    const unwrap = (n: DocumentNode): DocumentNode[] =>
      n.type === 'listItem' || n.type === 'tableRow' || n.type === 'tableCell' || n.type === 'tableHeader'
        ? (n.content ?? []).flatMap(unwrap)
        : [n];
    return content.flatMap(unwrap);
  };
  return { nodes: nodes.flatMap(clean), dropped: [...dropped] };
}

const kindOf = (construct: string) => construct.split(':', 1)[0] ?? construct;

/**
 * The tools that would have been needed for what a document holds beyond what it held before, but that are not in the
 * toolbar, by id and name. Empty means the document may be saved. Keeping, shortening, parting in two and removing need
 * no tool; a mark on more places *and* on more letters does.
 */
export function missingTools(
  allowed: ReadonlySet<string>,
  tools: readonly Tool[],
  before: Constructs,
  document: Document,
): Pick<Tool, 'id' | 'name'>[] {
  const missing = new Map<string, Pick<Tool, 'id' | 'name'>>();
  const now = constructsOf(document);
  for (const [construct, count] of Object.entries(now)) {
    if (construct.startsWith(LETTERS) || count <= (before[construct] ?? 0)) continue;
    const letters = now[LETTERS + construct];
    if (letters !== undefined && before[construct] !== undefined && letters <= (before[LETTERS + construct] ?? 0))
      continue;
    const kind = kindOf(construct);
    const makers = UNKNOWN.has(kind)
      ? [{ id: CODE_VIEW, name: 'Code' }]
      : tools.filter((tool) => tool.makes.includes(kind));
    if (makers.length && !makers.some((tool) => allowed.has(tool.id)))
      for (const tool of makers) missing.set(tool.id, tool);
  }
  return [...missing.values()];
}
