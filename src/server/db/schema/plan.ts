import { index, integer, jsonb, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import { id, setAtOnce, type Owned, within } from './columns';
import { site, sites, people } from './site';

/**
 * The plan being prepared; `revision` guards it against overwriting. As it was written, in whatever form: `readPlan`
 * reads it.
 */
export const plans = pgTable('plans', {
  siteId: integer()
    .primaryKey()
    .references(() => sites.id),
  plan: jsonb().$type<unknown>().notNull(),
  revision: integer().notNull(),
});

/**
 * Each operation on the prepared plan, with what it touched before and after it, so that it can be undone and redone;
 * read by `readOperation` and `readPatch`.
 */
export const planSteps = pgTable(
  'plan_steps',
  {
    id: id(),
    siteId: site(),
    operation: jsonb().$type<unknown>().notNull(),
    before: jsonb().$type<unknown>().notNull(),
    after: jsonb().$type<unknown>().notNull(),
    madeBy: integer(),
    madeAt: setAtOnce(),
    /** `gone`: undone, and something else was done since. */
    state: text().$type<'done' | 'undone' | 'gone'>().notNull().default('done'),
  },
  (t) => [within(t, t.madeBy, (): Owned => people), index().on(t.siteId, t.id)],
);

/**
 * Which roles each revision of the prepared plan touched, so that changes to different roles do not collide; kept for a
 * while.
 */
export const planMarks = pgTable(
  'plan_marks',
  {
    siteId: site(),
    revision: integer().notNull(),
    touched: jsonb().$type<string[]>().notNull(),
    madeBy: integer(),
    madeAt: setAtOnce(),
  },
  (t) => [within(t, t.madeBy, (): Owned => people), primaryKey({ columns: [t.siteId, t.revision] })],
);

/** Who prepares which role now; null for the plan as a whole. */
export const planPresence = pgTable(
  'plan_presence',
  { siteId: site(), personId: integer().notNull(), role: text(), seenAt: setAtOnce() },
  (t) => [within(t, t.personId, (): Owned => people), primaryKey({ columns: [t.siteId, t.personId] })],
);
