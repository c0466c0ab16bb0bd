import { and, eq } from 'drizzle-orm';
import { now } from './clock';
import type { Tx } from './db/client';
import { ownRooms } from './db/schema';
import type { Access } from './gate/access';

export type OwnRow = typeof ownRooms.$inferSelect;

const keyOf = (access: Access) => ({ siteId: access.site.id, personId: Number(access.who.id) });

/** What somebody made of their room. */
export async function findOwnRoom(tx: Tx, access: Access): Promise<OwnRow | undefined> {
  const { siteId, personId } = keyOf(access);
  const [row] = await tx
    .select()
    .from(ownRooms)
    .where(and(eq(ownRooms.siteId, siteId), eq(ownRooms.personId, personId)));
  return row;
}

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
