import type { Page } from '@playwright/test';
import pg from 'pg';
import { axe, expect, isPickedUp, isPrepared, isReady, loads, signIn, test } from './app';
import { inventory } from '../inventory';

/** Takes back all that was changed in a role, one after the other, until nothing waits to go live. */
async function takeAllBack(page: Page): Promise<void> {
  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) {
    await undo.click();
    await isPrepared(page);
  }
  await expect(page.getByText('Same as live')).toBeVisible();
}

test('two keyholders at once: the second sees the newest plan, and nothing is overwritten', async ({
  browser,
  app,
}) => {
  const [one, two] = [await signIn(browser, app, 'Maud'), await signIn(browser, app, 'Maud')];
  const tool = (page: Page, name: string) =>
    page.getByRole('region', { name: 'Tools: Everywhere' }).getByRole('button', { name, exact: true });
  const isGiven = (page: Page, name: string, is: boolean) =>
    expect(tool(page, name)).toHaveAttribute('aria-pressed', String(is));
  for (const page of [one, two]) await page.goto('/workshop/roles/cafe-manager/toolbar');
  await tool(one, 'Quote').click();
  await expect(one.getByText('1 change not yet live')).toBeVisible();
  // Another thing, in the same role too, stands beside it.
  await tool(two, 'Table').click();
  await expect(two.getByText('2 changes not yet live')).toBeVisible();
  await isGiven(two, 'Quote', true);
  // The same thing: that is told where one looks, however far down one works, and what was faster is shown.
  const door = async (page: Page, name: string) => {
    await page.getByRole('group', { name: 'Shown as' }).getByRole('button').first().click();
    await page
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .first()
      .click();
  };
  const state = (page: Page, name: string) => page.getByRole('radio', { name, exact: true });
  for (const page of [one, two]) {
    await page.goto('/workshop/roles/cafe-manager/menu');
    await door(page, 'Pages');
  }
  await state(one, 'Look only').check();
  await isPrepared(one);
  await two.setViewportSize({ width: 1280, height: 420 });
  await state(two, 'Closed').scrollIntoViewIfNeeded();
  // Pressed, not checked: what is refused may be taken back before anybody could see it checked.
  await state(two, 'Closed').click();
  const told = two
    .getByRole('alert')
    .filter({ hasText: 'The plan has moved on since you opened it, so nothing was overwritten.' });
  await expect(told.locator('.note')).toBeInViewport({ ratio: 1 });
  await expect(state(two, 'Look only')).toBeChecked();
  await state(two, 'Closed').click();
  await expect(state(two, 'Closed')).toBeChecked();
  await isPrepared(two);
  // What was pressed behind a change that is refused was meant for a plan that is not so: it goes with it.
  let letGo = () => {};
  const held = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  await one.route('**/api/workshop/plan', async (route) => {
    await held;
    await route.continue();
  });
  await state(one, 'Put away').click();
  await door(one, 'Notices');
  await state(one, 'Closed').click();
  await expect(one.getByText('Saving…')).toBeVisible();
  letGo();
  await expect(one.getByRole('alert').filter({ hasText: 'nothing was overwritten' })).toBeVisible();
  await expect(state(one, 'Open')).toBeChecked();
  for (const page of [one, two]) {
    await page.goto('/workshop/roles/cafe-manager/menu');
    await door(page, 'Pages');
    await expect(state(page, 'Closed')).toBeChecked();
    await door(page, 'Notices');
    await expect(state(page, 'Open')).toBeChecked();
  }
  // Keys pressed faster than the server answers are done one after the other, and none too many.
  await one.unroute('**/api/workshop/plan');
  for (let i = 0; i < 5; i += 1) await one.keyboard.press('Control+z');
  await expect(one.getByText('Same as live')).toBeVisible();
  await expect(one.getByRole('alert').filter({ hasText: /./ })).toHaveCount(0);
  await Promise.all([one.context().close(), two.context().close()]);
});

