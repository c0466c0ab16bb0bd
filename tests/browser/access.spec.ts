import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { axe, expect, isReady, loads, openPage, signIn, test } from './app';

const pick = async (page: Page, label: string, title: string) => {
  await page.getByRole('combobox', { name: label }).fill(title);
  await page.getByRole('option', { name: title }).first().click();
};

test('a rule is built as a sentence, changed, and the least change for a no is offered and made', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/cafe-manager/access');
  await maud.getByRole('button', { name: 'Add a rule: publish pages without a second look' }).click();
  const dialog = maud.getByRole('dialog', { name: 'A new rule' });
  await dialog.getByRole('button', { name: 'drafts' }).click();
  await dialog.getByRole('button', { name: 'published', exact: true }).click();
  await pick(maud, 'Under', 'Menu');
  await dialog.getByLabel('Written by').selectOption('own');
  await expect(dialog.getByRole('status')).toHaveText(
    'They may publish pages without a second look that are drafts or published, under Menu, only their own work.',
  );
  await axe(maud, 'rule dialog');
  await dialog.getByRole('button', { name: 'Allow it' }).click();
  await expect(maud.getByText('1 change not yet live')).toBeVisible();
  await maud.getByRole('button', { name: /^Change the rule: They may publish pages/ }).click();
  const change = maud.getByRole('dialog', { name: 'Change this rule' });
  await change.getByLabel('They').selectOption('must not');
  await expect(change.getByText('A “must not” wins over every “may”')).toBeVisible();
  await change.getByRole('button', { name: 'Change the rule' }).click();
  await expect(maud.getByRole('button', { name: /^Change the rule: They must not publish pages/ })).toBeVisible();
  // A rule on a branch gives the step in the tree its own words; undo takes one after the other back.
  await maud.getByRole('button', { name: 'Undo' }).click();
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByText('Same as live')).toBeVisible();

  await maud.getByRole('button', { name: 'Why? may they publish pages without a second look' }).click();
  const why = maud.getByRole('region', { name: 'Why?' });
  await expect(why).toContainText('No role of this person may publish pages without a second look.');
  await expect(why).toContainText('Allow “Café manager” to publish pages without a second look');
  await why.getByRole('button', { name: 'Make this change' }).click();
  await expect(why).toContainText('Why may they publish pages without a second look?');
  await maud.getByRole('button', { name: 'Undo' }).click();
  await maud.context().close();
});

test('a role builds on others and is kept apart from others, by the ties at the top', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/cafe-manager/access');
  await maud.getByRole('button', { name: 'Add a role: builds on' }).click();
  await maud.getByRole('combobox', { name: 'Builds on: which role?' }).selectOption('Front line');
  await expect(maud.getByText('from Front line').first()).toBeVisible();
  await maud.getByRole('button', { name: 'Add a role: never together with' }).click();
  await maud.getByRole('combobox', { name: 'Never together with: which role?' }).selectOption('Newsroom');
  await expect(maud.getByRole('button', { name: 'Never together with: take Newsroom away' })).toBeVisible();
  await maud.getByRole('button', { name: 'Builds on: take Front line away' }).click();
  await expect(maud.getByText('from Front line')).toHaveCount(0);
  for (let i = 0; i < 3; i++) await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByText('Same as live')).toBeVisible();
  await maud.context().close();
});

