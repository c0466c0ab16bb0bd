import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { POST as signIn } from '@/pages/api/sign-in';
import { PUT as ownMenu } from '@/pages/api/own-menu';
import { PUT as ownPreferences } from '@/pages/api/own-preferences';
import { PUT as ownToday } from '@/pages/api/own-today';
import { POST as stepIn } from '@/pages/api/workshop/step-in';
import { db } from '@/server/db/client';
import { ownRooms } from '@/server/db/schema';
import { findOwnFrame } from '@/server/own';
import { loadRoom } from '@/server/room';
import { siteCalendar } from '@/server/calendar';
import { addPerson } from '@/server/people/accounts';
import { listPeople } from '@/server/people/people';
import { accessOf, call, inForce, pageId, signInAs, siteId } from './ask';

const frame = async (first: string) => findOwnFrame(db, await accessOf(first));
const room = async (first: string) => (await loadRoom(db, await accessOf(first))).room;

describe('one’s own menu', () => {
  it('keeps favourites for this person alone, beside what else is their own', async () => {
    const ines = await signInAs('Ines');
    await call(ownToday, 'PUT', '/x', { ...ines, body: { do: 'show', entry: 'pages.coming', on: false } });
    const keep = (to: string, name = 'x') =>
      call(ownMenu, 'PUT', '/x', { ...ines, body: { do: 'keep', favourite: { to, name } } });
    const page = `page:${await pageId('South Quay')}`;
    expect((await keep(page, 'Our quay')).status).toBe(200);
    expect((await keep('/room/notices', 'Notices')).status).toBe(200);
    expect((await keep(page, 'Our quay')).body).toMatchObject({ favourites: [{ to: page }, { to: '/room/notices' }] });
    expect((await frame('Ines')).menu.favourites.map(({ name }) => name)).toEqual(['Our quay', 'Notices']);
    expect((await frame('Oskar')).menu.favourites).toEqual([]);
    const { id } = ines;
    const [row] = await db.select().from(ownRooms).where(eq(ownRooms.personId, id));
    expect(row?.today?.away).toEqual(['pages.coming']);
    for (let i = 0; i < 10; i++) await keep(`/room/tours?n=${i}`);
    expect((await keep('/room/people')).body).toMatchObject({ code: 'favourites-full' });
    for (const to of ['https://evil.example', '/workshop', '/room/../x']) expect((await keep(to)).status, to).toBe(422);
  });
  it('leads only where they may go', async () => {
    const { follow } = await room('Ines');
    const [quay, cafe] = [await pageId('South Quay'), await pageId('The Slipway Café')];
    expect(follow(`page:${quay}`)).toBe(`/room/pages/${quay}`);
    expect(follow(`page:${cafe}`)).toBeNull();
    expect(follow(`/room/pages/${cafe}`)).toBeNull();
    expect(follow('/room/activity')).toBeNull();
    expect(follow('/workshop')).toBeNull();
    expect(follow('/room/nowhere')).toBeNull();
    expect(follow('task:notices.post')).toBe('/room/notices');
    expect(follow('task:people.see')).toBeNull();
    expect(follow('page:99999')).toBeNull();
  });
});

describe('the menu of a role', () => {
  it('has groups, shortcuts and hints as far as they reach, and begins where it was said', async () => {
    const cafe = await pageId('The Slipway Café');
    await inForce({
      do: 'set-menu',
      role: 'harbour-desk',
      menu: {
        groups: [{ name: 'Often', doors: ['notices', 'activity'] }],
        shortcuts: [
          { id: 'a', name: 'The café', to: `page:${cafe}` },
          { id: 'b', name: 'Drafts', to: '/room/pages?view=list&state=draft' },
          { id: 'c', name: 'Who did it', to: '/room/activity' },
          { id: 'd', name: 'Tides', to: 'https://tides.larkhaven.example/' },
        ],
        hints: { pages: 'All harbour pages' },
        first: 'notices',
      },
    });
    const { menu } = await room('Ines');
    expect(menu.groups.map(({ name, doors }) => [name, doors.map(({ section }) => section)])).toEqual([
      ['Often', ['notices']],
    ]);
    expect(menu.shortcuts).toEqual([
      { name: 'Drafts', href: '/room/pages?view=list&state=draft', outside: false },
      { name: 'Tides', href: 'https://tides.larkhaven.example/', outside: true },
    ]);
    expect(menu.doors.find(({ section }) => section === 'pages')?.hint).toBe('All harbour pages');
    expect(menu.first).toBe('/room/notices');
    const to = async (email: string, password: string) =>
      (await call(signIn, 'POST', '/x', { body: { email, password } })).body['to'];
    expect(await to('ines@larkhaven.example', 'late-boat-again')).toBe('/room?begin');
    expect(await to('oskar@larkhaven.example', 'soup-of-the-day')).toBe('/room');
    // What is not behind a door of theirs is no beginning.
    await inForce({ do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'closed' });
    expect((await room('Ines')).menu.first).toBe('/room');
  });
});

