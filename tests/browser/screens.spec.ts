import { axe, expect, goLive, goToPage, isKept, isPickedUp, isPrepared, isReady, openPage, signIn, test } from './app';

test('an edit screen is prepared by hand: order, names, what is hidden and locked; what has to stay is refused', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/newsroom/screens');
  const text = maud.getByRole('region', { name: 'The text', exact: true });
  const beside = maud.getByRole('region', { name: 'Beside it', exact: true });
  const panel = maud.getByRole('region', { name: /^On the screen: / });
  await beside.getByRole('button', { name: 'Search result', exact: true }).click();
  await expect(maud.getByRole('heading', { name: 'Search result', exact: true })).toBeFocused();
  await panel.getByRole('radio', { name: 'Hidden' }).check();
  await expect(beside).toContainText('hidden');
  await isPrepared(maud);
  await beside.getByRole('button', { name: 'Date of the page', exact: true }).click();
  await panel.getByLabel('Locked, because').fill('The office dates every entry.');
  await panel.getByLabel('Locked, because').press('Enter');
  await expect(beside).toContainText('locked');
  await isPrepared(maud);
  await text.getByRole('button', { name: 'Summary', exact: true }).click();
  await panel.getByLabel('Their name for it').fill('In one sentence');
  await panel.getByLabel('Hint with it').fill('What happened, for people in a hurry.');
  await panel.getByLabel('Hint with it').press('Tab');
  await expect(text.getByRole('button', { name: 'In one sentence', exact: true })).toBeVisible();
  await panel.getByRole('checkbox', { name: /Must be filled in/ }).check();
  await expect(text).toContainText('must be filled in');
  await isPrepared(maud);
  // What has to be filled in anyway can be neither hidden nor locked; a title, which making asks for, can be locked.
  await beside.getByRole('button', { name: 'Layout', exact: true }).click();
  await expect(panel.getByRole('radio', { name: 'Hidden' })).toHaveCount(0);
  await expect(panel.getByLabel('Locked, because')).toHaveCount(0);
  await text.getByRole('button', { name: 'Page title', exact: true }).click();
  await expect(panel.getByRole('radio', { name: 'Hidden' })).toHaveCount(0);
  await panel.getByLabel('Locked, because').fill('Signs bear it.');
  await panel.getByLabel('Locked, because').press('Enter');
  await expect(text).toContainText('locked');
  await isPrepared(maud);
  // By keyboard: one further up in its column.
  await maud.getByRole('button', { name: 'Move Notes' }).focus();
  await maud.keyboard.press('Space');
  await isPickedUp(maud);
  await maud.keyboard.press('ArrowUp');
  await expect(maud.locator('[aria-live]').filter({ hasText: 'is at the place of' })).toHaveCount(1);
  await maud.keyboard.press('Space');
  await expect(maud.getByRole('button', { name: 'Its own order again' })).toBeVisible();
  await isPrepared(maud);
  // Drawn as it is there: inputs with their hints and reasons, the toolbar they get, the bar below with what they may do.
  const drawn = maud.getByRole('region', { name: 'The edit screen, smaller' });
  await expect(text.locator('input[readonly]')).toHaveCount(1);
  await expect(text).toContainText('Signs bear it.');
  await expect(text).toContainText('What happened, for people in a hurry.');
  await expect(text).toContainText('Small heading');
  await expect(drawn).toContainText('Send for a second look');
  await expect(drawn).toContainText('Publish now');
  await axe(maud, 'the Edit screens step');
  // Where they may only read, it says so.
  const where = maud.getByRole('combobox', { name: 'Where', exact: true });
  await where.fill('Harbours');
  await where.press('Enter');
  await expect(drawn).toContainText('You can read this page');
  await where.fill('Whole website');
  await where.press('Enter');
  await expect(drawn).toContainText('Publish now');
  // Taken back, and done again.
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByRole('button', { name: 'Its own order again' })).toHaveCount(0);
  await isPrepared(maud);
  // On one layout only.
  await maud.getByLabel('What I change holds').selectOption('one');
  await beside.getByRole('button', { name: 'Notes', exact: true }).click();
  await panel.getByRole('radio', { name: 'Hidden' }).check();
  await isPrepared(maud);
  await expect(maud.getByRole('region', { name: 'What is prepared' })).toContainText(
    /On layout “.*”, for “Newsroom”: “Notes” is hidden/,
  );
  await maud.goto('/workshop/release');
  const changes = maud.getByRole('region', { name: 'What changes for whom' });
  await expect(changes).toContainText('Everywhere, for “Newsroom”: “Search result” is hidden.');
  await expect(changes).toContainText('“Search result” is hidden on edit screens');
  await maud.getByRole('button', { name: 'Go live' }).click();
  await maud.getByRole('button', { name: 'Go live now' }).click();
  await expect(maud.getByText('It is in force')).toBeVisible();

  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'History');
  await expect(juno.locator('[data-anchor="pages.edit.versions"]')).toBeVisible();
  await expect(juno.locator('[data-anchor="pages.edit.result"]')).toHaveCount(0);
  await expect(juno.getByRole('main')).toContainText('What happened, for people in a hurry.');
  for (const name of [/^Send/, 'Publish now']) await expect(juno.getByRole('button', { name })).toBeVisible();
  await expect(juno.getByRole('toolbar').getByRole('button', { name: 'Small heading' })).toBeVisible();
  const title = juno.getByLabel('Page title');
  await expect(title).toHaveAttribute('readonly', '');
  await expect(juno.getByRole('main')).toContainText('Signs bear it.');
  const about = juno.locator('[data-anchor="pages.edit.about"]');
  await about.locator('summary').click();
  await expect(about).toContainText('The office dates every entry.');
  await expect(about.getByLabel('Date of the page')).toHaveAttribute('readonly', '');
  const summary = juno.getByLabel('In one sentence (needed)');
  await summary.fill('');
  await isKept(juno);
  await juno.getByLabel('What did you change?').fill('Nothing said');
  // Told before they try, and where they would publish all the same; sending is refused.
  const wanted = '“In one sentence” is asked for. Fill it in first.';
  await expect(juno.getByText('1 to set right first')).toBeVisible();
  await juno.getByRole('button', { name: 'Publish now' }).click();
  const sure = juno.getByRole('alertdialog');
  await expect(sure).toContainText(wanted);
  await expect(sure.getByRole('button', { name: /Publish/ })).toBeDisabled();
  await sure.getByRole('button', { name: 'Cancel' }).click();
  await juno.getByRole('button', { name: /^Send/ }).click();
  await expect(juno.getByRole('alert').filter({ hasText: wanted }).first()).toBeVisible();
  await axe(juno, 'a prepared edit screen');
  // By hand round the screen: refused, and nothing of it is kept.
  const id = new URL(juno.url()).pathname.split('/').at(-1) ?? '';
  const answer = await juno.evaluate(async (page) => {
    const { content } = (await (await fetch(`/api/items/${page}/content`)).json()) as { content: object };
    const tried = [];
    for (const changed of [{ 'page.searchText': 'Mine' }, { title: 'Mine' }])
      for (let version = 0; version < 12; version++) {
        const response = await fetch(`/api/items/${page}/draft`, {
          method: 'PUT',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ content: { ...content, ...changed }, version }),
        });
        tried.push({ status: response.status, code: ((await response.json()) as { code: string }).code });
      }
    return tried.filter(({ status }) => status !== 409);
  }, id);
  expect(answer).toEqual([
    { status: 403, code: 'field-hidden' },
    { status: 403, code: 'field-locked' },
  ]);
  await Promise.all([maud.context().close(), juno.context().close()]);
});

