import { sql } from 'drizzle-orm';
import {
  boolean,
  customType,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  varchar,
  bigint,
  type AnyPgColumn,
} from 'drizzle-orm/pg-core';
import type { Audience } from '@/core/access';
import type { PageContent, Reference } from '@/core/content';
import type { Own } from '@/core/dashboard';
import type { Every } from '@/core/duties';
import type { OwnMenu, Preferences } from '@/core/own';

const ltree = customType<{ data: string }>({ dataType: () => 'ltree' });
const citext = customType<{ data: string }>({ dataType: () => 'citext' });
const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' });
const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
const xid8 = customType<{ data: string }>({ dataType: () => 'xid8' });
const id = () => integer().primaryKey().generatedAlwaysAsIdentity();
const at = () => timestamp({ withTimezone: true });
const now = () => at().notNull().defaultNow();
/** Every row belongs to a site. */
const site = () =>
  integer()
    .notNull()
    .references((): AnyPgColumn => sites.id);
const writers = () => jsonb().$type<number[]>().notNull().default([]);

interface Owned {
  siteId: AnyPgColumn;
  id: AnyPgColumn;
}
/** A column that names a row of the same site: never one of another. */
const within = (own: Pick<Owned, 'siteId'>, column: AnyPgColumn, of: () => Owned) =>
  foreignKey({ columns: [own.siteId, column], foreignColumns: [of().siteId, of().id] });

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
    createdAt: now(),
    lastSeenAt: at(),
  },
  (t) => [unique('people_of_site').on(t.siteId, t.id), uniqueIndex().on(t.siteId, t.email)],
);

/** Browsers somebody has signed in from: by them the right password is never slowed down. */
export const knownBrowsers = pgTable(
  'known_browsers',
  { tokenHash: text().primaryKey(), siteId: site(), personId: integer().notNull(), seenAt: now() },
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
    createdAt: now(),
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
  { id: id(), siteId: site(), to: text().notNull(), subject: text().notNull(), text: text().notNull(), madeAt: now() },
  (t) => [index().on(t.siteId, t.id)],
);

export const blobs = pgTable('blobs', { hash: text().primaryKey(), mime: text().notNull(), bytes: bytea().notNull() });

export const media = pgTable(
  'media',
  {
    id: id(),
    siteId: site(),
    name: text().notNull(),
    description: text().notNull(),
    hash: text()
      .notNull()
      .references(() => blobs.hash),
    authorId: integer(),
    /** The part of the website it belongs to: this page and all below it; null: to none. */
    pageId: integer(),
    createdAt: now(),
  },
  (t) => [within(t, t.authorId, (): Owned => people), within(t, t.pageId, (): Owned => items)],
);

export const items = pgTable(
  'items',
  {
    id: id(),
    siteId: site(),
    /** What it is: a kind of item that a section declares, with its own fields, screens and permissions. */
    type: text().notNull().default('page'),
    /** The page above; of what is no page the page it lies on. */
    parentId: integer(),
    /** Ids from the root down to the item itself. */
    path: ltree().notNull(),
    /** The last part of a page's address; nothing else has an address. */
    slug: text().notNull().default(''),
    /** A whole path of a page's own; follows the page above when null. */
    ownAddress: text(),
    position: integer().notNull().default(0),
    layout: text().notNull(),
    shortName: text(),
    inNavigation: boolean().notNull().default(true),
    authorId: integer(),
    /** The date it bears, `2026-11-25`. */
    day: text(),
    /** Its tag (BCP 47). */
    language: text().notNull().default('en'),
    /** The page it says in another language; one of each language. */
    translationOf: integer(),
    liveRevisionId: integer(),
    /** What visitors saw until it was taken down; null while it is not. */
    downRevisionId: integer(),
    /** When it was taken down; those taken down together share the instant and are put back together. */
    downAt: at(),
    /** When it was deleted; those deleted together share the instant and come back together. */
    deletedAt: at(),
    deletedBy: integer(),
    /** Who may visit it and all below it that says nothing of its own; as the page above when null. */
    audience: jsonb().$type<Audience>(),
    /** What the checks find in what visitors see, as their ids; null while nobody has looked. */
    findings: jsonb().$type<string[]>(),
    createdAt: now(),
  },
  (t) => [
    unique('items_of_site').on(t.siteId, t.id),
    within(t, t.parentId, (): Owned => items),
    within(t, t.liveRevisionId, (): Owned => revisions),
    within(t, t.downRevisionId, (): Owned => revisions),
    within(t, t.authorId, (): Owned => people),
    within(t, t.deletedBy, (): Owned => people),
    within(t, t.translationOf, (): Owned => items),
    uniqueIndex('items_translation')
      .on(t.translationOf, t.language)
      .where(sql`deleted_at is null`),
    uniqueIndex('items_slug')
      .on(t.parentId, t.slug)
      .where(sql`deleted_at is null and type = 'page'`),
    uniqueIndex('items_own_address')
      .on(t.siteId, t.ownAddress)
      .where(sql`deleted_at is null`),
    index('items_path').using('gist', t.path),
    index('items_site_parent').on(t.siteId, t.parentId, t.position),
  ],
);