test('every tool of the inventory can be given, everywhere and in one place, and why is told', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/cafe-manager/toolbar');
  const panel = maud.getByRole('region', { name: /^Tools: / });
  for (const { name, description } of inventory.tools.values())
    await expect(panel.getByRole('button', { name, exact: true })).toHaveAttribute(
      'title',
      new RegExp(`^${description.replaceAll(/[()?.]/g, '\\$&')}`),
    );
  await panel.getByRole('button', { name: 'Full screen', exact: true }).click();
  const cells = maud.getByRole('button', { name: /^“Text” on “(Plain page|Page with banner)”/ });
  for (const cell of await cells.all()) await expect(cell).toHaveAccessibleName(/Full screen/);
  await panel.getByRole('button', { name: 'Full screen', exact: true }).click();
  for (const cell of await cells.all()) await expect(cell).not.toHaveAccessibleName(/Full screen/);
  await expect(maud.getByText('Same as live')).toBeVisible();

  // In one place: a rule for just that, told as a sentence, with what it touches.
  await maud.getByRole('button', { name: /^“Text” on “Plain page”/ }).click();
  await panel.getByRole('button', { name: 'List', exact: true }).click();
  await expect(maud.getByRole('button', { name: /^“Text” on “Plain page”/ })).not.toHaveAccessibleName(/List/);
  await expect(maud.getByRole('button', { name: /^“Text” on “Page with banner”/ })).toHaveAccessibleName(/List/);
  const sentence = 'On layout “Plain page”, in “Text”, “Café manager” goes without “List”.';
  await expect(maud.getByRole('list', { name: 'Rules' })).toContainText(sentence);
  await expect(panel.getByRole('listitem').filter({ hasText: sentence })).toBeVisible();
  await expect(panel).toContainText(/Taking “List” away touches \d+ places on \d+ pages, last changed by /);
  await panel.getByRole('button', { name: 'Stay whole' }).click();
  await expect(maud.getByRole('list', { name: 'Rules' })).toContainText('a list stays whole');
  await axe(maud, 'the Toolbar step');
  await takeAllBack(maud);
  await maud.context().close();
});

