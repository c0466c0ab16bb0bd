import { and, desc, eq, gte, ilike, inArray, lt, or, type SQL } from 'drizzle-orm';
import type { Tx } from '../db/client';
import { activity, people } from '../db/schema';
import type { Access } from '../gate/access';

type Actor = Pick<Access, 'site' | 'signedInId'>;

/** Writes lines that stay, one for each thing. Called inside the transaction of what they tell of. */
export async function recordAll(
  tx: Tx,
  access: Actor,
  action: string,
  lines: readonly { subject: string; href?: string; detail?: string }[],
): Promise<void> {
  if (lines.length === 0) return;
  await tx
    .insert(activity)
    .values(
      lines.map(({ subject, href = null, detail = '' }) => ({
        siteId: access.site.id,
        personId: access.signedInId,
        action,
        subject: subject.slice(0, 300),
        href,
        detail: detail.slice(0, 500),
      })),
    );
}

/** Writes one such line. */
export const record = (
  tx: Tx,
  access: Actor,
  action: string,
  subject: string,
  more: { href?: string; detail?: string } = {},
) => recordAll(tx, access, action, [{ subject, ...more }]);

export interface ActivityLine {
  id: number;
  at: Date;
  who: string;
  action: string;
  subject: string;
  href: string | null;
  detail: string;
}

/** What the activity is cut down to. Days are instants on the site's clock; nothing given is everything. */
export interface ActivityFilter {
  who?: number | undefined;
  action?: string | undefined;
  q?: string | undefined;
  from?: Date | undefined;
  until?: Date | undefined;
}

const conditions = (siteId: number, { who, action, q, from, until }: ActivityFilter): SQL | undefined => {
  const like = `%${(q ?? '').replaceAll(/[\\%_]/g, '\\$&')}%`;
  return and(
    eq(activity.siteId, siteId),
    who ? eq(activity.personId, who) : undefined,
    action ? eq(activity.action, action) : undefined,
    q ? or(ilike(activity.subject, like), ilike(activity.detail, like)) : undefined,
    from ? gte(activity.at, from) : undefined,
    until ? lt(activity.at, until) : undefined,
  );
};

/** The newest lines first, as far as a filter lets them through. */
export async function listActivity(
  tx: Tx,
  siteId: number,
  limit: number,
  filter: ActivityFilter = {},
): Promise<ActivityLine[]> {
  const rows = await tx
    .select({ line: activity, who: people.name })
    .from(activity)
    .leftJoin(people, eq(people.id, activity.personId))
    .where(conditions(siteId, filter))
    .orderBy(desc(activity.id))
    .limit(limit);
  return rows.map(({ line, who }) => ({
    id: line.id,
    at: line.at,
    who: who ?? 'Safe Room',
    action: line.action,
    subject: line.subject,
    href: line.href,
    detail: line.detail,
  }));
}

/** Everything that was ever done, by its words, for choosing among it. */
export const listActions = async (tx: Tx, siteId: number): Promise<string[]> =>
  (
    await tx
      .selectDistinct({ action: activity.action })
      .from(activity)
      .where(eq(activity.siteId, siteId))
      .orderBy(activity.action)
  ).map((row) => row.action);

/** Every time roles were given or taken since an instant, oldest first. */
export async function listGiven(tx: Tx, siteId: number, since: Date | undefined): Promise<ActivityLine[]> {
  const rows = await tx
    .select({ line: activity, who: people.name })
    .from(activity)
    .leftJoin(people, eq(people.id, activity.personId))
    .where(
      and(
        eq(activity.siteId, siteId),
        inArray(activity.action, ['assigned roles', 'invited']),
        since ? gte(activity.at, since) : undefined,
      ),
    )
    .orderBy(activity.id)
    .limit(2000);
  return rows.map(({ line, who }) => ({
    id: line.id,
    at: line.at,
    who: who ?? 'Safe Room',
    action: line.action,
    subject: line.subject,
    href: line.href,
    detail: line.detail,
  }));
}
