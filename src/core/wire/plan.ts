import { z } from 'zod';
import { operationSchema, type Plan } from '../plan';
import type { RoleDifference } from '../release';
import { idSchema, pageIdSchema, type Contract } from './parts';

const entry = z.object({
  id: z.int(),
  words: z.string(),
  /** Null where an operation concerned the whole plan. */
  role: z.string().nullable(),
  by: z.string(),
  at: z.string(),
});
/** An operation done. */
export type HistoryEntry = z.infer<typeof entry>;
/**
 * A change that can be taken back or made again; `also`: what was changed in the same place since, newest first, and
 * goes with it.
 */
const reversible = entry.extend({ also: z.array(entry) });
const state = z.object({
  plan: z.custom<Plan>(),
  revision: z.int(),
  /** One's own last change to the role that is prepared. */
  undo: reversible.nullable(),
  redo: reversible.nullable(),
  /** Operations done since the last release, newest first. */
  recent: z.array(entry),
});
/** The prepared plan, with what somebody can undo and redo of a role. */
export type PlanState = z.infer<typeof state>;

const preparing = z.object({
  name: z.string(),
  /** The role they prepare; null for the plan as a whole. */
  role: z.string().nullable(),
});
export type Preparing = z.infer<typeof preparing>;

const why = z.object({
  allowed: z.boolean(),
  words: z.string(),
  ways: z.array(z.string()),
  pages: z.array(z.string()),
  count: z.int(),
});
/** Why somebody may or may not do something, for all pages where the reason is the same. */
export type WhyGroup = z.infer<typeof why>;

const held = z.object({
  item: z.string(),
  /** The kind of item. */
  type: z.string(),
  /** The page it is, or lies on. */
  page: z.string(),
  field: z.string(),
  times: z.int(),
  title: z.string(),
  /** Who changed it last; null where nobody knows. */
  by: z.string().nullable(),
  at: z.string(),
});
/** A text that holds something a tool makes. */
export type HeldPlace = z.infer<typeof held>;

const used = z.object({
  person: z.string(),
  type: z.string(),
  layout: z.string(),
  field: z.string(),
  /** What was made: `heading.2`, `table`. */
  made: z.string(),
  times: z.int(),
  last: z.string(),
  /** Some of the items it was made in, by their ids. */
  items: z.array(z.string()),
});
const changesMade = z.object({ person: z.string(), type: z.string(), layout: z.string(), changes: z.int() });
/** How many versions somebody wrote in, of items of a kind with a layout. */
export type ChangesMade = z.infer<typeof changesMade>;
/** What somebody made with tools in one text of one layout. */
export type UsedTool = z.infer<typeof used>;

const revision = z.int().max(2_147_483_647);
const role = z.string().max(80).nullable();
/** Roles named (null for what concerns all); null for everything. */
const roles = z.array(role).min(1).max(500).nullable();

export const planRoutes = {
  'GET /api/access/map': {},
  'GET /api/access/why': { answer: z.object({ groups: z.array(why) }) },
  'GET /api/workshop/held': { answer: z.object({ places: z.array(held), all: z.boolean() }) },
  'GET /api/workshop/used': { answer: z.object({ days: z.int(), used: z.array(used), changes: z.array(changesMade) }) },
  'POST /api/workshop/drop': { body: z.strictObject({ revision, roles }), answer: state },
  'GET /api/workshop/export': {},
  'POST /api/workshop/history': {
    body: z.strictObject({ direction: z.enum(['undo', 'redo']), role, also: z.array(idSchema).max(300).default([]) }),
    answer: state,
  },
  'POST /api/workshop/import': {
    large: true,
    /** `confirm`: the revision that was told of. */
    body: z.strictObject({
      text: z.string().min(1, 'The file is empty.').max(1_500_000),
      confirm: revision.optional(),
    }),
    /** What it would change; or that it was done. */
    answer: z.union([
      z.object({ revision: z.int(), differences: z.array(z.custom<RoleDifference>()) }),
      z.object({ done: z.literal(true) }),
    ]),
  },
  'POST /api/workshop/plan': {
    large: true,
    body: z.strictObject({ revision, role: role.default(null), operations: z.array(operationSchema).min(1).max(50) }),
    answer: state,
  },
  'POST /api/workshop/presence': { body: z.strictObject({ role }), answer: z.object({ others: z.array(preparing) }) },
  'POST /api/workshop/release': {
    body: z.strictObject({ revision, note: z.string().trim().max(300), roles: roles.default(null) }),
    answer: z.object({ number: z.int() }),
  },
  'POST /api/workshop/return': {
    body: z.strictObject({ revision, to: idSchema }),
    answer: z.object({ number: z.int() }),
  },
  'POST /api/workshop/step-in': {
    body: z.strictObject({
      role: z.string(),
      person: pageIdSchema.optional(),
      from: z.string().regex(/^\/workshop(\/[\w./-]*)?$/),
    }),
    answer: z.object({ to: z.string() }),
  },
  'POST /api/workshop/step-out': { answer: z.object({ to: z.string() }) },
} as const satisfies Record<string, Contract>;
