import { axe, expect, goLive, goToPage, isKept, isReady, openPage, signIn, test, writing } from './app';
import { inventory } from '../inventory';

const paste = (area: ReturnType<typeof writing>, html: string) =>
  area.evaluate((element, text) => {
    const data = new DataTransfer();
    data.setData('text/html', text);
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  }, html);

/** What the keys, typing and pasting would make of each tool, and how it is told that it was made. */
const WAYS: Record<string, { keys?: string; typed?: string; html?: string; made: string }> = {
  bold: { keys: 'Control+b', typed: '**x** ', html: '<p><b>x</b></p>', made: 'strong' },
  italic: { keys: 'Control+i', typed: '_x_ ', html: '<p><i>x</i></p>', made: 'em' },
  'link.page': { keys: 'Control+k', html: '<p><a href="/fares">x</a></p>', made: 'a' },
  'link.file': { html: '<p><a href="/media/abc">x</a></p>', made: 'a' },
  'link.web': { html: '<p><a href="https://x.example">x</a></p>', made: 'a' },
  'link.mail': { html: '<p><a href="mailto:a@x.example">x</a></p>', made: 'a' },
  'link.phone': { html: '<p><a href="tel:+1">x</a></p>', made: 'a' },
  'heading.2': { keys: 'Control+Alt+2', typed: '## x', html: '<h2>x</h2>', made: 'h2' },
  'heading.3': { keys: 'Control+Alt+3', typed: '### x', html: '<h3>x</h3>', made: 'h3' },
  bullets: { keys: 'Control+Shift+8', typed: '- x', html: '<ul><li>x</li></ul>', made: 'ul' },
  numbers: { keys: 'Control+Shift+7', typed: '1. x', html: '<ol><li>x</li></ol>', made: 'ol' },
  quote: { keys: 'Control+Shift+b', typed: '> x', html: '<blockquote><p>x</p></blockquote>', made: 'blockquote' },
  table: { html: '<table><tr><td>x</td><td>y</td></tr><tr><td>x</td><td>y</td></tr></table>', made: 'table' },
  'table.rows': { html: '<table><tr><td>x</td><td>y</td></tr><tr><td>x</td><td>y</td></tr></table>', made: 'table' },
  picture: { html: '<img data-picture="1" alt="x">', made: 'img[data-picture]' },
  highlight: { html: '<div data-style="highlight"><p>x</p></div>', made: '[data-style="highlight"]' },
  alert: { html: '<div data-style="alert" data-until="2030-01-01"><p>x</p></div>', made: '[data-style="alert"]' },
};

