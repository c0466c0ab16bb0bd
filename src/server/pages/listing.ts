import { and, eq, isNull, or, sql, type SQL } from 'drizzle-orm';
import { among } from '../db/among';
import { type PageState } from '@/core/access';
import type { ListedPage } from '@/core/content';
import { fold, sayDay } from '@/core/words';
import { getEntry } from '@/core/inventory';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { drafts, items, people, publications, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { allowedPages } from '../gate/filter';
import { belowEach, findSiteMap, type PageFacts } from '../tree/tree';
import { plainQuestion, titleHolds } from '../tree/search';

const state = sql<PageState>`case when ${drafts.itemId} is not null then 'draft' when ${reviews.id} is not null then 'waiting' when ${items.downRevisionId} is not null then 'down' when exists (select 1 from ${publications} where ${publications.itemId} = ${items.id}) then 'published' else 'draft' end`;
const lastOut = sql<
  string | null
>`(select max(${publications.publishedAt}) from ${publications} where ${publications.itemId} = ${items.id})`;
const title = sql<string>`coalesce(${items.shortName}, ${drafts.content}->>'title', ${revisions.content}->>'title', 'Untitled')`;
const changed = sql<string>`greatest(${items.createdAt}, ${drafts.updatedAt}, ${reviews.sentAt}, ${lastOut})`;

const from = (tx: Tx) =>
  tx
    .select({
      id: items.id,
      parent: items.parentId,
      path: sql<string>`${items.path}::text`,
      title,
      state,
      inNavigation: items.inNavigation,
      layout: items.layout,
      language: items.language,
      authorId: items.authorId,
      author: people.name,
      changed,
      out: lastOut,
      live: items.liveRevisionId,
    })
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .leftJoin(reviews, and(eq(reviews.itemId, items.id), isNull(reviews.outcome)))
    .leftJoin(people, eq(people.id, items.authorId));

export const seen = (access: Access): SQL =>
  and(eq(items.siteId, access.site.id), isNull(items.deletedAt), allowedPages(access, 'page.view')) ?? sql`false`;

/** Names of a page as they are compared with what is typed; pages are few objects that stay while nothing changes. */
const foldedNames = new WeakMap<PageFacts, string>();
const namesOf = (page: PageFacts): string => {
  const known = foldedNames.get(page) ?? fold(`${page.title} ${page.shortName ?? ''}`);
  foldedNames.set(page, known);
  return known;
};

/**
 * Pages found by the way to them, “Café menu” for “Menu” below “Café”: every word stands in the title or in that of a
 * page above which somebody sees, and one at least in its own.
 */
async function foundByWay(tx: Tx, access: Access, q: string): Promise<number[]> {
  const words = fold(q).split(/\s+/).filter(Boolean);
  if (words.length < 2) return [];
  const { pages, byId } = await findSiteMap(tx, access.site.id);
  const mayView = mayOn(access, 'page.view');
  return pages.flatMap((page) => {
    const own = namesOf(page);
    const left = words.filter((word) => !own.includes(word));
    if (left.length === words.length) return [];
    const above = page.place.path.slice(0, -1).flatMap((id) => byId.get(id) ?? []);
    const isThere = (word: string) => above.some((one) => namesOf(one).includes(word) && mayView(one.place));
    return left.every(isThere) ? [Number(page.id)] : [];
  });
}

/** Titles that hold what is typed or are spelled alike, also with those above, and texts that speak of it. */
export async function matches(tx: Tx, access: Access, q: string): Promise<SQL | undefined> {
  if (q === '') return undefined;
  const query = sql`websearch_to_tsquery('english', ${plainQuestion(q)})`;
  return or(
    titleHolds(title, q),
    among(items.id, await foundByWay(tx, access, q)),
    titleHolds(sql`coalesce(${drafts.content}->>'title', ${revisions.content}->>'title')`, q),
    sql`word_similarity(${q}, ${title}) > 0.5`,
    sql`${revisions.words} @@ ${query}`,
    sql`jsonb_to_tsvector('english', ${drafts.content}, '["string"]') @@ ${query}`,
  );
}

type Row = Awaited<ReturnType<typeof from>>[number];

/** What somebody may see of the tree. */
interface VisibleTree {
  /** Ids of what lies directly below each page, in order; below null what nothing visible lies above. */
  below: ReadonlyMap<string | null, string[]>;
  total: number;
  /** All pages, visible or not. */
  byId: ReadonlyMap<string, PageFacts>;
}
async function visibleTree(tx: Tx, access: Access): Promise<VisibleTree> {
  const mayView = mayOn(access, 'page.view');
  const { pages, byId } = await findSiteMap(tx, access.site.id);
  const visible = pages.filter(({ place }) => mayView(place));
  return { below: belowEach(visible), total: visible.length, byId };
}

function listed(
  access: Access,
  rows: readonly Row[],
  { byId, below }: Pick<VisibleTree, 'byId' | 'below'>,
): ListedPage[] {
  const may = {
    edit: mayOn(access, 'page.edit'),
    create: mayOn(access, 'page.create'),
    arrange: mayOn(access, 'page.arrange'),
    retire: mayOn(access, 'page.retire'),
  };
  return rows.map((row) => {
    const place = {
      path: row.path.split('.'),
      layout: row.layout,
      state: row.state,
      author: row.authorId === null ? null : String(row.authorId),
    };
    const day = row.out === null ? '' : sayDay(new Date(row.out), access.calendar, now());
    return {
      id: String(row.id),
      parent: row.parent === null ? null : String(row.parent),
      title: row.title,
      state: row.state,
      inNavigation: row.inNavigation,
      layout: getEntry(access.inventory.layouts, row.layout).name,
      language: row.language,
      author: row.author,
      address: byId.get(String(row.id))?.address ?? '',
      changedAt: new Date(row.changed).toISOString(),
      below: below.get(String(row.id))?.length ?? 0,
      visitors:
        row.live === null
          ? row.out
            ? `Visitors saw it last on ${day}`
            : 'Visitors do not see it yet'
          : `Visitors see the version from ${day}`,
      may: { edit: may.edit(place), create: may.create(place), arrange: may.arrange(place), retire: may.retire(place) },
    };
  });
}

/** Some pages, of those somebody may see, in the order of the ids given. */
export async function pagesById(
  tx: Tx,
  access: Access,
  ids: readonly string[],
  tree: Pick<VisibleTree, 'byId' | 'below'>,
): Promise<ListedPage[]> {
  if (ids.length === 0) return [];
  const rows = await from(tx).where(and(seen(access), among(items.id, ids.map(Number))));
  const order = new Map(ids.map((id, i) => [id, i]));
  return listed(access, rows, tree).sort((a, b) => (order.get(a.id) ?? 0) - (order.get(b.id) ?? 0));
}

export interface TreeSlice {
  pages: ListedPage[];
  /** How many pages there are in all that this person may see. */ total: number;
}

/** As many pages as are sent at once without being asked for. */
const AT_ONCE = 300;

/**
 * The part of the tree that a screen begins with: all of it where that is little, else the top, what lies directly
 * below it, and the way down to `current`. Parents come first, neighbours in their order.
 */
export async function beginTree(tx: Tx, access: Access, current?: string): Promise<TreeSlice> {
  const tree = await visibleTree(tx, access);
  const { below, total, byId } = tree;
  const open = new Set<string | null>([null, ...(below.get(null)?.length === 1 ? (below.get(null) ?? []) : [])]);
  for (let at: string | null | undefined = current; at; at = byId.get(at)?.parent) open.add(at);
  const ids: string[] = [];
  const visit = (parent: string | null) => {
    for (const id of below.get(parent) ?? []) {
      ids.push(id);
      if (total <= AT_ONCE || open.has(id)) visit(id);
    }
  };
  visit(null);
  return { pages: await pagesById(tx, access, ids, tree), total };
}

/** What lies directly below a page. */
export async function branchOf(tx: Tx, access: Access, parent: string): Promise<ListedPage[]> {
  const tree = await visibleTree(tx, access);
  return pagesById(tx, access, tree.below.get(parent) ?? [], tree);
}

/** Pages that fit what is typed, with all above them, as a tree. */
export async function searchTree(tx: Tx, access: Access, q: string): Promise<TreeSlice> {
  const tree = await visibleTree(tx, access);
  const found = await tx
    .select({ path: sql<string>`${items.path}::text` })
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .where(and(seen(access), await matches(tx, access, q)))
    .limit(100);
  const wanted = new Set(found.flatMap((row) => row.path.split('.')));
  const ids: string[] = [];
  const visit = (parent: string | null) => {
    for (const id of tree.below.get(parent) ?? []) {
      if (wanted.has(id)) ids.push(id);
      visit(id);
    }
  };
  visit(null);
  return { pages: await pagesById(tx, access, ids, tree), total: found.length };
}
