import type { Page } from '@playwright/test';
import { expect, goToPage, isKept, isReady, signIn, test } from './app';

/** Holds the scripts of a page back, as a slow machine or network would, until they are let go. */
async function slowly(page: Page, path: string, meanwhile: () => Promise<unknown>) {
  let letGo: () => void = () => undefined;
  const held = new Promise<void>((go) => (letGo = go));
  await page.route('**/_astro/*.js', async (route) => {
    // What listens meanwhile is one of few letters, fetched before anything can be typed into.
    if (!route.request().url().includes('typedEarly')) await held;
    await route.continue();
  });
  const loaded = page.goto(path);
  await meanwhile();
  letGo();
  await loaded;
  await page.unroute('**/_astro/*.js');
}

test('what is typed before the scripts are there is kept, on Today and on the edit screen', async ({
  browser,
  app,
}) => {
  const juno = await signIn(browser, app, 'Juno');
  const jot = juno.getByRole('region', { name: 'Jot something down' });
  await slowly(juno, '/room', () => jot.getByRole('textbox').fill('Tickets in spring'));
  await isReady(juno);
  await jot.getByRole('button', { name: 'Keep it' }).click();
  await expect(jot.getByText('Kept as a draft')).toBeVisible();
  await expect(jot.getByRole('link', { name: 'Tickets in spring' })).toBeVisible();
  await goToPage(juno, 'History');
  const path = new URL(juno.url()).pathname;
  const title = juno.getByLabel('Page title');
  await slowly(juno, path, () => title.fill('Our long history'));
  await isReady(juno);
  await isKept(juno);
  await juno.reload();
  await expect(title).toHaveValue('Our long history');
  await juno.context().close();
});
