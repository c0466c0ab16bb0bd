import { request } from 'node:http';
import type { Page } from '@playwright/test';
import pg from 'pg';
import { decide, type Place } from '@/core/access';
import { policyOf, type Plan } from '@/core/plan';
import { DEMO_PEOPLE } from '@/demo/people';
import { axe, expect, isReady, openPage, signIn, test, writing, type App } from './app';
import { inventory } from '../inventory';

async function query<T extends object>(app: App, sql: string, values: unknown[] = []): Promise<T[]> {
  const client = new pg.Client({ connectionString: app.databaseUrl });
  await client.connect();
  const { rows } = await client.query<T>(sql, values);
  await client.end();
  return rows;
}
const quayId = async (app: App) =>
  (await query<{ id: number }>(app, `select p.id from items p where slug = 'south-quay'`))[0]?.id ?? 0;
const reviewId = async (app: App) =>
  (await query<{ id: number }>(app, 'select id from reviews where outcome is null'))[0]?.id ?? 0;
/** One item of each type, by its screen's `on`: the page at South Quay, the first of the others. */
const sampleId = async (app: App, type: string) =>
  type === 'page'
    ? quayId(app)
    : ((await query<{ id: number }>(app, 'select id from items where type = $1 order by id', [type]))[0]?.id ?? 0);
const pathOf = async (app: App, path: string) => {
  const on = [...inventory.screens.values()].find((screen) => screen.path === path)?.on;
  return path
    .replace('[id]', String(on === 'review' ? await reviewId(app) : await sampleId(app, on ?? 'page')))
    .replace('[role]', 'harbour-desk')
    .replace('[step]', 'menu');
};

test('every control of the inventory is found on its screen, under its name’s anchor', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  // Something that is not live yet, so that “Go live” is there.
  await maud.goto('/workshop/roles/newsroom/toolbar');
  await maud
    .getByRole('region', { name: 'Tools: Everywhere' })
    .getByRole('button', { name: 'Quote', exact: true })
    .click();
  await expect(maud.getByText('1 change not yet live')).toBeVisible();
  // And remarks of an earlier look.
  for (const type of ['page', 'vacancy'])
    await query(
      app,
      `with look as (insert into reviews (site_id, item_id, revision_id, sent_by, sent_at, note, outcome, decided_at)
         select site_id, item_id, id, $2, now() - interval '2 days', '', 'sent-back', now() - interval '1 day' from revisions where item_id = $1 limit 1 returning id, site_id)
       insert into remarks (site_id, review_id, field, quote, text, made_by) select site_id, id, 'title', '', 'Is it so?', $2 from look`,
      [await sampleId(app, type), (await query<{ id: number }>(app, 'select id from people limit 1'))[0]?.id],
    );
  const prepare: Record<string, (page: Page) => Promise<unknown>> = {
    'pages.edit': (page) => expect(writing(page)).toBeVisible(),
    'vacancies.edit': (page) => expect(page.getByLabel('The work')).toBeVisible(),
    'vacancies.list': (page) => isReady(page),
    'notices.list': (page) => page.getByRole('button', { name: 'End now' }).first().waitFor(),
    'pictures.list': (page) =>
      page
        .getByRole('button', { name: /^Describe/ })
        .first()
        .waitFor(),
  };
  const then: Record<string, (page: Page) => Promise<unknown>> = {
    today: (page) => page.locator('[data-anchor="frame.person"]').click(),
    'notices.list': (page) => page.getByRole('button', { name: 'Post a notice' }).click(),
    'vacancies.list': (page) => page.getByRole('button', { name: 'New vacancy' }).click(),
    'pictures.list': (page) =>
      page
        .getByRole('button', { name: /^Describe/ })
        .last()
        .click(),
  };
  let found = 0;
  for (const screen of inventory.screens.values()) {
    const controls = [...inventory.controls.values()].filter((control) => control.screen === screen.id);
    if (controls.length === 0) continue;
    await maud.goto(await pathOf(app, screen.path));
    await prepare[screen.id]?.(maud);
    const look = (id: string) => maud.locator(`[data-anchor="${id}"]`).first().isVisible();
    let missing = [];
    for (const control of controls) if (!(await look(control.id))) missing.push(control.id);
    await then[screen.id]?.(maud);
    missing = (await Promise.all(missing.map(async (id) => ((await look(id)) ? null : id)))).filter(Boolean);
    expect(missing, `on ${screen.path}`).toEqual([]);
    found += controls.length;
  }
  expect(found).toBe(inventory.controls.size);
  await maud.context().close();
});