describe('preferences', () => {
  it('tell dates in the language somebody chose, to them alone; what everybody reads is told as the website does', async () => {
    const lotte = await signInAs('Lotte');
    expect((await accessOf('Lotte')).calendar).toEqual({ timeZone: 'Europe/London', language: 'en-GB' });
    await call(ownPreferences, 'PUT', '/x', { ...lotte, body: { dates: 'de' } });
    const { calendar, site } = await accessOf('Lotte');
    expect(calendar).toEqual({ timeZone: 'Europe/London', language: 'de' });
    expect((await accessOf('Oskar')).calendar.language).toBe('en-GB');
    expect(siteCalendar(site)).toEqual({ timeZone: 'Europe/London', language: 'en-GB' });
    expect((await call(ownPreferences, 'PUT', '/x', { ...lotte, body: { dates: 'tlh' } })).status).toBe(422);
  });
  it('and names of people stand in the order of an alphabet, small letters among the capital ones', async () => {
    const site = await siteId();
    for (const name of ['anna b', 'Åse', 'Zoe'])
      await addPerson(db, { siteId: site, name, email: `${name.slice(0, 1)}@order.example`, passwordHash: 'x' });
    const names = (await listPeople(db, site)).map(({ name }) => name);
    expect(names.filter((name) => ['anna b', 'Åse', 'Maud Ellery', 'Zoe'].includes(name))).toEqual([
      'anna b',
      'Åse',
      'Maud Ellery',
      'Zoe',
    ]);
  });
  it('are kept, begin as prepared, and stay so where nobody can choose', async () => {
    const oskar = await signInAs('Oskar');
    const choose = (body: object) => call(ownPreferences, 'PUT', '/x', { ...oskar, body });
    expect((await choose({ text: 125 })).body).toMatchObject({ text: 125, palette: 'paper' });
    await inForce({ do: 'set-reading', reading: { start: { palette: 'slate', text: 112 }, fixed: ['palette'] } });
    expect((await frame('Oskar')).preferences).toMatchObject({ text: 125, palette: 'slate' });
    expect((await choose({ palette: 'night' })).body).toMatchObject({ status: 403, code: 'preference-fixed' });
    expect((await choose({ text: 130 })).status).toBe(422);
    // What they had chosen is there again when it is free again.
    await inForce({ do: 'set-reading', reading: { start: {}, fixed: [] } });
    await choose({ palette: 'night' });
    await inForce({ do: 'set-reading', reading: { start: {}, fixed: ['palette'] } });
    expect((await frame('Oskar')).preferences.palette).toBe('paper');
    await inForce({ do: 'set-reading', reading: { start: {}, fixed: [] } });
    expect((await frame('Oskar')).preferences.palette).toBe('night');
  });
  it('of a room that is tried are those of its person, and nothing of it is kept', async () => {
    const maud = await signInAs('Maud');
    const { id } = await signInAs('Oskar');
    await call(stepIn, 'POST', '/x', {
      ...maud,
      body: { role: 'cafe-manager', person: String(id), from: '/workshop' },
    });
    const tried = await call(ownPreferences, 'PUT', '/x', { ...maud, body: { density: 'close' } });
    expect(tried.body).toMatchObject({ density: 'close', palette: 'night', trial: true });
    expect((await frame('Oskar')).preferences.density).toBe('roomy');
  });
});
