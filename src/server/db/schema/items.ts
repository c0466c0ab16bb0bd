import { sql } from 'drizzle-orm';
import { boolean, index, integer, jsonb, pgTable, text, unique, uniqueIndex, bigint } from 'drizzle-orm/pg-core';
import type { Audience } from '@/core/access';
import type { PageContent, Reference } from '@/core/content';
import { ltree, tsvector, xid8, id, at, setAtOnce, writers, type Owned, within } from './columns';
import { site, people } from './site';

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
    createdAt: setAtOnce(),
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
    madeAt: setAtOnce(),
  },
  (t) => [
    within(t, t.pageId, (): Owned => items),
    within(t, t.madeBy, (): Owned => people),
    uniqueIndex().on(t.siteId, t.address),
  ],
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
    madeAt: setAtOnce(),
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
    publishedAt: setAtOnce(),
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
    /** Where its page lay when it was last kept: what was made there by the tools of that place is not theirs elsewhere. */
    writtenAt: text(),
    startedBy: integer(),
    updatedBy: integer(),
    updatedAt: setAtOnce(),
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
    madeAt: setAtOnce(),
  },
  (t) => [index().on(t.siteId, t.id), index().on(t.siteId, t.xid)],
);
