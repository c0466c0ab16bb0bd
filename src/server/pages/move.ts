import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { among } from '../db/among';
import type { Audience } from '@/core/access';
import { canonical } from '@/core/json';
import { addressChanges, addressOf } from '@/core/content';
import type { PageMove, MovePreview } from '@/core/wire';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { items, revisions } from '../db/schema';
import { namesFor, type Access } from '../gate/access';
import { authorize, mayOn } from '../gate/authorize';
import { Problem } from '../gate/problems';
import { addressFaults, findAddresses, keepOldAddresses, lockTree, type AddressMap } from '../tree/addresses';
import { mustFindPage } from '../items/items';
import { findLinks, linksTo, type Linked, type LinksByTarget } from '../items/references';
import { gained, lostBy } from '../items/allowed';
import { findBranch, findForbiddenBelow, findPagesOf } from '../items/branches';
import { titleOf, titlesOf } from '../items/publishing';
import { mustBeDone, type Refused } from '../items/together';
import { findAllPlaced, findPlace } from '../tree/tree';

type PageRow = typeof items.$inferSelect;

const isOpen = (audience: Audience | null | undefined) => (audience?.kind ?? 'everyone') === 'everyone';
const WHO = { everyone: 'everybody', members: 'members only', roles: 'some roles only' } as const;

/**
 * Who may visit a page where it lies, and where it would lie if nothing were done about it; what is not for everybody
 * stays so wherever it goes.
 */
async function visitorsOfMove(
  tx: Tx,
  access: Access,
  page: PageRow,
  parent: PageRow,
): Promise<{ keeps: Audience | null; words: string | null }> {
  if (page.audience !== null || page.parentId === parent.id) return { keeps: null, words: null };
  const now = (await findPlace(tx, access.site.id, page.id))?.audience;
  const there = (await findPlace(tx, access.site.id, parent.id))?.audience;
  if (canonical(now ?? null) === canonical(there ?? null)) return { keeps: null, words: null };
  if (now && !isOpen(now))
    return {
      keeps: now,
      words: `It stays for ${WHO[now.kind]}, as it is now. Who may visit it can be changed on its edit screen.`,
    };
  return {
    keeps: null,
    words: `There it is for ${WHO[there?.kind ?? 'everyone']}, as the page above it; now it is for everybody.`,
  };
}

async function planMove(
  tx: Tx,
  access: Access,
  move: PageMove,
): Promise<{ page: PageRow; parent: PageRow; before: AddressMap; after: AddressMap }> {
  const page = await mustFindPage(tx, access.site.id, move.page);
  const parent = await mustFindPage(tx, access.site.id, move.parent);
  if (page.parentId === null) throw new Problem('first-page-stays');
  if (`${parent.path}.`.startsWith(`${page.path}.`)) throw new Problem('below-itself');
  const before = await findAddresses(tx, access.site.id);
  const own = before.get(String(page.id));
  if (!own) throw new Error(`page ${page.id} has no address`);
  return { page, parent, before, after: new Map(before).set(own.id, { ...own, parent: String(parent.id) }) };
}

/**
 * What lies below goes along, so it must be theirs, too: a role may be forbidden something further down. Of some pages
 * those it forbids, each with why.
 */
export async function findKeptBack(
  tx: Tx,
  access: Access,
  permission: string,
  pageIds: readonly number[],
  deletedAt: Date | null = null,
): Promise<Refused> {
  const forbidden = await findForbiddenBelow(tx, access, permission, pageIds, deletedAt);
  const lowest = [...new Set(forbidden.values())];
  const places = await findAllPlaced(tx, access.site.id, lowest, deletedAt !== null);
  const titles = await titlesOf(tx, lowest);
  const maySee = mayOn(access, 'page.view');
  return new Map(
    [...forbidden].map(([top, id]) => {
      const place = places.get(id)?.place;
      const page = place && maySee(place) ? `“${titles.get(id) ?? 'Untitled'}”` : 'A page below that you do not see';
      return [top, new Problem('goes-along', { page }, { permission })];
    }),
  );
}

/** The same of one page: throws why not. */
export const mustMayBelow = async (
  tx: Tx,
  access: Access,
  permission: string,
  pageId: number,
  deletedAt: Date | null = null,
): Promise<void> => mustBeDone(await findKeptBack(tx, access, permission, [pageId], deletedAt));

/**
 * Both ends of a move must be the mover's to arrange, and what goes along; and nobody may do more with any of it where
 * it goes than where it was.
 */
async function mustMayMove(tx: Tx, access: Access, page: PageRow, parent: PageRow): Promise<void> {
  for (const { id } of [page, parent])
    await authorize(tx, access, 'page.arrange', { place: await findPlace(tx, access.site.id, id) });
  await mustMayBelow(tx, access, 'page.arrange', page.id);
  if (page.parentId === parent.id) return;
  const branch = (await findBranch(tx, access.site.id, page.id)).map(({ id }) => id);
  const depth = page.path.split('.').length - 1;
  for (const [id, { type, place }] of await findAllPlaced(tx, access.site.id, branch)) {
    const there = { ...place, path: [...parent.path.split('.'), ...place.path.slice(depth)] };
    const permission = gained(access, place, there, type);
    if (permission === undefined) continue;
    const what = (await namesFor(tx, access)).doing(permission);
    const isSeen = id === page.id || mayOn(access, 'page.view')(place);
    throw new Problem('move-gives-more', { page: isSeen ? `“${await titleOf(tx, id)}”` : 'something below it', what });
  }
}

