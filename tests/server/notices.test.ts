import { describe, expect, it } from 'vitest';
import { POST as end } from '@/pages/api/notices/[id]/end';
import { POST as post } from '@/pages/api/notices/index';
import { POST as describePicture } from '@/pages/api/pictures/[id]/describe';
import { findPagePlace } from '@/server/content/tree';
import { db } from '@/server/db/client';
import { listPictures } from '@/server/media/media';
import { instantOf, noticesShowing } from '@/server/notices/notices';
import { visitsThisWeek } from '@/server/visits/counter';
import { call, pageId, signInAs, siteId } from './ask';

const showingOn = async (title: string) => (await noticesShowing(db, await siteId(), (await findPagePlace(db, await siteId(), await pageId(title)))?.path ?? [])).map((n) => n.text);

describe('a notice', () => {
  it('shows on its branch at once, and is gone at once when ended; pressed twice, it is posted once', async () => {
    const oskar = await signInAs('Oskar');
    const cafe = String(await pageId('The Slipway Café'));
    const body = { text: 'Closed for a wedding 🎉', kind: 'information', page: cafe };
    const twice = await Promise.all([1, 2].map(() => call(post, 'POST', '/x', { ...oskar, body, headers: { 'idempotency-key': 'pressed-twice' } })));
    expect(twice.map((a) => a.status)).toEqual([200, 200]);
    expect((await showingOn('What there is to eat')).filter((t) => t === body.text)).toHaveLength(1);
    expect(await showingOn('South Quay')).not.toContain(body.text);
    const id = String(twice[0]?.body['id']);
    expect((await call(end, 'POST', '/x', { ...oskar, params: { id } })).status).toBe(200);
    expect(await showingOn('What there is to eat')).not.toContain(body.text);
    expect(await call(end, 'POST', '/x', { ...oskar, params: { id } })).toMatchObject({ status: 409, body: { detail: 'This notice has already ended.' } });
  });
  it('is refused off one’s branch, and for the whole website', async () => {
    const oskar = await signInAs('Oskar');
    for (const page of [String(await pageId('South Quay')), undefined]) expect((await call(post, 'POST', '/x', { ...oskar, body: { text: 'x', kind: 'warning', page } })).status).toBe(403);
  });
  it.each([
    [{ text: ' ', kind: 'warning' }, 'text: Write what visitors should read.'],
    [{ text: 'x'.repeat(301), kind: 'warning' }, 'text: A notice can have 300 characters; people read it standing.'],
    [{ text: 'x', kind: 'warning', until: '2001-01-01T00:00' }, 'The end lies before the start; nobody would see this notice.'],
    [{ text: 'x', kind: 'warning', until: 'tomorrow' }, 'Write the time as day and hour.'],
  ])('that does not fit (%j) is refused in words', async (body, words) => {
    expect(await call(post, 'POST', '/x', { ...(await signInAs('Ines')), body })).toMatchObject({ status: 422, body: { detail: words } });
  });
});

// IANA time zone database: in Europe/London the clocks went on at 01:00 UTC on 29 March 2026 and back at 01:00 UTC on 25 October 2026.
describe('an hour on the site’s clock', () => {
  it.each([
    ['2026-01-10T12:00', '2026-01-10T12:00:00.000Z'], ['2026-07-10T12:00', '2026-07-10T11:00:00.000Z'],
    ['2026-03-29T00:59', '2026-03-29T00:59:00.000Z'], ['2026-03-29T01:30', '2026-03-29T01:30:00.000Z'], ['2026-03-29T02:00', '2026-03-29T01:00:00.000Z'],
    ['2026-10-25T00:30', '2026-10-24T23:30:00.000Z'], ['2026-10-25T01:30', '2026-10-25T00:30:00.000Z'], ['2026-10-25T02:00', '2026-10-25T02:00:00.000Z'],
  ])('%s is %s', (local, instant) => expect(instantOf(local, 'Europe/London').toISOString()).toBe(instant));
});

describe('pictures and visits', () => {
  it('a description is kept for every page', async () => {
    const lotte = await signInAs('Lotte');
    const [picture] = await listPictures(db, await siteId());
    expect((await call(describePicture, 'POST', '/x', { ...lotte, params: { id: picture?.id ?? '' }, body: { description: 'A cup by the window.' } })).status).toBe(200);
    expect((await listPictures(db, await siteId()))[0]?.description).toBe('A cup by the window.');
    expect((await call(describePicture, 'POST', '/x', { ...lotte, params: { id: '99999' }, body: { description: 'x' } })).status).toBe(404);
    expect((await call(describePicture, 'POST', '/x', { ...lotte, params: { id: '1' }, body: { description: '' } })).status).toBe(422);
  });
  it('the counter counts the same for the same days, and today up to now', () => {
    const site = { id: 1, timeZone: 'Europe/London' };
    const week = visitsThisWeek(site, new Date('2026-11-25T09:00:00Z'));
    expect(week).toEqual(visitsThisWeek(site, new Date('2026-11-25T09:30:00Z')));
    expect(week.map((d) => d.day)).toEqual(['2026-11-19', '2026-11-20', '2026-11-21', '2026-11-22', '2026-11-23', '2026-11-24', '2026-11-25']);
    expect(week.filter((d) => d.partial).map((d) => d.day)).toEqual(['2026-11-25']);
  });
});
