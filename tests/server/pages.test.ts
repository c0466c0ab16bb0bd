import { eq, inArray, sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { addressOf } from '@/core/content';
import { NO_FILTER } from '@/core/lists';
import { POST as takeBack } from '@/pages/api/pages/take-back';
import { POST as bulk } from '@/pages/api/pages/bulk';
import { POST as saveFilter } from '@/pages/api/pages/filters';
import { POST as make } from '@/pages/api/pages/index';
import { GET as list } from '@/pages/api/pages/list';
import { GET as tree } from '@/pages/api/pages/tree';
import { POST as bringBack } from '@/pages/api/items/[id]/bring-back';
import { POST as copy } from '@/pages/api/pages/[id]/copy';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as move } from '@/pages/api/pages/[id]/move';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { getEditable } from '@/server/items/editable';
import { listWriters } from '@/server/items/items';
import { findAddresses, findRedirect } from '@/server/tree/addresses';
import { listDeleted } from '@/server/pages/deleted';
import { listPages } from '@/server/tree/tree';
import { mayNow } from '@/server/gate/authorize';
import { db } from '@/server/db/client';
import { items, references, releases, sites } from '@/server/db/schema';
import { findSite } from '@/server/gate/access';
import { getLivePlan } from '@/server/plan/plans';
import { accessOf, call, pageId, signInAs, siteId, type Answer } from './ask';
import { inventory } from '../inventory';

type Signed = Awaited<ReturnType<typeof signInAs>>;
let [maud, juno, ines]: Signed[] = [];
const asMaud = () => ({ cookie: maud?.cookie ?? '' });
const asJuno = () => ({ cookie: juno?.cookie ?? '' });
const asInes = () => ({ cookie: ines?.cookie ?? '' });
beforeAll(async () => {
  [maud, juno, ines] = await Promise.all(['Maud', 'Juno', 'Ines'].map(signInAs));
});

const on = async (title: string) => ({ id: String(await pageId(title)) });
const addresses = async () => {
  const map = await findAddresses(db, await siteId());
  return (id: string | number) => addressOf(map, String(id));
};
interface Row {
  id: string;
  title: string;
  below: number;
  state: string;
  address: string;
}
const rowsOf = (answer: Answer) => answer.body['pages'] as Row[];
const titles = (answer: Answer) => rowsOf(answer).map((row) => row.title);

describe('the list of pages', () => {
  const ask = (query: string, as = asMaud()) => call(list, 'GET', `/api/pages/list?${query}`, as);
  it('holds just the pages somebody may see, whatever is asked for', async () => {
    for (const first of ['Ines', 'Juno', 'Oskar', 'Lotte', 'Sam', 'Priya']) {
      const access = await accessOf(first);
      const seen = (await listPages(db, await siteId()))
        .filter((page) => mayNow(access, 'page.view', { place: page.place }).allowed)
        .map((page) => page.id);
      const { cookie } = await signInAs(first);
      const answer = await call(list, 'GET', '/api/pages/list?sort=title', { cookie });
      expect(
        rowsOf(answer)
          .map((row) => row.id)
          .sort(),
        first,
      ).toEqual(seen.sort());
      expect(answer.body['total']).toBe(seen.length);
    }
  });
  it.each([
    ['state=draft', ['Parking']],
    ['state=waiting', ['Getting around']],
    ['layout=harbour&sort=title&dir=up', ['Port Ennis', 'Skell Island', 'South Quay']],
    ['q=parkign', ['Parking']],
    ['q=umbrellas', ['Lost and found']],
    ['q=100%25', []],
    ['days=2&sort=title&dir=up', ['Getting around', 'Parking']],
    ['navigation=no', []],
    ['language=cy', []],
  ])('for “%s” it gives %j', async (query, expected) => {
    expect(titles(await ask(query))).toEqual(expected);
  });
  it('finds by author, sorts both ways and is cut in stretches', async () => {
    const junos = await ask(`author=${juno?.id}`);
    expect(titles(junos)).toEqual(['About us']);
    const [up, down] = [titles(await ask('sort=title&dir=up')), titles(await ask('sort=title&dir=down'))];
    expect(down).toEqual([...up].reverse());
    expect(titles(await ask('sort=title&dir=up&offset=18'))).toEqual(up.slice(18));
  });
  it('stands in the order asked for, as PostgreSQL tells it', async () => {
    const orders = {
      changed: sql`select i.id, extract(epoch from greatest(i.created_at, d.updated_at, r.sent_at, (select max(published_at) from publications where item_id = i.id)))::float8 as key
        from items i left join drafts d on d.item_id = i.id left join reviews r on r.item_id = i.id and r.outcome is null`,
      place: sql`with recursive way as (
          select id, array[position, id] as key from items where parent_id is null
          union all select i.id, way.key || array[i.position, i.id] from items i join way on i.parent_id = way.id)
        select way.id, row_number() over (order by key)::float8 as key from way`,
      state: sql`select i.id, dense_rank() over (order by (case when d.item_id is not null then 'draft' when r.id is not null then 'waiting'
          when i.down_revision_id is not null then 'down' when exists (select from publications where item_id = i.id) then 'published' else 'draft' end) collate "C")::float8 as key
        from items i left join drafts d on d.item_id = i.id left join reviews r on r.item_id = i.id and r.outcome is null`,
      layout: sql`select id, dense_rank() over (order by layout collate "C")::float8 as key from items`,
      author: sql`select i.id, dense_rank() over (order by coalesce(p.name, '') collate "und-x-icu")::float8 as key from items i left join people p on p.id = i.author_id`,
    };
    for (const [sort, order] of Object.entries(orders)) {
      const { rows } = await db.execute<{ id: number; key: number }>(order);
      const keyOf = new Map(rows.map(({ id, key }) => [String(id), key]));
      for (const [dir, sign] of [
        ['up', 1],
        ['down', -1],
      ] as const) {
        const keys = rowsOf(await ask(`sort=${sort}&dir=${dir}`)).map(({ id }) => keyOf.get(id) ?? NaN);
        expect(new Set(keys).size, sort).toBeGreaterThan(1);
        expect(keys, `${sort} ${dir}`).toEqual(keys.toSorted((a, b) => sign * (a - b)));
      }
    }
    // By the reader's language, where code points would have it behind the z.
    await db
      .update(items)
      .set({ shortName: 'Åse’s café' })
      .where(eq(items.id, await pageId('Fares')));
    const named = titles(await ask('sort=title&dir=up'));
    expect(named.indexOf('Åse’s café')).toBeLessThan(named.indexOf('Getting around'));
    await db
      .update(items)
      .set({ shortName: null })
      .where(eq(items.id, await pageId('Fares')));
  });
  it('refuses a filter that is none', async () => {
    expect((await ask('state=lost')).status).toBe(422);
  });
  it('keeps filters under a name for each person, and forgets them', async () => {
    const filter = { ...NO_FILTER, layout: 'harbour', sort: 'title', dir: 'up' };
    expect(
      (await call(saveFilter, 'POST', '/x', { ...asInes(), body: { name: 'Mine', filter } })).body['filters'],
    ).toEqual([{ name: 'Mine', filter }]);
    expect(
      (await call(saveFilter, 'POST', '/x', { ...asMaud(), body: { name: 'Hers', filter } })).body['filters'],
    ).toHaveLength(1);
    expect(
      (await call(saveFilter, 'POST', '/x', { ...asInes(), body: { name: 'Mine', filter: null } })).body['filters'],
    ).toEqual([]);
  });
});

