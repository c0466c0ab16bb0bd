import { and, eq } from 'drizzle-orm';
import { now } from './clock';
import type { Tx } from './db/client';
import { given, prepared } from './db/prepared';
import { ownRooms } from './db/schema';
import type { Access } from './gate/access';

export type OwnRow = typeof ownRooms.$inferSelect;

const keyOf = (access: Access) => ({ siteId: access.site.id, personId: Number(access.who.id) });

const askRoom = prepared('own room', (tx) =>
  tx
    .select()
    .from(ownRooms)
    .where(and(eq(ownRooms.siteId, given('siteId')), eq(ownRooms.personId, given('personId')))),
);

/** What somebody made of their room. */
export const findOwnRoom = async (tx: Tx, access: Access): Promise<OwnRow | undefined> =>
  (await askRoom(tx, keyOf(access)))[0];

/**
 * Changes what somebody made of their room, while nobody else does; gives what is given back. A room that nobody holds
 * has nobody to keep it for: what it would become is told, and nothing written. Runs in a transaction.
 */
export async function changeOwnRoom<T>(
  tx: Tx,
  access: Access,
  change: (before: OwnRow | undefined) => { after: Partial<OwnRow>; gives: T },
): Promise<T> {
  const key = keyOf(access);
  if (key.personId <= 0) return change(undefined).gives;
  await tx.insert(ownRooms).values(key).onConflictDoNothing();
  const mine = eq(ownRooms.personId, key.personId);
  const [row] = await tx.select().from(ownRooms).where(mine).for('update');
  const { after, gives } = change(row);
  await tx
    .update(ownRooms)
    .set({ ...after, updatedAt: now() })
    .where(mine);
  return gives;
}