test('every screen opens for just whom decide() allows, whatever address is typed', async ({ browser, app }) => {
  const [release] = await query<{ plan: Plan }>(app, 'select plan from releases order by number desc limit 1');
  const rows = await query<{ id: number; type: string; path: string; layout: string; author_id: number }>(
    app,
    'select id, type, path::text, layout, author_id from items order by id',
  );
  const pages = rows.filter((row) => row.type === 'page');
  const people = await query<{ id: number; name: string; role_id: string; branch_id: number | null }>(
    app,
    'select p.id, p.name, a.role_id, a.branch_id from people p join assignments a on a.person_id = p.id',
  );
  if (!release) throw new Error('no release');
  const policy = policyOf(
    inventory,
    release.plan,
    people.map((p) => ({
      id: String(p.id),
      name: p.name,
      assignments: [{ role: p.role_id, ...(p.branch_id && { branch: String(p.branch_id) }) }],
    })),
  );
  const place = (row: (typeof rows)[number]): Place => {
    const path = row.path.split('.');
    const isPage = row.type === 'page';
    const page = isPage ? row : rows.find((one) => String(one.id) === path.at(-2));
    return {
      path: isPage ? path : path.slice(0, -1),
      layout: page?.layout ?? '',
      state: 'published',
      author: String(row.author_id),
    };
  };
  const placeOf = (id: number) => {
    const row = rows.find((p) => p.id === id);
    return row ? place(row) : undefined;
  };
  const reviewPage =
    (await query<{ item_id: number }>(app, 'select item_id from reviews where outcome is null'))[0]?.item_id ?? 0;
  const [before] = await query<{ rows: string }>(app, 'select json_agg(p)::text as rows from items p');
  // A word of its own for each page, some of which are not for everybody, never published, taken down or deleted.
  await query(
    app,
    `update items set short_name = coalesce(short_name, slug) || ' zq' || id || 'qz' where parent_id is not null`,
  );
  await query(app, `update items set audience = '{"kind":"roles","roles":["second-look"]}' where slug = 'timetable'`);
  await query(
    app,
    `update items set down_revision_id = live_revision_id, live_revision_id = null where slug = 'port-ennis'`,
  );
  await query(app, `update items set live_revision_id = null where slug = 'season-tickets'`);
  await query(app, `update items set deleted_at = now() where slug = 'lost-and-found'`);
  const visible = new Set(
    (
      await query<{ id: number }>(
        app,
        `select p.id from items p where p.live_revision_id is not null and p.deleted_at is null and not exists (select 1 from items a where a.path @> p.path and a.audience is not null)`,
      )
    ).map((row) => row.id),
  );
  const members = new Set(
    (
      await query<{ id: number }>(
        app,
        `select p.id from items p where p.live_revision_id is not null and p.deleted_at is null and exists (select 1 from items a where a.path @> p.path and a.audience->>'kind' = 'members')`,
      )
    ).map((row) => row.id),
  );
  let asked = 0;
  for (const person of DEMO_PEOPLE) {
    const page = await signIn(browser, app, person.name.split(' ')[0] ?? '');
    const id = String(people.find((p) => p.name === person.name)?.id);
    for (const screen of inventory.screens.values()) {
      const at = { person: id, permission: screen.needs ?? '', atMs: Date.now() };
      const on =
        screen.on === undefined
          ? undefined
          : placeOf(screen.on === 'review' ? reviewPage : await sampleId(app, screen.on));
      const asOwn = inventory.permissions.get(screen.needs as never)?.ownAuthor;
      const allowed =
        !screen.needs ||
        (screen.on
          ? decide(policy, { ...at, place: on }).allowed
          : decide(policy, at).allowed ||
            (inventory.permissions.get(screen.needs)?.placed === true &&
              pages.some((page) =>
                [place(page), ...(asOwn ? [{ ...place(page), author: id }] : [])].some(
                  (there) => decide(policy, { ...at, place: there }).allowed,
                ),
              )));
      const answer = await page.request.get(await pathOf(app, screen.path));
      expect(answer.status(), `${person.name} at ${screen.path}`).toBe(allowed ? 200 : 403);
      expect(answer.headers()['cache-control'], screen.path).toBe('no-store');
      const html = await answer.text();
      if (!allowed) expect(html).toContain('Ask Maud Ellery if you need to.');
      // No screen says a word of a page its reader may not know of. The Workshop and the activity are about everything
      // there is.
      const told = [...new Set([...html.matchAll(/zq(\d+)qz/g)].map((found) => Number(found[1])))].filter(
        (page) =>
          !visible.has(page) &&
          !members.has(page) &&
          !decide(policy, { person: id, permission: 'page.view', place: placeOf(page), atMs: Date.now() }).allowed,
      );
      if (!screen.path.startsWith('/workshop') && screen.id !== 'activity.list')
        expect(told, `${person.name} reads at ${screen.path} of pages they may not know of`).toEqual([]);
      asked++;
    }
    expect((await page.request.get('/room/secrets')).status()).toBe(404);
    await page.context().close();
  }
  expect(asked).toBe(DEMO_PEOPLE.length * inventory.screens.size);
  await query(
    app,
    'update items p set (short_name, audience, live_revision_id, down_revision_id, deleted_at) = (select short_name, audience, live_revision_id, down_revision_id, deleted_at from json_populate_recordset(null::items, $1::json) b where b.id = p.id)',
    [before?.rows],
  );
});

