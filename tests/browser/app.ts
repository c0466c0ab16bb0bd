import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import AxeBuilder from '@axe-core/playwright';
import { test as base, expect, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { DEMO_PEOPLE } from '../../src/demo/people';
import { findFreePort } from '../../scripts/cluster';
import { copyDemo } from '../server/cluster';

export interface App { url: string; databaseUrl: string; stop: () => Promise<void> }

/** The built application on a database of its own, as the demo is at first. */
async function startApp(): Promise<App> {
  const databaseUrl = await copyDemo(process.env['TEST_ADMIN_URL'] ?? '', `b_${randomBytes(6).toString('hex')}`);
  const port = await findFreePort(4500 + Math.floor(Math.random() * 200));
  const server: ChildProcess = spawn(process.execPath, ['scripts/serve.mjs'], { stdio: ['ignore', 'ignore', 'inherit', 'ipc'], env: { ...process.env, DATABASE_URL: databaseUrl, HOST: '127.0.0.1', PORT: String(port), LOG_LEVEL: 'error' } });
  await new Promise<void>((ready, failed) => {
    server.once('message', () => ready());
    server.once('exit', (code) => failed(new Error(`the application ended with ${code}`)));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    databaseUrl,
    stop: () => new Promise((stopped, failed) => {
      if (server.exitCode !== null) return failed(new Error(`the application ended by itself with ${server.exitCode}`));
      server.once('exit', () => stopped());
      return server.kill('SIGTERM');
    }),
  };
}

/** Tests that share one application a file: it is started with the first of them and stopped after the last. */
export const test = base.extend<{ app: App }, { running: { file: string; app: App | null } }>({
  running: [async ({}, use) => { const running: { file: string; app: App | null } = { file: '', app: null }; await use(running); await running.app?.stop(); }, { scope: 'worker' }],
  app: async ({ running }, use, { file }) => {
    if (!running.app || running.file !== file) {
      await running.app?.stop();
      Object.assign(running, { file, app: await startApp() });
    }
    if (running.app) await use(running.app);
  },
  baseURL: async ({ app }, use) => use(app.url),
});
export { expect };

/** Waits until the scripts of a screen have taken over: what is typed before that is not heard. */
export const isReady = (page: Page) => page.waitForFunction(() => document.readyState === 'complete' && document.querySelector('astro-island[ssr]:not([client="visible"])') === null);

/** Does something after which the screen is loaded anew, and waits until it is. */
export async function loads(page: Page, action: () => Promise<unknown>): Promise<void> {
  await Promise.all([page.waitForEvent('load'), action()]);
  await isReady(page);
}

/** Signs in through the form, as a person would; gives a page of a browser of their own. */
export async function signIn(browser: Browser, app: App, first: string): Promise<Page> {
  const context: BrowserContext = await browser.newContext({ baseURL: app.url, viewport: { width: 1280, height: 800 }, locale: 'en-GB', reducedMotion: 'reduce' });
  const page = await context.newPage();
  const goto = page.goto.bind(page);
  page.goto = async (...args: Parameters<Page['goto']>) => {
    const answer = await goto(...args);
    await isReady(page);
    return answer;
  };
  const person = DEMO_PEOPLE.find((p) => p.name.startsWith(first));
  if (!person) throw new Error(`nobody is called ${first}`);
  await page.goto('/sign-in');
  await page.getByLabel('Mail address').fill(person.email);
  await page.getByLabel('Password', { exact: true }).fill(person.password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL(/\/(room|workshop)$/);
  await isReady(page);
  return page;
}

/** Opens a page's edit screen by its title in the tree, and waits for the writing area. */
export async function openPage(page: Page, title: string): Promise<void> {
  await page.goto('/room/pages');
  await page.getByLabel('Find a page by its title').fill(title);
  await loads(page, () => page.getByRole('navigation', { name: 'Your part of the site' }).getByRole('link', { name: title, exact: true }).click());
  await expect(writing(page)).toBeVisible();
}
export const writing = (page: Page) => page.getByRole('textbox', { name: 'Text', exact: true });

/** Waits until what was typed is kept on the server. */
export const isKept = (page: Page) => expect(page.getByText('Draft kept')).toBeVisible();

/** Fails on what axe holds against WCAG 2.2 AA. */
export async function axe(page: Page, what: string) {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze();
  expect(violations.map((v) => `${what}: ${v.id} at ${v.nodes.map((n) => n.target.join(' ')).join(', ')}`)).toEqual([]);
}
