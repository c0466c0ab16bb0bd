// Pages at 5,000: a site of its own, asked over HTTP like everybody does.
import { startSettings } from '../../src/core/content';
import { randomUUID } from 'node:crypto';
import { diffWordsWithSpace } from 'diff';
import pg from 'pg';
import { compareDocuments, plainText, type Document } from '../../src/core/content';
import { p } from '../../src/demo/write';
import { inventory } from '../inventory';

const PAGES = 5000;
const WORDS = [
  'harbour',
  'boat',
  'winter',
  'ticket',
  'lantern',
  'crew',
  'morning',
  'island',
  'pier',
  'fog',
  'bicycle',
  'ramp',
  'timetable',
  'luggage',
  'gate',
  'sound',
];

/** Words that differ from page to page, the same in every run. */
const wordsOf = (seed: number, count: number) =>
  Array.from({ length: count }, (_, i) => WORDS[(seed * 7919 + i * 104_729 + ((seed * i) % 13)) % WORDS.length]).join(
    ' ',
  );

/** Fills the demo's site up to 5,000 pages, ten below each, every one published. */
async function fillSite(url: string): Promise<{ deep: number }> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const {
    rows: [root],
  } = await client.query<{ id: number; site_id: number }>('select id, site_id from items where parent_id is null');
  if (!root) throw new Error('no first page');
  await client.query('begin');
  const ids: number[] = [root.id];
  const paths = [String(root.id)];
  for (let i = 0; ids.length < PAGES - 20; i++) {
    const parent = Math.floor(i / 10);
    const {
      rows: [page],
    } = await client.query<{ id: number }>(
      `insert into items (site_id, parent_id, path, slug, position, layout, author_id) values ($1, $2, 'new', $3, $4, 'plain', 1) returning id`,
      [root.site_id, ids[parent], `page-${i}`, 100 + (i % 10)],
    );
    const id = page?.id ?? 0;
    const path = `${paths[parent]}.${id}`;
    const settings = { slug: `page-${i}`, layout: 'plain', language: 'en', inNavigation: true, author: '1' };
    const content = {
      ...startSettings(settings),
      title: `Page ${i} ${wordsOf(i, 3)}`,
      summary: wordsOf(i + 1, 12),
      body: { type: 'doc', content: [0, 1, 2].map((n) => p(wordsOf(i * 3 + n, 60))) },
    };
    const {
      rows: [revision],
    } = await client.query<{ id: number }>(
      `insert into revisions (site_id, item_id, number, content, kind, made_by) values ($1, $2, 1, $3, 'published', 1) returning id`,
      [root.site_id, id, content],
    );
    await client.query(`update items set path = $1, live_revision_id = $2, findings = '[]' where id = $3`, [
      path,
      revision?.id,
      id,
    ]);
    await client.query(
      'insert into publications (site_id, item_id, revision_id, published_by) values ($1, $2, $3, 1)',
      [root.site_id, id, revision?.id],
    );
    ids.push(id);
    paths.push(path);
  }
  // As their texts would have written down themselves.
  await client.query(
    `insert into item_references (site_id, item_id, revision_id, field, kind, target, times)
     select site_id, id, live_revision_id, 'body', 'made', 'bold', 3 from items where live_revision_id is not null`,
  );
  await client.query('commit');
  await client.query('analyze');
  await client.end();
  return { deep: ids.at(-1) ?? root.id };
}