test('rules for tools are made, put in another order, changed and done away with; sets are compared; a case is tried', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/newsroom/toolbar');
  const rules = maud.getByRole('list', { name: 'Rules' }).getByRole('listitem');
  await expect(rules).toHaveCount(1);
  // A set of its own, beginning as another.
  await maud.getByRole('button', { name: 'All sets side by side' }).click();
  const sets = maud.getByRole('dialog', { name: 'All sets of tools side by side' });
  await sets.getByRole('textbox', { name: 'Name of a new set' }).fill('Short news');
  await sets.getByRole('button', { name: 'Make it' }).click();
  await sets.getByRole('combobox', { name: '“Short news” begins as' }).selectOption('Short texts');
  await sets.getByRole('checkbox', { name: 'Picture in “Short news”', exact: true }).check();
  await expect(sets.getByRole('checkbox', { name: 'Bold in “Short news”' })).toBeChecked();
  await axe(maud, 'sets of tools');
  // Its groups in an order of its own.
  await sets.getByText('Order of groups in “Short news”').click();
  await sets.getByRole('button', { name: '“For paragraphs” further to the front in “Short news”' }).click();
  // A set others write with is changed only on a further word.
  await sets.getByRole('checkbox', { name: 'Quote in “Short texts”' }).click();
  await expect(maud.getByRole('alertdialog')).toContainText('also reaches Café manager');
  await maud.getByRole('alertdialog').getByRole('button', { name: 'Cancel' }).click();
  await expect(sets.getByRole('checkbox', { name: 'Quote in “Short texts”' })).not.toBeChecked();
  await maud.keyboard.press('Escape');
  await expect(maud.getByRole('region', { name: 'Worth a look' })).toContainText(
    'Nobody writes with the set “Short news”.',
  );

  await maud.getByRole('button', { name: '“Text” on every layout' }).click();
  await maud.getByRole('button', { name: 'New rule' }).click();
  const dialog = maud.getByRole('dialog', { name: 'A new rule for tools' });
  await dialog.getByRole('combobox', { name: 'Set of tools' }).selectOption('Short news');
  await expect(dialog.getByRole('status')).toHaveText('In “Text”, “Newsroom” writes with “Short news”.');
  await axe(maud, 'a rule for tools');
  await dialog.getByRole('button', { name: 'Make this rule' }).click();
  await expect(rules).toHaveCount(2);
  await expect(maud.getByRole('button', { name: /^“Text” on “Plain page”/ })).toHaveAccessibleName(
    '“Text” on “Plain page”: List, Bold, Italic, Picture, Preview',
  );
  // Another that is as strong: below the set it takes from that is meant so, and no warning; above it, it does nothing.
  await maud.getByRole('button', { name: 'New rule' }).click();
  await dialog.getByRole('combobox', { name: 'They' }).selectOption('go without some tools');
  await dialog.getByRole('checkbox', { name: 'Picture', exact: true }).check();
  await dialog.getByRole('button', { name: 'Make this rule' }).click();
  await expect(maud.getByRole('button', { name: /^“Text” on “Plain page”/ })).not.toHaveAccessibleName(/Picture/);
  await expect(maud.getByRole('region', { name: 'Worth a look' })).not.toContainText('Two rules are as strong');
  const handle = maud.getByRole('button', { name: /^Move the rule: In “Text”, “Newsroom” goes without/ });
  await handle.focus();
  await maud.keyboard.press('Space');
  await isPickedUp(maud);
  await maud.keyboard.press('ArrowUp');
  await expect(maud.locator('[aria-live]').filter({ hasText: 'is at the place of' })).toHaveCount(1);
  await maud.keyboard.press('Space');
  await expect(maud.getByRole('button', { name: /^“Text” on “Plain page”/ })).toHaveAccessibleName(/Picture/);
  await expect(rules.filter({ hasText: 'goes without “Picture”' })).toContainText('never changes anything');
  await maud.getByRole('button', { name: /^Do away with the rule: In “Text”, “Newsroom” goes without/ }).click();
  await expect(rules).toHaveCount(2);

  // One for some days: the grid shows the day that is chosen, and a tool is not given where that rule says otherwise.
  await maud.getByRole('button', { name: '“Text” on every layout' }).click();
  await maud.getByRole('button', { name: 'New rule' }).click();
  await dialog.getByText('Narrow it further').click();
  await dialog.getByRole('button', { name: 'Saturdays' }).click();
  await dialog.getByRole('button', { name: 'Sundays' }).click();
  await dialog.getByRole('combobox', { name: 'They' }).selectOption('go without some tools');
  await dialog.getByRole('checkbox', { name: 'Italic', exact: true }).check();
  await expect(dialog.getByRole('status')).toHaveText(
    'In “Text”, on Saturdays or Sundays, “Newsroom” goes without “Italic”.',
  );
  await axe(maud, 'a rule for some days');
  await dialog.getByRole('button', { name: 'Make this rule' }).click();
  const plain = maud.getByRole('button', { name: /^“Text” on “Plain page”/ });
  await maud.getByLabel('On which days of the week').selectOption('on Fridays');
  await expect(plain).toHaveAccessibleName(/Bold, Italic/);
  await maud.getByLabel('On which days of the week').selectOption('on Sundays');
  await expect(plain).not.toHaveAccessibleName(/Italic/);
  await expect(rules.filter({ hasText: 'on Saturdays or Sundays' })).toContainText(/\d places?/);
  await maud.getByRole('button', { name: '“Text” on every layout' }).click();
  await maud
    .getByRole('region', { name: /^Tools:.* on Sundays$/ })
    .getByRole('button', { name: 'Italic' })
    .click();
  await expect(maud.getByText('for some days, or for everybody says otherwise')).toBeVisible();
  await axe(maud, 'the grid of a day');
  await maud.getByRole('button', { name: /^Do away with the rule: In “Text”, on Saturdays or Sundays/ }).click();
  await expect(maud.getByLabel('On which days of the week')).toHaveCount(0);

  await maud.getByRole('button', { name: 'Try a case' }).click();
  const trial = maud.getByRole('dialog', { name: 'Try a case' });
  const prepared = trial.getByRole('region', { name: 'As prepared' });
  await expect(prepared.getByRole('toolbar').getByRole('button')).toHaveText(['List', 'Bold', 'Italic', 'Picture']);
  await expect(trial.getByRole('region', { name: 'In force' }).getByRole('toolbar')).toContainText('Quote');
  await prepared.getByRole('textbox').getByText('Some words').click();
  await maud.keyboard.type('Typed. ');
  await expect(prepared.getByRole('textbox')).toContainText('Typed.');
  await axe(maud, 'a case that is tried');
  // What lies on a page has a text of its own, with other tools.
  await trial.getByLabel('What they write').selectOption('a vacancy');
  await expect(trial.getByLabel('In which text')).toBeVisible();
  await prepared.getByRole('textbox').getByText('Some words').click();
  await maud.keyboard.type('Of a job. ');
  await expect(prepared.getByRole('textbox')).toContainText('Of a job.');
  await maud.keyboard.press('Escape');
  await takeAllBack(maud);
  await maud.context().close();
});

