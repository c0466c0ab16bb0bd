import { desc, eq } from 'drizzle-orm';
import { differences } from '@/core/release';
import type { Tx } from '../db/client';
import { releases } from '../db/schema';
import type { Access } from '../gate/access';
import { readRelease } from '../plan/plans';
import { pageNamer } from '../tree/naming';
import type { PageFacts } from '../tree/tree';

/**
 * What the last release changed in the roles somebody holds, and in those they build on, a sentence each; undefined
 * where there was one release only. One question.
 */
export async function findLastChange(
  tx: Tx,
  access: Access,
  pages: readonly PageFacts[],
): Promise<{ at: Date; lines: string[] } | undefined> {
  const [last, before] = await tx
    .select()
    .from(releases)
    .where(eq(releases.siteId, access.site.id))
    .orderBy(desc(releases.number))
    .limit(2);
  if (!last || !before) return undefined;
  const after = readRelease(last);
  const mine = new Set(access.who.assignments.map(({ role }) => role));
  // A set grows while it is walked: what a role builds on is theirs too.
  for (const id of mine) for (const above of after.roles.find((role) => role.id === id)?.extends ?? []) mine.add(above);
  const lines = differences(access.inventory, readRelease(before), after, pageNamer(access, pages))
    .filter(({ role }) => role !== null && mine.has(role))
    .flatMap(({ lines: said }) => said);
  return { at: last.madeAt, lines: [...new Set(lines)] };
}
