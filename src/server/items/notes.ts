import { and, desc, eq, sql } from 'drizzle-orm';
import type { Note } from '@/core/wire';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { notes, people } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound } from '../gate/problems';

/** The notes of a page: those not settled first, each newest first. */
export async function listNotes(tx: Tx, siteId: number, itemId: number): Promise<Note[]> {
  const rows = await tx
    .select({ note: notes, name: people.name })
    .from(notes)
    .leftJoin(people, eq(people.id, notes.madeBy))
    .where(and(eq(notes.siteId, siteId), eq(notes.itemId, itemId)))
    .orderBy(sql`${notes.settledAt} is not null`, desc(notes.id))
    .limit(50);
  return rows.map(({ note, name }) => ({
    id: note.id,
    text: note.text,
    by: name ?? 'Somebody',
    at: note.madeAt.toISOString(),
    settled: note.settledAt !== null,
  }));
}

export async function addNote(tx: Tx, access: Access, itemId: number, text: string): Promise<{ notes: Note[] }> {
  await tx.insert(notes).values({ siteId: access.site.id, itemId, text, madeBy: access.signedInId });
  return { notes: await listNotes(tx, access.site.id, itemId) };
}

export async function settleNote(
  tx: Tx,
  access: Access,
  itemId: number,
  id: number,
  settled: boolean,
): Promise<{ notes: Note[] }> {
  const rows = await tx
    .update(notes)
    .set({ settledAt: settled ? now() : null })
    .where(and(eq(notes.siteId, access.site.id), eq(notes.itemId, itemId), eq(notes.id, id)))
    .returning({ id: notes.id });
  if (rows.length === 0) throw notFound('This note');
  return { notes: await listNotes(tx, access.site.id, itemId) };
}
