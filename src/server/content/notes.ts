import { and, desc, eq, sql } from 'drizzle-orm';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { pageNotes, people } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound } from '../gate/problems';

/** A word about a page among those who keep it. */
export interface Note {
  id: number;
  text: string;
  by: string;
  at: string;
  settled: boolean;
}

/** The notes of a page: those not settled first, each newest first. */
export async function listNotes(tx: Tx, siteId: number, pageId: number): Promise<Note[]> {
  const rows = await tx
    .select({ note: pageNotes, name: people.name })
    .from(pageNotes)
    .leftJoin(people, eq(people.id, pageNotes.madeBy))
    .where(and(eq(pageNotes.siteId, siteId), eq(pageNotes.pageId, pageId)))
    .orderBy(sql`${pageNotes.settledAt} is not null`, desc(pageNotes.id))
    .limit(50);
  return rows.map(({ note, name }) => ({
    id: note.id,
    text: note.text,
    by: name ?? 'Somebody',
    at: note.madeAt.toISOString(),
    settled: note.settledAt !== null,
  }));
}

export async function addNote(tx: Tx, access: Access, pageId: number, text: string): Promise<{ notes: Note[] }> {
  await tx.insert(pageNotes).values({ siteId: access.site.id, pageId, text, madeBy: access.signedInId });
  return { notes: await listNotes(tx, access.site.id, pageId) };
}

export async function settleNote(
  tx: Tx,
  access: Access,
  pageId: number,
  id: number,
  settled: boolean,
): Promise<{ notes: Note[] }> {
  const rows = await tx
    .update(pageNotes)
    .set({ settledAt: settled ? now() : null })
    .where(and(eq(pageNotes.siteId, access.site.id), eq(pageNotes.pageId, pageId), eq(pageNotes.id, id)))
    .returning({ id: pageNotes.id });
  if (rows.length === 0) throw notFound('This note');
  return { notes: await listNotes(tx, access.site.id, pageId) };
}
