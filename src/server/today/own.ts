import { and, eq } from 'drizzle-orm';
import { asPrepared, changedOwn, ownSchema, untold, type Board, type Own, type OwnChange } from '@/core/dashboard';
import { entryName } from '@/core/plan';
import { inventory } from '@/office';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { ownRooms } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { loadRoom } from '../room';

/** How many of their last changes somebody can take back. */
const MOST_PAST = 20;

/** What somebody changed of Today, and what could not be kept of it and was not told yet. */
export interface OwnToday {
  own: Own;
  canUndo: boolean;
  told: string[];
}

const mine = (access: Access) => and(eq(ownRooms.siteId, access.site.id), eq(ownRooms.personId, Number(access.who.id)));
const tell = (board: Board, own: Own, past: readonly Own[]): OwnToday => ({
  own,
  canUndo: past.length > 0,
  told: untold(board, own).map(({ says }) => says),
});
/** As it was written, or as prepared where it can no longer be read. */
const read = (raw: unknown): Own => ownSchema.safeParse(raw).data ?? asPrepared();

export async function findOwnToday(tx: Tx, access: Access, board: Board): Promise<OwnToday> {
  const [row] = await tx.select().from(ownRooms).where(mine(access));
  return tell(board, row ? read(row.today) : asPrepared(), row?.past ?? []);
}

/** Changes somebody's Today, or takes their last change back. Runs in a transaction. */
export async function changeOwnToday(tx: Tx, access: Access, change: OwnChange | { do: 'undo' }): Promise<OwnToday> {
  const {
    room: { dashboard },
  } = await loadRoom(tx, access);
  const key = { siteId: access.site.id, personId: Number(access.who.id) };
  // A room that nobody holds yet has nobody whose arrangement could be kept.
  const isSomebody = key.personId > 0;
  if (isSomebody)
    await tx
      .insert(ownRooms)
      .values({ ...key, today: asPrepared() })
      .onConflictDoNothing();
  const [row] = await tx.select().from(ownRooms).where(mine(access)).for('update');
  const before = row ? read(row.today) : asPrepared();
  const past = (row?.past ?? []).map(read);
  const nameOf = (placed: Parameters<typeof entryName>[1]) => entryName(inventory, placed);
  const after = change.do === 'undo' ? past[0] : changedOwn(dashboard, before, change, nameOf);
  if (after === undefined) throw new Problem('nothing-to-undo');
  if (after === null) throw new Problem('widget-stays');
  const left =
    change.do === 'undo' ? past.slice(1) : change.do === 'heard' ? past : [before, ...past].slice(0, MOST_PAST);
  if (isSomebody) await tx.update(ownRooms).set({ today: after, past: left, updatedAt: now() }).where(mine(access));
  return tell(dashboard, after, left);
}
