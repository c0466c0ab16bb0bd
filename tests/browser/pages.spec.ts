import type { Page } from '@playwright/test';
import { HtmlValidate } from 'html-validate';
import pg from 'pg';
import { axe, expect, findPages, hearsNothing, isKept, isReady, loads, openPage, signIn, test, writing } from './app';

const tree = (page: Page) => page.getByRole('navigation', { name: 'Your part of the site' });

test('pages are made from a list, shown as a tree first; one is copied, taken down, put back, deleted and brought back', async ({
  browser,
  app,
  page,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/pages');
  await maud.getByRole('button', { name: 'New page', exact: true }).click();
  const dialog = maud.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Several, from a list' }).click();
  await dialog.getByLabel('The list').fill('Winter sailings\n  Ice and fog\nSummer sailings');
  await expect(dialog.getByRole('region', { name: 'What will be made' }).getByRole('listitem')).toHaveText([
    'Winter sailings',
    '└ Ice and fog',
    'Summer sailings',
  ]);
  await dialog.getByRole('combobox', { name: 'Below' }).fill('Timetable');
  await dialog.getByRole('option', { name: 'Timetable' }).click();
  await dialog.getByRole('button', { name: 'Make 3 pages' }).click();
  await expect(maud.getByText('3 pages were made below Timetable.')).toBeVisible();
  await expect(tree(maud).getByRole('link', { name: 'Ice and fog' })).toBeVisible();

  await maud.getByRole('button', { name: 'More for Fares' }).click();
  await maud.getByRole('menuitem', { name: 'Take down…' }).click();
  await expect(dialog).toContainText('The 2 pages below go with it.');
  await expect(dialog).toContainText('Links that will lead nowhere:');
  await dialog.getByRole('button', { name: 'Take it down' }).click();
  await expect(maud.getByText('Fares is off the website.')).toBeVisible();
  expect((await page.goto('/fares'))?.status()).toBe(404);
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByText('Fares is on the website again.')).toBeVisible();
  expect((await page.goto('/fares/season-tickets'))?.status()).toBe(200);

  await maud.getByRole('button', { name: 'More for Lost and found' }).click();
  await maud.getByRole('menuitem', { name: 'Delete…' }).click();
  await dialog.getByRole('button', { name: 'Delete it' }).click();
  // Told once it is done; while the dialog is open the tree behind it counts for nothing.
  await expect(maud.getByText('Lost and found is deleted.')).toBeVisible();
  await expect(tree(maud).getByRole('link', { name: 'Lost and found' })).toHaveCount(0);
  await maud.goto('/room/pages/deleted');
  await maud.getByRole('button', { name: /^Bring it back.*Lost and found$/ }).click();
  await expect(maud.getByText('It is back.')).toBeVisible();
  expect((await page.goto('/harbours/south-quay/lost-and-found'))?.status()).toBe(200);
  await maud.context().close();
});

