import { eq, sql } from 'drizzle-orm';
import { describe, expect, it, vi } from 'vitest';
import { POST as bringBack } from '@/pages/api/items/[id]/bring-back';
import { PUT as draft } from '@/pages/api/items/[id]/draft';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { POST as send } from '@/pages/api/items/[id]/send';
import { PUT as audience } from '@/pages/api/pages/[id]/audience';
import { GET as pick } from '@/pages/api/pages/pick';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { POST as make } from '@/pages/api/vacancies/index';
import { doc, p, table } from '@/demo/write';
import { findPlaced, listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { activity, items } from '@/server/db/schema';
import { findAccess, findSite, type Site } from '@/server/gate/access';
import { mayNow } from '@/server/gate/authorize';
import { getEditable } from '@/server/items/editable';
import { listWaiting } from '@/server/items/reviews';
import { listUnfinished } from '@/server/items/unfinished';
import { listOpenOn, listVacancies } from '@/server/vacancies/vacancies';
import { accessOf, call, inForce, pageId, role, signInAs, siteId, somebody } from './ask';
import { inventory } from '../inventory';

const site = async () => (await findSite(db)) as Site;
const begin = async (first: string, title: string, page: string) =>
  call(make, 'POST', '/x', { ...(await signInAs(first)), body: { title, page: String(await pageId(page)) } });
const editable = async (id: string) => getEditable(db, inventory, await siteId(), Number(id));
const titlesOf = async (first: string) =>
  (await listVacancies(db, await accessOf(first))).filter((one) => !one.deleted).map((one) => one.title);
const onPage = async (page: string) =>
  (await listOpenOn(db, await site(), String(await pageId(page)))).map((one) => one.content['title']);
const idOf = async (title: string) =>
  (await listVacancies(db, await accessOf('Maud'))).find((one) => one.title === title)?.id ?? '';

describe('a vacancy', () => {
  it('is begun on a page of one’s own part, and lies there as its maker’s', async () => {
    expect((await begin('Ines', 'Gate hand', 'South Quay')).status).toBe(403);
    expect((await begin('Juno', 'Gate hand', 'South Quay')).status).toBe(403);
    const made = await begin('Juno', 'Purser', 'Jobs');
    expect(made.status).toBe(200);
    const placed = await findPlaced(db, await siteId(), Number(made.body['id']));
    const { id: juno } = await signInAs('Juno');
    const jobs = await pageId('Jobs');
    expect(placed).toMatchObject({ type: 'vacancy', place: { author: String(juno), state: 'draft', layout: 'plain' } });
    expect(placed?.place.path.at(-1)).toBe(String(jobs));
    expect((await listPages(db, await siteId())).map((page) => page.title)).not.toContain('Purser');
    expect(
      (await listUnfinished(db, await accessOf('Juno'))).map((one) => [one.title, one.one, one.href]),
    ).toContainEqual(['Purser', 'vacancy', `/room/vacancies/${String(made.body['id'])}`]);
  });

  it('is seen, changed and taken away by whom its page and its maker allow', async () => {
    expect(await titlesOf('Ines')).toEqual([]);
    expect(await titlesOf('Juno')).toEqual(['Deckhand on the Tern', 'Electrician for the chargers', 'Purser']);
    expect(await titlesOf('Oskar')).toEqual(['Kitchen hand for the summer']);
    const cafe = await begin('Maud', 'Baker', 'The Slipway Café');
    const [oskar, juno] = [await signInAs('Oskar'), await signInAs('Juno')];
    const params = { id: String(cafe.body['id']) };
    const words = { content: { title: 'Baker of bread' }, version: 1 };
    // Only their own are theirs to change, whoever made the page.
    expect((await call(draft, 'PUT', '/x', { ...oskar, params, body: words })).body).toMatchObject({
      status: 403,
      permission: 'vacancy.edit',
    });
    expect((await call(draft, 'PUT', '/x', { ...juno, params, body: words })).status).toBe(403);
    const mine = { id: await idOf('Kitchen hand for the summer') };
    const given = await call(draft, 'PUT', '/x', {
      ...oskar,
      params: mine,
      body: { content: { title: 'Kitchen hand' }, version: 0 },
    });
    expect(given.status).toBe(200);
    expect((await call(retire, 'POST', '/x', { ...oskar, params: mine, body: { do: 'delete' } })).status).toBe(403);
  });

  it('has its own fields and none of a page, and is written with the tools its writer has', async () => {
    const [juno, oskar] = [await signInAs('Juno'), await signInAs('Oskar')];
    const params = { id: await idOf('Purser') };
    const put = (content: object, version: number) =>
      call(draft, 'PUT', '/x', { ...juno, params, body: { content, version } });
    expect((await put({ 'page.slug': 'purser' }, 1)).body['faults']).toMatchObject([{ field: 'page.slug' }]);
    expect((await put({ banner: '1' }, 1)).status).toBe(422);
    expect((await put({ closes: '2026-02-31' }, 1)).body['faults']).toMatchObject([
      { field: 'closes', message: 'Apply until must be a day, like 2026-11-25.' },
    ]);
    expect((await put({ title: 'Purser', closes: '2090-01-31', body: doc(table(['a'], ['b'])) }, 2)).status).toBe(200);
    expect((await editable(params.id)).content).toMatchObject({ title: 'Purser', closes: '2090-01-31' });
    const mine = { id: await idOf('Kitchen hand') };
    const refused = await call(draft, 'PUT', '/x', {
      ...oskar,
      params: mine,
      body: { content: { body: doc(table(['a'], ['b'])) }, version: 1 },
    });
    expect(refused.body).toMatchObject({ kind: 'tool-missing', tools: ['table'] });
  });

  it('goes by a second look to the website, and not by its writer’s', async () => {
    const [oskar, priya] = [await signInAs('Oskar'), await signInAs('Priya')];
    const id = await idOf('Kitchen hand');
    const params = { id };
    const content = { title: 'Kitchen hand, from May', body: doc(p('Soup.')) };
    expect(
      (await call(publish, 'POST', '/x', { ...oskar, params, body: { content, version: 1, note: '' } })).status,
    ).toBe(403);
    const sent = await call(send, 'POST', '/x', { ...oskar, params, body: { content, version: 1, note: 'New name' } });
    expect(sent.status).toBe(200);
    expect(await onPage('The Slipway Café')).toEqual(['Kitchen hand for the summer']);
    const waiting = (await listWaiting(db, await siteId())).find((entry) => entry.itemId === id);
    expect(waiting?.place.path.at(-1)).toBe(String(await pageId('The Slipway Café')));
    const look = { id: String(waiting?.id) };
    const yes = { outcome: 'published', word: '' };
    expect((await call(decide, 'POST', '/x', { ...oskar, params: look, body: yes })).status).toBe(403);
    expect((await call(decide, 'POST', '/x', { ...priya, params: look, body: yes })).status).toBe(200);
    expect(await onPage('The Slipway Café')).toEqual(['Kitchen hand, from May']);
    const [last] = (await db.select().from(activity).where(eq(activity.subject, 'Kitchen hand, from May'))).slice(-1);
    expect(last).toMatchObject({ action: 'gave the second look and published', href: `/room/vacancies/${id}` });
    expect((await editable(id)).versions.map((version) => version.kind)).toEqual(['published', 'published']);
  });

  it('is gone from the website the day after its last day, on the site’s clock', async () => {
    const juno = await signInAs('Juno');
    const params = { id: await idOf('Electrician for the chargers') };
    const put = async (closes: string) => {
      const { draft: old, content } = await editable(params.id);
      return call(publish, 'POST', '/x', {
        ...juno,
        params,
        body: { content: { ...content, closes }, version: old?.version ?? 0, note: '' },
      });
    };
    expect((await put('2090-03-01')).status).toBe(200);
    expect(await onPage('Jobs')).toEqual(['Deckhand on the Tern', 'Electrician for the chargers']);
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2090-03-01T23:30:00Z') });
    try {
      expect(await onPage('Jobs')).toEqual(['Electrician for the chargers']);
      vi.setSystemTime(new Date('2090-03-02T00:10:00Z'));
      expect(await onPage('Jobs')).toEqual([]);
    } finally {
      vi.useRealTimers();
    }
  });

  it('is taken down and put back, deleted and brought back, alone and with its page', async () => {
    const juno = await signInAs('Juno');
    const params = { id: await idOf('Electrician for the chargers') };
    const put = (what: string, id = params.id) =>
      call(retire, 'POST', '/x', { ...juno, params: { id }, body: { do: what } });
    expect((await put('take-down')).status).toBe(200);
    expect(await onPage('Jobs')).toEqual(['Deckhand on the Tern']);
    expect((await put('put-back')).status).toBe(200);
    expect((await put('delete')).status).toBe(200);
    expect(await titlesOf('Juno')).not.toContain('Electrician for the chargers');
    expect((await call(bringBack, 'POST', '/x', { ...juno, params })).status).toBe(200);
    expect(await onPage('Jobs')).toEqual(['Deckhand on the Tern', 'Electrician for the chargers']);
    const jobs = String(await pageId('Jobs'));
    expect((await put('look', jobs)).body).toMatchObject({ below: 0, also: ['3 vacancies'] });
    expect((await put('delete', jobs)).status).toBe(200);
    expect(await titlesOf('Juno')).toEqual([]);
    expect((await call(bringBack, 'POST', '/x', { ...juno, params: { id: jobs } })).status).toBe(200);
    expect((await titlesOf('Juno')).length).toBe(3);
    expect(await db.$count(items, eq(items.type, 'vacancy'))).toBe(5);
  });

  it('is not said to be on the website while its page is not', async () => {
    const jobs = await pageId('Jobs');
    await db.execute(
      sql`update items set down_revision_id = live_revision_id, live_revision_id = null where id = ${jobs}`,
    );
    const rows = await listVacancies(db, await accessOf('Juno'));
    expect(rows.filter((one) => one.open)).toEqual([]);
    expect(rows.some((one) => one.state === 'published' && !one.closed)).toBe(true);
    await db.execute(
      sql`update items set live_revision_id = down_revision_id, down_revision_id = null where id = ${jobs}`,
    );
    expect((await listVacancies(db, await accessOf('Juno'))).some((one) => one.open)).toBe(true);
  });

  it('is asked about in lists as at the gate: by its own state and author', async () => {
    await inForce(...role('looks-at-waiting', 'page.view', 'vacancy.view', 'vacancy.edit'), {
      do: 'add-grant',
      role: 'looks-at-waiting',
      grant: { id: 'waiting', effect: 'allow', permission: 'review.view', scope: { states: ['waiting'] } },
    });
    const wim = await somebody('Wim', { role: 'looks-at-waiting' });
    const made = await begin('Maud', 'Signal keeper', 'Jobs');
    const params = { id: String(made.body['id']) };
    const body = { content: { closes: '2090-01-01' }, version: 1, note: '' };
    expect((await call(send, 'POST', '/x', { ...(await signInAs('Maud')), params, body })).status).toBe(200);
    const entry = (await listWaiting(db, await siteId())).find((one) => one.itemId === params.id);
    // The page is published; the vacancy waits.
    expect(entry?.place).toMatchObject({ state: 'waiting', author: String((await signInAs('Maud')).id) });
    const access = await findAccess(db, wim.token);
    if (!access || !entry) throw new Error('nobody, or nothing');
    expect(mayNow(access, 'review.view', { place: entry.place }).allowed).toBe(true);
  });

  it('can only be put on pages one may begin one on', async () => {
    const picked = async (first: string) =>
      (
        (await call(pick, 'GET', '/x?for=vacancy.create', await signInAs(first))).body['pages'] as { title: string }[]
      ).map((page) => page.title);
    expect(await picked('Oskar')).toEqual(['Café', 'Menu']);
    expect(await picked('Ines')).toEqual([]);
    expect(await picked('Juno')).toContain('Jobs');
  });

  it('is no page, whatever is asked of it as one', async () => {
    const maud = await signInAs('Maud');
    const params = { id: await idOf('Purser') };
    expect((await call(audience, 'PUT', '/x', { ...maud, params, body: { audience: null } })).status).toBe(404);
  });

  it('sent twice under one key is begun once, and other words under that key are refused', async () => {
    const juno = await signInAs('Juno');
    const page = String(await pageId('Jobs'));
    const ask = (title: string) =>
      call(make, 'POST', '/x', { ...juno, body: { title, page }, headers: { 'idempotency-key': 'twice-the-same' } });
    const [first, second, third] = [await ask('Cook'), await ask('Cook'), await ask('Baker')];
    expect([first.status, second.body['id'], third.status]).toEqual([200, first.body['id'], 422]);
    expect((await titlesOf('Juno')).filter((title) => /Cook|Baker/.test(title))).toEqual(['Cook']);
  });
});
