import { lt, or, sql } from 'drizzle-orm';
import { now } from '../clock';
import type { Tx } from '../db/client';
import {
  knownBrowsers,
  missedSearches,
  pageChanges,
  planMarks,
  planPresence,
  presence,
  previewLinks,
  questions,
  rateLimits,
  receipts,
  sessions,
} from '../db/schema';

const EVERY_MS = 10 * 60_000;
const HOUR_MS = 3600_000;
const DAY_MS = 24 * HOUR_MS;
let tidiedAt = 0;

/**
 * Takes away what is only kept for a while: answers already given, counters, who had a page open, questions nobody asks
 * any more, sessions and links that are over.
 */
export async function tidyOld(tx: Tx, force = false): Promise<void> {
  const at = now();
  if (!force && at.getTime() - tidiedAt < EVERY_MS) return;
  tidiedAt = at.getTime();
  const before = (ms: number) => new Date(at.getTime() - ms);
  await tx.delete(receipts).where(lt(receipts.madeAt, before(2 * DAY_MS)));
  await tx.delete(rateLimits).where(lt(rateLimits.expire, at.getTime()));
  await tx.delete(planMarks).where(lt(planMarks.madeAt, before(2 * DAY_MS)));
  await tx.delete(pageChanges).where(lt(pageChanges.madeAt, before(HOUR_MS)));
  await tx.delete(planPresence).where(lt(planPresence.seenAt, before(HOUR_MS)));
  await tx.delete(missedSearches).where(lt(missedSearches.askedAt, before(90 * DAY_MS)));
  await tx.delete(questions).where(lt(questions.askedAt, before(180 * DAY_MS)));
  await tx.delete(presence).where(lt(presence.seenAt, before(HOUR_MS)));
  await tx.delete(sessions).where(lt(sessions.expiresAt, at));
  await tx.delete(knownBrowsers).where(lt(knownBrowsers.seenAt, before(400 * DAY_MS)));
  await tx
    .delete(previewLinks)
    .where(or(lt(previewLinks.expiresAt, before(DAY_MS)), sql`${previewLinks.endedAt} < ${before(DAY_MS)}`));
}
