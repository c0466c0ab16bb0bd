import { and, eq, gt, inArray, sql } from 'drizzle-orm';
import { among } from '../db/among';
import { KEYHOLDER } from '@/core/plan';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { activity } from '../db/schema';
import type { Person } from './people';

/** What editors do day by day, as the activity tells it. */
const DAILY = [
  'posted a notice',
  'ended a notice',
  'sent for a second look',
  'published',
  'gave the second look and published',
  'sent back',
  'described a picture',
];
const DAY_MS = 86_400_000;

/**
 * Keyholders who do editors' work with the account that can break everything, with how often in the last 30 days; from
 * three times on.
 */
export async function busyKeyholders(
  tx: Tx,
  siteId: number,
  people: readonly Person[],
): Promise<{ name: string; times: number }[]> {
  const keyholders = people.filter((p) => !p.suspended && p.assignments.some((a) => a.role === KEYHOLDER));
  if (keyholders.length === 0) return [];
  const rows = await tx
    .select({ personId: activity.personId, times: sql<number>`count(*)::int` })
    .from(activity)
    .where(
      and(
        eq(activity.siteId, siteId),
        among(
          activity.personId,
          keyholders.map((p) => Number(p.id)),
        ),
        inArray(activity.action, DAILY),
        gt(activity.at, new Date(now().getTime() - 30 * DAY_MS)),
      ),
    )
    .groupBy(activity.personId);
  return rows
    .filter((row) => row.times >= 3)
    .map((row) => ({ name: keyholders.find((p) => p.id === String(row.personId))?.name ?? '', times: row.times }));
}
