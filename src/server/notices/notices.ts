import { and, desc, eq, gt, isNull, lte, or, sql } from 'drizzle-orm';
import { getEntry } from '@/core/inventory';
import type { Correction, NewNotice } from '@/core/wire';
import { fieldTime, sayFullTime } from '@/core/words';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { notices, items, people } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { maySee } from '../tree/naming';
import { byIdOf, listPages, liveNameOf, type PageFacts } from '../tree/tree';
import { Problem, problemAt } from '../gate/problems';
import { instantOf } from '../typedHour';

export interface NoticeEntry {
  id: number;
  pageId: string;
  /** Whether it shows there alone, and on no page below. */
  alone: boolean;
  /** Ids from the root down to the page it shows on. */
  path: string[];
  kind: 'information' | 'warning';
  text: string;
  startsAt: Date;
  endsAt: Date | null;
  by: string;
  /** Number of whoever posted it. */
  byId: string | null;
  state: 'showing' | 'coming' | 'ended';
}

const shownOf = ({ pageId, alone, postedBy }: typeof notices.$inferSelect) => ({
  pageId: String(pageId),
  alone,
  byId: postedBy === null ? null : String(postedBy),
});

const columns = { notice: notices, path: sql<string>`${items.path}::text`, by: people.name };
type Row = { notice: typeof notices.$inferSelect; path: string; by: string | null };

function entryOf({ notice, path, by }: Row): NoticeEntry {
  const at = now();
  const over = notice.endedAt !== null || (notice.endsAt !== null && notice.endsAt <= at);
  return {
    id: notice.id,
    ...shownOf(notice),
    path: path.split('.'),
    kind: notice.kind,
    text: notice.text,
    startsAt: notice.startsAt,
    endsAt: notice.endedAt ?? notice.endsAt,
    by: by ?? 'Somebody',
    state: over ? 'ended' : notice.startsAt > at ? 'coming' : 'showing',
  };
}

const joined = (tx: Tx) =>
  tx
    .select(columns)
    .from(notices)
    .innerJoin(items, eq(items.id, notices.pageId))
    .leftJoin(people, eq(people.id, notices.postedBy));

/** All notices, newest start first, at most `limit`. */
export async function listNotices(tx: Tx, siteId: number, limit = 200): Promise<NoticeEntry[]> {
  return (
    await joined(tx).where(eq(notices.siteId, siteId)).orderBy(desc(notices.startsAt), desc(notices.id)).limit(limit)
  ).map(entryOf);
}

const askShowing = prepared('notices that show', (tx) =>
  joined(tx)
    .where(
      and(
        eq(notices.siteId, given('site')),
        lte(notices.startsAt, given('at')),
        isNull(notices.endedAt),
        or(isNull(notices.endsAt), gt(notices.endsAt, given('at'))),
      ),
    )
    .orderBy(desc(notices.kind), desc(notices.startsAt)),
);

/** Whether a notice shows on a page that lies somewhere. */
export const showsOn = ({ pageId, alone }: Pick<NoticeEntry, 'pageId' | 'alone'>, path: readonly string[]): boolean =>
  alone ? path.at(-1) === pageId : path.includes(pageId);

/**
 * What visitors of a page read now: notices of the page and of all above it, warnings first. `path`: null for those of
 * the whole site; `[root, '']` for a screen that is no page.
 */
export async function noticesShowing(tx: Tx, siteId: number, path: readonly string[] | null): Promise<NoticeEntry[]> {
  const rows = await askShowing(tx, { site: siteId, at: now() });
  return rows.map(entryOf).filter((notice) => path === null || showsOn(notice, path));
}

export async function findNotice(tx: Tx, siteId: number, id: number) {
  return (
    await tx
      .select()
      .from(notices)
      .where(and(eq(notices.siteId, siteId), eq(notices.id, id)))
  )[0];
}

/**
 * Which notices are in somebody's list: theirs to see where they were posted, and those showing now on a page on which
 * notices are theirs to see.
 */
export function noticeReader(access: Access, pages: readonly PageFacts[]): (notice: NoticeEntry) => boolean {
  const sees = mayOn(access, 'notice.view');
  const byId = byIdOf(pages);
  return (notice) => {
    const { pageId, byId: author, state } = notice;
    const place = byId.get(pageId)?.place;
    return (
      place !== undefined &&
      (sees({ ...place, author }) ||
        (state === 'showing' && pages.some((page) => showsOn(notice, page.place.path) && sees(page.place))))
    );
  };
}

/** Throws when nobody would see a notice. */
function mustShow(startsAt: Date, endsAt: Date | null): void {
  if (endsAt && endsAt <= startsAt) throw problemAt('until', 'ends-before');
  if (endsAt && endsAt <= now()) throw problemAt('until', 'ends-past');
}

/** What of a notice says where it shows, and whose it is. */
type Shown = Pick<NoticeEntry, 'pageId' | 'alone' | 'byId'>;

/**
 * For a notice the first page below its own on which it shows, too, and somebody may not do something with it; undefined
 * where there is none. On its own page it is asked about by itself.
 */
