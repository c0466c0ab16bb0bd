import type { Page } from '@playwright/test';
import { expect, goToPage, isKept, isReady, signIn, test, writing } from './app';
import { inventory } from '../inventory';

/** Layouts with a text, be it in pieces. */
const LAYOUTS = [...inventory.layouts.values()].filter(({ fields }) =>
  fields.some(({ kind }) => kind === 'rich' || kind === 'pieces'),
);

/** A new page of a layout below the first one. */
async function makes(page: Page, layout: string, title: string): Promise<string> {
  const made = await page.evaluate(
    async (body) => {
      const answer = await fetch('/api/pages', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      return (await answer.json()) as { id: string };
    },
    { parent: 1, layout, title },
  );
  return made.id;
}

test('the text begins within the first 480 px, and is 560 px wide with the largest letters, which break no word', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  for (const { id, name } of LAYOUTS) {
    await maud.goto(`/room/pages/${await makes(maud, id, name)}`);
    await isReady(maud);
    const text = maud.locator('main [contenteditable="true"]').first();
    const add = maud.getByRole('button', { name: /^Add a piece/ }).first();
    await expect(text.or(add)).toBeVisible();
    if (await add.isVisible()) {
      await add.click();
      await isKept(maud);
      await maud.reload();
      await isReady(maud);
    }
    await expect(text).toBeVisible();
    const box = await text.boundingBox();
    expect(box?.y ?? Infinity, name).toBeLessThan(480);
  }
  const ines = await signIn(browser, app, 'Ines');
  await ines.locator('[data-anchor="frame.person"]').click();
  await ines.getByRole('menuitem', { name: 'Preferences' }).click();
  const isChosen = ines.waitForResponse((answer) => answer.url().endsWith('/api/own-preferences'));
  await ines.getByRole('radio', { name: 'Very large' }).check();
  await isChosen;
  await goToPage(ines, 'South Quay');
  await expect(writing(ines)).toBeVisible();
  const box = await writing(ines).boundingBox();
  expect(box?.width ?? 0).toBeGreaterThan(560);
  // What is asked for is read there, and nothing is wider than the screen.
  expect((await ines.getByRole('combobox', { name: 'Where do I…?' }).boundingBox())?.width ?? 0).toBeGreaterThan(300);
  expect(await ines.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280);
  // A word in two lines would be as narrow as its longest part.
  const parting = await ines.getByRole('navigation', { name: 'Your part of the site' }).evaluate((tree) =>
    [...tree.querySelectorAll('a')].flatMap((link) => {
      const walker = document.createTreeWalker(link, NodeFilter.SHOW_TEXT);
      const broken: string[] = [];
      for (let node = walker.nextNode(); node; node = walker.nextNode())
        for (const { index, 0: word } of (node.nodeValue ?? '').matchAll(/\S+/g)) {
          const range = document.createRange();
          range.setStart(node, index);
          range.setEnd(node, index + word.length);
          const lines = new Set([...range.getClientRects()].map(({ top }) => Math.round(top)));
          if (lines.size > 1) broken.push(word);
        }
      return broken;
    }),
  );
  expect(parting).toEqual([]);
  await Promise.all([maud.context().close(), ines.context().close()]);
});
