import { sql } from 'drizzle-orm';
import type { Audience } from '@/core/access';
import { now } from '../clock';
import type { Tx } from '../db/client';

/** A page as lists of pages need it, before what it has from those above. */
export interface PageRow {
  id: number;
  parentId: number | null;
  path: string;
  slug: string;
  position: number;
  layout: string;
  shortName: string | null;
  inNavigation: boolean;
  authorId: number | null;
  ownAddress: string | null;
  day: string | null;
  language: string;
  live: number | null;
  down: number | null;
  ownAudience: Audience | null;
  liveTitle: string | null;
  draftTitle: string | null;
  draft: number | null;
  waiting: number | null;
  publishedAt: string | null;
  createdAt: string;
  findings: string[] | null;
}

/** Rows of a site as they were at a moment, and what was worked out from them. */
interface Kept<T> {
  /** The oldest transaction that was under way at that moment: of those before it every change was read. */
  open: string;
  /** The changes of those since that were read already. */
  changes: ReadonlySet<number>;
  last: number;
  checkedMs: number;
  rows: ReadonlyMap<number, PageRow>;
  whole: T;
}
/** That something of a page was changed; by the transaction that asks or by another. */
interface Change {
  id: number;
  page: number;
  mine: boolean;
}
/** Changes are kept for an hour: what was not looked at for twenty minutes is read anew. */
const OLD_MS = 20 * 60_000;
/** With more changes than that reading everything anew is quicker. */
const MANY = 500;

/** Plain SQL: mapping five thousand rows of twenty columns would cost more than asking for them. */
async function readRows(tx: Tx, siteId: number, ids: readonly number[] | null): Promise<PageRow[]> {
  const some = (column: string) =>
    ids === null
      ? sql``
      : sql`and ${sql.raw(column)} in (${sql.join(
          ids.map((id) => sql`${id}`),
          sql`, `,
        )})`;
  const { rows } = await tx.execute<Omit<PageRow, 'publishedAt'>>(sql`
    select p.id, p.parent_id as "parentId", p.path::text as path, p.slug, p.position, p.layout, p.short_name as "shortName", p.in_navigation as "inNavigation", p.author_id as "authorId",
      p.own_address as "ownAddress", p.created_at as "createdAt", p.day, p.language, p.live_revision_id as live, p.down_revision_id as down, p.audience as "ownAudience",
      r.content->>'title' as "liveTitle", d.content->>'title' as "draftTitle", d.item_id as draft, w.id as waiting, p.findings
    from items p left join revisions r on r.id = coalesce(p.live_revision_id, p.down_revision_id) left join drafts d on d.item_id = p.id left join reviews w on w.item_id = p.id and w.outcome is null
    where p.site_id = ${siteId} and p.type = 'page' and p.deleted_at is null ${some('p.id')}`);
  // For all at once: asked page by page it would take a hundred times as long with thousands of them.
  const { rows: out } = await tx.execute<{ page: number; at: string }>(
    sql`select item_id as page, max(published_at) as at from publications where site_id = ${siteId} ${some('item_id')} group by item_id`,
  );
  const publishedAt = new Map(out.map((row) => [row.page, row.at]));
  return rows.map((row) => ({ ...row, publishedAt: publishedAt.get(row.id) ?? null }));
}

/**
 * What is worked out from the rows of all pages of a site, kept in this process for as long as no page changed. What is
 * to be read anew is known by the changes that triggers note down (`page_changes`), whoever made them; only those pages
 * are read. `work` gets the rows in no order.
 */
export function keptByChanges<T>(work: (rows: Iterable<PageRow>) => T): (tx: Tx, siteId: number) => Promise<T> {
  const all = new Map<number, Kept<T>>();
  return async (tx, siteId) => {
    const before = all.get(siteId);
    const oldest = sql`pg_snapshot_xmin(pg_current_snapshot())`;
    const since = before ? sql`${before.open}::xid8` : oldest;
    // Before the rows: what is changed in between is then read once too often, and never too seldom.
    const { rows: noted } = await tx.execute<{ open: string; last: number | null; changes: Change[] | null }>(
      sql`select ${oldest}::text as open, (select max(id)::float8 from page_changes where site_id = ${siteId}) as last,
        (select json_agg(json_build_object('id', id, 'page', page_id, 'mine', xid is not distinct from pg_current_xact_id_if_assigned()))
          from page_changes where site_id = ${siteId} and xid >= ${since}) as changes`,
    );
    const { open = '0', last: newest, changes: told } = noted[0] ?? {};
    const [last, changes] = [newest ?? 0, told ?? []];
    const mine = changes.some((change) => change.mine);
    const nowMs = now().getTime();
    // Old notes go, the newest stays: where it is gone, the database was put back to an earlier day.
    const isUsable = before !== undefined && nowMs - before.checkedMs < OLD_MS && last >= before.last;
    const fresh = isUsable ? changes.filter(({ id }) => !before.changes.has(id)) : [];
    const read = { open, changes: new Set(changes.map(({ id }) => id)), last, checkedMs: nowMs };
    if (isUsable && fresh.length === 0 && !mine) {
      Object.assign(before, read);
      return before.whole;
    }
    let rows = before?.rows ?? new Map<number, PageRow>();
    let whole = before?.whole;
    if (!isUsable || fresh.length > MANY) {
      rows = new Map((await readRows(tx, siteId, null)).map((row) => [row.id, row]));
      whole = undefined;
    } else if (fresh.length > 0) {
      const ids = [...new Set(fresh.map(({ page }) => page))];
      const next = new Map(rows);
      ids.forEach((id) => next.delete(id));
      for (const row of await readRows(tx, siteId, ids)) next.set(row.id, row);
      rows = next;
      whole = undefined;
    }
    whole ??= work(rows.values());
    // What this transaction itself changed may yet be taken back: nobody else may see it.
    if (!mine) all.set(siteId, { ...read, rows, whole });
    return whole;
  };
}
