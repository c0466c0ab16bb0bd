import { and, eq } from 'drizzle-orm';
import { NOBODY } from '@/core/access';
import type { Happening, TaskTemplate } from '@/core/inventory';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { progress } from '../db/schema';
import type { Access } from '../gate/access';

/** How far somebody is with a tour: the stop they are at (from 0), and whether they ever reached its end. */
export interface TourProgress {
  stop: number;
  done: boolean;
  /** Looked at to its end, without doing what it shows. */ seen: boolean;
  /** What was done of what it waits for, since it was begun. */ did: readonly Happening[];
}

const askProgress = prepared('progress', (tx) =>
  tx
    .select()
    .from(progress)
    .where(and(eq(progress.personId, given('person')), eq(progress.siteId, given('site')))),
);

export async function findProgress(tx: Tx, access: Access): Promise<Record<string, TourProgress>> {
  const rows = await askProgress(tx, { person: Number(access.who.id), site: access.site.id });
  return Object.fromEntries(
    rows.map((row) => [
      row.task,
      { stop: row.stop, done: row.doneAt !== null, seen: row.seenAt !== null, did: row.did },
    ]),
  );
}

/** Remembers where somebody is; a tour once taken or seen to its end stays so. */
export async function keepProgress(
  tx: Tx,
  access: Access,
  { id: task, moves }: TaskTemplate,
  { stop, done, seen, did: told }: { stop: number; done: boolean; seen: boolean; did: readonly string[] },
): Promise<void> {
  // A room tried by its role is nobody's.
  if (access.who.id === NOBODY) return;
  const did = [...new Set(moves.flatMap(({ until }) => until ?? []))].filter((one) => told.includes(one));
  const fresh = { stop, did, updatedAt: now(), ...(done && { doneAt: now() }), ...(seen && { seenAt: now() }) };
  await tx
    .insert(progress)
    .values({ personId: Number(access.who.id), siteId: access.site.id, task, ...fresh })
    .onConflictDoUpdate({ target: [progress.personId, progress.task], set: fresh });
}
