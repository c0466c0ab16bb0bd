import { sql } from 'drizzle-orm';
import { boolean, index, integer, jsonb, pgTable, primaryKey, text, unique, uniqueIndex } from 'drizzle-orm/pg-core';
import type { Audience } from '@/core/access';
import type { Every } from '@/core/duties';
import { id, at, setAtOnce, type Owned, within } from './columns';
import { site, people } from './site';
import { items, revisions } from './items';

/** What shall happen to a page by itself; kept when done. */
export const schedules = pgTable(
  'schedules',
  {
    id: id(),
    siteId: site(),
    itemId: integer().notNull(),
    what: text().$type<'publish' | 'take-down'>().notNull(),
    /** What is to be published. */
    revisionId: integer(),
    dueAt: at().notNull(),
    madeBy: integer(),
    madeAt: setAtOnce(),
    doneAt: at(),
    /** Why it did not happen; null when it did, or is still to come. */
    failed: text(),
  },
  (t) => [
    within(t, t.itemId, (): Owned => items),
    within(t, t.revisionId, (): Owned => revisions),
    within(t, t.madeBy, (): Owned => people),
    uniqueIndex('schedules_one_open')
      .on(t.itemId, t.what)
      .where(sql`done_at is null`),
    index().on(t.dueAt),
  ],
);

/** Words about a page among those who keep it; visitors never see them. */
export const notes = pgTable(
  'notes',
  {
    id: id(),
    siteId: site(),
    itemId: integer().notNull(),
    text: text().notNull(),
    /** The field and what in it (`heading.2`, `table`) somebody without the tool for it asks to have changed. */
    wish: jsonb().$type<{ field: string; made: string }>(),
    /** The note it answers. */
    answers: integer(),
    madeBy: integer(),
    madeAt: setAtOnce(),
    settledAt: at(),
  },
  (t) => [
    unique('notes_of_site').on(t.siteId, t.id),
    within(t, t.itemId, (): Owned => items),
    within(t, t.answers, (): Owned => notes),
    within(t, t.madeBy, (): Owned => people),
    index().on(t.itemId),
  ],
);

/** Who has a page open, told again every few seconds. */
export const presence = pgTable(
  'presence',
  {
    itemId: integer().notNull(),
    personId: integer().notNull(),
    siteId: site(),
    seenAt: setAtOnce(),
    typing: boolean().notNull().default(false),
  },
  (t) => [
    within(t, t.itemId, (): Owned => items),
    within(t, t.personId, (): Owned => people),
    primaryKey({ columns: [t.itemId, t.personId] }),
  ],
);

/** One-time secrets under which a draft can be looked at without an account, until they end. */
export const previewLinks = pgTable(
  'preview_links',
  {
    tokenHash: text().primaryKey(),
    id: integer().notNull().generatedAlwaysAsIdentity(),
    siteId: site(),
    itemId: integer().notNull(),
    madeBy: integer(),
    madeAt: setAtOnce(),
    expiresAt: at().notNull(),
    /** Who might visit the page when it was made: the link ends where fewer may. */
    audience: jsonb().$type<Audience>(),
    endedAt: at(),
  },
  (t) => [within(t, t.itemId, (): Owned => items), within(t, t.madeBy, (): Owned => people), index().on(t.itemId)],
);

/** Filters of the list of pages somebody has given a name. */
export const savedFilters = pgTable(
  'saved_filters',
  { id: id(), siteId: site(), personId: integer().notNull(), name: text().notNull(), query: text().notNull() },
  (t) => [within(t, t.personId, (): Owned => people), uniqueIndex().on(t.personId, t.name)],
);

export const reviews = pgTable(
  'reviews',
  {
    id: id(),
    siteId: site(),
    itemId: integer().notNull(),
    revisionId: integer().notNull(),
    sentBy: integer().notNull(),
    /** Who was asked by name; anybody who may when null. */
    askedOf: integer(),
    sentAt: setAtOnce(),
    note: text().notNull(),
    outcome: text().$type<'published' | 'sent-back' | 'replaced'>(),
    decidedBy: integer(),
    decidedAt: at(),
    word: text().notNull().default(''),
  },
  (t) => [
    unique('reviews_of_site').on(t.siteId, t.id),
    within(t, t.itemId, (): Owned => items),
    within(t, t.revisionId, (): Owned => revisions),
    within(t, t.sentBy, (): Owned => people),
    within(t, t.askedOf, (): Owned => people),
    within(t, t.decidedBy, (): Owned => people),
    uniqueIndex('reviews_one_open')
      .on(t.itemId)
      .where(sql`outcome is null`),
  ],
);

/** Remarks of a second look, each tied to a place: a field, and the words it is about. */
export const remarks = pgTable(
  'remarks',
  {
    id: id(),
    siteId: site(),
    reviewId: integer().notNull(),
    /** The remark it answers. */
    answers: integer(),
    field: text().notNull(),
    quote: text().notNull(),
    text: text().notNull(),
    madeBy: integer(),
    madeAt: setAtOnce(),
    settledAt: at(),
    settledBy: integer(),
  },
  (t) => [
    unique('remarks_of_site').on(t.siteId, t.id),
    within(t, t.reviewId, (): Owned => reviews),
    within(t, t.answers, (): Owned => remarks),
    within(t, t.madeBy, (): Owned => people),
    within(t, t.settledBy, (): Owned => people),
    index().on(t.reviewId),
  ],
);

export const notices = pgTable(
  'notices',
  {
    id: id(),
    siteId: site(),
    /** Shows on this page and all below, or on it alone; the root for the whole website. */
    pageId: integer().notNull(),
    alone: boolean().notNull().default(false),
    kind: text().$type<'information' | 'warning'>().notNull(),
    text: text().notNull(),
    startsAt: at().notNull(),
    endsAt: at(),
    postedBy: integer(),
    postedAt: setAtOnce(),
    endedBy: integer(),
    endedAt: at(),
  },
  (t) => [
    within(t, t.pageId, (): Owned => items),
    within(t, t.postedBy, (): Owned => people),
    within(t, t.endedBy, (): Owned => people),
    index().on(t.siteId, t.startsAt),
  ],
);

/** What has to be looked after: once, or again and again. */
export const duties = pgTable(
  'duties',
  {
    id: id(),
    siteId: site(),
    text: text().notNull(),
    /** Whose turn it is. */
    whose: integer().notNull(),
    madeBy: integer().notNull(),
    /** Until when, `2026-11-25`; null for some time. */
    due: text(),
    /** The day it was due first: what comes again counts from it. */
    first: text(),
    every: text().$type<Every>(),
    /** When it was ticked off last, by whom, and which day it was due then. */
    doneAt: at(),
    doneBy: integer(),
    doneFor: text(),
    /** The day it was due when whose turn it is was last reminded of it. */
    reminded: text(),
    version: integer().notNull().default(1),
    madeAt: setAtOnce(),
  },
  (t) => [
    within(t, t.whose, (): Owned => people),
    within(t, t.madeBy, (): Owned => people),
    within(t, t.doneBy, (): Owned => people),
    index().on(t.siteId, t.whose),
  ],
);
