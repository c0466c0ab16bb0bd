import { and, eq, inArray, isNull, or, sql, type SQL } from 'drizzle-orm';
import { referencesOf, type PageContent } from '@/core/content';
import { heldIn } from '@/core/toolbar';
import { findSiteMap, type PageFacts } from '../tree/tree';
import type { Tx } from '../db/client';
import { items, media, redirects, references, revisions } from '../db/schema';
import { formOf, type ItemRow } from './forms';
import { hrefOf } from './items';

/**
 * Notes down what an item's version needs and what its texts hold, or with no version its draft; what was noted of the
 * draft goes.
 */
export async function keepReferences(
  tx: Tx,
  item: Pick<ItemRow, 'id' | 'siteId' | 'type'>,
  content: PageContent,
  revisionId: number | null,
): Promise<void> {
  if (revisionId === null) await dropReferences(tx, item.id);
  const form = formOf(item);
  const held = form.rich.flatMap(({ id: field }) =>
    [...heldIn(content[field])].map(([target, times]) => ({ field, kind: 'made' as const, target, times })),
  );
  const found = [...referencesOf(form.byId.values(), content), ...held];
  if (found.length > 0)
    await tx
      .insert(references)
      .values(found.map((one) => ({ ...one, siteId: item.siteId, itemId: item.id, revisionId })));
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
  kind: 'page' | 'address';
  /** The page it leads to, or where it stays an address the path. */
  target: string;
}

const liveTitle = sql<string>`coalesce(${items.shortName}, ${revisions.content}->>'title', 'Untitled')`;

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
    .innerJoin(items, and(eq(items.liveRevisionId, references.revisionId), isNull(items.deletedAt)))
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
        inArray(
          references.target,
          pages.map((page) => (kind === 'page' ? page.id : page.address)),
        ),
      ),
    ),
  ) ?? sql`false`;

/** The links on a website; to some pages only, where they are given. */
export async function findLinks(tx: Tx, siteId: number, to?: Linked): Promise<LinkInText[]> {
  if (to?.length === 0) return [];
  const rows = await live(tx, siteId, to ? leadsTo(to) : inArray(references.kind, ['page', 'address']));
  return rows.flatMap(({ kind, ...row }) =>
    kind === 'page' || kind === 'address'
      ? [{ page: String(row.id), href: hrefOf(row), title: row.title, kind, target: row.target }]
      : [],
  );
}

/** Those of some links that lead to some pages, each once an item and address. */
export function linksTo(
  links: readonly LinkInText[],
  pages: Linked,
  except: readonly string[] = [],
): { page: string; href: string; title: string; address: string }[] {
  const address = new Map(
    pages.flatMap((page) => [
      [`page ${page.id}`, page.address] as const,
      [`address ${page.address}`, page.address] as const,
    ]),
  );
  const found = links.flatMap(({ page, href, title, kind, target }) => {
    const there = address.get(`${kind} ${target}`);
    return there === undefined || except.includes(page) ? [] : [{ page, href, title, address: there }];
  });
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
export async function findPictureUse(tx: Tx, siteId: number): Promise<Map<string, PictureUse[]>> {
  const use = new Map<string, PictureUse[]>();
  const seen = new Set<string>();
  for (const { target, ...item } of await live(tx, siteId, eq(references.kind, 'picture'))) {
    if (seen.has(`${target} ${item.id}`)) continue;
    seen.add(`${target} ${item.id}`);
    const page = item.type === 'page' ? item.id : item.parentId;
    use.set(target, [...(use.get(target) ?? []), { page: String(page), title: item.title, href: hrefOf(item) }]);
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
  const { byAddress, byId } = await findSiteMap(tx, siteId);
  const moved = new Map(
    (
      await tx
        .select({ address: redirects.address, page: redirects.pageId })
        .from(redirects)
        .where(and(eq(redirects.siteId, siteId), redirects.leads))
    ).map((row) => [row.address, String(row.page)]),
  );
  return (path) => {
    const page = byAddress.get(path) ?? byId.get(moved.get(path) ?? '');
    return page ? sees(page) : /^\/(?:media\/|search$|sign-in$)/.test(path);
  };
}

/** The live items that lead to a page visitors do not see, to a picture that is gone, or to an address where nothing is. */
export async function findBroken(tx: Tx, siteId: number): Promise<Set<number>> {
  const { byId } = await findSiteMap(tx, siteId);
  const isThere = await answers(tx, siteId, (page) => page.live);
  const gone = sql`not exists (select 1 from ${media} where ${media.id}::text = ${references.target})`;
  const rows = await live(
    tx,
    siteId,
    sql`(${inArray(references.kind, ['page', 'address'])} or ${references.kind} = 'picture' and ${gone})`,
  );
  return new Set(
    rows
      .filter(({ kind, target }) =>
        kind === 'page' ? !byId.get(target)?.live : kind === 'address' ? !isThere(target) : true,
      )
      .map(({ id }) => id),
  );
}
