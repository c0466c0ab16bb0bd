import type { Page } from '@playwright/test';
import { expect, goLive, goToPage, hearsNothing, isKept, loads, openPage, signIn, test, writing } from './app';

/** The line that always says how keeping stands. */
const line = (page: Page) => page.locator('[data-keeping]');

test('what is not right yet is kept as typed, marked, and led to from the line that is always in sight; the rest is kept, and goes out when all is right', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Lantern Night');
  await maud.getByLabel('Page title').fill('');
  await maud.getByLabel('Price').fill('-5');
  await maud.getByLabel('Leads to').fill('call us');
  await maud.getByLabel('Summary').fill('Three boats, and more lanterns than ever.');
  await isKept(maud);
  await expect(line(maud)).toContainText('Kept, but not right yet:');
  // The rest of the page is looked at all the same.
  await expect(maud.getByText('Looking…')).toHaveCount(0);
  for (const name of ['Page title', 'Price', 'Where to book'])
    await expect(line(maud).getByRole('button', { name })).toBeVisible();
  await expect(maud.getByLabel('Price')).toHaveAccessibleDescription(/must be a number from 0 to 1000/);
  await line(maud).getByRole('button', { name: 'Price' }).click();
  await expect(maud.getByLabel('Price')).toBeFocused();
  await expect(maud.getByLabel('Price')).toBeInViewport();
  // After a while away all of it is there as it was typed, and still told.
  await maud.goto('/room');
  await openPage(maud, 'Lantern Night');
  await expect(maud.getByLabel('Page title')).toHaveValue('');
  await expect(maud.getByLabel('Price')).toHaveValue('-5');
  await expect(maud.getByLabel('Leads to')).toHaveValue('call us');
  await expect(maud.getByLabel('Summary')).toHaveValue('Three boats, and more lanterns than ever.');
  await expect(line(maud)).toContainText('not right yet:');
  // Sending waits, and leads to the first of them.
  await maud.getByRole('button', { name: 'Publish now' }).click();
  await expect(maud.getByLabel('Page title')).toBeFocused();
  await maud.getByLabel('Page title').fill('Lantern Night on the water');
  await maud.getByLabel('Price').fill('12,50');
  await maud.getByLabel('Leads to').fill('www.larkhaven.example/lanterns');
  await maud.getByLabel('Summary').focus();
  await expect(maud.getByLabel('Leads to')).toHaveValue('https://www.larkhaven.example/lanterns');
  await expect(line(maud)).toContainText('Everything you type is kept');
  await maud.getByRole('button', { name: 'Publish now' }).click();
  await loads(maud, () => maud.getByRole('alertdialog').getByRole('button', { name: 'Publish now' }).click());
  await expect(maud.getByText('Visitors see it now.')).toBeVisible();
  await expect(maud.getByLabel('Price')).toHaveValue('12.5');
  await maud.context().close();
});

test('another layout takes over what a person would write, and never jams', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Lantern Night');
  await maud.getByText('Layout, author, date').click();
  await maud.getByLabel('Layout', { exact: true }).selectOption({ label: 'Plain page' });
  const kept = maud.getByRole('region', { name: 'Kept from another layout' });
  await expect(kept).toContainText('Begins: 12 December 2026, 17:30');
  await kept.getByRole('button', { name: /^Put it at the end.*Begins$/ }).click();
  await expect(writing(maud)).toContainText('Begins: 12 December 2026, 17:30');
  await kept.getByRole('button', { name: /^Put it at the end.*Banner picture$/ }).click();
  await expect(writing(maud).locator('img[data-picture]')).toHaveCount(1);
  await kept.getByRole('button', { name: /^Do without it.*Price$/ }).click();
  await kept.getByRole('button', { name: /^Do without it.*Kind of event$/ }).click();
  await isKept(maud);
  await expect(line(maud)).toContainText('Everything you type is kept');
  await maud.getByRole('button', { name: 'Drop this draft' }).click();
  await loads(maud, () => maud.getByRole('button', { name: 'Drop the draft' }).click());
  await maud.context().close();
});

