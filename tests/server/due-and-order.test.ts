import { and, eq, isNull, like } from 'drizzle-orm';
import { describe, expect, it, vi } from 'vitest';
import { POST as addNote } from '@/pages/api/items/[id]/notes';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as post } from '@/pages/api/notices/index';
import { POST as move } from '@/pages/api/people/move';
import { POST as makeVacancy } from '@/pages/api/vacancies/index';
import { publishingOf } from '@/core/plan';
import { dayKey } from '@/core/words';
import { doc, p } from '@/demo/write';
import { db } from '@/server/db/client';
import { assignments, drafts, duties, items, notes, people, publications } from '@/server/db/schema';
import { findSite, type Site } from '@/server/gate/access';
import { noticesShowing } from '@/server/notices/notices';
import { assignmentsInWords } from '@/server/people/assign';
import { listCare } from '@/server/today/care';
import { listComingUp } from '@/server/today/comingUp';
import { listChangedLately } from '@/server/today/lately';
import { findPlace, listPages } from '@/server/tree/tree';
import { listOpenOn } from '@/server/vacancies/vacancies';
import { randomFrom } from '../oracles/worlds';
import { accessOf, call, inForce, pageId, signInAs, siteId, somebody } from './ask';

const DAY_MS = 86_400_000;

describe('what comes up', () => {
  it('is of duties what a plain list of them says: due today or later, not done unless it comes again, soonest first', async () => {
    const random = randomFrom(7);
    const [{ id: maud }, site] = [await signInAs('Maud'), await siteId()];
    const access = await accessOf('Maud');
    const today = dayKey(new Date(), access.site.timeZone);
    const dayIn = (days: number) => dayKey(new Date(Date.parse(`${today}T12:00:00Z`) + days * DAY_MS), 'UTC');
    await db.delete(duties).where(eq(duties.siteId, site));
    const made = Array.from({ length: 60 }, (_, n) => ({
      text: `Duty ${n}`,
      due: random.chance(0.15) ? null : dayIn(random.below(9) - 4),
      doneAt: random.chance(0.3) ? new Date() : null,
      every: random.chance(0.3) ? ('week' as const) : null,
    }));
    await db.insert(duties).values(made.map((one) => ({ ...one, siteId: site, whose: maud, madeBy: maud })));
    const told = await listComingUp(db, access, await listPages(db, site), { kind: 'duties' });
    // The second program: every duty by itself.
    const coming = made.filter(({ due, doneAt, every }) => due !== null && due >= today && (!doneAt || every));
    expect(new Set(told.map(({ about }) => about))).toEqual(new Set(coming.map(({ text }) => text)));
    expect(told.length).toBe(coming.length);
    expect(coming.some(({ due }) => due === today)).toBe(true);
    const days = told.map(({ about }) => made.find(({ text }) => text === about)?.due ?? '');
    expect(days).toEqual([...days].sort());
    await db.delete(duties).where(eq(duties.siteId, site));
  });
});

describe('what stands in an order', () => {
  it('notices show warnings first, whichever was posted last; of one kind the newest', async () => {
    const maud = await signInAs('Maud');
    const page = String(await pageId('Port Ennis'));
    for (const [text, kind] of [
      ['Order one', 'warning'],
      ['Order two', 'information'],
      ['Order three', 'warning'],
      ['Order four', 'information'],
    ])
      expect((await call(post, 'POST', '/x', { ...maud, body: { text, kind, page } })).status).toBe(200);
    const path = (await findPlace(db, await siteId(), Number(page)))?.path ?? [];
    const shown = (await noticesShowing(db, await siteId(), path)).map(({ text }) => text);
    expect(shown.filter((text) => text.startsWith('Order'))).toEqual([
      'Order three',
      'Order one',
      'Order four',
      'Order two',
    ]);
  });

  it('vacancies stand by their last day, those without one last, and are gone by the clock of the site', async () => {
    const maud = await signInAs('Maud');
    const fares = await pageId('Fares');
    // Where that is only advised a vacancy may stay open.
    const usual = publishingOf((await accessOf('Maud')).plan);
    await inForce({ do: 'set-publishing', publishing: { ...usual, checks: { ...usual.checks, required: 'advise' } } });
    for (const [title, closes] of [
      ['Open-ended', null],
      ['In March', '2090-03-01'],
      ['In February', '2090-02-01'],
    ]) {
      const made = await call(makeVacancy, 'POST', '/x', { ...maud, body: { title, page: String(fares) } });
      const params = { id: String(made.body['id']) };
      const content = { title, closes, body: doc(p('What there is to do.')) };
      expect((await call(putDraft, 'PUT', '/x', { ...maud, params, body: { content, version: 1 } })).status).toBe(200);
      const body = { content, version: 2, note: 'New' };
      expect(await call(publish, 'POST', '/x', { ...maud, params, body })).toMatchObject({ status: 200 });
    }
    const site = (await findSite(db)) as Site;
    const open = async (timeZone: string) =>
      (await listOpenOn(db, { id: site.id, timeZone }, String(fares))).map(({ content }) => content['title']);
    expect(await open('Europe/London')).toEqual(['In February', 'In March', 'Open-ended']);
    // On the evening of its last day in one place the next day has come in another.
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2090-02-01T22:00:00Z') });
    try {
      expect(await open('Asia/Tokyo')).toEqual(['In March', 'Open-ended']);
      expect(await open('America/New_York')).toEqual(['In February', 'In March', 'Open-ended']);
    } finally {
      vi.useRealTimers();
    }
  });
});

