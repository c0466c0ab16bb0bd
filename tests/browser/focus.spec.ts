import { expect, isReady, signIn, test } from './app';

const SCREENS = [
  '/room',
  '/room/pages',
  '/room/notices',
  '/room/people',
  '/room/duties',
  '/workshop',
  '/workshop/access',
  '/workshop/roles/harbour-desk/tasks',
  '/workshop/roles/harbour-desk/menu',
  '/workshop/roles/harbour-desk/tours',
];
/** Every this many things that can have the focus are tried, each in another way. */
const EVERY = 5;

// What screens do themselves is watched in all other tests (`watchFocus`); here anything goes away.
test('whatever has the focus and goes away, is hidden or disabled: something else has it a moment later', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  let tried = 0;
  for (const path of SCREENS) {
    await maud.goto(path);
    await isReady(maud);
    const fallen = await maud.evaluate(
      async ({ every }) => {
        const until = async (done: () => boolean) => {
          for (let frames = 0; frames < 300 && !done(); frames++) await new Promise(requestAnimationFrame);
          return done();
        };
        const ways: Record<string, (element: HTMLElement) => void> = {
          gone: (element) => element.remove(),
          'gone with all beside it': (element) => element.parentElement?.remove(),
          hidden: (element) => (element.hidden = true),
          'disabled for a while': (element) => element.setAttribute('disabled', ''),
          'disabled for good': (element) => element.setAttribute('disabled', ''),
        };
        const found: string[] = [];
        let [count, tried] = [0, 0];
        const names = Object.keys(ways);
        for (const element of document.querySelectorAll<HTMLElement>('main button, main select, main input')) {
          if (!element.isConnected || element.getClientRects().length === 0 || element.matches(':disabled')) continue;
          if (count++ % every > 0) continue;
          const name = names[tried++ % names.length] ?? '';
          element.focus();
          if (document.activeElement !== element) continue;
          ways[name]?.(element);
          // The browser lets it fall with the next drawing.
          await until(() => document.activeElement !== element);
          if (name === 'disabled for a while') element.removeAttribute('disabled');
          const isHeld = await until(() => document.activeElement !== document.body);
          if (name === 'disabled for a while' && document.activeElement !== element) found.push(`not back: ${name}`);
          if (!isHeld) found.push(`${name}: ${element.outerHTML.slice(0, 120)}`);
        }
        return { found, tried };
      },
      { every: EVERY },
    );
    expect(fallen.found, path).toEqual([]);
    tried += fallen.tried;
  }
  expect(tried).toBeGreaterThan(40);
  await maud.context().close();
});
