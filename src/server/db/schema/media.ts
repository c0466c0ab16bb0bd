import { integer, pgTable, text } from 'drizzle-orm/pg-core';
import { bytea, id, setAtOnce, type Owned, within } from './columns';
import { site, people } from './site';
import { items } from './items';

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
    createdAt: setAtOnce(),
  },
  (t) => [within(t, t.authorId, (): Owned => people), within(t, t.pageId, (): Owned => items)],
);
