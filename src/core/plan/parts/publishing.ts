import { z } from 'zod';
import { CHECKS } from '../../content';
import { sameJson } from '../../json';
import { operationsOn, type PlanPart, type WholePart } from './part';

const checkRule = z.enum(['block', 'advise', 'off']);
export type CheckRule = z.infer<typeof checkRule>;
const publishingSchema = z.strictObject({
  noteRequired: z.boolean(),
  checks: z.record(z.enum(CHECKS.map((check) => check.id)), checkRule),
});
export type PublishingRules = z.infer<typeof publishingSchema>;

/** What holds while a plan says nothing of its own: what would be plainly wrong stops, the rest advises. */
const USUAL: PublishingRules = {
  noteRequired: false,
  checks: {
    required: 'block',
    descriptions: 'advise',
    links: 'advise',
    empty: 'advise',
    headings: 'advise',
    sample: 'block',
    sentences: 'advise',
  },
};
export const publishingOf = (plan: { publishing?: PublishingRules | undefined }): PublishingRules =>
  plan.publishing ?? USUAL;

const RULE = { block: 'stops publishing', advise: 'advises', off: 'is off' };
type Value = PublishingRules | undefined;
const on = operationsOn<Value>();

/** How strict the site is before something goes out: whether a change note is asked for, and what each check does. */
export const publishing = {
  /** As `publishingOf` says when left out. */
  schema: publishingSchema.optional(),
  empty: undefined as Value,
  operations: [
    on(
      'set-publishing',
      { publishing: publishingSchema },
      {
        apply: (_, _value, op) => (sameJson(op.publishing, USUAL) ? undefined : op.publishing),
        say: () => 'Set what is looked for before publishing',
      },
    ),
  ],
  canonical: (_, value) => value ?? USUAL,
  differences({ of }, before = USUAL, after = USUAL) {
    if (of !== null) return [];
    return [
      ...(before.noteRequired === after.noteRequired
        ? []
        : [after.noteRequired ? 'A change note is asked for.' : 'A change note is no longer asked for.']),
      ...CHECKS.filter((check) => before.checks[check.id] !== after.checks[check.id]).map(
        (check) => `“${check.name}” ${RULE[after.checks[check.id]]}.`,
      ),
    ];
  },
  taking: (value, from, ids) => (ids.includes(null) ? from : value),
  readable: z.unknown().optional(),
  twice: () => [],
  unknown: () => [],
} satisfies PlanPart<Value, unknown> & WholePart<Value>;