test('doors are ordered, named and set in the list, by keyboard and by pointer', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/harbour-desk/menu');
  await maud.getByRole('button', { name: 'List', exact: true }).click();
  const rows = maud.getByRole('list', { name: 'Doors in menu order' }).getByRole('listitem');
  await expect(rows.first()).toContainText('Pages');
  const handle = maud.getByRole('button', { name: 'Move the door Sailing notices' });
  await handle.focus();
  await maud.keyboard.press('Space');
  await isPickedUp(maud);
  await maud.keyboard.press('ArrowUp');
  await expect(
    maud.locator('[aria-live]').filter({ hasText: 'Sailing notices is at the place of Pages.' }),
  ).toHaveCount(1);
  await maud.keyboard.press('Space');
  await expect(rows.first()).toContainText('Notices');
  await expect(maud.getByLabel('Doors', { exact: true }).getByRole('listitem').nth(1)).toContainText('Sailing notices');
  await maud.getByRole('textbox', { name: 'Own name of the door Pages' }).fill('Harbour pages');
  await maud.keyboard.press('Enter');
  await expect(maud.getByLabel('Doors', { exact: true })).toContainText('Harbour pages');
  await maud.getByRole('combobox', { name: 'Door Pictures' }).selectOption('Put away');
  await expect(maud.getByLabel('Doors', { exact: true })).not.toContainText('Pictures');

  const box = async (name: string) =>
    (await maud.getByRole('button', { name }).boundingBox()) ?? { x: 0, y: 0, width: 0, height: 0 };
  const from = await box('Move the door Harbour pages');
  const to = await box('Move the door Sailing notices');
  await maud.mouse.move(from.x + 10, from.y + 10);
  await maud.mouse.down();
  await maud.mouse.move(from.x + 10, from.y - 10, { steps: 4 });
  await maud.mouse.move(to.x + 10, to.y + 4, { steps: 8 });
  await maud.mouse.up();
  await expect(rows.first()).toContainText('Pages');
  await maud.context().close();
});

test('widgets are moved between columns by keyboard and pointer', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/newsroom/dashboard');
  const column = (n: number) => maud.getByRole('region', { name: `Column ${n}`, exact: true });
  await expect(column(2)).toContainText('Visits this week');
  await maud.getByRole('button', { name: 'Move Visits this week' }).focus();
  await maud.keyboard.press('Space');
  await isPickedUp(maud);
  await maud.keyboard.press('ArrowLeft');
  await expect(maud.locator('[aria-live]').filter({ hasText: 'Visits this week is at the place of' })).toHaveCount(1);
  await maud.keyboard.press('Space');
  await expect(column(1)).toContainText('Visits this week');
  await expect(column(2)).not.toContainText('Visits this week');
  // Pointer: back to where it was, with a place shown meanwhile.
  const grip = await maud.getByRole('button', { name: 'Move Visits this week' }).boundingBox();
  const to = await column(2).boundingBox();
  if (!grip || !to) throw new Error('nothing to drag');
  await maud.mouse.move(grip.x + 8, grip.y + 8);
  await maud.mouse.down();
  await maud.mouse.move(to.x + 60, to.y + 30, { steps: 6 });
  await maud.mouse.move(to.x + 60, to.y + 50, { steps: 4 });
  await expect(column(2)).toContainText(/here, (at the top|below)/);
  await maud.mouse.up();
  await expect(column(2)).toContainText('Visits this week');
  await maud.context().close();
});

test('access: a rule for a branch is added, explained, told apart from what is inherited, and taken away', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/harbour-desk/access');
  const notices = maud.getByRole('region', { name: 'Notices', exact: true });
  await expect(notices).toContainText('whole website · from Front line');
  await maud.getByRole('button', { name: 'Add a rule: publish pages without a second look' }).click();
  const dialog = maud.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Under' }).fill('Skell');
  await dialog.getByRole('option', { name: 'Skell Island' }).click();
  await expect(dialog).toContainText('They may publish pages without a second look, under Skell Island.');
  await dialog.getByRole('button', { name: 'Allow it' }).click();
  const now = maud.getByRole('complementary', { name: 'The room now' });
  await expect(now).toContainText('Harbour desk may publish pages without a second look, under Skell Island.');
  await maud.getByRole('button', { name: 'Add a rule: post notices' }).click();
  await dialog.getByLabel('They').selectOption('must not');
  await dialog.getByRole('button', { name: 'Forbid it' }).click();
  await expect(now).toContainText('Harbour desk must not post notices, on the whole site.');
  await expect(now).toContainText('Blocked since the plan in force: “Post a sailing notice”.');
  await maud.getByRole('button', { name: /^Take away: They must not post notices/ }).click();
  await expect(now).not.toContainText('Blocked since the plan in force');
  await maud.context().close();
});

