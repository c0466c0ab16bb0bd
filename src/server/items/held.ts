import { sql } from 'drizzle-orm';
import type { HeldPlace, ChangesMade, UsedTool } from '@/core/wire';
import type { Tx } from '../db/client';
import { now } from '../clock';

/** How far back is looked for what was used, in days. */
export const USED_DAYS = 90;
/** Most places that are told; whether there are more is said. */
const MOST_PLACES = 2000;

/**
 * Where newest texts hold something a tool makes: each item and field, with how often, and who changed the item last.
 * Written down whenever a text is kept, so nothing is gone through when it is asked for.
 */
export async function findHeld(tx: Tx, siteId: number, made: string): Promise<{ places: HeldPlace[]; all: boolean }> {
  const { rows } = await tx.execute<{
    item: number;
    type: string;
    page: number;
    field: string;
    times: number;
    title: string | null;
    by: string | null;
    at: Date;
  }>(sql`
    with newest as (
      select distinct on (item_id) item_id, id from revisions where site_id = ${siteId} and kind <> 'kept'
      order by item_id, number desc
    ), held as (
      select r.item_id, r.revision_id, r.field, r.times from item_references r
      left join drafts d on d.item_id = r.item_id
      left join newest n on n.item_id = r.item_id
      where r.site_id = ${siteId} and r.kind = 'made' and r.target = ${made}
        and (r.revision_id is null or (d.item_id is null and r.revision_id = n.id))
      order by r.times desc, r.item_id limit ${MOST_PLACES + 1}
    )
    select h.item_id as item, i.type, case i.type when 'page' then i.id else i.parent_id end as page, h.field, h.times,
      coalesce(d.content->>'title', v.content->>'title') as title, p.name as by, coalesce(d.updated_at, v.made_at) as at
    from held h
    join items i on i.id = h.item_id and i.deleted_at is null
    left join drafts d on d.item_id = h.item_id
    left join revisions v on v.id = h.revision_id
    left join people p on p.id = coalesce(d.updated_by, v.made_by)
    order by h.times desc, h.item_id`);
  const places = rows
    .slice(0, MOST_PLACES)
    .map((row) => ({
      item: String(row.item),
      type: row.type,
      page: String(row.page),
      field: row.field,
      times: row.times,
      title: row.title ?? 'Untitled',
      by: row.by,
      at: new Date(row.at).toISOString(),
    }));
  return { places, all: rows.length <= MOST_PLACES };
}

/**
 * What people made with tools in the last days: more of it in a version than in the one before, by whoever wrote in it,
 * with the layout and the text. What was taken away in one place and made in another of the same text does not show.
 */
export async function findUsed(tx: Tx, siteId: number): Promise<UsedTool[]> {
  const since = new Date(now().getTime() - USED_DAYS * 86_400_000).toISOString();
  const { rows } = await tx.execute<Record<keyof UsedTool, never>>(sql`
    with versions as (
      select id, item_id, made_at, made_by, writers, lag(id) over (partition by item_id order by number) as before
      from revisions where site_id = ${siteId} and kind <> 'kept'
    ), made as (
      select w.person, v.id, v.item_id, v.made_at, n.field, n.target, n.times - coalesce(o.times, 0) as times
      from versions v
      join item_references n on n.revision_id = v.id and n.kind = 'made'
      left join item_references o on o.revision_id = v.before and o.kind = 'made' and o.field = n.field and o.target = n.target
      cross join lateral (
        select jsonb_array_elements_text(
          case when jsonb_array_length(v.writers) > 0 then v.writers
            when v.made_by is null then '[]'::jsonb else jsonb_build_array(v.made_by) end) as person
      ) w
      where v.made_at >= ${since}::timestamptz and n.times > coalesce(o.times, 0)
    )
    -- Only of what is told the content is read: it is long.
    select m.person, i.type, coalesce(r.content->>'page.layout', '') as layout, m.field, m.target as made,
      sum(m.times)::int as times, max(m.made_at) as last, (array_agg(distinct i.id::text))[1:5] as items
    from made m
    join items i on i.id = m.item_id and i.deleted_at is null
    join revisions r on r.id = m.id
    group by m.person, i.type, coalesce(r.content->>'page.layout', ''), m.field, m.target`);
  return rows.map((row) => ({ ...row, last: new Date(row.last).toISOString() }));
}

/** How many versions each person wrote in, in the same days, by kind of item and layout. */
export async function countChanges(tx: Tx, siteId: number): Promise<ChangesMade[]> {
  const since = new Date(now().getTime() - USED_DAYS * 86_400_000).toISOString();
  const { rows } = await tx.execute<Record<keyof ChangesMade, never>>(sql`
    select w.person, i.type, coalesce(v.content->>'page.layout', '') as layout, count(*)::int as changes
    from revisions v
    join items i on i.id = v.item_id and i.deleted_at is null
    cross join lateral (
      select jsonb_array_elements_text(
        case when jsonb_array_length(v.writers) > 0 then v.writers
          when v.made_by is null then '[]'::jsonb else jsonb_build_array(v.made_by) end) as person
    ) w
    where v.site_id = ${siteId} and v.kind <> 'kept' and v.made_at >= ${since}::timestamptz
    group by w.person, i.type, coalesce(v.content->>'page.layout', '')`);
  return rows;
}
