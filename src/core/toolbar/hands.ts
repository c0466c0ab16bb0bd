import type { Tool } from '../inventory';
import type { Hands, Policy } from './accept';

/** Stands among the tools somebody has where the code view is theirs. */
export const CODE_VIEW = 'mode.code';

/** What stays whole while somebody without its tool writes around it; everything else is free. */
const POLICY: Readonly<Record<string, Policy>> = { table: 'whole', picture: 'whole' };

/** The tools with which something can be made (`makeOf`); parts nobody knows come in by the code view alone. */
export const makersOf = (tools: readonly Tool[], made: string): Pick<Tool, 'id' | 'name'>[] =>
  made.startsWith('unknown') ? [{ id: CODE_VIEW, name: 'Code' }] : tools.filter((tool) => tool.makes.includes(made));

/** What can be made with some tools; everything with the code view. */
export function makesOf(tools: Iterable<Pick<Tool, 'id' | 'makes'>>): (made: string) => boolean {
  const made = new Set<string>();
  for (const tool of tools) {
    if (tool.id === CODE_VIEW) return () => true;
    for (const one of tool.makes) made.add(one);
  }
  return (one) => made.has(one);
}

/** What somebody with these tools can do with a text, and what of it stays. */
export const handsOf = (allowed: ReadonlySet<string>, tools: readonly Tool[]): Hands => ({
  makes: allowed.has(CODE_VIEW) ? () => true : makesOf(tools.filter((tool) => allowed.has(tool.id))),
  policyOf: (construct) => POLICY[construct] ?? 'free',
});
