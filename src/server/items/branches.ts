import { and, asc, eq, inArray, isNull, not, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import type { Access } from '../gate/access';
import { allowedPages } from '../gate/filter';
import type { ItemRow } from './forms';

const top = alias(items, 'top');
/** What lies in the branches of some items, those included, not deleted; or deleted at this instant. */
const isBelow = (siteId: number, itemIds: readonly number[], deletedAt: Date | null) =>
  and(
    eq(items.siteId, siteId),
    deletedAt === null ? isNull(items.deletedAt) : eq(items.deletedAt, deletedAt),
    sql`${items.path} <@ ${top.path}`,
    inArray(top.id, [...itemIds]),
  );
const highestFirst = [sql`nlevel(${items.path})`, asc(items.position), asc(items.id)];

/**
 * Of some items each with all below it that is not deleted, or was at this instant, itself first: pages, and what lies on
 * them.
 */
export async function findBranches(
  tx: Tx,
  siteId: number,
  itemIds: readonly number[],
  deletedAt: Date | null = null,
): Promise<ReadonlyMap<number, ItemRow[]>> {
  const branches = new Map<number, ItemRow[]>(itemIds.map((id) => [id, []]));
  if (itemIds.length === 0) return branches;
  const rows = await tx
    .select({ top: top.id, item: items })
    .from(items)
    .innerJoin(top, isBelow(siteId, itemIds, deletedAt))
    .orderBy(...highestFirst);
  for (const row of rows) branches.get(row.top)?.push(row.item);
  return branches;
}

export const findBranch = async (tx: Tx, siteId: number, itemId: number): Promise<ItemRow[]> =>
  (await findBranches(tx, siteId, [itemId])).get(itemId) ?? [];

/** The pages of it. */
export const findPagesOf = async (tx: Tx, siteId: number, pageId: number) =>
  (await findBranch(tx, siteId, pageId)).filter((item) => item.type === 'page');

/**
 * Of some branches the highest page for which somebody may not do what they would do to the whole of it, by the item
 * the branch begins with; those without one are not named.
 */
export async function findForbiddenBelow(
  tx: Tx,
  access: Access,
  permission: string,
  itemIds: readonly number[],
  deletedAt: Date | null = null,
): Promise<ReadonlyMap<number, number>> {
  if (itemIds.length === 0) return new Map();
  const rows = await tx
    .selectDistinctOn([top.id], { top: top.id, id: items.id })
    .from(items)
    .innerJoin(top, isBelow(access.site.id, itemIds, deletedAt))
    .where(and(eq(items.type, 'page'), not(allowedPages(access, permission, deletedAt !== null))))
    .orderBy(top.id, ...highestFirst);
  return new Map(rows.map((row) => [row.top, row.id]));
}
