import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { among } from '../db/among';
import { policyOf } from '@/core/plan';
import { writingOf } from '@/core/room';
import { makersOf } from '@/core/toolbar';
import type { Note, OpenWish } from '@/core/wire';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { notes, people } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow, type Thing } from '../gate/authorize';
import { notFound, Problem } from '../gate/problems';
import { listPeople } from '../people/people';
import { findAllPlaced } from '../tree/tree';
import { formOf } from './forms';
import { hrefFor, hrefOf } from './items';
import { hasPanel } from './allowed';
import { titleOf, titlesOf } from './publishing';

/** The notes of a page: those not settled first, each newest first, with their answers. */
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
    wish: note.wish,
    answers: note.answers,
    by: name ?? 'Somebody',
    at: note.madeAt.toISOString(),
    settled: note.settledAt !== null,
  }));
}

/** Whether somebody may change an item that lies somewhere, and has a tool for what a wish is about. */
function mayGrant(access: Access, { type = 'page', place }: Thing, wish: { field: string; made: string }): boolean {
  if (!place || !mayNow(access, 'item.edit', { type, place }).allowed) return false;
  const { tools } = writingOf(access.inventory, access.plan, access.who, now().getTime()).of(type, place, wish.field);
  return [...makersOf([...access.inventory.tools.values()], wish.made).map(({ id }) => id), 'mode.code'].some((tool) =>
    tools.includes(tool),
  );
}

/** Everybody who could do what is asked for, but for whoever asks. */
async function whoMayGrant(tx: Tx, access: Access, thing: Thing, wish: { field: string; made: string }) {
  const everybody = await listPeople(tx, access.site.id);
  const policy = policyOf(access.inventory, access.plan, everybody);
  return everybody.filter(
    (person) => person.id !== access.who.id && mayGrant({ ...access, who: person, policy }, thing, wish),
  );
}

/** Adds a note, an answer to one, or a wish for a change that somebody else has the tool for. */
export async function addNote(
  tx: Tx,
  access: Access,
  itemId: number,
  thing: Thing,
  given: { text: string; wish?: { field: string; made: string } | undefined; answers?: number | undefined },
): Promise<{ notes: Note[]; to?: string[] }> {
  const { wish, answers } = given;
  if (wish && !formOf(access.inventory, { type: thing.type ?? 'page' }).rich.some(({ id }) => id === wish.field))
    throw new Problem('wish-unknown');
  if (answers !== undefined) {
    const [first] = await tx
      .select({ id: notes.id })
      .from(notes)
      .where(
        and(eq(notes.siteId, access.site.id), eq(notes.itemId, itemId), eq(notes.id, answers), isNull(notes.answers)),
      );
    if (!first) throw notFound('This note');
  }
  await tx
    .insert(notes)
    .values({
      siteId: access.site.id,
      itemId,
      text: given.text,
      wish: wish ?? null,
      answers: answers ?? null,
      madeBy: access.signedInId,
    });
  if (wish)
    await record(tx, access, 'asked for a change of', await titleOf(tx, itemId), {
      href: await hrefFor(tx, access.inventory, itemId),
      detail: given.text,
    });
  return {
    notes: await listNotes(tx, access.site.id, itemId),
    ...(wish && { to: (await whoMayGrant(tx, access, thing, wish)).map(({ name }) => name) }),
  };
}

const askWishes = prepared('open wishes', (tx) =>
  tx
    .select({ note: notes, name: people.name })
    .from(notes)
    .leftJoin(people, eq(people.id, notes.madeBy))
    .where(and(eq(notes.siteId, given('site')), sql`${notes.wish} is not null`, isNull(notes.settledAt)))
    .orderBy(desc(notes.id))
    .limit(200),
);

/** The wishes somebody could grant, and their own that were answered. */
export async function listOpenWishes(tx: Tx, access: Access): Promise<OpenWish[]> {
  const rows = await askWishes(tx, { site: access.site.id });
  if (rows.length === 0) return [];
  const placed = await findAllPlaced(tx, access.site.id, [...new Set(rows.map(({ note }) => note.itemId))]);
  const answers = await tx
    .select({ to: notes.answers, text: notes.text, by: people.name })
    .from(notes)
    .leftJoin(people, eq(people.id, notes.madeBy))
    .where(
      among(
        notes.answers,
        rows.map(({ note }) => note.id),
      ),
    )
    .orderBy(desc(notes.id));
  const open = rows.flatMap(({ note, name }) => {
    const thing = placed.get(note.itemId);
    if (!thing || !note.wish) return [];
    const mine = note.madeBy === access.signedInId;
    const newest = answers.find(({ to }) => to === note.id);
    const isFor = mine ? newest && mayNow(access, 'item.edit', thing).allowed : mayGrant(access, thing, note.wish);
    const answer = newest ? { text: newest.text, by: newest.by ?? 'Somebody' } : null;
    const mayAnswer = hasPanel(access, thing, 'notes');
    return isFor ? [{ note, type: thing.type, name: name ?? 'Somebody', answer, mine, mayAnswer }] : [];
  });
  const titles = await titlesOf(
    tx,
    open.map(({ note }) => note.itemId),
  );
  return open.map(({ note, type, name, ...wish }) => ({
    ...wish,
    id: note.id,
    item: note.itemId,
    title: titles.get(note.itemId) ?? 'Untitled',
    href: hrefOf(access.inventory, { id: note.itemId, type }),
    text: note.text,
    by: name,
    at: note.madeAt.toISOString(),
  }));
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
