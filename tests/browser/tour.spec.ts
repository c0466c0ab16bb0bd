import { expect, loads, signIn, test } from './app';
import type { Page } from '@playwright/test';

const card = (page: Page) => page.locator('[data-tour]');

/** Whether the ring of the tour lies around an element. */
async function pointsAt(page: Page, name: RegExp | string, role: 'link' | 'button' | 'textbox' = 'link') {
  const target = page.getByRole(role, { name }).first();
  await expect(async () => {
    const [ring, box] = [await page.locator('div.border-ring').boundingBox(), await target.boundingBox()];
    expect(
      ring &&
        box &&
        ring.x <= box.x &&
        ring.y <= box.y &&
        ring.x + ring.width >= box.x + box.width &&
        ring.y + ring.height >= box.y + box.height,
    ).toBe(true);
  }).toPass();
}

test('“late boat” finds the task; the tour waits at the real controls, over screens, to its end', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  const ask = ines.getByRole('combobox', { name: 'Where do I…?' });
  await ask.fill('late boat');
  await expect(ines.getByRole('option').first()).toContainText('Post a sailing notice');
  await ask.press('Enter');
  await expect(card(ines)).toContainText('Stop 1 of 6');
  await expect(card(ines)).toBeFocused();
  await pointsAt(ines, 'Sailing notices');
  await ines.getByRole('link', { name: 'Sailing notices' }).click();
  await expect(card(ines)).toContainText('Stop 2 of 6');
  await pointsAt(ines, 'Post a notice', 'button');
  await ines.setViewportSize({ width: 900, height: 640 });
  await pointsAt(ines, 'Post a notice', 'button');
  await ines.getByRole('button', { name: 'Post a notice', exact: true }).click();
  await expect(card(ines)).toContainText('Stop 3 of 6');
  await pointsAt(ines, 'What should visitors read?', 'textbox');
  await ines.getByLabel('What should visitors read?').fill('The 07:40 runs late.');
  await expect(card(ines)).toContainText('Good. Press Next when you are done.');
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(card(ines)).toContainText('Stop 6 of 6');
  await loads(ines, () => ines.getByRole('button', { name: 'Put it on the website', exact: true }).click());
  await expect(card(ines)).toContainText('You have done it');
  await card(ines).getByRole('button', { name: 'Done' }).click();
  await expect(card(ines)).toHaveCount(0);
  await ines.goto('/room/tours');
  await expect(ines.getByRole('listitem').filter({ hasText: 'Post a sailing notice' })).toContainText('taken');
  await expect(ines.getByRole('link', { name: 'Tours 1 of 5' })).toBeVisible();
  await ines.context().close();
});

test('a question asked with Enter before its answer is there is gone to as soon as it is, and to nothing else', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  /** Keeps the answer back until what it returns is called. */
  const hold = async () => {
    let letGo = () => {};
    const held = new Promise<void>((done) => {
      letGo = done;
    });
    await ines.route('**/api/ask', async (route) => {
      if (route.request().method() === 'GET') await held;
      await route.continue();
    });
    return letGo;
  };
  let comes = await hold();
  const ask = ines.getByRole('combobox', { name: 'Where do I…?' });
  // Not the first task there is, which stands in the list before anything is asked.
  await ask.focus();
  await ines.keyboard.type('change the words');
  await ines.keyboard.press('Enter');
  await expect(card(ines)).toHaveCount(0);
  comes();
  await expect(card(ines)).toContainText('Change the words');
  await expect(card(ines)).toContainText('Stop 1 of');
  await card(ines).press('Escape');

  // What is typed on is another question: the Enter before counts no more.
  await ines.unroute('**/api/ask');
  await ines.reload();
  comes = await hold();
  await ask.focus();
  await ines.keyboard.type('late boat');
  await ines.keyboard.press('Enter');
  await ines.keyboard.type(' tomorrow');
  comes();
  await expect(ines.getByRole('option').first()).toContainText('notice');
  await expect(card(ines)).toHaveCount(0);
  await ines.context().close();
});

