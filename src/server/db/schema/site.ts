import { boolean, integer, jsonb, pgTable, text, unique, uniqueIndex, type AnyPgColumn } from 'drizzle-orm/pg-core';
import { citext, id, at, setAtOnce, type Owned, within } from './columns';

/** Every row belongs to a site. */
export const site = () =>
  integer()
    .notNull()
    .references((): AnyPgColumn => sites.id);

export const sites = pgTable('sites', {
  id: id(),
  name: text().notNull(),
  /** The name it is asked by (`www.example.org`, with the port where there is one); null: by any other. */
  host: text().unique(),
  /** Tags (BCP 47) of the languages it is written in; what is new begins in the first. */
  languages: text().array().notNull().default(['en']),
  timeZone: text().notNull(),
  liveReleaseId: integer().references((): AnyPgColumn => releases.id),
  /** Its people and passwords stand on the sign-in page while this is set. */
  demo: boolean().notNull().default(false),
});

/** What somebody signs in with. Apart from who they are on a website, so that one account can be people of several. */
export const accounts = pgTable('accounts', {
  id: id(),
  /** None until the invited person has chosen a password. */
  passwordHash: text(),
  /** Wrong tries to sign in since they were last told, and the first of them. */
  wrongTries: integer().notNull().default(0),
  wrongSince: at(),
});

/** People of a site. */
export const people = pgTable(
  'people',
  {
    id: id(),
    siteId: site(),
    name: text().notNull(),
    email: citext().notNull(),
    accountId: integer()
      .notNull()
      .references(() => accounts.id),
    suspendedAt: at(),
    createdAt: setAtOnce(),
    lastSeenAt: at(),
  },
  (t) => [unique('people_of_site').on(t.siteId, t.id), uniqueIndex().on(t.siteId, t.email)],
);

/** A plan that was in force once, in the form of its time. Never changed once written (a trigger refuses it). */
export const releases = pgTable(
  'releases',
  {
    id: id(),
    siteId: site(),
    number: integer().notNull(),
    plan: jsonb().$type<unknown>().notNull(),
    note: text().notNull().default(''),
    madeBy: integer(),
    madeAt: setAtOnce(),
    /** The release it went back to. */
    returnsTo: integer(),
  },
  (t) => [
    unique('releases_of_site').on(t.siteId, t.id),
    within(t, t.madeBy, (): Owned => people),
    uniqueIndex().on(t.siteId, t.number),
  ],
);