/** What the mover may not do with the page any more where it goes, in words. */
async function lostByMove(tx: Tx, access: Access, page: PageRow, parent: PageRow): Promise<string[]> {
  const place = await findPlace(tx, access.site.id, page.id);
  if (!place || page.parentId === parent.id) return [];
  const lost = lostBy(access, place, { ...place, path: [...parent.path.split('.'), String(page.id)] });
  const { doing } = await namesFor(tx, access);
  return lost.map(doing);
}

/**
 * What would move with a page: addresses, navigation, lists, links (among those of the whole site, where they are
 * known). Changes nothing.
 */
export async function previewMove(tx: Tx, access: Access, move: PageMove, links?: LinksByTarget): Promise<MovePreview> {
  const { page, parent, before, after } = await planMove(tx, access, move);
  await mustMayMove(tx, access, page, parent);
  const changes = addressChanges(before, after);
  const rows =
    changes.length === 0
      ? []
      : await tx
          .select({
            id: items.id,
            live: items.liveRevisionId,
            title: sql<string>`coalesce(${items.shortName}, ${revisions.content}->>'title', 'Untitled')`,
          })
          .from(items)
          .leftJoin(revisions, eq(revisions.id, items.liveRevisionId))
          .where(
            among(
              items.id,
              changes.map((change) => Number(change.page)),
            ),
          );
  const titles = new Map(rows.map((row) => [String(row.id), row.title]));
  const elsewhere = page.parentId !== parent.id;
  const moved = changes.map(({ page: id, from }) => ({ id, address: from }));
  const from = page.parentId === null ? '' : await titleOf(tx, page.parentId);
  const to = await titleOf(tx, parent.id);
  return {
    title: await titleOf(tx, page.id),
    to,
    addresses: changes.map((change) => ({
      title: titles.get(change.page) ?? 'Untitled',
      from: change.from,
      to: change.to,
    })),
    below: (await findPagesOf(tx, access.site.id, page.id)).length - 1,
    navigation: elsewhere && page.inNavigation,
    lists:
      elsewhere && page.liveRevisionId !== null && page.inNavigation
        ? [`“More here” on ${from} loses it.`, `“More here” on ${to} gains it.`]
        : [],
    visitors: (await visitorsOfMove(tx, access, page, parent)).words,
    lost: await lostByMove(tx, access, page, parent),
    links: linksTo(links ?? (await findLinks(tx, access.inventory, access.site.id, moved)), moved),
    faults: addressFaults(
      after,
      changes.map((change) => change.page),
    ).map((fault) => fault.message),
  };
}

/**
 * Moves a page with all below it, or changes its place among its neighbours. Old addresses lead to it if asked. Gives
 * the move that takes it back. Runs in a transaction.
 */
export async function movePage(
  tx: Tx,
  access: Access,
  move: PageMove & { redirect: boolean },
): Promise<{ back: PageMove }> {
  await lockTree(tx, access.site.id);
  const { page, parent, before, after } = await planMove(tx, access, move);
  await mustMayMove(tx, access, page, parent);
  const changes = addressChanges(before, after);
  const [fault] = addressFaults(
    after,
    changes.map((change) => change.page),
  );
  if (fault) throw new Problem('address-taken', { why: fault.message });
  const neighbours = async (id: number) =>
    (
      await tx
        .select({ id: items.id })
        .from(items)
        .where(and(eq(items.parentId, id), eq(items.type, 'page'), isNull(items.deletedAt)))
        .orderBy(asc(items.position), asc(items.id))
    ).map((row) => row.id);
  const oldParent = page.parentId ?? parent.id;
  const oldIndex = (await neighbours(oldParent)).indexOf(page.id);
  const order = (await neighbours(parent.id)).filter((id) => id !== page.id);
  order.splice(Math.min(move.index, order.length), 0, page.id);
  if (oldParent !== parent.id) {
    const { keeps } = await visitorsOfMove(tx, access, page, parent);
    await tx
      .update(items)
      .set({ parentId: parent.id, ...(keeps && { audience: keeps }) })
      .where(eq(items.id, page.id));
    // Deleted pages below go along, so that they come back where they belong.
    await tx.execute(
      sql`update items set path = case when path = ${page.path}::ltree then ${`${parent.path}.${page.id}`}::ltree else ${`${parent.path}.${page.id}`}::ltree || subpath(path, nlevel(${page.path}::ltree)) end where site_id = ${access.site.id} and path <@ ${page.path}::ltree`,
    );
  }
  await tx.execute(
    sql`update items set position = o.position - 1 from unnest(array[${sql.join(
      order.map((id) => sql`${id}::int`),
      sql`, `,
    )}]) with ordinality as o(id, position) where items.id = o.id`,
  );
  await keepOldAddresses(tx, access.site.id, access.signedInId, changes, move.redirect);
  await record(tx, access, oldParent === parent.id ? 'reordered' : 'moved', await titleOf(tx, page.id), {
    href: `/room/pages/${page.id}`,
    detail:
      oldParent === parent.id
        ? ''
        : `Below ${await titleOf(tx, parent.id)}${changes.length ? `; ${changes.length} ${changes.length === 1 ? 'address' : 'addresses'} changed` : ''}`,
  });
  return { back: { page: page.id, parent: oldParent, index: oldIndex } };
}

/** Those of some pages that visitors can reach now, with where. */
export const livePages = (addressed: AddressMap, rows: readonly PageRow[]): Linked =>
  rows
    .filter((row) => row.liveRevisionId !== null)
    .map(({ id }) => ({ id: String(id), address: addressOf(addressed, String(id)) }));
