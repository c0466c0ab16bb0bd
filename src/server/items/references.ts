import { and, eq, inArray, isNull, or, sql, type SQL } from 'drizzle-orm';
import { among } from '../db/among';
import { referencesOf, type PageContent } from '@/core/content';
import { heldIn } from '@/core/toolbar';
import { byAddressOf, byIdOf, listPages, type PageFacts } from '../tree/tree';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { items, media, redirects, references, revisions } from '../db/schema';
import { breathe } from '../work/breathe';
import { formOf, type ItemRow } from './forms';
import { hrefOf } from './items';
import type { Inventory } from '@/core/inventory';

/** A version of an item, or with no `revisionId` its draft. */
export interface SaidVersion {
  item: Pick<ItemRow, 'id' | 'siteId' | 'type'>;
  content: PageContent;
  revisionId: number | null;
}

/** What it needs and what its texts hold. */
function needsOf(inventory: Inventory, { item, content, revisionId }: SaidVersion): (typeof references.$inferInsert)[] {
  const form = formOf(inventory, item);
  const held = form.rich.flatMap(({ id: field }) =>
    [...heldIn(content[field])].map(([target, times]) => ({ field, kind: 'made' as const, target, times })),
  );
  return [...referencesOf(form.byId.values(), content), ...held].map((one) => ({
    ...one,
    siteId: item.siteId,
    itemId: item.id,
    revisionId,
  }));
}

/** Notes down what versions and drafts need and hold; what was noted of those drafts before goes. */
export async function keepReferences(tx: Tx, inventory: Inventory, ...said: readonly SaidVersion[]): Promise<void> {
  await breathe();
  const found = said.flatMap((one) => needsOf(inventory, one));
  await breathe();
  const now = sql`jsonb_to_recordset(${JSON.stringify(found)}::jsonb) as now
    ("siteId" int, "itemId" int, "revisionId" int, field text, kind text, target text, times int)`;
  const isSame = sql`old.item_id = now."itemId" and old.revision_id is not distinct from now."revisionId"
    and old.field = now.field and old.kind = now.kind and old.target = now.target and old.times = coalesce(now.times, 1)`;
  // What a draft goes on needing stays as it is: a long text has thousands, and is kept every few seconds.
  const drafts = said.flatMap(({ item, revisionId }) => (revisionId === null ? [item.id] : []));
  if (drafts.length > 0)
    await tx.execute(sql`delete from ${references} old
      where old.item_id = any(${sql.param(drafts)}::int[]) and old.revision_id is null
        and not exists (select from ${now} where ${isSame})`);
  if (found.length > 0)
    await tx.execute(sql`insert into ${references} (site_id, item_id, revision_id, field, kind, target, times)
      select now."siteId", now."itemId", now."revisionId", now.field, now.kind, now.target, coalesce(now.times, 1)
      from ${now} where not exists (select from ${references} old where ${isSame})`);
}

/** Where there is no draft it needs nothing. */
export const dropReferences = (tx: Tx, itemId: number) =>
  tx.delete(references).where(and(eq(references.itemId, itemId), isNull(references.revisionId)));

/** A link on the website: in the published text of a live item. */
export interface LinkInText {
  /** The item's number, and where it is edited. */
  page: string;
  href: string;
  title: string;
}

const liveTitle = sql<string>`coalesce(${items.shortName}, ${revisions.content}->>'title', 'Untitled')`;

/** Of what is noted down: what the version visitors see of an item needs. */
const isLive = and(
  eq(items.id, references.itemId),
  eq(items.liveRevisionId, references.revisionId),
  isNull(items.deletedAt),
);

/** What live items need, with the items. */
const live = (tx: Tx, siteId: number, ...where: SQL[]) =>
  tx
    .select({
      id: items.id,
      type: items.type,
      parentId: items.parentId,
      title: liveTitle,
      kind: references.kind,
      target: references.target,
    })
    .from(references)
    .innerJoin(items, isLive)
    .innerJoin(revisions, eq(revisions.id, references.revisionId))
    .where(and(eq(references.siteId, siteId), ...where))
    .orderBy(items.id);

/** Pages as links lead to them. */
export type Linked = readonly { id: string; address: string }[];

const leadsTo = (pages: Linked) =>
  or(
    ...(['page', 'address'] as const).map((kind) =>
      and(
        eq(references.kind, kind),
        among(
          references.target,
          pages.map((page) => (kind === 'page' ? page.id : page.address)),
        ),
      ),
    ),
  ) ?? sql`false`;

