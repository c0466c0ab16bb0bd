import { axe, expect, signIn, test } from './app';

test('days and hours are typed freely or chosen, by keyboard too, and said back in the order somebody reads', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/room/notices');
  await ines.getByRole('button', { name: 'Post a notice', exact: true }).click();
  const begins = ines.getByLabel('When does it begin?');
  await begins.fill('31 jan 2027, 18:30');
  await expect(ines.getByText('That is 31 January 2027, 18:30.')).toBeVisible();
  await begins.press('Tab');
  await expect(begins).toHaveValue('31 January 2027, 18:30');
  await begins.fill('when the tide is out');
  await expect(ines.getByText('That is no day and hour yet. Try “tomorrow 9”.')).toBeVisible();
  // What cannot be understood is not taken for something else: it stays, and is told.
  await ines.getByLabel('What should visitors read?').fill('Low water at the slip.');
  await expect(begins).toHaveValue('when the tide is out');
  await ines.getByRole('button', { name: 'Put it on the website' }).click();
  await expect(begins).toHaveAttribute('aria-invalid', 'true');
  await begins.fill('31 jan 2027, 18:30');

  // From the calendar, by keyboard: the hour stays.
  const choose = ines.getByRole('button', { name: 'Choose the day from a calendar' }).first();
  await choose.focus();
  await ines.keyboard.press('Enter');
  const calendar = ines.getByRole('dialog', { name: 'Calendar' });
  await expect(calendar.getByRole('button', { name: /31(st)? January|January 31/ })).toBeFocused();
  await axe(ines, 'calendar');
  await ines.keyboard.press('ArrowRight');
  await ines.keyboard.press('Enter');
  await expect(calendar).toHaveCount(0);
  await expect(begins).toHaveValue('1 February 2027, 18:30');
  await expect(choose).toBeFocused();
  await ines.keyboard.press('Enter');
  await ines.keyboard.press('Escape');
  await expect(choose).toBeFocused();

  // Who reads dates the American way types them so.
  await ines.locator('[data-anchor="frame.person"]').click();
  await ines.getByRole('menuitem', { name: 'Preferences' }).click();
  const isKept = ines.waitForResponse((answer) => answer.url().endsWith('/api/own-preferences'));
  await ines.getByRole('dialog', { name: 'Preferences' }).getByLabel(/dates/i).selectOption('en-US');
  await isKept;
  await ines.goto('/room/notices');
  await ines.getByRole('button', { name: 'Post a notice', exact: true }).click();
  await begins.fill('2/1/2027 18:30');
  await begins.press('Tab');
  await expect(begins).toHaveValue('February 1, 2027, 18:30');
  await ines.context().close();
});