export function refusedBelow(
  access: Access,
  permission: NoticePermission,
  pages: readonly PageFacts[],
): (notice: Shown) => PageFacts | undefined {
  const may = mayOn(access, permission);
  const known = new Map<string | null, Map<string, PageFacts>>();
  return ({ pageId, alone, byId: author }) => {
    if (alone) return undefined;
    let below = known.get(author);
    if (!below) {
      known.set(author, (below = new Map<string, PageFacts>()));
      for (const page of pages)
        if (!may({ ...page.place, author }))
          for (const above of page.place.path.slice(0, -1)) if (!below.has(above)) below.set(above, page);
    }
    return below.get(pageId);
  };
}
type NoticePermission = 'notice.post' | 'notice.end';

/** Refuses what would be done with a notice on pages below, too, where it is not somebody's to do. */
async function mustBeTheirs(tx: Tx, access: Access, permission: NoticePermission, notice: Shown): Promise<void> {
  const refused = refusedBelow(access, permission, await listPages(tx, access.site.id))(notice);
  if (refused)
    throw problemAt('page', 'notice-below', {
      page: maySee(access)(refused) ? `“${liveNameOf(refused)}”` : 'a page below that you do not see',
      what: getEntry(access.inventory.permissions, permission).name,
    });
}

/** Puts a notice on the website. Runs in a transaction. */
export async function postNotice(
  tx: Tx,
  access: Access,
  pageId: number,
  given: NewNotice & { alone: boolean },
): Promise<{ id: number }> {
  await mustBeTheirs(tx, access, 'notice.post', {
    pageId: String(pageId),
    alone: given.alone,
    byId: String(access.signedInId),
  });
  const startsAt = given.from ? instantOf(given.from, access.site.timeZone, 'from') : now();
  const endsAt = given.until ? instantOf(given.until, access.site.timeZone, 'until') : null;
  mustShow(startsAt, endsAt);
  const [row] = await tx
    .insert(notices)
    .values({
      siteId: access.site.id,
      pageId,
      alone: given.alone,
      kind: given.kind,
      text: given.text,
      startsAt,
      endsAt,
      postedBy: access.signedInId,
    })
    .returning({ id: notices.id });
  await record(tx, access, 'posted a notice', given.text, { href: '/room/notices' });
  return { id: row?.id ?? 0 };
}

/**
 * Sets a notice right that shows or is to come: visitors read the new words at once, and the activity tells both. Its
 * start can be changed until it has begun. Runs in a transaction.
 */
export async function correctNotice(tx: Tx, access: Access, id: number, given: Correction): Promise<void> {
  const [old] = await tx
    .select()
    .from(notices)
    .where(and(eq(notices.siteId, access.site.id), eq(notices.id, id)))
    .for('update');
  if (!old || old.endedAt !== null || (old.endsAt !== null && old.endsAt <= now())) throw new Problem('notice-over');
  await mustBeTheirs(tx, access, 'notice.post', shownOf(old));
  if (old.text !== given.was) throw new Problem('notice-moved', { text: old.text });
  // An hour left as the form showed it is still the very same instant: the form knows no seconds.
  const same = (at: Date | null, local: string | undefined) =>
    at !== null && fieldTime(at, access.site.timeZone) === local;
  const startsAt =
    old.startsAt > now() && given.from && !same(old.startsAt, given.from)
      ? instantOf(given.from, access.site.timeZone, 'from')
      : old.startsAt;
  const endsAt = same(old.endsAt, given.until)
    ? old.endsAt
    : given.until
      ? instantOf(given.until, access.site.timeZone, 'until')
      : null;
  mustShow(startsAt, endsAt);
  const time = (at: Date | null) => (at ? sayFullTime(at, siteCalendar(access.site)) : 'no end');
  const changes = [
    ...(given.text === old.text ? [] : [`“${old.text}” → “${given.text}”`]),
    ...(given.kind === old.kind ? [] : [`${old.kind} → ${given.kind}`]),
    ...(startsAt.getTime() === old.startsAt.getTime() ? [] : [`begins ${time(old.startsAt)} → ${time(startsAt)}`]),
    ...(endsAt?.getTime() === old.endsAt?.getTime() ? [] : [`ends ${time(old.endsAt)} → ${time(endsAt)}`]),
  ];
  if (changes.length === 0) throw new Problem('notice-same');
  await tx.update(notices).set({ text: given.text, kind: given.kind, startsAt, endsAt }).where(eq(notices.id, id));
  await record(tx, access, 'corrected a notice', given.text, { href: '/room/notices', detail: changes.join('; ') });
}

/** Takes a notice off the website. Runs in a transaction. */
export async function endNotice(tx: Tx, access: Access, id: number): Promise<void> {
  const notice = await findNotice(tx, access.site.id, id);
  if (notice) await mustBeTheirs(tx, access, 'notice.end', shownOf(notice));
  const [row] = await tx
    .update(notices)
    .set({ endedAt: now(), endedBy: access.signedInId })
    .where(and(eq(notices.id, id), isNull(notices.endedAt), or(isNull(notices.endsAt), gt(notices.endsAt, now()))))
    .returning({ text: notices.text });
  if (!row) throw new Problem('notice-ended');
  await record(tx, access, 'ended a notice', row.text, { href: '/room/notices' });
}