test('every tool that is taken away is gone from toolbar, keys, typing, paste and code view, and refused by the server', async ({
  browser,
  app,
}) => {
  const makers = [...inventory.tools.values()].filter((tool) => tool.makes.length > 0);
  // A tool without a line here is one that nobody tries.
  expect(Object.keys(WAYS).sort()).toEqual(makers.map(({ id }) => id).sort());
  const maud = await signIn(browser, app, 'Maud');
  await goLive(maud, 'newsroom', {
    do: 'put-tool-rule',
    role: 'newsroom',
    rule: { id: 'nothing', when: { roles: ['newsroom'], layouts: ['plain'] }, then: { cap: [] } },
  });
  // With every tool each of these comes in: without, it is the tool that is missing.
  await openPage(maud, 'Season tickets');
  for (const [tool, { html = '', made }] of Object.entries(WAYS)) {
    await writing(maud).click();
    await maud.keyboard.press('Control+a');
    await maud.keyboard.press('Delete');
    // Out of the list or the quote that held the last one.
    await maud.keyboard.press('Backspace');
    await expect(writing(maud).locator(made), tool).toHaveCount(0);
    await paste(writing(maud), html);
    await expect(writing(maud).locator(made), tool).not.toHaveCount(0);
  }
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'Contact');
  const area = writing(juno);
  await expect(juno.getByRole('toolbar', { name: 'Toolbar' }).getByRole('button')).toHaveCount(0);
  for (const name of ['Code', 'Preview']) await expect(juno.getByRole('button', { name, exact: true })).toHaveCount(0);
  const count = (made: string) => area.locator(made).count();
  for (const [tool, { keys, typed, html, made }] of Object.entries(WAYS)) {
    const before = await count(made);
    await area.click();
    await juno.keyboard.press('Control+End');
    await juno.keyboard.press('Enter');
    await juno.keyboard.type('word');
    await juno.keyboard.press('Shift+Home');
    if (keys) await juno.keyboard.press(keys);
    await expect(juno.getByRole('dialog'), `${tool} by keys`).toHaveCount(0);
    await juno.keyboard.press('Control+End');
    await juno.keyboard.press('Enter');
    if (typed) await juno.keyboard.type(typed);
    await juno.keyboard.press('Enter');
    if (html) await paste(area, html);
    expect(await count(made), tool).toBe(before);
  }
  // Find and full screen have keys and buttons of their own.
  await juno.keyboard.press('Control+f');
  await expect(juno.getByRole('textbox', { name: 'Find' })).toHaveCount(0);
  await isKept(juno);
  // By hand, past the screen.
  const refused = await juno.evaluate(async () => {
    const id = location.pathname.split('/').at(-1);
    const put = async (blocks: object[], version: number): Promise<{ status: number; version: number }> => {
      const answer = await fetch(`/api/items/${id}/draft`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json', 'idempotency-key': crypto.randomUUID() },
        body: JSON.stringify({ content: { body: { type: 'doc', content: blocks } }, version }),
      });
      const body = (await answer.json()) as { theirs?: { draft: { version: number } } };
      return { status: answer.status, version: body.theirs?.draft.version ?? 0 };
    };
    // Refused, with the version there is.
    const { version } = await put([], 0);
    return Promise.all(
      ['bold', 'italic'].map(
        async (type) =>
          (await put([{ type: 'paragraph', content: [{ type: 'text', text: 'By hand', marks: [{ type }] }] }], version))
            .status,
      ),
    );
  });
  expect(refused).toEqual([403, 403]);
  await Promise.all([maud.context().close(), juno.context().close()]);
});

test('what comes from outside comes as plain words where pasting with form was taken away; cut and pasted within it keeps its form', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await goLive(maud, 'newsroom', { do: 'set-tool', role: 'newsroom', tool: 'paste.form', on: false });
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'History');
  const area = writing(juno);
  await area.click();
  await juno.keyboard.press('Control+End');
  await juno.keyboard.press('Enter');
  await paste(area, '<h2>A heading</h2><p>and <b>bold</b> words</p>');
  await expect(juno.getByText('Pasted as plain words: your toolbar does not paste with form.')).toBeVisible();
  await expect(area.getByRole('heading', { name: 'A heading' })).toHaveCount(0);
  await expect(area.locator('strong').filter({ hasText: 'bold' })).toHaveCount(0);
  await paste(area, '<h2 data-pm-slice="0 0 []">From here</h2>');
  await expect(area.getByRole('heading', { name: 'From here' })).toHaveCount(1);
  await isKept(juno);
  await Promise.all([maud.context().close(), juno.context().close()]);
});