test('fields and panels stand where they were put, closed at first where it was said, at 360 px too', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await goLive(
    maud,
    'harbour-desk',
    {
      do: 'arrange-screen',
      role: 'harbour-desk',
      place: {},
      arrangement: { main: ['title', 'pages.edit.navigation', 'body'], side: ['summary', 'pages.edit.versions'] },
    },
    { do: 'set-element', role: 'harbour-desk', element: 'body', place: {}, said: { show: 'closed' } },
    { do: 'set-element', role: 'harbour-desk', element: 'pages.edit.versions', place: {}, said: { show: 'shown' } },
  );
  const ines = await signIn(browser, app, 'Ines');
  await goToPage(ines, 'Parking');
  const aside = ines.getByRole('complementary', { name: 'About this page' });
  await expect(aside.getByLabel('Summary')).toBeVisible();
  await expect(aside.locator('[data-anchor="pages.edit.versions"]')).toHaveAttribute('open', '');
  await expect(aside.locator('[data-anchor="pages.edit.navigation"]')).toHaveCount(0);
  await expect(ines.locator('[data-anchor="pages.edit.navigation"]')).toBeVisible();
  const area = ines.getByRole('textbox', { name: 'Text', exact: true });
  await expect(area).toBeHidden();
  await ines.getByText('Text', { exact: true }).click();
  await expect(area).toBeVisible();
  await ines.setViewportSize({ width: 360, height: 740 });
  expect(await ines.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await Promise.all([maud.context().close(), ines.context().close()]);
});