test('a tour works by keyboard alone, is left with Escape and taken up again where it was left', async ({
  browser,
  app,
}) => {
  const tomas = await signIn(browser, app, 'Tomas');
  const start = tomas.getByRole('button', { name: /Point the way.*Change the words on a harbour page/ });
  await start.focus();
  await tomas.keyboard.press('Enter');
  // While it still looks for the control the card has no button to go there yet.
  await expect(card(tomas)).toHaveAttribute('data-tour', 'pointing');
  await expect(card(tomas)).toBeFocused();
  await tomas.keyboard.press('Tab');
  await tomas.keyboard.press('Tab');
  await tomas.keyboard.press('Enter');
  await expect(tomas.getByRole('link', { name: 'Pages' })).toBeFocused();
  const isRemembered = tomas.waitForResponse(
    (answer) => answer.url().includes('/api/tours/') && answer.request().postData()?.includes('"stop":1') === true,
  );
  await tomas.keyboard.press('Enter');
  await expect(tomas).toHaveURL(/\/room\/pages$/);
  await expect(card(tomas)).toContainText('Stop 2 of 6');
  await expect(card(tomas)).toBeFocused();
  await tomas.keyboard.press('Escape');
  await expect(card(tomas)).toHaveCount(0);
  await isRemembered;
  await tomas.goto('/room');
  await tomas.getByRole('button', { name: /Take up again at stop 2.*Change the words on a harbour page/ }).click();
  await expect(card(tomas)).toContainText('“Your part of the site” is on another screen.');
  await loads(tomas, () => card(tomas).getByRole('link', { name: 'Take me there' }).click());
  await loads(tomas, () =>
    tomas
      .getByRole('navigation', { name: 'Your part of the site' })
      .getByRole('link', { name: 'Skell Island' })
      .click(),
  );
  await expect(card(tomas)).toContainText('Stop 3 of 6');
  await pointsAt(tomas, 'Text', 'textbox');
  await tomas.context().close();
});

test('a stop on a screen further on says how to get there; a control that is gone is said so, and the tour goes on', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/room/tours');
  await ines.getByRole('button', { name: /Swap a harbour picture/ }).click();
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(ines).toHaveURL(/\/room\/pages$/);
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(card(ines)).toContainText('“Banner picture” is on a screen further on. First: Open the page.');
  // Parking has a layout without a banner.
  await loads(ines, () =>
    ines.getByRole('navigation', { name: 'Your part of the site' }).getByRole('link', { name: 'Parking' }).click(),
  );
  await expect(card(ines)).toContainText(
    '“Banner picture” is not on this screen now; it is there on layouts that have a banner. The tour goes on without it: press Next.',
  );
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(card(ines)).toContainText('Stop 4 of 4');
  await pointsAt(ines, /Send to Priya/, 'button');
  await card(ines).getByRole('button', { name: 'Back' }).click();
  await expect(card(ines)).toContainText('Stop 3 of 4');
  await card(ines).getByRole('button', { name: 'Leave the tour' }).click();
  await expect(card(ines)).toHaveCount(0);
  await ines.context().close();
});

test('what is nowhere is said so; what one may not do is found, with whom to ask', async ({ browser, app }) => {
  const lotte = await signIn(browser, app, 'Lotte');
  const ask = lotte.getByRole('combobox', { name: 'Where do I…?' });
  // What looks for it comes with the first question: where the network is lost that is said, and made good.
  await lotte.context().setOffline(true);
  await ask.fill('subma');
  await expect(lotte.getByText('The website does not answer.')).toBeVisible();
  await lotte.context().setOffline(false);
  await ask.fill('submarine');
  await expect(lotte.getByText('Nothing fits “submarine”.')).toBeVisible();
  await ask.fill('invite a new colleague');
  await lotte
    .getByRole('option', { name: /Invite somebody/ })
    .first()
    .click();
  await expect(lotte.getByText(/is not in your room\./)).toBeVisible();
  await expect(lotte.getByText(/Ask Maud Ellery if you need it/)).toBeVisible();
  await lotte.getByRole('button', { name: 'I see' }).click();
  await expect(ask).toBeFocused();
  await ask.fill('pages');
  // Her door to the pages is put away: not in the menu, but found by asking.
  await expect(lotte.getByRole('navigation', { name: 'Menu' }).getByRole('link', { name: 'Pages' })).toHaveCount(0);
  await lotte
    .getByRole('option', { name: /^Pages/ })
    .first()
    .click();
  await expect(lotte).toHaveURL(/\/room\/pages$/);
  await lotte.context().close();
});

/** Starts a tour from Tours and waits for its card. */
async function start(page: Page, name: RegExp) {
  await page.goto('/room/tours');
  await page.getByRole('button', { name }).click();
  await expect(card(page)).toContainText(/Stop \d+ of/);
}
const next = (page: Page) => card(page).getByRole('button', { name: 'Next' }).click();
/** What the list of tours says of one; it is told behind whoever goes on. */
const standing = async (page: Page, name: string) => {
  await page.goto('/room/tours');
  return page
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name, exact: true }) })
    .locator('.pill')
    .textContent();
};