test('somebody else’s change arrives while one is writing: cursor, focus and every letter stay', async ({
  browser,
  app,
}) => {
  const [ines, tomas] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Tomas')];
  await hearsNothing(ines);
  await openPage(ines, 'Left luggage');
  await openPage(tomas, 'Left luggage');
  const area = writing(ines);
  // Ines writes in the middle of a line of her own at the end; Tomas changes the first line and is kept first.
  await area.click();
  await ines.keyboard.press('Control+End');
  await ines.keyboard.press('Enter');
  await ines.keyboard.type('before  after');
  await isKept(ines);
  await tomas.reload();
  await expect(writing(tomas)).toContainText('before  after');
  for (let i = 0; i < 6; i++) await ines.keyboard.press('ArrowLeft');
  await writing(tomas).getByText('Lockers').click();
  await tomas.keyboard.press('Control+Home');
  await tomas.keyboard.type('Tomas begins. ');
  await expect(writing(tomas)).toContainText('Tomas begins. Lockers');
  await isKept(tomas);
  const typed = 'and nothing of this is lost, however long it takes to arrive';
  await ines.keyboard.type(typed, { delay: 60 });
  await expect(ines.getByText('Both changes are in it now.')).toBeVisible();
  await expect(area).toBeFocused();
  await ines.keyboard.type('!');
  await expect(area).toContainText(`before ${typed}! after`);
  await expect(area).toContainText('Tomas begins.');
  await isKept(ines);
  // Undo takes back one's own words, not the other's.
  await ines.keyboard.press('Control+z');
  await expect(area).toContainText('Tomas begins.');
  await expect(area).not.toContainText('to arrive!');
  await Promise.all([ines.context().close(), tomas.context().close()]);
});

test('who only looks on sees what the other kept, and writes on without a clash', async ({ browser, app }) => {
  const [ines, tomas] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Tomas')];
  await openPage(tomas, 'Left luggage');
  await openPage(ines, 'Left luggage');
  await writing(ines).click();
  await ines.keyboard.press('Control+End');
  await ines.keyboard.press('Enter');
  await ines.keyboard.type('The last words of Ines.');
  await ines.getByLabel('Summary').fill('A summary of Ines.');
  await isKept(ines);
  await expect(writing(tomas)).toContainText('The last words of Ines.');
  await expect(tomas.getByLabel('Summary')).toHaveValue('A summary of Ines.');
  await expect(line(tomas)).toContainText('Somebody else wrote on this page. Their words are here now.');
  await writing(tomas).click();
  await tomas.keyboard.press('Control+Home');
  await tomas.keyboard.type('Tomas goes on. ');
  await isKept(tomas);
  await expect(writing(ines)).toContainText('Tomas goes on.');
  await expect(writing(ines)).toContainText('The last words of Ines.');
  // What came is not one's own to take back.
  await tomas.keyboard.press('Control+z');
  await expect(writing(tomas)).not.toContainText('Tomas goes on.');
  await tomas.keyboard.press('Control+z');
  await expect(writing(tomas)).toContainText('The last words of Ines.');
  await isKept(tomas);
  await Promise.all([ines.context().close(), tomas.context().close()]);
});

