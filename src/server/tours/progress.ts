import { and, eq } from 'drizzle-orm';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { progress } from '../db/schema';
import type { Access } from '../gate/access';

/** How far somebody is with a tour: the stop they are at (from 0), and whether they ever reached its end. */
export interface TourProgress { stop: number; done: boolean }

export async function findProgress(tx: Tx, access: Access): Promise<Record<string, TourProgress>> {
  const rows = await tx.select().from(progress).where(and(eq(progress.personId, Number(access.who.id)), eq(progress.siteId, access.site.id)));
  return Object.fromEntries(rows.map((row) => [row.task, { stop: row.stop, done: row.doneAt !== null }]));
}

/** Remembers where somebody is; a tour once taken to its end stays taken. */
export async function keepProgress(tx: Tx, access: Access, task: string, stop: number, done: boolean): Promise<void> {
  const fresh = { stop, updatedAt: now(), ...(done && { doneAt: now() }) };
  await tx.insert(progress).values({ personId: Number(access.who.id), siteId: access.site.id, task, ...fresh }).onConflictDoUpdate({ target: [progress.personId, progress.task], set: fresh });
}
