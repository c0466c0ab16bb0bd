import { and, desc, eq, gte, sql } from 'drizzle-orm';
import { fold } from '@/core/words';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { missedSearches } from '../db/schema';

/** How many different things looked for are kept of a site. */
const MOST_KEPT = 2000;
const DAY_MS = 86_400_000;
/** How long what was looked for is kept, and how long a thing looked for is told. */
export const SOUGHT_DAYS = 30;

/** Counts what a visitor looked for and did not find. Who it was is not kept. */
export async function keepMissed(tx: Tx, siteId: number, asked: string): Promise<void> {
  const words = fold(asked).replaceAll(/\s+/g, ' ').trim().slice(0, 100);
  if (!/[\p{L}\p{N}]/u.test(words)) return;
  const again = { times: sql`${missedSearches.times} + 1`, asked: asked.slice(0, 100), askedAt: now() };
  const counted = await tx
    .update(missedSearches)
    .set(again)
    .where(and(eq(missedSearches.siteId, siteId), eq(missedSearches.words, words)))
    .returning({ words: missedSearches.words });
  if (counted.length > 0) return;
  // Whoever searches for thousands of things fills no table.
  const [there] = await tx
    .select({ count: sql<number>`count(*)::int` })
    .from(missedSearches)
    .where(eq(missedSearches.siteId, siteId));
  if ((there?.count ?? 0) >= MOST_KEPT) return;
  await tx
    .insert(missedSearches)
    .values({ siteId, words, asked: asked.slice(0, 100), askedAt: now() })
    .onConflictDoUpdate({ target: [missedSearches.siteId, missedSearches.words], set: again });
}

const askMissed = prepared('what was not found', (tx) =>
  tx
    .select({ asked: missedSearches.asked, times: missedSearches.times, at: missedSearches.askedAt })
    .from(missedSearches)
    .where(and(eq(missedSearches.siteId, given('site')), gte(missedSearches.askedAt, given('since'))))
    .orderBy(desc(missedSearches.times), desc(missedSearches.askedAt))
    .limit(given('most')),
);

/** What was looked for on the website of late and not found, the most wanted first. */
export const listMissedSearches = (
  tx: Tx,
  siteId: number,
  most: number,
): Promise<{ asked: string; times: number; at: Date }[]> =>
  askMissed(tx, { site: siteId, since: new Date(now().getTime() - SOUGHT_DAYS * DAY_MS), most });