/** Addresses at which pages were. A page that has the address now comes first. */
export const redirects = pgTable(
  'redirects',
  {
    id: id(),
    siteId: site(),
    address: text().notNull(),
    pageId: integer().notNull(),
    /** Whether visitors are led on from there; else it is only understood in texts that are kept. */
    leads: boolean().notNull().default(true),
    madeBy: integer(),
    madeAt: now(),
  },
  (t) => [
    within(t, t.pageId, (): Owned => items),
    within(t, t.madeBy, (): Owned => people),
    uniqueIndex().on(t.siteId, t.address),
  ],
);

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
    madeAt: now(),
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
    madeAt: now(),
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
    seenAt: now(),
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
    madeAt: now(),
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

/** What a page said at one time. Never changed once written (a trigger refuses it). */
export const revisions = pgTable(
  'revisions',
  {
    id: id(),
    siteId: site(),
    itemId: integer().notNull(),
    number: integer().notNull(),
    content: jsonb().$type<PageContent>().notNull(),
    /** `kept`: put aside when two people wrote at once. `adjusted`: a setting changed at once, beside any words. */
    kind: text().$type<'sent' | 'published' | 'kept' | 'adjusted'>().notNull(),
    madeBy: integer(),
    madeAt: now(),
    note: text().notNull().default(''),
    /** Everybody who wrote any of it since the page was last published. */
    writers: writers(),
    /** Its words as PostgreSQL's full text search wants them, by its language: title before summary before text. */
    words: tsvector().generatedAlwaysAs(
      sql`setweight(to_tsvector(search_language(content->>'page.language'), coalesce(content->>'title', '')), 'A') || setweight(to_tsvector(search_language(content->>'page.language'), coalesce(content->>'summary', '')), 'B') || setweight(jsonb_to_tsvector(search_language(content->>'page.language'), jsonb_path_query_array(content, 'strict $.** ? (exists (@.text)).text'), '["string"]'), 'C')`,
    ),
  },
  (t) => [
    unique('revisions_of_site').on(t.siteId, t.id),
    within(t, t.itemId, (): Owned => items),
    within(t, t.madeBy, (): Owned => people),
    uniqueIndex().on(t.itemId, t.number),
    index('revisions_words').using('gin', t.words),
  ],
);

/**
 * What versions and drafts need, and what their texts hold that tools make, field by field: written whenever one is kept. "Used where" and broken links are asked
 * of it.
 */
export const references = pgTable(
  'item_references',
  {
    id: id(),
    siteId: site(),
    itemId: integer().notNull(),
    /** Null: its draft. */
    revisionId: integer(),
    field: text().notNull(),
    /** `made`: not needed but held, something a tool makes. */
    kind: text().$type<Reference['kind'] | 'made'>().notNull(),
    /** Its id; of an address where nothing is, the path; of what a tool makes what that is. */
    target: text().notNull(),
    /** How often it is held. */
    times: integer().notNull().default(1),
  },
  (t) => [
    within(t, t.itemId, (): Owned => items),
    within(t, t.revisionId, (): Owned => revisions),
    index().on(t.siteId, t.kind, t.target),
    index().on(t.revisionId),
    index().on(t.itemId),
  ],
);

