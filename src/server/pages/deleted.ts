import { and, eq, isNotNull, isNull, sql, desc, asc } from 'drizzle-orm';
import { among } from '../db/among';
import { freeSlug } from '@/core/content';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { items, people, drafts, revisions, publications } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { Problem } from '../gate/problems';
import { findBranches } from '../items/branches';
import type { ItemRow } from '../items/forms';
import { hrefFrom, lockItems, hrefOf } from '../items/items';
import { type Refused, mustBeDone } from '../items/together';
import { lockTree, findAddresses, takenSlugs } from '../tree/addresses';
import { adjust } from './adjust';
import { findKeptBack } from './move';
import { sortLeaving, isPage, recordBranches, idsOf, pagesOf, type Branch, mustHaveAddresses } from './retire';

/**
 * Deletes items and all below them; gives how many pages went. Nothing is destroyed: what goes with one comes back with
 * it. Runs in a transaction.
 */
export async function deleteItems(
  tx: Tx,
  access: Access,
  itemIds: readonly number[],
): Promise<{ pages: number; refused: Refused }> {
  await lockTree(tx, access.site.id);
  const { leaving, refused } = await sortLeaving(tx, access, itemIds, 'deleted', (_, branch) => branch);
  const hrefs = (item: ItemRow) => (isPage(item) ? '/room/pages/deleted' : hrefFrom(access.inventory, item));
  await recordBranches(tx, access, 'deleted', leaving, hrefs);
  const ids = idsOf(leaving);
  if (ids.length > 0)
    await tx.update(items).set({ deletedAt: now(), deletedBy: access.signedInId }).where(among(items.id, ids));
  return { pages: pagesOf(leaving), refused };
}

/**
 * Brings deleted items back where they lay, each with what was deleted with it. An address taken meanwhile gets a
 * number. Gives how many pages came, and whether one of them is found elsewhere now. All of them, or throws a Problem.
 * Runs in a transaction.
 */
export async function bringBack(
  tx: Tx,
  access: Access,
  itemIds: readonly number[],
): Promise<{ pages: number; renamed: boolean }> {
  const site = access.site.id;
  await lockTree(tx, site);
  const gone = await tx
    .select()
    .from(items)
    .where(and(eq(items.siteId, site), among(items.id, itemIds), isNotNull(items.deletedAt)))
    .orderBy(items.id)
    .for('update');
  if (gone.length < new Set(itemIds).size) throw new Problem('back-already');
  const parents = await lockItems(
    tx,
    site,
    gone.flatMap((item) => item.parentId ?? []),
  );
  if (gone.some((item) => !parents.has(item.parentId ?? 0))) throw new Problem('parent-deleted');
  const back: Branch[] = [];
  // What was deleted together has one instant.
  for (const at of new Set(gone.map((item) => item.deletedAt?.getTime() ?? 0))) {
    const some = gone.filter((item) => item.deletedAt?.getTime() === at);
    const ids = some.map((item) => item.id);
    mustBeDone(await findKeptBack(tx, access, 'page.retire', ids, new Date(at)));
    const branches = await findBranches(tx, site, ids, new Date(at));
    back.push(...some.map((item) => ({ item, branch: branches.get(item.id) ?? [] })));
  }
  const changes = await findNewAddresses(tx, site, back);
  for (const { row, change } of changes)
    await adjust(tx, access, [row], change, 'Brought back: its address had been given away');
  await tx
    .update(items)
    .set({ deletedAt: null, deletedBy: null })
    .where(among(items.id, idsOf(back)));
  // What lies below may still meet an address somebody gave another page meanwhile.
  mustHaveAddresses(
    await findAddresses(tx, site),
    back.flatMap(({ branch }) => branch),
  );
  await recordBranches(tx, access, 'brought back', back, (item) => hrefOf(access.inventory, item));
  return { pages: pagesOf(back), renamed: changes.length > 0 };
}

/** What comes back to an address that was given away meanwhile, with what it has instead. */
async function findNewAddresses(
  tx: Tx,
  siteId: number,
  back: readonly Branch[],
): Promise<{ row: ItemRow; change: { slug?: string; ownAddress?: '' } }[]> {
  const own = await tx
    .select({ own: items.ownAddress })
    .from(items)
    .where(and(eq(items.siteId, siteId), isNull(items.deletedAt), isNotNull(items.ownAddress)));
  const owned = new Set(own.map((row) => row.own));
  const taken = new Map<number, Set<string>>();
  const found: { row: ItemRow; change: { slug?: string; ownAddress?: '' } }[] = [];
  for (const { item, branch } of back)
    for (const row of branch) {
      const change: { slug?: string; ownAddress?: '' } = {};
      if (row.ownAddress !== null && owned.has(row.ownAddress)) change.ownAddress = '';
      else if (row.ownAddress !== null) owned.add(row.ownAddress);
      if (row.id === item.id && isPage(row)) {
        const parent = row.parentId ?? 0;
        const beside = taken.get(parent) ?? (await takenSlugs(tx, siteId, parent));
        const slug = freeSlug(row.slug, beside);
        taken.set(parent, beside.add(slug));
        if (slug !== row.slug) change.slug = slug;
      }
      if (Object.keys(change).length > 0) found.push({ row, change });
    }
  return found;
}

export interface DeletedEntry {
  id: string;
  title: string;
  by: string;
  at: Date;
  below: number;
  /** The page it lay below. */ from: string;
  wasLive: boolean;
  mayBringBack: boolean;
}

/**
 * What was deleted and can come back: the page each deletion began with, newest first, as far as somebody may see it.
 */
export async function listDeleted(tx: Tx, access: Access): Promise<DeletedEntry[]> {
  const up = sql`(select u.deleted_at from items u where u.id = ${items.parentId})`;
  const rows = await tx
    .select({
      page: items,
      path: sql<string>`${items.path}::text`,
      name: people.name,
      title: sql<string>`coalesce(${drafts.content}->>'title', ${revisions.content}->>'title', 'Untitled')`,
      below: sql<number>`(select count(*)::int - 1 from items b where b.path <@ ${items.path} and b.type = 'page' and b.deleted_at = ${items.deletedAt})`,
      out: sql<boolean>`exists (select 1 from ${publications} where ${publications.itemId} = ${items.id})`,
    })
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .leftJoin(people, eq(people.id, items.deletedBy))
    .where(
      and(
        eq(items.siteId, access.site.id),
        eq(items.type, 'page'),
        isNotNull(items.deletedAt),
        sql`${up} is distinct from ${items.deletedAt}`,
      ),
    )
    .orderBy(desc(items.deletedAt), asc(items.id));
  const mayView = mayOn(access, 'page.view');
  const mayRetire = mayOn(access, 'page.retire');
  return rows.flatMap(({ page, path, name, title, below, out }) => {
    const place = {
      path: path.split('.'),
      layout: page.layout,
      state: 'published' as const,
      author: page.authorId === null ? null : String(page.authorId),
    };
    return mayView(place)
      ? [
          {
            id: String(page.id),
            title,
            by: name ?? 'Somebody',
            at: page.deletedAt ?? new Date(0),
            below,
            from: String(page.parentId),
            wasLive: out,
            mayBringBack: mayRetire(place),
          },
        ]
      : [];
  });
}