test('the list of pages is prepared for a role: how it begins, its columns, filters of one press', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/newsroom/screens');
  await isReady(maud);
  const list = maud.getByRole('region', { name: 'The list of pages' });
  await list.getByLabel('Begins').selectOption('list');
  await isPrepared(maud);
  await list.getByLabel('Sorted by').selectOption('title up');
  await isPrepared(maud);
  await list.getByRole('checkbox', { name: 'Author' }).uncheck();
  await isPrepared(maud);
  const one = list.getByRole('form', { name: 'New filter' });
  await one.getByRole('button', { name: 'Add the filter' }).click();
  await expect(one.getByText('Give it a name.')).toBeVisible();
  await one.getByLabel('Name of the filter').fill('Not in the navigation');
  await one.getByLabel('Navigation').selectOption('no');
  await one.getByRole('button', { name: 'Add the filter' }).click();
  await isPrepared(maud);
  await list.getByRole('button', { name: 'Take the filter “Changed this week” away' }).click();
  await isPrepared(maud);
  await axe(maud, 'the list of pages, prepared');
  await maud.goto('/workshop/release');
  await isReady(maud);
  await expect(maud.getByText('The list of pages begins as a table.')).toBeVisible();
  await expect(maud.getByText('No longer a filter above the list of pages: “Changed this week”.')).toBeVisible();
  await maud.getByRole('button', { name: 'Go live' }).click();
  await maud.getByRole('button', { name: 'Go live now' }).click();
  await expect(maud.getByText('It is in force')).toBeVisible();

  const juno = await signIn(browser, app, 'Juno');
  await juno.goto('/room/pages');
  await isReady(juno);
  const table = juno.getByRole('table', { name: 'Pages' });
  await expect(table.getByRole('columnheader', { name: 'Title' })).toHaveAttribute('aria-sort', 'ascending');
  await expect(table.getByRole('columnheader', { name: 'Address' })).toBeVisible();
  await expect(table.getByRole('columnheader', { name: 'Author' })).toHaveCount(0);
  await expect(table.getByRole('link', { name: 'Jobs', exact: true })).toBeVisible();
  const all = Number(await table.getAttribute('aria-rowcount'));
  const filters = juno.getByRole('region', { name: 'Filters' });
  await expect(filters.getByRole('button', { name: 'Changed this week' })).toHaveCount(0);
  await filters.getByRole('button', { name: 'Not in the navigation' }).click();
  await expect(filters.getByLabel('Navigation')).toHaveValue('no');
  await expect(juno.getByRole('status').filter({ hasText: /^\d+ pages?$/ })).not.toHaveText(`${all - 1} pages`);
  await filters.getByRole('button', { name: 'Not in the navigation' }).click();
  await expect(juno.getByText(`${all - 1} pages`, { exact: true })).toBeVisible();
  // An address names a filter, as a shortcut of the menu does; one's own columns stay one's own.
  await juno.getByText('Columns', { exact: true }).click();
  await juno.getByRole('checkbox', { name: 'Author' }).check();
  await juno.goto('/room/pages?view=list&state=draft&days=nonsense');
  await isReady(juno);
  await expect(filters.getByLabel('State')).toHaveValue('draft');
  await juno.goto('/room/pages?view=tree');
  await isReady(juno);
  await expect(juno.getByRole('navigation', { name: 'Your part of the site' })).toBeVisible();
  await juno.goto('/room/pages');
  await isReady(juno);
  await expect(table.getByRole('columnheader', { name: 'Author' })).toBeVisible();
  await axe(juno, 'the list of pages as prepared');
});
