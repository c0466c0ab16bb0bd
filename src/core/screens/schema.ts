import { z } from 'zod';
import { planIdSchema } from '../ids';
import { whenSchema } from '../rules';

/**
 * How an element of an edit screen is there: open to be seen, shut at first, or not at all. What is not said is as the
 * screen has it by itself.
 */
export const SHOWS = ['shown', 'closed', 'hidden'] as const;
export type Show = (typeof SHOWS)[number];

const words = (max: number) => z.string().trim().min(1, 'is empty').max(max, `has more than ${max} characters`);
const id = z.string().min(1).max(80);

/** What can be said of one element; what is left out stays as it is. */
export const elementSchema = z.strictObject({
  show: z.enum(SHOWS).optional(),
  /** Its name and the hint below it, in the administrator's words. */
  label: words(80).optional(),
  hint: words(300).optional(),
  /** Nobody this holds for can change it; the reason they read. */
  lock: words(200).optional(),
  /** What something new begins with. */
  value: z.union([z.string().max(2000), z.number(), z.boolean()]).optional(),
  /** It must say something before it is sent or published. */
  required: z.literal(true).optional(),
  /** Of what it can be chosen from only these. */
  choices: z.array(id).min(1).max(60).optional(),
});
export type ElementSaid = z.infer<typeof elementSchema>;
export type Aspect = keyof ElementSaid;

/** In which order elements stand, in the wide column and beside it; what is not named stands behind, where it belongs. */
export const arrangementSchema = z.strictObject({ main: z.array(id).max(80), side: z.array(id).max(80) });
export type Arrangement = z.infer<typeof arrangementSchema>;

/**
 * Something said of elements of edit screens, by place: of those that `when.fields` names (fields by their ids, panels
 * by the ids of their controls), or, naming none, how a whole screen is arranged.
 */
export const screenRuleSchema = z.strictObject({
  id: planIdSchema,
  when: whenSchema,
  then: z.union([elementSchema, arrangementSchema]),
});
export type ScreenRule = z.infer<typeof screenRuleSchema>;

export const isArrangement = (then: ScreenRule['then']): then is Arrangement => 'main' in then;
