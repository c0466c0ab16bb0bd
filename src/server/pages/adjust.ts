import { eq, sql } from 'drizzle-orm';
import { among } from '../db/among';
import type { PageContent } from '@/core/content';
import type { Tx } from '../db/client';
import { drafts, items, publications, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { addRevisions } from '../items/drafts';
import type { ItemRow } from '../items/forms';

/**
 * Changes settings of pages at once and beside any words: what visitors see, or saw, goes on in a version of its own
 * that `note` tells of, and a draft begun before says the same, or publishing it would take this back. Runs in a
 * transaction.
 */
export async function adjust(
  tx: Tx,
  access: Access,
  pages: readonly ItemRow[],
  change: { slug?: string; ownAddress?: ''; inNavigation?: boolean },
  note: string,
): Promise<void> {
  if (pages.length === 0) return;
  const settings: PageContent = Object.fromEntries(
    Object.entries(change).map(([setting, value]) => [`page.${setting}`, value]),
  );
  const { ownAddress, ...rest } = change;
  const columns = { ...rest, ...(ownAddress === '' && { ownAddress: null }) };
  const ids = pages.map((page) => page.id);
  await tx
    .update(drafts)
    .set({ content: sql`${drafts.content} || ${JSON.stringify(settings)}::jsonb` })
    .where(among(drafts.itemId, ids));
  await tx.update(items).set(columns).where(among(items.id, ids));
  const versions = pages.flatMap((page) => page.liveRevisionId ?? page.downRevisionId ?? []);
  const rows =
    versions.length === 0
      ? []
      : await tx
          .select({ id: revisions.id, content: revisions.content })
          .from(revisions)
          .where(among(revisions.id, versions));
  const said = new Map(rows.map((row) => [row.id, row.content]));
  const made = await addRevisions(
    tx,
    access.inventory,
    pages.flatMap((item) => {
      const content = said.get(item.liveRevisionId ?? item.downRevisionId ?? 0);
      return content ? [{ item, content: { ...content, ...settings }, madeBy: access.signedInId, writers: [] }] : [];
    }),
    'adjusted',
    note,
  );
  if (made.size === 0) return;
  await tx
    .update(items)
    .set({
      liveRevisionId: sql`case when ${items.liveRevisionId} is not null then ${revisions.id} end`,
      downRevisionId: sql`case when ${items.liveRevisionId} is null then ${revisions.id} else ${items.downRevisionId} end`,
    })
    .from(revisions)
    .where(sql`${among(revisions.id, made.values())} and ${eq(revisions.itemId, items.id)}`);
  const out = pages.flatMap((page) => {
    const revisionId = made.get(page.id);
    return page.liveRevisionId === null || revisionId === undefined
      ? []
      : [{ siteId: page.siteId, itemId: page.id, revisionId, publishedBy: access.signedInId }];
  });
  if (out.length > 0) await tx.insert(publications).values(out);
}