describe('the tree', () => {
  const ask = (query: string, as = asMaud()) => call(tree, 'GET', `/api/pages/tree${query}`, as);
  it('comes by branch, with how much lies below each', async () => {
    const branch = await ask(`?below=${await pageId('Harbours')}`);
    expect(rowsOf(branch).map((row) => [row.title, row.below])).toEqual([
      ['South Quay', 2],
      ['Skell Island', 1],
      ['Port Ennis', 1],
    ]);
    expect(titles(await ask(`?below=${await pageId('The Slipway Café')}`, asInes()))).toEqual([]);
  });
  it('finds pages with all above them, also with a letter wrong', async () => {
    expect(titles(await ask('?q=lugage'))).toEqual(['Home', 'Harbours', 'Port Ennis', 'Left luggage']);
    expect(titles(await ask('?q=menu', asInes()))).toEqual([]);
  });
  it('finds a page by the words of its way, in any order, not by those of pages one does not see', async () => {
    const way = ['Home', 'Café', 'Menu'];
    for (const q of ['cafe menu', 'MENU Café', 'slipway menu'])
      expect(titles(await ask(`?q=${encodeURIComponent(q)}`)), q).toEqual(way);
    // Ines sees neither the café nor what lies below it; “ennis” and “luggage” are hers.
    expect(titles(await ask('?q=cafe%20menu', asInes()))).toEqual([]);
    expect(titles(await ask('?q=ennis%20luggage', asInes()))).toContain('Left luggage');
  });
});

