import { expect, isPrepared, signIn, test } from './app';

test('what is typed in the Workshop is set when it is left, wherever one goes; what does not fit stays and is told', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/newsroom/screens');
  const element = maud.getByRole('region', { name: /^On the screen: / });
  const summary = maud.getByRole('button', { name: 'Summary', exact: true });
  const prepared = maud.getByRole('region', { name: 'What is prepared' });
  await summary.click();
  // A box ticked straight after does not lose what was typed; nor does another element.
  await element.getByLabel('Hint with it').fill('One sentence, no full stop.');
  await element.getByRole('checkbox', { name: /Must be filled in/ }).check();
  await expect(element.getByLabel('Hint with it')).toHaveValue('One sentence, no full stop.');
  await expect(element.getByRole('checkbox', { name: /Must be filled in/ })).toBeChecked();
  await element.getByLabel('Something new begins with').fill('News:');
  await maud.getByRole('button', { name: 'Notes', exact: true }).click();
  await expect(maud.getByRole('heading', { name: 'Notes', exact: true })).toBeVisible();
  await expect(prepared).toContainText('News:');
  // Tabbing on keeps one's place; undo takes back what was typed last, in the field too.
  await summary.click();
  await element.getByLabel('Their name for it').fill('In short');
  await element.getByLabel('Their name for it').press('Tab');
  await expect(element.getByLabel('Hint with it')).toBeFocused();
  await isPrepared(maud);
  await maud.getByRole('button', { name: 'Undo' }).click();
  await expect(element.getByLabel('Their name for it')).toHaveValue('');
  await expect(element.getByLabel('Something new begins with')).toHaveValue('News:');

  // Another step, and the way back of the browser.
  await element.getByLabel('Their name for it').fill('At first sight');
  await maud.getByRole('navigation', { name: 'Prepare the room' }).getByRole('link', { name: 'Dashboard' }).click();
  await maud.getByRole('button', { name: 'Add Links' }).click();
  const widget = maud.getByRole('region', { name: /^Widget: / });
  const blank = maud.getByText('Nothing is set yet; they read “No link was chosen yet.”');
  await expect(blank).toBeVisible();
  await widget.getByLabel('Heading').fill('Elsewhere');
  await maud.goBack();
  await expect(maud.getByRole('button', { name: 'At first sight', exact: true })).toBeVisible();
  await maud.goForward();
  await maud.getByRole('button', { name: 'Elsewhere', exact: true }).click();
  // A link without an address is not set; it is told, and there again after another widget.
  await widget.getByRole('button', { name: 'Add a link' }).click();
  await widget.getByLabel('Name of link 1').fill('Tide tables');
  await widget.getByLabel('Address of link 1').fill('no address');
  await maud.getByRole('button', { name: 'Jot something down', exact: true }).click();
  await expect(maud.getByRole('heading', { name: 'Jot something down', exact: true })).toBeVisible();
  await maud.getByRole('button', { name: 'Elsewhere', exact: true }).click();
  await expect(widget.getByRole('alert').filter({ hasText: '“Tide tables” needs an address' })).toBeVisible();
  await expect(widget.getByLabel('Name of link 1')).toHaveValue('Tide tables');
  await widget.getByLabel('Address of link 1').fill('https://tides.example/larkhaven');
  await widget.getByLabel('Heading').focus();
  await expect(widget.getByText('needs an address')).toHaveCount(0);
  await expect(blank).toHaveCount(0);
  // Words in the narrow panel: the toolbar over them finds its width and stays so, or nothing below could be pressed.
  await maud.getByRole('button', { name: 'Add A word from the office' }).click();
  await expect(widget.getByRole('toolbar', { name: 'Toolbar' })).toBeVisible();
  await widget.getByRole('textbox', { name: 'Words', exact: true }).click();
  await maud.keyboard.type('Ring first.');
  await widget.getByRole('button', { name: 'Take off Today' }).click();
  await expect(widget).toHaveCount(0);
  // A heading that makes its card higher: what lies below it moves, and is chosen by one press all the same.
  await maud.getByRole('button', { name: 'My unfinished work', exact: true }).click();
  const own = `What I have begun ${'and not finished '.repeat(4)}`.trim().slice(0, 80);
  await widget.getByLabel('Heading').fill(own);
  await maud.getByRole('button', { name: 'Jot something down', exact: true }).click();
  await expect(maud.getByRole('heading', { name: 'Jot something down', exact: true })).toBeVisible();
  await maud.getByRole('button', { name: own, exact: true }).click();
  await widget.getByLabel('Heading').fill('');
  // A number that does not fit: told, and the one before stays in force.
  await widget.getByLabel('How many entries').fill('99');
  await widget.getByLabel('Heading').focus();
  await expect(widget.getByText('A whole number from 1 to 20')).toBeVisible();
  await widget.getByLabel('How many entries').fill('7');
  await widget.getByLabel('Heading').focus();
  await expect(widget.getByText('A whole number from 1 to 20')).toHaveCount(0);

  // The office's words, left for another place.
  await maud.getByRole('navigation', { name: 'Prepare the room' }).getByRole('link', { name: 'Words' }).click();
  const words = maud.getByRole('textbox', { name: 'Words', exact: true });
  await words.click();
  await maud.keyboard.type('Short sentences carry further.');
  await maud.getByLabel('Where').selectOption('The door “Pages”');
  await expect(maud.getByRole('region', { name: 'What is said' })).toContainText('Short sentences carry further.');
  await expect(words).toHaveText('');
  await words.click();
  await maud.keyboard.type('Ask before you delete.');
  // By a link away, and straight on to the review: it waits for what was typed last, and nobody is asked whether they mean to leave.
  const asked: string[] = [];
  maud.on('dialog', (dialog) => {
    asked.push(dialog.type());
    return dialog.accept();
  });
  await maud.getByRole('link', { name: 'Workshop', exact: true }).click();
  await expect(maud.getByRole('heading', { name: 'Whose room do you prepare?' })).toBeVisible();
  await maud.goto('/workshop/roles/newsroom/words');
  await maud.getByRole('region', { name: 'What is said' }).getByRole('button', { name: 'The door “Pages”' }).click();
  await expect(words).toHaveText('Ask before you delete.');
  await words.fill('Pages of the last year are in the cellar.');
  await maud.getByRole('link', { name: 'Review and go live' }).click();
  await maud.waitForURL(/\/workshop\/release$/);
  expect(asked).toEqual([]);
  const changes = maud.getByRole('region', { name: 'What changes for whom' });
  for (const one of ['At first sight', 'Elsewhere', 'Short sentences', 'the cellar'])
    await expect(changes).toContainText(one);
  await maud.context().close();
});
