import type { PageContent } from '@/core/content';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { drafts } from '../db/schema';
import type { ItemRow } from './forms';
import { keepReferences } from './references';
import type { Inventory } from '@/core/inventory';

/** Begins a draft of an item; where there is one it stays as it is. `by`: whose it is; `writers`: who wrote in it so far. */
export async function beginDraft(
  tx: Tx,
  inventory: Inventory,
  item: Pick<ItemRow, 'id' | 'siteId' | 'type'>,
  given: { content: PageContent; by: number | null; updatedBy?: number; writers?: readonly number[]; at?: Date },
): Promise<void> {
  const { content, by, updatedBy = by, writers = by === null ? [] : [by], at = now() } = given;
  const begun = await tx
    .insert(drafts)
    .values({
      itemId: item.id,
      siteId: item.siteId,
      content,
      version: 1,
      writers: [...writers],
      startedBy: by,
      updatedBy,
      updatedAt: at,
    })
    .onConflictDoNothing()
    .returning({ item: drafts.itemId });
  if (begun.length > 0) await keepReferences(tx, inventory, { item, content, revisionId: null });
}