describe('making pages', () => {
  it('makes one as a draft nobody visits, with an address from its title that is free', async () => {
    const body = { parent: await pageId('About us'), layout: 'plain', title: 'Jobs!' };
    const made = await call(make, 'POST', '/x', { ...asJuno(), body });
    expect(made.status).toBe(200);
    const facts = (await listPages(db, await siteId())).find((page) => page.id === made.body['id']);
    expect(facts).toMatchObject({
      title: 'Jobs!',
      slug: 'jobs-2',
      live: false,
      address: '/about/jobs-2',
      place: { state: 'draft', author: String(juno?.id) },
    });
  });
  it('makes as many as an indented list has, as deep as it has them', async () => {
    const made = await call(make, 'POST', '/x', {
      ...asJuno(),
      body: {
        parent: await pageId('Our history'),
        layout: 'banner',
        outline: 'The boats\n\tThe Heron\n\tThe Tern\nThe crews',
      },
    });
    expect(made.body).toMatchObject({ made: 4 });
    const address = await addresses();
    const rows = await db
      .select({ id: items.id, layout: items.layout })
      .from(items)
      .where(
        sql`path <@ (select path from items where id = ${await pageId('Our history')}) and id <> ${await pageId('Our history')}`,
      );
    expect(rows.map((row) => address(row.id)).sort()).toEqual([
      '/about/history/the-boats',
      '/about/history/the-boats/the-heron',
      '/about/history/the-boats/the-tern',
      '/about/history/the-crews',
    ]);
    expect(new Set(rows.map((row) => row.layout))).toEqual(new Set(['banner']));
  });
  it('says which line of a list does not fit, and makes nothing', async () => {
    const before = await db.$count(items);
    const answer = await call(make, 'POST', '/x', {
      ...asJuno(),
      body: { parent: await pageId('About us'), layout: 'plain', outline: 'A\n    B\n  C' },
    });
    expect(answer).toMatchObject({
      status: 422,
      body: {
        faults: [
          {
            field: 'outline',
            message: 'Line 3: “C” stands between two levels. Move it under the title it belongs to.',
          },
        ],
      },
    });
    expect(await db.$count(items)).toBe(before);
  });
  it.each([
    [{ title: ' ' }, 'title', 'Give the page a title.'],
    [{ outline: '' }, 'outline', 'Paste or type a list first.'],
  ])('tells what is wrong with the form that was sent, not with another: %o', async (given, field, message) => {
    const answer = await call(make, 'POST', '/x', {
      ...asJuno(),
      body: { parent: await pageId('About us'), layout: 'plain', ...given },
    });
    expect(answer).toMatchObject({ status: 422, body: { faults: [{ field, message }] } });
  });
  it('keeps clear of the addresses the application answers itself', async () => {
    const made = await call(make, 'POST', '/x', {
      ...asMaud(),
      body: { parent: Number((await listPages(db, await siteId()))[0]?.id), layout: 'plain', title: 'Search' },
    });
    expect((await addresses())(String(made.body['id']))).toBe('/search-2');
  });
  it('copies a page, alone or with what lies below', async () => {
    const alone = await call(copy, 'POST', '/x', {
      ...asMaud(),
      params: await on('South Quay'),
      body: { withBelow: false },
    });
    expect(alone.body).toMatchObject({ made: 1 });
    const whole = await call(copy, 'POST', '/x', {
      ...asMaud(),
      params: await on('South Quay'),
      body: { withBelow: true },
    });
    expect(whole.body).toMatchObject({ made: 3 });
    const address = await addresses();
    expect(address(String(whole.body['id']))).toBe('/harbours/south-quay-copy-2');
    const [draft] = (await listPages(db, await siteId())).filter((page) => page.id === whole.body['id']);
    expect(draft).toMatchObject({ title: 'South Quay (copy)', live: false, place: { layout: 'harbour' } });
    expect(
      (await call(copy, 'POST', '/x', { ...asInes(), params: await on('South Quay'), body: { withBelow: false } }))
        .status,
    ).toBe(403);
  });
});

describe('moving a page', () => {
  it('says before what moves with it, and leaves everything as it is', async () => {
    const params = await on('The Slipway Café');
    const about = await pageId('About us');
    const told = await call(move, 'POST', '/x', { ...asMaud(), params, body: { parent: about, index: 0, dry: true } });
    expect(told.body).toMatchObject({ title: 'Café', to: 'About us', below: 1, navigation: true, faults: [] });
    expect(
      (told.body['addresses'] as { from: string; to: string }[]).map(({ from, to }) => `${from} ${to}`).sort(),
    ).toEqual(['/cafe /about/cafe', '/cafe/menu /about/cafe/menu']);
    expect((told.body['links'] as { title: string }[]).map((link) => link.title)).toContain('Home');
    expect((await addresses())(params.id)).toBe('/cafe');
  });
  it('changes the addresses of all below, keeps the old ones leading there, and can be taken back', async () => {
    const params = await on('The Slipway Café');
    const menu = String(await pageId('What there is to eat'));
    const moved = await call(move, 'POST', '/x', {
      ...asMaud(),
      params,
      body: { parent: await pageId('About us'), index: 1, redirect: true },
    });
    expect(moved.status).toBe(200);
    expect((await addresses())(menu)).toBe('/about/cafe/menu');
    expect(await findRedirect(db, await siteId(), '/cafe/menu')).toBe(menu);
    const [row] = await db
      .select({ path: sql<string>`path::text` })
      .from(items)
      .where(eq(items.id, Number(menu)));
    expect(row?.path.split('.').slice(-3)).toEqual([String(await pageId('About us')), params.id, menu]);
    const { back } = moved.body as unknown as { back: { parent: number; index: number } };
    expect(
      (await call(move, 'POST', '/x', { ...asMaud(), params, body: { parent: back.parent, index: back.index } }))
        .status,
    ).toBe(200);
    expect((await addresses())(menu)).toBe('/cafe/menu');
    const top = (await listPages(db, await siteId()))
      .filter((page) => page.address.split('/').length === 2 && page.address !== '/' && page.live)
      .map((page) => page.address);
    expect(top).toEqual(['/harbours', '/timetable', '/fares', '/cafe', '/about']);
  });
  it('puts a page in order among its neighbours', async () => {
    const params = await on('Port Ennis');
    await call(move, 'POST', '/x', { ...asMaud(), params, body: { parent: await pageId('Harbours'), index: 0 } });
    const order = (await listPages(db, await siteId()))
      .filter((page) => page.address.startsWith('/harbours/') && page.address.split('/').length === 3 && page.live)
      .map((page) => page.slug);
    expect(order).toEqual(['port-ennis', 'south-quay', 'skell-island']);
  });
  it('is refused below itself, for the first page, onto an address that is taken, and off somebody’s own branch', async () => {
    const harbours = await pageId('Harbours');
    const quay = await pageId('South Quay');
    const go = async (as: { cookie: string }, id: number, parent: number) =>
      (await call(move, 'POST', '/x', { ...as, params: { id: String(id) }, body: { parent, index: 0 } })).body.detail;
    const root = Number((await listPages(db, await siteId()))[0]?.id);
    expect(await go(asMaud(), harbours, quay)).toBe('A page cannot lie below itself.');
    expect(await go(asMaud(), root, quay)).toBe('The first page of the website stays where it is.');
    const contact = await pageId('Contact');
    const twin = await call(make, 'POST', '/x', {
      ...asMaud(),
      body: { parent: root, layout: 'plain', title: 'Contact' },
    });
    expect(await go(asMaud(), Number(twin.body['id']), await pageId('About us'))).toBe(
      'The address /about/contact is taken. Choose another.',
    );
    expect(await go(asJuno(), contact, harbours)).toMatch(
      /^You may move pages to another place under About us, but this lies elsewhere\./,
    );
  });
});

