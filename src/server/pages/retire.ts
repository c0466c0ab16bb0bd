import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { freeSlug } from '@/core/content';
import type { RetirePreview } from '@/core/wire';
import { inventory } from '@/office';
import { recordAll } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { drafts, items, people, publications, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { notFound, Problem } from '../gate/problems';
import { addressFaults, findAddresses, lockTree, takenSlugs, type AddressMap } from '../tree/addresses';
import { type ItemRow } from '../items/forms';
import { findLinks, linksTo, type LinksByTarget } from '../items/references';
import { hrefFrom, hrefOf, lockItems, thisOf } from '../items/items';
import { findBranches } from '../items/branches';
import { putAllOnline, takeDown, titlesOf } from '../items/publishing';
import { mustBeDone, sortOut, type Refused } from '../items/together';
import { adjust } from './adjust';
import { findKeptBack, livePages } from './move';

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

/** An item that goes or comes, with what goes along. */
interface Branch {
  item: ItemRow;
  branch: ItemRow[];
}

/** Looks at each of some items with all below it; `goes` says what of it would, and throws a Problem where nothing does. */
async function sortLeaving(
  tx: Tx,
  access: Access,
  itemIds: readonly number[],
  what: string,
  goes: (item: ItemRow, branch: ItemRow[]) => ItemRow[],
): Promise<{ leaving: Branch[]; refused: Refused }> {
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

const idsOf = (branches: readonly Branch[]) => branches.flatMap(({ branch }) => branch.map((row) => row.id));
const pagesOf = (branches: readonly Branch[]) => branches.flatMap(({ branch }) => branch.filter(isPage)).length;

/** Tells the activity of what went or came. */
async function recordBranches(
  tx: Tx,
  access: Access,
  action: string,
  branches: readonly Branch[],
  href: (item: ItemRow) => string,
): Promise<void> {
  const titles = await titlesOf(
    tx,
    branches.map(({ item }) => item.id),
  );
  await recordAll(
    tx,
    access,
    action,
    branches.map(({ item, branch }) => ({
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
  const { leaving, refused } = await sortLeaving(tx, access, itemIds, 'taken down', (item, whole) => {
    const branch = whole.filter((row) => row.liveRevisionId !== null);
    if (branch.length === 0) throw new Problem('not-online', { thing: thisOf(item).toLowerCase() });
    return branch;
  });
  await takeDown(tx, idsOf(leaving));
  await recordBranches(tx, access, 'took down', leaving, hrefOf);
  return { pages: pagesOf(leaving), refused };
}

/**
 * Puts items back on the website as they were when they were taken down, with what was taken down with each; gives how
 * many pages came. All of them, or throws a Problem. Runs in a transaction.
 */
export async function putBack(tx: Tx, access: Access, itemIds: readonly number[]): Promise<{ pages: number }> {
  await lockTree(tx, access.site.id);
  const found = await lockItems(tx, access.site.id, itemIds);
  const branches = await findBranches(tx, access.site.id, itemIds);
  mustBeDone(await findKeptBack(tx, access, 'page.retire', itemIds));
  const back = itemIds.map((id) => {
    const item = found.get(id);
    if (!item) throw notFound('This');
    if (item.downRevisionId === null) throw new Problem('not-taken-down', { thing: thisOf(item) });
    const together = (branches.get(id) ?? []).filter((row) => row.downAt?.getTime() === item.downAt?.getTime());
    return { item, branch: together.filter((row) => row.downRevisionId !== null) };
  });
  const rows = back.flatMap(({ branch }) => branch);
  // Meanwhile an address may have been given away: looked at once for all of them.
  mustHaveAddresses(await findAddresses(tx, access.site.id), rows);
  const versions = await tx
    .select({ id: revisions.id, content: revisions.content })
    .from(revisions)
    .where(
      inArray(
        revisions.id,
        rows.flatMap((row) => row.downRevisionId ?? []),
      ),
    );
  const contents = new Map(versions.map(({ id, content }) => [id, content]));
  const coming = rows.flatMap((item) => {
    const revisionId = item.downRevisionId ?? 0;
    const content = contents.get(revisionId);
    return content ? [{ item, revisionId, content }] : [];
  });
  await putAllOnline(tx, access, coming, { isFree: true });
  await recordBranches(tx, access, 'put back', back, hrefOf);
  return { pages: pagesOf(back) };
}

/** Refuses where one of some pages cannot have its address. */
function mustHaveAddresses(addresses: AddressMap, rows: readonly ItemRow[]): void {
  const [fault] = addressFaults(
    addresses,
    rows.filter(isPage).map((row) => String(row.id)),
  );
  if (fault) throw new Problem('address-taken', { why: fault.message });
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
  const { leaving, refused } = await sortLeaving(tx, access, itemIds, 'deleted', (_, branch) => branch);
  const hrefs = (item: ItemRow) => (isPage(item) ? '/room/pages/deleted' : hrefFrom(item));
  await recordBranches(tx, access, 'deleted', leaving, hrefs);
  const ids = idsOf(leaving);
  if (ids.length > 0)
    await tx.update(items).set({ deletedAt: now(), deletedBy: access.signedInId }).where(inArray(items.id, ids));
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
    .where(and(eq(items.siteId, site), inArray(items.id, [...itemIds]), isNotNull(items.deletedAt)))
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
    .where(inArray(items.id, idsOf(back)));
  // What lies below may still meet an address somebody gave another page meanwhile.
  mustHaveAddresses(
    await findAddresses(tx, site),
    back.flatMap(({ branch }) => branch),
  );
  await recordBranches(tx, access, 'brought back', back, hrefOf);
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
