import { eq, sql } from 'drizzle-orm';
import type { PageContent } from '@/core/content';
import type { Tx } from '../db/client';
import { drafts, items, publications } from '../db/schema';
import type { Access } from '../gate/access';
import { addRevision } from '../items/drafts';
import type { ItemRow } from '../items/forms';
import { contentOf } from '../items/items';

/**
 * Changes settings of a page at once and beside any words: what visitors see, or saw, goes on in a version of its own
 * that `note` tells of, and a draft begun before says the same, or publishing it would take this back. Runs in a
 * transaction.
 */
export async function adjust(
  tx: Tx,
  access: Access,
  page: ItemRow,
  change: { slug?: string; ownAddress?: ''; inNavigation?: boolean },
  note: string,
): Promise<void> {
  const settings: PageContent = Object.fromEntries(
    Object.entries(change).map(([setting, value]) => [`page.${setting}`, value]),
  );
  await tx
    .update(drafts)
    .set({ content: sql`${drafts.content} || ${JSON.stringify(settings)}::jsonb` })
    .where(eq(drafts.itemId, page.id));
  const { ownAddress, ...columns } = change;
  const isLive = page.liveRevisionId !== null;
  const content = await contentOf(tx, page.liveRevisionId ?? page.downRevisionId);
  const revisionId =
    content && (await addRevision(tx, access, page, { ...content, ...settings }, 'adjusted', note, { writers: [] }));
  await tx
    .update(items)
    .set({
      ...columns,
      ...(ownAddress === '' && { ownAddress: null }),
      ...(revisionId !== undefined && (isLive ? { liveRevisionId: revisionId } : { downRevisionId: revisionId })),
    })
    .where(eq(items.id, page.id));
  if (revisionId !== undefined && isLive)
    await tx
      .insert(publications)
      .values({ siteId: page.siteId, itemId: page.id, revisionId, publishedBy: access.signedInId });
}