test('pictures that may not be chosen here are neither in the list nor come by pasting', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');
  await goLive(
    maud,
    'newsroom',
    { do: 'set-tool', role: 'newsroom', tool: 'picture.all', on: false },
    { do: 'set-tool', role: 'newsroom', tool: 'picture.own', on: true },
  );
  const juno = await signIn(browser, app, 'Juno');
  await openPage(juno, 'History');
  // The banner's list: the page's own picture alone.
  await juno.getByRole('button', { name: 'Choose another' }).first().click();
  await expect(juno.getByRole('dialog').getByRole('listitem')).toHaveCount(1);
  await expect(juno.getByRole('dialog')).toContainText('The first steamer');
  await juno.keyboard.press('Escape');
  const area = writing(juno);
  await area.click();
  await juno.keyboard.press('Control+End');
  await juno.keyboard.press('Enter');
  const pictures = await area.locator('img[data-picture]').count();
  await paste(area, '<p data-pm-slice="0 0 []">With a boat</p><img data-picture="1" alt="x">');
  await expect(juno.getByText('A picture was left out: here it cannot be chosen.')).toBeVisible();
  await expect(area).toContainText('With a boat');
  expect(await area.locator('img[data-picture]').count()).toBe(pictures);
  await isKept(juno);
  await Promise.all([maud.context().close(), juno.context().close()]);
});

test('a piece that has to stay says why; a change is asked for, answered and settled', async ({ browser, app }) => {
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'South Quay');
  await expect(ines.getByText('This table is kept as it is.')).toBeVisible();
  await ines.getByRole('button', { name: 'Ask for a change' }).click();
  const dialog = ines.getByRole('dialog', { name: 'Ask for a change' });
  await dialog.getByRole('button', { name: 'Ask for it' }).click();
  await expect(dialog).toContainText('Say what should change.');
  await dialog.getByRole('textbox', { name: 'What should change?' }).fill('The 08:10 sails at 08:20 now.');
  await axe(ines, 'asking for a change');
  await dialog.getByRole('button', { name: 'Ask for it' }).click();
  await expect(ines.getByText('Asked. It stands on Today for Maud Ellery')).toBeVisible();
  await axe(ines, 'asked');

  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room');
  const asked = maud.getByRole('region', { name: 'Asked of you' });
  await expect(asked).toContainText('The 08:10 sails at 08:20 now.');
  // Answered where it is read, settled and opened again.
  await isReady(maud);
  await asked.getByRole('button', { name: /^Answer/ }).click();
  await asked.getByRole('button', { name: 'Send the answer' }).click();
  await expect(asked.getByText('Write something first.')).toBeVisible();
  await asked.getByRole('textbox', { name: 'Your answer' }).fill('I look at it today.');
  await axe(maud, 'Today with a wish');
  await asked.getByRole('button', { name: 'Send the answer' }).click();
  await expect(asked).toContainText('You: “I look at it today.”');
  await asked.getByRole('button', { name: /^Settled/ }).click();
  await asked.getByRole('button', { name: /^Open it again/ }).click();
  await expect(asked.getByRole('status')).toHaveText('Open again.');
  await asked.getByRole('link', { name: 'South Quay' }).click();
  const note = maud.getByRole('listitem').filter({ hasText: 'The 08:10 sails at 08:20 now.' });
  await note.getByRole('button', { name: /^Answer/ }).click();
  await note.getByRole('textbox', { name: 'Your answer' }).fill('Done tomorrow.');
  await note.getByRole('button', { name: 'Send the answer' }).click();
  await expect(note.first()).toContainText('Done tomorrow.');
  await axe(maud, 'a wish among the notes');
  await ines.goto('/room');
  await expect(ines.getByRole('region', { name: 'Asked of you' })).toContainText('Maud Ellery: “Done tomorrow.”');
  await maud.getByRole('button', { name: 'Settled' }).first().click();
  // It is said, and the panel stays open under the hand that settled the last.
  await expect(maud.getByText('Nothing open')).toBeAttached();
  await expect(maud.locator('[data-anchor="pages.edit.notes"]')).toHaveAttribute('open', '');
  await ines.goto('/room');
  await expect(ines.getByRole('region', { name: 'Asked of you' })).toHaveCount(0);
  await goToPage(ines, 'South Quay');
  await expect(ines.getByText('This table is kept as it is.')).toBeVisible();
  await Promise.all([maud.context().close(), ines.context().close()]);
});
