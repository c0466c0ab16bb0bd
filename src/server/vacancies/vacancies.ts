import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { PageState } from '@/core/access';
import { textOf, type PageContent } from '@/core/content';
import { dayKey } from '@/core/words';
import { record } from '../activity/activity';
import { now } from '../clock';
import { findAllPlaced, findPlaced } from '../tree/tree';
import type { Tx } from '../db/client';
import { drafts, items, people, revisions } from '../db/schema';
import type { Access, Site } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { startFor } from '../items/allowed';
import { beginDraft } from '../items/begin';
import { mustFindPage } from '../items/items';

const TYPE = 'vacancy';
const page = alias(items, 'page');

/** A vacancy as lists have it. */
export interface VacancyEntry {
  id: string;
  title: string;
  /** The page it lies on. */
  pageId: string;
  by: string | null;
  /** The last day to apply; empty while nobody gave one. */
  closes: string;
  state: PageState;
  /** Whether visitors see it: published as its page is, not taken down, and its last day is not past. */
  open: boolean;
  /** Whether its last day, as visitors read it, is past. */
  closed: boolean;
  /** Whether it was deleted and can come back. */
  deleted: boolean;
  may: { retire: boolean };
}

/** Whether somebody can still apply on a day. */
const isOpen = (content: PageContent, today: string): boolean => {
  const closes = textOf(content, 'closes');
  return closes === '' || closes >= today;
};

/**
 * The vacancies of a site that somebody may see, the one that closes first at the top; deleted ones for who may bring
 * them back.
 */
export async function listVacancies(tx: Tx, access: Access): Promise<VacancyEntry[]> {
  const rows = await tx
    .select({
      item: items,
      shown: revisions.content,
      draft: drafts.content,
      by: people.name,
      pageLive: page.liveRevisionId,
    })
    .from(items)
    // With its page it is deleted and comes back.
    .innerJoin(page, and(eq(page.id, items.parentId), isNull(page.deletedAt)))
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .leftJoin(people, eq(people.id, items.authorId))
    .where(and(eq(items.siteId, access.site.id), eq(items.type, TYPE)))
    .orderBy(asc(items.id));
  const placed = await findAllPlaced(
    tx,
    access.site.id,
    rows.map(({ item }) => item.id),
    null,
  );
  const today = dayKey(now(), access.site.timeZone);
  return rows
    .flatMap(({ item, shown, draft, by, pageLive }) => {
      const there = placed.get(item.id);
      if (!there) return [];
      const { place } = there;
      const may = (permission: string) => mayNow(access, permission, { place }).allowed;
      const deleted = item.deletedAt !== null;
      if (!may('vacancy.view') || (deleted && !may('vacancy.retire'))) return [];
      const newest = draft ?? shown ?? {};
      return [
        {
          id: String(item.id),
          title: textOf(newest, 'title'),
          pageId: String(item.parentId),
          by,
          closes: textOf(newest, 'closes'),
          state: place.state,
          open: !deleted && pageLive !== null && item.liveRevisionId !== null && shown !== null && isOpen(shown, today),
          closed: shown !== null && !isOpen(shown, today),
          deleted,
          may: { retire: may('vacancy.retire') },
        },
      ];
    })
    .sort((a, b) => Number(a.deleted) - Number(b.deleted) || (a.closes || '9').localeCompare(b.closes || '9'));
}

/** What visitors of a page can apply for there, the one that closes first at the top. */
export async function listOpenOn(
  tx: Tx,
  site: Pick<Site, 'id' | 'timeZone'>,
  pageId: string,
): Promise<{ id: string; content: PageContent }[]> {
  const rows = await tx
    .select({ id: items.id, content: revisions.content })
    .from(items)
    .innerJoin(revisions, eq(revisions.id, items.liveRevisionId))
    .where(
      and(
        eq(items.siteId, site.id),
        eq(items.parentId, Number(pageId)),
        eq(items.type, TYPE),
        isNull(items.deletedAt),
        isNotNull(items.liveRevisionId),
      ),
    );
  const today = dayKey(now(), site.timeZone);
  return rows
    .filter(({ content }) => isOpen(content, today))
    .sort((a, b) => (textOf(a.content, 'closes') || '9').localeCompare(textOf(b.content, 'closes') || '9'))
    .map(({ id, content }) => ({ id: String(id), content }));
}

/** Begins a vacancy on a page, as its maker's own. Runs in a transaction. */
export async function makeVacancy(tx: Tx, access: Access, pageId: number, title: string): Promise<{ id: string }> {
  const under = await mustFindPage(tx, access.site.id, pageId);
  const me = access.signedInId;
  const [row] = await tx
    .insert(items)
    .values({
      siteId: access.site.id,
      type: TYPE,
      parentId: under.id,
      path: 'new',
      layout: TYPE,
      authorId: me,
      language: access.site.languages[0],
    })
    .returning();
  if (!row) throw new Error('a vacancy was not written');
  await tx
    .update(items)
    .set({ path: `${under.path}.${row.id}` })
    .where(eq(items.id, row.id));
  const there = await findPlaced(tx, access.site.id, row.id);
  const begun = there ? startFor(access, TYPE, there.place) : {};
  await beginDraft(tx, access.inventory, row, { content: { ...begun, title }, by: me });
  await record(tx, access, 'began a vacancy', title, { href: `/room/vacancies/${row.id}` });
  return { id: String(row.id) };
}