test('nothing is taken in under HTML that waits to be used, nor over what is typed in a trial', async ({
  browser,
  app,
}) => {
  const [ines, maud, trier] = [
    await signIn(browser, app, 'Ines'),
    await signIn(browser, app, 'Maud'),
    await signIn(browser, app, 'Maud'),
  ];
  /** That a screen hears of a version it does not have, and of nothing else for a while after. */
  const hears = (page: Page) =>
    page.waitForResponse(
      async (answer) =>
        answer.url().endsWith('/presence') && ((await answer.json()) as { version: number }).version > 0,
    );
  await openPage(maud, 'Port Ennis');
  await maud
    .getByRole('group', { name: 'How the text is shown' })
    .getByRole('button', { name: 'Code', exact: true })
    .click();
  const html = maud.getByLabel('The text as HTML');
  await html.fill(`${await html.inputValue()}<p>Out of the code.</p>`);
  // A room that is tried: kept nowhere.
  await trier.goto('/workshop/roles/harbour-desk/walk');
  await loads(trier, () =>
    trier
      .getByRole('button', { name: /^Step in/ })
      .first()
      .click(),
  );
  await openPage(trier, 'Port Ennis');
  await writing(trier).click();
  await trier.keyboard.press('Control+Home');
  await trier.keyboard.type('Typed in a trial. ');
  await expect(line(trier)).toContainText('A trial: nothing is kept');
  await openPage(ines, 'Port Ennis');
  await writing(ines).click();
  await ines.keyboard.press('Control+Home');
  await ines.keyboard.type('Words of Ines. ');
  await isKept(ines);
  await Promise.all([hears(maud), hears(trier)]);
  await Promise.all([hears(maud), hears(trier)]);
  await expect(writing(trier)).toContainText('Typed in a trial.');
  // What was made from the older text is put together with what came meanwhile.
  await maud.getByRole('button', { name: 'Use this text' }).click();
  await expect(writing(maud)).toContainText('Out of the code.');
  await expect(writing(maud)).toContainText('Words of Ines.');
  await isKept(maud);
  await Promise.all([ines, maud, trier].map((page) => page.context().close()));
});

/** Words that were typed at ten keys a second, each found again in the text, and no dialog in between. */
async function typesOn(page: Page, who: string, during: () => Promise<unknown>) {
  const words = Array.from({ length: 24 }, (_, i) => `${who}${i}`);
  const dialogs: string[] = [];
  await page.exposeFunction(`saw${who}`, (title: string) => dialogs.push(title));
  await page.evaluate((name) => {
    const told = (window as unknown as Record<string, (title: string) => void>)[name];
    new MutationObserver(() => {
      const dialog = document.querySelector('[role=dialog], [role=alertdialog]');
      if (dialog) told?.(dialog.textContent ?? '');
    }).observe(document.body, { childList: true, subtree: true });
  }, `saw${who}`);
  const typing = page.keyboard.type(words.join(' '), { delay: 100 });
  await during();
  await typing;
  await expect(writing(page)).toContainText(words.join(' '));
  await expect(writing(page)).toBeFocused();
  expect(dialogs).toEqual([]);
}
/** Puts the cursor at the end of the first paragraph of a text, and types a space. */
async function behindTheFirst(page: Page) {
  await writing(page).evaluate((element) => {
    const { editor } = element as unknown as {
      editor: { state: { doc: { firstChild: { nodeSize: number } } }; commands: { focus: (position: number) => void } };
    };
    editor.commands.focus(editor.state.doc.firstChild.nodeSize - 1);
  });
  await expect(writing(page)).toBeFocused();
  await page.keyboard.type(' ');
}