test('a tour ends by what was done: a refused form is no end, another notice than the first will do, and Next alone is only seen', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await start(ines, /Post a sailing notice/);
  await loads(ines, () => ines.getByRole('link', { name: 'Sailing notices' }).click());
  await ines.getByRole('button', { name: 'Post a notice', exact: true }).click();
  for (let i = 0; i < 3; i++) await next(ines);
  await expect(card(ines)).toContainText('Waits until it is done');
  await ines.getByRole('button', { name: 'Put it on the website', exact: true }).click();
  await expect(ines.getByText('Write what visitors should read.')).toBeVisible();
  await expect(card(ines)).toContainText('Stop 6 of 6');
  await ines.getByLabel('What should visitors read?').fill('The tour of the tour runs late.');
  await loads(ines, () => ines.getByRole('button', { name: 'Put it on the website', exact: true }).click());
  await expect(card(ines)).toContainText('You have done it');
  await expect.poll(() => standing(ines, 'Post a sailing notice')).toContain('taken');

  // The one posted last is not the first in the list; ending it is what the tour waits for.
  await start(ines, /End a sailing notice/);
  await loads(ines, () => ines.getByRole('link', { name: 'Sailing notices' }).click());
  await next(ines);
  const mine = ines.getByRole('listitem').filter({ hasText: 'The tour of the tour runs late.' });
  await mine.getByRole('button', { name: /^End/ }).click();
  await ines.getByRole('alertdialog').getByRole('button', { name: 'Cancel' }).click();
  await expect(card(ines)).toContainText('Stop 3 of 3');
  await mine.getByRole('button', { name: /^End/ }).click();
  await loads(ines, () => ines.getByRole('alertdialog').getByRole('button', { name: /^End/ }).click());
  await expect(card(ines)).toContainText('You have done it');
  await expect.poll(() => standing(ines, 'End a sailing notice')).toContain('taken');

  // Pressing Next to the end shows the way; nothing was done.
  await start(ines, /Change the words on a harbour page/);
  await loads(ines, () => next(ines));
  await expect(card(ines)).toContainText('Stop 2 of 6');
  await next(ines);
  // What lies on the page is shown when one is opened: on this very screen, so that nothing is loaded again and again.
  await card(ines).getByRole('button', { name: 'Back to that stop' }).click();
  await expect(card(ines)).toContainText('Stop 2 of 6');
  await loads(ines, () =>
    ines.getByRole('navigation', { name: 'Your part of the site' }).getByRole('link', { name: 'Skell Island' }).click(),
  );
  for (let stop = 3; stop <= 6; stop++) {
    await expect(card(ines)).toContainText(`Stop ${stop} of 6`);
    await card(ines)
      .getByRole('button', { name: /^(Next|Finish)$/ })
      .click();
  }
  await expect(card(ines)).toContainText('That is the way');
  await expect.poll(() => standing(ines, 'Change the words on a harbour page')).toContain('seen');
  await ines.context().close();
});

test('opening a branch of the tree is not opening a page; another page than the first is followed to the second look', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await start(ines, /Change the words on a harbour page/);
  await loads(ines, () => ines.getByRole('link', { name: 'Pages' }).click());
  await expect(card(ines)).toContainText('Stop 2 of 6');
  await ines
    .getByRole('navigation', { name: 'Your part of the site' })
    .getByRole('button', { name: /Skell Island/ })
    .first()
    .click();
  await expect(card(ines)).toContainText('Stop 2 of 6');
  await loads(ines, () =>
    ines.getByRole('navigation', { name: 'Your part of the site' }).getByRole('link', { name: 'Port Ennis' }).click(),
  );
  await expect(card(ines)).toContainText('Stop 3 of 6');
  await ines.getByLabel('Summary').fill('The ticket office moved to the blue house.');
  await ines.getByRole('button', { name: /^Send/ }).click();
  await expect(card(ines)).toContainText('You have done it');
  await expect.poll(() => standing(ines, 'Change the words on a harbour page')).toContain('taken');
  await ines.context().close();
  // The second look waits for a decision, of whichever draft.
  const priya = await signIn(browser, app, 'Priya');
  await start(priya, /^Point the way.*second look/i);
  await loads(priya, () => priya.getByRole('link', { name: 'Second look' }).first().click());
  await loads(priya, () => priya.getByRole('link', { name: 'Port Ennis' }).click());
  for (let i = 0; i < 3; i++) await next(priya);
  await expect(card(priya)).toContainText('Waits until it is done');
  await priya.getByRole('button', { name: 'Send it back' }).click();
  await expect(priya.getByText(/Say what should be different/)).toBeVisible();
  await expect(card(priya)).toContainText('Waits until it is done');
  await loads(priya, () => priya.getByRole('button', { name: 'Publish it', exact: true }).click());
  await expect(card(priya)).toContainText('You have done it');
  await priya.context().close();
});

test('no letter typed into “Where do I…?” is lost on a computer six times slower, from the first moment on', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await (await ines.context().newCDPSession(ines)).send('Emulation.setCPUThrottlingRate', { rate: 6 });
  const asked = 'who shall I ask about the late boat to Skell Island tomorrow';
  // Typed as soon as the field is there: the scripts of the screen have not taken over yet.
  await ines.reload({ waitUntil: 'commit' });
  const ask = ines.getByRole('combobox', { name: 'Where do I…?' });
  await ask.focus();
  await ines.keyboard.type(asked, { delay: 15 });
  await expect(ask).toHaveValue(asked);
  await expect(ines.getByRole('option').first()).toBeVisible();
  await expect(ask).toHaveValue(asked);
  await ines.context().close();
});
