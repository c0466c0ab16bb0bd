import { index, integer, jsonb, pgTable, primaryKey, text, varchar, bigint } from 'drizzle-orm/pg-core';
import { id, setAtOnce, type Owned, within } from './columns';
import { site, people } from './site';

/** What was done, by whom and when. Append-only (a trigger refuses anything else). */
export const activity = pgTable(
  'activity',
  {
    id: id(),
    siteId: site(),
    at: setAtOnce(),
    personId: integer(),
    action: text().notNull(),
    subject: text().notNull(),
    href: text(),
    detail: text().notNull().default(''),
  },
  (t) => [within(t, t.personId, (): Owned => people), index().on(t.siteId, t.id)],
);

/** What visitors looked for on the website and did not find, without what makes no difference. */
export const missedSearches = pgTable(
  'missed_searches',
  {
    siteId: site(),
    words: text().notNull(),
    /** As it was typed last. */
    asked: text().notNull(),
    times: integer().notNull().default(1),
    askedAt: setAtOnce(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.words] }), index().on(t.siteId, t.askedAt)],
);

/**
 * What was asked of “Where do I…?”, without what makes no difference, and what was chosen then; `` where nothing was
 * found.
 */
export const questions = pgTable(
  'questions',
  {
    siteId: site(),
    question: text().notNull(),
    chosen: text().notNull(),
    /** As it was typed last. */
    asked: text().notNull(),
    times: integer().notNull().default(1),
    askedAt: setAtOnce(),
  },
  (t) => [primaryKey({ columns: [t.siteId, t.question, t.chosen] })],
);

/** Answers already given, so that a request sent twice has one effect. */
export const receipts = pgTable(
  'receipts',
  {
    personId: integer().notNull(),
    key: varchar({ length: 80 }).notNull(),
    siteId: site(),
    /** SHA-256 of what was asked: method, address and body. */
    request: text().notNull().default(''),
    response: jsonb().$type<unknown>(),
    madeAt: setAtOnce(),
  },
  (t) => [
    index().on(t.madeAt),
    primaryKey({ columns: [t.personId, t.key] }),
    within(t, t.personId, (): Owned => people),
  ],
);

/** Kept by the package `rate-limiter-flexible`. */
export const rateLimits = pgTable('rate_limits', {
  key: varchar({ length: 255 }).primaryKey(),
  points: integer().notNull().default(0),
  expire: bigint({ mode: 'number' }),
});
