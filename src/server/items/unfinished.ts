import { and, eq, isNull, sql } from 'drizzle-orm';
import { textOf } from '@/core/content';
import type { Tx } from '../db/client';
import { drafts, items, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { hrefOf } from './items';

export interface UnfinishedEntry {
  itemId: string;
  type: string;
  href: string;
  title: string;
  state: 'draft' | 'sent-back' | 'waiting';
  at: Date;
  word: string | null;
  publishedAt: Date | null;
}

/** A person's drafts, what they sent and nobody has looked at, and what came back; newest first. */
export async function listUnfinished(tx: Tx, access: Access): Promise<UnfinishedEntry[]> {
  const me = Number(access.who.id);
  const lastOut = sql<string | null>`(select max(published_at) from publications where item_id = ${items.id})`;
  const [mine, sent] = await Promise.all([
    tx
      .select({ draft: drafts, item: items, out: lastOut })
      .from(drafts)
      .innerJoin(items, and(eq(items.id, drafts.itemId), isNull(items.deletedAt)))
      .where(and(eq(drafts.siteId, access.site.id), sql`${me} in (${drafts.startedBy}, ${drafts.updatedBy})`)),
    tx
      .select({ review: reviews, item: items, content: revisions.content, out: lastOut })
      .from(reviews)
      .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
      .innerJoin(items, and(eq(items.id, reviews.itemId), isNull(items.deletedAt)))
      .where(and(eq(reviews.siteId, access.site.id), eq(reviews.sentBy, me), isNull(reviews.outcome))),
  ]);
  const date = (text: string | null) => (text === null ? null : new Date(text));
  return [
    ...mine.map(({ draft, item, out }) => ({
      itemId: String(draft.itemId),
      type: item.type,
      href: hrefOf(item),
      title: textOf(draft.content, 'title'),
      state: draft.sentBackWord === null ? ('draft' as const) : ('sent-back' as const),
      at: draft.updatedAt,
      word: draft.sentBackWord,
      publishedAt: date(out),
    })),
    ...sent.map(({ review, item, content, out }) => ({
      itemId: String(review.itemId),
      type: item.type,
      href: hrefOf(item),
      title: textOf(content, 'title'),
      state: 'waiting' as const,
      at: review.sentAt,
      word: null,
      publishedAt: date(out),
    })),
  ].sort((a, b) => b.at.getTime() - a.at.getTime());
}