test('whatever happens while somebody types: no dialog opens, no key goes astray, and the line of state tells of it', async ({
  browser,
  app,
}) => {
  const [ines, tomas, maud] = [
    await signIn(browser, app, 'Ines'),
    await signIn(browser, app, 'Tomas'),
    await signIn(browser, app, 'Maud'),
  ];
  // The session ends.
  await openPage(ines, 'Left luggage');
  await behindTheFirst(ines);
  await typesOn(ines, 'session', () => ines.context().clearCookies());
  await expect(line(ines)).toContainText('You are signed out: kept in this browser only');
  await line(ines).getByRole('button', { name: 'Sign in again' }).click();
  const again = ines.getByRole('dialog', { name: 'Sign in again' });
  await ines.keyboard.press('Escape');
  await expect(again).toHaveCount(0);
  await line(ines).getByRole('button', { name: 'Sign in again' }).click();
  await again.getByLabel('Mail address').fill('ines@larkhaven.example');
  await again.getByLabel('Password').fill('late-boat-again');
  await again.getByRole('button', { name: 'Sign in and save' }).click();
  await isKept(ines);

  // Somebody else changes something else: both are together, and nothing moved.
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'Contact');
  await openPage(maud, 'Contact');
  await behindTheFirst(juno);
  await typesOn(juno, 'merge', () => maud.getByLabel('Summary').fill('Another summary.'));
  await isKept(juno);
  await isKept(maud);

  // Somebody else changes the same words: whoever is kept second is told, in the line.
  await openPage(ines, 'South Quay');
  await openPage(tomas, 'South Quay');
  await behindTheFirst(ines);
  await typesOn(ines, 'clash', async () => {
    await behindTheFirst(tomas);
    await tomas.keyboard.type('and quite another word');
  });
  await expect
    .poll(async () => `${await line(ines).textContent()} ${await line(tomas).textContent()}`)
    .toContain('Two versions of this page; yours is kept in this browser');

  // What is refused: the right to change it goes meanwhile.
  await openPage(tomas, 'Parking');
  await behindTheFirst(tomas);
  await typesOn(tomas, 'refused', () =>
    goLive(maud, 'harbour-desk', {
      do: 'add-grant',
      role: 'harbour-desk',
      grant: { id: 'no-more', effect: 'deny', permission: 'page.edit', scope: {} },
    }),
  );
  await expect(line(tomas)).toContainText('Not kept by the website, only in this browser');
  await goLive(maud, 'harbour-desk', { do: 'remove-grant', role: 'harbour-desk', grant: 'no-more' });
  for (const page of [ines, tomas, juno, maud]) await page.context().close();
});

test('a clash is left and taken up again from the line; what is typed meanwhile is there', async ({ browser, app }) => {
  const [ines, tomas] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Tomas')];
  await hearsNothing(tomas);
  await openPage(ines, 'Port Ennis');
  await openPage(tomas, 'Port Ennis');
  await ines.getByLabel('Summary').fill('Ines was here.');
  await isKept(ines);
  await tomas.getByLabel('Summary').fill('Tomas was here.');
  const dialog = tomas.getByRole('dialog', { name: 'Somebody else changed this page' });
  await line(tomas).getByRole('button', { name: 'Choose' }).click();
  await expect(dialog).toBeVisible();
  await tomas.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
  await expect(line(tomas)).toContainText('Two versions of this page; yours is kept in this browser');
  await tomas.getByLabel('Summary').fill('Tomas was here, and stays.');
  await line(tomas).getByRole('button', { name: 'Choose' }).click();
  await dialog.getByRole('button', { name: 'Keep my version' }).click();
  await isKept(tomas);
  await tomas.reload();
  await expect(tomas.getByLabel('Summary')).toHaveValue('Tomas was here, and stays.');
  await Promise.all([ines.context().close(), tomas.context().close()]);
});

for (const [what, width, height] of [
  ['a common window', 1280, 800],
  ['twice as large letters', 640, 400],
  ['a phone with its keyboard open', 390, 420],
] as const)
  test(`the line being written is in sight, also at both ends of a long text: ${what}`, async ({ browser, app }) => {
    const juno = await signIn(browser, app, 'Juno');
    await juno.setViewportSize({ width, height });
    await openPage(juno, 'History');
    const area = writing(juno);
    /** Where the cursor's line stands between the bars: above 0 on both sides when it can be read. */
    const clear = () =>
      area.evaluate((element) => {
        const { view, state } = (
          element as unknown as {
            editor: {
              view: { coordsAtPos: (at: number) => { top: number; bottom: number } };
              state: { selection: { head: number } };
            };
          }
        ).editor;
        const caret = view.coordsAtPos(state.selection.head);
        const over = (side: string, edge: 'top' | 'bottom') =>
          [...document.querySelectorAll(`[data-over="${side}"]`)].map((bar) => bar.getBoundingClientRect()[edge]);
        return Math.min(
          caret.top -
            Math.max(
              0,
              ...over('top', 'bottom').filter((at) => at < caret.bottom + 400 && at > 0 && at <= innerHeight / 1.2),
            ),
          Math.min(innerHeight, ...over('bottom', 'top')) - caret.bottom,
        );
      });
    await area.focus();
    await expect(async () => {
      await juno.keyboard.press('Control+End');
      expect(await clear()).toBeGreaterThanOrEqual(0);
    }).toPass();
    for (let i = 0; i < 25; i++) {
      await juno.keyboard.press('Enter');
      await juno.keyboard.type(`Line ${i}`);
    }
    await expect.poll(clear).toBeGreaterThanOrEqual(0);
    await juno.keyboard.type(' and its end');
    await expect.poll(clear).toBeGreaterThanOrEqual(0);
    // Up line by line until the beginning: never under the toolbar.
    for (let i = 0; i < 30; i++) {
      await juno.keyboard.press('ArrowUp');
      await expect.poll(clear, { message: `after ${i + 1} lines up` }).toBeGreaterThanOrEqual(0);
    }
    await juno.keyboard.press('Control+Home');
    await expect.poll(clear).toBeGreaterThanOrEqual(0);
    await juno.context().close();
  });