test('a task gets this site’s own words, and “Where do I…?” finds it by them', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/picture-keeper/tasks');
  await maud.getByRole('button', { name: 'Own words for Describe a picture' }).click();
  await maud.getByLabel('What they call it').fill('Say what a picture shows');
  await maud.getByLabel('Words they use for it').fill('blind passengers, screen reader');
  await maud.keyboard.press('Tab');
  await expect(maud.getByRole('main')).toContainText('Say what a picture shows');
  await maud.getByRole('combobox', { name: 'The room as seen by' }).selectOption('Lotte Brand');
  await expect(maud.getByRole('button', { name: 'Step in as Lotte' })).toBeEnabled();
  await maud.getByRole('button', { name: 'Step in as Lotte' }).click();
  await maud.waitForURL(/\/room$/);
  await isReady(maud);
  await maud.getByRole('combobox', { name: 'Where do I…?' }).fill('screen reader');
  await expect(maud.getByRole('option').first()).toContainText('Say what a picture shows');
  await maud.context().close();
});

test('a room for volunteers at the front desk, from nothing to the invitation, takes at most 35 presses', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  // Every press is counted that changes or opens something: by pointer, also on screens left since; a choice from a
  // list is two.
  await maud.addInitScript(() => {
    addEventListener(
      'click',
      (event) => {
        if (event.isTrusted)
          sessionStorage.setItem(
            'presses',
            String(Number(sessionStorage.getItem('presses')) + (event.target instanceof HTMLSelectElement ? 2 : 1)),
          );
      },
      true,
    );
  });
  await maud.goto('/workshop');
  await maud.getByRole('button', { name: 'New role' }).click();
  await maud.getByLabel('Name', { exact: true }).fill('Front-desk volunteers');
  await maud
    .getByLabel('What it is for')
    .fill('Keep the opening times of the quay and the left luggage right, and tell passengers.');
  await loads(maud, () => maud.getByRole('button', { name: 'Make the role' }).click());
  for (const task of ['Change the words on a page', 'Find a page', 'Post a notice', 'End a notice'])
    await maud.getByRole('checkbox', { name: new RegExp(`^${task}`) }).click();
  await maud.getByRole('link', { name: 'Access' }).click();
  const where = maud.getByRole('region', { name: 'Where it works' });
  for (const page of ['South Quay', 'Left luggage']) {
    await where.getByRole('combobox', { name: 'Where this role works' }).fill(page);
    await where.getByRole('option', { name: page }).first().click();
  }
  await where
    .getByRole('button', { name: /with all below it; take this page alone/ })
    .first()
    .click();
  await where.getByRole('button', { name: /^Add just these/ }).click();
  await maud.getByRole('link', { name: 'Toolbar' }).click();
  for (const tool of ['Bold', 'Link to a page', 'List'])
    await maud
      .getByRole('region', { name: 'Tools: Everywhere' })
      .getByRole('button', { name: tool, exact: true })
      .click();
  await maud.getByRole('link', { name: 'Menu' }).click();
  await maud.getByRole('button', { name: /^Notices/ }).click();
  await maud.getByLabel(/^Own name/).click();
  await maud.keyboard.type('For passengers');
  await maud.getByRole('link', { name: 'Dashboard' }).click();
  for (const widget of ['Notices showing now', 'My unfinished work'])
    await maud.getByRole('button', { name: `Add ${widget}` }).click();
  await maud.getByRole('link', { name: 'Walk through' }).click();
  await expect(maud.getByRole('region', { name: 'Tasks to try' })).toContainText('For passengers');
  await expect(maud.getByText('can be done', { exact: true })).toHaveCount(4);
  await isPrepared(maud);
  await loads(maud, () => maud.getByRole('link', { name: 'Review and go live' }).click());
  await maud.getByRole('button', { name: /^Go live/ }).click();
  await loads(maud, () => maud.getByRole('button', { name: 'Go live now' }).click());
  await maud.goto('/room/people');
  await maud.getByRole('button', { name: 'Invite somebody' }).click();
  await maud.getByLabel('Name', { exact: true }).fill('Edda Lind');
  await maud.getByLabel('Mail address').fill('edda@larkhaven.example');
  await maud.getByLabel('Role', { exact: true }).click();
  await maud.getByLabel('Role', { exact: true }).selectOption({ label: 'Front-desk volunteers' });
  await maud.getByRole('button', { name: 'Invite and show the link' }).click();
  await expect(maud.getByLabel('One-time link')).toBeVisible();
  // Two presses for the way to People and Invite, which is gone to here by its address.
  const presses = 2 + Number(await maud.evaluate(() => sessionStorage.getItem('presses')));
  expect(presses).toBeGreaterThan(25);
  expect(presses).toBeLessThanOrEqual(35);
  await maud.context().close();
});