describe('taking pages away', () => {
  it('takes a page down with what lies below, tells whose links break, and puts all back', async () => {
    const params = await on('Timetable');
    const look = await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'look' } });
    expect(look.body).toMatchObject({ below: 2 });
    expect((look.body['links'] as { title: string }[]).map((link) => link.title)).toContain('Home');
    expect((await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'take-down' } })).body).toMatchObject({
      pages: 3,
    });
    const facts = async () =>
      (await listPages(db, await siteId()))
        .filter((page) => page.address.startsWith('/timetable'))
        .map((page) => [page.live, page.place.state]);
    expect(await facts()).toEqual([
      [false, 'down'],
      [false, 'down'],
      [false, 'down'],
    ]);
    expect((await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'take-down' } })).status).toBe(409);
    expect((await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'put-back' } })).body).toMatchObject({
      pages: 3,
    });
    expect(await facts()).toEqual([
      [true, 'published'],
      [true, 'published'],
      [true, 'published'],
    ]);
  });
  it('deletes a branch and brings it back whole; an address taken meanwhile gets a number', async () => {
    const params = await on('Fares');
    expect((await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'delete' } })).body).toMatchObject({
      pages: 3,
    });
    expect(
      (await listDeleted(db, await accessOf('Maud'))).map((page) => [
        page.title,
        page.below,
        page.from,
        page.mayBringBack,
      ]),
    ).toEqual([['Fares', 2, String((await listPages(db, await siteId()))[0]?.id), true]]);
    expect(await listDeleted(db, await accessOf('Ines'))).toEqual([]);
    const root = Number((await listPages(db, await siteId()))[0]?.id);
    const taken = await call(make, 'POST', '/x', {
      ...asMaud(),
      body: { parent: root, layout: 'plain', title: 'Fares' },
    });
    expect((await addresses())(String(taken.body['id']))).toBe('/fares');
    const back = await call(bringBack, 'POST', '/x', { ...asMaud(), params });
    expect(back.body).toMatchObject({ pages: 3, renamed: true });
    expect((await addresses())(params.id)).toBe('/fares-2');
    expect((await call(bringBack, 'POST', '/x', { ...asMaud(), params })).status).toBe(404);
  });
  it('does not bring back below what is deleted itself', async () => {
    const quay = await on('South Quay');
    const parking = await on('Parking at South Quay');
    await call(retire, 'POST', '/x', { ...asMaud(), params: parking, body: { do: 'delete' } });
    await call(retire, 'POST', '/x', { ...asMaud(), params: quay, body: { do: 'delete' } });
    expect((await call(bringBack, 'POST', '/x', { ...asMaud(), params: parking })).body.detail).toBe(
      'The page it lay below is deleted, too. Bring that one back first.',
    );
    expect((await call(bringBack, 'POST', '/x', { ...asMaud(), params: quay })).body).toMatchObject({ pages: 2 });
    expect((await call(bringBack, 'POST', '/x', { ...asMaud(), params: parking })).body).toMatchObject({ pages: 1 });
  });
  it('puts back what was taken down together, and leaves down what was down before', async () => {
    const [quay, parking] = [
      { id: String(await pageId('South Quay')) },
      { id: String(await pageId('Parking at South Quay')) },
    ];
    const go = (params: { id: string }, what: string) =>
      call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: what } });
    const isLive = async ({ id }: { id: string }) =>
      (
        await db
          .select({ live: items.liveRevisionId })
          .from(items)
          .where(eq(items.id, Number(id)))
      )[0]?.live !== null;
    for (const page of [parking, quay]) expect((await go(page, 'take-down')).status).toBe(200);
    expect((await go(quay, 'put-back')).status).toBe(200);
    expect([await isLive(quay), await isLive(parking)]).toEqual([true, false]);
    expect((await go(parking, 'put-back')).status).toBe(200);
    expect((await go(quay, 'take-down')).status).toBe(200);
    expect([await isLive(quay), await isLive(parking)]).toEqual([false, false]);
    expect((await go(quay, 'put-back')).status).toBe(200);
    expect([await isLive(quay), await isLive(parking)]).toEqual([true, true]);
  });
  it('never takes the first page', async () => {
    const root = { id: (await listPages(db, await siteId()))[0]?.id ?? '' };
    for (const what of ['take-down', 'delete'])
      expect((await call(retire, 'POST', '/x', { ...asMaud(), params: root, body: { do: what } })).status).toBe(422);
  });
});