/** When which revision went on the website. Append-only. */
export const publications = pgTable(
  'publications',
  {
    id: id(),
    siteId: site(),
    itemId: integer().notNull(),
    revisionId: integer().notNull(),
    publishedBy: integer(),
    publishedAt: now(),
  },
  (t) => [
    within(t, t.itemId, (): Owned => items),
    within(t, t.revisionId, (): Owned => revisions),
    within(t, t.publishedBy, (): Owned => people),
    index().on(t.itemId),
  ],
);

/** The one working draft of a page; `version` guards it against overwriting. */
export const drafts = pgTable(
  'drafts',
  {
    itemId: integer().primaryKey(),
    siteId: site(),
    content: jsonb().$type<PageContent>().notNull(),
    /** What was typed into fields and does not fit there yet, as it was typed. */
    unfinished: jsonb().$type<Record<string, unknown>>().notNull().default({}),
    version: integer().notNull(),
    /**
     * What its rich fields said as whoever writes in it found it, and in versions they went back to: taking any of it
     * up again needs no tool.
     */
    bases: jsonb().$type<PageContent[]>().notNull().default([]),
    startedBy: integer(),
    updatedBy: integer(),
    updatedAt: now(),
    /** Everybody who wrote any of it since the page was last published. */
    writers: writers(),
    /** The word it came back with, when it was sent back. */
    sentBackWord: text(),
  },
  (t) => [
    within(t, t.itemId, (): Owned => items),
    within(t, t.startedBy, (): Owned => people),
    within(t, t.updatedBy, (): Owned => people),
  ],
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
    sentAt: now(),
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
    madeAt: now(),
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
    /** Shows on this page and all below; the root for the whole website. */
    pageId: integer().notNull(),
    kind: text().$type<'information' | 'warning'>().notNull(),
    text: text().notNull(),
    startsAt: at().notNull(),
    endsAt: at(),
    postedBy: integer(),
    postedAt: now(),
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
    madeAt: now(),
  },
  (t) => [
    within(t, t.whose, (): Owned => people),
    within(t, t.madeBy, (): Owned => people),
    within(t, t.doneBy, (): Owned => people),
    index().on(t.siteId, t.whose),
  ],
);

/**
 * That something was changed which lists of pages tell of one (a trigger writes it): what was read of all pages before
 * is known to be old by it. Kept for an hour.
 */
export const pageChanges = pgTable(
  'page_changes',
  {
    id: bigint({ mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    siteId: integer().notNull(),
    pageId: integer().notNull(),
    /** The transaction that did it. */
    xid: xid8()
      .notNull()
      .default(sql`pg_current_xact_id()`),
    madeAt: now(),
  },
  (t) => [index().on(t.siteId, t.id), index().on(t.siteId, t.xid)],
);

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
    madeAt: now(),
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
    madeAt: now(),
  },
  (t) => [within(t, t.madeBy, (): Owned => people), primaryKey({ columns: [t.siteId, t.revision] })],
);

/** Who prepares which role now; null for the plan as a whole. */
export const planPresence = pgTable(
  'plan_presence',
  { siteId: site(), personId: integer().notNull(), role: text(), seenAt: now() },
  (t) => [within(t, t.personId, (): Owned => people), primaryKey({ columns: [t.siteId, t.personId] })],
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
    madeAt: now(),
    /** The release it went back to. */
    returnsTo: integer(),
  },
  (t) => [
    unique('releases_of_site').on(t.siteId, t.id),
    within(t, t.madeBy, (): Owned => people),
    uniqueIndex().on(t.siteId, t.number),
  ],
);

/** What was done, by whom and when. Append-only (a trigger refuses anything else). */
export const activity = pgTable(
  'activity',
  {
    id: id(),
    siteId: site(),
    at: now(),
    personId: integer(),
    action: text().notNull(),
    subject: text().notNull(),
    href: text(),
    detail: text().notNull().default(''),
  },
  (t) => [within(t, t.personId, (): Owned => people), index().on(t.siteId, t.id)],
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
    updatedAt: now(),
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
    menu: jsonb().$type<OwnMenu>(),
    preferences: jsonb().$type<Partial<Preferences>>(),
    updatedAt: now(),
  },
  (t) => [within(t, t.personId, (): Owned => people)],
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
    askedAt: now(),
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
    askedAt: now(),
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
    madeAt: now(),
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
