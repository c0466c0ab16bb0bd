import type { Page } from '@playwright/test';
import { axe, expect, findPages, isKept, loads, openPage, signIn, test } from './app';

const tree = (page: Page) => page.getByRole('navigation', { name: 'Your part of the site' });

test('after something was done, or left, the focus is on what it was about', async ({ browser, app }) => {
  const lotte = await signIn(browser, app, 'Lotte');
  await lotte.goto('/room/pictures');
  const describe = lotte.getByRole('button', { name: /^Describe/ }).nth(1);
  const name = await describe.textContent();
  await describe.click();
  await lotte.keyboard.press('Tab');
  await lotte.getByRole('button', { name: 'Cancel' }).press('Enter');
  await expect(lotte.getByRole('button', { name: name ?? '' })).toBeFocused();
  await lotte.keyboard.press('Enter');
  await lotte.getByLabel('What does it show?').fill('A bench by the water.');
  await lotte.getByRole('button', { name: 'Keep this description' }).press('Enter');
  await expect(lotte.getByRole('button', { name: name ?? '' })).toBeFocused();
  await lotte.context().close();

  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/pages');
  // Behind its three dots a page is put anywhere among others, not only last.
  await maud.getByRole('button', { name: 'More for Fares' }).click();
  await maud.getByRole('menuitem', { name: 'Move…' }).click();
  const dialog = maud.getByRole('dialog');
  await dialog.getByRole('combobox', { name: 'Below which page?' }).fill('Harbours');
  await maud.getByRole('option', { name: 'Harbours' }).first().click();
  await dialog.getByLabel('Where among its pages?').selectOption('After “South Quay”');
  await expect(dialog).toContainText('It will lie below Harbours');
  await axe(maud, 'moving to a place');
  await dialog.getByRole('button', { name: 'Move it' }).click();
  await expect(tree(maud).getByRole('link', { name: 'Fares', exact: true })).toBeFocused();
  const titles = await tree(maud).getByRole('link').allTextContents();
  expect(titles.indexOf('Skell Island') - titles.indexOf('Fares')).toBeGreaterThan(0);
  expect(titles.indexOf('Fares')).toBeGreaterThan(titles.indexOf('South Quay'));
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(maud.getByText('Fares is back where it was.')).toBeVisible();
  // Deleted: on what stands before its place.
  await maud.getByRole('button', { name: 'More for Contact' }).click();
  await maud.getByRole('menuitem', { name: 'Delete…' }).click();
  await maud.getByRole('dialog').getByRole('button', { name: 'Delete it' }).click();
  await expect(tree(maud).getByRole('link', { name: 'For the crew' })).toBeFocused();
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(tree(maud).getByRole('link', { name: 'Contact' })).toBeVisible();
  await expect(maud.getByText('from its title with Alt and the arrow keys')).toBeVisible();
  await maud.context().close();
});

test('a notice is set right where it stands; one for the whole website is in the list of whoever looks after a part', async ({
  browser,
  app,
  page,
}) => {
  const [ines, oskar] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Oskar')];
  await ines.goto('/room/notices');
  const correct = ines.getByRole('button', { name: /^Correct ?: Fog on the sound/ });
  await correct.click();
  const form = ines.getByRole('form', { name: 'Set this notice right' });
  await expect(form.getByLabel('What should visitors read?')).toHaveValue(/^Fog on the sound/);
  await axe(ines, 'correcting a notice');
  await form.getByRole('button', { name: 'Cancel' }).press('Enter');
  await expect(correct).toBeFocused();
  await ines.keyboard.press('Enter');
  await form.getByLabel('What should visitors read?').fill('Fog on the sound: no boats to Skell Island before noon.');
  await loads(ines, () => form.getByRole('button', { name: 'Set it right' }).click());
  await expect(ines.getByText('It is set right: visitors read the new words.')).toBeVisible();
  await page.goto('/cafe');
  await expect(page.getByRole('complementary', { name: 'Notices' })).toContainText(
    'no boats to Skell Island before noon',
  );
  await oskar.goto('/room/notices');
  const row = oskar
    .getByRole('region', { name: 'Showing now' })
    .getByRole('listitem')
    .filter({ hasText: 'before noon' });
  await expect(row).toContainText('The whole website');
  await expect(
    oskar
      .getByRole('region', { name: 'Showing now' })
      .getByRole('listitem')
      .filter({ hasText: 'christening' })
      .getByRole('button', { name: /^End now/ }),
  ).toBeVisible();
  await oskar.goto('/room');
  await expect(oskar.getByRole('region', { name: 'Notices showing now' })).toContainText('before noon');
  await Promise.all([ines.context().close(), oskar.context().close()]);
});

test('a finding leads to its field, and a link field chooses a page', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Lantern Night');
  await maud.getByLabel('Page title').fill('');
  await expect(maud.getByRole('complementary', { name: 'About this page' })).toContainText('to set right first');
  await maud.getByText('Before it goes out').click();
  await maud.getByRole('button', { name: /^Go there ?: Page title/ }).click();
  await expect(maud.getByLabel('Page title')).toBeFocused();
  await maud.getByLabel('Page title').fill('Lantern Night');
  await maud.getByRole('button', { name: 'Choose a page for Where to book' }).click();
  const dialog = maud.getByRole('dialog', { name: 'Where to book: which page?' });
  await dialog.getByLabel('Find the page').fill('season');
  await axe(maud, 'choosing a page for a link field');
  await dialog.getByRole('button', { name: /^Season tickets/ }).click();
  await expect(maud.getByLabel('Leads to')).toHaveValue('/fares/season-tickets');
  await isKept(maud);
  // Without its accent it is found all the same.
  await maud.goto('/room/pages');
  await findPages(maud, 'slipway cafe');
  await expect(tree(maud).getByRole('link', { name: 'Café', exact: true })).toBeVisible();
  await maud.context().close();
});
