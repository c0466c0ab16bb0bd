import {
  asPrepared,
  changedOwn,
  gone,
  ownSchema,
  standsByItself,
  untold,
  type Board,
  type Own,
  type OwnChange,
} from '@/core/dashboard';
import { canonical } from '@/core/json';
import { entryName } from '@/core/plan';
import { and, eq, isNotNull } from 'drizzle-orm';
import { among } from '../db/among';
import { db, type Tx } from '../db/client';
import { ownRooms } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { changeOwnRoom, type OwnRow } from '../ownRooms';
import { loadRoom } from '../room';

/** How many of their last changes somebody can take back. */
const MOST_PAST = 20;

/** What somebody changed of Today, and what could not be kept of it and was not told yet. */
export interface OwnToday {
  own: Own;
  canUndo: boolean;
  told: string[];
}

const tell = (board: Board, own: Own, past: readonly Own[], stood: Record<string, string> | null): OwnToday => ({
  own,
  canUndo: past.length > 0,
  told: [...untold(board, own).map(({ says }) => says), ...gone(board, own, stood ?? {})],
});
/** As it was written, or as prepared where it can no longer be read. */
const read = (raw: unknown): Own => ownSchema.safeParse(raw).data ?? asPrepared();

/** What is kept of somebody's room, as their Today on a board. */
export const readOwnToday = (row: OwnRow | undefined, board: Board): OwnToday =>
  tell(board, read(row?.today), row?.past ?? [], row?.stood ?? null);

/** What some people made of their Today, by person; whoever changed nothing is left out. One question. */
export async function listOwnToday(tx: Tx, siteId: number, people: readonly number[]): Promise<Record<string, Own>> {
  const rows = await tx
    .select({ personId: ownRooms.personId, today: ownRooms.today })
    .from(ownRooms)
    .where(and(eq(ownRooms.siteId, siteId), among(ownRooms.personId, people), isNotNull(ownRooms.today)));
  return Object.fromEntries(rows.map(({ personId, today }) => [String(personId), read(today)]));
}

/**
 * Keeps what stands on somebody's Today by itself, once they see it: so that they can be told when it no longer does.
 * While they have something of that to read, nothing. Writes only what differs.
 */
export async function keepStanding(access: Access, row: OwnRow | undefined, board: Board): Promise<void> {
  if (access.trial !== null || gone(board, read(row?.today), row?.stood ?? {}).length > 0) return;
  const stood = standsByItself(board, (placed) => entryName(access.inventory, placed));
  if (canonical(stood) === canonical(row?.stood ?? null)) return;
  await db.transaction((tx) => changeOwnRoom(tx, access, () => ({ after: { stood }, gives: undefined })));
}

/** Changes somebody's Today, or takes their last change back. Runs in a transaction. */
export async function changeOwnToday(tx: Tx, access: Access, change: OwnChange | { do: 'undo' }): Promise<OwnToday> {
  const {
    room: { dashboard },
  } = await loadRoom(tx, access);
  const nameOf = (placed: Parameters<typeof entryName>[1]) => entryName(access.inventory, placed);
  return changeOwnRoom(tx, access, (row) => {
    const before = read(row?.today);
    const past = (row?.past ?? []).map(read);
    const today = change.do === 'undo' ? past[0] : changedOwn(dashboard, before, change, nameOf);
    if (today === undefined) throw new Problem('nothing-to-undo');
    if (today === null) throw new Problem('widget-stays');
    const left =
      change.do === 'undo' ? past.slice(1) : change.do === 'heard' ? past : [before, ...past].slice(0, MOST_PAST);
    const stood = change.do === 'heard' ? standsByItself(dashboard, nameOf) : (row?.stood ?? null);
    return { after: { today, past: left, stood }, gives: tell(dashboard, today, left, stood) };
  });
}
