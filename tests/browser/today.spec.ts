import type { Page } from '@playwright/test';
import {
  axe,
  expect,
  goLive,
  isKept,
  isPickedUp,
  isPrepared,
  isReady,
  loads,
  openPage,
  signIn,
  test,
  writing,
} from './app';

const column = (page: Page, n: number) => page.getByRole('region', { name: `Column ${n}`, exact: true });
const names = (page: Page, n: number) =>
  column(page, n)
    .locator('[data-card]')
    .evaluateAll((cards) => cards.map((card) => (card as HTMLElement).dataset['card']));
/** A change of one's own Today has reached the server once this says so. */
const said = (page: Page, words: string | RegExp) =>
  expect(page.getByRole('status').filter({ hasText: words })).toHaveCount(1);

async function drag(page: Page, name: string, to: { x: number; y: number }) {
  const box = await page.getByRole('button', { name: `Move ${name}`, exact: true }).boundingBox();
  if (!box) throw new Error(`no handle of ${name}`);
  await page.mouse.move(box.x + 8, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(box.x + 30, box.y + 20, { steps: 3 });
  await page.mouse.move(to.x, to.y, { steps: 8 });
}

test('somebody arranges Today by pointer and keyboard, finds it so elsewhere, and takes it back', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await ines.getByRole('link', { name: 'Arrange Today' }).click();
  await expect(ines.getByRole('heading', { name: 'Arrange Today' })).toBeVisible();
  // What is fixed has a lock and no handle.
  await expect(ines.getByRole('button', { name: 'Move Notices showing now' })).toHaveCount(0);
  await expect(column(ines, 2)).toContainText('Stays where the office put it.');
  const box = await column(ines, 1).boundingBox();
  if (!box) throw new Error('no column');
  await drag(ines, 'Visits this week', { x: box.x + 80, y: box.y + 60 });
  await expect(column(ines, 1)).toContainText(/here, (at the top|below)/);
  await ines.mouse.up();
  await said(ines, 'It stands in column 1');
  expect(await names(ines, 1)).toContain('visits.week');
  // By keyboard alone: below the last of its column.
  await ines.getByRole('button', { name: 'Move My unfinished work' }).focus();
  await ines.keyboard.press('Space');
  await isPickedUp(ines);
  await ines.keyboard.press('ArrowDown');
  await expect(ines.locator('[aria-live]').filter({ hasText: 'is at the place of' })).toHaveCount(1);
  await ines.keyboard.press('Space');
  await said(ines, 'It stands in column 1');
  // Put away, and something offered added: the focus goes where it can be taken back.
  await ines.getByRole('button', { name: 'Put What comes up away' }).click();
  await expect(ines.getByRole('button', { name: 'Bring back What comes up' })).toBeFocused();
  await ines.getByRole('button', { name: 'Add Who to ask' }).click();
  await expect(ines.getByRole('button', { name: 'Put Who to ask away' })).toBeFocused();
  await axe(ines, 'arranging Today');
  const mine = [await names(ines, 1), await names(ines, 2)];
  // Another device of hers.
  const other = await signIn(browser, app, 'Ines');
  await other.goto('/room');
  await expect(other.getByRole('region', { name: 'Who to ask' })).toBeVisible();
  await expect(other.getByRole('region', { name: 'What comes up' })).toHaveCount(0);
  await other.goto('/room?arrange');
  expect([await names(other, 1), await names(other, 2)]).toEqual(mine);
  await other.getByRole('button', { name: 'As prepared' }).click();
  await said(other, 'Today is as it was prepared');
  await expect(column(other, 3)).toContainText('Visits this week');
  await other.getByRole('button', { name: 'Undo' }).click();
  await said(other, 'Your last change is taken back.');
  await expect.poll(async () => [await names(other, 1), await names(other, 2)]).toEqual(mine);
  await other.getByRole('button', { name: 'As prepared' }).click();
  await said(other, 'Today is as it was prepared');
  await Promise.all([ines.context().close(), other.context().close()]);
});