test('whatever the address looks like, what was not admitted does not run', async ({ app }) => {
  // Asked by hand: a browser would set such addresses right before it asks.
  const ask = (path: string, headers: Record<string, string> = {}) =>
    new Promise<{ status: number; text: string; location: string }>((answered, failed) => {
      const { hostname, port } = new URL(app.url);
      request({ hostname, port, path, headers: { host: `${hostname}:${port}`, ...headers } }, (response) => {
        let text = '';
        response.on('data', (chunk: Buffer) => {
          text += chunk.toString();
        });
        response.on('end', () =>
          answered({ status: response.statusCode ?? 0, text, location: String(response.headers['location'] ?? '') }),
        );
      })
        .on('error', failed)
        .end();
    });
  for (const path of [
    '//workshop/files',
    '/workshop//files',
    '/%2fworkshop/files',
    '/workshop%2ffiles',
    '/./workshop/files',
    '/x/../workshop/files',
    '/WORKSHOP/files',
    '/workshop/files/',
    '/workshop/files%00',
    '/room/pages/1%2e',
    '///room',
    '/room/..%2fworkshop',
    '/\\workshop/files',
  ]) {
    const { status, text, location } = await ask(path);
    expect([301, 302, 303, 308, 400, 404], `${path}: ${status}`).toContain(status);
    if (location) expect(location, path).toMatch(/^\/(sign-in\?next=|workshop|room)/);
    expect(text, path).not.toContain('Take the plan out');
  }
  for (const path of [
    '/search?q=%00',
    `/search?q=${'-'.repeat(300)}`,
    `/search?q=${'"'.repeat(300)}`,
    '/search?q=%ff',
    '/about/%00',
    '/media/%00',
    '/media/x',
    `/${'a/'.repeat(900)}`,
    '/%E0%A4%A',
    '/preview/%00',
    '/set-up?token=%00',
    '/sign-in?next=%00',
  ])
    expect((await ask(path)).status, path).toBeLessThan(500);
  expect((await ask('/', { host: 'evil.example' })).status).toBe(421);
  // What a stranger says of where they come from counts for nothing.
  expect(
    (
      await ask('/', {
        'x-forwarded-for': 'x'.repeat(300),
        'x-forwarded-proto': 'https',
        'x-forwarded-host': 'evil.example',
      })
    ).status,
  ).toBe(200);
});

