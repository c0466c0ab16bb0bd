import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Operation } from '@/core/plan';
import { POST as end } from '@/pages/api/notices/[id]/end';
import { POST as correct } from '@/pages/api/notices/[id]/correct';
import { POST as post } from '@/pages/api/notices/index';
import { POST as describePicture } from '@/pages/api/pictures/[id]/describe';
import { listActivity } from '@/server/activity/activity';
import { findPlace, listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { findPictures, listPictures } from '@/server/pictures/pictures';
import { comingInstant } from '@/server/items/publishing';
import { findAccess, type Site } from '@/server/gate/access';
import { listNotices, noticeReader, noticesShowing } from '@/server/notices/notices';
import { instantOf } from '@/server/typedHour';
import { visitsThisWeek } from '@/server/visits/counter';
import { call, inForce, pageId, role, signInAs, siteId, somebody } from './ask';

const showingOn = async (title: string) =>
  (
    await noticesShowing(db, await siteId(), (await findPlace(db, await siteId(), await pageId(title)))?.path ?? [])
  ).map((n) => n.text);

describe('a notice', () => {
  it('shows on its branch at once, and is gone at once when ended; pressed twice, it is posted once', async () => {
    const oskar = await signInAs('Oskar');
    const cafe = String(await pageId('The Slipway Café'));
    const body = { text: 'Closed for a wedding 🎉', kind: 'information', page: cafe };
    const twice = await Promise.all(
      [1, 2].map(() => call(post, 'POST', '/x', { ...oskar, body, headers: { 'idempotency-key': 'pressed-twice' } })),
    );
    expect(twice.map((a) => a.status)).toEqual([200, 200]);
    expect((await showingOn('What there is to eat')).filter((t) => t === body.text)).toHaveLength(1);
    expect(await showingOn('South Quay')).not.toContain(body.text);
    const id = String(twice[0]?.body['id']);
    expect((await call(end, 'POST', '/x', { ...oskar, params: { id } })).status).toBe(200);
    expect(await showingOn('What there is to eat')).not.toContain(body.text);
    expect(await call(end, 'POST', '/x', { ...oskar, params: { id } })).toMatchObject({
      status: 409,
      body: { detail: 'This notice has already ended.' },
    });
  });
  it('on a page alone shows there alone; whoever may post on one page alone, or not on all below, posts it alone', async () => {
    const [quay, parking] = [await pageId('South Quay'), await pageId('Parking at South Quay')].map(String);
    const both = ['notice.post', 'notice.end'] as const;
    const grant = (of: string, permission: string, effect: 'allow' | 'deny', scope: object): Operation => ({
      do: 'add-grant',
      role: of,
      grant: { id: `${effect}-${permission}-here`, effect, permission, scope },
    });
    await inForce(
      ...role('bell', 'notice.view'),
      ...both.map((permission) => grant('bell', permission, 'allow', { branch: quay, only: true })),
      ...role('horn', 'notice.view', ...both),
      ...both.map((permission) => grant('horn', permission, 'deny', { branch: parking })),
    );
    const [bell, horn] = [await somebody('Bel', { role: 'bell' }), await somebody('Horn', { role: 'horn' })];
    const say = (who: { cookie: string }, text: string, more: object) =>
      call(post, 'POST', '/x', { ...who, body: { text, kind: 'warning', page: quay, ...more } });
    for (const who of [bell, horn]) {
      expect(await say(who, 'Wet paint', {})).toMatchObject({ status: 403, body: { faults: [{ field: 'page' }] } });
      expect((await say(who, `Wet paint, says ${who.id}`, { alone: true })).status).toBe(200);
      expect(await showingOn('South Quay')).toContain(`Wet paint, says ${who.id}`);
      expect(await showingOn('Parking at South Quay')).not.toContain(`Wet paint, says ${who.id}`);
    }
    // Nor may they set right or end what shows on pages below, too, whoever posted it.
    const wide = await say(await signInAs('Maud'), 'High water', {});
    const params = { id: String(wide.body['id']) };
    const words = { text: 'Low water', kind: 'warning', was: 'High water' };
    for (const who of [bell, horn]) {
      expect((await call(correct, 'POST', '/x', { ...who, params, body: words })).status).toBe(403);
      expect((await call(end, 'POST', '/x', { ...who, params })).status).toBe(403);
    }
    expect(await showingOn('Parking at South Quay')).toContain('High water');
    expect((await call(correct, 'POST', '/x', { ...(await signInAs('Ines')), params, body: words })).status).toBe(200);
    // Where all below is theirs, too, it shows there.
    expect((await say(horn, 'Ice', { page: String(await pageId('Skell Island')) })).status).toBe(200);
    expect((await say(horn, 'Fog', { page: parking, alone: true })).status).toBe(403);
    // Words on a screen that is no page come from the whole website only.
    const root = (await listPages(db, await siteId()))[0]?.id ?? '';
    await say(await signInAs('Maud'), 'Front only', { page: root, alone: true });
    const texts = async (path: string[]) => (await noticesShowing(db, await siteId(), path)).map(({ text }) => text);
    expect(await texts([root])).toContain('Front only');
    expect(await texts([root, ''])).not.toContain('Front only');
  });
  it('is set right while it shows, not when it is over; the activity tells both', async () => {
    const [ines, oskar] = [await signInAs('Ines'), await signInAs('Oskar')];
    const id = String(
      (await call(post, 'POST', '/x', { ...ines, body: { text: 'The 07:40 runs late.', kind: 'warning' } })).body['id'],
    );
    const set = (who: { cookie: string }, more: object) =>
      call(correct, 'POST', '/x', {
        ...who,
        params: { id },
        body: { text: 'The 07:40 runs late.', kind: 'warning', was: 'The 07:40 runs late.', ...more },
      });
    expect((await set(oskar, { text: 'Mine' })).status).toBe(403);
    expect((await set(ines, {})).body.detail).toBe('Nothing of this notice was changed.');
    expect((await set(ines, { until: '2001-01-01T10:00' })).body['faults']).toMatchObject([{ field: 'until' }]);
    expect((await set(ines, { text: 'The 08:40 runs late.', kind: 'information' })).status).toBe(200);
    expect(await showingOn('South Quay')).toContain('The 08:40 runs late.');
    // Who opened the form before that does not write over it.
    expect(await set(ines, { text: 'The 09:40 runs late.' })).toMatchObject({
      status: 409,
      body: { kind: 'conflict' },
    });
    expect(await showingOn('South Quay')).toContain('The 08:40 runs late.');
    expect((await listActivity(db, await siteId(), 1))[0]).toMatchObject({
      action: 'corrected a notice',
      detail: '“The 07:40 runs late.” → “The 08:40 runs late.”; warning → information',
    });
    expect((await call(end, 'POST', '/x', { ...ines, params: { id } })).status).toBe(200);
    expect(await set(ines, { text: 'Too late', was: 'The 08:40 runs late.' })).toMatchObject({
      status: 409,
      body: { detail: 'This notice has already ended. Post a new one.' },
    });
  });
  it('for the whole website is shown to whoever looks after a part of it, while it shows; not one of elsewhere', async () => {
    const [ines, oskar] = [await signInAs('Ines'), await signInAs('Oskar')];
    const posted = async (body: object) =>
      Number((await call(post, 'POST', '/x', { ...ines, body: { kind: 'warning', ...body } })).body['id']);
    const [everywhere, elsewhere, later] = [
      await posted({ text: 'Fog everywhere' }),
      await posted({ text: 'Quay closed', page: String(await pageId('South Quay')) }),
      await posted({ text: 'Fog to come', from: '2066-01-01T10:00' }),
    ];
    const access = await findAccess(db, oskar.token);
    if (!access) throw new Error('no access');
    const read = (await listNotices(db, await siteId()))
      .filter(noticeReader(access, await listPages(db, await siteId())))
      .map((notice) => notice.id);
    expect([everywhere, elsewhere, later].map((id) => read.includes(id))).toEqual([true, false, false]);
    for (const id of [everywhere, elsewhere, later])
      expect((await call(end, 'POST', '/x', { ...ines, params: { id: String(id) } })).status).toBe(200);
  });
  it('is refused off one’s branch, and for the whole website', async () => {
    const oskar = await signInAs('Oskar');
    for (const page of [String(await pageId('South Quay')), undefined])
      expect((await call(post, 'POST', '/x', { ...oskar, body: { text: 'x', kind: 'warning', page } })).status).toBe(
        403,
      );
  });
  it.each([
    [{ text: ' ', kind: 'warning' }, 'Write what visitors should read.'],
    [{ text: 'x'.repeat(301), kind: 'warning' }, 'A notice can have 300 characters; people read it standing.'],
    [
      { text: 'x', kind: 'warning', until: '2001-01-01T00:00' },
      'The end lies before the start; nobody would see this notice.',
    ],
    [{ text: 'x', kind: 'warning', until: 'tomorrow' }, 'Give a day and an hour.'],
  ])('that does not fit (%j) is refused in words', async (body, words) => {
    expect(await call(post, 'POST', '/x', { ...(await signInAs('Ines')), body })).toMatchObject({
      status: 422,
      body: { detail: words },
    });
  });
});

// IANA time zone database: in Europe/London the clocks went on at 01:00 UTC on 29 March 2026 and back at 01:00 UTC on
// 25 October 2026.
describe('an hour on the site’s clock', () => {
  it.each([
    ['2026-01-10T12:00', '2026-01-10T12:00:00.000Z'],
    ['2026-07-10T12:00', '2026-07-10T11:00:00.000Z'],
    ['2026-03-29T00:59', '2026-03-29T00:59:00.000Z'],
    ['2026-03-29T02:00', '2026-03-29T01:00:00.000Z'],
    ['2026-10-25T00:30', '2026-10-24T23:30:00.000Z'],
    ['2026-10-25T01:30', '2026-10-25T00:30:00.000Z'],
    ['2026-10-25T02:00', '2026-10-25T02:00:00.000Z'],
  ])('%s is %s', (local, instant) => expect(instantOf(local, 'Europe/London', 'until').toISOString()).toBe(instant));
  it('that the clocks leave out is refused in words, for notices and for publishing', () => {
    expect(() => instantOf('2027-03-28T01:30', 'Europe/London', 'until')).toThrow(
      'There is no 01:30 on 28 March 2027: the clocks go on in that hour. Choose an earlier or a later one.',
    );
    expect(() => comingInstant({ site: { timeZone: 'Europe/London' } as Site }, '2067-03-27T01:30')).toThrow(
      /There is no 01:30 on 27 March 2067/,
    );
  });
});

describe('pictures and visits', () => {
  it('are found by their ids, those of this website alone, whatever is asked for', async () => {
    const site = await siteId();
    const [one, two] = await listPictures(db, site);
    if (!one || !two) throw new Error('the demo has two pictures');
    const asked = [two.id, one.id, one.id, '', 'gone', '999999999', '99999999999999', '-1', '1.5', '1) or (true'];
    const found = await findPictures(db, site, asked);
    expect([...found.keys()].sort()).toEqual([one.id, two.id].sort());
    expect(found.get(one.id)).toEqual(one);
    expect(await findPictures(db, site + 1, [one.id])).toEqual(new Map());
    expect(await findPictures(db, site, [])).toEqual(new Map());
  });
  it('are all read only where somebody chooses from all of them', () => {
    const readers = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter(
      (file) => /\.(tsx?|astro)$/.test(file) && /\blistPictures\(/.test(readFileSync(join('src', file), 'utf8')),
    );
    expect(readers.sort()).toEqual(['pages/room/pictures.astro', 'server/items/editScreen.ts']);
  });
  it('a description is kept for every page', async () => {
    const lotte = await signInAs('Lotte');
    const [picture] = await listPictures(db, await siteId());
    expect(
      (
        await call(describePicture, 'POST', '/x', {
          ...lotte,
          params: { id: picture?.id ?? '' },
          body: { description: 'A cup by the window.' },
        })
      ).status,
    ).toBe(200);
    expect((await listPictures(db, await siteId()))[0]?.description).toBe('A cup by the window.');
    expect(
      (await call(describePicture, 'POST', '/x', { ...lotte, params: { id: '99999' }, body: { description: 'x' } }))
        .status,
    ).toBe(404);
    expect(
      (await call(describePicture, 'POST', '/x', { ...lotte, params: { id: '1' }, body: { description: '' } })).status,
    ).toBe(422);
  });
  it('the counter counts the same for the same days, and today up to now', () => {
    const site = { id: 1, timeZone: 'Europe/London' };
    const week = visitsThisWeek(site, new Date('2026-11-25T09:00:00Z'));
    expect(week).toEqual(visitsThisWeek(site, new Date('2026-11-25T09:30:00Z')));
    expect(week.map((d) => d.day)).toEqual([
      '2026-11-19',
      '2026-11-20',
      '2026-11-21',
      '2026-11-22',
      '2026-11-23',
      '2026-11-24',
      '2026-11-25',
    ]);
    expect(week.filter((d) => d.partial).map((d) => d.day)).toEqual(['2026-11-25']);
  });
});
