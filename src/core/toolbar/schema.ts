import { z } from 'zod';
import { whenSchema } from '../rules';
import { CONSTRUCTS } from './made';
import { POLICIES } from './policy';

const id = z.string().min(1);
const ids = z.array(id);

/** Exactly one thing a rule does with the tools of a role; `cap`, with those of a person: never more than these. */
const thenSchema = z
  .strictObject({ use: id.optional(), add: ids.optional(), take: ids.optional(), cap: ids.optional() })
  .refine((then) => Object.keys(then).length === 1, 'a rule does one thing: use, add, take or cap');
export type ToolEffect = z.infer<typeof thenSchema>;

export const policySchema = z.enum(POLICIES);
/** What a rule says becomes of constructs, by the names of nodes and marks of the document schema. */
export const keepSchema = z.record(
  z.string().refine((name) => CONSTRUCTS.has(name), 'is no construct of a text'),
  policySchema,
);

/** A named set of tools: what its base has, without what it takes, with what it adds. */
export const toolSetSchema = z.strictObject({ id, base: id.optional(), add: ids, take: ids });
export type ToolSet = z.infer<typeof toolSetSchema>;

/** A rule for toolbars as it is written down. */
export const toolRuleSchema = z.strictObject({ id, when: whenSchema, then: thenSchema });
export interface ToolRule extends z.infer<typeof toolRuleSchema> {
  keep?: z.infer<typeof keepSchema> | undefined;
}