test('who is not signed in is led to the sign-in and on to where they wanted to go', async ({ page }) => {
  await page.goto('/room/notices');
  await expect(page).toHaveURL(/\/sign-in\?next=%2Froom%2Fnotices$/);
  await isReady(page);
  await page.getByLabel('Mail address').fill('ines@larkhaven.example');
  await page.getByLabel('Password', { exact: true }).fill('not-this-one');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'Mail address and password do not fit together.' }),
  ).toBeVisible();
  await page.getByLabel('Password', { exact: true }).fill('late-boat-again');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/room\/notices$/);
  await page.getByRole('button', { name: /^Ines/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/\/sign-in$/);
  expect((await page.request.get('/room', { maxRedirects: 0 })).status()).toBe(303);
});

for (const [who, paths] of [
  [
    '-',
    ['/', '/harbours/south-quay', '/timetable', '/cafe', '/about/history', '/nowhere', '/sign-in', '/set-up?token=x'],
  ],
  ['Juno', ['/room', '/room?arrange', '/room/vacancies', '/room/vacancies/[id]']],
  ['-', ['/about/jobs', '/about/crew', '/search?q=boat', '/search?q=xqzzv']],
  [
    'Ines',
    ['/room', '/room/tours', '/room/pages', '/room/pages/[id]', '/room/notices', '/room/pictures', '/room/people'],
  ],
  ['Priya', ['/room', '/room/review', '/room/review/[id]']],
  ['Maud', ['/room', '/room/pictures', '/room/people', '/room/people/outbox', '/room/activity']],
  [
    'Maud',
    ['tasks', 'access', 'menu', 'toolbar', 'dashboard', 'screens', 'words', 'tours', 'walk'].map(
      (step) => `/workshop/roles/harbour-desk/${step}`,
    ),
  ],
  [
    'Maud',
    [
      '/workshop',
      '/workshop/compare',
      '/workshop/access',
      '/workshop/access/who',
      '/workshop/access/what',
      '/workshop/files',
      '/workshop/reading',
      '/workshop/release',
      '/workshop/releases',
    ],
  ],
] as [string, string[]][])
  test(`accessible (WCAG 2.2 AA by axe) for ${who === '-' ? 'a visitor' : who}: ${paths.length} views from ${paths[0] ?? ''}`, async ({
    browser,
    app,
    page: visitor,
  }) => {
    const page = who === '-' ? visitor : await signIn(browser, app, who);
    for (const path of paths) {
      await page.goto(await pathOf(app, path));
      await axe(page, path);
    }
    if (who !== '-') await page.context().close();
  });