test('find and replace takes prices as they are written, goes to each place and counts', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Season tickets');
  const area = writing(maud);
  await area.click();
  await maud.keyboard.press('Control+End');
  for (const words of [
    'It costs 10 pounds.',
    ...Array<string>(30).fill('Nothing here.'),
    'Again 10 pounds, and 10 pounds.',
  ]) {
    await maud.keyboard.press('Enter');
    await maud.keyboard.type(words);
  }
  await maud.keyboard.press('Control+Home');
  await maud.keyboard.press('Control+f');
  const bar = maud.getByRole('form', { name: 'Find and replace' });
  await bar.getByLabel('Find').fill('10 pounds');
  await expect(bar).toContainText('1 of 3 in this text.');
  await bar.getByRole('button', { name: 'The next one' }).click();
  await expect(bar).toContainText('2 of 3 in this text.');
  await expect(area.getByText('Again 10 pounds')).toBeInViewport();
  await bar.getByLabel('Put in its place').fill('$12.50 ($&)');
  await bar.getByRole('button', { name: 'Replace', exact: true }).click();
  await expect(area).toContainText('Again $12.50 ($&), and 10 pounds.');
  await bar.getByRole('button', { name: 'Replace all' }).click();
  await expect(bar).toContainText('2 replaced.');
  await expect(area).toContainText('It costs $12.50 ($&).');
  await bar.getByRole('button', { name: 'Close' }).click();
  await maud.keyboard.press('Control+z');
  await expect(area).toContainText('It costs 10 pounds.');
  await expect(area).toContainText('Again $12.50 ($&), and 10 pounds.');
  await maud.context().close();
});

test('pieces taken out come back in any order and number, each where it stood', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await goToPage(maud, 'Groups');
  const main = maud.getByRole('region', { name: 'Main part' });
  const headings = () =>
    main.getByLabel('Heading').evaluateAll((inputs) => inputs.map((input) => (input as HTMLInputElement).value));
  await expect.poll(headings).toEqual(['School classes', 'Clubs and works outings']);
  for (const name of ['School classes', 'Clubs and works outings'])
    await main.getByRole('button', { name: `Take out “${name}”` }).click();
  await expect.poll(headings).toEqual([]);
  await expect(main.getByRole('button', { name: /^Bring it back.*Clubs/ })).toBeFocused();
  await maud.keyboard.press('Control+z');
  await expect.poll(headings).toEqual(['Clubs and works outings']);
  await main.getByRole('button', { name: /^Bring it back.*School/ }).click();
  await expect.poll(headings).toEqual(['School classes', 'Clubs and works outings']);
  await expect(main.getByText('The lower deck can be yours alone')).toBeVisible();
  await maud.context().close();
});

