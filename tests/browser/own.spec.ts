import { axe, expect, goLive, goToPage, isReady, signIn, test } from './app';

test('favourites and a narrow menu are one’s own; a favourite that is no longer allowed says so once and goes', async ({
  browser,
  app,
}) => {
  const juno = await signIn(browser, app, 'Juno');
  const menu = juno.getByRole('navigation', { name: 'Menu' });
  await goToPage(juno, 'History');
  await menu.getByRole('button', { name: 'Keep in my menu' }).click();
  const mine = menu.getByRole('group', { name: 'Shortcuts and favourites' });
  await expect(mine.getByRole('link', { name: /history/i })).toBeVisible();
  await juno.goto('/room/vacancies');
  await isReady(juno);
  await menu.getByRole('button', { name: 'Keep in my menu' }).click();
  await expect(mine.getByRole('link')).toHaveCount(2);
  await menu.getByRole('button', { name: 'Narrow menu' }).click();
  await expect(menu.getByRole('button', { name: 'Narrow menu' })).toHaveAttribute('aria-pressed', 'true');
  // Names are there in the narrow state, too, and it is so on another computer.
  const other = await signIn(browser, app, 'Juno');
  await other.goto('/room');
  await expect(
    other
      .getByRole('navigation', { name: 'Menu' })
      .getByRole('link', { name: /Vacancies/ })
      .first(),
  ).toBeVisible();
  await expect(other.getByRole('navigation', { name: 'Menu' })).toHaveClass(/narrow/);
  await axe(other, 'Today with a narrow menu and favourites');
  const maud = await signIn(browser, app, 'Maud');
  await goLive(maud, 'newsroom', { do: 'set-door', role: 'newsroom', section: 'vacancies', state: 'closed' });
  const kept = other.waitForResponse((answer) => answer.url().endsWith('/api/own-menu') && answer.ok());
  await other.reload();
  const told = other.getByText(/gone from your menu, because you can no longer open it: “Vacancies”/);
  await expect(told).toBeVisible();
  await kept;
  await other.reload();
  await expect(told).toHaveCount(0);
  await expect(other.getByRole('group', { name: 'Shortcuts and favourites' }).getByRole('link')).toHaveCount(1);
  await Promise.all([juno.context().close(), other.context().close(), maud.context().close()]);
});

test('a menu with groups, hints, shortcuts and a first screen is prepared, and met after signing in', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/cafe-manager/menu');
  const groups = maud.getByRole('region', { name: 'Groups and hints' });
  await groups.getByLabel('Group of Notices').selectOption('a new group…');
  await groups.getByLabel('Heading of the new group').fill('For guests');
  await groups.getByRole('button', { name: 'Make it' }).click();
  await expect(groups.getByLabel('Group of Notices')).toHaveValue('0');
  await groups.getByLabel('Hint of Pages').fill('The café and its menu');
  await groups.getByLabel('Hint of Pages').blur();
  const shortcuts = maud.getByRole('region', { name: 'Shortcuts' });
  await shortcuts.getByLabel('Leads to').selectOption('an address outside');
  await shortcuts.getByLabel('Which address').fill('javascript:alert(1)');
  await shortcuts.getByLabel('Called').fill('Suppliers');
  await shortcuts.getByRole('button', { name: 'Add' }).click();
  await expect(shortcuts.getByRole('alert')).toContainText('begins with https://');
  await shortcuts.getByLabel('Which address').fill('www.suppliers.example');
  await shortcuts.getByRole('button', { name: 'Add' }).click();
  await expect(shortcuts.getByRole('listitem')).toContainText('https://www.suppliers.example');
  await maud.getByLabel('After signing in they begin with').selectOption('Pages');
  await expect(maud.getByText(/change.* not yet live/).first()).toBeVisible();
  await axe(maud, 'the Menu step with groups and shortcuts');
  await goLive(maud, 'cafe-manager', { do: 'set-columns', role: 'cafe-manager', count: 3 });
  const oskar = await browser.newPage({ baseURL: app.url });
  await oskar.goto('/sign-in');
  await isReady(oskar);
  await oskar.getByLabel('Mail address').fill('oskar@larkhaven.example');
  await oskar.getByLabel('Password', { exact: true }).fill('soup-of-the-day');
  await oskar.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(oskar).toHaveURL(/\/room\/pages$/);
  const menu = oskar.getByRole('navigation', { name: 'Menu' });
  await expect(menu.getByRole('group', { name: 'For guests' }).getByRole('link', { name: /Notices/ })).toBeVisible();
  await expect(menu.getByRole('link', { name: 'Pages' }).first()).toHaveAccessibleDescription('The café and its menu');
  await expect(menu.getByRole('link', { name: 'Suppliers' })).toHaveAttribute('href', 'https://www.suppliers.example');
  await Promise.all([maud.context().close(), oskar.context().close()]);
});