/** Links by what they lead to: by `page 12` or `address /timetable`. */
export type LinksByTarget = ReadonlyMap<string, readonly LinkInText[]>;

/** The links on a website; to some pages only, where they are given. */
export async function findLinks(tx: Tx, inventory: Inventory, siteId: number, to?: Linked): Promise<LinksByTarget> {
  const links = new Map<string, LinkInText[]>();
  if (to?.length === 0) return links;
  const rows = await live(tx, siteId, to ? leadsTo(to) : inArray(references.kind, ['page', 'address']));
  for (const { kind, target, ...row } of rows) {
    const link = { page: String(row.id), href: hrefOf(inventory, row), title: row.title };
    links.set(`${kind} ${target}`, [...(links.get(`${kind} ${target}`) ?? []), link]);
  }
  return links;
}

/** Those of some links that lead to some pages, each once an item and address. */
export function linksTo(
  links: LinksByTarget,
  pages: Linked,
  except: readonly string[] = [],
): (LinkInText & { address: string })[] {
  const left = new Set(except);
  const found = pages.flatMap(({ id, address }) =>
    [`page ${id}`, `address ${address}`].flatMap((target) =>
      (links.get(target) ?? []).flatMap((link) => (left.has(link.page) ? [] : [{ ...link, address }])),
    ),
  );
  return [...new Map(found.map((link) => [`${link.page} ${link.address}`, link])).values()];
}

/** An item that shows a picture. */
export interface PictureUse {
  /** The page it is, or lies on. */
  page: string;
  title: string;
  href: string;
}

/** The items whose live version shows each picture, or leads to it, by its id. */
export async function findPictureUse(tx: Tx, inventory: Inventory, siteId: number): Promise<Map<string, PictureUse[]>> {
  const use = new Map<string, PictureUse[]>();
  const seen = new Set<string>();
  for (const { target, ...item } of await live(tx, siteId, eq(references.kind, 'picture'))) {
    if (seen.has(`${target} ${item.id}`)) continue;
    seen.add(`${target} ${item.id}`);
    const page = item.type === 'page' ? item.id : item.parentId;
    use.set(target, [
      ...(use.get(target) ?? []),
      { page: String(page), title: item.title, href: hrefOf(inventory, item) },
    ]);
  }
  return use;
}

/**
 * Whether the website answers at a path: with a page that `sees` says yes to, one that had the address before, or by
 * itself.
 */
export async function answers(
  tx: Tx,
  siteId: number,
  sees: (page: PageFacts) => boolean,
): Promise<(path: string) => boolean> {
  return answersOf(tx, siteId, await listPages(tx, siteId), sees);
}

const askMoved = prepared('addresses that lead on', (tx) =>
  tx
    .select({ address: redirects.address, page: redirects.pageId })
    .from(redirects)
    .where(and(eq(redirects.siteId, given('site')), redirects.leads)),
);
async function answersOf(
  tx: Tx,
  siteId: number,
  pages: readonly PageFacts[],
  sees: (page: PageFacts) => boolean,
): Promise<(path: string) => boolean> {
  const moved = new Map((await askMoved(tx, { site: siteId })).map((row) => [row.address, String(row.page)]));
  return (path) => {
    const page = byAddressOf(pages).get(path) ?? byIdOf(pages).get(moved.get(path) ?? '');
    return page ? sees(page) : /^\/(?:media\/|search$|sign-in$)/.test(path);
  };
}

const gone = sql`not exists (select 1 from ${media} where ${media.id}::text = ${references.target})`;
const askLinks = prepared('links that may be broken', (tx) =>
  tx
    .select({ id: items.id, kind: references.kind, target: references.target })
    .from(references)
    .innerJoin(items, isLive)
    .where(
      and(
        eq(references.siteId, given('site')),
        sql`(${inArray(references.kind, ['page', 'address'])} or ${references.kind} = 'picture' and ${gone})`,
      ),
    ),
);

/** The live items that lead to a page visitors do not see, to a picture that is gone, or to an address where nothing is. */
export async function findBroken(tx: Tx, siteId: number, pages: readonly PageFacts[]): Promise<Set<number>> {
  const [isThere, rows] = await Promise.all([
    answersOf(tx, siteId, pages, (page) => page.live),
    askLinks(tx, { site: siteId }),
  ]);
  return new Set(
    rows
      .filter(({ kind, target }) =>
        kind === 'page' ? !byIdOf(pages).get(target)?.live : kind === 'address' ? !isThere(target) : true,
      )
      .map(({ id }) => id),
  );
}