test('the access map: cells by keyboard, why, branch, filters, CSV', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/access');
  const grid = maud.getByRole('grid');
  await expect(grid.getByRole('row')).toHaveCount(9);
  await grid.getByRole('button', { name: 'Ines Varga, On every screen: yes. Why?' }).focus();
  await maud.keyboard.press('ArrowRight');
  await maud.keyboard.press('ArrowDown');
  await expect(grid.getByRole('button', { name: 'Juno Park, Pages: some. Why?' })).toBeFocused();
  await maud.keyboard.press('Enter');
  const why = maud.getByRole('dialog', { name: 'Juno Park: Pages' });
  await expect(why).toContainText('Newsroom may change pages, under About us.');
  await expect(why).toContainText('5 pages: About us, History, Jobs, For the crew, Contact');
  await axe(maud, 'why of a cell');
  await maud.keyboard.press('Escape');
  await expect(grid.getByRole('button', { name: 'Juno Park, Pages: some. Why?' })).toBeFocused();

  await loads(maud, () => pick(maud, 'On which branch', 'About us'));
  await expect(maud).toHaveURL(/branch=\d+/);
  await expect(maud.getByText('8 people, on About us and all below.')).toBeVisible();
  await expect(grid.getByRole('button', { name: 'Juno Park, Pages: yes. Why?' })).toBeVisible();
  await maud.getByLabel('Section').selectOption('Notices');
  await expect(grid.getByRole('columnheader')).toHaveCount(4);
  await maud.getByLabel('Rows with').selectOption('a yes');
  await expect(maud.getByText(/^\d of 8 people, on About us and all below\.$/)).toBeVisible();
  await maud.getByLabel('Find somebody, or a role').fill('nobody at all');
  await expect(maud.getByText('Nothing fits')).toBeVisible();
  // Another branch is looked at in the same way: search, columns, section and rows stay, also when the address is
  // passed on.
  await maud.getByLabel('Find somebody, or a role').fill('l');
  await loads(maud, () => pick(maud, 'On which branch', 'Harbours'));
  await expect(maud.getByLabel('Find somebody, or a role')).toHaveValue('l');
  await expect(maud.getByLabel('Section')).toHaveValue('notices');
  await expect(maud.getByLabel('Columns')).toHaveValue('permission');
  await expect(maud.getByLabel('Rows with')).toHaveValue('yes');
  await expect(grid.getByRole('columnheader')).toHaveCount(4);
  await maud.getByLabel('Find somebody, or a role').fill('');
  await loads(maud, () => pick(maud, 'On which branch', 'About us'));
  await loads(maud, () => maud.getByLabel('Rows', { exact: true }).selectOption('Roles'));
  await expect(maud.getByRole('grid', { name: 'What roles may do, on About us and all below' })).toBeVisible();
  await axe(maud, 'access map of roles');
  const [download] = await Promise.all([
    maud.waitForEvent('download'),
    maud.getByRole('link', { name: 'Export CSV' }).click(),
  ]);
  expect(readFileSync(await download.path(), 'utf8')).toContain('\r\nNewsroom,newsroom,yes,yes,yes,');
  await maud.context().close();
});

test('who can, and what can they: answers that can be passed on and printed', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/access/who');
  await loads(maud, () => maud.getByLabel('Who may').selectOption('post notices'));
  await expect(maud.getByRole('heading', { level: 1 })).toHaveText('Who may post notices?');
  await loads(maud, () => pick(maud, 'Which page', 'South Quay'));
  await expect(maud.getByRole('row')).toHaveCount(5);
  await expect(maud.getByRole('row', { name: /Sam Ollis/ })).toContainText(
    'Seasonal helper (from “Front line”) may post notices',
  );
  await expect(maud.getByText('4 people can, 4 cannot.')).toBeVisible();
  await maud.emulateMedia({ media: 'print' });
  await expect(maud.getByRole('button', { name: 'Print this sheet' })).toBeHidden();
  await expect(maud.getByRole('group', { name: 'What is asked' })).toBeHidden();
  await expect(
    maud.getByText(
      /Larkhaven Ferries · as in force, release \d+ · asked by Maud Ellery, \d+ \w+ \d{4}, \d\d:\d\d \(Europe\/London\)/,
    ),
  ).toBeVisible();
  await maud.emulateMedia({ media: 'screen' });
  await maud.goto('/workshop/access/what');
  await loads(maud, () => maud.getByLabel('Who').selectOption('Oskar Finch'));
  await expect(maud.getByRole('heading', { level: 1 })).toHaveText('What can Oskar Finch do?');
  await expect(maud.getByRole('region', { name: 'Roles held' })).toContainText('Café manager under Café');
  await expect(maud.getByRole('row', { name: /change pages/ })).toContainText('under Café');
  await maud.context().close();
});