test('how one reads is in force at once and the next time, in every palette without a fault of contrast', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/room');
  await isReady(ines);
  const open = async () => {
    await ines.locator('[data-anchor="frame.person"]').click();
    await ines.getByRole('menuitem', { name: 'Preferences' }).click();
    return ines.getByRole('dialog', { name: 'Preferences' });
  };
  const root = ines.locator('html');
  for (const [name, palette] of [
    ['Slate', 'slate'],
    ['Night, light on dark', 'night'],
    ['Strong contrast', 'contrast'],
  ] as const) {
    const dialog = await open();
    const kept = ines.waitForResponse((answer) => answer.url().endsWith('/api/own-preferences') && answer.ok());
    await dialog.getByRole('radio', { name, exact: true }).check();
    await kept;
    await expect(root).toHaveAttribute('data-palette', palette);
    await axe(ines, `the dialog in ${palette}`);
    await ines.keyboard.press('Escape');
    await ines.reload();
    await isReady(ines);
    await expect(root).toHaveAttribute('data-palette', palette);
    await axe(ines, `Today in ${palette}`);
  }
  const dialog = await open();
  const kept = ines.waitForResponse((answer) => answer.url().endsWith('/api/own-preferences') && answer.ok());
  await dialog.getByRole('radio', { name: 'Very large' }).check();
  await kept;
  await ines.setViewportSize({ width: 360, height: 740 });
  await ines.reload();
  await isReady(ines);
  expect(await ines.evaluate(() => getComputedStyle(document.body).fontSize)).toBe('24px');
  expect(await ines.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await ines.context().close();
});

test('on the website a line leads back to the page’s edit screen; visitors have no trace of it', async ({
  browser,
  app,
}) => {
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/harbours/south-quay/parking');
  const bar = ines.getByRole('region', { name: 'For you, signed in' });
  await expect(bar).toContainText('There is a draft of this page that visitors do not see yet');
  await axe(ines, 'a page of the website with the line');
  const answer = await ines.request.get('/harbours/south-quay/parking');
  expect(answer.headers()['cache-control']).toContain('no-store');
  await bar.getByRole('link', { name: 'Edit this page' }).click();
  await expect(ines).toHaveURL(/\/room\/pages\/\d+$/);
  // And from there back to the very page.
  await expect(ines.getByRole('link', { name: 'See the website' })).toHaveAttribute(
    'href',
    '/harbours/south-quay/parking',
  );
  await ines.goto('/cafe');
  await expect(bar).toContainText('To change it, ask Maud Ellery');
  await bar.getByRole('button', { name: 'Put this line away' }).click();
  await expect(bar).toHaveCount(0);
  await ines.goto('/fares');
  await expect(ines.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(bar).toHaveCount(0);
  const visitor = await browser.newContext({ baseURL: app.url });
  const html = await (await visitor.request.get('/harbours/south-quay/parking')).text();
  expect(html).not.toContain('sitebar"');
  expect(html).not.toContain('<script');
  await Promise.all([ines.context().close(), visitor.close()]);
});

test('the office’s own words are written in the Workshop and read where they belong, by whom they are for', async ({
  browser,
  app,
}) => {
  const maud = await signIn(browser, app, 'Maud');
  await maud.goto('/workshop/roles/second-look/words');
  await maud.getByLabel('Where').selectOption('The door “Second look”');
  const area = maud.getByRole('textbox', { name: 'Words', exact: true });
  await area.click();
  await maud.keyboard.type('Read it aloud once before you say yes.');
  // Set when they are left, wherever one goes next.
  await maud.getByLabel('To whom').focus();
  await expect(maud.getByRole('region', { name: 'What is said' })).toContainText('Read it aloud once');
  await axe(maud, 'the Words step');
  await maud.getByLabel('Where').selectOption('Today');
  await maud.getByLabel('To whom').selectOption('to everybody');
  await area.click();
  await maud.keyboard.type('The harbour fair is on Saturday.');
  await maud.getByLabel('Where').focus();
  await expect(maud.getByRole('region', { name: 'What is said' })).toContainText('Today, to everybody');
  await goLive(maud, 'second-look', { do: 'set-columns', role: 'second-look', count: 3 });
  const priya = await signIn(browser, app, 'Priya');
  await priya.goto('/room');
  const office = priya.getByRole('complementary', { name: 'From the office' });
  await expect(office).toContainText('The harbour fair is on Saturday.');
  await priya.goto('/room/review');
  await expect(office).toContainText('Read it aloud once before you say yes.');
  await axe(priya, 'a door with words of the office');
  await maud.goto('/room/review');
  await expect(maud.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(maud.getByRole('complementary', { name: 'From the office' })).toHaveCount(0);
  await Promise.all([maud.context().close(), priya.context().close()]);
});
