import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import rules from 'axe-core';
import { test as base, expect, type Browser, type BrowserContext, type Page } from '@playwright/test';
import pg from 'pg';
import type { Operation } from '../../src/core/plan';
import { DEMO_PEOPLE } from '../../src/demo/people';
import { mustFindFreePort } from '../../scripts/cluster';
import { copyDemo, makeTestCluster } from '../server/cluster';
import { watchFocus } from './focusWatch';

export interface App {
  url: string;
  databaseUrl: string;
  /** Folder of a cluster of its own, where the tests of a file stop and crash it. */ data: string;
  /** Ends the application from one moment to the next, and starts it again at the same address. */ crash: () => Promise<void>;
  stop: () => Promise<void>;
  /** What scripts of its screens did not catch since the test began, and where they let the focus fall; none may. */ faults: string[];
}

/** The built application on a database of its own, as the demo is at first. */
async function startApp(ownCluster: boolean): Promise<App> {
  const cluster = ownCluster ? await makeTestCluster(false) : null;
  const databaseUrl = await copyDemo(
    cluster?.url('postgres') ?? process.env['TEST_ADMIN_URL'] ?? '',
    `b_${randomBytes(6).toString('hex')}`,
  );
  // Below 5100 are ports a browser goes to for nobody (5060 and 5061), and again from 6000 on. Every worker has its own
  // two hundred: two that begin at once do not find the same one free.
  const worker = Number(process.env['TEST_PARALLEL_INDEX'] ?? 0) % 4;
  const port = await mustFindFreePort(5100 + worker * 200 + Math.floor(Math.random() * 150));
  const serve = async (): Promise<ChildProcess> => {
    const started = spawn(process.execPath, ['scripts/serve.mjs'], {
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      env: { ...process.env, DATABASE_URL: databaseUrl, HOST: '127.0.0.1', PORT: String(port), LOG_LEVEL: 'error' },
    });
    await new Promise<void>((ready, failed) => {
      started.once('message', () => ready());
      started.once('exit', (code) => failed(new Error(`the application ended with ${code}`)));
    });
    return started;
  };
  let server = await serve();
  return {
    url: `http://127.0.0.1:${port}`,
    databaseUrl,
    data: cluster?.data ?? '',
    crash: async () => {
      await new Promise<void>((gone) => {
        server.once('exit', () => gone());
        server.kill('SIGKILL');
      });
      server = await serve();
    },
    stop: async () => {
      await new Promise<void>((stopped, failed) => {
        if (server.exitCode !== null)
          return failed(new Error(`the application ended by itself with ${server.exitCode}`));
        server.once('exit', () => stopped());
        return server.kill('SIGTERM');
      });
      cluster?.stop();
    },
    faults: [],
  };
}

/** Tests that share one application a file: it is started with the first of them and stopped after the last. */
export const test = base.extend<{ app: App }, { ownCluster: boolean; running: { file: string; app: App | null } }>({
  ownCluster: [false, { option: true, scope: 'worker' }],
  running: [
    async ({}, use) => {
      const running: { file: string; app: App | null } = { file: '', app: null };
      await use(running);
      await running.app?.stop();
    },
    { scope: 'worker' },
  ],
  app: async ({ running, ownCluster }, use, { file }) => {
    if (!running.app || running.file !== file) {
      await running.app?.stop();
      Object.assign(running, { file, app: await startApp(ownCluster) });
    }
    if (!running.app) return;
    running.app.faults.length = 0;
    await use(running.app);
    expect(running.app.faults, 'what scripts did not catch, and where the focus fell to the page').toEqual([]);
  },
  baseURL: async ({ app }, use) => use(app.url),
});
export { expect };

/** Waits until the scripts of a screen have taken over: what is typed before that is not heard. */
export const isReady = (page: Page) =>
  page.waitForFunction(
    () =>
      document.readyState === 'complete' &&
      document.querySelector('astro-island[ssr]:not([client="visible"]), main[aria-busy=true]') === null,
  );

/** Does something after which the screen is loaded anew, and waits until it is. */
export async function loads(page: Page, action: () => Promise<unknown>): Promise<void> {
  await Promise.all([page.waitForEvent('load'), action()]);
  await isReady(page);
}

/** A session as signing in makes one: the form itself is tried where signing in is what is tested. */
async function beginSession(app: App, email: string): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  const client = new pg.Client({ connectionString: app.databaseUrl });
  await client.connect();
  const { rowCount } = await client.query(
    `insert into sessions (token_hash, site_id, person_id, expires_at) select $1, site_id, id, now() + interval '12 hours' from people where email = $2`,
    [createHash('sha256').update(token).digest('hex'), email],
  );
  await client.end();
  if (rowCount === 0) throw new Error(`nobody has the address ${email}`);
  return token;
}

const mailOf = (first: string) => `${first.toLowerCase()}@larkhaven.example`;

/** Somebody new who holds a role, for roles that nobody of the demo holds; once for each application. */
export async function hire(app: App, first: string, role: string): Promise<void> {
  const client = new pg.Client({ connectionString: app.databaseUrl });
  await client.connect();
  const { rows } = await client.query<{ id: number }>(
    `with account as (insert into accounts (password_hash) values ('x') returning id)
     insert into people (site_id, account_id, name, email) select sites.id, account.id, $1, $2 from sites, account
     where not exists (select 1 from people where email = $2) returning id`,
    [first, mailOf(first)],
  );
  if (rows[0])
    await client.query(`insert into assignments (site_id, person_id, role_id) select id, $1, $2 from sites`, [
      rows[0].id,
      role,
    ]);
  await client.end();
}

