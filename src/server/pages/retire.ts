import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { freeSlug } from '@/core/content';
import type { RetirePreview } from '@/core/wire';
import { inventory } from '@/office';
import { record, recordAll } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { drafts, items, people, publications, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { notFound, Problem } from '../gate/problems';
import { addressFaults, findAddresses, lockTree, takenSlugs, type AddressMap } from '../tree/addresses';
import { type ItemRow } from '../items/forms';
import { findLinks, linksTo, type LinksByTarget } from '../items/references';
import { hrefFrom, hrefOf, lockItems, mustFindItem, thisOf } from '../items/items';
import { findBranch, findBranches, putOnline, takeDown, titleOf, titlesOf } from '../items/publishing';
import { sortOut, type Refused } from '../items/together';
import { adjust } from './adjust';
import { findKeptBack, livePages, mustMayBelow } from './move';

/** Addresses and links of a whole site, read once where many pages are looked at. */
export interface SiteLinks {
  addresses: AddressMap;
  links: LinksByTarget;
}

/**
 * What taking each of some items away takes along, and whose links would lead nowhere. Of all links of the site, where
 * they are known. Changes nothing.
 */
export async function previewRetiring(
  tx: Tx,
  access: Access,
  itemIds: readonly number[],
  known?: SiteLinks,
): Promise<ReadonlyMap<number, RetirePreview>> {
  const branches = await findBranches(tx, access.site.id, itemIds);
  const addresses = known?.addresses ?? (await findAddresses(tx, access.site.id));
  const all = [...branches.values()].flat();
  const links = known?.links ?? (await findLinks(tx, access.site.id, livePages(addresses, all.filter(isPage))));
  const begun = new Set(
    (
      await tx
        .select({ id: drafts.itemId })
        .from(drafts)
        .where(
          inArray(
            drafts.itemId,
            all.map((row) => row.id),
          ),
        )
    ).map((row) => row.id),
  );
  const titles = await titlesOf(tx, itemIds);
  return new Map(
    [...branches].map(([id, branch]) => [
      id,
      {
        title: titles.get(id) ?? 'Untitled',
        below: branch.filter((row) => isPage(row) && row.id !== id).length,
        also: onThem(branch.filter((row) => row.id !== id)),
        drafts: branch.filter((row) => begun.has(row.id)).length,
        links: linksTo(
          links,
          livePages(addresses, branch.filter(isPage)),
          branch.map((row) => String(row.id)),
        ),
      },
    ]),
  );
}

const isPage = (row: { type: string }) => row.type === 'page';

/** What lies on pages, counted by its kinds: "2 vacancies". */
const onThem = (rows: readonly ItemRow[]): string[] =>
  [...inventory.items.values()].flatMap(({ id, one, many }) => {
    const { length } = rows.filter((row) => !isPage(row) && row.type === id);
    return length === 0 ? [] : [length === 1 ? `One ${one}` : `${length} ${many}`];
  });

const mustNotBeFirst = (page: { parentId: number | null }, what: string) => {
  if (page.parentId === null) throw new Problem('first-page-retired', { what });
};

/** What else was done it to, for the activity. */
const withBelow = (rows: readonly unknown[]) => (rows.length > 1 ? `With ${rows.length - 1} below` : '');

/** What somebody takes away, with all below it; what cannot be taken away, with why. */
interface Leaving {
  leaving: { item: ItemRow; branch: ItemRow[] }[];
  refused: Refused;
}

/** Looks at each of some items with all below it; `goes` says what of it would, and throws a Problem where nothing does. */
async function sortLeaving(
  tx: Tx,
  access: Access,
  itemIds: readonly number[],
  what: string,
  goes: (item: ItemRow, branch: ItemRow[]) => ItemRow[],
): Promise<Leaving> {
  const found = await lockItems(tx, access.site.id, itemIds);
  const branches = await findBranches(tx, access.site.id, itemIds);
  // What is asked for by itself was asked about by the gate.
  const withMore = itemIds.filter((id) => (branches.get(id)?.length ?? 0) > 1);
  const keptBack = await findKeptBack(tx, access, 'page.retire', withMore);
  const { can, refused } = sortOut(itemIds, (id) => {
    const item = found.get(id);
    if (!item) throw notFound('This');
    mustNotBeFirst(item, what);
    const why = keptBack.get(id);
    if (why) throw why;
    return { item, branch: goes(item, branches.get(id) ?? []) };
  });
  return { leaving: [...can.values()], refused };
}

const idsOf = (leaving: Leaving['leaving']) => leaving.flatMap(({ branch }) => branch.map((row) => row.id));
const pagesOf = (leaving: Leaving['leaving']) => leaving.flatMap(({ branch }) => branch.filter(isPage)).length;

/** Tells the activity of what was taken away. */
async function recordLeaving(
  tx: Tx,
  access: Access,
  action: string,
  { leaving }: Leaving,
  href: (item: ItemRow) => string,
): Promise<void> {
  const titles = await titlesOf(
    tx,
    leaving.map(({ item }) => item.id),
  );
  await recordAll(
    tx,
    access,
    action,
    leaving.map(({ item, branch }) => ({
      subject: titles.get(item.id) ?? 'Untitled',
      href: href(item),
      detail: withBelow(branch),
    })),
  );
}

/** Takes items and all below them off the website; gives how many pages went. Runs in a transaction. */
export async function takeItemsDown(
  tx: Tx,
  access: Access,
  itemIds: readonly number[],
): Promise<{ pages: number; refused: Refused }> {
  const found = await sortLeaving(tx, access, itemIds, 'taken down', (item, whole) => {
    const branch = whole.filter((row) => row.liveRevisionId !== null);
    if (branch.length === 0) throw new Problem('not-online', { thing: thisOf(item).toLowerCase() });
    return branch;
  });
  await takeDown(tx, idsOf(found.leaving));
  await recordLeaving(tx, access, 'took down', found, hrefOf);
  return { pages: pagesOf(found.leaving), refused: found.refused };
}

/**
 * Puts a page back on the website as it was when it was taken down, with what was taken down with it. Runs in a
 * transaction.
 */
export async function putBack(tx: Tx, access: Access, pageId: number): Promise<{ pages: number }> {
  await lockTree(tx, access.site.id);
  const page = await mustFindItem(tx, access.site.id, pageId, true);
  if (page.downRevisionId === null) throw new Problem('not-taken-down', { thing: thisOf(page) });
  await mustMayBelow(tx, access, 'page.retire', pageId);
  const branch = (await findBranch(tx, access.site.id, pageId)).filter(
    (row) => row.downRevisionId !== null && row.downAt?.getTime() === page.downAt?.getTime(),
  );
  // Meanwhile an address may have been given away: looked at once for all of them.
  const [fault] = addressFaults(
    await findAddresses(tx, access.site.id),
    branch.filter(isPage).map((row) => String(row.id)),
  );
  if (fault) throw new Problem('address-taken', { why: fault.message });
  for (const row of branch) {
    const [revision] = await tx
      .select()
      .from(revisions)
      .where(eq(revisions.id, row.downRevisionId ?? 0));
    if (revision) await putOnline(tx, access, row.id, revision.id, revision.content, { isFree: true });
  }
  await record(tx, access, 'put back', await titleOf(tx, pageId), { href: hrefOf(page), detail: withBelow(branch) });
  return { pages: branch.filter(isPage).length };
}

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
  const found = await sortLeaving(tx, access, itemIds, 'deleted', (_, branch) => branch);
  await recordLeaving(tx, access, 'deleted', found, (item) => (isPage(item) ? '/room/pages/deleted' : hrefFrom(item)));
  const ids = idsOf(found.leaving);
  if (ids.length > 0)
    await tx.update(items).set({ deletedAt: now(), deletedBy: access.signedInId }).where(inArray(items.id, ids));
  return { pages: pagesOf(found.leaving), refused: found.refused };
}

