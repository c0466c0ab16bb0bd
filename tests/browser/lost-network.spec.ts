import { readdirSync, readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { allTools, expect, goToPage, isReady, openPage, signIn, test, writing } from './app';

/**
 * Tries something that fetches a script while there is no network, and waits until that is said; with the network it is
 * there by itself: a browser never asks again for a module that it could not have once.
 */
async function lostAndFound(page: Page, act: () => Promise<unknown>, found: () => Promise<unknown>) {
  await page.context().setOffline(true);
  await act();
  await expect(page.getByText('this part is not there yet')).toBeVisible();
  await page.context().setOffline(false);
  await found();
}
const dialog = (page: Page, name: string) => page.getByRole('dialog', { name });
const close = (page: Page) => page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();

/** Every place in the sources where a script is fetched later, with what stands before it. */
const imports = readdirSync('src/islands', { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.tsx?$/.test(file))
  .flatMap((file) =>
    [...readFileSync(`src/islands/${file}`, 'utf8').matchAll(/(\S*)\s*\(?\(\) => import\('([^']+)'\)/g)].map(
      ([, by, what]) => `${file} ${what} ${by}`,
    ),
  );

test('every script that is fetched later is asked for again where it could not be had', () => {
  expect(imports.length).toBeGreaterThanOrEqual(14);
  expect(imports.filter((one) => !/ (later|dialogLater)\($/.test(one))).toEqual([
    // Fetched beforehand, and shown by way of `dialogLater`.
    'editor/ItemEditor.tsx ./ConflictDialog =',
  ]);
});

test('every part whose script could not be had once is there when the network is', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');

  // The menu of the person: dialogs of their own.
  for (const [item, title] of [
    ['Change your password', 'Change your password'],
    ['Preferences', 'Preferences'],
  ] as const) {
    await lostAndFound(
      maud,
      async () => {
        await maud.getByRole('button', { name: /Maud/ }).click();
        await maud.getByRole('menuitem', { name: item }).click();
      },
      async () => {
        await expect(dialog(maud, title)).toBeVisible();
        await close(maud);
      },
    );
  }

  // The edit screen's writing area: its script is held back while the screen comes.
  const heldBack = async (pattern: string, path: () => Promise<unknown>, found: () => Promise<unknown>) => {
    await maud.route(pattern, (route) => route.abort());
    await path();
    await expect(maud.getByText('this part is not there yet').first()).toBeVisible();
    await maud.unroute(pattern);
    await maud.getByRole('button', { name: 'Try again now' }).first().click();
    await found();
  };
  await heldBack(
    '**/_astro/WritingArea*.js',
    () => goToPage(maud, 'Fares'),
    () => expect(writing(maud)).toBeVisible(),
  );
  await heldBack(
    '**/_astro/Pieces*.js',
    () => goToPage(maud, 'Groups'),
    () => expect(maud.getByRole('button', { name: /^Add a piece/ }).first()).toBeVisible(),
  );

  // What its toolbar opens.
  await openPage(maud, 'Fares');
  await isReady(maud);
  await writing(maud).click();
  await maud.keyboard.press('ControlOrMeta+a');
  const tool = async (name: string) => {
    await allTools(maud);
    await maud.getByRole('toolbar', { name: 'Toolbar' }).getByRole('button', { name, exact: true }).click();
  };
  for (const [name, title] of [
    ['Link', 'Where shall the words lead?'],
    ['Picture', 'Which picture?'],
    ['Alert for now', 'An alert for now'],
  ] as const)
    await lostAndFound(
      maud,
      () => tool(name),
      async () => {
        await expect(dialog(maud, title)).toBeVisible();
        await close(maud);
      },
    );
  await lostAndFound(
    maud,
    () => maud.keyboard.press('ControlOrMeta+f'),
    () => expect(maud.getByRole('textbox', { name: /Find/ }).first()).toBeVisible(),
  );
  await maud.context().close();
});
