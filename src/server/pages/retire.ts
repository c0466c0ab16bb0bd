import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { freeSlug } from '@/core/content';
import type { RetirePreview } from '@/core/wire';
import { inventory } from '@/office';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { drafts, items, people, publications, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { Problem } from '../gate/problems';
import { addressFaults, findAddresses, lockTree, takenSlugs, type AddressMap } from '../tree/addresses';
import { type ItemRow } from '../items/forms';
import { findLinks, linksTo, type LinkInText } from '../items/references';
import { hrefFrom, hrefOf, mustFindItem, thisOf } from '../items/items';
import { findBranch, putOnline, takeDown, titleOf } from '../items/publishing';
import { adjust } from './adjust';
import { livePages, mustMayBelow } from './move';

/** Addresses and links of a whole site, read once where many pages are looked at. */
export interface SiteLinks {
  addresses: AddressMap;
  links: readonly LinkInText[];
}

/** What taking a page away takes along, and whose links would lead nowhere. Changes nothing. */
export async function previewRetire(tx: Tx, access: Access, pageId: number, known?: SiteLinks): Promise<RetirePreview> {
  const branch = await findBranch(tx, access.site.id, pageId);
  const ids = branch.map((page) => page.id);
  const gone = livePages(known?.addresses ?? (await findAddresses(tx, access.site.id)), branch.filter(isPage));
  const begun = await tx.select({ id: drafts.itemId }).from(drafts).where(inArray(drafts.itemId, ids));
  return {
    title: await titleOf(tx, pageId),
    below: branch.filter((row) => row.type === 'page' && row.id !== pageId).length,
    also: onThem(branch.filter((row) => row.id !== pageId)),
    drafts: begun.length,
    links: linksTo(known?.links ?? (await findLinks(tx, access.site.id, gone)), gone, ids.map(String)),
  };
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

/** Takes an item and all below it off the website. Runs in a transaction. */
export async function takeItemDown(tx: Tx, access: Access, pageId: number): Promise<{ pages: number }> {
  const page = await mustFindItem(tx, access.site.id, pageId, true);
  mustNotBeFirst(page, 'taken down');
  const whole = await findBranch(tx, access.site.id, pageId);
  // What is asked for by itself was asked about by the gate.
  if (whole.length > 1) await mustMayBelow(tx, access, 'page.retire', pageId);
  const branch = whole.filter((row) => row.liveRevisionId !== null);
  if (branch.length === 0) throw new Problem('not-online', { thing: thisOf(page).toLowerCase() });
  await takeDown(
    tx,
    branch.map((row) => row.id),
  );
  await record(tx, access, 'took down', await titleOf(tx, pageId), { href: hrefOf(page), detail: withBelow(branch) });
  return { pages: branch.filter(isPage).length };
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

/** Deletes a page and all below it. Nothing is destroyed: they come back together. Runs in a transaction. */
export async function deleteItem(tx: Tx, access: Access, pageId: number): Promise<{ pages: number }> {
  await lockTree(tx, access.site.id);
  const page = await mustFindItem(tx, access.site.id, pageId, true);
  mustNotBeFirst(page, 'deleted');
  const branch = await findBranch(tx, access.site.id, pageId);
  if (branch.length > 1) await mustMayBelow(tx, access, 'page.retire', pageId);
  const title = await titleOf(tx, pageId);
  await tx
    .update(items)
    .set({ deletedAt: now(), deletedBy: access.signedInId })
    .where(
      inArray(
        items.id,
        branch.map((row) => row.id),
      ),
    );
  await record(tx, access, 'deleted', title, {
    href: isPage(page) ? '/room/pages/deleted' : hrefFrom(page),
    detail: withBelow(branch),
  });
  return { pages: branch.filter(isPage).length };
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
    await adjust(tx, access, row, change, 'Brought back: its address had been given away');
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
