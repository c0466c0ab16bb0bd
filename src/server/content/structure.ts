import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Audience } from '@/core/access';
import { canonical } from '@/core/json';
import {
  addressChanges,
  addressOf,
  emptyDocument,
  freeSlug,
  parseOutline,
  slugFrom,
  textOf,
  type PageContent,
} from '@/core/content';
import { layouts } from '@/office';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { items, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { authorize, mayOn } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { addressFaults, findAddresses, keepOldAddresses, lockTree, takenSlugs, type AddressMap } from './addresses';
import { beginDraft } from '../items/begin';
import { findNewest, mustFindPage } from '../items/items';
import { findLinks, linksTo, type Linked, type LinkInText } from '../items/references';
import { findForbiddenBelow, findPagesOf, titleOf } from '../items/publishing';
import { findPlace } from './tree';

type PageRow = typeof items.$inferSelect;

const nextPosition = async (tx: Tx, parentId: number): Promise<number> =>
  Number(
    (
      await tx
        .select({ next: sql<number>`coalesce(max(${items.position}) + 1, 0)` })
        .from(items)
        .where(and(eq(items.parentId, parentId), eq(items.type, 'page'), isNull(items.deletedAt)))
    )[0]?.next ?? 0,
  );

/** Writes a page that visitors do not see yet, with a draft to begin from. */
async function addPage(
  tx: Tx,
  access: Access,
  parent: PageRow,
  given: {
    title: string;
    slug: string;
    layout: string;
    position: number;
    content?: PageContent;
    inNavigation?: boolean;
    audience?: Audience | null;
  },
): Promise<PageRow> {
  const [row] = await tx
    .insert(items)
    .values({
      siteId: access.site.id,
      parentId: parent.id,
      path: 'new',
      slug: given.slug,
      position: given.position,
      layout: given.layout,
      language: access.site.languages[0],
      inNavigation: given.inNavigation ?? true,
      audience: given.audience ?? null,
      authorId: access.signedInId,
    })
    .returning();
  if (!row) throw new Error('a page was not written');
  const path = `${parent.path}.${row.id}`;
  await tx.update(items).set({ path }).where(eq(items.id, row.id));
  const content: PageContent = {
    ...given.content,
    title: given.title,
    'page.layout': given.layout,
    'page.slug': given.slug,
    'page.ownAddress': '',
  };
  await beginDraft(tx, row, { content: { body: emptyDocument(), ...content }, by: access.signedInId });
  return { ...row, path };
}

/** Makes one page below another, last there. Runs in a transaction. */
export async function makePage(
  tx: Tx,
  access: Access,
  parentId: number,
  given: { title: string; layout: string },
): Promise<{ id: string }> {
  await lockTree(tx, access.site.id);
  const parent = await mustFindPage(tx, access.site.id, parentId);
  await mustMayMakeWith(tx, access, parentId, given.layout);
  const page = await addPage(tx, access, parent, {
    ...given,
    slug: freeSlug(slugFrom(given.title), await takenSlugs(tx, access.site.id, parent.id)),
    position: await nextPosition(tx, parentId),
  });
  await record(tx, access, 'made a page', given.title, { href: `/room/pages/${page.id}` });
  return { id: String(page.id) };
}

/** A new page is edited next, so its layout must be one its maker may use there. */
async function mustMayMakeWith(tx: Tx, access: Access, parentId: number, layout: string): Promise<void> {
  const place = await findPlace(tx, access.site.id, parentId);
  if (!layouts.has(layout)) throw problemAt('layout', 'no-layout', { layout });
  await authorize(tx, access, 'page.edit', {
    place: place && { ...place, path: [...place.path, 'new'], layout, state: 'draft', author: access.who.id },
    field: 'page.layout',
  });
}

/** Makes as many pages as an indented list has titles, as deep as it has them. Runs in a transaction. */
export async function makePages(
  tx: Tx,
  access: Access,
  parentId: number,
  given: { outline: string; layout: string },
): Promise<{ made: number; first: string }> {
  const parsed = parseOutline(given.outline);
  if (!parsed.ok) throw problemAt('outline', 'outline-faulty', { line: parsed.line, why: parsed.message });
  await lockTree(tx, access.site.id);
  const top = await mustFindPage(tx, access.site.id, parentId);
  await mustMayMakeWith(tx, access, parentId, given.layout);
  const line: { page: PageRow; taken: Set<string>; position: number }[] = [
    { page: top, taken: await takenSlugs(tx, access.site.id, top.id), position: await nextPosition(tx, parentId) },
  ];
  let first = '';
  for (const entry of parsed.entries) {
    line.length = entry.depth + 1;
    const at = line.at(-1);
    if (!at) throw new Error('an outline skipped a level');
    const slug = freeSlug(slugFrom(entry.title), at.taken);
    at.taken.add(slug);
    const page = await addPage(tx, access, at.page, {
      title: entry.title,
      slug,
      layout: given.layout,
      position: at.position++,
    });
    first ||= String(page.id);
    line.push({ page, taken: new Set(), position: 0 });
  }
  await record(tx, access, 'made pages', `${parsed.entries.length} pages below ${await titleOf(tx, parentId)}`, {
    href: `/room/pages/${parentId}`,
  });
  return { made: parsed.entries.length, first };
}

/**
 * Copies a page beside itself, with or without what lies below and may be seen. Copies are drafts, for the same
 * visitors. Runs in a transaction.
 */
export async function copyPage(
  tx: Tx,
  access: Access,
  pageId: number,
  given: { withBelow: boolean },
): Promise<{ id: string; made: number }> {
  await lockTree(tx, access.site.id);
  const page = await mustFindPage(tx, access.site.id, pageId);
  if (page.parentId === null) throw new Problem('first-page-copied');
  const parent = await mustFindPage(tx, access.site.id, page.parentId);
  const place = await findPlace(tx, access.site.id, parent.id);
  await authorize(tx, access, 'page.create', { place });
  const mayView = mayOn(access, 'page.view');
  const mayMake = mayOn(access, 'page.create');
  const sources = given.withBelow ? await findPagesOf(tx, access.site.id, pageId) : [page];
  const copies = new Map<number, PageRow>();
  for (const source of sources) {
    const at = source.id === pageId ? parent : copies.get(source.parentId ?? 0);
    const from = await findPlace(tx, access.site.id, source.id);
    if (!at || !from || !mayView(from)) continue;
    if (source.id !== pageId && !mayMake({ ...from, path: at.path.split('.') })) continue;
    const content = await findNewest(tx, source);
    const title = source.id === pageId ? `${textOf(content, 'title').slice(0, 110)} (copy)` : textOf(content, 'title');
    const slug =
      source.id === pageId
        ? freeSlug(`${page.slug}-copy`, await takenSlugs(tx, access.site.id, parent.id))
        : source.slug;
    const position = source.id === pageId ? await nextPosition(tx, parent.id) : source.position;
    copies.set(
      source.id,
      await addPage(tx, access, at, {
        title,
        slug,
        layout: textOf(content, 'page.layout') || source.layout,
        position,
        content,
        inNavigation: source.inNavigation,
        audience: source.audience,
      }),
    );
  }
  const copy = copies.get(pageId);
  if (!copy) throw new Error('the copy was not written');
  await record(tx, access, 'copied a page', await titleOf(tx, pageId), {
    href: `/room/pages/${copy.id}`,
    detail: copies.size > 1 ? `With ${copies.size - 1} below` : '',
  });
  return { id: String(copy.id), made: copies.size };
}

export interface Move {
  page: number;
  parent: number;
  /** Place among the pages there, from 0; the page itself not counted. */ index: number;
}
export interface MovePreview {
  /** Title of the page, and of the page it would lie below. */
  title: string;
  to: string;
  addresses: { title: string; from: string; to: string }[];
  /** Pages that go with it. */
  below: number;
  /** Whether it would stand in another part of the navigation. */
  navigation: boolean;
  /** Lists that fill themselves from what lies below a page: one loses it, one gains it. */
  lists: string[];
  /** Who may visit it, where that is not everybody or would change; a sentence. */
  visitors: string | null;
  /** Links that follow by themselves. */
  links: ReturnType<typeof linksTo>;
  faults: string[];
}

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
  move: Move,
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

/** What lies below goes along, so it must be theirs, too: a role may be forbidden something further down. */
export async function mustMayBelow(
  tx: Tx,
  access: Access,
  permission: string,
  pageId: number,
  deletedAt: Date | null = null,
): Promise<void> {
  const no = await findForbiddenBelow(tx, access, permission, pageId, deletedAt);
  if (no === undefined) return;
  const place = await findPlace(tx, access.site.id, no, deletedAt !== null);
  const named =
    place && mayOn(access, 'page.view')(place) ? `“${await titleOf(tx, no)}”` : 'A page below that you do not see';
  throw new Problem('goes-along', { page: named }, { permission });
}

/** Both ends of a move must be the mover's to arrange, and what goes along. */
async function mustMayMove(tx: Tx, access: Access, move: Move): Promise<void> {
  for (const id of [move.page, move.parent])
    await authorize(tx, access, 'page.arrange', { place: await findPlace(tx, access.site.id, id) });
  await mustMayBelow(tx, access, 'page.arrange', move.page);
}

/**
 * What would move with a page: addresses, navigation, lists, links (among those of the whole site, where they are
 * known). Changes nothing.
 */
export async function previewMove(
  tx: Tx,
  access: Access,
  move: Move,
  links?: readonly LinkInText[],
): Promise<MovePreview> {
  const { page, parent, before, after } = await planMove(tx, access, move);
  await mustMayMove(tx, access, move);
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
            inArray(
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
    links: linksTo(links ?? (await findLinks(tx, access.site.id, moved)), moved),
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
export async function movePage(tx: Tx, access: Access, move: Move & { redirect: boolean }): Promise<{ back: Move }> {
  await lockTree(tx, access.site.id);
  const { page, parent, before, after } = await planMove(tx, access, move);
  await mustMayMove(tx, access, move);
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
