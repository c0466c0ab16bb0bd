import { z } from 'zod';
import { EVERY } from '../duties';
import { isDay } from '../words';
import { pageIdSchema, versionSchema, type Contract } from './parts';

const day = z.string().refine(isDay, 'Write the day like 2026-11-25.').nullable();
/** A duty as its form sends it: what, whose turn it is, until when, and how often it comes again. */
const dutySchema = z
  .strictObject({
    text: z.string().trim().min(1, 'Say what has to be done.').max(200, '200 characters are enough to say what.'),
    whose: pageIdSchema,
    due: day,
    every: z.enum(EVERY).nullable(),
  })
  .refine(({ due, every }) => every === null || due !== null, {
    path: ['due'],
    message: 'What comes again needs a day it is due first.',
  });
export type NewDuty = z.infer<typeof dutySchema>;

const person = z.object({ id: z.string(), name: z.string() });
const told = z.object({
  id: z.int(),
  text: z.string(),
  whose: person,
  by: person,
  /** Why nobody looks after it: whoever it is for can no longer come in. */
  away: z.string().nullable(),
  due: z.string().nullable(),
  every: z.enum(EVERY).nullable(),
  /** When and by whom it was ticked off last; of what comes again the last time. */
  done: z.object({ at: z.string(), by: z.string() }).nullable(),
  /** Nothing of it is left to do. */
  over: z.boolean(),
  version: z.int(),
  /** Whether they may tick it off: it is their turn, or they gave it, or look after all duties. */
  mayTick: z.boolean(),
});
/** A duty as lists have it. */
export type Duty = z.infer<typeof told>;
const changed = z.object({ duty: told });
const version = versionSchema.min(1);

export const dutyRoutes = {
  'POST /api/duties': { body: dutySchema, answer: changed },
  'PUT /api/duties/[id]': { body: z.strictObject({ duty: dutySchema, version }), answer: changed },
  'POST /api/duties/[id]/remove': {},
  /** Ticked off, ticked off by mistake, or given back to whoever gave it. */
  'POST /api/duties/[id]/turn': {
    body: z.strictObject({ do: z.enum(['tick', 'untick', 'give-back']), version }),
    answer: changed,
  },
} as const satisfies Record<string, Contract>;
