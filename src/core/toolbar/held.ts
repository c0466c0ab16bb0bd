import type { DocumentNode, Mark } from '../content';
import { isPlain, makeOf } from './made';

/** What comes with another construct and says nothing by itself. */
const WITHIN: ReadonlySet<string> = new Set(['doc', 'tableCell', 'tableHeader']);

/**
 * What a field's value holds that a tool makes, with how often: nodes and marks by `makeOf`, whatever texts and pieces
 * they lie in.
 */
export function heldIn(value: unknown): Map<string, number> {
  const counts = new Map<string, number>();
  const visit = (part: unknown): void => {
    if (typeof part !== 'object' || part === null) return;
    if ('type' in part && typeof part.type === 'string' && !isPlain(part.type) && !WITHIN.has(part.type)) {
      const made = makeOf(part as DocumentNode | Mark);
      counts.set(made, (counts.get(made) ?? 0) + 1);
    }
    for (const inner of Object.values(part)) visit(inner);
  };
  visit(value);
  return counts;
}
