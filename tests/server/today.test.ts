import { eq, sql } from 'drizzle-orm';
import { describe, expect, it, vi } from 'vitest';
import { arranged } from '@/core/dashboard';
import type { OwnChange } from '@/core/dashboard';
import { PUT as ownToday } from '@/pages/api/own-today';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as stepIn } from '@/pages/api/workshop/step-in';
import { doc, h3, p } from '@/demo/write';
import { db, pool } from '@/server/db/client';
import { duties, items, missedSearches, ownRooms, people } from '@/server/db/schema';
import { findSite, type Site } from '@/server/gate/access';
import { mustFindTrial } from '@/server/gate/step-in';
import { getEditable } from '@/server/items/editable';
import { listWaiting } from '@/server/items/reviews';
import { listUnfinished } from '@/server/items/unfinished';
import { listOwnDuties } from '@/server/duties/duties';
import { noticesShowing } from '@/server/notices/notices';
import { loadRoom } from '@/server/room';
import { listCare, settleFindings } from '@/server/today/care';
import { findLastChange } from '@/server/today/changed';
import { listComingUp } from '@/server/today/comingUp';
import { listChangedLately } from '@/server/today/lately';
import { findOwnRoom } from '@/server/ownRooms';
import { keepStanding, readOwnToday } from '@/server/today/own';
import { keepMissed, listMissedSearches } from '@/server/today/sought';
import { listWhomToAsk } from '@/server/today/whom';
import { listPages } from '@/server/tree/tree';
import { listVacancies } from '@/server/vacancies/vacancies';
import { tidyOld } from '@/server/work/tidy';
import { accessOf, call, inForce, pageId, signInAs, siteId } from './ask';
import { inventory } from '../inventory';

const change = (who: { cookie: string }, body: OwnChange | { do: 'undo' }) =>
  call(ownToday, 'PUT', '/api/own-today', { ...who, body });
/** What stands on somebody's Today, by its columns. */
async function todayOf(first: string): Promise<string[][]> {
  const access = await accessOf(first);
  const { room } = await loadRoom(db, access);
  const { own } = readOwnToday(await findOwnRoom(db, access), room.dashboard);
  const { columns, shown } = arranged(room.dashboard, own);
  return Array.from({ length: columns }, (_, i) => shown.filter(({ column }) => column === i).map(({ id }) => id));
}

