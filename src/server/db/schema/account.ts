import { index, integer, jsonb, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import type { Own } from '@/core/dashboard';
import type { Happening } from '@/core/inventory';
import type { OwnMenu, Preferences } from '@/core/own';
import { id, at, setAtOnce, type Owned, within } from './columns';
import { site, people } from './site';
import { items } from './items';

/** Browsers somebody has signed in from: by them the right password is never slowed down. */
export const knownBrowsers = pgTable(
  'known_browsers',
  { tokenHash: text().primaryKey(), siteId: site(), personId: integer().notNull(), seenAt: setAtOnce() },
  (t) => [within(t, t.personId, (): Owned => people), index().on(t.personId)],
);

export const assignments = pgTable(
  'assignments',
  {
    id: id(),
    siteId: site(),
    personId: integer().notNull(),
    roleId: text().notNull(),
    branchId: integer(),
    fromAt: at(),
    untilAt: at(),
  },
  (t) => [
    within(t, t.personId, (): Owned => people),
    within(t, t.branchId, (): Owned => items),
    index().on(t.personId),
  ],
);

export const sessions = pgTable(
  'sessions',
  {
    /** SHA-256 of the cookie's token. */
    tokenHash: text().primaryKey(),
    siteId: site(),
    personId: integer().notNull(),
    /** While the keyholder tries a room: whose. */
    stepInAs: integer(),
    /** Or, while nobody holds it yet, which role's. */
    stepInRole: text(),
    /** Where the keyholder goes back to. */
    stepInFrom: text(),
    createdAt: setAtOnce(),
    expiresAt: at().notNull(),
  },
  (t) => [
    within(t, t.personId, (): Owned => people),
    within(t, t.stepInAs, (): Owned => people),
    index().on(t.expiresAt),
  ],
);

/** One-time links: for the first keyholder, or for a person to choose a password. */
export const setupLinks = pgTable(
  'setup_links',
  {
    tokenHash: text().primaryKey(),
    siteId: site(),
    personId: integer(),
    madeBy: integer(),
    expiresAt: at().notNull(),
    usedAt: at(),
  },
  (t) => [within(t, t.personId, (): Owned => people), within(t, t.madeBy, (): Owned => people)],
);

/** What would have been mailed: the stand-in for a mail service. */
export const mails = pgTable(
  'mails',
  {
    id: id(),
    siteId: site(),
    to: text().notNull(),
    subject: text().notNull(),
    text: text().notNull(),
    madeAt: setAtOnce(),
  },
  (t) => [index().on(t.siteId, t.id)],
);

export const progress = pgTable(
  'progress',
  {
    personId: integer().notNull(),
    task: text().notNull(),
    siteId: site(),
    stop: integer().notNull(),
    /** Taken: what it shows was done. */
    doneAt: at(),
    /** Looked at to its end. */
    seenAt: at(),
    /** What was done of what it waits for, since it was begun. */
    did: jsonb().$type<Happening[]>().notNull().default([]),
    updatedAt: setAtOnce(),
  },
  (t) => [within(t, t.personId, (): Owned => people), primaryKey({ columns: [t.personId, t.task] })],
);

/** What somebody made their own of the room prepared for them. */
export const ownRooms = pgTable(
  'own_rooms',
  {
    siteId: site(),
    personId: integer().notNull().primaryKey(),
    /** What they changed of Today, and what that was before each of their last changes, the latest first. */
    today: jsonb().$type<Own>(),
    past: jsonb().$type<Own[]>().notNull().default([]),
    /** What stood on Today by itself when they last saw it, by its entries, and what each was called. */
    stood: jsonb().$type<Record<string, string>>(),
    menu: jsonb().$type<OwnMenu>(),
    preferences: jsonb().$type<Partial<Preferences>>(),
    updatedAt: setAtOnce(),
  },
  (t) => [within(t, t.personId, (): Owned => people)],
);
