import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { among } from '../db/among';
import type { Audience, PageState, Place } from '@/core/access';
import type { PageContent } from '@/core/content';
import type { Tx } from '../db/client';
import { keptByChanges, type PageRow } from './siteMap';
import { given, prepared } from '../db/prepared';
import { drafts, items, publications, reviews, revisions } from '../db/schema';

/** A page as lists and the gate need it. */
export interface PageFacts {
  id: string;
  parent: string | null;
  slug: string;
  address: string;
  /** Title in the back office: of the draft, where there is one. */
  title: string;
  /** Title visitors see. */
  liveTitle: string;
  shortName: string | null;
  inNavigation: boolean;
  position: number;
  ownAddress: string | null;
  /** The date it bears, `2026-11-25`. */
  day: string | null;
  language: string;
  /** Whether visitors see it: published once, and not taken down. */
  live: boolean;
  place: Place;
  /** Its own rights for visitors; null where it has those of the page above. */
  audience: Audience | null;
  createdAt: Date;
  publishedAt: Date | null;
  /** What the checks found in what visitors see, by their ids. */
  findings: readonly string[];
}

/** What a page is called where visitors read of it: its short name, else its title. */
export const liveNameOf = (page: Pick<PageFacts, 'shortName' | 'liveTitle'>): string =>
  page.shortName ?? page.liveTitle;

const lastPublished = sql<
  string | null
>`(select max(${publications.publishedAt}) from ${publications} where ${publications.itemId} = ${items.id})`;

/** The page's own rights for visitors, or those of the nearest page above that has some. */
const audience = sql<Audience | null>`(select a.audience from ${items} a where a.path @> ${items.path} and a.audience is not null order by nlevel(a.path) desc limit 1)`;

const columns = {
  id: items.id,
  type: items.type,
  parentId: items.parentId,
  // What is no page lies where its page does.
  path: sql<string>`case when ${items.type} = 'page' then ${items.path}::text else subpath(${items.path}, 0, -1)::text end`,
  slug: items.slug,
  position: items.position,
  layout: sql<string>`case when ${items.type} = 'page' then ${items.layout} else (select a.layout from ${items} a where a.id = ${items.parentId}) end`,
  shortName: items.shortName,
  inNavigation: items.inNavigation,
  authorId: items.authorId,
  ownAddress: items.ownAddress,
  day: items.day,
  language: items.language,
  live: items.liveRevisionId,
  down: items.downRevisionId,
  liveTitle: sql<string | null>`${revisions.content}->>'title'`,
  draftTitle: sql<string | null>`${drafts.content}->>'title'`,
  draft: drafts.itemId,
  waiting: reviews.id,
  publishedAt: lastPublished,
  findings: items.findings,
  audience,
  ownAudience: items.audience,
};

type Row = Omit<PageRow, 'createdAt'> & { audience: Audience | null };

const stateOf = (row: Row): PageState =>
  row.draft !== null
    ? 'draft'
    : row.waiting !== null
      ? 'waiting'
      : row.down !== null
        ? 'down'
        : row.publishedAt !== null
          ? 'published'
          : 'draft';
const placeOf = (row: Row): Place => ({
  path: row.path.split('.'),
  layout: row.layout,
  state: stateOf(row),
  author: row.authorId === null ? null : String(row.authorId),
  ...(row.audience && { audience: row.audience }),
});

const query = (tx: Tx) =>
  tx
    .select(columns)
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .leftJoin(reviews, and(eq(reviews.itemId, items.id), isNull(reviews.outcome)));

/** A site's pages: parents before children, brothers in their order; by their numbers; by where visitors find them. */
interface SiteMap {
  pages: readonly PageFacts[];
  byId: ReadonlyMap<string, PageFacts>;
  byAddress: ReadonlyMap<string, PageFacts>;
}

/** Worked out once for each list of pages, which all who ask share while nothing changes. */
export function onceForEach<T>(work: (pages: readonly PageFacts[]) => T): (pages: readonly PageFacts[]) => T {
  const known = new WeakMap<readonly PageFacts[], T>();
  return (pages) => {
    let found = known.get(pages);
    if (found === undefined) known.set(pages, (found = work(pages)));
    return found;
  };
}
/** Pages by their numbers. */
export const byIdOf = onceForEach(
  (pages): ReadonlyMap<string, PageFacts> => new Map(pages.map((page) => [page.id, page])),
);
/** Pages by where visitors find them. */
export const byAddressOf = onceForEach(
  (pages): ReadonlyMap<string, PageFacts> => new Map(pages.map((page) => [page.address, page])),
);

/** What lies directly below each of some pages, in order; below null what none of them lies above. Parents come first. */
export function belowEach(pages: readonly PageFacts[]): Map<string | null, string[]> {
  const below = new Map<string | null, string[]>();
  const there = new Set<string>();
  for (const { id, parent: above } of pages) {
    there.add(id);
    const parent = above !== null && there.has(above) ? above : null;
    const list = below.get(parent);
    if (list) list.push(id);
    else below.set(parent, [id]);
  }
  return below;
}

const mapOf = (pages: readonly PageFacts[]): SiteMap => ({ pages, byId: byIdOf(pages), byAddress: byAddressOf(pages) });

