import { z } from 'zod';
import { parseDocument, type Document } from '../content';
import { documentFaults, faultsOf, type Fault } from '../json';
import type { Tool } from '../inventory';
import type { Hands, Policy } from './accept';
import { makesOf } from './hands';
import { CONSTRUCTS } from './made';

const acceptQuestionSchema = z.strictObject({
  before: z.unknown(),
  after: z.unknown(),
  tools: z.array(z.string().min(1)),
  policy: z.record(z.string().min(1), z.enum(['whole', 'words', 'free'])).default({}),
});

/**
 * Reads one question whether a change of a text is accepted: `{"before","after","tools","policy"}`. `policy` names nodes
 * and marks of the document schema; what it leaves out is free. Every fault comes with its path.
 */
export function readAcceptQuestion(
  known: ReadonlyMap<string, Pick<Tool, 'id' | 'makes'>>,
  value: unknown,
): { ok: true; question: { before: Document; after: Document; hands: Hands } } | { ok: false; faults: Fault[] } {
  const parsed = acceptQuestionSchema.safeParse(value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const { policy } = parsed.data;
  const { faults, fault, known: isKnown, once } = documentFaults();
  const read = (which: 'before' | 'after'): Document | undefined => {
    const document = parseDocument(parsed.data[which]);
    if (document.ok) return document.document;
    const steps = document.path.split('/').filter(Boolean);
    fault([which, ...steps.map((step) => (/^\d+$/.test(step) ? Number(step) : step))], document.message);
    return undefined;
  };
  const [before, after] = [read('before'), read('after')];
  parsed.data.tools.forEach((tool, i) => isKnown(known, 'tool', tool, ['tools', i]));
  once(parsed.data.tools, ['tools']);
  for (const name of Object.keys(policy)) isKnown(CONSTRUCTS, 'construct', name, ['policy', name]);
  if (faults.length > 0 || !before || !after) return { ok: false, faults };
  const tools = parsed.data.tools.flatMap((tool) => known.get(tool) ?? []);
  const policyOf = (construct: string): Policy => policy[construct] ?? 'free';
  return { ok: true, question: { before, after, hands: { makes: makesOf(tools), policyOf } } };
}