test('roles are made, copied, named, compared and archived; thirty stay easy to find', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop');
  await maud.getByRole('button', { name: 'New role' }).click();
  const dialog = maud.getByRole('dialog', { name: 'A new role' });
  await dialog.getByLabel('Name').fill('newsroom');
  await expect(dialog.getByText('There is a role of this name already.')).toBeVisible();
  await dialog.getByLabel('Name').fill('Événements d’été');
  await dialog.getByLabel('Begin with').selectOption('a copy of Newsroom');
  await axe(maud, 'new role dialog');
  await dialog.getByRole('button', { name: 'Make the role' }).click();
  await expect(maud).toHaveURL(/\/workshop\/roles\/evenements-dete\/tasks$/);
  await expect(maud.getByText('nobody holds this role yet')).toBeVisible();

  await maud.goto('/workshop');
  await maud.getByLabel('Find a role').fill('événements');
  await expect(maud.getByText('1 of 9 roles')).toBeVisible();
  await maud.getByLabel('More for Événements d’été').click();
  await maud.getByRole('button', { name: 'Name and purpose' }).click();
  await maud.getByRole('dialog').getByLabel('Name').fill('Summer events');
  await loads(maud, () => maud.getByRole('dialog').getByRole('button', { name: 'Change name and purpose' }).click());
  await expect(maud.getByRole('link', { name: 'Summer events', exact: true })).toBeVisible();

  await maud.getByLabel('More for Summer events').click();
  await maud.getByRole('button', { name: 'Compare with another' }).click();
  await maud.getByRole('dialog').getByRole('link', { name: 'Newsroom' }).click();
  await expect(maud.getByRole('region', { name: 'Side by side' })).toContainText('Juno Park');
  await expect(maud.getByText(/\b2 differences, marked with ≠\. As prepared\./)).toBeVisible();

  await maud.goto('/workshop');
  await maud.getByLabel('More for Café manager').click();
  await maud.getByRole('button', { name: 'Archive' }).click();
  const held = maud.getByRole('dialog', { name: 'Café manager is still held' });
  await expect(held).toContainText('Oskar Finch holds it.');
  await held.getByLabel('Give them another role instead').selectOption('Front line');
  await held.getByRole('button', { name: 'Move this person' }).click();
  await loads(maud, () => maud.getByRole('alertdialog').getByRole('button', { name: 'Archive it' }).click());
  await expect(maud.getByRole('link', { name: 'Café manager', exact: true })).toHaveCount(0);
  await maud.getByLabel('Show').selectOption('archived');
  await loads(maud, () => maud.getByRole('button', { name: 'Bring back Café manager' }).click());
  await expect(maud.getByRole('link', { name: 'Café manager', exact: true })).toBeVisible();
  await maud.getByLabel('Show').selectOption('nobody holds');
  await expect(maud.getByRole('list', { name: 'Roles' }).getByRole('listitem')).toHaveCount(2);
  await maud.context().close();
});

test('somebody is invited, chooses a password by the link, works, is paused and locked out', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/people');
  await expect(maud.getByRole('region', { name: 'Ending soon' })).toContainText('Sam Ollis (in 24 days)');
  await expect(maud.getByText('did editors’ work 4 times in 30 days with a keyholder account')).toBeVisible();
  await maud.getByRole('button', { name: 'Invite somebody' }).click();
  const dialog = maud.getByRole('dialog', { name: 'Invite somebody' });
  await dialog.getByLabel('Name').fill('Edda Lind');
  await dialog.getByLabel('Mail address').fill('ines@larkhaven.example');
  await dialog.getByLabel('Role', { exact: true }).selectOption('Seasonal helper');
  await pick(maud, 'On which part of the site', 'Harbours');
  await dialog.getByLabel('Last day').fill('2020-01-01');
  await dialog.getByLabel('First day').fill('2020-02-01');
  await dialog.getByRole('button', { name: 'Invite and show the link' }).click();
  await expect(dialog.getByText('Ines Varga has this mail address already.').first()).toBeVisible();
  await dialog.getByLabel('Mail address').fill('edda@larkhaven.example');
  await dialog.getByRole('button', { name: 'Invite and show the link' }).click();
  await expect(dialog.getByText('“Seasonal helper” would end before it begins.').first()).toBeVisible();
  await axe(maud, 'invite dialog with a fault');
  await dialog.getByLabel('Last day').fill('');
  await dialog.getByLabel('First day').fill('');
  await dialog.getByRole('button', { name: 'Invite and show the link' }).click();
  const link = await maud.getByRole('textbox', { name: 'One-time link' }).inputValue();
  await loads(maud, () => maud.keyboard.press('Escape'));
  const row = maud.getByRole('row', { name: /Edda Lind/ });
  await expect(row).toContainText('invited');
  await expect(row).toContainText('Harbours');
  await maud.getByRole('link', { name: 'Outbox' }).click();
  // The mail is told of; the secret in it is shown once, and not here.
  await expect(maud.getByRole('list', { name: 'Mails' })).toContainText('to edda@larkhaven.example');
  await expect(maud.getByRole('list', { name: 'Mails' })).not.toContainText('token=');

  const context = await browser.newContext({ locale: 'en-GB' });
  const edda = await context.newPage();
  await edda.goto(link);
  await expect(edda.getByRole('heading', { level: 1 })).toHaveText('Welcome, Edda Lind');
  await isReady(edda);
  await axe(edda, 'choosing a password');
  await edda.getByLabel('Password').fill('nine-waves-and-a-gull');
  await edda.getByRole('button', { name: 'Keep this password and go in' }).click();
  await expect(edda).toHaveURL(/\/room$/);
  await expect(edda.getByRole('navigation', { name: 'Menu' })).toContainText('Sailing notices');
  expect((await edda.request.get(link)).status()).toBe(403);

  await maud.goto('/room/people');
  await maud.getByRole('button', { name: 'Change Edda Lind' }).click();
  await maud.getByRole('dialog').getByRole('button', { name: 'Pause the account' }).click();
  await loads(maud, () => maud.getByRole('alertdialog').getByRole('button', { name: 'Pause the account' }).click());
  await expect(maud.getByRole('row', { name: /Edda Lind/ })).toContainText('paused');
  await edda.goto('/room');
  await expect(edda).toHaveURL(/\/sign-in/);
  await context.close();
  await maud.context().close();
});

