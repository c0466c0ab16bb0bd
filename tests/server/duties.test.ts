import { and, desc, eq, like } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { dayAfter } from '@/core/duties';
import type { Duty } from '@/core/wire';
import { dayKey } from '@/core/words';
import { PUT as change } from '@/pages/api/duties/[id]/index';
import { POST as remove } from '@/pages/api/duties/[id]/remove';
import { POST as turn } from '@/pages/api/duties/[id]/turn';
import { POST as give } from '@/pages/api/duties/index';
import { db } from '@/server/db/client';
import { activity, assignments, duties, mails, people } from '@/server/db/schema';
import { listDuties, listOwnDuties } from '@/server/duties/duties';
import { remindOfDuties } from '@/server/duties/reminders';
import { accessOf, call, inForce, role, signInAs, somebody } from './ask';

await inForce(...role('steward', 'duty.*', 'person.view'), ...role('giver', 'duty.*'));
const wren = await somebody('Wren', { role: 'steward' });
const today = dayKey(new Date(), 'Europe/London');
const [ines, oskar] = [await signInAs('Ines'), await signInAs('Oskar')];

const made = async (more: object = {}): Promise<Duty> => {
  const answer = await call(give, 'POST', '/x', {
    ...wren,
    body: { text: 'Count the boats', whose: String(ines.id), due: null, every: null, ...more },
  });
  return answer.body['duty'] as Duty;
};
const turned = (who: typeof ines, { id, version }: Pick<Duty, 'id' | 'version'>, what: string) =>
  call(turn, 'POST', '/x', { ...who, params: { id: String(id) }, body: { do: what, version } });
const dutyOf = (answer: { body: Record<string, unknown> }) => answer.body['duty'] as Duty;
const lastDone = async () => (await db.select().from(activity).orderBy(desc(activity.id)).limit(1))[0];

