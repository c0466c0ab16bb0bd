import { z } from 'zod';
import { ownChangeSchema, ownSchema } from '../dashboard';
import { menuChangeSchema, ownMenuSchema, preferencesSchema } from '../own';
import type { AskEntry } from '../ask';
import { pageIdSchema, type Contract } from './parts';

const day = z
  .string()
  .regex(/^\d{4}-\d\d-\d\d$/, 'Write the day like 2026-11-25.')
  .optional();
const assignmentSchema = z.strictObject({
  role: z.string().min(1, 'Choose a role.').max(80),
  branch: pageIdSchema.optional(),
  from: day,
  until: day,
});
/** An assignment as forms give it: days on the site's own clock, both inclusive. */
export type GivenAssignment = z.infer<typeof assignmentSchema>;
const assignments = z.array(assignmentSchema).max(30, 'Nobody needs more than 30 roles.');
export const personNameSchema = z.string().trim().min(1, 'Say who it is.').max(300);
export const emailSchema = z.email('Write a mail address, like ines@example.org.').max(300);

const [MIN, MAX] = [10, 200];
const password = z
  .string()
  .min(MIN, `A password needs at least ${MIN} characters.`)
  .max(MAX, `A password has at most ${MAX} characters.`);

/**
 * One change for several people: a role given or taken away (on every branch and for all times), accounts paused or let
 * work again.
 */
const many = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('give'), assignment: assignmentSchema }),
  z.strictObject({ do: z.literal('take'), role: z.string().max(80) }),
  z.strictObject({ do: z.literal('pause') }),
  z.strictObject({ do: z.literal('resume') }),
]);
export type ManyChange = z.infer<typeof many>;
const manyRow = z.object({
  id: z.string(),
  name: z.string(),
  outcome: z.enum(['done', 'same', 'fault']),
  says: z.string(),
});
/** What becomes of one of several people: changed, as it was already, or left out because it may not be. */
export type ManyRow = z.infer<typeof manyRow>;

const importRow = z.object({
  line: z.int(),
  name: z.string(),
  email: z.string(),
  says: z.string(),
  outcome: z.enum(['new', 'more', 'same', 'fault']),
});
export type ImportRow = z.infer<typeof importRow>;
const madeLink = z.object({ link: z.string(), until: z.string() });
/** A one-time link, to be handed over: shown this once. */
export type MadeLink = z.infer<typeof madeLink>;
const importedLink = madeLink.extend({ name: z.string(), email: z.string() });
export type ImportedLink = z.infer<typeof importedLink>;

const to = z.object({ to: z.string() });
const token = z.string().max(200);
/** The first keyholder, by the link the start command prints. */
export const keyholderSchema = z.strictObject({
  token,
  name: z.string().trim().min(1, 'Say your name.').max(300),
  email: z.email('Write a mail address, like maud@example.org.').max(300),
  password,
});
/** The password somebody invited has chosen. */
export const invitedSchema = z.strictObject({ token, password });

export const peopleRoutes = {
  'PUT /api/people/[id]/assignments': { body: z.strictObject({ before: assignments, after: assignments }) },
  'PUT /api/people/[id]/details': {
    body: z.strictObject({
      before: z.strictObject({ name: z.string(), email: z.string() }),
      name: personNameSchema,
      email: emailSchema,
    }),
  },
  'POST /api/people/[id]/link': { answer: madeLink },
  'POST /api/people/[id]/pause': { body: z.strictObject({ paused: z.boolean() }) },
  'POST /api/people/import': {
    large: true,
    body: z.strictObject({
      csv: z.string().min(1, 'The file is empty.').max(1_000_000, 'The file is too large; 1 MB is the most.'),
      confirm: z.boolean(),
    }),
    answer: z.object({ rows: z.array(importRow), done: z.boolean(), links: z.array(importedLink) }),
  },
  'POST /api/people': {
    body: z.strictObject({ name: personNameSchema, email: emailSchema, assignments }),
    answer: madeLink.extend({ id: z.int() }),
  },
  'POST /api/people/many': {
    body: z.strictObject({
      people: z.array(z.int().positive()).min(1, 'Choose somebody.').max(200, 'At most 200 people at once.'),
      change: many,
      confirm: z.boolean(),
    }),
    answer: z.object({ rows: z.array(manyRow), done: z.boolean() }),
  },
  'POST /api/people/move': {
    body: z.strictObject({ from: z.string().max(80), to: z.string().max(80) }),
    answer: z.object({ moved: z.int() }),
  },
  'GET /api/activity': {},
} as const satisfies Record<string, Contract>;

export const ownRoutes = {
  'GET /api/ask': {
    answer: z.object({ entries: z.array(z.custom<AskEntry>()), learned: z.record(z.string(), z.string()) }),
  },
  'POST /api/ask': {
    body: z.strictObject({ asked: z.string().trim().min(1).max(200), chosen: z.string().max(120).nullable() }),
  },
  'PUT /api/own-password': { body: z.strictObject({ current: z.string().max(1000), password }) },
  'PUT /api/own-tries': {},
  'PUT /api/own-menu': { body: menuChangeSchema, answer: ownMenuSchema },
  'PUT /api/own-preferences': { body: preferencesSchema.partial(), answer: preferencesSchema },
  'PUT /api/own-today': {
    body: z.union([ownChangeSchema, z.strictObject({ do: z.literal('undo') })]),
    answer: z.object({ own: ownSchema, canUndo: z.boolean(), told: z.array(z.string()) }),
  },
  'PUT /api/tours/[task]': {
    body: z.strictObject({
      stop: z.int().min(0).max(200),
      done: z.boolean(),
      seen: z.boolean().default(false),
      did: z.array(z.string().max(100)).max(20).default([]),
    }),
  },
  'POST /api/set-up': { body: z.union([keyholderSchema, invitedSchema]), answer: to },
  'POST /api/sign-in': {
    body: z.strictObject({
      email: z.string().trim().max(300),
      password: z.string().max(1000),
      next: z.string().max(500).optional(),
    }),
    answer: to,
  },
  'POST /api/sign-out': { answer: to },
} as const satisfies Record<string, Contract>;
