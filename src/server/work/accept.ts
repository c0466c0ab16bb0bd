import { isLong, type Document } from '@/core/content';
import { acceptChange, CODE_VIEW, handsOf, type AcceptFault, type ConstructPolicy } from '@/core/toolbar';
import type { Tool } from '@/core/inventory';
import { runApart } from './apart';

/** A change of a text that is asked about, as a worker can be given it: with what the tools at hand make. */
export interface AcceptWork {
  before: Document;
  after: Document;
  from: readonly Document[];
  /** Null: everything. */ makes: readonly string[] | null;
  keep: Readonly<Record<string, ConstructPolicy>>;
}

/** What of a change is not accepted (`acceptChange`); worked out apart where the texts are long. */
export async function acceptApart(
  change: Pick<AcceptWork, 'before' | 'after' | 'from' | 'keep'>,
  allowed: ReadonlySet<string>,
  tools: readonly Tool[],
): Promise<AcceptFault[]> {
  const { before, after, from, keep } = change;
  const hands = handsOf(allowed, tools, keep);
  if (![before, after, ...from].some(isLong)) return acceptChange(before, after, hands, from);
  const makes = allowed.has(CODE_VIEW)
    ? null
    : [...new Set(tools.filter((tool) => allowed.has(tool.id)).flatMap((tool) => tool.makes))];
  return (await runApart('accept', { before, after, from, makes, keep } satisfies AcceptWork)) as AcceptFault[];
}