test('accessible in its states: menus, dialogs, forms, tours, modes', async ({ browser, app }) => {
  const ines = await signIn(browser, app, 'Ines');
  const ask = ines.getByRole('combobox', { name: 'Where do I…?' });
  let answer: () => void = () => undefined;
  const answered = new Promise<void>((now) => (answer = now));
  let held = 0;
  await ines.route(/\/ask\.[^/]*\.js/, async (route) => {
    held++;
    await answered;
    await route.continue();
  });
  await ask.fill('late');
  await expect(ines.getByText('Looking…')).toBeVisible();
  await axe(ines, 'asking, before there is an answer');
  expect(held).toBeGreaterThan(0);
  answer();
  await expect(ines.getByRole('option').first()).toBeVisible();
  await axe(ines, 'asking');
  await ask.fill('submarine');
  await expect(ines.getByText('Nothing fits “submarine”.')).toBeVisible();
  await axe(ines, 'asking for what is not there');
  await ask.fill('late');
  await expect(ines.getByRole('option').first()).toBeVisible();
  await ines.keyboard.press('Enter');
  await ines.locator('[data-tour]').waitFor();
  await axe(ines, 'a tour');
  await ines.keyboard.press('Escape');
  await ines.getByRole('button', { name: /^Ines/ }).click();
  await expect(ines.getByRole('menu')).toBeVisible();
  await axe(ines, 'person menu');
  await ines.goto('/room/notices');
  await ines.getByRole('button', { name: 'Post a notice' }).click();
  await ines.getByRole('button', { name: 'Put it on the website' }).click();
  await expect(ines.locator('[aria-invalid=true]').first()).toBeVisible();
  await axe(ines, 'notice form with a fault');
  await openPage(ines, 'South Quay');
  await ines.getByText('Bikes wait').dblclick({ position: { x: 15, y: 12 } });
  await ines.getByRole('button', { name: 'Link' }).click();
  await expect(ines.getByRole('dialog')).toBeVisible();
  await axe(ines, 'link dialog');
  await ines.keyboard.press('Escape');
  await expect(ines.getByRole('dialog')).toHaveCount(0);
  await ines.getByRole('button', { name: 'Choose another' }).click();
  await expect(ines.getByRole('dialog')).toBeVisible();
  await axe(ines, 'picture dialog');
  await ines.keyboard.press('Escape');
  await expect(ines.getByRole('dialog')).toHaveCount(0);
  await ines.getByRole('button', { name: 'Preview' }).click();
  await expect(ines.frameLocator('iframe').getByText('Preview with your draft in it.')).toBeVisible();
  await ines.context().close();
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/harbour-desk/menu');
  await maud.getByRole('button', { name: 'List', exact: true }).click();
  await expect(maud.getByRole('list', { name: 'Doors in menu order' })).toBeVisible();
  await axe(maud, 'doors as a list');
  await maud.goto('/workshop/roles/harbour-desk/access');
  await maud.getByRole('button', { name: /^Add a rule: change pages/ }).click();
  await expect(maud.getByRole('dialog')).toBeVisible();
  await axe(maud, 'grant dialog');
  await maud.keyboard.press('Escape');
  await expect(maud.getByRole('dialog')).toHaveCount(0);
  await maud.goto('/workshop/roles/harbour-desk/screens');
  const where = maud.getByRole('combobox', { name: 'Where', exact: true });
  await where.fill('Nowhere');
  await expect(maud.getByText('No page has “Nowhere” in its title.')).toBeVisible();
  await axe(maud, 'a page that is not there');
  await openPage(maud, 'South Quay');
  await maud.getByRole('button', { name: 'Code' }).click();
  const code = maud.getByLabel('The text as HTML');
  await code.fill('<h2>Short</h2><p>All <strong>new</strong>.</p><marquee>run</marquee>');
  await expect(maud.getByText('There is no place in a text for <marquee>')).toBeVisible();
  await axe(maud, 'code view');
  await maud.getByRole('button', { name: 'Use this text' }).click();
  await expect(writing(maud).getByRole('heading', { name: 'Short' })).toBeVisible();
  await expect(writing(maud).getByText('run')).toBeVisible();
  await maud.context().close();
});

test('the website needs no script, and no script but our own could run', async ({ browser, app }) => {
  const context = await browser.newContext({ baseURL: app.url, javaScriptEnabled: false });
  const page = await context.newPage();
  const answer = await page.goto('/');
  expect(await page.locator('script').count()).toBe(0);
  await page.getByRole('searchbox', { name: 'Search this website' }).fill('paddle steamer');
  await page.keyboard.press('Enter');
  await expect(page.getByText('One page for “paddle steamer”.')).toBeVisible();
  await expect(page.getByRole('main')).toContainText('From a paddle steamer with one funnel');
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Harbours' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Harbours');
  const policy = answer?.headers()['content-security-policy'] ?? '';
  expect(policy).toContain("script-src 'self'");
  expect(/script-src[^;]*/.exec(policy)?.[0]).not.toContain('unsafe-inline');
  expect(policy).toContain("object-src 'none'");
  expect((await page.goto('/nowhere'))?.status()).toBe(404);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('There is no page here');
  await page.goto('/timtable');
  await page.getByRole('main').getByRole('link', { name: 'Timetable' }).click();
  await expect(page).toHaveURL(/\/timetable$/);
  await context.close();
});
