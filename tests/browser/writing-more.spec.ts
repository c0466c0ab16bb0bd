import type { Page } from '@playwright/test';
import { allTools, axe, expect, goToPage, isKept, loads, openPage, signIn, test, writing } from './app';

const tool = (page: Page, name: string) =>
  page.getByRole('toolbar', { name: 'Toolbar' }).getByRole('button', { name, exact: true });

test('a picture with its description and width, a highlight and an alert that ends; visitors get just that', async ({
  browser,
  app,
  page,
}) => {
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'Jobs');
  const area = writing(juno);
  const dialog = juno.getByRole('dialog');
  await allTools(juno);
  await area.getByText('Write to jobs@larkhaven.example.').click();
  await tool(juno, 'Highlight').click();
  await expect(area.locator('[data-style="highlight"]')).toContainText('Write to jobs@larkhaven.example.');
  await tool(juno, 'Highlight').click();
  await expect(area.locator('[data-style="highlight"]')).toHaveCount(0);
  await tool(juno, 'Alert for now').click();
  await dialog.getByLabel('Last day').fill('2061-05-01');
  await dialog.getByRole('button', { name: 'Make it an alert' }).click();
  await expect(area.getByText('For now, until 1 May 2061')).toBeVisible();
  await area.getByText('Working with us').click();
  await tool(juno, 'Picture').click();
  await dialog.getByRole('button', { name: /South Quay by night/ }).click();
  await dialog.getByLabel('What does it show?').fill('The quay where deckhands meet.');
  await dialog.getByLabel('How wide?').selectOption({ label: 'Half as wide' });
  await dialog.getByRole('button', { name: 'Put it in' }).click();
  await expect(area.getByRole('img', { name: 'The quay where deckhands meet.' })).toBeVisible();
  await isKept(juno);
  await juno.getByRole('button', { name: 'Publish now' }).click();
  await loads(juno, () => juno.getByRole('alertdialog').getByRole('button', { name: 'Publish now' }).click());

  await page.goto('/about/jobs');
  const words = page.getByRole('article').first();
  await expect(words.getByText('For now, until 1 May 2061')).toBeVisible();
  const picture = words.getByRole('img', { name: 'The quay where deckhands meet.' });
  await expect(picture).toBeVisible();
  const [wide, column] = [await picture.boundingBox(), await words.boundingBox()];
  expect(Math.abs((wide?.width ?? 0) - (column?.width ?? 0) / 2)).toBeLessThan(3);
  await page.setViewportSize({ width: 360, height: 700 });
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
  ).toBeLessThanOrEqual(0);
  await juno.context().close();
});

test('words are found and replaced, the text fills the window, its words are counted', async ({ browser, app }) => {
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'Contact');
  const area = writing(juno);
  await area.click();
  await juno.keyboard.press('Control+f');
  const bar = juno.getByRole('form', { name: 'Find and replace' });
  await expect(bar.getByLabel('Find')).toBeFocused();
  await bar.getByLabel('Find').fill('larkhaven');
  await expect(bar).toContainText('in this text.');
  await bar.getByLabel('Put in its place').fill('Larkport');
  await bar.getByRole('button', { name: 'Replace all' }).click();
  await expect(bar).toContainText('replaced.');
  await expect(area).toContainText('Larkport');
  await expect(area).not.toContainText('larkhaven');
  await juno.keyboard.press('Escape');
  await expect(bar).toHaveCount(0);
  await expect(area).toBeFocused();
  await expect(juno.getByText(/^\d+ words, \d+ characters$/)).toBeVisible();
  const narrow = (await area.boundingBox())?.width ?? 0;
  await allTools(juno);
  await tool(juno, 'Full screen').click();
  await expect(tool(juno, 'Full screen')).toHaveAttribute('aria-pressed', 'true');
  expect((await area.boundingBox())?.width).toBeGreaterThan(narrow + 100);
  // What lies behind can be reached neither by the keyboard nor by a screen reader.
  await expect
    .poll(() => juno.getByRole('navigation', { name: 'Menu' }).evaluate((menu) => menu.closest('[inert]') !== null))
    .toBe(true);
  for (let i = 0; i < 3; i += 1) {
    await juno.keyboard.press('Shift+Tab');
    expect(
      await area.evaluate(
        (element) =>
          document.activeElement === document.body || element.closest('.fixed')?.contains(document.activeElement),
      ),
    ).toBe(true);
  }
  await juno.keyboard.press('Escape');
  await expect(tool(juno, 'Full screen')).toHaveAttribute('aria-pressed', 'false');
  await expect(juno.locator('[inert]')).toHaveCount(0);
  await juno.context().close();
});