describe('what is told', () => {
  it('of the end of a role is its last day, not the one after', async () => {
    const told = await assignmentsInWords(db, await accessOf('Maud'), [
      // Until the first of October begins in London, where summer time still is.
      { role: 'harbour-desk', fromMs: Date.UTC(2090, 2, 1), untilMs: Date.UTC(2090, 8, 30, 23) },
    ]);
    expect(told).toEqual([expect.stringMatching(/, from 1 March 2090 to 30 September 2090$/)]);
  });

  it('a link that leads somewhere by now is not called broken any more, whatever was found when it was published', async () => {
    const access = await accessOf('Maud');
    const id = await pageId('Fares');
    const [row] = await db.select({ findings: items.findings }).from(items).where(eq(items.id, id));
    const told = async () =>
      (await listCare(db, access, await listPages(db, access.site.id), {})).find((one) => one.id === String(id));
    await db
      .update(items)
      .set({ findings: ['links'] })
      .where(eq(items.id, id));
    expect(await told()).toBeUndefined();
    await db
      .update(items)
      .set({ findings: ['links', 'sentences'] })
      .where(eq(items.id, id));
    expect(await told()).toMatchObject({ found: ['Long sentences'] });
    await db
      .update(items)
      .set({ findings: row?.findings ?? [] })
      .where(eq(items.id, id));
  });
});

describe('the second of two like cases', () => {
  it('holders are moved to a role that some of them hold already; who holds both holds it once', async () => {
    const maud = await signInAs('Maud');
    const both = await somebody('Bo Marsh', { role: 'picture-keeper' }, { role: 'second-look' });
    const held = async (id: number) =>
      (await db.select().from(assignments).where(eq(assignments.personId, id))).map(({ roleId }) => roleId).sort();
    expect(await held(both.id)).toEqual(['picture-keeper', 'second-look']);
    const answer = await call(move, 'POST', '/x', { ...maud, body: { from: 'picture-keeper', to: 'second-look' } });
    expect(answer).toMatchObject({ status: 200 });
    expect(await held(both.id)).toEqual(['second-look']);
    expect(await held((await signInAs('Lotte')).id)).toEqual(['second-look']);
  });

  it('a note is answered, an answer is not, nor a note of another page', async () => {
    const maud = await signInAs('Maud');
    const [fares, contact] = [await pageId('Fares'), await pageId('Contact')];
    const say = (page: number, body: object) =>
      call(addNote, 'POST', '/x', { ...maud, params: { id: String(page) }, body });
    expect((await say(fares, { text: 'Is this so?' })).status).toBe(200);
    const idOf = async (text: string) =>
      (await db.select().from(notes).where(like(notes.text, text))).map(({ id }) => id)[0] ?? 0;
    const first = await idOf('Is this so?');
    expect((await say(contact, { text: 'Elsewhere', answers: first })).status).toBe(404);
    expect((await say(fares, { text: 'It is.', answers: first })).status).toBe(200);
    expect((await say(fares, { text: 'Is it?', answers: await idOf('It is.') })).status).toBe(404);
    const open = await db
      .select()
      .from(notes)
      .where(and(eq(notes.itemId, fares), isNull(notes.answers)));
    expect(open.map(({ text }) => text)).toContain('Is this so?');
  });
});

// The last: it leaves other drafts behind.
describe('what was changed lately', () => {
  it('is of every page what happened last to it, a draft kept or a version published, as a plain list says', async () => {
    const random = randomFrom(11);
    const { site } = await accessOf('Maud');
    const ago = (seconds: number) => new Date(Date.now() - seconds * 1000);
    const pages = (await db.select().from(items).where(eq(items.siteId, site.id))).filter(
      ({ type, deletedAt }) => type === 'page' && deletedAt === null,
    );
    const [{ id: ines }, { id: oskar }] = [await signInAs('Ines'), await signInAs('Oskar')];
    const plain: { id: string; at: Date; did: string; by: string }[] = [];
    await db.delete(drafts);
    for (const { id, liveRevisionId } of pages) {
      const [kept, out] = [ago(random.below(90_000)), ago(random.below(90_000))];
      const isKept = random.chance(0.6);
      if (isKept)
        await db
          .insert(drafts)
          .values({
            itemId: id,
            siteId: site.id,
            content: { title: `Page ${id}` },
            version: 1,
            writers: [ines],
            startedBy: ines,
            updatedBy: ines,
            updatedAt: kept,
          });
      if (liveRevisionId !== null)
        await db
          .insert(publications)
          .values({ siteId: site.id, itemId: id, revisionId: liveRevisionId, publishedBy: oskar, publishedAt: out });
      const outs = await db
        .select({ at: publications.publishedAt, by: people.name })
        .from(publications)
        .innerJoin(people, eq(people.id, publications.publishedBy))
        .where(eq(publications.itemId, id));
      const happened = [
        ...(isKept ? [{ at: kept, did: 'draft', by: 'Ines Varga' }] : []),
        ...(liveRevisionId === null ? [] : outs.map((one) => ({ ...one, did: 'published' }))),
      ].sort((a, b) => b.at.getTime() - a.at.getTime());
      if (happened[0]) plain.push({ id: String(id), ...happened[0] });
    }
    plain.sort((a, b) => b.at.getTime() - a.at.getTime());
    const access = await accessOf('Maud');
    const seen = await listPages(db, site.id);
    for (const most of [1, 5, 100]) {
      const told = await listChangedLately(db, access, seen, { most });
      expect(told.map(({ id, did, by }) => ({ id, did, by }))).toEqual(
        plain.slice(0, most).map(({ id, did, by }) => ({ id, did, by })),
      );
    }
    expect(new Set(plain.map(({ did }) => did)).size).toBe(2);
  });
});
