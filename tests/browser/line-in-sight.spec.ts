import type { Browser } from '@playwright/test';
import { expect, goToPage, openPage, signIn, test, writing, type App } from './app';

/** Sizes of the window in px: as usual, the same at 200 %, and a phone. */
const WINDOWS = [
  { width: 1280, height: 800 },
  { width: 640, height: 400 },
  { width: 360, height: 740 },
];

/** Lines in which anything lay over the letters, with how many px of how many, going a way through the whole text. */
async function covered(browser: Browser, app: App, window: { width: number; height: number }) {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'South Quay');
  await maud.setViewportSize(window);
  await expect(writing(maud)).toBeEditable();
  await writing(maud).click();
  await maud.keyboard.press('Control+End');
  for (let line = 0; line < 14; line++) {
    await maud.keyboard.press('Enter');
    await maud.keyboard.insertText(
      `Line ${line}: the boats have left from this quay in every weather but one. `.repeat(2),
    );
  }
  const found: string[] = [];
  for (const [key, times] of [
    ['ArrowUp', 45],
    ['ArrowDown', 45],
  ] as const)
    for (let at = 0; at < times; at++) {
      await maud.keyboard.press(key);
      // What scrolls does so with the next drawings: when the toolbar grows, with one that follows its own.
      const line = await writing(maud).evaluate(async (text) => {
        const look = () => {
          const selection = document.getSelection();
          const range = selection?.rangeCount ? selection.getRangeAt(0) : null;
          const node = range?.startContainer;
          const block = node instanceof Element ? node : node?.parentElement;
          const { top, bottom, left } =
            [...(range?.getClientRects() ?? [])].at(-1) ?? (block ?? text).getBoundingClientRect();
          const height = Math.round(bottom - top);
          const hit = Array.from({ length: height }, (_, y) => document.elementFromPoint(left + 1, top + y + 0.5));
          return { height, over: hit.filter((one) => !one || !text.contains(one)).length };
        };
        let seen = { height: 0, over: 1 };
        for (let drawn = 0; drawn < 30 && (drawn < 2 || seen.over > 0); drawn++) {
          await new Promise((next) => requestAnimationFrame(next));
          seen = look();
        }
        return seen;
      });
      if (line.over > 0) found.push(`${key} ${at}: ${line.over} of ${line.height} px`);
    }
  await maud.context().close();
  return found;
}

test('the line one writes in is never covered, going up or down, in a wide window, at 200 % and on a phone', async ({
  browser,
  app,
}) => {
  for (const window of WINDOWS)
    expect(await covered(browser, app, window), `${window.width} × ${window.height}`).toEqual([]);
});

test('from the top of an edit screen the text is six keys away, also while it still loads', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  for (const isSlow of [false, true]) {
    let comes = () => {};
    const held = new Promise<void>((done) => {
      comes = done;
    });
    if (isSlow)
      await maud.route('**/WritingArea*', async (route) => {
        await held;
        await route.continue();
      });
    await goToPage(maud, 'South Quay');
    if (!isSlow) await expect(writing(maud)).toBeEditable();
    let keys = 1;
    for (await maud.keyboard.press('Tab'); keys < 6; keys++) {
      if (await maud.getByRole('button', { name: 'Go to the text' }).evaluate((one) => one === document.activeElement))
        break;
      await maud.keyboard.press('Tab');
    }
    await maud.keyboard.press('Enter');
    expect(keys + 1).toBeLessThanOrEqual(6);
    comes();
    await expect(writing(maud)).toBeFocused();
  }
  await maud.context().close();
});