test('pages that do not come are said so, and are asked for again', async ({ browser, app }) => {
  const [maud, oskar] = [await signIn(browser, app, 'Maud'), await signIn(browser, app, 'Oskar')];
  await maud.route('**/api/workshop/pages', (route) => route.abort(), { times: 1 });
  await maud.goto('/workshop/roles/cafe-manager/access');
  await expect(maud.getByText('The website does not answer.')).toBeVisible();
  await expect(maud.getByRole('link', { name: 'Workshop' })).toBeVisible();
  await maud.getByRole('button', { name: 'Try again' }).click();
  await expect(maud.getByRole('button', { name: 'Undo' })).toBeVisible();
  await maud.context().close();

  await oskar.route('**/api/pages/pick*', (route) => route.abort(), { times: 2 });
  await oskar.goto('/room/notices');
  await oskar.getByRole('button', { name: 'Post a notice', exact: true }).click();
  const where = oskar.getByRole('combobox', { name: 'Where does it show?' });
  // What it stands at is known without them; only his part of the site can be chosen.
  await expect(where).toHaveValue('Café');
  // Opening it asks once more.
  await where.click();
  await expect(oskar.getByText('The pages could not be fetched.')).toBeVisible();
  await oskar.keyboard.press('Escape');
  await where.click();
  await expect(oskar.getByRole('option')).toHaveText(['Café', 'Menu']);
  await oskar.getByRole('option', { name: 'Menu' }).click();
  await oskar.getByLabel('What should visitors read?').fill('No soup today.');
  await loads(oskar, () => oskar.getByRole('button', { name: 'Put it on the website', exact: true }).click());
  await expect(oskar.getByRole('region', { name: 'Showing now' })).toContainText('Menu and below');
  await oskar.context().close();
});

test('a door that came with a newer version, and nobody has, is told and opened', async ({ browser, app }) => {
  // As a plan of an earlier version: it names no door of Vacancies.
  const client = new pg.Client({ connectionString: app.databaseUrl });
  await client.connect();
  await client.query(
    `update plans set plan = jsonb_set(plan, '{roles}', (select jsonb_agg(jsonb_set(r, '{doors}', (
       select coalesce(jsonb_agg(d), '[]') from jsonb_array_elements(r->'doors') d where d->>'section' <> 'vacancies')))
     from jsonb_array_elements(plan->'roles') r))`,
  );
  await client.end();
  const maud = await signIn(browser, app, 'Maud');
  const told = maud.getByRole('complementary', { name: 'How the plan stands' });
  await expect(told.getByRole('heading', { name: 'A door nobody has' })).toBeVisible();
  await expect(told).toContainText('Jobs that are open');
  await loads(maud, () => told.getByRole('link', { name: 'Open it for keyholders' }).click());
  await maud.getByRole('button', { name: 'List', exact: true }).click();
  await Promise.all([
    maud.waitForResponse((answer) => answer.url().includes('/api/workshop/') && answer.request().method() !== 'GET'),
    maud.getByRole('combobox', { name: 'Door Vacancies' }).selectOption('Open'),
  ]);
  await maud.goto('/workshop');
  await expect(told.getByRole('heading', { name: 'Prepared', exact: true })).toBeVisible();
  await expect(told.getByRole('heading', { name: 'A door nobody has' })).toHaveCount(0);
  await maud.context().close();
});
