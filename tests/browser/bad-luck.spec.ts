import { restartCluster, stopCluster } from '../../scripts/cluster';
import pg from 'pg';
import type { Page } from '@playwright/test';
import { expect, hearsNothing, isKept, openPage, signIn, test, writing } from './app';

// These tests stop and crash PostgreSQL, so they have one of their own.
test.use({ ownCluster: true });

test('a session that ends while writing: the text is kept and saved after signing in again', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'Skell Island');
  await ines.context().clearCookies();
  await ines.getByText('The light is open on Sundays.').click();
  await ines.keyboard.press('End');
  await ines.keyboard.type(' Bring a torch.');
  const dialog = ines.getByRole('dialog', { name: 'Sign in again' });
  await ines.getByRole('button', { name: 'Sign in again' }).click();
  await dialog.getByLabel('Mail address').fill('ines@larkhaven.example');
  await dialog.getByLabel('Password').fill('wrong');
  await dialog.getByRole('button', { name: 'Sign in and save' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Mail address and password do not fit together.');
  await dialog.getByLabel('Password').fill('late-boat-again');
  await dialog.getByRole('button', { name: 'Sign in and save' }).click();
  await expect(dialog).toHaveCount(0);
  await isKept(ines);
  await ines.reload();
  await expect(ines.getByText('Bring a torch.')).toBeVisible();
  await ines.context().close();
});

test('two people on one page: the second is told and sees both versions, and neither is lost', async ({
  browser,
  app,
}) => {
  const [ines, tomas] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Tomas')];
  await hearsNothing(tomas);
  await openPage(ines, 'Port Ennis');
  await openPage(tomas, 'Port Ennis');
  await ines.getByLabel('Summary').fill('Ines was here.');
  await isKept(ines);
  await tomas.getByLabel('Summary').fill('Tomas was here.');
  const dialog = tomas.getByRole('dialog', { name: 'Somebody else changed this page' });
  await tomas.getByRole('button', { name: 'Choose', exact: true }).click();
  await expect(dialog).toContainText('Ines Varga changed this page while you had it open.');
  await expect(dialog.locator('del').filter({ hasText: 'Ines' })).toBeVisible();
  await expect(dialog.locator('ins').filter({ hasText: 'Tomas' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Keep my version' }).click();
  await isKept(tomas);
  await ines.reload();
  await expect(ines.getByLabel('Summary')).toHaveValue('Tomas was here.');
  await expect(ines.getByText('You go on with a draft that Tomas Reed changed last')).toBeVisible();
  const versions = ines.getByRole('region', { name: 'Earlier versions' });
  await expect(versions).toContainText('Put aside.');
  await versions
    .getByRole('button', { name: /^Compare/ })
    .first()
    .click();
  await expect(ines.getByRole('dialog')).toContainText('Ines was here.');
  await Promise.all([ines.context().close(), tomas.context().close()]);
});

test('no network: what is typed is kept in the browser, sent when it is back, and found after a crash', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'Left luggage');
  await ines.context().setOffline(true);
  await ines.getByLabel('Summary').fill('Twenty lockers now.');
  await expect(ines.getByText('Kept in this browser only')).toBeVisible();
  await ines.context().setOffline(false);
  await isKept(ines);
  await ines.context().setOffline(true);
  await ines.getByLabel('Summary').fill('Thirty lockers now.');
  await expect(ines.getByText('Kept in this browser only')).toBeVisible();
  const again = await ines.context().newPage();
  await ines.close({ runBeforeUnload: false });
  await again.context().setOffline(false);
  await openPage(again, 'Left luggage');
  await expect(again.getByLabel('Summary')).toHaveValue('Twenty lockers now.');
  await again.getByRole('button', { name: 'Bring it back' }).click();
  await expect(again.getByLabel('Summary')).toHaveValue('Thirty lockers now.');
  await isKept(again);
  await again.context().close();
});

test('PostgreSQL restarted under way: a clear sentence, and recovery without restarting the application', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await openPage(ines, 'Getting around');
  const data = app.data;
  restartCluster(data);
  await ines.getByLabel('Summary').fill('On foot or by bike.');
  await isKept(ines);
  stopCluster(data);
  await ines.getByLabel('Summary').fill('On foot, mostly.');
  await expect(
    ines.getByText('The database is starting again. Nothing was lost; try again in a moment.'),
  ).toBeVisible();
  const other = await ines.context().newPage();
  const away = await other.goto('/room');
  expect(away?.status()).toBe(503);
  await expect(other.getByText('The database is starting again.')).toBeVisible();
  restartCluster(data);
  await isKept(ines);
  await other.getByRole('link', { name: 'Try again' }).click();
  await expect(other.getByRole('heading', { level: 1 })).toContainText('Ines');
  await ines.context().close();
});

