import { desc, eq } from 'drizzle-orm';
import type { Tx } from '../db/client';
import { activity, people } from '../db/schema';
import type { Access } from '../gate/access';

/** Writes a line that stays. Called inside the transaction of what it tells of. */
export const record = (tx: Tx, access: Pick<Access, 'site' | 'signedInId'>, action: string, subject: string, more: { href?: string; detail?: string } = {}) =>
  tx.insert(activity).values({ siteId: access.site.id, personId: access.signedInId, action, subject: subject.slice(0, 300), href: more.href ?? null, detail: (more.detail ?? '').slice(0, 500) });

export interface ActivityLine { id: number; at: Date; who: string; action: string; subject: string; href: string | null; detail: string }

/** The newest lines first. */
export async function listActivity(tx: Tx, siteId: number, limit: number): Promise<ActivityLine[]> {
  const rows = await tx.select({ line: activity, who: people.name }).from(activity).leftJoin(people, eq(people.id, activity.personId)).where(eq(activity.siteId, siteId)).orderBy(desc(activity.id)).limit(limit);
  return rows.map(({ line, who }) => ({ id: line.id, at: line.at, who: who ?? 'Safe Room', action: line.action, subject: line.subject, href: line.href, detail: line.detail }));
}