test('people come from a file after a dry run, and the keys cannot be thrown away', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/people');
  await maud.getByRole('button', { name: 'Read from a file' }).click();
  const dialog = maud.getByRole('dialog', { name: 'Read people from a file' });
  await dialog
    .getByLabel('A CSV file')
    .setInputFiles({
      name: 'crew.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'name,email,role,branch\nNils Berg,nils@larkhaven.example,Front line,/harbours\nPriya Nand,priya@larkhaven.example,newsroom,\n',
      ),
    });
  await dialog.getByRole('button', { name: 'Show what would happen' }).click();
  await expect(dialog.getByRole('row', { name: /Priya/ })).toContainText('“Second look” and “Newsroom” are kept apart');
  await expect(dialog.getByRole('button', { name: 'Do it for 1 line' })).toBeDisabled();
  await axe(maud, 'dry run');
  await dialog
    .getByLabel('What stands in crew.csv')
    .fill('name,email,role,branch\nNils Berg,nils@larkhaven.example,Front line,/harbours\n');
  await dialog.getByRole('button', { name: 'Show what would happen' }).click();
  await dialog.getByRole('button', { name: 'Do it for 1 line' }).click();
  const done = maud.getByRole('dialog', { name: 'One person is invited' });
  await expect(done.getByRole('list', { name: 'One-time links' })).toContainText(/Nils Berg.*\/set-up\?token=/);
  await axe(maud, 'links of those invited from a file');
  await loads(maud, () => maud.keyboard.press('Escape'));
  await expect(maud.getByRole('row', { name: /Nils Berg/ })).toContainText('Harbours');

  await maud.getByRole('button', { name: 'Change Maud Ellery' }).click();
  const keys = maud.getByRole('dialog', { name: 'Maud Ellery' });
  await keys.getByLabel('Last day').fill('2061-01-01');
  await keys.getByRole('button', { name: 'Keep these roles' }).click();
  await expect(keys.getByRole('alert')).toContainText('Then there would be no keyholder from 2 January 2061 on.');
  await expect(keys.getByRole('button', { name: 'Pause the account' })).toHaveCount(0);
  await maud.context().close();
});

test('the plan goes out as a file and comes in again, after showing what would change', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/files');
  const [download] = await Promise.all([
    maud.waitForEvent('download'),
    maud.getByRole('link', { name: /^In force.*The whole plan/ }).click(),
  ]);
  const plan = readFileSync(await download.path(), 'utf8');
  await maud
    .getByLabel('A plan (JSON) or a matrix of rules (CSV)')
    .setInputFiles({
      name: 'plan.json',
      mimeType: 'application/json',
      buffer: Buffer.from(plan.replace('"name": "Picture keeper"', '"name": "Keeper of pictures"')),
    });
  await maud.getByRole('button', { name: 'Show what would change' }).click();
  await expect(maud.getByText('The role is now called “Keeper of pictures”.')).toBeVisible();
  await axe(maud, 'what a file would change');
  await loads(maud, () => maud.getByRole('button', { name: 'Put it into the prepared plan' }).click());
  await expect(maud).toHaveURL(/\/workshop\/release$/);
  await expect(maud.getByText('The role is now called “Keeper of pictures”.')).toBeVisible();
  await maud.goto('/workshop/files');
  await maud.getByLabel('Or paste it here').fill('role,permission,effect\npirate,page.view,allow\n');
  await maud.getByRole('button', { name: 'Show what would change' }).click();
  await expect(maud.getByRole('alert')).toContainText('line 2 role: there is no role "pirate"');
  await maud.context().close();
});