/** Somebody signed in, where they land; gives a page of a browser of their own. */
export async function signIn(browser: Browser, app: App, first: string): Promise<Page> {
  const context: BrowserContext = await browser.newContext({
    baseURL: app.url,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    reducedMotion: 'reduce',
  });
  const page = await context.newPage();
  await watchFocus(context, (words) => app.faults.push(words));
  context.on('weberror', (fault) => app.faults.push(`${fault.page()?.url() ?? ''}: ${fault.error().message}`));
  // SLOW=4: as on a computer four times slower.
  if (process.env['SLOW'])
    await (
      await context.newCDPSession(page)
    ).send('Emulation.setCPUThrottlingRate', { rate: Number(process.env['SLOW']) });
  const goto = page.goto.bind(page);
  page.goto = async (...args: Parameters<Page['goto']>) => {
    const answer = await goto(...args);
    await isReady(page);
    return answer;
  };
  const person = DEMO_PEOPLE.find((p) => p.name.startsWith(first));
  await context.addCookies([
    {
      name: 'safe_room_session',
      value: await beginSession(app, person?.email ?? mailOf(first)),
      url: app.url,
      httpOnly: true,
      sameSite: 'Lax',
    },
  ]);
  await page.goto(person?.assignments.some((a) => a.role === 'keyholder') ? '/workshop' : '/room');
  return page;
}

/** Looks for pages in the tree, and waits for the server's answer: until it is there, rows may still move. */
export async function findPages(page: Page, words: string): Promise<void> {
  await isReady(page);
  await page.getByLabel('Find a page by title or words').fill(words);
  await expect(page.getByRole('status').filter({ hasText: /pages? shown/ })).toBeAttached();
}

/** Opens a page's edit screen by its title in the tree. */
export async function goToPage(page: Page, title: string): Promise<void> {
  await page.goto('/room/pages');
  await findPages(page, title);
  await loads(page, () =>
    page
      .getByRole('navigation', { name: 'Your part of the site' })
      .getByRole('link', { name: title, exact: true })
      .click(),
  );
}

/** The same, for a page with one text; waits for its writing area. */
export async function openPage(page: Page, title: string): Promise<void> {
  await goToPage(page, title);
  await expect(writing(page)).toBeVisible();
}
export const writing = (page: Page) => page.getByRole('textbox', { name: 'Text', exact: true });

/** Opens what does not fit in the one row of the toolbar. */
export async function allTools(page: Page) {
  const more = page.getByRole('toolbar', { name: 'Toolbar' }).getByRole('button', { name: 'More', exact: true });
  if ((await more.count()) > 0 && (await more.getAttribute('aria-expanded')) === 'false') await more.click();
}

/** Waits until what was typed is kept on the server: the screen tells of the last letter a frame after it. */
export async function isKept(page: Page): Promise<void> {
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await expect(page.getByText('Draft kept')).toBeVisible();
}

/** From here on a screen does not hear what others keep meanwhile, so that a clash is sure to come about. */
export const hearsNothing = (page: Page) => page.route('**/presence', (route) => route.abort());

/**
 * Waits until what was changed in the Workshop is on the server: it shows at once, and is sent behind what was changed
 * before.
 */
export const isPrepared = (page: Page) =>
  expect(page.getByRole('status').filter({ hasText: /not yet live|Same as live/ })).toBeVisible();

/**
 * Waits until what is dragged by keyboard hears the arrow keys: the drag library listens from a timer it sets when it
 * picks something up, and timers come in their order.
 */
export async function isPickedUp(page: Page) {
  await expect(page.locator('[aria-live]').filter({ hasText: 'is picked up' })).toHaveCount(1);
  await page.evaluate(
    () =>
      new Promise((fired) => {
        setTimeout(fired);
      }),
  );
}

/** Fails on what axe holds against WCAG 2.2 AA, on the screen and in the frames it shows. */
export async function axe(page: Page, what: string) {
  for (const frame of page.frames()) await frame.evaluate(rules.source);
  // Asked for directly: only what is wrong comes back, which takes a third of the time.
  const found = await page.evaluate(
    async (runOnly) => {
      const { axe } = window as unknown as { axe: typeof rules };
      const { violations } = await axe.run(document, { runOnly, resultTypes: ['violations'] });
      return violations.map(({ id, nodes }) => `${id} at ${nodes.map((node) => node.target.join(' ')).join(', ')}`);
    },
    ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
  );
  expect(found.map((fault) => `${what}: ${fault}`)).toEqual([]);
}

/** Makes changes to the plan go live, as the Workshop's screens would. */
export async function goLive(keyholder: Page, role: string, ...operations: Operation[]): Promise<void> {
  const status = await keyholder.evaluate(
    async ({ role, operations }) => {
      const post = async (path: string, body: object) => {
        const answer = await fetch(path, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
          body: JSON.stringify(body),
        });
        return {
          status: answer.status,
          body: (await answer.json()) as { revision?: number; state?: { revision: number } },
        };
      };
      // Refused, with the revision there is.
      const moved = await post('/api/workshop/plan', { revision: 0, role, operations });
      const made = await post('/api/workshop/plan', { revision: moved.body.state?.revision ?? 0, role, operations });
      const live = await post('/api/workshop/release', { revision: made.body.revision ?? 0, note: 'For a test' });
      return [moved.status, made.status, live.status];
    },
    { role, operations },
  );
  expect(status).toEqual([409, 200, 200]);
}
