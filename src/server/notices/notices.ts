import { and, desc, eq, gt, isNull, lte, or, sql } from 'drizzle-orm';
import { record } from '../activity/activity';
import { findInstant, now } from '../clock';
import type { Tx } from '../db/client';
import { notices, pages, people } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';

export interface NoticeEntry {
  id: number;
  pageId: string;
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

const columns = { notice: notices, path: sql<string>`${pages.path}::text`, by: people.name };
type Row = { notice: typeof notices.$inferSelect; path: string; by: string | null };

function entryOf({ notice, path, by }: Row): NoticeEntry {
  const at = now();
  const over = notice.endedAt !== null || (notice.endsAt !== null && notice.endsAt <= at);
  return { id: notice.id, pageId: String(notice.pageId), path: path.split('.'), kind: notice.kind, text: notice.text, startsAt: notice.startsAt, endsAt: notice.endedAt ?? notice.endsAt, by: by ?? 'Somebody', byId: notice.postedBy === null ? null : String(notice.postedBy), state: over ? 'ended' : notice.startsAt > at ? 'coming' : 'showing' };
}

const joined = (tx: Tx) => tx.select(columns).from(notices).innerJoin(pages, eq(pages.id, notices.pageId)).leftJoin(people, eq(people.id, notices.postedBy));

/** All notices, newest start first, at most `limit`. */
export async function listNotices(tx: Tx, siteId: number, limit = 200): Promise<NoticeEntry[]> {
  return (await joined(tx).where(eq(notices.siteId, siteId)).orderBy(desc(notices.startsAt), desc(notices.id)).limit(limit)).map(entryOf);
}

/** What visitors of a page read now: notices of the page and of all above it, warnings first. */
export async function noticesShowing(tx: Tx, siteId: number, path: readonly string[] | null): Promise<NoticeEntry[]> {
  const at = now();
  const rows = await joined(tx)
    .where(and(eq(notices.siteId, siteId), lte(notices.startsAt, at), isNull(notices.endedAt), or(isNull(notices.endsAt), gt(notices.endsAt, at))))
    .orderBy(desc(notices.kind), desc(notices.startsAt));
  return rows.map(entryOf).filter((notice) => path === null || path.includes(notice.pageId));
}

export async function findNotice(tx: Tx, siteId: number, id: number) {
  return (await tx.select().from(notices).where(and(eq(notices.siteId, siteId), eq(notices.id, id))))[0];
}

/** An hour as typed on the site's own clock as an instant. */
export function instantOf(local: string, timeZone: string, field: 'from' | 'until' = 'until'): Date {
  const instant = findInstant(local, timeZone);
  if (!instant) throw new Problem('bad-input', 'Write the time as day and hour.', { faults: [{ field, message: 'Write the time as day and hour.' }] });
  return instant;
}

export interface NewNotice { text: string; kind: 'information' | 'warning'; from?: string | undefined; until?: string | undefined }

/** Puts a notice on the website. Runs in a transaction. */
export async function postNotice(tx: Tx, access: Access, pageId: number, given: NewNotice): Promise<{ id: number }> {
  const startsAt = given.from ? instantOf(given.from, access.site.timeZone, 'from') : now();
  const endsAt = given.until ? instantOf(given.until, access.site.timeZone) : null;
  if (endsAt && endsAt <= startsAt) throw new Problem('bad-input', 'The end lies before the start; nobody would see this notice.', { faults: [{ field: 'until', message: 'The end lies before the start; nobody would see this notice.' }] });
  if (endsAt && endsAt <= now()) throw new Problem('bad-input', 'The end is already past; nobody would see this notice.', { faults: [{ field: 'until', message: 'The end is already past; nobody would see this notice.' }] });
  const [row] = await tx.insert(notices).values({ siteId: access.site.id, pageId, kind: given.kind, text: given.text, startsAt, endsAt, postedBy: access.signedInId }).returning({ id: notices.id });
  await record(tx, access, 'posted a notice', given.text, { href: '/room/notices' });
  return { id: row?.id ?? 0 };
}

/** Takes a notice off the website. Runs in a transaction. */
export async function endNotice(tx: Tx, access: Access, id: number): Promise<void> {
  const [row] = await tx.update(notices).set({ endedAt: now(), endedBy: access.signedInId }).where(and(eq(notices.id, id), isNull(notices.endedAt), or(isNull(notices.endsAt), gt(notices.endsAt, now())))).returning({ text: notices.text });
  if (!row) throw new Problem('already-done', 'This notice has already ended.');
  await record(tx, access, 'ended a notice', row.text, { href: '/room/notices' });
}