describe('one’s own Today', () => {
  it('is arranged, kept for this person alone, taken back, and as prepared again', async () => {
    const ines = await signInAs('Ines');
    const prepared = await todayOf('Ines');
    expect(prepared).toEqual([['pages.unfinished', 'pages.coming'], ['notices.now', 'frame.word'], ['visits.week']]);
    expect((await change(ines, { do: 'move', entry: 'visits.week', column: 0, index: 0 })).body).toMatchObject({
      canUndo: true,
      told: [],
    });
    await change(ines, { do: 'show', entry: 'pages.coming', on: false });
    await change(ines, { do: 'show', entry: 'frame.whom', on: true });
    const mine = [['visits.week', 'pages.unfinished'], ['notices.now', 'frame.word', 'frame.whom'], []];
    expect(await todayOf('Ines')).toEqual(mine);
    // Tomas holds roles of his own; nothing of hers is his.
    expect((await todayOf('Tomas')).flat()).not.toContain('frame.whom');
    expect((await change(ines, { do: 'as-prepared' })).status).toBe(200);
    expect(await todayOf('Ines')).toEqual(prepared);
    expect((await change(ines, { do: 'undo' })).status).toBe(200);
    expect(await todayOf('Ines')).toEqual(mine);
    for (let i = 0; i < 3; i++) await change(ines, { do: 'undo' });
    expect(await todayOf('Ines')).toEqual(prepared);
    expect((await change(ines, { do: 'undo' })).body).toMatchObject({ code: 'nothing-to-undo' });
  });

  it('leaves what is fixed, and knows nothing of what is not theirs', async () => {
    const ines = await signInAs('Ines');
    for (const body of [
      { do: 'move', entry: 'notices.now', column: 0, index: 0 },
      { do: 'show', entry: 'notices.now', on: false },
      { do: 'collapse', entry: 'notices.now', on: true },
      { do: 'show', entry: 'frame.word', on: false },
      { do: 'show', entry: 'review.waiting', on: true },
    ] as const)
      expect((await change(ines, body)).body, JSON.stringify(body)).toMatchObject({
        status: 403,
        code: 'widget-stays',
      });
    expect((await change({ cookie: '' }, { do: 'as-prepared' })).status).toBe(401);
  });

  it('ends alike when two devices change it at once', async () => {
    const [one, two] = [await signInAs('Oskar'), await signInAs('Oskar')];
    await Promise.all([
      change(one, { do: 'move', entry: 'notices.now', column: 0, index: 0 }),
      change(two, { do: 'collapse', entry: 'notices.now', on: true }),
      change(one, { do: 'show', entry: 'pages.unfinished', on: false }),
      change(two, { do: 'size', entry: 'pages.lately', size: 'wide' }),
    ]);
    const access = await accessOf('Oskar');
    const { room } = await loadRoom(db, access);
    const { own } = readOwnToday(await findOwnRoom(db, access), room.dashboard);
    // Each of the four is in it: none has overwritten another.
    expect(own).toMatchObject({
      collapsed: ['notices.now'],
      away: ['pages.unfinished'],
      sizes: { 'pages.lately': 'wide' },
    });
    expect(own.moves.map(({ id }) => id)).toEqual(['notices.now']);
  });

  it('keeps what one arranged when the plan changes, and tells what could not be kept, once', async () => {
    const ines = await signInAs('Ines');
    await change(ines, { do: 'move', entry: 'visits.week', column: 1, index: 9 });
    await change(ines, { do: 'show', entry: 'pages.coming', on: false });
    const role = 'harbour-desk';
    await inForce(
      { do: 'place-widget', role, entry: 'frame.links', widget: 'frame.links', column: 0, index: 1 },
      { do: 'set-widget', role, entry: 'pages.coming', widget: 'pages.coming', hold: 'fixed', size: 'narrow' },
      { do: 'set-columns', role, count: 2 },
    );
    expect(await todayOf('Ines')).toEqual([
      ['pages.unfinished', 'frame.links', 'pages.coming'],
      ['notices.now', 'frame.word', 'visits.week'],
    ]);
    const told = async () => {
      const access = await accessOf('Ines');
      return readOwnToday(await findOwnRoom(db, access), (await loadRoom(db, access)).room.dashboard).told;
    };
    expect(await told()).toEqual(['“What comes up” is back: from now on it stays on everybody’s Today.']);
    await change(ines, { do: 'heard' });
    expect(await told()).toEqual([]);
    await inForce(
      { do: 'set-widget', role, entry: 'pages.coming', widget: 'pages.coming', hold: 'away', size: 'narrow' },
      { do: 'set-columns', role, count: 3 },
    );
    expect(await todayOf('Ines')).toEqual([
      ['pages.unfinished', 'frame.links'],
      ['notices.now', 'frame.word', 'visits.week'],
      [],
    ]);
  });

  it('tells whoever arranged nothing what left it, once they had seen it there, until they have read that', async () => {
    const oskar = await signInAs('Oskar');
    const role = 'cafe-manager';
    const look = async () => {
      const access = await accessOf('Oskar');
      const { room } = await loadRoom(db, access);
      const row = await findOwnRoom(db, access);
      const { told } = readOwnToday(row, room.dashboard);
      await keepStanding(access, row, room.dashboard);
      return told;
    };
    await change(oskar, { do: 'as-prepared' });
    await change(oskar, { do: 'heard' });
    expect(await look()).toEqual([]);
    const [entry] = (await todayOf('Oskar')).flat();
    if (!entry) throw new Error('nothing stands there');
    await inForce({ do: 'remove-widget', role, entry, widget: entry });
    // As often as it is looked at.
    const left = [expect.stringMatching(/^“.+” is no longer prepared for you\.$/) as string];
    expect(await look()).toEqual(left);
    expect(await look()).toEqual(left);
    await change(oskar, { do: 'heard' });
    expect(await look()).toEqual([]);
    // In a trial of theirs nothing is kept for them.
    const access = await accessOf('Oskar');
    const before = await findOwnRoom(db, access);
    await keepStanding({ ...access, trial: { back: '' } }, before, { columns: 1, widgets: [] });
    expect((await findOwnRoom(db, access))?.stood).toEqual(before?.stood);
  });

  it('is not kept in a trial, and what cannot be read any more is as prepared', async () => {
    const maud = await signInAs('Maud');
    const { id } = await signInAs('Juno');
    await call(stepIn, 'POST', '/x', { ...maud, body: { role: 'newsroom', person: String(id), from: '/workshop' } });
    const tried = await change(maud, { do: 'show', entry: 'pages.unfinished', on: false });
    expect(tried.body).toMatchObject({ trial: true, own: { away: ['pages.unfinished'] } });
    expect(await db.select().from(ownRooms).where(eq(ownRooms.personId, id))).toEqual([]);
    await db
      .insert(ownRooms)
      .values({ siteId: await siteId(), personId: id, today: { odd: true } as never })
      .onConflictDoNothing();
    expect((await todayOf('Juno')).flat()).toContain('pages.unfinished');
  });

  it('is shown to whoever prepares it, and in no room in which more may be done than they may', async () => {
    const maud = await accessOf('Maud');
    const seen = await mustFindTrial(db, maud, { role: 'newsroom' });
    expect(seen.who.assignments).toEqual([{ role: 'newsroom' }]);
    await inForce(
      { do: 'add-grant', role: 'newsroom', grant: { id: 'p', effect: 'allow', permission: 'plan.view', scope: {} } },
      { do: 'add-grant', role: 'newsroom', grant: { id: 'q', effect: 'allow', permission: 'plan.edit', scope: {} } },
    );
    await expect(mustFindTrial(db, await accessOf('Juno'), { role: 'keyholder' })).rejects.toMatchObject({
      code: 'room-beyond',
    });
  });
});

