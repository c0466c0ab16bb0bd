import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Tx } from '../db/client';
import { drafts, items, people, publications, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { allowedPages } from '../gate/filter';

/** A page somebody changed, whoever it was. */
export interface ChangedPage {
  id: string;
  title: string;
  at: Date;
  by: string | null;
  /** What was done last: a draft was kept, or a version went on the website. */
  did: 'draft' | 'published';
}

/** Whether an item lies on a page or below it. */
export const inBranch = (branch: string | undefined) =>
  branch === undefined || !/^\d{1,9}$/.test(branch)
    ? undefined
    : sql`${items.path} <@ (select b.path from ${items} b where b.id = ${Number(branch)})`;

/** The pages changed last of those somebody may look at, the newest first. One question. */
export async function listChangedLately(
  tx: Tx,
  access: Access,
  { most, branch }: { most: number; branch?: string | undefined },
): Promise<ChangedPage[]> {
  const out = sql`(select max(p.published_at) from ${publications} p where p.item_id = ${items.id})`;
  const by = sql`(select p.published_by from ${publications} p where p.item_id = ${items.id} order by p.published_at desc limit 1)`;
  const at = sql<string>`greatest(${drafts.updatedAt}, ${out}, ${items.createdAt})`;
  const isDraft = sql<boolean>`${drafts.updatedAt} is not null and ${drafts.updatedAt} >= coalesce(${out}, '-infinity')`;
  const rows = await tx
    .select({
      id: items.id,
      title: sql<string>`coalesce(${items.shortName}, ${drafts.content}->>'title', ${revisions.content}->>'title', 'Untitled')`,
      at,
      isDraft,
      by: people.name,
    })
    .from(items)
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(people, eq(people.id, sql`case when ${isDraft} then ${drafts.updatedBy} else ${by} end`))
    .where(
      and(
        eq(items.siteId, access.site.id),
        isNull(items.deletedAt),
        allowedPages(access, 'page.view'),
        inBranch(branch),
      ),
    )
    .orderBy(desc(at), desc(items.id))
    .limit(most);
  return rows.map((row) => ({
    id: String(row.id),
    title: row.title,
    at: new Date(row.at),
    by: row.by,
    did: row.isDraft ? 'draft' : 'published',
  }));
}