const median = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** Asks an address over and over; gives the median in ms. */
export async function timed(run: (n: number) => Promise<Response>, times = 30): Promise<number> {
  const taken: number[] = [];
  for (let n = 0; n < times; n++) {
    const started = performance.now();
    const answer = await run(n);
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${answer.url}: ${answer.status} ${text.slice(0, 500)}`);
    if (n >= 5) taken.push(performance.now() - started);
  }
  return median(taken);
}

const STEPS = ['tasks', 'access', 'menu', 'toolbar', 'dashboard', 'screens', 'words', 'tours', 'walk'];
/** Every screen there is, with a page, a review and a role of the demo in its address. */
function everyScreen(page: number, vacancy: number): string[] {
  const paths = [...inventory.screens.values()].map(({ path, on }) =>
    path
      .replace('[id]', String(on === 'review' ? 1 : on === 'vacancy' ? vacancy : page))
      .replace('[role]', 'harbour-desk'),
  );
  return [
    ...new Set([
      '/',
      '/page-0',
      '/search?q=lantern',
      // Which texts hold something a tool makes; every page does.
      '/api/workshop/held?made=bold',
      '/api/workshop/used',
      ...paths.flatMap((path) =>
        path.includes('[step]') ? STEPS.map((step) => path.replace('[step]', step)) : [path],
      ),
    ]),
  ];
}

/** How long the server takes for each screen, and how much HTML it sends. */
export async function measureScreens(
  url: string,
  { deep: page, vacancy }: Filled,
  cookie: string,
  say: (what: string, value: string) => void,
) {
  for (const path of everyScreen(page, vacancy)) {
    let bytes = 0;
    const ms = await timed(async () => {
      const answer = await fetch(url + path, { headers: { cookie } });
      const body = await answer.clone().text();
      bytes = Buffer.byteLength(body);
      return answer;
    }, 20);
    say(
      `5,000 pages: ${path.replace(String(page), '[id]')}`,
      `${ms.toFixed(1)} ms median, ${Math.round(bytes / 1000)} kB of HTML`,
    );
  }
}

/** How long what is done to many pages takes: a branch deleted and brought back, and the same done with 1,000 pages. */
export async function measureWork(
  url: string,
  databaseUrl: string,
  cookie: string,
  say: (what: string, value: string) => void,
): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ id: number }>(
    `select id from items where deleted_at is null and slug like 'page-%' order by id`,
  );
  // The branch whose size is nearest to 200.
  const {
    rows: [branch],
  } = await client.query<{ id: number; size: number }>(
    `select p.id, (select count(*)::int from items b where b.path <@ p.path) as size from items p where nlevel(p.path) > 1 order by abs((select count(*) from items b where b.path <@ p.path) - 200) limit 1`,
  );
  await client.end();
  const post = async (path: string, body: object) => {
    const started = performance.now();
    const answer = await fetch(url + path, {
      method: 'POST',
      headers: { cookie, origin: url, 'content-type': 'application/json', 'idempotency-key': randomUUID() },
      body: JSON.stringify(body),
    });
    const said = await answer.text();
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${said}`);
    return `${Math.round(performance.now() - started)} ms`;
  };
  const what = `a branch of ${branch?.size ?? 0}`;
  say(`5,000 pages: ${what} told before it is deleted`, await post(`/api/items/${branch?.id}/retire`, { do: 'look' }));
  say(`5,000 pages: ${what} deleted`, await post(`/api/items/${branch?.id}/retire`, { do: 'delete' }));
  say(`5,000 pages: ${what} brought back`, await post(`/api/items/${branch?.id}/bring-back`, {}));
  say(`5,000 pages: ${what} taken down`, await post(`/api/items/${branch?.id}/retire`, { do: 'take-down' }));
  say(`5,000 pages: ${what} put back`, await post(`/api/items/${branch?.id}/retire`, { do: 'put-back' }));
  const ids = rows.slice(-1000).map((row) => row.id);
  for (const bulk of [
    { do: 'navigation', shown: false },
    { do: 'audience', audience: 'members' },
    { do: 'take-down' },
    { do: 'delete' },
  ]) {
    say(`5,000 pages: 1,000 of them, ${bulk.do}, told`, await post('/api/pages/bulk', { ids, bulk, dry: true }));
    say(`5,000 pages: 1,000 of them, ${bulk.do}`, await post('/api/pages/bulk', { ids, bulk }));
  }
}

const side = (ms: number, beside: number, what: string) =>
  `${ms.toFixed(1)} ms median; ${what} ${beside.toFixed(1)} ms: ${(ms / beside).toFixed(1)} ×`;