describe('many pages at once', () => {
  const ids = (...names: string[]) => Promise.all(names.map(pageId));
  it('says for each what would become of it, and changes nothing', async () => {
    const chosen = await ids('Jobs', 'Our history', 'Season tickets');
    const told = await call(bulk, 'POST', '/x', {
      ...asJuno(),
      body: { ids: chosen, bulk: { do: 'navigation', shown: false }, dry: true },
    });
    expect(told.body['rows']).toEqual([
      { id: String(chosen[0]), title: 'Jobs', words: 'Left out of navigation', notes: [], refused: false },
      { id: String(chosen[1]), title: 'History', words: 'Left out of navigation', notes: [], refused: false },
      {
        id: String(chosen[2]),
        title: 'A page you do not see',
        words: 'It is not there, or not in your part of the site.',
        notes: [],
        refused: true,
      },
    ]);
    expect(await db.$count(items, eq(items.inNavigation, false))).toBe(0);
  });
  it('does it with those that can be, leaves the rest, and tells how far it is', async () => {
    const chosen = await ids('Jobs', 'Our history', 'Season tickets');
    const answer = await call(bulk, 'POST', '/x', {
      ...asJuno(),
      headers: { accept: 'application/x-ndjson' },
      body: { ids: chosen, bulk: { do: 'navigation', shown: false } },
    });
    const lines = (answer.body['text'] as string)
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { done?: number; value?: { rows: { refused: boolean }[] } });
    expect(lines[0]).toEqual({ done: 3 });
    expect(lines[1]?.value?.rows.map((row) => row.refused)).toEqual([false, false, true]);
    expect(await db.$count(items, eq(items.inNavigation, false))).toBe(2);
  });
  it('leaves each of sixty its own words, versions and needs, and tells of every lot', async () => {
    const site = await siteId();
    const [below] = await ids('Skell Island');
    const words = Array.from({ length: 60 }, (_, i) => `Berth ${i + 1}`);
    const made = await call(make, 'POST', '/x', {
      ...asMaud(),
      body: { parent: below, outline: words.join('\n'), layout: 'plain' },
    });
    expect(made.status, JSON.stringify(made.body)).toBe(200);
    const pages = (await listPages(db, site)).filter((page) => /^Berth \d+$/.test(page.title));
    expect(pages).toHaveLength(60);
    // Each says something else, and one in six is published.
    for (const [i, page] of pages.entries()) {
      const params = { id: page.id };
      const { content, draft } = await getEditable(db, inventory, site, Number(page.id));
      const said = { ...content, summary: `The berth that is called ${page.title}.` };
      if (i % 6 === 0)
        await call(publish, 'POST', '/x', {
          ...asMaud(),
          params,
          body: { content: said, version: draft?.version ?? 0, note: '' },
        });
    }
    const says = async () =>
      new Map(
        await Promise.all(
          pages.map(async ({ id }) => {
            const { content, live, versions } = await getEditable(db, inventory, site, Number(id));
            const needs = await db.$count(references, eq(references.itemId, Number(id)));
            return [id, { summary: content['summary'], live: live?.['title'], out: versions.length, needs }] as const;
          }),
        ),
      );
    const before = await says();
    const answer = await call(bulk, 'POST', '/x', {
      ...asMaud(),
      headers: { accept: 'application/x-ndjson' },
      body: { ids: pages.map((page) => Number(page.id)), bulk: { do: 'navigation', shown: false } },
    });
    const lines = (answer.body['text'] as string).trim().split('\n');
    expect(lines.slice(0, -1)).toEqual(['{"done":50}', '{"done":60}']);
    const after = await says();
    for (const page of pages) {
      const [was, is] = [before.get(page.id), after.get(page.id)];
      expect(is, page.title).toMatchObject({ summary: was?.summary, live: was?.live });
      expect(is?.out).toBe((was?.out ?? 0) + (was?.live === undefined ? 0 : 1));
      expect(is?.needs).toBeGreaterThanOrEqual(was?.needs ?? 0);
    }
    expect(
      (await listPages(db, site)).filter((page) => !page.inNavigation && page.title.startsWith('Berth')),
    ).toHaveLength(60);
    const berths = async () => (await listPages(db, site)).filter((page) => page.title.startsWith('Berth'));
    const all = (await berths()).map(({ id }) => Number(id));
    const deleted = await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: all, bulk: { do: 'delete' } } });
    expect(await berths()).toEqual([]);
    // Meanwhile two of their addresses are given away, and one of those pages is deleted, too.
    for (const title of ['Berth 7', 'Berth 8'])
      await call(make, 'POST', '/x', { ...asMaud(), body: { parent: below, layout: 'plain', title } });
    const [other] = (await berths()).filter(({ title }) => title === 'Berth 8').map(({ id }) => Number(id));
    const again = await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: [other], bulk: { do: 'delete' } } });
    // All of them at once, the two called alike beside each other.
    const eighth = pages.find(({ title }) => title === 'Berth 8')?.id;
    const others = deleted.body['back'] as { page: number }[];
    const alike = (step: { page: number }) => String(step.page) === eighth;
    const steps = [
      ...others.filter((step) => !alike(step)),
      ...others.filter(alike),
      ...(again.body['back'] as object[]),
    ];
    const back = await call(takeBack, 'POST', '/x', { ...asMaud(), body: { steps } });
    expect(back, JSON.stringify(back.body)).toMatchObject({ status: 200, body: { pages: 61 } });
    const slugs = (await berths()).map(({ slug }) => slug);
    expect(slugs).toHaveLength(62);
    expect(new Set(slugs).size).toBe(62);
    expect(slugs).toEqual(expect.arrayContaining(['berth-7', 'berth-7-2', 'berth-8', 'berth-8-2']));
    const left = (await berths()).map(({ id }) => Number(id));
    await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: left, bulk: { do: 'delete' } } });
  });
  it('is not taken back by publishing a draft that was begun before', async () => {
    const [fares] = await ids('Fares');
    const params = { id: String(fares) };
    const shown = await getEditable(db, inventory, await siteId(), fares ?? 0);
    const content = { ...shown.content, summary: 'One price for all.' };
    expect((await call(putDraft, 'PUT', '/x', { ...asMaud(), params, body: { content, version: 0 } })).status).toBe(
      200,
    );
    expect(
      (
        await call(bulk, 'POST', '/x', {
          ...asMaud(),
          body: { ids: [fares], bulk: { do: 'navigation', shown: false } },
        })
      ).status,
    ).toBe(200);
    const draft = await getEditable(db, inventory, await siteId(), fares ?? 0);
    expect(draft.content['page.inNavigation']).toBe(false);
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...asMaud(),
          params,
          body: { content: draft.content, version: 1, note: '' },
        })
      ).status,
    ).toBe(200);
    expect((await listPages(db, await siteId())).find((page) => page.id === params.id)?.inNavigation).toBe(false);
  });
  it('counts a page whose page above is chosen, too, once', async () => {
    const chosen = await ids('Skell Island', 'Getting around on Skell');
    const answer = await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: chosen, bulk: { do: 'delete' } } });
    expect((answer.body['rows'] as { words: string }[]).map((row) => row.words)).toEqual([
      'Deleted',
      'Goes with the page above it',
    ]);
    await call(bringBack, 'POST', '/x', { ...asMaud(), params: { id: String(chosen[0]) } });
  });
  it('tells what comes with each like a single one, and takes all of it back at once', async () => {
    const site = await siteId();
    // Places are by order: what they are numbered with does not matter.
    const state = async () =>
      (await db.select().from(items).orderBy(items.parentId, items.position, items.id)).map(
        ({ id, parentId, deletedAt, downRevisionId, liveRevisionId, audience, inNavigation }) => ({
          id,
          parentId,
          deletedAt,
          down: downRevisionId !== null,
          live: liveRevisionId !== null,
          audience,
          inNavigation,
        }),
      );
    const [quay, fares, about] = [await pageId('South Quay'), await pageId('Fares'), await pageId('About us')];
    const addressesNow = async () => (await listPages(db, site)).map((page) => `${page.id} ${page.address}`).sort();
    const [before, addresses] = [await state(), await addressesNow()];
    const run = async (body: object, dry = false) =>
      (await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: [quay, fares], bulk: body, dry } })).body as {
        rows: { title: string; notes: string[] }[];
        back?: object[];
      };
    const single = async (id: number) =>
      (await call(retire, 'POST', '/x', { ...asMaud(), params: { id: String(id) }, body: { do: 'look' } })).body as {
        below: number;
        links: { title: string }[];
      };
    const told = await run({ do: 'delete' }, true);
    expect(told.back).toBeUndefined();
    expect(told.rows.find((row) => row.title === 'South Quay')?.notes.join(' ')).toMatch(
      new RegExp(`^With ${(await single(quay)).below} below\\.`),
    );
    const linked = (
      await Promise.all(
        (await listPages(db, site))
          .filter((page) => page.parent !== null)
          .map(async ({ id }) => ({ id: Number(id), links: (await single(Number(id))).links })),
      )
    ).find(({ links }) => links.length > 0);
    const one = (
      await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: [linked?.id], bulk: { do: 'take-down' }, dry: true } })
    ).body as { rows: { notes: string[] }[] };
    expect(one.rows[0]?.notes.join(' ')).toContain(`Links will lead nowhere on “${linked?.links[0]?.title}”`);
    expect(
      (await run({ do: 'move', parent: about, redirect: true }, true)).rows
        .find((row) => row.title === 'South Quay')
        ?.notes.join(' '),
    ).toMatch(
      /\d addresses change: \/harbours\/south-quay → \/about\/south-quay …; the old ones lead there\..*“More here” on Harbours loses it/,
    );
    for (const what of [
      { do: 'delete' },
      { do: 'move', parent: about, redirect: true },
      { do: 'take-down' },
      { do: 'audience', audience: 'members' },
      { do: 'navigation', shown: (before.find((page) => page.id === quay)?.inNavigation ?? true) === false },
    ]) {
      const { back } = await run(what);
      expect(await state(), what.do).not.toEqual(before);
      expect((await call(takeBack, 'POST', '/x', { ...asJuno(), body: { steps: back } })).status, what.do).toBe(403);
      expect((await call(takeBack, 'POST', '/x', { ...asMaud(), body: { steps: back } })).status, what.do).toBe(200);
      expect(await state(), what.do).toEqual(before);
    }
    expect(await addressesNow()).toEqual(addresses);
  });
  it('two that had one address of their own, one after the other, come back at once: the first keeps it', async () => {
    const chosen = await ids('Contact', 'Season tickets');
    const steps: object[] = [];
    for (const id of chosen) {
      await db.update(items).set({ ownAddress: '/pier' }).where(eq(items.id, id));
      const gone = await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: [id], bulk: { do: 'delete' } } });
      steps.unshift(...(gone.body['back'] as object[]));
    }
    // As one deletion, so that they come back in one go.
    await db.update(items).set({ deletedAt: new Date() }).where(inArray(items.id, chosen));
    const back = await call(takeBack, 'POST', '/x', { ...asMaud(), body: { steps } });
    expect(back, JSON.stringify(back.body)).toMatchObject({ status: 200, body: { pages: 2 } });
    const own = (await listPages(db, await siteId())).filter(({ id }) => chosen.includes(Number(id)));
    expect(own.map(({ ownAddress }) => ownAddress).sort()).toEqual(['/pier', null].sort());
    await db.update(items).set({ ownAddress: null }).where(inArray(items.id, chosen));
  });
  it('asks of each whether it may be taken back, the second as the first', async () => {
    const [contact, quay] = await ids('Contact', 'South Quay');
    const hidden = () => db.$count(items, eq(items.inNavigation, false));
    const before = await hidden();
    const [own, foreign] = [contact, quay].map((page) => ({ do: 'navigation', page, shown: false }));
    for (const steps of [
      [own, foreign],
      [foreign, own],
    ]) {
      expect((await call(takeBack, 'POST', '/x', { ...asJuno(), body: { steps } })).status).toBe(403);
      expect(await hidden()).toBe(before);
    }
  });
  it('is taken back whole or not at all: nothing is put back that was not taken down', async () => {
    const [fares, quay] = await ids('Fares', 'South Quay');
    const down = await call(bulk, 'POST', '/x', { ...asMaud(), body: { ids: [fares], bulk: { do: 'take-down' } } });
    const steps = [{ do: 'put-back', page: quay }, ...(down.body['back'] as object[])];
    expect((await call(takeBack, 'POST', '/x', { ...asMaud(), body: { steps } })).body).toMatchObject({
      code: 'not-taken-down',
    });
    const isLive = async () => (await listPages(db, await siteId())).find(({ id }) => id === String(fares))?.live;
    expect(await isLive()).toBe(false);
    await call(takeBack, 'POST', '/x', { ...asMaud(), body: { steps: down.body['back'] } });
    expect(await isLive()).toBe(true);
  });
  it('moves several below another page, and says of one that cannot', async () => {
    const about = await pageId('About us');
    const chosen = [...(await ids('Season tickets', 'Jobs')), about];
    const answer = await call(bulk, 'POST', '/x', {
      ...asMaud(),
      body: { ids: chosen, bulk: { do: 'move', parent: await pageId('Jobs'), redirect: true }, dry: true },
    });
    expect(
      (answer.body['rows'] as { words: string; refused: boolean }[]).map((row) => [row.words, row.refused]),
    ).toEqual([
      ['A page cannot lie below itself.', true],
      ['Below Jobs', false],
      ['A page cannot lie below itself.', true],
    ]);
  });
});

