import { sql } from 'drizzle-orm';
import { dayKey } from '@/core/words';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { assignments, drafts, duties, items, notices, people, references, revisions, schedules } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow, mayOn } from '../gate/authorize';
import { byIdOf, type PageFacts } from '../tree/tree';

export type Coming = 'publish' | 'take-down' | 'alert' | 'notice' | 'access' | 'duty';

/** Something the days to come bring. */
export interface ComingEntry {
  what: Coming;
  at: Date;
  /** It is a day, not an hour. */
  isDay: boolean;
  /** The page, the notice's words, the person, or the duty. */
  about: string;
  /** Whose turn a duty is, where it is somebody else's. */
  whose: string | null;
  href: string;
}

interface Row extends Record<string, unknown> {
  what: Coming;
  at: string;
  about: string | null;
  page: number | null;
  id: number | null;
  author: string | null;
  whose?: string | null;
}

/**
 * What comes up, soonest first: planned publishing and taking down, alerts and notices that end, people whose access
 * ends, of what somebody may look at; duties that are due, their own or all where they may look at those. One question.
 */
export async function listComingUp(
  tx: Tx,
  access: Access,
  pages: readonly PageFacts[],
  { branch, kind }: { branch?: string | undefined; kind?: string | undefined },
): Promise<ComingEntry[]> {
  const site = access.site.id;
  const at = now();
  const today = dayKey(at, access.site.timeZone);
  const { rows } = await tx.execute<Row>(sql`
    select s.what::text as what, s.due_at::text as at, coalesce(d.content->>'title', r.content->>'title') as about,
           case when i.type = 'page' then i.id else i.parent_id end as page, i.id as id, i.type as author, null as whose
      from ${schedules} s join ${items} i on i.id = s.item_id and i.deleted_at is null
      left join ${drafts} d on d.item_id = i.id
      left join ${revisions} r on r.id = coalesce(s.revision_id, i.live_revision_id)
     where s.site_id = ${site} and s.done_at is null
    union all
    select 'alert', until #>> '{}', r.content->>'title', i.id, i.id, 'page', null
      from ${references} h join ${items} i on i.id = h.item_id and i.live_revision_id = h.revision_id
      join ${revisions} r on r.id = h.revision_id
      cross join lateral jsonb_path_query(r.content, 'strict $.** ? (@.type == "alert").attrs.until') as until
     where h.site_id = ${site} and h.kind = 'made' and h.target = 'alert' and i.deleted_at is null and i.type = 'page'
       and until #>> '{}' >= ${today}
    union all
    select 'notice', n.ends_at::text, n.text, n.page_id, n.id, n.posted_by::text, null
      from ${notices} n where n.site_id = ${site} and n.ended_at is null and n.ends_at > ${at.toISOString()}
    union all
    select 'duty', u.due, u.text, null, u.id, u.whose::text, p.name
      from ${duties} u join ${people} p on p.id = u.whose
     where u.site_id = ${site} and u.due >= ${today} and (u.done_at is null or u.every is not null)
    union all
    select 'access', min(a.until_at)::text, p.name, null, p.id, null, null
      from ${assignments} a join ${people} p on p.id = a.person_id
     where a.site_id = ${site} and a.until_at > ${at.toISOString()} and p.suspended_at is null
     group by p.id, p.name`);
  const placeOf = (page: number) => byIdOf(pages).get(String(page))?.place;
  const seesPage = mayOn(access, 'page.view');
  const seesNotice = mayOn(access, 'notice.view');
  const seesPeople = mayNow(access, 'person.view').allowed;
  const seesDuties = mayNow(access, 'duty.view').allowed;
  const entries = rows.flatMap((row): ComingEntry[] => {
    const place = row.page === null ? undefined : placeOf(row.page);
    const isDay = row.what === 'alert' || row.what === 'duty';
    const entry = { what: row.what, at: new Date(row.at), isDay, about: row.about ?? 'Untitled', whose: null };
    if (row.what === 'duty') {
      const isOwn = row.author === access.who.id;
      if (branch !== undefined || (!isOwn && !seesDuties)) return [];
      // Their own stand on Today, for whom the list of all is closed.
      return [
        { ...entry, whose: isOwn ? null : (row.whose ?? null), href: seesDuties ? '/room/duties' : '/room#your-turn' },
      ];
    }
    if (row.what === 'access') return seesPeople && branch === undefined ? [{ ...entry, href: '/room/people' }] : [];
    if (!place || (branch !== undefined && !place.path.includes(branch))) return [];
    if (row.what === 'notice')
      return seesNotice({ ...place, author: row.author }) ? [{ ...entry, href: '/room/notices' }] : [];
    if (row.author !== 'page') return [];
    return seesPage(place) ? [{ ...entry, href: `/room/pages/${row.id}` }] : [];
  });
  return entries
    .filter(({ what }) => kind === undefined || KINDS[kind]?.includes(what))
    .sort((a, b) => a.at.getTime() - b.at.getTime());
}

/** What `kind` of the widget leaves: pages with what is planned and ends on them, notices, people, duties. */
const KINDS: Record<string, readonly Coming[]> = {
  pages: ['publish', 'take-down', 'alert'],
  notices: ['notice'],
  people: ['access'],
  duties: ['duty'],
};
