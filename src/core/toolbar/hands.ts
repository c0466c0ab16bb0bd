import type { Tool } from '../inventory';
import type { Hands } from './accept';
import { usualPolicy, type ConstructPolicy } from './policy';

/** With this tool anything a text can hold is made. */
export const CODE_VIEW = 'mode.code';

/** The tools with which something can be made (`makeOf`); parts nobody knows come in by the code view alone. */
export const makersOf = (tools: readonly Tool[], made: string): Tool[] =>
  tools.filter((tool) => (made.startsWith('unknown') ? tool.id === CODE_VIEW : tool.makes.includes(made)));

/** Tools somebody has, as a set; with the code view among them every tool there is. */
export const handy = (tools: readonly string[], all: Iterable<string>): ReadonlySet<string> =>
  new Set(tools.includes(CODE_VIEW) ? all : tools);

/**
 * Where pictures may be chosen from: all somebody may see, those that belong to this part of the website and the page's
 * own, or only those it has or once had.
 */
export function pictureSource(tools: readonly string[]): 'all' | 'part' | 'own' {
  if (tools.includes('picture.all')) return 'all';
  if (tools.includes('picture.folder')) return 'part';
  return tools.includes('picture.own') ? 'own' : 'all';
}

/** What can be made with some tools; everything with the code view. */
export function makesOf(tools: Iterable<Pick<Tool, 'id' | 'makes'>>): (made: string) => boolean {
  const made = new Set<string>();
  for (const tool of tools) {
    if (tool.id === CODE_VIEW) return () => true;
    for (const one of tool.makes) made.add(one);
  }
  return (one) => made.has(one);
}

/** What somebody with these tools can do with a text, and what of it stays; `keep`: what rules say of constructs. */
export const handsOf = (
  allowed: ReadonlySet<string>,
  tools: readonly Tool[],
  keep: Readonly<Record<string, ConstructPolicy>> = {},
): Hands => ({
  makes: makesOf(tools.filter((tool) => allowed.has(tool.id))),
  policyOf: (construct) => keep[construct] ?? usualPolicy(construct),
});
