import { and, desc, eq, gt, isNull, ne, sql, type SQL } from 'drizzle-orm';
import { among } from '../db/among';
import { emptyDocument, type PageContent } from '@/core/content';
import { getEntry, type ItemVerb, type Inventory } from '@/core/inventory';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { drafts, items, people, publications, reviews, revisions, schedules } from '../db/schema';
import { notFound } from '../gate/problems';
import { formOf, type ItemRow } from './forms';

async function findOne(tx: Tx, lock: boolean, ...where: SQL[]): Promise<ItemRow | undefined> {
  const query = tx
    .select()
    .from(items)
    .where(and(...where, isNull(items.deletedAt)));
  return (await (lock ? query.for('update') : query))[0];
}

/**
 * An item by its number; with `lock` nobody else changes it until the transaction ends. Throws a Problem when it is not
 * there.
 */
export async function mustFindItem(tx: Tx, siteId: number, itemId: number, lock = false): Promise<ItemRow> {
  const item = await findOne(tx, lock, eq(items.siteId, siteId), eq(items.id, itemId));
  if (!item) throw notFound('This');
  return item;
}

/** Items by their numbers, as far as they are there; nobody else changes them until the transaction ends. */
export async function lockItems(
  tx: Tx,
  siteId: number,
  itemIds: readonly number[],
): Promise<ReadonlyMap<number, ItemRow>> {
  const rows = await tx
    .select()
    .from(items)
    .where(and(eq(items.siteId, siteId), among(items.id, itemIds), isNull(items.deletedAt)))
    // In one order, or two who do it at once would wait for each other.
    .orderBy(items.id)
    .for('update');
  return new Map(rows.map((row) => [row.id, row]));
}

/** A page, likewise: what lies on pages is none. */
export async function mustFindPage(tx: Tx, siteId: number, pageId: number, lock = false): Promise<ItemRow> {
  const page = await findOne(tx, lock, eq(items.siteId, siteId), eq(items.id, pageId), eq(items.type, 'page'));
  if (!page) throw notFound('The page');
  return page;
}

/** "This page", "This vacancy": what an item is called where it has no name. */
export const thisOf = (inventory: Inventory, item: Pick<ItemRow, 'type'>): string =>
  `This ${formOf(inventory, item).type.one}`;

/** Where an item is edited. */
export const hrefOf = (inventory: Inventory, item: Pick<ItemRow, 'type' | 'id'>): string =>
  getEntry(inventory.screens, formOf(inventory, item).type.screen).path.replace('[id]', String(item.id));

/** The list it stands in: the first screen of its section. */
export const hrefFrom = (inventory: Inventory, item: Pick<ItemRow, 'type'>): string => {
  const { section } = getEntry(inventory.items, item.type);
  const home = inventory.sections.find((one) => one.id === section)?.home ?? '';
  return getEntry(inventory.screens, home).path;
};

/** The same where only its number is known. */
export async function hrefFor(tx: Tx, inventory: Inventory, itemId: number): Promise<string> {
  const [row] = await tx.select({ id: items.id, type: items.type }).from(items).where(eq(items.id, itemId));
  return hrefOf(inventory, row ?? { id: itemId, type: 'page' });
}

/** What doing something to an item asks for: the permission of its type with this verb. */
export const needOf = (item: Pick<ItemRow, 'type'>, verb: ItemVerb) => `${item.type}.${verb}` as const;

const askDraft = prepared('draft', (tx) =>
  tx
    .select({ draft: drafts, name: people.name })
    .from(drafts)
    .leftJoin(people, eq(people.id, drafts.updatedBy))
    .where(eq(drafts.itemId, given('item'))),
);
export async function findDraft(tx: Tx, itemId: number) {
  const [row] = await askDraft(tx, { item: itemId });
  return row && { ...row.draft, updatedByName: row.name ?? 'Somebody' };
}