test('by touch a widget is dragged, and on a narrow screen nothing is wider than it', async ({ browser, app }) => {
  const first = await signIn(browser, app, 'Tomas');
  const state = await first.context().storageState();
  await first.context().close();
  const context = await browser.newContext({
    baseURL: app.url,
    storageState: state,
    hasTouch: true,
    viewport: { width: 390, height: 844 },
  });
  const tomas = await context.newPage();
  await tomas.goto('/room?arrange');
  await expect(tomas.getByRole('heading', { name: 'Arrange Today' })).toBeVisible();
  expect(await tomas.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const handles = tomas.getByRole('button', { name: /^Move / });
  const [from, to] = [await handles.nth(0).boundingBox(), await handles.nth(1).boundingBox()];
  if (!from || !to) throw new Error('fewer than two widgets to drag');
  const before = await tomas
    .locator('[data-card]')
    .evaluateAll((cards) => cards.map((c) => c.getAttribute('data-card')));
  const touch = await context.newCDPSession(tomas);
  const at = (type: 'touchStart' | 'touchMove' | 'touchEnd', x = 0, y = 0) =>
    touch.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] });
  await at('touchStart', from.x + 8, from.y + 8);
  for (let i = 1; i <= 8; i++) await at('touchMove', from.x + 8, from.y + 8 + ((to.y + 20 - from.y) * i) / 8);
  await at('touchEnd');
  await said(tomas, 'It stands in column');
  const after = await tomas
    .locator('[data-card]')
    .evaluateAll((cards) => cards.map((c) => c.getAttribute('data-card')));
  expect(after).not.toEqual(before);
  expect([...after].sort()).toEqual([...before].sort());
  await context.close();
});

