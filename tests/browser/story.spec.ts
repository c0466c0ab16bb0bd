import { expect, isKept, isPrepared, openPage, signIn, test, writing } from './app';

// From the keyholder's first click to the visitor's page, on one database, in order.
test.describe.configure({ mode: 'serial' });

test('the keyholder ticks tasks, sees what is missing and mends it', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await expect(maud).toHaveURL(/\/workshop$/);
  await maud.getByRole('link', { name: 'Harbour desk', exact: true }).click();
  const task = maud.getByRole('main').getByRole('listitem').filter({ hasText: 'See whom to ask about a page' });
  await expect(task).toContainText('The door “People” is closed.');
  const figures = maud.getByRole('list', { name: 'Figures, before and after' });
  await expect(figures).toContainText('5/6');
  // All it takes with one press, and one undo takes it back.
  const mend = task.getByRole('button', { name: /^Open the door, and 1 more it takes/ });
  await mend.click();
  await expect(task).toContainText('can be done');
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(figures).toContainText('5/6');
  await mend.click();
  await expect(task).toContainText('can be done');
  await expect(figures).toContainText('6/6');
  await expect(maud.getByLabel('Miniature of the room')).toContainText('See whom to ask about a page');
  await isPrepared(maud);
  await maud.context().close();
});

test('she closes a door, is warned, takes it back; names, tools, widgets and tours follow', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/harbour-desk/menu');
  await maud
    .getByRole('list', { name: 'Floor plan' })
    .getByRole('button', { name: /Sailing notices/ })
    .click();
  const now = maud.getByRole('complementary', { name: 'The room now' });
  await expect(now).toContainText(
    'Closing Sailing notices would block 2 tasks: “Post a sailing notice”, “End a sailing notice”.',
  );
  await expect(now).toContainText('Harbour desk (from “Front line”) may see all notices, on the whole site.');
  await maud.getByRole('radio', { name: 'Closed' }).check();
  await expect(now).toContainText('Blocked since the plan in force');
  await expect(maud.getByLabel('Doors', { exact: true })).not.toContainText('Sailing notices');
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByLabel('Doors', { exact: true })).toContainText('Sailing notices');
  await maud.keyboard.press('Control+Shift+z');
  await expect(maud.getByLabel('Doors', { exact: true })).not.toContainText('Sailing notices');
  await maud.keyboard.press('Control+z');
  await expect(maud.getByLabel('Doors', { exact: true })).toContainText('Sailing notices');

  await maud.getByRole('link', { name: 'Toolbar' }).click();
  await expect(maud).toHaveURL(/\/toolbar$/);
  const tools = maud.getByRole('region', { name: 'Tools: Everywhere' });
  await tools.getByRole('button', { name: 'Heading', exact: true }).click();
  await expect(tools.getByRole('button', { name: 'Heading', exact: true })).toHaveAttribute('aria-pressed', 'false');
  await expect(
    maud.getByRole('button', { name: '“Text” on “Harbour page”: Bold, Italic, Link, Small heading, List, Preview' }),
  ).toBeVisible();
  await expect(maud.getByRole('list', { name: 'Rules' })).toContainText(
    'Everywhere, “Harbour desk” goes without “Heading”.',
  );

  await maud.getByRole('link', { name: 'Dashboard' }).click();
  await maud.getByRole('radio', { name: '2' }).check();
  await expect(maud.getByRole('region', { name: 'Column 3' })).toHaveCount(0);
  await maud.getByRole('button', { name: 'Take Visits this week off Today' }).click();
  await expect(maud.getByRole('button', { name: 'Take Visits this week off Today' })).toHaveCount(0);

  await maud.getByRole('link', { name: 'Tours' }).click();
  await maud.getByRole('main').getByText('Find a page', { exact: true }).click();
  const title = maud.getByRole('textbox', { name: 'Title of stop 2' });
  await title.fill('Type a few letters of its name');
  await title.blur();
  await expect(maud.getByRole('button', { name: 'Back to the given words of stop 2' })).toBeVisible();
  // A stop takes its words along, and one that is left out is offered back.
  await maud.getByRole('button', { name: 'Stop 2 later' }).click();
  await expect(maud.getByRole('textbox', { name: 'Title of stop 3' })).toHaveValue('Type a few letters of its name');
  await expect(maud.getByRole('button', { name: 'Stop 3 earlier' })).toBeFocused();
  // The other one of the two, which stands in other tours, too.
  await maud.getByRole('button', { name: 'Stop 2 later' }).click();
  await expect(maud.getByRole('textbox', { name: 'Title of stop 2' })).toHaveValue('Type a few letters of its name');
  await expect(maud.getByRole('button', { name: 'Stop 3 earlier' })).toBeFocused();
  await maud.getByRole('button', { name: 'Stop 2 later' }).click();
  await expect(maud.getByRole('textbox', { name: 'Title of stop 3' })).toHaveValue('Type a few letters of its name');
  await maud.getByRole('button', { name: 'Leave out stop 1' }).click();
  await expect(maud.getByRole('textbox', { name: 'Title of stop 2' })).toHaveValue('Type a few letters of its name');
  await expect(maud.locator(':focus')).toContainText('Find a page');
  await maud.getByRole('button', { name: /^Take it in again/ }).click();
  await expect(maud.getByRole('textbox', { name: 'Title of stop 3' })).toHaveValue('Type a few letters of its name');
  await isPrepared(maud);
  await maud.context().close();
});

