import { axe, expect, isKept, isReady, loads, signIn, test, type App } from './app';

const row = (page: Awaited<ReturnType<typeof signIn>>, job: string) => page.getByRole('row').filter({ hasText: job });

test('a job is written, read by somebody else, applied for by visitors, and taken down', async ({ browser, app }) => {
  const oskar = await signIn(browser, app, 'Oskar');
  await oskar.goto('/room/vacancies');
  await isReady(oskar);
  // Only what lies on his part of the website, and nothing he may not do.
  await expect(oskar.getByRole('row')).toHaveCount(2);
  await expect(oskar.getByRole('button', { name: /^(Delete|Take down)/ })).toHaveCount(0);
  await oskar.getByRole('button', { name: 'New vacancy' }).click();
  await expect(oskar.getByLabel('Which job?')).toBeFocused();
  await oskar.getByRole('button', { name: 'Begin it' }).click();
  await expect(oskar.getByText('Say which job it is.')).toBeVisible();
  await axe(oskar, 'new vacancy with a fault');
  await oskar.getByLabel('Which job?').fill('Baker, from four in the morning');
  await oskar.getByRole('combobox', { name: 'On which page?' }).click();
  await oskar.getByRole('option', { name: /Menu/ }).click();
  await loads(oskar, () => oskar.getByRole('button', { name: 'Begin it' }).click());
  await expect(oskar.getByText('Visitors do not see this vacancy yet.')).toBeVisible();
  // Nothing of a page is here: no address, no navigation, no preview.
  for (const name of ['Address', 'Navigation', 'Search result', 'Preview'])
    await expect(oskar.getByText(name, { exact: true })).toHaveCount(0);
  await oskar.getByLabel('Apply until').fill('2090-05-31');
  await oskar.getByLabel('How much work').selectOption('part');
  await oskar.getByLabel('The work').click();
  await oskar.keyboard.type('Bread for everybody on the first boat.');
  await isKept(oskar);
  await axe(oskar, 'a vacancy being written');
  await loads(oskar, () => oskar.getByRole('button', { name: /^Send/ }).click());
  await expect(oskar.getByText('It is sent.')).toBeVisible();
  expect(await (await oskar.request.get('/cafe/menu')).text()).not.toContain('Baker');

  const priya = await signIn(browser, app, 'Priya');
  await priya.goto('/room/review');
  await loads(priya, () => priya.getByRole('link', { name: 'Baker, from four in the morning' }).click());
  await expect(priya.getByText('Bread for everybody on the first boat.')).toBeVisible();
  await loads(priya, () => priya.getByRole('button', { name: 'Publish it', exact: true }).click());
  await priya.goto('/cafe/menu');
  const job = priya.getByRole('article').filter({ hasText: 'Baker, from four in the morning' }).last();
  await expect(job).toContainText('Part time, apply until 31 May 2090');
  await expect(job.getByRole('heading', { level: 3 })).toHaveText('Baker, from four in the morning');

  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/vacancies');
  await isReady(maud);
  const press = async (name: string, yes: string) => {
    await row(maud, 'Baker').getByRole('button', { name }).click();
    await loads(maud, () => maud.getByRole('alertdialog').getByRole('button', { name: yes, exact: true }).click());
  };
  await press('Take down: Baker, from four in the morning', 'Take down');
  await expect(maud.getByText('“Baker, from four in the morning” is taken down.')).toBeVisible();
  await expect(row(maud, 'Baker')).toContainText('Taken down');
  expect(await (await maud.request.get('/cafe/menu')).text()).not.toContain('Baker');
  await press('Put back', 'Put back');
  await press('Delete', 'Delete');
  await expect(maud.getByRole('heading', { name: 'Deleted' })).toBeVisible();
  await press('Bring back', 'Bring back');
  await expect(row(maud, 'Baker')).toContainText('On the website');
  for (const page of [oskar, priya, maud]) await page.context().close();
});

test('a vacancy of somebody else can be read and not changed; on a narrow screen the list can be reached', async ({
  browser,
  app,
}: {
  browser: Parameters<typeof signIn>[0];
  app: App;
}) => {
  const juno = await signIn(browser, app, 'Juno');
  await juno.setViewportSize({ width: 360, height: 800 });
  await juno.goto('/room/vacancies');
  await isReady(juno);
  expect(await juno.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await axe(juno, 'vacancies, narrow');
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/room/vacancies');
  await isReady(maud);
  await maud.getByRole('button', { name: 'New vacancy' }).click();
  await maud.getByLabel('Which job?').fill('Night porter');
  await maud.getByRole('combobox', { name: 'On which page?' }).click();
  await maud.getByRole('option', { name: /Café/ }).first().click();
  await loads(maud, () => maud.getByRole('button', { name: 'Begin it' }).click());
  const { pathname } = new URL(maud.url());
  const oskar = await signIn(browser, app, 'Oskar');
  await oskar.goto(pathname);
  await expect(oskar.getByText('You can read this vacancy but not change it.')).toBeVisible();
  await expect(oskar.getByRole('button', { name: /^(Send|Publish)/ })).toHaveCount(0);
  // An address made by hand: a page is no vacancy.
  expect((await juno.request.get('/room/vacancies/1')).status()).toBe(404);
  for (const page of [juno, maud, oskar]) await page.context().close();
});
