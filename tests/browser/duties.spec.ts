import { axe, expect, isReady, signIn, test } from './app';

test('a duty is given, stands on Today of whose turn it is, is ticked off there and handed over', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room');
  await maud.getByRole('navigation', { name: 'Menu' }).getByRole('link', { name: 'Duties' }).click();
  await isReady(maud);
  await axe(maud, 'Duties');
  const open = maud.getByRole('region', { name: 'To be looked after' });
  await maud.getByRole('button', { name: 'New duty' }).click();
  const form = maud.getByRole('form', { name: 'New duty' });
  // Nothing said yet: told beside the field, and nothing is sent.
  await form.getByRole('button', { name: 'Give it' }).click();
  await expect(form.getByText('Say what has to be done.')).toBeVisible();
  await form.getByLabel('What has to be done?').fill(`${'Check the lifebuoy notices at every pier '.repeat(4)}at last`);
  await form.getByLabel('Whose turn is it?').selectOption({ label: 'Oskar Finch' });
  await form.getByLabel('Does it come again?').selectOption('month');
  await form.getByRole('button', { name: 'Give it' }).click();
  await expect(form.getByText('What comes again needs a day it is due first.')).toBeVisible();
  await form.getByLabel('Until when?').fill('2030-01-31');
  await axe(maud, 'the form of a duty');
  await form.getByRole('button', { name: 'Give it' }).click();
  await expect(maud.getByRole('status').filter({ hasText: 'It is Oskar Finch’s turn.' })).toBeVisible();
  await expect(maud.getByRole('button', { name: 'New duty' })).toBeFocused();
  const line = open.getByRole('listitem').filter({ hasText: 'lifebuoy' });
  await expect(line).toContainText('31 January 2030');
  await expect(line).toContainText('every month');

  // On Today, on a phone, by keys: ticked off, taken back, ticked off again.
  const oskar = await signIn(browser, app, 'Oskar');
  await oskar.setViewportSize({ width: 360, height: 740 });
  await oskar.goto('/room');
  await isReady(oskar);
  const own = oskar.getByRole('region', { name: 'Your turn' });
  const mine = own.getByRole('listitem').filter({ hasText: 'lifebuoy' });
  await mine.getByRole('button', { name: 'Tick off' }).press('Enter');
  await expect(mine).toContainText('Ticked off; due again on 28 February 2030.');
  await mine.getByRole('button', { name: 'Take it back' }).press('Enter');
  await expect(mine).toContainText('Until 31 January 2030');
  await mine.getByRole('button', { name: 'Tick off' }).press('Enter');
  await expect(mine).toContainText('due again on 28 February 2030');
  expect(await oskar.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await axe(oskar, 'Today with a duty ticked off');
  // Of what is not theirs to see as a whole there is no door.
  await oskar.goto('/room/duties');
  await expect(oskar.getByRole('heading', { level: 1 })).toHaveText('Not in your room');

  // The keyholder's list is from before: told, and nothing is overwritten.
  await line.getByRole('button', { name: 'Change' }).click();
  const change = maud.getByRole('form', { name: 'Change this duty' });
  await change.getByLabel('Whose turn is it?').selectOption({ label: 'Juno Park' });
  await change.getByRole('button', { name: 'Hand it over' }).click();
  await expect(change.getByText('Somebody changed this duty since you opened it')).toBeVisible();
  await maud.reload();
  await isReady(maud);
  await expect(line).toContainText('last ticked off by Oskar Finch');
  await line.getByRole('button', { name: 'Change' }).click();
  await change.getByLabel('Whose turn is it?').selectOption({ label: 'Juno Park' });
  await change.getByRole('button', { name: 'Hand it over' }).click();
  await expect(maud.getByRole('status').filter({ hasText: 'It is Juno Park’s turn now.' })).toBeVisible();
  await maud.getByLabel('Whose turn').first().selectOption({ label: 'Juno Park' });
  await expect(open.getByRole('listitem').filter({ hasText: 'Maud Ellery (you)' })).toHaveCount(0);
  await expect(line).toContainText('Juno Park');

  // Taken away, after a question; the activity knows it all.
  await line.getByRole('button', { name: 'Change' }).click();
  await change.getByRole('button', { name: 'Take it away' }).click();
  await maud.getByRole('alertdialog').getByRole('button', { name: 'Take it away' }).click();
  await expect(maud.getByRole('status').filter({ hasText: 'It is taken away.' })).toBeVisible();
  await expect(line).toHaveCount(0);
  await maud.goto('/room/activity');
  const told = maud.getByRole('main');
  for (const words of [
    'gave a duty',
    'ticked off a duty',
    'took a tick back',
    'handed over a duty',
    'took a duty away',
  ])
    await expect(told.getByRole('listitem').filter({ hasText: words }).first()).toBeVisible();
});

test('a duty stands on Today without a widget for it, too', async ({ browser, app }) => {
  const priya = await signIn(browser, app, 'Priya');
  const turn = priya.getByRole('region', { name: 'Your turn' });
  await expect(turn.getByRole('listitem')).toHaveText(/Read the fares against the printed list/);
  await turn.getByRole('button', { name: 'Give it back' }).click();
  await expect(turn.getByText('Given back.')).toBeVisible();
  await priya.reload();
  await isReady(priya);
  await expect(turn).toHaveCount(0);
});