test('the preview fits its column', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  for (const width of [1280, 1024]) {
    await maud.setViewportSize({ width, height: 800 });
    await openPage(maud, 'Fares');
    await maud.getByRole('button', { name: 'Preview', exact: true }).click();
    await expect(
      maud.frameLocator('iframe[title="Preview of the page"]').getByRole('heading', { level: 1 }),
    ).toBeVisible();
    expect(await maud.evaluate(() => document.documentElement.scrollWidth)).toBe(width);
    const [frame, side] = await Promise.all([
      maud.locator('iframe[title="Preview of the page"]').locator('..').boundingBox(),
      maud.getByRole('complementary', { name: 'About this page' }).boundingBox(),
    ]);
    expect((frame?.x ?? 0) + (frame?.width ?? 0)).toBeLessThanOrEqual((side?.x ?? 0) + 1);
  }
  await maud.context().close();
});

test('a notice half written is there when one comes back, begins at its hour, and is forgotten once it is posted', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  const begin = async () => {
    await ines.goto('/room/notices');
    await ines.getByRole('button', { name: 'Post a notice', exact: true }).click();
  };
  await begin();
  await ines.getByLabel('What should visitors read?').fill('The ramp is closed for paint');
  await ines.goto('/room');
  await begin();
  await expect(ines.getByLabel('What should visitors read?')).toHaveValue('The ramp is closed for paint');
  await ines.getByRole('form', { name: 'Post a notice' }).getByRole('button', { name: 'Cancel' }).click();
  await begin();
  await expect(ines.getByLabel('What should visitors read?')).toHaveValue('The ramp is closed for paint');
  const year = new Date().getUTCFullYear() + 1;
  await ines.getByLabel('When does it begin?').fill(`${year}-05-01T08:00`);
  await ines.getByLabel('When does it end?').fill(`${year}-05-02T08:00`);
  await loads(ines, () => ines.getByRole('button', { name: 'Put it on the website', exact: true }).click());
  await expect(
    ines
      .getByRole('region', { name: 'Coming' })
      .or(ines.locator('section').filter({ has: ines.getByRole('heading', { name: 'Coming' }) })),
  ).toContainText('The ramp is closed for paint');
  await begin();
  await expect(ines.getByLabel('What should visitors read?')).toHaveValue('');
  await ines.context().close();
});

test('what one sets for oneself, and ways away, ask nothing and lose nothing while one types', async ({
  browser,
  app,
}) => {
  const juno = await signIn(browser, app, 'Juno');
  const asked: string[] = [];
  juno.on('dialog', (dialog) => {
    asked.push(dialog.type());
    void dialog.accept();
  });
  await openPage(juno, 'Contact');
  const menu = juno.getByRole('navigation', { name: 'Menu' });
  await behindTheFirst(juno);
  await juno.keyboard.type('one ');
  let loads = 0;
  juno.on('load', () => loads++);
  await menu.getByRole('button', { name: 'Narrow menu' }).click();
  await expect(menu).toHaveClass(/narrow/);
  await behindTheFirst(juno);
  await juno.keyboard.type('two ');
  await menu.getByRole('button', { name: 'Keep in my menu' }).click();
  const mine = menu.getByRole('group', { name: 'Shortcuts and favourites' });
  await expect(mine.getByRole('link', { name: /Contact/ })).toBeVisible();
  await juno.getByRole('button', { name: /Juno/ }).click();
  await juno.getByRole('menuitem', { name: 'Preferences' }).click();
  await juno.getByRole('dialog').getByLabel('Close', { exact: true }).check();
  await juno.keyboard.press('Escape');
  expect(loads).toBe(0);
  await expect(writing(juno)).toContainText(/one\s+two/);
  // Right behind the last key: what was typed goes along.
  await behindTheFirst(juno);
  await juno.keyboard.type('three');
  await menu.getByRole('link', { name: 'Today' }).click();
  await expect(juno).toHaveURL(/\/room$/);
  await goToPage(juno, 'Contact');
  await expect(writing(juno)).toContainText(/one\s+two\s+three/);
  expect(asked).toEqual([]);
  await juno.context().close();
});