test('names of 300 characters, emoji and right-to-left text do not break a screen', async ({ browser, app }) => {
  const long = `${'Wilhelmina-Konstantinopolitanska'.repeat(9)} 👩🏽‍🚀`.slice(0, 300);
  const client = new pg.Client({ connectionString: app.databaseUrl });
  await client.connect();
  await client.query('update people set name = $1 where email = $2', [long, 'tomas@larkhaven.example']);
  await client.query('update sites set name = $1', ['שירות המעבורות של לרקהייבן ⛴️']);
  await client.query(
    'insert into notices (site_id, page_id, kind, text, starts_at, posted_by) select site_id, id, $1, $2, now(), (select id from people where email = $3) from items where parent_id is null',
    ['warning', 'x'.repeat(300), 'tomas@larkhaven.example'],
  );
  await client.end();
  const [tomas, maud] = [await signIn(browser, app, 'Tomas'), await signIn(browser, app, 'Maud')];
  for (const [page, path] of [
    [tomas, '/room'],
    [tomas, '/room/notices'],
    [maud, '/workshop'],
    ...['menu', 'toolbar', 'dashboard', 'screens'].map(
      (step) => [maud, `/workshop/roles/harbour-desk/${step}`] as const,
    ),
    [maud, '/workshop/release'],
    [maud, '/room/people'],
    [maud, '/room/activity'],
    [maud, '/'],
  ] as const) {
    for (const width of [1280, 360]) {
      await page.setViewportSize({ width, height: 800 });
      await page.goto(path);
      const wide = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(wide, `${path} at ${width} px scrolls sideways`).toBeLessThanOrEqual(0);
    }
  }
  await Promise.all([tomas.context().close(), maud.context().close()]);
});

test('two people type into one text while the application crashes twice: every letter of both is there', async ({
  browser,
  app,
}) => {
  // WORDS=2400: for about ten minutes.
  const words = Number(process.env['WORDS'] ?? 40);
  test.setTimeout(300_000 + words * 2_000);
  const [ines, tomas] = [await signIn(browser, app, 'Ines'), await signIn(browser, app, 'Tomas')];
  for (const page of [ines, tomas]) await openPage(page, 'Port Ennis');
  const sentence = (who: string) => Array.from({ length: words }, (_, i) => `${who}${i + 1}`).join(' ');
  const write = async (page: Page, who: string, at: string) => {
    await writing(page).click();
    await page.keyboard.press(at);
    await page.keyboard.press(at === 'Control+End' ? 'Enter' : 'End');
    await page.keyboard.type(` ${sentence(who)}`, { delay: 40 });
  };
  const crashes = (async () => {
    for (const share of [0.1, 0.5]) {
      // While both go on typing, right behind something that was kept.
      await expect(writing(ines)).toContainText(`i${Math.ceil(words * share)} `, { timeout: words * 2_000 });
      await ines.waitForResponse(
        (answer) => answer.request().method() === 'PUT' && answer.url().endsWith('/draft') && answer.ok(),
      );
      await app.crash();
    }
  })();
  await Promise.all([write(ines, 'i', 'Control+End'), write(tomas, 't', 'Control+Home'), crashes]);
  for (const page of [ines, tomas]) await isKept(page);
  // What one wrote last reaches the other when they look again.
  for (const page of [ines, tomas]) {
    await page.reload();
    await expect(writing(page)).toContainText(sentence('i'));
    await expect(writing(page)).toContainText(sentence('t'));
    await page.context().close();
  }
});