test('a page is for members only: menus leave it out, the address asks to sign in, and its rights are changed beside the page', async ({
  browser,
  app,
  page,
}) => {
  await page.goto('/about');
  await expect(page.getByRole('link', { name: 'For the crew' })).toHaveCount(0);
  expect((await page.goto('/about/crew'))?.status()).toBe(403);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('This page is for members');
  await loads(page, () => page.getByRole('link', { name: 'Sign in' }).click());
  await page.getByLabel('Mail address').fill('sam@larkhaven.example');
  await page.getByLabel('Password', { exact: true }).fill('until-the-autumn');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page).toHaveURL(/\/about\/crew$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('For the crew');

  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'For the crew');
  const panel = juno.getByRole('region', { name: 'Who may visit it' });
  await expect(panel).toContainText('Members: whoever has an account here');
  await panel.getByRole('button', { name: 'Change who may visit' }).click();
  await juno.getByRole('radio', { name: 'Only some roles' }).check();
  await juno.getByRole('checkbox', { name: 'Front line' }).check();
  await axe(juno, 'who may visit');
  await juno.getByRole('button', { name: 'Change who may visit it' }).click();
  await expect(panel).toContainText('Only Front line');
  // Sam's role builds on the front line; a picture keeper's does not.
  expect((await page.goto('/about/crew'))?.status()).toBe(200);
  const lotte = await signIn(browser, app, 'Lotte');
  expect((await lotte.request.get('/about/crew')).status()).toBe(403);
  await Promise.all([juno.context().close(), lotte.context().close()]);
});

test('a role for the opening times alone sees the rest of a page, and changes nothing else', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/harbour-desk/access');
  await maud.getByRole('button', { name: 'Change the rule: They may change pages, under Harbours' }).click();
  const dialog = maud.getByRole('dialog', { name: 'Change this rule' });
  await dialog.getByText('Only some fields of them').click();
  await dialog.getByRole('group', { name: 'Fields' }).getByRole('button', { name: 'Ticket office hours' }).click();
  await expect(dialog.getByRole('status')).toHaveText(
    'They may change pages, under Harbours, only “Ticket office hours” of them.',
  );
  await axe(maud, 'rule for some fields');
  await dialog.getByRole('button', { name: 'Change the rule' }).click();
  // What needs the rest of the page is told at once.
  await expect(maud.getByRole('complementary').filter({ hasText: 'Blocked since the plan in force' })).toContainText(
    '“Change the words on a harbour page”',
  );
  await loads(maud, () => maud.getByRole('button', { name: 'Step in' }).click());
  await openPage(maud, 'South Quay');
  await expect(
    maud.getByText('Yours to change here: “Ticket office hours”. Everything else is here to be read.'),
  ).toBeVisible();
  await expect(maud.getByLabel('Page title')).not.toBeEditable();
  await expect(maud.getByLabel('Ticket office hours')).toBeEditable();
  await expect(maud.getByRole('toolbar')).toHaveCount(0);
  await maud.getByText('Layout, author, date').click();
  await expect(maud.getByLabel('Layout', { exact: true })).toBeDisabled();
  await axe(maud, 'a page of which one field may be changed');
  await maud.getByRole('button', { name: 'Back to the Workshop' }).click();
  await maud.context().close();
});

// Last, since the demo's password does not fit afterwards.
test('somebody changes their own password, and signs in with the new one', async ({ browser, app }) => {
  const lotte = await signIn(browser, app, 'Lotte');
  await lotte.getByRole('button', { name: /^Lotte/ }).click();
  await lotte.getByRole('menuitem', { name: 'Change your password' }).click();
  const dialog = lotte.getByRole('dialog', { name: 'Change your password' });
  await dialog.getByLabel('Password now').fill('not-quite-it');
  await dialog.getByLabel('New password').fill('pictures in a row');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(dialog.getByText('This is not your password now.')).toBeVisible();
  await dialog.getByLabel('Password now').fill('says-what-it-shows');
  await axe(lotte, 'own password');
  await dialog.getByRole('button', { name: 'Change it' }).click();
  await expect(dialog.getByText('Your password is changed.')).toBeVisible();
  await lotte.keyboard.press('Escape');
  await lotte.getByRole('button', { name: /^Lotte/ }).click();
  await lotte.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(lotte).toHaveURL(/\/sign-in$/);
  await isReady(lotte);
  await lotte.getByLabel('Mail address').fill('lotte@larkhaven.example');
  await lotte.getByLabel('Password', { exact: true }).fill('pictures in a row');
  await lotte.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(lotte).toHaveURL(/\/room$/);
  await lotte.context().close();
});
