import { and, desc, eq, gte, sql } from 'drizzle-orm';
import { fold } from '@/core/words';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { missedSearches } from '../db/schema';

const DAY_MS = 86_400_000;
/** How long what was looked for is kept, and how long a thing looked for is told. */
export const SOUGHT_DAYS = 30;

/** Counts what a visitor looked for and did not find. Who it was is not kept. */
export async function keepMissed(tx: Tx, siteId: number, asked: string): Promise<void> {
  const words = fold(asked).replaceAll(/\s+/g, ' ').trim().slice(0, 100);
  if (!/[\p{L}\p{N}]/u.test(words)) return;
  await tx
    .insert(missedSearches)
    .values({ siteId, words, asked: asked.slice(0, 100), askedAt: now() })
    .onConflictDoUpdate({
      target: [missedSearches.siteId, missedSearches.words],
      set: { times: sql`${missedSearches.times} + 1`, asked: asked.slice(0, 100), askedAt: now() },
    });
}

/** What was looked for on the website of late and not found, the most wanted first. */
export const listMissedSearches = (
  tx: Tx,
  siteId: number,
  most: number,
): Promise<{ asked: string; times: number; at: Date }[]> =>
  tx
    .select({ asked: missedSearches.asked, times: missedSearches.times, at: missedSearches.askedAt })
    .from(missedSearches)
    .where(
      and(
        eq(missedSearches.siteId, siteId),
        gte(missedSearches.askedAt, new Date(now().getTime() - SOUGHT_DAYS * DAY_MS)),
      ),
    )
    .orderBy(desc(missedSearches.times), desc(missedSearches.askedAt))
    .limit(most);
