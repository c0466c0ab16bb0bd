import { and, desc, eq, isNull, max, sql } from 'drizzle-orm';
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
  const latest = tx
    .select({ itemId: publications.itemId, at: max(publications.publishedAt).as('out') })
    .from(publications)
    .where(eq(publications.siteId, access.site.id))
    .groupBy(publications.itemId)
    .as('latest');
  const at = sql<string>`greatest(${drafts.updatedAt}, ${latest.at}, ${items.createdAt})`;
  const isDraft = sql<boolean>`${drafts.updatedAt} is not null and ${drafts.updatedAt} >= coalesce(${latest.at}, '-infinity')`;
  // What is only told of the few that are shown is asked of those alone: the database sorts and cuts first.
  const live = sql`(select r.content->>'title' from ${revisions} r where r.id = coalesce(${items.liveRevisionId}, ${items.downRevisionId}))`;
  const publisher = sql`(select p.published_by from ${publications} p where p.item_id = ${items.id} order by p.published_at desc limit 1)`;
  const by = sql`case when ${isDraft} then ${drafts.updatedBy} else ${publisher} end`;
  const rows = await tx
    .select({
      id: items.id,
      title: sql<string>`coalesce(${items.shortName}, ${drafts.content}->>'title', ${live}, 'Untitled')`,
      at,
      isDraft,
      by: sql<string | null>`(select w.name from ${people} w where w.id = ${by})`,
    })
    .from(items)
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .leftJoin(latest, eq(latest.itemId, items.id))
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