test('she steps in, sees the prepared room, and nothing done there is kept', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/harbour-desk/walk');
  await maud.getByRole('combobox', { name: 'The room as seen by' }).selectOption('Ines Varga');
  await maud.getByRole('button', { name: 'Step in as Ines' }).click();
  await expect(maud.getByRole('region', { name: 'Trial' })).toContainText(
    'You are trying the room of Ines Varga · Harbour desk',
  );
  await expect(maud.getByRole('link', { name: 'People' })).toBeVisible();
  await maud.goto('/room/notices');
  await maud.getByRole('button', { name: 'Post a notice' }).click();
  await maud.getByLabel('What should visitors read?').fill('Only a trial');
  await maud.getByRole('button', { name: 'Put it on the website' }).click();
  await expect(
    maud.getByText('This is a trial: in the real room it would be done now. Nothing was kept.'),
  ).toBeVisible();
  await openPage(maud, 'South Quay');
  await maud.getByText('Bikes wait by the yellow line').click();
  await maud.keyboard.type('Trial words. ');
  await expect(maud.getByText('Trial: not kept')).toBeVisible();
  await maud.getByRole('button', { name: /second look/ }).click();
  await expect(maud.getByText('This is a trial: in the real room it would now wait for a second look.')).toBeVisible();
  expect((await maud.request.get('/workshop')).status()).toBe(403);
  await maud.getByRole('button', { name: 'Back to the Workshop' }).click();
  await expect(maud).toHaveURL(/\/workshop\/roles\/harbour-desk\/walk$/);
  await maud.goto('/');
  await expect(maud.getByText('Only a trial')).toHaveCount(0);
  await maud.context().close();
});

test('she goes live; until then the editor kept the old room', async ({ browser, app }) => {
  const ines = await signIn(browser, app, 'Ines');
  await expect(ines.getByRole('region', { name: 'Visits this week' })).toBeVisible();
  await expect(ines.getByRole('link', { name: 'People' })).toHaveCount(0);
  const maud = await signIn(browser, app, 'Maud');
  await maud.getByRole('link', { name: 'Review and go live' }).first().click();
  const changes = maud.getByRole('region', { name: 'What changes for whom' });
  await expect(changes).toContainText('Ines Varga, Tomas Reed');
  await expect(changes).toContainText('A rule for tools: Everywhere, “Harbour desk” goes without “Heading”.');
  await expect(changes).toContainText('No longer on Today: “Visits this week”.');
  await expect(maud.getByText('Ines Varga and Tomas Reed lose something.')).toBeVisible();
  const byPerson = maud.getByRole('region', { name: 'Person by person' });
  await expect(byPerson.getByRole('listitem').filter({ hasText: 'Ines Varga' })).toContainText(
    'just what “Harbour desk” comes to, as it stands above: 2 losses',
  );
  await maud.getByLabel('What is this release for?').fill('Less on Today');
  await maud.getByRole('button', { name: 'Go live' }).click();
  await expect(maud.getByRole('alertdialog')).toContainText('2 people have the new room');
  await maud.getByRole('button', { name: 'Go live now' }).click();
  await expect(maud.getByText('It is in force')).toBeVisible();
  await expect(maud.getByRole('list').filter({ hasText: 'Release 2' })).toContainText('“Less on Today”');
  await ines.goto('/room');
  await expect(ines.getByRole('region', { name: 'Visits this week' })).toHaveCount(0);
  await expect(ines.getByRole('link', { name: 'People' })).toBeVisible();
  await Promise.all([maud.context().close(), ines.context().close()]);
});

test('the editor writes with the trimmed toolbar around a table she cannot spoil, and sends it', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'South Quay');
  const toolbar = ines.getByRole('toolbar', { name: 'Toolbar' });
  await expect(toolbar.getByRole('button')).toHaveText(['Bold', 'Italic', 'Link', 'Small heading', 'List']);
  await expect(ines.getByText('This table is kept as it is.')).toBeVisible();
  await expect(ines.getByText('Visitors see the version from')).toBeVisible();
  await expect(ines.getByRole('button', { name: 'Send to Priya for a second look' })).toBeDisabled();
  await ines.getByText('Bikes wait by the yellow line').click();
  await ines.keyboard.press('End');
  await ines.keyboard.type(' Dogs too.');
  await isKept(ines);
  await expect(ines.getByText('Visitors still see the version from')).toBeVisible();
  // Typing what would make a heading elsewhere stays text here; a table goes nowhere.
  await ines.keyboard.press('Enter');
  await ines.keyboard.type('## Not a heading');
  await expect(writing(ines).getByRole('heading', { name: 'Not a heading' })).toHaveCount(0);
  await ines.keyboard.press('Control+a');
  await ines.keyboard.press('Delete');
  await expect(ines.getByText('The table is kept as it is: your toolbar could not make it again.')).toBeVisible();
  await expect(writing(ines).getByRole('table')).toBeVisible();
  await ines.getByRole('button', { name: 'Choose another' }).click();
  await ines
    .getByRole('dialog')
    .getByRole('button', { name: /South Quay by night/ })
    .click();
  await ines.getByLabel('What did you change?').fill('Dogs wait with the bikes');
  await ines.getByRole('button', { name: 'Send to Priya for a second look' }).dblclick();
  await expect(ines.getByText('It is sent. Priya Nand can look at it now')).toBeVisible();
  await ines.goto('/room');
  await expect(ines.getByRole('region', { name: 'My unfinished work' })).toContainText('Second look');
  await ines.context().close();
});