it('what lies below goes along only where it is theirs, too', async () => {
  const site = await findSite(db);
  if (!site) throw new Error('no site');
  const plan = await getLivePlan(db, site);
  const [history, about, jobs] = [await pageId('Our history'), await pageId('About us'), await pageId('Jobs')];
  const forbid = async (number: number, permissions: string[]) => {
    const grants = permissions.map((permission) => ({
      id: `no-${permission}`,
      effect: 'deny' as const,
      permission,
      scope: { branch: String(history) },
    }));
    const [release] = await db
      .insert(releases)
      .values({
        siteId: site.id,
        number,
        plan: {
          ...plan,
          roles: plan.roles.map((role) =>
            role.id === 'newsroom' ? { ...role, grants: [...role.grants, ...grants] } : role,
          ),
        },
      })
      .returning({ id: releases.id });
    await db
      .update(sites)
      .set({ liveReleaseId: release?.id ?? null })
      .where(eq(sites.id, site.id));
  };
  await forbid(900, ['page.retire', 'page.arrange']);
  const go = (route: Parameters<typeof call>[0], id: number, body: object) =>
    call(route, 'POST', '/x', { ...asJuno(), params: { id: String(id) }, body });
  for (const what of ['take-down', 'delete'])
    expect((await go(retire, about, { do: what })).body.detail).toBe(
      '“History” would go along, and that one is not yours to change in this way. Ask the keyholder if you need to.',
    );
  expect((await go(retire, jobs, { do: 'take-down' })).status).toBe(200);
  expect((await go(retire, jobs, { do: 'put-back' })).status).toBe(200);
  await forbid(901, ['page.retire', 'page.view']);
  expect((await go(retire, about, { do: 'delete' })).body.detail).toMatch(
    /^A page below that you do not see would go along,/,
  );
  await db.update(sites).set({ liveReleaseId: site.liveReleaseId }).where(eq(sites.id, site.id));
});