test('the code view gives back exactly what it was given, and names what has no place', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Lantern Night');
  const area = maud.getByRole('textbox', { name: 'Text', exact: true });
  const group = area.locator('xpath=ancestor::div[.//div[@role="toolbar"]][1]');
  const json = () =>
    area.evaluate((element) =>
      JSON.stringify((element as unknown as { editor: { getJSON(): unknown } }).editor.getJSON()),
    );
  const before = await json();
  await group.getByRole('button', { name: 'Code', exact: true }).click();
  const code = maud.getByLabel('The text as HTML');
  await expect(code).toHaveValue(/data-style="alert" data-until="2026-12-12"/);
  await maud.getByRole('button', { name: 'Use this text' }).click();
  await expect(area).toBeVisible();
  expect(await json()).toBe(before);
  await group.getByRole('button', { name: 'Code', exact: true }).click();
  await code.fill(
    '<h1>Big</h1><p style="color: red">Red <u>under</u></p><iframe src="https://evil.example"></iframe><script>alert(1)</script>',
  );
  await expect(
    maud.getByText(
      'There is no place in a text for colours and fonts, parts of other websites, scripts and underlining',
    ),
  ).toBeVisible();
  await maud.getByRole('button', { name: 'Use this text' }).click();
  await expect(area).toContainText('Red under');
  await expect(area.locator('u, iframe, script, [style*="color"]')).toHaveCount(0);
  // Spaces and tabs within a line come back as they were; ends of lines and what stands between blocks are none.
  await group.getByRole('button', { name: 'Code', exact: true }).click();
  await code.fill(
    '<!-- mine -->\n<p class="x" onclick="y()">Two  spaces,\ta tab, an  edge </p>\n\n<ul>\n  <li><p>One\n    entry</p></li>\n</ul>\n<p><a href="javascript:alert(1)">none</a> <a href="/fares">one</a></p>',
  );
  await expect(
    maud.getByText('There is no place in a text for classes, comments, links that are none and “onclick”'),
  ).toBeVisible();
  await maud.getByRole('button', { name: 'Use this text' }).click();
  const written = await json();
  expect(JSON.parse(written)).toMatchObject({
    content: [
      { type: 'paragraph', content: [{ text: 'Two  spaces,\ta tab, an  edge ' }] },
      { type: 'bulletList', content: [{ content: [{ content: [{ text: 'One entry' }] }] }] },
      { type: 'paragraph' },
    ],
  });
  await group.getByRole('button', { name: 'Code', exact: true }).click();
  await code.press('End');
  await maud.getByRole('button', { name: 'Use this text' }).click();
  expect(await json()).toBe(written);
  // Where the text itself is written on meanwhile, what using the older HTML would take away is said beforehand.
  const says = maud.getByText('The text itself was changed since');
  await group.getByRole('button', { name: 'Code', exact: true }).click();
  await code.fill(`${await code.inputValue()}<p>Out of the code.</p>`);
  await maud
    .getByRole('group', { name: 'How the text is shown' })
    .getByRole('button', { name: 'Writing', exact: true, pressed: false })
    .click();
  await expect(maud.getByText('You changed the text under “Code”')).toBeVisible();
  await expect(says).toHaveCount(0);
  await area.click();
  await maud.keyboard.press('Control+Home');
  await maud.keyboard.type('Meanwhile. ');
  await expect(says).toBeVisible();
  await maud.getByRole('button', { name: 'Go on with it' }).click();
  await expect(says).toBeVisible();
  await maud.getByRole('button', { name: 'Use this text' }).click();
  await expect(area).toContainText('Out of the code.');
  await expect(area).not.toContainText('Meanwhile.');
  await area.click();
  await maud.keyboard.press('Control+z');
  await expect(area).toContainText('Meanwhile.');
  await expect(says).toHaveCount(0);
  await maud.context().close();
});

test('no button is silent: what a tool cannot do where the cursor is, is said', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await openPage(maud, 'Contact');
  const bar = maud.getByRole('toolbar', { name: 'Toolbar' });
  const area = writing(maud);
  await area.click();
  await maud.keyboard.press('Control+End');
  await maud.keyboard.press('Enter');
  await maud.keyboard.press('Control+Alt+2');
  await maud.keyboard.type('A heading');
  const press = async (name: string) => {
    await allTools(maud);
    await bar.getByRole('button', { name, exact: true }).click();
  };
  await press('Highlight');
  await expect(maud.getByText('“Highlight” cannot be used here. A box holds paragraphs and lists.')).toBeVisible();
  await area.click();
  await maud.keyboard.press('Control+End');
  await maud.keyboard.press('Enter');
  await press('Table');
  await expect(area.locator('table').last()).toBeVisible();
  await press('Table');
  await expect(maud.getByText('The cursor is in a table, and none stands in another.')).toBeVisible();
  for (let i = 0; i < 2; i++) await bar.getByRole('button', { name: 'Remove column' }).click();
  await bar.getByRole('button', { name: 'Remove column' }).click();
  await expect(maud.getByText('This is the only column. “Remove table” takes the whole table away.')).toBeVisible();
  await maud.context().close();
});

test('the pieces of a page share one toolbar: that of the piece one writes in', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await goToPage(maud, 'Groups');
  const bar = maud.getByRole('toolbar', { name: 'Toolbar' });
  await expect(bar).toHaveCount(1);
  const texts = maud.getByRole('textbox', { name: /^Text of / });
  for (const at of [1, 0]) {
    await texts.nth(at).click();
    await maud.keyboard.press('Control+End');
    await maud.keyboard.type(' Written here.');
    for (let i = 0; i < 5; i++) await maud.keyboard.press('Shift+ArrowLeft');
    await bar.getByRole('button', { name: 'Bold', exact: true }).click();
    await expect(texts.nth(at).locator('strong').last()).toHaveText('here.');
    await expect(bar).toHaveCount(1);
  }
  await axe(maud, 'pieces with one toolbar');
  await maud.context().close();
});

test('what a web page puts on the clipboard is tidied, and what goes is told', async ({ browser, app }) => {
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'History');
  await writing(juno).click();
  const html =
    '<h1 style="color:#c00">Big</h1><h4>Small</h4><p><font face="x">Plain <u>line</u></font></p><video src="x.mp4"></video><form><input value="x"></form>';
  await writing(juno).evaluate((element, text) => {
    const data = new DataTransfer();
    data.setData('text/html', text);
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, html);
  await expect(
    juno.getByText('Left out of what you pasted: films, forms. Became plain: colours and fonts, underlining.'),
  ).toBeVisible();
  await expect(writing(juno).getByRole('heading', { name: 'Big', level: 2 })).toBeVisible();
  await expect(writing(juno).getByRole('heading', { name: 'Small', level: 3 })).toBeVisible();
  await juno.context().close();
});
