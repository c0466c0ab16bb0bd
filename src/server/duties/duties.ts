import { and, asc, eq, isNull, or, gt, sql } from 'drizzle-orm';
import { isInForce } from '@/core/access';
import { EVERY_WORDS, nextDue } from '@/core/duties';
import type { Duty, NewDuty } from '@/core/wire';
import { dayKey, sayCalendarDay } from '@/core/words';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { duties } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { notFound, Problem, problemAt } from '../gate/problems';
import { sendMail } from '../people/mails';
import { listPeople, type Person } from '../people/people';

type Row = typeof duties.$inferSelect;

/** For how long what is over stays in the list. */
const KEPT_MS = 30 * 86_400_000;

/** Why nobody looks after what is somebody's. */
function awayInWords(person: Person | undefined): string | null {
  if (!person) return 'Nobody is asked.';
  if (person.suspended) return `${person.name} is paused.`;
  return person.assignments.some((a) => isInForce(a, now().getTime()))
    ? null
    : `${person.name} holds no role at present.`;
}

/** A duty as lists have it. */
function told(access: Access, everybody: readonly Person[], row: Row): Duty {
  const nameOf = (id: number | null) => everybody.find((person) => person.id === String(id));
  const [whose, by] = [nameOf(row.whose), nameOf(row.madeBy)];
  return {
    id: row.id,
    text: row.text,
    whose: { id: String(row.whose), name: whose?.name ?? 'nobody' },
    by: { id: String(row.madeBy), name: by?.name ?? 'Somebody' },
    away: awayInWords(whose),
    due: row.due,
    every: row.every,
    done: row.doneAt && { at: row.doneAt.toISOString(), by: nameOf(row.doneBy)?.name ?? 'somebody' },
    over: isOver(row),
    version: row.version,
    mayTick: mayTick(access, row),
  };
}
const isOver = ({ every, doneAt }: Row) => every === null && doneAt !== null;
const mayTick = (access: Access, { whose, madeBy }: Row) =>
  [whose, madeBy].some((id) => String(id) === access.who.id) || mayNow(access, 'duty.manage').allowed;

const inOrder = [sql`${duties.due} asc nulls last`, asc(duties.id)];

/** Everything that is to be looked after, by the day it is due, and what was done in the last thirty days. Three questions. */
export async function listDuties(tx: Tx, access: Access): Promise<Duty[]> {
  const everybody = await listPeople(tx, access.site.id);
  const rows = await tx
    .select()
    .from(duties)
    .where(
      and(
        eq(duties.siteId, access.site.id),
        or(
          isNull(duties.doneAt),
          sql`${duties.every} is not null`,
          gt(duties.doneAt, new Date(now().getTime() - KEPT_MS)),
        ),
      ),
    )
    .orderBy(...inOrder);
  return rows.map((row) => told(access, everybody, row));
}

const askOwn = prepared('duties of somebody', (tx) =>
  tx
    .select()
    .from(duties)
    .where(
      and(
        eq(duties.siteId, given('site')),
        eq(duties.whose, given('person')),
        or(isNull(duties.doneAt), sql`${duties.every} is not null`),
      ),
    )
    .orderBy(...inOrder),
);
/** What it is somebody's turn to do; what they gave themselves they cannot give back. One question. */
export async function listOwnDuties(tx: Tx, access: Access) {
  const rows = await askOwn(tx, { site: access.site.id, person: Number(access.who.id) });
  return rows.map(({ id, text, due, every, version, whose, madeBy }) => ({
    id,
    text,
    due,
    every,
    version,
    mayGiveBack: whose !== madeBy,
  }));
}

/** A duty, which nobody else changes meanwhile. */
async function mustLock(tx: Tx, access: Access, id: number): Promise<Row> {
  const [row] = await tx
    .select()
    .from(duties)
    .where(and(eq(duties.siteId, access.site.id), eq(duties.id, id)))
    .for('update');
  if (!row) throw notFound('This duty');
  return row;
}
/** Refuses to overwrite what somebody else changed since it was read. */
function mustBeAsRead(row: Row, version: number): void {
  if (row.version !== version) throw new Problem('duty-moved');
}

/**
 * Whom somebody can give a duty: who can come in at present, as far as they may know of them. For whom People is closed
 * that is themselves, and who is named in the list of duties already.
 */
export async function listAssignees(tx: Tx, access: Access, everybody: readonly Person[]): Promise<Person[]> {
  const able = everybody.filter((person) => awayInWords(person) === null);
  if (mayNow(access, 'person.view').allowed) return able;
  const rows = await tx
    .select({ whose: duties.whose, by: duties.madeBy })
    .from(duties)
    .where(eq(duties.siteId, access.site.id));
  const known = new Set([access.who.id, ...rows.flatMap(({ whose, by }) => [String(whose), String(by)])]);
  return able.filter(({ id }) => known.has(id));
}

async function mustFindWhose(tx: Tx, access: Access, everybody: readonly Person[], id: string): Promise<Person> {
  const person = (await listAssignees(tx, access, everybody)).find((one) => one.id === id);
  if (!person) throw problemAt('whose', 'person-cannot');
  return person;
}

/** As the activity and a mail tell it: "for Ines Varga, until 1 March 2027, every year". */
const details = (access: Access, whose: string, { due, every }: Pick<NewDuty, 'due' | 'every'>) =>
  [
    `For ${whose}`,
    ...(due === null ? [] : [`until ${sayCalendarDay(due, siteCalendar(access.site).language)}`]),
    ...(every === null ? [] : [EVERY_WORDS[every]]),
  ].join(', ');