/** All pages, with what each has from those above it. */
function inTree(rows: Iterable<PageRow>): readonly PageFacts[] {
  const placed = [...rows].map((row) => ({ row, path: row.path.split('.') }));
  placed.sort((a, b) => a.path.length - b.path.length || a.row.position - b.row.position || a.row.id - b.row.id);
  const audiences = new Map<number, Audience | null>();
  const addresses = new Map<number, string>();
  return placed.map(({ row }) => {
    const audience = row.ownAudience ?? (row.parentId === null ? null : (audiences.get(row.parentId) ?? null));
    audiences.set(row.id, audience);
    const above = row.parentId === null ? '' : (addresses.get(row.parentId) ?? '');
    const address =
      row.parentId === null ? '/' : (row.ownAddress ?? `${above === '/' ? '' : above}/${encodeURIComponent(row.slug)}`);
    addresses.set(row.id, address);
    return {
      id: String(row.id),
      parent: row.parentId === null ? null : String(row.parentId),
      slug: row.slug,
      address,
      title: row.draftTitle ?? row.liveTitle ?? 'Untitled',
      liveTitle: row.liveTitle ?? row.draftTitle ?? 'Untitled',
      shortName: row.shortName,
      inNavigation: row.inNavigation,
      ownAddress: row.ownAddress,
      day: row.day,
      language: row.language,
      live: row.live !== null,
      position: row.position,
      place: placeOf({ ...row, audience }),
      audience: row.ownAudience,
      createdAt: new Date(row.createdAt),
      publishedAt: row.publishedAt === null ? null : new Date(row.publishedAt),
      findings: row.findings ?? [],
    };
  });
}

/** The site map: every page of a site that is not deleted. Shared by all who ask, so never changed. */
export const findSiteMap: (tx: Tx, siteId: number) => Promise<SiteMap> = keptByChanges((rows) => mapOf(inTree(rows)));

export const listPages = async (tx: Tx, siteId: number): Promise<readonly PageFacts[]> =>
  (await findSiteMap(tx, siteId)).pages;

/** An item where it lies: a page itself, anything else on its page, with a state and an author of its own. */
export interface PlacedItem {
  type: string;
  place: Place;
}

/**
 * Where some items lie, by their numbers. Deleted ones lie nowhere, unless they are asked for: only them, or with null
 * them, too.
 */
export async function findAllPlaced(
  tx: Tx,
  siteId: number,
  itemIds: readonly number[],
  deleted: boolean | null = false,
): Promise<Map<number, PlacedItem>> {
  if (itemIds.length === 0) return new Map();
  const there = deleted === null ? undefined : deleted ? isNotNull(items.deletedAt) : isNull(items.deletedAt);
  const rows = await query(tx).where(and(eq(items.siteId, siteId), among(items.id, itemIds), there));
  return new Map(rows.map((row) => [row.id, { type: row.type, place: placeOf(row) }]));
}

export const findPlaced = async (
  tx: Tx,
  siteId: number,
  itemId: number,
  deleted = false,
): Promise<PlacedItem | undefined> => (await findAllPlaced(tx, siteId, [itemId], deleted)).get(itemId);

export const findPlace = async (tx: Tx, siteId: number, itemId: number, deleted = false): Promise<Place | undefined> =>
  (await findPlaced(tx, siteId, itemId, deleted))?.place;

const namesOf = onceForEach(
  (pages): ReadonlyMap<string, string> => new Map(pages.map((page) => [page.id, liveNameOf(page)])),
);
const askDeleted = prepared('names of deleted pages', (tx) =>
  tx
    .select({
      id: items.id,
      title: sql<string>`coalesce(${items.shortName}, ${revisions.content}->>'title', ${drafts.content}->>'title', 'Untitled')`,
    })
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .where(and(eq(items.siteId, given('site')), eq(items.type, 'page'), isNotNull(items.deletedAt))),
);
/** What pages are called, deleted or not. */
export async function findPageNames(tx: Tx, siteId: number): Promise<ReadonlyMap<string, string>> {
  const names = namesOf(await listPages(tx, siteId));
  const deleted = await askDeleted(tx, { site: siteId });
  return deleted.length === 0
    ? names
    : new Map([...names, ...deleted.map((row) => [String(row.id), row.title] as const)]);
}

export async function rootPageId(tx: Tx, siteId: number): Promise<number | null> {
  const [row] = await tx
    .select({ id: items.id })
    .from(items)
    .where(and(eq(items.siteId, siteId), isNull(items.parentId)));
  return row?.id ?? null;
}

/** What visitors see of several pages, by page id. */
export async function findLiveContents(tx: Tx, pageIds: readonly string[]): Promise<Map<string, PageContent>> {
  if (pageIds.length === 0) return new Map();
  const rows = await tx
    .select({ id: items.id, content: revisions.content })
    .from(items)
    .innerJoin(revisions, eq(revisions.id, items.liveRevisionId))
    .where(among(items.id, pageIds.map(Number)));
  return new Map(rows.map((row) => [String(row.id), row.content]));
}

/** The content visitors see of one page. */
export async function findLiveContent(tx: Tx, pageId: number): Promise<PageContent | undefined> {
  const [row] = await tx
    .select({ content: revisions.content })
    .from(items)
    .innerJoin(revisions, eq(revisions.id, items.liveRevisionId))
    .where(eq(items.id, pageId));
  return row?.content;
}