test('what one arranged outlives a change of the plan, and what could not be kept is told once', async ({
  browser,
  app,
}) => {
  const juno = await signIn(browser, app, 'Juno');
  await juno.goto('/room?arrange');
  await juno.getByRole('button', { name: 'Put My unfinished work away' }).click();
  await said(juno, 'is put away');
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/newsroom/dashboard');
  await maud.getByRole('button', { name: 'My unfinished work', exact: true }).click();
  await expect(maud.getByRole('heading', { name: 'My unfinished work', exact: true })).toBeFocused();
  await maud.getByRole('radio', { name: /It stays where it is/ }).check();
  await isPrepared(maud);
  // The same widget a second time is not there while it says the same; with a heading of its own it is.
  const panel = maud.getByRole('region', { name: /^Widget: / });
  await maud.getByRole('button', { name: 'Add My unfinished work' }).click();
  await expect(panel.getByText('Another one shows just the same')).toBeVisible();
  await expect(maud.getByText('The same as another one, so it is not shown.')).toHaveCount(1);
  await panel.getByLabel('Heading').fill('Mine');
  await panel.getByLabel('Heading').press('Enter');
  await expect(maud.getByText('The same as another one, so it is not shown.')).toHaveCount(0);
  // Looked at as hers in the Workshop while it is only prepared: she has not seen it, and misses nothing later.
  await isPrepared(maud);
  const hers = await maud.locator('option', { hasText: 'Juno Park' }).first().getAttribute('value');
  const looked = await maud.request.get(`/workshop/today/newsroom?person=${hers}`);
  expect(await looked.text()).toContain('Mine');
  await panel.getByRole('button', { name: 'Take off Today' }).click();
  await maud.getByRole('button', { name: 'Add Pages changed lately' }).click();
  await panel.getByLabel('Heading').fill('News of late');
  await panel.getByLabel('How many entries').fill('2');
  await panel.getByLabel('How many entries').press('Tab');
  await isPrepared(maud);
  // What they see without scrolling is measured on the real thing.
  const measured = maud.getByRole('region', { name: 'The first screen' });
  await measured.scrollIntoViewIfNeeded();
  await expect(measured.getByText('Seen at once:')).toHaveCount(2);
  // It comes so that nothing in it can be pressed, before any script of ours has seen it.
  expect(await (await maud.request.get('/workshop/today/newsroom')).text()).toContain('<body inert');
  await expect(
    measured.locator('iframe').first().contentFrame().getByRole('region', { name: 'News of late' }),
  ).toHaveCount(1);
  await axe(maud, 'the Dashboard step with a widget chosen');
  await maud.goto('/workshop/release');
  await expect(maud.getByText('“My unfinished work” on Today stays where it is').first()).toBeVisible();
  await maud.getByRole('button', { name: 'Go live' }).click();
  await maud.getByRole('button', { name: 'Go live now' }).click();
  await expect(maud.getByText('It is in force')).toBeVisible();
  await juno.goto('/room');
  const changed = juno.getByRole('region', { name: 'Changed on Today' });
  await expect(changed).toContainText('“My unfinished work” is back: from now on it stays on everybody’s Today.');
  await expect(changed).not.toContainText('no longer');
  await expect(juno.getByRole('region', { name: 'News of late' }).getByRole('listitem')).toHaveCount(2);
  await changed.getByRole('button', { name: 'I have read this' }).click();
  await expect(changed).toHaveCount(0);
  await juno.reload();
  await expect(juno.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(changed).toHaveCount(0);
  // What she never touched is missed, too, when it goes.
  await goLive(maud, 'newsroom', {
    do: 'remove-widget',
    role: 'newsroom',
    entry: 'visits.week',
    widget: 'visits.week',
  });
  await juno.reload();
  await expect(changed).toContainText('“Visits this week” is no longer prepared for you.');
  await axe(juno, 'Today that is not as it was');
  await changed.getByRole('button', { name: 'I have read this' }).click();
  await expect(changed).toHaveCount(0);
  await juno.reload();
  await expect(juno.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(changed).toHaveCount(0);
  await Promise.all([juno.context().close(), maud.context().close()]);
});

test('widgets do in place what can be done in place', async ({ browser, app }) => {
  const juno = await signIn(browser, app, 'Juno');
  const jot = juno.getByRole('region', { name: 'Jot something down' });
  await jot.getByRole('textbox').fill('A seal on the slipway');
  await jot.getByRole('button', { name: 'Keep it' }).click();
  await jot.getByRole('link', { name: 'A seal on the slipway' }).click();
  await expect(juno).toHaveURL(/\/room\/pages\/\d+$/);
  await expect(juno.getByRole('textbox', { name: /title/i }).first()).toHaveValue('A seal on the slipway');
  // What nobody finds on the website is counted; who looked is not known.
  const visitor = await browser.newPage({ baseURL: app.url });
  await visitor.goto('/search?q=sealions');
  await visitor.close();
  const maud = await signIn(browser, app, 'Maud');
  // Whoever works here is no visitor.
  await maud.goto('/search?q=seacows');
  await maud.goto('/room');
  await expect(maud.getByRole('region', { name: 'Looked for and not found' })).toContainText('“sealions”');
  await expect(maud.getByRole('region', { name: 'Looked for and not found' })).not.toContainText('seacows');
  const notices = maud.getByRole('region', { name: 'Notices showing now' });
  await expect(notices.getByRole('listitem')).toHaveCount(2);
  await notices.getByRole('button', { name: /End now.*The café/ }).click();
  await maud.getByRole('alertdialog').getByRole('button', { name: 'End it' }).click();
  await expect(notices.getByText('Ended: visitors no longer see it.')).toBeFocused();
  await maud.reload();
  await isReady(maud);
  await expect(notices.getByRole('listitem')).toHaveCount(1);
  // Folded to its heading, and so the next time.
  const kept = maud.waitForResponse((answer) => answer.url().endsWith('/api/own-today') && answer.ok());
  await notices.getByRole('button', { name: 'Notices showing now' }).click();
  await expect(notices.getByRole('listitem')).toHaveCount(0);
  await kept;
  await maud.reload();
  await expect(notices.getByRole('button', { name: 'Notices showing now' })).toBeVisible();
  await expect(notices.getByRole('listitem')).toHaveCount(0);
  const visits = maud.getByRole('region', { name: 'Visits this week' });
  await visits.getByText('As a table').click();
  await expect(visits.getByRole('table').getByRole('row')).toHaveCount(8);
  await Promise.all([juno.context().close(), maud.context().close()]);
});

test('a draft is read and goes out from Today, and so does what waits for a second look', async ({ browser, app }) => {
  const juno = await signIn(browser, app, 'Juno');
  const mine = juno.getByRole('region', { name: 'My unfinished work' });
  const reading = juno.getByRole('dialog');
  // What cannot go out says why, and leads to where it is set right.
  await mine.getByRole('button', { name: /^Read and publish.*Electrician/ }).click();
  await expect(reading).toContainText('Must be set right. Apply until is empty.');
  await expect(reading.getByRole('button', { name: 'Publish now' })).toHaveCount(0);
  await axe(juno, 'a draft read on Today that cannot go out');
  await loads(juno, () => reading.getByRole('link', { name: 'Set it right' }).click());
  await expect(juno).toHaveURL(/\/room\/vacancies\/\d+$/);
  /** Writes at the end of a page, and leaves it as a draft. */
  const writes = async (page: Page, words: string) => {
    await openPage(page, 'Contact');
    await writing(page).click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type(words);
    await isKept(page);
  };
  await writes(juno, ' Ring the bell twice.');
  await juno.goto('/room');
  const read = () => mine.getByRole('button', { name: /^Read and publish.*Contact/ }).click();
  await read();
  await expect(reading.locator('ins')).toHaveText(/Ring the bell twice\.$/);
  await axe(juno, 'a draft read on Today');
  // Somebody wrote in it meanwhile: nothing goes out that was not read.
  const maud = await signIn(browser, app, 'Maud');
  await writes(maud, ' Or knock.');
  await reading.getByRole('button', { name: 'Publish now' }).click();
  await expect(reading.getByRole('alert').filter({ hasText: 'Maud Ellery' })).toBeVisible();
  await reading.getByRole('button', { name: 'Close' }).click();
  await read();
  await expect(reading.locator('ins')).toHaveText(/Ring the bell twice\. Or knock\.$/);
  await reading.getByLabel('What did you change?').fill('The bell.');
  await loads(juno, () => reading.getByRole('button', { name: 'Publish now' }).click());
  await expect(juno.getByRole('status').filter({ hasText: 'Visitors see it now.' })).toBeVisible();
  await expect(mine).not.toContainText('Contact');
  await maud.goto('/about/contact');
  await expect(maud.getByRole('main')).toContainText('Ring the bell twice. Or knock.');
  const priya = await signIn(browser, app, 'Priya');
  const waiting = priya.getByRole('region', { name: 'Waiting for a second look' });
  await waiting.getByRole('button', { name: /^Read and decide.*Getting around on Skell/ }).click();
  const look = priya.getByRole('dialog');
  await expect(look.locator('ins')).toHaveText('The post cart now also meets the 15:10.');
  await axe(priya, 'a second look on Today');
  await look.getByRole('button', { name: 'Send it back' }).click();
  await expect(look).toContainText('Say what should be different, so that Tomas need not guess.');
  await loads(priya, () => look.getByRole('button', { name: 'Publish it' }).click());
  await expect(priya.getByRole('status').filter({ hasText: 'the writer is told' })).toBeVisible();
  await expect(waiting).toContainText('Nobody is waiting for a second look.');
  await Promise.all([juno.context().close(), maud.context().close(), priya.context().close()]);
});
