import type { DocumentNode, Mark } from '../content';
import type { Tool } from '../inventory';
import { makersOf } from './hands';
import { makeOf } from './made';

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
  const forbids = (part: DocumentNode | Mark) => {
    const makers = makersOf(tools, makeOf(part));
    const forbidden = makers.length > 0 && !makers.some((tool) => allowed.has(tool.id));
    if (forbidden) dropped.add(makers[0]?.name ?? part.type);
    return forbidden;
  };
  const clean = (node: DocumentNode): DocumentNode[] => {
    if (node.type === 'hardBreak' || node.type === 'unknownInline') return [node];
    if (node.type === 'text') {
      const marks = (node.marks ?? []).filter((mark) => !forbids(mark));
      return [{ type: 'text', text: node.text, ...(marks.length && { marks }) }];
    }
    const content = (node.content ?? []).flatMap(clean);
    if (!forbids(node)) return [{ ...node, content }];
    if (node.type === 'heading') return [{ type: 'paragraph', content }];
    const unwrap = (n: DocumentNode): DocumentNode[] =>
      n.type === 'listItem' || n.type === 'tableRow' || n.type === 'tableCell' || n.type === 'tableHeader'
        ? (n.content ?? []).flatMap(unwrap)
        : [n];
    return content.flatMap(unwrap);
  };
  return { nodes: nodes.flatMap(clean), dropped: [...dropped] };
}