/** Tells somebody that it is their turn; nobody is told of what they did themselves. */
async function tell(
  tx: Tx,
  access: Access,
  whose: Person,
  given: Pick<NewDuty, 'text' | 'due' | 'every'>,
): Promise<void> {
  if (whose.id === String(access.signedInId)) return;
  await sendMail(tx, access.site.id, {
    to: whose.email,
    subject: `It is your turn: ${given.text}`,
    text: `${given.text}\n\n${details(access, whose.name, given)}. It stands on Today, where you can tick it off or give it back.`,
  });
}

/** Gives somebody something to look after. Runs in a transaction. */
export async function makeDuty(tx: Tx, access: Access, given: NewDuty): Promise<{ duty: Duty }> {
  const everybody = await listPeople(tx, access.site.id);
  const whose = await mustFindWhose(tx, access, everybody, given.whose);
  const [row] = await tx
    .insert(duties)
    .values({
      siteId: access.site.id,
      text: given.text,
      whose: Number(whose.id),
      madeBy: access.signedInId,
      due: given.due,
      first: given.due,
      every: given.every,
    })
    .returning();
  if (!row) throw new Error('a duty was not written');
  await record(tx, access, 'gave a duty', given.text, { href: HREF, detail: details(access, whose.name, given) });
  await tell(tx, access, whose, given);
  return { duty: told(access, everybody, row) };
}
const HREF = '/room/duties';

/** Changes a duty, or hands it over to somebody else. Runs in a transaction. */
export async function changeDuty(
  tx: Tx,
  access: Access,
  id: number,
  { duty: given, version }: { duty: NewDuty; version: number },
): Promise<{ duty: Duty }> {
  const row = await mustLock(tx, access, id);
  mustBeAsRead(row, version);
  const everybody = await listPeople(tx, access.site.id);
  const isHandedOver = given.whose !== String(row.whose);
  const whose = isHandedOver
    ? await mustFindWhose(tx, access, everybody, given.whose)
    : everybody.find((person) => person.id === given.whose);
  const [after] = await tx
    .update(duties)
    .set({
      text: given.text,
      whose: Number(given.whose),
      due: given.due,
      // Another day is where it begins to count from; what was ticked off was ticked off for the days before.
      ...((given.due !== row.due || given.every !== row.every) && { ...NOT_DONE, first: given.due }),
      every: given.every,
      version: row.version + 1,
    })
    .where(eq(duties.id, id))
    .returning();
  if (!after) throw notFound('This duty');
  await record(tx, access, isHandedOver ? 'handed over a duty' : 'changed a duty', given.text, {
    href: HREF,
    detail: details(access, whose?.name ?? 'nobody', given),
  });
  if (isHandedOver && whose) await tell(tx, access, whose, given);
  return { duty: told(access, everybody, after) };
}

/** Takes a duty out of the list; the activity keeps its words. Runs in a transaction. */
export async function removeDuty(tx: Tx, access: Access, id: number): Promise<object> {
  const row = await mustLock(tx, access, id);
  await tx.delete(duties).where(eq(duties.id, id));
  await record(tx, access, 'took a duty away', row.text, { href: HREF });
  return {};
}

/**
 * Ticks a duty off, takes that back, or gives it back to whoever gave it. What comes again is due next after today.
 * Either side may: whose turn it is, and who gave it. Runs in a transaction.
 */
export async function turnDuty(
  tx: Tx,
  access: Access,
  id: number,
  { do: what, version }: { do: 'tick' | 'untick' | 'give-back'; version: number },
): Promise<{ duty: Duty }> {
  const row = await mustLock(tx, access, id);
  if (!mayTick(access, row)) throw new Problem('duty-not-yours');
  mustBeAsRead(row, version);
  const everybody = await listPeople(tx, access.site.id);
  const today = dayKey(now(), access.site.timeZone);
  const set = turned(row, what, { today, by: access.signedInId });
  const [after] = await tx
    .update(duties)
    .set({ ...set, version: row.version + 1 })
    .where(eq(duties.id, id))
    .returning();
  if (!after) throw notFound('This duty');
  await record(tx, access, TURNS[what], row.text, {
    href: HREF,
    detail:
      after.every !== null && what === 'tick'
        ? `Due again on ${sayCalendarDay(after.due ?? today, siteCalendar(access.site).language)}.`
        : '',
  });
  const giver = everybody.find(({ id: one }) => one === String(after.whose));
  if (what === 'give-back' && giver) await tell(tx, access, giver, after);
  return { duty: told(access, everybody, after) };
}
const NOT_DONE = { doneAt: null, doneBy: null, doneFor: null };
const TURNS = { tick: 'ticked off a duty', untick: 'took a tick back', 'give-back': 'gave a duty back' } as const;

/** What becomes of a duty. Throws a Problem where it does not stand so. */
function turned(row: Row, what: keyof typeof TURNS, { today, by }: { today: string; by: number }): Partial<Row> {
  switch (what) {
    case 'tick': {
      if (isOver(row)) throw new Problem('duty-over');
      const { first, due, every } = row;
      const again =
        every !== null && first !== null && due !== null && nextDue(first, every, due > today ? due : today);
      return { doneAt: now(), doneBy: by, doneFor: due, ...(again && { due: again }) };
    }
    case 'untick':
      if (row.doneAt === null) throw new Problem('duty-not-over');
      return { ...NOT_DONE, ...(row.every !== null && { due: row.doneFor }) };
    case 'give-back':
      if (row.madeBy === row.whose) throw new Problem('duty-own');
      return { whose: row.madeBy };
  }
}