const asked = sql<string | null>`(select a.name from ${people} a where a.id = ${reviews.askedOf})`;
const askWaiting = prepared('what waits of an item', (tx) =>
  tx
    .select({ review: reviews, content: revisions.content, name: people.name, asked })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .leftJoin(people, eq(people.id, reviews.sentBy))
    .where(and(eq(reviews.itemId, given('item')), isNull(reviews.outcome))),
);
export const findWaiting = async (tx: Tx, itemId: number) => (await askWaiting(tx, { item: itemId }))[0];

const askContent = prepared('content of a version', (tx) =>
  tx
    .select({ content: revisions.content })
    .from(revisions)
    .where(eq(revisions.id, given('revision'))),
);
export const contentOf = async (tx: Tx, revisionId: number | null): Promise<PageContent | undefined> =>
  revisionId === null ? undefined : (await askContent(tx, { revision: revisionId }))[0]?.content;

/** What a version of an item says. Throws a Problem when it has none such. */
export async function mustFindVersion(
  tx: Tx,
  item: Pick<ItemRow, 'id' | 'siteId'>,
  revisionId: number,
): Promise<PageContent> {
  const [row] = await tx
    .select({ content: revisions.content })
    .from(revisions)
    .where(and(eq(revisions.siteId, item.siteId), eq(revisions.itemId, item.id), eq(revisions.id, revisionId)));
  if (!row) throw notFound('This version');
  return row.content;
}

/** What stands newest on an item before the draft: what waits, what visitors see, or what they saw. */
export const standing = async (tx: Tx, item: ItemRow): Promise<PageContent | undefined> =>
  (await findWaiting(tx, item.id))?.content ?? (await standingOf(tx, item));

/** The same where nothing waits for a second look. */
const standingOf = async (tx: Tx, item: ItemRow): Promise<PageContent | undefined> =>
  (await askPlanned(tx, { item: item.id }))[0]?.content ??
  (await contentOf(tx, item.liveRevisionId ?? item.downRevisionId));

const askPlanned = prepared('what shall go online', (tx) =>
  tx
    .select({ content: revisions.content })
    .from(schedules)
    .innerJoin(revisions, eq(revisions.id, schedules.revisionId))
    .where(and(eq(schedules.itemId, given('item')), eq(schedules.what, 'publish'), isNull(schedules.doneAt))),
);

interface Said {
  content: PageContent;
}
/** What an item says newest, of its draft and what waits, or else of what visitors see or saw. */
export const newestOf = async (
  tx: Tx,
  item: ItemRow,
  draft: Said | undefined,
  waiting: Said | undefined,
): Promise<PageContent> =>
  draft?.content ?? waiting?.content ?? (await standingOf(tx, item)) ?? { title: '', body: emptyDocument() };

/** The same, where nothing of it was read yet. */
export const findNewest = async (tx: Tx, item: ItemRow): Promise<PageContent> =>
  newestOf(tx, item, await findDraft(tx, item.id), await findWaiting(tx, item.id));

/** Everybody who wrote words of an item that were never published: in versions made since words of it last went out. */
export async function findWriters(tx: Tx, item: Pick<ItemRow, 'id'>): Promise<number[]> {
  const isWritten = and(eq(revisions.itemId, item.id), ne(revisions.kind, 'adjusted'));
  const [last] = await tx
    .select({ id: revisions.id })
    .from(publications)
    .innerJoin(revisions, eq(revisions.id, publications.revisionId))
    .where(isWritten)
    .orderBy(desc(publications.id))
    .limit(1);
  const rows = await tx
    .select({ writers: revisions.writers, madeBy: revisions.madeBy })
    .from(revisions)
    .where(and(isWritten, gt(revisions.id, last?.id ?? 0)));
  return rows.flatMap((row) => (row.writers.length > 0 ? row.writers : row.madeBy === null ? [] : [row.madeBy]));
}

/** Who has written in an item since it was last published: nobody of them gives it its second look. */
export async function listWriters(tx: Tx, itemId: number): Promise<number[]> {
  const draft = await findDraft(tx, itemId);
  return [...new Set([...(draft?.writers ?? []), ...(await findWriters(tx, { id: itemId }))])];
}