describe('a duty', () => {
  it('is given to somebody, who has it on Today and is told by a mail', async () => {
    const duty = await made({ due: today });
    expect(duty).toMatchObject({
      text: 'Count the boats',
      whose: { name: 'Ines Varga' },
      by: { name: 'Wren' },
      over: false,
    });
    expect((await listOwnDuties(db, await accessOf('Ines'))).map(({ id }) => id)).toContain(duty.id);
    expect((await listOwnDuties(db, await accessOf('Oskar'))).map(({ id }) => id)).not.toContain(duty.id);
    const [mail] = await db.select().from(mails).orderBy(desc(mails.id)).limit(1);
    expect(mail).toMatchObject({ to: 'ines@larkhaven.example', subject: 'It is your turn: Count the boats' });
    expect(await lastDone()).toMatchObject({ action: 'gave a duty', subject: 'Count the boats' });
  });
  it('is ticked off by either side and by nobody else, and the tick can be taken back', async () => {
    const duty = await made();
    expect((await turned(oskar, duty, 'tick')).body).toMatchObject({ status: 403, code: 'duty-not-yours' });
    const done = dutyOf(await turned(ines, duty, 'tick'));
    expect(done).toMatchObject({ over: true, done: { by: 'Ines Varga' } });
    expect(await lastDone()).toMatchObject({ action: 'ticked off a duty', personId: ines.id });
    expect((await turned(ines, done, 'tick')).body).toMatchObject({ code: 'duty-over' });
    const open = dutyOf(await turned(wren, done, 'untick'));
    expect(open).toMatchObject({ over: false, done: null });
    expect(dutyOf(await turned(wren, open, 'tick'))).toMatchObject({ over: true, done: { by: 'Wren' } });
  });
  it('that comes again is due next after today, and on its old day again when the tick is taken back', async () => {
    const missed = dayAfter(today, 'week', -3) ?? '';
    const duty = await made({ due: missed, every: 'week' });
    const done = dutyOf(await turned(ines, duty, 'tick'));
    expect(done).toMatchObject({ over: false, due: dayAfter(missed, 'week', 4) });
    expect((await listOwnDuties(db, await accessOf('Ines'))).map(({ id }) => id)).toContain(duty.id);
    expect(dutyOf(await turned(ines, done, 'untick'))).toMatchObject({ due: missed, done: null });
  });
  it('that is done before its day is due next after that day, not again on it', async () => {
    for (const [weeks, next] of [
      [-1, 1],
      [0, 1],
      [1, 2],
      [3, 4],
    ] as const) {
      let duty = await made({ due: dayAfter(today, 'week', weeks), every: 'week' });
      // The second time as the first.
      for (const more of [0, 1, 2]) {
        duty = dutyOf(await turned(ines, duty, 'tick'));
        expect(duty, `${weeks} weeks, ${more} ticks before`).toMatchObject({
          due: dayAfter(today, 'week', next + more),
        });
      }
    }
  });
  it('needs a day where it comes again, a text, and somebody who can come in', async () => {
    const bad = async (more: object) =>
      (
        await call(give, 'POST', '/x', {
          ...wren,
          body: { text: 'x', whose: String(ines.id), due: null, every: null, ...more },
        })
      ).body;
    expect(await bad({ every: 'month' })).toMatchObject({ status: 422, faults: [{ field: 'due' }] });
    expect(await bad({ due: '2027-02-30' })).toMatchObject({ status: 422, faults: [{ field: 'due' }] });
    expect(await bad({ text: '  ' })).toMatchObject({ status: 422, faults: [{ field: 'text' }] });
    expect(await bad({ whose: '99999' })).toMatchObject({ code: 'person-cannot', faults: [{ field: 'whose' }] });
    const gone = await somebody('Gone');
    expect(await bad({ whose: String(gone.id) })).toMatchObject({
      code: 'person-cannot',
      faults: [{ field: 'whose' }],
    });
  });
  it('is handed over, given back, and refused where somebody changed it meanwhile', async () => {
    const duty = await made();
    const params = { id: String(duty.id) };
    const to = (whose: number, version: number) =>
      call(change, 'PUT', '/x', {
        ...wren,
        params,
        body: { version, duty: { text: duty.text, whose: String(whose), due: null, every: null } },
      });
    const handed = dutyOf(await to(oskar.id, duty.version));
    expect(handed.whose.name).toBe('Oskar Finch');
    expect(await lastDone()).toMatchObject({ action: 'handed over a duty', detail: 'For Oskar Finch' });
    expect((await to(ines.id, duty.version)).body).toMatchObject({ code: 'duty-moved' });
    expect((await turned(ines, handed, 'give-back')).body).toMatchObject({ code: 'duty-not-yours' });
    expect((await turned(ines, duty, 'give-back')).body).toMatchObject({ code: 'duty-not-yours' });
    expect((await turned(oskar, duty, 'give-back')).body).toMatchObject({ code: 'duty-moved' });
    const back = dutyOf(await turned(oskar, handed, 'give-back'));
    expect(back.whose.name).toBe('Wren');
    const [mail] = await db.select().from(mails).orderBy(desc(mails.id)).limit(1);
    expect(mail).toMatchObject({ to: 'wren@larkhaven.example', subject: 'It is your turn: Count the boats' });
    expect((await turned(wren, back, 'give-back')).body).toMatchObject({ code: 'duty-own' });
    expect((await call(remove, 'POST', '/x', { ...wren, params })).status).toBe(200);
    expect((await turned(wren, back, 'tick')).status).toBe(404);
  });
  it('that is changed to another day, or to be done once, is open: what was ticked off was for the days before', async () => {
    const duty = await made({ due: today, every: 'month' });
    const done = dutyOf(await turned(ines, duty, 'tick'));
    const once = await call(change, 'PUT', '/x', {
      ...wren,
      params: { id: String(duty.id) },
      body: { version: done.version, duty: { text: duty.text, whose: String(ines.id), due: done.due, every: null } },
    });
    expect(dutyOf(once)).toMatchObject({ over: false, done: null, due: done.due });
    expect((await turned(ines, dutyOf(once), 'untick')).body).toMatchObject({ code: 'duty-not-over' });
  });
  it('is given only to whom one may see: without the right to see people, to who is in the list already and oneself', async () => {
    const giver = await somebody('Gilda', { role: 'giver' });
    const lotte = await signInAs('Lotte');
    const to = (whose: number) =>
      call(give, 'POST', '/x', { ...giver, body: { text: 'x', whose: String(whose), due: null, every: null } });
    expect((await to(lotte.id)).body).toMatchObject({ code: 'person-cannot', faults: [{ field: 'whose' }] });
    for (const known of [giver.id, ines.id]) expect((await to(known)).status).toBe(200);
    await made({ whose: String(lotte.id) });
    expect((await to(lotte.id)).status).toBe(200);
  });
  it('says that nobody looks after it once whoever had it is paused', async () => {
    const duty = await made({ whose: String(oskar.id) });
    const listed = async () => (await listDuties(db, await accessOf('Maud'))).find(({ id }) => id === duty.id)?.away;
    expect(await listed()).toBeNull();
    const paused = (at: Date | null) => db.update(people).set({ suspendedAt: at }).where(eq(people.id, oskar.id));
    await paused(new Date());
    expect(await listed()).toBe('Oskar Finch is paused.');
    await paused(null);
  });
  it('is ticked off once where both sides do so at once', async () => {
    const duty = await made({ text: 'Wind the harbour clock', due: today, every: 'week' });
    const both = await Promise.all([turned(ines, duty, 'tick'), turned(wren, duty, 'tick')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const ticks = await db
      .select()
      .from(activity)
      .where(and(eq(activity.action, 'ticked off a duty'), eq(activity.subject, duty.text)));
    expect(ticks).toHaveLength(1);
    const row = (await listDuties(db, await accessOf('Maud'))).find(({ id }) => id === duty.id);
    expect(row?.due).toBe(dayAfter(today, 'week', 1));
  });
});

describe('whoever’s turn it is', () => {
  const tomorrow = dayKey(new Date(Date.now() + 86_400_000), 'Europe/London');
  const old = async (id: number) =>
    db
      .update(duties)
      .set({ madeAt: new Date(Date.now() - 3 * 86_400_000) })
      .where(eq(duties.id, id));
  const reminded = async (text: string) =>
    (
      await db
        .select()
        .from(mails)
        .where(like(mails.subject, `Due%: ${text}`))
        .orderBy(mails.id)
    ).map(({ to, subject }) => [to, subject]);
  it('is reminded the day before, once, and again for the next time it is due', async () => {
    const duty = await made({ text: 'Wind the clock', due: tomorrow, every: 'week' });
    // Just given: a mail has gone out a moment ago.
    await remindOfDuties(db, true);
    expect(await reminded('Wind the clock')).toEqual([]);
    await old(duty.id);
    await Promise.all([remindOfDuties(db, true), remindOfDuties(db, true), remindOfDuties(db, true)]);
    expect(await reminded('Wind the clock')).toEqual([['ines@larkhaven.example', 'Due tomorrow: Wind the clock']]);
    const [row] = await db.select().from(duties).where(eq(duties.id, duty.id));
    expect(row?.version).toBe(duty.version);
    await db.update(duties).set({ due: today }).where(eq(duties.id, duty.id));
    await remindOfDuties(db, true);
    expect((await reminded('Wind the clock')).at(-1)?.[1]).toBe('Due today: Wind the clock');
    await turned(ines, duty, 'tick');
    await remindOfDuties(db, true);
    expect(await reminded('Wind the clock')).toHaveLength(2);
  });
  it('is not reminded of what is done, late, far off or without a day, nor when paused or without a role', async () => {
    const far = dayKey(new Date(Date.now() + 3 * 86_400_000), 'Europe/London');
    const late = dayKey(new Date(Date.now() - 2 * 86_400_000), 'Europe/London');
    for (const due of [far, late, null]) await old((await made({ text: 'Quiet', due })).id);
    const done = await made({ text: 'Quiet', due: tomorrow });
    await old(done.id);
    await turned(ines, done, 'tick');
    const paused = await somebody('Pell', { role: 'steward' });
    const over = await somebody('Quill', { role: 'steward' });
    for (const { id } of [paused, over])
      await old((await made({ text: 'Quiet', due: tomorrow, whose: String(id) })).id);
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, paused.id));
    await db
      .update(assignments)
      .set({ untilAt: new Date(0) })
      .where(eq(assignments.personId, over.id));
    await remindOfDuties(db, true);
    expect(await reminded('Quiet')).toEqual([]);
    // Both can come in again: then they are.
    await db.update(people).set({ suspendedAt: null }).where(eq(people.id, paused.id));
    await db.update(assignments).set({ untilAt: null }).where(eq(assignments.personId, over.id));
    await remindOfDuties(db, true);
    expect(await reminded('Quiet')).toHaveLength(2);
  });
});