describe('what widgets show', () => {
  const facts = async (first: string) => {
    const access = await accessOf(first);
    return { access, pages: await listPages(db, access.site.id) };
  };

  it('comes up, soonest first, as far as each may look', async () => {
    const coming = async (first: string, settings: { branch?: string; kind?: string } = {}) => {
      const { access, pages } = await facts(first);
      return (await listComingUp(db, access, pages, settings)).map(({ what, about }) => `${what}: ${about}`);
    };
    const all = await coming('Maud');
    expect(all).toContain('access: Sam Ollis');
    expect(all).toContain('alert: Lantern Night on the water');
    expect(all.filter((one) => one.startsWith('notice'))).toHaveLength(2);
    expect(await coming('Ines')).not.toContain('access: Sam Ollis');
    expect(await coming('Maud', { kind: 'people' })).toEqual(['access: Sam Ollis']);
    // Duties: all where the list of them is open, else one's own; what is done, late, or has no day does not come up.
    const [{ id: oskar }, { id: maud }, site] = [await signInAs('Oskar'), await signInAs('Maud'), await siteId()];
    const duty = { siteId: site, whose: oskar, madeBy: maud, due: '2090-05-01' };
    await db.insert(duties).values([
      { ...duty, text: 'Scrub the slipway' },
      { ...duty, text: 'Done long ago', doneAt: new Date() },
      { ...duty, text: 'Missed', due: '2020-05-01' },
      { ...duty, text: 'Some time', due: null },
    ]);
    expect((await coming('Maud', { kind: 'duties' })).at(-1)).toBe('duty: Scrub the slipway');
    const { access, pages } = await facts('Oskar');
    const own = (await listComingUp(db, access, pages, { kind: 'duties' })).filter(
      ({ at }) => at.getFullYear() === 2090,
    );
    expect(own).toMatchObject([{ about: 'Scrub the slipway', whose: null, href: '/room#your-turn', isDay: true }]);
    expect((await coming('Ines')).join()).not.toContain('Scrub the slipway');
    const seen = await facts('Maud');
    expect(await listComingUp(db, seen.access, seen.pages, { kind: 'duties' })).toContainEqual(
      expect.objectContaining({ about: 'Scrub the slipway', whose: 'Oskar Finch', href: '/room/duties' }),
    );
    expect(await coming('Maud', { branch: String(await pageId('The Slipway Café')) })).toEqual([
      'notice: The café is closed for a christening on Sunday from two.',
    ]);
    // For whom coming in has ended already nothing ends.
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.name, 'Sam Ollis'));
    expect(await coming('Maud', { kind: 'people' })).toEqual([]);
    await db.update(people).set({ suspendedAt: null }).where(eq(people.name, 'Sam Ollis'));
  });

  it('is what was changed last in one’s part', async () => {
    const { access, pages } = await facts('Oskar');
    const mine = await listChangedLately(db, access, pages, { most: 20 });
    expect(mine.length).toBeGreaterThan(0);
    const times = mine.map(({ at }) => at.getTime());
    expect(times).toEqual([...times].sort((a, b) => b - a));
    const maud = (await facts('Maud')).access;
    const first = (await listChangedLately(db, maud, pages, { most: 1 }))[0];
    expect(first).toMatchObject({ title: 'Parking', did: 'draft', by: 'Ines Varga' });
    const cafe = String(await pageId('The Slipway Café'));
    const below = await listChangedLately(db, maud, pages, { most: 20, branch: cafe });
    expect(below.map(({ id }) => id)).toContain(cafe);
    expect(below.map(({ title }) => title)).not.toContain('Parking');
  });

  it('is what a check found when it was published, and a link that is broken by now', async () => {
    const care = async (first: string) => {
      const { access, pages } = await facts(first);
      return (await listCare(db, access, pages, {})).map(({ title, found }) => [title, ...found]);
    };
    const before = await care('Maud');
    const id = await pageId('Contact');
    const { content, version } = await getEditable(db, inventory, await siteId(), id).then((one) => ({
      content: one.content,
      version: one.draft?.version ?? 0,
    }));
    const maud = await signInAs('Maud');
    const published = await call(publish, 'POST', '/x', {
      ...maud,
      params: { id: String(id) },
      body: {
        content: { ...content, body: doc(h3('Too small to begin with'), p(`${'word '.repeat(34)}end.`)) },
        version,
        note: 'Try',
      },
    });
    expect(published.body).toEqual({});
    expect(await care('Maud')).toEqual(
      expect.arrayContaining([['Contact', 'Headings out of order', 'Long sentences'], ...before]),
    );
    // Oskar may not change that page.
    expect((await care('Oskar')).map(([title]) => title)).not.toContain('Contact');
    // What nobody has looked at yet is looked at.
    await db.update(items).set({ findings: null }).where(eq(items.id, id));
    await settleFindings(db);
    expect((await care('Maud')).map(([title]) => title)).toContain('Contact');
  });

  it('is what visitors looked for and did not find, without who they were', async () => {
    const site = await siteId();
    await db.delete(missedSearches);
    for (const asked of ['Dogs', ' dogs ', 'DÔGS', 'bicycles', '???']) await keepMissed(db, site, asked);
    expect((await listMissedSearches(db, site, 5)).map(({ asked, times }) => [asked.trim(), times])).toEqual([
      ['DÔGS', 3],
      ['bicycles', 1],
    ]);
    // Flooding it with ever other words keeps what was there and ends somewhere.
    await db.execute(
      sql`insert into missed_searches (site_id, words, asked) select ${site}, 'w' || n, 'w' from generate_series(1, 2000) n`,
    );
    await keepMissed(db, site, 'one more');
    await keepMissed(db, site, 'dogs');
    const [most] = await listMissedSearches(db, site, 1);
    expect(most).toMatchObject({ times: 4 });
    expect(await db.select().from(missedSearches).where(eq(missedSearches.words, 'one more'))).toEqual([]);
    await db.update(missedSearches).set({ askedAt: sql`now() - interval '40 days'` });
    expect(await listMissedSearches(db, site, 5)).toEqual([]);
    await db.update(missedSearches).set({ askedAt: sql`now() - interval '100 days'` });
    await tidyOld(db, true);
    expect(await db.select().from(missedSearches)).toEqual([]);
  });

  it('is who can be asked: who looks a second time, and who looks after it', async () => {
    const { access, pages } = await facts('Ines');
    const whom = await listWhomToAsk(db, access, pages);
    expect(whom.map(({ name }) => name)).toEqual(['Priya Nand', 'Maud Ellery']);
    expect((await listWhomToAsk(db, (await facts('Maud')).access, pages)).map(({ name }) => name)).not.toContain(
      'Maud Ellery',
    );
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.name, 'Priya Nand'));
    expect((await listWhomToAsk(db, access, pages)).map(({ name }) => name)).toEqual(['Maud Ellery']);
    await db.update(people).set({ suspendedAt: null }).where(eq(people.name, 'Priya Nand'));
  });

  it('is what the last release changed in one’s own roles', async () => {
    await inForce({ do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'look' });
    const { access, pages } = await facts('Ines');
    expect((await findLastChange(db, access, pages))?.lines.join(' ')).toContain('Sailing notices');
    const other = await facts('Oskar');
    expect((await findLastChange(db, other.access, other.pages))?.lines).toEqual([]);
  });

  it('asks the database no more often than it says', async () => {
    const { access, pages } = await facts('Maud');
    const site = (await findSite(db)) as Site;
    const ways: Record<string, () => Promise<unknown>> = {
      'notices.now': () => noticesShowing(db, site.id, null),
      'pages.unfinished': () => listUnfinished(db, access),
      'review.waiting': () => listWaiting(db, site.id),
      'vacancies.open': () => listVacancies(db, access),
      'pages.lately': () => listChangedLately(db, access, pages, { most: 5 }),
      'pages.coming': () => listComingUp(db, access, pages, {}),
      'pages.care': () => listCare(db, access, pages, {}),
      'visits.missed': () => listMissedSearches(db, site.id, 5),
      'duties.mine': () => listOwnDuties(db, access),
      'frame.whom': () => listWhomToAsk(db, access, pages),
      'frame.changed': () => findLastChange(db, access, pages),
    };
    const none = [...inventory.widgets.values()].filter(({ id }) => !(id in ways));
    expect(none.map(({ queries }) => queries)).toEqual(none.map(() => 0));
    for (const [id, ask] of Object.entries(ways)) {
      // What all lists share, the site map among it, is there already.
      await ask();
      const asked = vi.spyOn(pool, 'query');
      await ask();
      // The map of pages compares itself with what changed since, whoever asks.
      const own = asked.mock.calls.filter(([query]) => !/page_changes/.test(JSON.stringify(query)));
      asked.mockRestore();
      expect(own.length, id).toBe(inventory.widgets.get(id)?.queries);
    }
  });
});