/**
 * Brings a deleted page back where it lay, with what was deleted with it. An address taken meanwhile gets a number.
 * Runs in a transaction.
 */
export async function bringBack(
  tx: Tx,
  access: Access,
  pageId: number,
): Promise<{ id: string; pages: number; renamed: boolean }> {
  await lockTree(tx, access.site.id);
  const [page] = await tx
    .select()
    .from(items)
    .where(and(eq(items.siteId, access.site.id), eq(items.id, pageId), isNotNull(items.deletedAt)))
    .for('update');
  if (!page?.deletedAt) throw new Problem('back-already');
  const [parent] = await tx
    .select()
    .from(items)
    .where(eq(items.id, page.parentId ?? 0));
  if (!parent || parent.deletedAt) throw new Problem('parent-deleted');
  await mustMayBelow(tx, access, 'page.retire', pageId, page.deletedAt);
  const together = await tx
    .select()
    .from(items)
    .where(
      and(
        eq(items.siteId, access.site.id),
        eq(items.deletedAt, page.deletedAt),
        sql`${items.path} <@ ${page.path}::ltree`,
      ),
    );
  const slug = isPage(page) ? freeSlug(page.slug, await takenSlugs(tx, access.site.id, parent.id)) : page.slug;
  const owned = new Set(
    (
      await tx
        .select({ own: items.ownAddress })
        .from(items)
        .where(and(eq(items.siteId, access.site.id), isNull(items.deletedAt), isNotNull(items.ownAddress)))
    ).map((row) => row.own),
  );
  const renamed = together.flatMap((row) => {
    const change = {
      ...(row.ownAddress !== null && owned.has(row.ownAddress) && { ownAddress: '' as const }),
      ...(row.id === page.id && slug !== page.slug && { slug }),
    };
    return Object.keys(change).length > 0 ? [{ row, change }] : [];
  });
  for (const { row, change } of renamed)
    await adjust(tx, access, [row], change, 'Brought back: its address had been given away');
  await tx
    .update(items)
    .set({ deletedAt: null, deletedBy: null })
    .where(
      inArray(
        items.id,
        together.map((row) => row.id),
      ),
    );
  // What lies below may still meet an address somebody gave another page meanwhile.
  const [fault] = addressFaults(
    await findAddresses(tx, access.site.id),
    together.filter(isPage).map((row) => String(row.id)),
  );
  if (fault) throw new Problem('address-taken', { why: fault.message });
  await record(tx, access, 'brought back', await titleOf(tx, pageId), {
    href: hrefOf(page),
    detail: withBelow(together),
  });
  return { id: String(pageId), pages: together.filter(isPage).length, renamed: renamed.length > 0 };
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
