import { and, eq, isNull, sql } from 'drizzle-orm';
import { textOf } from '@/core/content';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { drafts, items, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { findAllPlaced } from '../tree/tree';
import { formOf, type ItemRow } from './forms';
import { hrefOf } from './items';
import type { Inventory } from '@/core/inventory';

export interface UnfinishedEntry {
  itemId: string;
  /** What it is, as a sentence has it. */
  one: string;
  href: string;
  title: string;
  state: 'draft' | 'sent-back' | 'waiting';
  at: Date;
  word: string | null;
  publishedAt: Date | null;
  /** It is a draft, and theirs to put on the website. */ mayPublish: boolean;
}

/** What tells of an item in a list of several kinds. */
const about = (inventory: Inventory, item: ItemRow) => ({
  itemId: String(item.id),
  one: formOf(inventory, item).type.one,
  href: hrefOf(inventory, item),
});

const lastOut = sql<string | null>`(select max(published_at) from publications where item_id = ${items.id})`;
const askDrafts = prepared('drafts of somebody', (tx) =>
  tx
    .select({ draft: drafts, item: items, out: lastOut })
    .from(drafts)
    .innerJoin(items, and(eq(items.id, drafts.itemId), isNull(items.deletedAt)))
    .where(
      and(eq(drafts.siteId, given('site')), sql`${given('person')} in (${drafts.startedBy}, ${drafts.updatedBy})`),
    ),
);
const askSent = prepared('what somebody sent', (tx) =>
  tx
    .select({ review: reviews, item: items, content: revisions.content, out: lastOut })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .innerJoin(items, and(eq(items.id, reviews.itemId), isNull(items.deletedAt)))
    .where(and(eq(reviews.siteId, given('site')), eq(reviews.sentBy, given('person')), isNull(reviews.outcome))),
);

/**
 * A person's drafts, what they sent and nobody has looked at, and what came back; newest first; of what they may still
 * look at.
 */
export async function listUnfinished(tx: Tx, access: Access): Promise<UnfinishedEntry[]> {
  const their = { site: access.site.id, person: Number(access.who.id) };
  const [drafted, sent] = await Promise.all([askDrafts(tx, their), askSent(tx, their)]);
  const placed = await findAllPlaced(
    tx,
    access.site.id,
    [...drafted, ...sent].map(({ item }) => item.id),
  );
  const sees = ({ item }: { item: ItemRow }) => {
    const there = placed.get(item.id);
    return there !== undefined && mayNow(access, 'item.view', there).allowed;
  };
  const mayPublish = (item: ItemRow) => {
    const there = placed.get(item.id);
    return there !== undefined && ['item.publish', 'item.edit'].every((needs) => mayNow(access, needs, there).allowed);
  };
  const date = (text: string | null) => (text === null ? null : new Date(text));
  return [
    ...drafted
      .filter(sees)
      .map(({ draft, item, out }) => ({
        ...about(access.inventory, item),
        title: textOf(draft.content, 'title'),
        state: draft.sentBackWord === null ? ('draft' as const) : ('sent-back' as const),
        at: draft.updatedAt,
        word: draft.sentBackWord,
        publishedAt: date(out),
        mayPublish: mayPublish(item),
      })),
    ...sent
      .filter(sees)
      .map(({ review, item, content, out }) => ({
        ...about(access.inventory, item),
        title: textOf(content, 'title'),
        state: 'waiting' as const,
        at: review.sentAt,
        word: null,
        publishedAt: date(out),
        mayPublish: false,
      })),
  ].sort((a, b) => b.at.getTime() - a.at.getTime());
}