it('a page put back, or brought back under another address, keeps what was changed for it meanwhile', async () => {
  const params = await on('Timetable');
  await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'take-down' } });
  await call(bulk, 'POST', '/x', {
    ...asMaud(),
    body: { ids: [Number(params.id)], bulk: { do: 'navigation', shown: false } },
  });
  await call(retire, 'POST', '/x', { ...asMaud(), params, body: { do: 'put-back' } });
  expect((await listPages(db, await siteId())).find((page) => page.id === params.id)).toMatchObject({
    live: true,
    inNavigation: false,
  });
  const about = await pageId('About us');
  const made = await call(make, 'POST', '/x', {
    ...asMaud(),
    body: { parent: about, layout: 'plain', title: 'Twice' },
  });
  const twice = { id: String(made.body['id']) };
  await call(retire, 'POST', '/x', { ...asMaud(), params: twice, body: { do: 'delete' } });
  await call(make, 'POST', '/x', { ...asMaud(), body: { parent: about, layout: 'plain', title: 'Twice' } });
  await call(bringBack, 'POST', '/x', { ...asMaud(), params: twice });
  expect((await getEditable(db, inventory, await siteId(), Number(twice.id))).content['page.slug']).toBe('twice-2');
});

it('a setting changed at once is a version of its own; whoever wrote what waits is not forgotten over it', async () => {
  const params = await on('Getting around on Skell');
  const before = await getEditable(db, inventory, await siteId(), Number(params.id));
  const writers = await listWriters(db, Number(params.id));
  expect(writers).toHaveLength(1);
  await call(bulk, 'POST', '/x', {
    ...asMaud(),
    body: { ids: [Number(params.id)], bulk: { do: 'navigation', shown: false } },
  });
  const after = await getEditable(db, inventory, await siteId(), Number(params.id));
  expect(after.live).toEqual({ ...before.live, 'page.inNavigation': false });
  expect(after.versions.filter((version) => version.live)).toMatchObject([{ note: 'Left out of navigation' }]);
  expect(after.versions).toHaveLength(before.versions.length + 1);
  expect(await listWriters(db, Number(params.id))).toEqual(writers);
});

