import { among } from '../db/among';
import type { RetirePreview } from '@/core/wire';
import { recordAll } from '../activity/activity';
import type { Tx } from '../db/client';
import { drafts, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound, Problem } from '../gate/problems';
import { addressFaults, findAddresses, lockTree, type AddressMap } from '../tree/addresses';
import { type ItemRow } from '../items/forms';
import { findLinks, linksTo, type LinksByTarget } from '../items/references';
import { hrefOf, lockItems, thisOf } from '../items/items';
import { findBranches } from '../items/branches';
import { putAllOnline, takeDown, titlesOf } from '../items/publishing';
import { mustBeDone, sortOut, type Refused } from '../items/together';
import { findKeptBack, livePages } from './move';
import type { Inventory } from '@/core/inventory';

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
  const links =
    known?.links ?? (await findLinks(tx, access.inventory, access.site.id, livePages(addresses, all.filter(isPage))));
  const begun = new Set(
    (
      await tx
        .select({ id: drafts.itemId })
        .from(drafts)
        .where(
          among(
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
        also: onThem(
          access.inventory,
          branch.filter((row) => row.id !== id),
        ),
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

export const isPage = (row: { type: string }) => row.type === 'page';

/** What lies on pages, counted by its kinds: "2 vacancies". */
const onThem = (inventory: Inventory, rows: readonly ItemRow[]): string[] =>
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
export interface Branch {
  item: ItemRow;
  branch: ItemRow[];
}

/** Looks at each of some items with all below it; `goes` says what of it would, and throws a Problem where nothing does. */
export async function sortLeaving(
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

export const idsOf = (branches: readonly Branch[]) => branches.flatMap(({ branch }) => branch.map((row) => row.id));
export const pagesOf = (branches: readonly Branch[]) => branches.flatMap(({ branch }) => branch.filter(isPage)).length;

/** Tells the activity of what went or came. */
export async function recordBranches(
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
    if (branch.length === 0) throw new Problem('not-online', { thing: thisOf(access.inventory, item).toLowerCase() });
    return branch;
  });
  await takeDown(tx, idsOf(leaving));
  await recordBranches(tx, access, 'took down', leaving, (item) => hrefOf(access.inventory, item));
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
    if (item.downRevisionId === null) throw new Problem('not-taken-down', { thing: thisOf(access.inventory, item) });
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
      among(
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
  await recordBranches(tx, access, 'put back', back, (item) => hrefOf(access.inventory, item));
  return { pages: pagesOf(back) };
}

/** Refuses where one of some pages cannot have its address. */
export function mustHaveAddresses(addresses: AddressMap, rows: readonly ItemRow[]): void {
  const [fault] = addressFaults(
    addresses,
    rows.filter(isPage).map((row) => String(row.id)),
  );
  if (fault) throw new Problem('address-taken', { why: fault.message });
}
