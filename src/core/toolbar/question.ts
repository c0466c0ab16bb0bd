import { z } from 'zod';
import { parseDocument, type Document } from '../content';
import { documentFaults, faultsOf, inPlainWords, type Fault } from '../json';
import type { Tool } from '../inventory';
import type { Hands } from './accept';
import { makesOf } from './hands';
import { CONSTRUCTS } from './made';
import type { ConstructPolicy } from './policy';
import { policySchema } from './schema';

const acceptQuestionSchema = z.strictObject({
  before: z.unknown(),
  after: z.unknown(),
  tools: z.array(z.string().min(1)),
  policy: z.record(z.string().min(1), policySchema).default({}),
});

interface AcceptQuestion {
  before: Document;
  /** Or where it does not fit the document schema: such a text is accepted from nobody. */
  after: Document | { unfit: string };
  hands: Hands;
}

/**
 * Reads one question whether a change of a text is accepted: `{"before","after","tools","policy"}`. `policy` names nodes
 * and marks of the document schema; what it leaves out is free. Every fault comes with its path.
 */
export function readAcceptQuestion(
  known: ReadonlyMap<string, Pick<Tool, 'id' | 'makes'>>,
  value: unknown,
): { ok: true; question: AcceptQuestion } | { ok: false; faults: Fault[] } {
  const parsed = acceptQuestionSchema.safeParse(value, { error: inPlainWords });
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const { policy } = parsed.data;
  const { faults, fault, known: isKnown, once } = documentFaults();
  const [before, after] = [parseDocument(parsed.data.before), parseDocument(parsed.data.after)];
  if (!before.ok) {
    const steps = before.path.split('/').filter(Boolean);
    fault(['before', ...steps.map((step) => (/^\d+$/.test(step) ? Number(step) : step))], before.message);
  }
  if (!after.ok && !isText(parsed.data.after)) fault(['after'], after.message);
  parsed.data.tools.forEach((tool, i) => isKnown(known, 'tool', tool, ['tools', i]));
  once(parsed.data.tools, ['tools']);
  for (const name of Object.keys(policy)) isKnown(CONSTRUCTS, 'construct', name, ['policy', name]);
  if (faults.length > 0 || !before.ok) return { ok: false, faults };
  const tools = parsed.data.tools.flatMap((tool) => known.get(tool) ?? []);
  const policyOf = (construct: string): ConstructPolicy => policy[construct] ?? 'free';
  return {
    ok: true,
    question: {
      before: before.document,
      after: after.ok ? after.document : { unfit: after.path },
      hands: { makes: makesOf(tools), policyOf },
    },
  };
}
const isText = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && 'type' in value && value.type === 'doc';
