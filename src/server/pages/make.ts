import { and, eq, isNull, sql } from 'drizzle-orm';
import type { Audience, Place } from '@/core/access';
import {
  emptyDocument,
  freeSlug,
  parseOutline,
  slugFrom,
  startSettings,
  textOf,
  type PageContent,
} from '@/core/content';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import type { Access } from '../gate/access';
import { authorize, mayOn } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { lockTree, takenSlugs } from '../tree/addresses';
import { screensFor, startFor } from '../items/allowed';
import { beginDraft } from '../items/begin';
import { formOf } from '../items/forms';
import { findNewest, mustFindPage } from '../items/items';
import { findPagesOf } from '../items/branches';
import { titleOf } from '../items/publishing';
import { mustHaveToolsToCopy } from '../items/tools';
import { findPlace } from '../tree/tree';

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

/** Settings that a copy takes over; the others belong to the place and its maker. */
const AS_COPIED = ['page.shortName', 'page.searchTitle', 'page.searchText', 'page.day', 'page.language'];

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
    /** What the edit screen of its maker begins with. */
    begun?: PageContent;
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
      language: textOf(given.begun ?? {}, 'page.language') || access.site.languages[0],
      inNavigation: given.inNavigation ?? given.begun?.['page.inNavigation'] !== false,
      audience: given.audience ?? null,
      authorId: access.signedInId,
    })
    .returning();
  if (!row) throw new Error('a page was not written');
  const path = `${parent.path}.${row.id}`;
  await tx.update(items).set({ path }).where(eq(items.id, row.id));
  const { slug, layout, language, inNavigation } = row;
  const start = startSettings({ slug, layout, language, inNavigation, author: access.who.id });
  const own = Object.fromEntries(AS_COPIED.map((id) => [id, given.content?.[id] ?? start[id] ?? null]));
  const content: PageContent = {
    body: emptyDocument(),
    ...given.content,
    ...start,
    ...own,
    ...given.begun,
    title: given.title,
  };
  await beginDraft(tx, access.inventory, row, { content, by: access.signedInId });
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
    begun: await begunBelow(tx, access, parentId, given.layout),
    slug: freeSlug(slugFrom(given.title), await takenSlugs(tx, access.site.id, parent.id)),
    position: await nextPosition(tx, parentId),
  });
  await record(tx, access, 'made a page', given.title, { href: `/room/pages/${page.id}` });
  return { id: String(page.id) };
}

/** Where a new page of theirs would lie. */
async function placeBelow(tx: Tx, access: Access, parentId: number, layout: string): Promise<Place | undefined> {
  const above = await findPlace(tx, access.site.id, parentId);
  return above && newBelow(access, above, layout);
}
const newBelow = (access: Access, above: Place, layout: string): Place => ({
  ...above,
  path: [...above.path, 'new'],
  layout,
  state: 'draft',
  author: access.who.id,
});
/** The layouts a new page can have below one of some pages: those its maker may use there, and that are offered. */
export function layoutsToMake(access: Access, pages: readonly { place: Place }[]): string[] {
  const screens = screensFor(access);
  const mayMake = mayOn(access, 'page.create');
  const mayUse = mayOn(access, 'page.edit', 'page.layout');
  const above = pages.filter(({ place }) => mayMake(place));
  return [...access.inventory.layouts.keys()].filter((layout) =>
    above.some(({ place }) => {
      const made = newBelow(access, place, layout);
      const { choices } = screens.of('page', made, 'page.layout');
      return mayUse(made) && (!choices || choices.includes(layout));
    }),
  );
}
const begunBelow = async (tx: Tx, access: Access, parentId: number, layout: string): Promise<PageContent> => {
  const place = await placeBelow(tx, access, parentId, layout);
  return place ? startFor(access, 'page', place) : {};
};

/** A new page is edited next, so its layout must be one its maker may use there, and one that is offered. */
async function mustMayMakeWith(tx: Tx, access: Access, parentId: number, layout: string): Promise<void> {
  const place = await placeBelow(tx, access, parentId, layout);
  if (!access.inventory.layouts.has(layout)) throw problemAt('layout', 'no-layout', { layout });
  await authorize(tx, access, 'page.edit', { place, field: 'page.layout' });
  const { choices, label } = place ? screensFor(access).of('page', place, 'page.layout') : {};
  if (choices && !choices.includes(layout))
    throw problemAt('layout', 'choice-not-offered', { field: label ?? 'Layout' });
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
  const begun = await begunBelow(tx, access, parentId, given.layout);
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
      begun,
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
    const layout = textOf(content, 'page.layout') || source.layout;
    const made: Place = { path: [...at.path.split('.'), 'new'], layout, state: 'draft', author: access.who.id };
    await mustHaveToolsToCopy(access, formOf(access.inventory, source), made, content);
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
        layout,
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