test('the reviewer sees what changed, sends it back with a word, and publishes it the second time', async ({
  browser,
  app,
}) => {
  const priya = await signIn(browser, app, 'Priya');
  const waiting = priya.getByRole('region', { name: 'Waiting for a second look' });
  await expect(waiting.getByRole('link', { name: 'South Quay' })).toHaveCount(1);
  await waiting.getByRole('link', { name: 'South Quay' }).click();
  await expect(priya.locator('ins').filter({ hasText: 'Dogs too.' })).toBeVisible();
  await expect(priya.getByRole('region', { name: 'Banner picture' })).toContainText('South Quay by night');
  await priya.getByRole('button', { name: 'Send it back' }).click();
  await expect(priya.getByText('Say what should be different, so that Ines need not guess.')).toBeVisible();
  await priya.getByLabel('A word to go with it').fill('Which dogs?');
  await priya.getByRole('button', { name: 'Send it back' }).click();
  await expect(priya.getByText('It went back to the writer')).toBeVisible();

  const ines = await signIn(browser, app, 'Ines');
  await expect(ines.getByRole('region', { name: 'My unfinished work' })).toContainText('Which dogs?');
  await ines.getByRole('link', { name: 'South Quay', exact: true }).click();
  await expect(ines.getByText('It came back with a word:')).toBeVisible();
  await ines.getByText('Dogs too.').click();
  await ines.keyboard.press('End');
  await ines.keyboard.type(' On a lead.');
  await isKept(ines);
  await ines.getByRole('button', { name: 'Send to Priya for a second look' }).click();
  await expect(ines.getByText('It is sent.')).toBeVisible();

  await priya.goto('/room/review');
  await priya.getByRole('link', { name: 'South Quay' }).click();
  await priya.getByRole('button', { name: 'Publish it' }).click();
  await expect(priya.getByText('Visitors see it now')).toBeVisible();
  await Promise.all([priya.context().close(), ines.context().close()]);
});

test('the visitor reads it, with a notice that is there in seconds and gone in seconds', async ({
  browser,
  app,
  page,
}) => {
  await page.goto('/harbours/south-quay');
  await expect(page.getByText('Dogs too. On a lead.')).toBeVisible();
  await expect(page.getByAltText(/The quay at night/)).toBeVisible();
  await expect(page.getByRole('table')).toContainText('Skell Island');
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/room/notices');
  await ines.getByRole('button', { name: 'Post a notice' }).click();
  await ines.getByRole('button', { name: 'Put it on the website' }).click();
  await expect(ines.getByText('Write what visitors should read.')).toBeVisible();
  await ines.getByLabel('What should visitors read?').fill('The 07:40 to Skell Island runs 20 minutes late.');
  await ines.getByRole('button', { name: 'Put it on the website' }).dblclick();
  await expect(ines.getByText('It is on the website now.')).toBeVisible();
  await page.goto('/fares');
  await expect(page.getByRole('complementary', { name: 'Notices' }).getByText('runs 20 minutes late.')).toHaveCount(1);
  await ines.getByRole('button', { name: /End now.*The 07:40/ }).click();
  await ines.getByRole('button', { name: 'End it now' }).click();
  await expect(ines.getByRole('region', { name: 'Ended' })).toContainText('The 07:40');
  await page.reload();
  await expect(page.getByText('runs 20 minutes late.')).toHaveCount(0);
  await ines.context().close();
});

test('one confirmed click goes back to the release before', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/releases');
  await maud.getByRole('link', { name: 'Go back to this release 1' }).click();
  await expect(maud.getByRole('region', { name: 'What changes for whom' })).toContainText('Visits this week');
  await maud.getByRole('button', { name: 'Go back to release 1' }).click();
  await maud.getByRole('button', { name: 'Go back now' }).click();
  await expect(maud.getByText('The earlier plan is in force again')).toBeVisible();
  await expect(maud.getByRole('listitem').filter({ hasText: 'Release 3' })).toContainText('in force');
  const ines = await signIn(browser, app, 'Ines');
  await expect(ines.getByRole('region', { name: 'Visits this week' })).toBeVisible();
  await Promise.all([maud.context().close(), ines.context().close()]);
});