it('a page below another has a last part of its address: an empty one waits in its draft and goes nowhere', async () => {
  const params = await on('Lost and found');
  const { live, content } = await getEditable(db, inventory, await siteId(), Number(params.id));
  const body = { content: { ...content, 'page.slug': '' }, version: 0 };
  const kept = await call(putDraft, 'PUT', '/x', { ...asMaud(), params, body });
  expect(kept.body).toMatchObject({ faults: [{ field: 'page.slug' }] });
  const sent = await call(publish, 'POST', '/x', { ...asMaud(), params, body: { ...body, version: 1, note: '' } });
  expect([sent.status, sent.body['faults']]).toMatchObject([422, [{ field: 'page.slug' }]]);
  expect((await getEditable(db, inventory, await siteId(), Number(params.id))).live).toEqual(live);
});

it('no two pages have the same address, by whichever way: a new page, one below, one brought back', async () => {
  const about = await pageId('About us');
  const fields = { summary: 's', body: { type: 'doc', content: [{ type: 'paragraph' }] } };
  const put = (id: unknown, content: object) =>
    call(publish, 'POST', '/x', {
      ...asMaud(),
      params: { id: String(id) },
      body: { content: { ...fields, ...content }, version: 1, note: '' },
    });
  const [one, two] = [
    await call(make, 'POST', '/x', { ...asMaud(), body: { parent: about, layout: 'plain', title: 'Boats' } }),
    await call(make, 'POST', '/x', {
      ...asMaud(),
      body: { parent: await pageId('Jobs'), layout: 'plain', title: 'Crews' },
    }),
  ];
  // A draft holds no address against others; when it goes out itself, the address must be free.
  expect((await put(two.body['id'], { title: 'Crews', 'page.ownAddress': '/about/boats' })).body.detail).toBe(
    'The address /about/boats is taken. Choose another.',
  );
  expect((await put(two.body['id'], { title: 'Crews', 'page.ownAddress': '/about/ships' })).status).toBe(200);
  const third = await call(make, 'POST', '/x', {
    ...asMaud(),
    body: { parent: about, layout: 'plain', title: 'Ships' },
  });
  expect((await addresses())(String(third.body['id']))).toBe('/about/ships-2');
  // An address that would move what lies below onto another page.
  const below = await call(make, 'POST', '/x', {
    ...asMaud(),
    body: { parent: Number(one.body['id']), layout: 'plain', title: 'Ships' },
  });
  expect((await addresses())(String(below.body['id']))).toBe('/about/boats/ships');
  expect((await put(one.body['id'], { title: 'Boats', 'page.ownAddress': '/harbours' })).status).toBe(422);
  const about2 = await call(make, 'POST', '/x', {
    ...asMaud(),
    body: { parent: Number(third.body['id']), layout: 'plain', title: 'x' },
  });
  expect((await put(about2.body['id'], { title: 'x', 'page.ownAddress': '/pier/ships' })).status).toBe(200);
  expect((await put(one.body['id'], { title: 'Boats', 'page.ownAddress': '/pier' })).body.detail).toBe(
    'The address /pier/ships is taken. Choose another.',
  );
  expect(
    (await call(make, 'POST', '/x', { ...asMaud(), body: { parent: about, layout: 'poster', title: 'x' } })).status,
  ).toBe(422);
});

it('two who publish the same address at once: one gets it, the other is told', async () => {
  const about = await pageId('About us');
  const made = await Promise.all(
    ['One', 'Two'].map((title) =>
      call(make, 'POST', '/x', { ...asMaud(), body: { parent: about, layout: 'plain', title } }),
    ),
  );
  const results = await Promise.all(
    made.map((page) =>
      call(publish, 'POST', '/x', {
        ...asMaud(),
        params: { id: String(page.body['id']) },
        body: {
          content: {
            title: 'Same',
            summary: 's',
            body: { type: 'doc', content: [{ type: 'paragraph' }] },
            'page.ownAddress': '/same',
          },
          version: 1,
          note: '',
        },
      }),
    ),
  );
  expect(results.map((result) => result.status).sort()).toEqual([200, 422]);
  expect(results.find((result) => result.status === 422)?.body.detail).toBe(
    'The address /same is taken. Choose another.',
  );
});

describe('a page that no visitor ever saw', () => {
  it('leaves no way behind where it lay', async () => {
    const body = { parent: await pageId('About us'), layout: 'plain', title: 'Not yet' };
    const made = await call(make, 'POST', '/x', { ...asMaud(), body });
    const params = { id: String(made.body['id']) };
    const to = { parent: await pageId('Harbours'), index: 0, redirect: true };
    expect((await call(move, 'POST', '/x', { ...asMaud(), params, body: to })).status).toBe(200);
    expect((await addresses())(params.id)).toBe('/harbours/not-yet');
    expect(await findRedirect(db, await siteId(), '/about/not-yet')).toBeUndefined();
  });
});