test('a page is moved by pointer and by keyboard, after saying what moves with it; old addresses lead there; undo', async ({
  browser,
  app,
  page,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/pages');
  await maud.evaluate(() => document.fonts.ready);
  const box = async (name: string) =>
    (await tree(maud)
      .getByRole('listitem')
      .filter({ has: maud.getByRole('link', { name, exact: true }) })
      .boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
  const [from, to] = [await box('Left luggage'), await box('Skell Island')];
  const handle = await tree(maud)
    .getByRole('listitem')
    .filter({ has: maud.getByRole('link', { name: 'Left luggage', exact: true }) })
    .locator('button')
    .first()
    .boundingBox();
  await maud.mouse.move((handle?.x ?? 0) + 8, from.y + from.height / 2);
  await maud.mouse.down();
  await maud.mouse.move((handle?.x ?? 0) + 8, from.y + from.height / 2 - 10, { steps: 4 });
  await maud.mouse.move((handle?.x ?? 0) + 8, to.y + to.height / 2, { steps: 10 });
  await maud.mouse.up();
  const dialog = maud.getByRole('dialog', { name: 'Move “Left luggage”' });
  await expect(dialog).toContainText('It will lie below Skell Island. Visitors see the change at once.');
  await expect(dialog.getByRole('region', { name: 'Addresses that change' })).toContainText(
    '/harbours/port-ennis/left-luggage → /harbours/skell-island/left-luggage',
  );
  await dialog.getByRole('button', { name: 'Move it' }).click();
  await expect(maud.getByText('Left luggage lies below Skell Island now.')).toBeVisible();
  await page.goto('/harbours/port-ennis/left-luggage');
  await expect(page).toHaveURL(/\/harbours\/skell-island\/left-luggage$/);

  await tree(maud).getByRole('link', { name: 'Timetable', exact: true }).focus();
  await maud.keyboard.press('Alt+ArrowUp');
  const reorder = maud.getByRole('dialog', { name: 'Move “Timetable”' });
  await expect(reorder).toContainText('It gets another place among the pages below Home.');
  await reorder.getByRole('button', { name: 'Move it' }).click();
  await expect(maud.getByText('Timetable lies below Home now.')).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('navigation', { name: 'Main' }).getByRole('link').first()).toHaveText('Timetable');
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByText('Timetable is back where it was.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('navigation', { name: 'Main' }).getByRole('link').first()).toHaveText('Harbours');
  await maud.context().close();
});

test('the tree by keyboard; the list filtered, sorted, its filter kept; several pages changed at once', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/pages');
  await tree(maud).getByRole('link', { name: 'Harbours', exact: true }).focus();
  await maud.keyboard.press('ArrowLeft');
  await expect(tree(maud).getByRole('link', { name: 'South Quay' })).toHaveCount(0);
  await maud.keyboard.press('ArrowRight');
  await expect(tree(maud).getByRole('link', { name: 'South Quay' })).toBeVisible();
  await maud.keyboard.press('ArrowDown');
  await expect(tree(maud).getByRole('link', { name: 'South Quay' })).toBeFocused();
  await findPages(maud, 'lugage');
  await expect(tree(maud).getByRole('link', { name: 'Left luggage' })).toBeVisible();
  await expect(tree(maud).getByRole('link', { name: 'Fares' })).toHaveCount(0);

  await maud.getByRole('button', { name: 'List', exact: true }).click();
  const table = maud.getByRole('table', { name: 'Pages' });
  const filters = maud.getByRole('region', { name: 'Filters' });
  await filters.getByLabel('Layout').selectOption({ label: 'Harbour page' });
  await expect(maud.getByText('3 pages', { exact: true })).toBeVisible();
  await table.getByRole('button', { name: 'Title' }).click();
  await expect(table.getByRole('row').nth(1)).toContainText('Port Ennis');
  await filters.getByRole('button', { name: 'Keep this filter' }).click();
  await filters.getByLabel('Name of this filter').fill('Harbours only');
  await filters.getByRole('button', { name: 'Keep it' }).click();
  await expect(filters.getByRole('button', { name: 'Harbours only', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await maud.reload();
  await isReady(maud);
  // The list is still the list.
  await expect(maud.getByRole('button', { name: 'List', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await filters.getByRole('button', { name: 'Harbours only', exact: true }).click();
  await expect(maud.getByText('3 pages', { exact: true })).toBeVisible();

  await maud.getByRole('button', { name: 'Choose several' }).click();
  await table.getByLabel('Choose Port Ennis').check();
  await table.getByLabel('Choose South Quay').check();
  const bar = maud.getByRole('region', { name: 'With all chosen' });
  await bar.getByLabel('What shall be done').selectOption({ label: 'Leave out of navigation' });
  await bar.getByRole('button', { name: 'See what changes' }).click();
  const dialog = maud.getByRole('dialog');
  await expect(dialog.getByRole('listitem')).toHaveCount(2);
  await dialog.getByRole('button', { name: 'Do it with 2 pages' }).click();
  await expect(maud.getByText('2 of 2 pages: leave out of navigation.')).toBeVisible();
  await expect(table.getByRole('row').filter({ hasText: 'Port Ennis' })).toContainText('not in navigation');
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.locator('.note').filter({ hasText: 'All 2 are as they were.' })).toBeFocused();
  await expect(table.getByRole('row').filter({ hasText: 'Port Ennis' })).not.toContainText('not in navigation');
  await maud.context().close();
});

test('panels beside a page: address, search result, layout and back, checks, publishing later', async ({
  browser,
  app,
  page,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Season tickets');
  const about = maud.getByRole('complementary', { name: 'About this page' });
  await about.getByText('Address', { exact: true }).click();
  await about.getByLabel('Last part of the address').fill('Two Words');
  await expect(about.getByText('An address is made of small letters')).toBeVisible();
  await about.getByLabel('Last part of the address').fill('travel-cards');
  await expect(about.getByText('It will be /fares/travel-cards.')).toBeVisible();
  await expect(about.getByLabel('The old address leads here')).toBeChecked();
  await about.getByText('Search result', { exact: true }).click();
  await about.getByLabel('Words under it').fill('Monthly and yearly cards for the crossing.');
  await expect(about.getByRole('figure', { name: 'How it will look' })).toContainText(
    'Monthly and yearly cards for the crossing.',
  );
  await about.getByText('Layout, author, date', { exact: true }).click();
  await about.getByLabel('Layout', { exact: true }).selectOption({ label: 'Event page' });
  await expect(maud.getByLabel('Begins (needed)')).toBeVisible();
  await expect(about.getByText('to set right first')).toBeVisible();
  await about.getByLabel('Layout', { exact: true }).selectOption({ label: 'Plain page' });
  await expect(writing(maud)).toBeVisible();
  await isKept(maud);
  await maud.getByRole('button', { name: 'Publish now' }).click();
  const ask = maud.getByRole('alertdialog');
  await loads(maud, () => ask.getByRole('button', { name: 'Publish now' }).click());
  await page.goto('/fares/season-tickets');
  await expect(page).toHaveURL(/\/fares\/travel-cards$/);
  await expect(page.locator('meta[name="description"]')).toHaveAttribute(
    'content',
    'Monthly and yearly cards for the crossing.',
  );

  await maud.getByLabel('Summary').fill('Not before June.');
  await isKept(maud);
  await maud.getByRole('button', { name: 'Publish now' }).click();
  await ask.getByLabel('At a time').check();
  await ask.getByLabel('When shall it go live?').fill('2061-06-01T09:00');
  await loads(maud, () => ask.getByRole('button', { name: 'Plan it' }).click());
  await expect(about.getByText('planned by Maud Ellery')).toBeVisible();
  await page.reload();
  await expect(page.getByText('Not before June.')).toHaveCount(0);
  await maud.context().close();
});

test('two people on one page: each sees the other; what does not touch is put together, what does is chosen', async ({
  browser,
  app,
}) => {
  const [ines, tomas] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Tomas')];
  await openPage(ines, 'Skell Island');
  await openPage(tomas, 'Skell Island');
  await expect(tomas.getByText('Ines Varga has this page open, too.')).toBeVisible();
  await Promise.all([hearsNothing(ines), hearsNothing(tomas)]);
  await ines.getByLabel('Summary').fill('Ines wrote the summary.');
  await isKept(ines);
  await tomas.getByLabel('Ticket office hours').fill('Tomas wrote the hours.');
  await expect(tomas.getByText('Somebody else changed other parts of this page.')).toBeVisible();
  await expect(tomas.getByLabel('Summary')).toHaveValue('Ines wrote the summary.');
  await isKept(tomas);
  await ines.getByLabel('Summary').fill('Ines again.');
  await expect(ines.getByText('Both changes are in it now.')).toBeVisible();
  await expect(ines.getByLabel('Ticket office hours')).toHaveValue('Tomas wrote the hours.');
  await isKept(ines);
  // Now in the same place: both stand side by side, and the rest is together already.
  await tomas.getByLabel('Ticket office hours').fill('Tomas again.');
  await tomas.getByLabel('Summary').fill('Tomas wrote the summary.');
  await tomas.getByRole('button', { name: 'Choose', exact: true }).click();
  const dialog = tomas.getByRole('dialog', { name: 'Somebody else changed this page' });
  await expect(dialog).toContainText('You both changed one place');
  await dialog.getByLabel('Theirs').check();
  await dialog.getByRole('button', { name: 'Keep what I chose' }).click();
  await isKept(tomas);
  await expect(tomas.getByLabel('Summary')).toHaveValue('Ines again.');
  await expect(tomas.getByLabel('Ticket office hours')).toHaveValue('Tomas again.');
  // What was not chosen is put aside, mine too.
  await tomas.reload();
  await isReady(tomas);
  const versions = tomas.getByRole('region', { name: 'Earlier versions' });
  await expect(versions.getByText(/Put aside for another version/)).toHaveCount(1);
  await Promise.all([ines.context().close(), tomas.context().close()]);
});

test('a telephone number is typed as people write it, told when it is none, and dialled from the website', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'South Quay');
  const phone = maud.getByLabel('Telephone of the ticket office');
  await expect(phone).toHaveValue('01632 960011');
  await phone.fill('ring twice');
  await expect(maud.getByText('Telephone of the ticket office must be a telephone number').first()).toBeVisible();
  await axe(maud, 'a number that is none');
  // Kept as it was typed, until it is right.
  await maud.reload();
  await isReady(maud);
  await expect(phone).toHaveValue('ring twice');
  await phone.fill('+44 (0)1632 960013');
  await isKept(maud);
  await maud.getByRole('button', { name: 'Publish now' }).click();
  await loads(maud, () => maud.getByRole('alertdialog').getByRole('button', { name: 'Publish now' }).click());
  await maud.goto('/harbours/south-quay');
  await expect(maud.getByRole('link', { name: '+44 (0)1632 960013' })).toHaveAttribute('href', 'tel:+441632960013');
  await maud.context().close();
});

test('a page in pieces: added, moved, taken out and brought back; visitors get it in its parts', async ({
  browser,
  app,
  page,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/pages');
  await maud.getByRole('button', { name: 'New page', exact: true }).click();
  const dialog = maud.getByRole('dialog');
  await dialog.getByLabel('Title').fill('Groups');
  await dialog.getByLabel('Layout').selectOption({ label: 'Page in pieces' });
  await loads(maud, () => dialog.getByRole('button', { name: 'Make it and open it' }).click());
  const [main, side] = [
    maud.getByRole('region', { name: 'Main part' }),
    maud.getByRole('region', { name: 'Beside it' }),
  ];
  for (const name of ['Schools', 'Clubs']) {
    await main.getByRole('button', { name: 'Add a piece to Main part' }).click();
    await main.getByLabel('Heading').last().fill(name);
  }
  await main.getByRole('textbox', { name: 'Text of “Schools”' }).click();
  await maud.keyboard.type('Book a week before.');
  await main.getByRole('group', { name: 'Piece: Clubs' }).getByRole('button', { name: 'To “Beside it”' }).click();
  await expect(side.getByLabel('Heading')).toHaveValue('Clubs');
  await side.getByRole('button', { name: 'Take out “Clubs”' }).click();
  await expect(side.getByLabel('Heading')).toHaveCount(0);
  await maud.getByRole('button', { name: /^Bring it back/ }).click();
  await expect(side.getByLabel('Heading')).toHaveValue('Clubs');
  await maud.getByLabel('Summary').fill('More than nine people.');
  await isKept(maud);
  await maud.getByRole('button', { name: 'Publish now' }).click();
  await expect(maud.getByRole('alertdialog')).toContainText('Clubs: this piece says nothing.');
  await loads(maud, () => maud.getByRole('alertdialog').getByRole('button', { name: 'Publish now' }).click());
  await page.goto('/groups');
  await expect(page.getByRole('article').getByRole('heading', { name: 'Schools' })).toBeVisible();
  await expect(page.getByRole('article')).toContainText('Book a week before.');
  await maud.context().close();
});

test('the website is valid HTML by html-validate, page by page, and a draft is shown by a link without an account', async ({
  browser,
  app,
  page,
}) => {
  const checker = new HtmlValidate({
    extends: ['html-validate:standard'],
    rules: {
      'no-trailing-whitespace': 'off',
      'void-style': 'off',
      'no-inline-style': 'error',
      'attribute-boolean-style': 'off',
    },
  });
  for (const path of [
    '/',
    '/harbours',
    '/harbours/south-quay',
    '/timetable',
    '/fares',
    '/cafe',
    '/about/history',
    '/about/jobs',
    '/search?q=boat',
    '/nowhere-at-all',
    '/about/crew',
    '/sign-in',
  ]) {
    const answer = await page.request.get(path);
    const report = await checker.validateString(await answer.text());
    expect(
      report.results.flatMap((result) => result.messages.map((m) => `${path}:${m.line} ${m.ruleId}: ${m.message}`)),
    ).toEqual([]);
  }
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'Parking');
  await ines.getByText('Preview by a link', { exact: true }).click();
  await ines.getByRole('button', { name: 'Make a link' }).click();
  const link = await ines.getByLabel('Link to the preview').inputValue();
  await page.goto(link);
  await expect(page.getByText('the lower row is closed while the drains are cleaned')).toBeVisible();
  await expect(page.getByText(/Preview of a draft, by a link that works until/)).toBeVisible();
  expect((await page.goto(`${link}x`))?.status()).toBe(404);
  await ines.context().close();
});

test('the screens of pages are accessible in their states (WCAG 2.2 AA by axe), and fit 360 px', async ({
  browser,
  app,
}) => {
  test.slow();
  const maud = await signIn(browser, app, 'Maud');
  const fits = async (what: string) => {
    for (const width of [360, 1280]) {
      await maud.setViewportSize({ width, height: 800 });
      await maud.evaluate(() => document.fonts.ready);
      // The rows of lists are drawn anew for another width: what counts is where they come to rest.
      await expect
        .poll(
          () => maud.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
          `${what} at ${width} px scrolls sideways`,
        )
        .toBeLessThanOrEqual(0);
    }
  };
  await maud.goto('/room/pages');
  await fits('the tree');
  await maud.getByRole('button', { name: 'New page', exact: true }).click();
  await maud.getByRole('dialog').getByRole('button', { name: 'Several, from a list' }).click();
  await axe(maud, 'new pages');
  await maud.keyboard.press('Escape');
  await maud.getByRole('button', { name: 'List', exact: true }).click();
  await expect(maud.getByRole('table', { name: 'Pages' }).getByRole('row')).not.toHaveCount(1);
  await maud.getByRole('button', { name: 'Choose several' }).click();
  await axe(maud, 'the list, choosing several');
  await fits('the list');
  await maud.goto('/room/pages/deleted');
  await axe(maud, 'deleted pages');
  await maud.goto('/workshop/publishing');
  await axe(maud, 'before publishing');
  await openPage(maud, 'Lantern Night');
  for (const name of [
    'Before it goes out',
    'Address',
    'Navigation',
    'Search result',
    'Layout, author, date',
    'Times',
    'Notes',
    'Preview by a link',
  ])
    await maud.getByRole('complementary', { name: 'About this page' }).getByText(name, { exact: true }).click();
  await axe(maud, 'an event page with all its panels');
  await fits('an event page with all its panels');
  await maud.context().close();
});

test('what was planned goes live by itself, for the first visitor after its hour', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Fares');
  await maud.getByLabel('Summary').fill('From today one price for everybody.');
  await isKept(maud);
  await maud.getByRole('button', { name: 'Publish now' }).click();
  await maud.getByRole('radio', { name: 'At a time' }).check();
  await maud.getByLabel('When shall it go live?').fill(`${new Date().getUTCFullYear() + 1}-06-01T09:00`);
  await loads(maud, () => maud.getByRole('button', { name: 'Plan it' }).click());
  await expect(maud.getByText('It goes live by itself at the hour you chose.')).toBeVisible();
  await maud.context().close();
  const visitor = await browser.newPage({ baseURL: app.url });
  await visitor.goto('/fares');
  await expect(visitor.locator('main')).not.toContainText('From today one price for everybody.');
  // The hour comes.
  const client = new pg.Client({ connectionString: app.databaseUrl });
  await client.connect();
  await client.query(`update schedules set due_at = now() - interval '1 minute' where done_at is null`);
  await client.end();
  await expect
    .poll(async () => {
      await visitor.goto('/fares');
      return visitor.locator('main').textContent();
    })
    .toContain('From today one price for everybody.');
  await visitor.close();
});

test('rules before publishing: set, undone, live for everybody', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/publishing');
  await maud.getByRole('checkbox', { name: /^A change note is asked for/ }).check();
  await maud
    .getByRole('group', { name: /^Long sentences/ })
    .getByLabel('Off')
    .check();
  await maud.getByRole('button', { name: /^Undo/ }).click();
  await expect(maud.getByRole('group', { name: /^Long sentences/ }).getByLabel('Advises')).toBeChecked();
  await maud.getByRole('link', { name: 'Review and go live' }).last().click();
  await isReady(maud);
  await expect(maud.getByRole('region', { name: 'What changes for whom' })).toContainText(
    'A change note is asked for.',
  );
  await maud.getByRole('button', { name: 'Go live' }).click();
  await maud.getByRole('button', { name: 'Go live now' }).click();
  await expect(maud.getByText('It is in force')).toBeVisible();
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'Left luggage');
  await ines.getByLabel('Summary').fill('Thirty lockers.');
  await isKept(ines);
  await ines.getByRole('button', { name: /^Send to Priya/ }).click();
  await expect(
    ines.getByText('Say in a sentence what you changed; this website asks for it.', { exact: true }),
  ).toBeVisible();
  await ines.getByLabel('What did you change?').fill('More lockers');
  await loads(ines, () => ines.getByRole('button', { name: /^Send to Priya/ }).click());
  await expect(ines.getByText('It is sent.')).toBeVisible();
  await Promise.all([maud.context().close(), ines.context().close()]);
});

test('a second look with remarks: made on a line, answered beside the text, settled', async ({ browser, app }) => {
  const priya = await signIn(browser, app, 'Priya');
  await priya.goto('/room/review');
  await loads(priya, () => priya.getByRole('link', { name: 'Getting around on Skell' }).click());
  await priya
    .getByRole('button', { name: /^Remark on this line/ })
    .last()
    .click();
  await priya.getByLabel('Your remark').fill('From which day?');
  await priya.getByRole('button', { name: 'Make the remark' }).click();
  await expect(priya.getByRole('region', { name: 'Remarks' })).toContainText('From which day?');
  await axe(priya, 'a second look with a remark');
  await priya.getByRole('button', { name: 'Send it back' }).click();
  await expect(priya.getByText('It went back to the writer')).toBeVisible();
  const tomas = await signIn(browser, app, 'Tomas');
  await openPage(tomas, 'Getting around');
  const remarks = tomas.getByRole('region', { name: 'Remarks' });
  await expect(remarks).toContainText('“The post cart now also meets the 15:10.”');
  await remarks.getByRole('button', { name: /^Answer/ }).click();
  await remarks.getByLabel('Your answer').fill('From Monday.');
  await remarks.getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(remarks).toContainText('From Monday.');
  await remarks.getByRole('button', { name: /^Settled/ }).click();
  await expect(remarks).toContainText('settled today');
  await Promise.all([priya.context().close(), tomas.context().close()]);
});

test('links follow a page that is moved; where it is deleted its link is found, and given another end', async ({
  browser,
  app,
  page,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/pages');
  await maud.getByRole('button', { name: 'More for Parking' }).click();
  await maud.getByRole('menuitem', { name: 'Move…' }).click();
  const dialog = maud.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Below which page?' }).fill('Port Ennis');
  await dialog.getByRole('option', { name: 'Port Ennis' }).click();
  await expect(dialog).toContainText('Links that follow by themselves: South Quay');
  await dialog.getByLabel('Old addresses lead to the new ones').uncheck();
  await dialog.getByRole('button', { name: 'Move it' }).click();
  await expect(maud.getByText('Parking lies below Port Ennis now.')).toBeVisible();
  const words = page.getByRole('article').getByText('east side ramp');
  await page.goto('/harbours/south-quay');
  await expect(words).toHaveAttribute('href', '/harbours/port-ennis/parking');
  await openPage(maud, 'South Quay');
  await expect(maud.getByRole('status').filter({ hasText: 'No draft' })).toBeVisible();
  const link = writing(maud).getByRole('link', { name: 'east side ramp' });
  await expect(link).toHaveAttribute('href', '/harbours/port-ennis/parking');

  await maud.goto('/room/pages');
  await maud.getByRole('button', { name: 'More for Parking' }).click();
  await maud.getByRole('menuitem', { name: 'Delete…' }).click();
  await expect(dialog).toContainText('South Quay leads to /harbours/port-ennis/parking');
  await dialog.getByRole('button', { name: 'Delete it' }).click();
  await expect(maud.getByText('Parking is deleted.')).toBeVisible();
  await page.reload();
  await expect(words).toBeVisible();
  await expect(page.getByRole('link', { name: 'east side ramp' })).toHaveCount(0);

  await maud.getByRole('button', { name: 'List', exact: true }).click();
  await maud.getByRole('region', { name: 'Filters' }).getByLabel('Links').selectOption({ label: 'Some broken' });
  await expect(maud.getByText('1 page', { exact: true })).toBeVisible();
  await loads(maud, () =>
    maud.getByRole('table', { name: 'Pages' }).getByRole('link', { name: 'South Quay', exact: true }).click(),
  );
  await link.click();
  await maud.getByRole('toolbar', { name: 'Toolbar' }).getByRole('button', { name: 'Link', exact: true }).click();
  await expect(dialog).toContainText('What it led to is not there any more.');
  await axe(maud, 'a link to a page that is gone');
  await dialog.getByLabel('Find the page').fill('Timetable');
  await dialog
    .getByRole('list', { name: 'Pages' })
    .getByRole('button', { name: /^Timetable/ })
    .click();
  await dialog.getByRole('button', { name: 'Make the link' }).click();
  await expect(link).toHaveAttribute('href', '/timetable');
  await isKept(maud);
  await maud.goto('/room/pages/deleted');
  await maud.getByRole('button', { name: /^Bring it back.*Parking/ }).click();
  await expect(maud.getByText('It is back.')).toBeVisible();
  // Visitors read what is published: there the link leads again where it did.
  await page.reload();
  await expect(words).toHaveAttribute('href', '/harbours/port-ennis/parking');
  await maud.context().close();
});
