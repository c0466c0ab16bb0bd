import { desc, eq } from 'drizzle-orm';
import { among } from '../db/among';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { drafts, people, publications } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import type { PageFacts } from '../tree/tree';

/** A page somebody changed, whoever it was. */
export interface ChangedPage {
  id: string;
  title: string;
  at: Date;
  by: string | null;
  /** What was done last: a draft was kept, or a version went on the website. */
  did: 'draft' | 'published';
}

const askDrafts = prepared('drafts by whom', (tx) =>
  tx
    .select({ id: drafts.itemId, at: drafts.updatedAt, by: people.name })
    .from(drafts)
    .leftJoin(people, eq(people.id, drafts.updatedBy))
    .where(eq(drafts.siteId, given('site'))),
);

/** The pages changed last of those somebody may look at, the newest first. Two questions. */
export async function listChangedLately(
  tx: Tx,
  access: Access,
  pages: readonly PageFacts[],
  { most, branch }: { most: number; branch?: string | undefined },
): Promise<ChangedPage[]> {
  const kept = await askDrafts(tx, { site: access.site.id });
  const draftOf = new Map(kept.map((draft) => [String(draft.id), draft]));
  const mayView = mayOn(access, 'page.view');
  const latest: (ChangedPage & { atMs: number })[] = [];
  for (const { id, title, shortName, publishedAt, place } of pages) {
    const draft = draftOf.get(id);
    const did = draft && (!publishedAt || draft.at >= publishedAt) ? 'draft' : 'published';
    const at = did === 'draft' ? draft?.at : publishedAt;
    const atMs = at?.getTime() ?? 0;
    // Most pages are older than what was found by then.
    if (!at || (latest.length === most && atMs <= (latest.at(-1)?.atMs ?? 0))) continue;
    if ((branch !== undefined && !place.path.includes(branch)) || !mayView(place)) continue;
    const before = latest.findIndex((one) => one.atMs < atMs);
    const by = did === 'draft' ? (draft?.by ?? null) : null;
    latest.splice(before === -1 ? latest.length : before, 0, { id, title: shortName ?? title, at, atMs, by, did });
    latest.length = Math.min(latest.length, most);
  }
  const published = latest.filter(({ did }) => did === 'published').map(({ id }) => Number(id));
  if (published.length === 0) return latest;
  const out = await tx
    .selectDistinctOn([publications.itemId], { id: publications.itemId, by: people.name })
    .from(publications)
    .leftJoin(people, eq(people.id, publications.publishedBy))
    .where(among(publications.itemId, published))
    .orderBy(publications.itemId, desc(publications.publishedAt));
  const publisherOf = new Map(out.map((row) => [String(row.id), row.by]));
  return latest.map((page) => ({ ...page, by: publisherOf.get(page.id) ?? page.by }));
}
