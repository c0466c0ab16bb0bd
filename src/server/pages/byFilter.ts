import { and, eq, isNull, sql } from 'drizzle-orm';
import type { ListedPage } from '@/core/content';
import type { PageFilter } from '@/core/lists';
import { byName } from '@/core/words';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { drafts, items, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { findBroken } from '../items/references';
import { listPeople } from '../people/people';
import { belowEach, findSiteMap, onceForEach, type PageFacts } from '../tree/tree';
import { matches, pagesById, seen } from './listing';

/** Where each page stands among all by its name, as a language orders them: worked out once while nothing changes. */
const namedOrder = onceForEach((pages) => {
  const ranks = new Map<string, ReadonlyMap<string, number>>();
  return (language: string) => {
    const before = ranks.get(language);
    if (before) return before;
    const names = pages.map((page) => ({ id: page.id, name: page.shortName ?? page.title }));
    names.sort((a, b) => byName(a.name, b.name, language));
    const order = new Map(names.map(({ id }, i) => [id, i]));
    ranks.set(language, order);
    return order;
  };
});
/** Where each page stands in the tree, from its top downwards. */
const treeOrder = onceForEach((pages): ReadonlyMap<string, number> => {
  const below = belowEach(pages);
  const order = new Map<string, number>();
  const visit = (parent: string | null) => {
    for (const id of below.get(parent) ?? []) {
      order.set(id, order.size);
      visit(id);
    }
  };
  visit(null);
  return order;
});

const askTouched = prepared('what changed pages but publishing', (tx) =>
  tx
    .select({ id: drafts.itemId, at: drafts.updatedAt })
    .from(drafts)
    .where(eq(drafts.siteId, given('site')))
    .unionAll(
      tx
        .select({ id: reviews.itemId, at: reviews.sentAt })
        .from(reviews)
        .where(and(eq(reviews.siteId, given('site')), isNull(reviews.outcome))),
    ),
);
/** When each page was changed last: made, kept, sent or published. */
async function lastChanges(tx: Tx, access: Access): Promise<(page: PageFacts) => number> {
  const touched = new Map<string, number>();
  for (const { id, at } of await askTouched(tx, { site: access.site.id }))
    touched.set(String(id), Math.max(at.getTime(), touched.get(String(id)) ?? 0));
  return ({ id, createdAt, publishedAt }) =>
    Math.max(createdAt.getTime(), publishedAt?.getTime() ?? 0, touched.get(id) ?? 0);
}

/** The pages that fit what is typed. */
const findFitting = async (tx: Tx, access: Access, q: string): Promise<ReadonlySet<string>> => {
  const rows = await tx
    .select({ id: items.id })
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .where(and(seen(access), await matches(tx, access, q)));
  return new Set(rows.map(({ id }) => String(id)));
};

/**
 * A stretch of the list. Everything but words typed and what was touched lately is known from the site map, so the
 * database reads what is shown and no more.
 */
export async function listByFilter(
  tx: Tx,
  access: Access,
  filter: PageFilter,
  cut: { offset: number; limit: number },
): Promise<{ pages: ListedPage[]; total: number }> {
  const { pages, byId } = await findSiteMap(tx, access.site.id);
  const fits = filter.q === '' ? null : await findFitting(tx, access, filter.q);
  const broken = filter.links ? await findBroken(tx, access.site.id, pages) : null;
  const changedAt = filter.days > 0 || filter.sort === 'changed' ? await lastChanges(tx, access) : () => 0;
  const since = now().getTime() - filter.days * 86_400_000;
  const mayView = mayOn(access, 'page.view');
  const asked = pages.filter(
    (page) =>
      (!filter.layout || page.place.layout === filter.layout) &&
      (!filter.state || page.place.state === filter.state) &&
      (!filter.navigation || page.inNavigation === (filter.navigation === 'yes')) &&
      (!filter.language || page.language === filter.language) &&
      (!filter.author || page.place.author === filter.author) &&
      (filter.days === 0 || changedAt(page) >= since) &&
      (fits?.has(page.id) ?? true) &&
      (broken?.has(Number(page.id)) ?? true) &&
      mayView(page.place),
  );
  const { language } = access.calendar;
  const rankIn = (order: ReadonlyMap<string, number>) => (a: PageFacts, b: PageFacts) =>
    (order.get(a.id) ?? 0) - (order.get(b.id) ?? 0);
  const sorts: Record<PageFilter['sort'], () => Promise<Compare> | Compare> = {
    title: () => rankIn(namedOrder(pages)(language)),
    changed: () => (a, b) => changedAt(a) - changedAt(b),
    state: () => (a, b) => byCode(a.place.state, b.place.state),
    layout: () => (a, b) => byCode(a.place.layout, b.place.layout),
    author: async () => {
      const names = new Map((await listPeople(tx, access.site.id)).map(({ id, name }) => [id, name]));
      const nameOf = ({ place }: PageFacts) => names.get(place.author ?? '') ?? '';
      return (a, b) => byName(nameOf(a), nameOf(b), language);
    },
    place: () => rankIn(treeOrder(pages)),
  };
  const compare = await sorts[filter.sort]();
  const direction = filter.dir === 'up' ? 1 : -1;
  asked.sort((a, b) => direction * compare(a, b) || Number(a.id) - Number(b.id));
  const ids = asked.slice(cut.offset, cut.offset + cut.limit).map(({ id }) => id);
  return { pages: await pagesById(tx, access, ids, { byId, below: new Map() }), total: asked.length };
}
type Compare = (a: PageFacts, b: PageFacts) => number;
const byCode = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