/** Two long texts compared. Nothing else runs meanwhile, so it comes before there is a server to wait. */
export function measureComparing(say: (what: string, value: string) => void): void {
  const long = (turn: number): Document => ({
    type: 'doc',
    content: Array.from({ length: 400 }, (_, i) => p(wordsOf(i % 7 === turn ? i + 5000 : i, 40))),
  });
  const [a, b] = [long(1), long(2)];
  const started = performance.now();
  compareDocuments(a, b);
  const ours = performance.now() - started;
  const flat = performance.now();
  diffWordsWithSpace(plainText(a), plainText(b));
  say(
    'comparing two texts of 16,000 words',
    side(ours, performance.now() - flat, 'beside comparing them as one line of words'),
  );
}

/** A page of the many, far down, and something that lies on one. */
interface Filled {
  deep: number;
  vacancy: number;
}

export async function measurePages(
  url: string,
  databaseUrl: string,
  cookie: string,
  say: (what: string, value: string) => void,
): Promise<Filled> {
  const { deep } = await fillSite(databaseUrl);
  const get = (path: string) => () => fetch(url + path, { headers: { cookie } });
  const post = (method: string, path: string, body: (n: number) => object) => (n: number) =>
    fetch(url + path, {
      method,
      headers: { cookie, origin: url, 'content-type': 'application/json' },
      body: JSON.stringify(body(n)),
    });
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const bare = async (sql: string) => {
    const taken: number[] = [];
    for (let n = 0; n < 30; n++) {
      const started = performance.now();
      await client.query(sql);
      taken.push(performance.now() - started);
    }
    return median(taken);
  };
  const everyRow = await bare(
    `select p.id, p.path, r.content->>'title' from items p join revisions r on r.id = p.live_revision_id`,
  );
  say(
    '5,000 pages: the page tree, first screen',
    side(await timed(get('/room/pages')), everyRow, 'beside reading every title bare'),
  );
  say(
    '5,000 pages: a branch of the tree',
    side(await timed(get(`/api/pages/tree?below=${deep - 2000}`)), everyRow, 'beside the same'),
  );
  say(
    '5,000 pages: the list, a stretch of 100',
    side(await timed(get('/api/pages/list?sort=title&dir=up&offset=2500')), everyRow, 'beside the same'),
  );
  const like = await bare(
    `select p.id from items p join revisions r on r.id = p.live_revision_id where r.content::text ilike '%lantern%' and r.content::text ilike '%bicycle%'`,
  );
  say(
    '5,000 pages: search in the back office, a letter wrong',
    side(await timed(get('/api/pages/list?q=lantren%20bicycle')), like, 'beside a search by pattern'),
  );
  say(
    '5,000 pages: search on the website',
    side(await timed(get('/search?q=lantern%20bicycle')), like, 'beside a search by pattern'),
  );
  say('5,000 pages: the edit screen', `${(await timed(get(`/room/pages/${deep}`))).toFixed(1)} ms median`);
  say('5,000 pages: a page of the website', `${(await timed(get('/page-0'))).toFixed(1)} ms median`);
  const content = (n: number) => ({
    title: 'Bench',
    summary: `Turn ${n}`,
    body: { type: 'doc', content: [p(wordsOf(n, 200))] },
  });
  let version = 0;
  const update = await bare(`update items set short_name = short_name where id = ${deep}`);
  say(
    '5,000 pages: saving a draft',
    side(
      await timed(post('PUT', `/api/items/${deep}/draft`, (n) => ({ content: content(n), version: version++ }))),
      update,
      'beside one bare update',
    ),
  );
  say(
    '5,000 pages: publishing',
    side(
      await timed(async (n) => {
        const answer = await post('POST', `/api/items/${deep}/publish`, () => ({
          content: content(1000 + n),
          version,
          note: '',
        }))(n);
        version = 0;
        return answer;
      }),
      update,
      'beside one bare update',
    ),
  );
  const { rows } = await client.query<{ id: number }>(
    `select id from items where type = 'vacancy' order by id limit 1`,
  );
  await client.end();
  return { deep, vacancy: rows[0]?.id ?? 0 };
}
