import type { Page } from '@playwright/test';
import { expect, goToPage, signIn, test } from './app';
import { inventory } from '../inventory';

/**
 * What the room of somebody says is there: asked of the very database that the application under test has. Modules of
 * the server read where that is when they are loaded, so they are loaded here and in no other file.
 */
async function truthOf(databaseUrl: string, page: Page) {
  process.env['DATABASE_URL'] = databaseUrl;
  process.env['LOG_LEVEL'] = 'silent';
  const [{ db }, { findAccess }, { loadRoom }, { loadEditScreen }, { findPlaced }] = await Promise.all([
    import('@/server/db/client'),
    import('@/server/gate/access'),
    import('@/server/room'),
    import('@/server/items/editScreen'),
    import('@/server/tree/tree'),
  ]);
  const token = (await page.context().cookies()).find((cookie) => cookie.name === 'safe_room_session')?.value;
  const access = await findAccess(db, token);
  if (!access) throw new Error('nobody is signed in');
  const loaded = await loadRoom(db, access);
  return {
    room: loaded.room,
    onItem: async (id: number) => {
      const thing = await findPlaced(db, access.site.id, id);
      return (await loadEditScreen(db, access, { ...thing }, id, loaded, null)).controls;
    },
  };
}

const anchors = async (page: Page): Promise<string[]> =>
  page
    .locator('main [data-anchor]')
    .evaluateAll((there) => [...new Set(there.map((one) => one.getAttribute('data-anchor') ?? ''))]);
/** What must be on a screen when it is there at all: no field of a layout, nothing that only appears. */
const isSteady = (id: string) => {
  const control = inventory.controls.get(id);
  return control !== undefined && !control.appears && !control.fields && !id.endsWith('.tool.link');
};

for (const first of ['Maud', 'Ines', 'Priya', 'Oskar', 'Sam'])
  test(`the screens show ${first} what the room says is there, and nothing else`, async ({ browser, app }) => {
    const page = await signIn(browser, app, first);
    const { room, onItem } = await truthOf(app.databaseUrl, page);
    const seen: string[] = [];
    for (const screen of inventory.screens.values()) {
      const door = room.doors.find((one) => one.section === screen.section);
      if (screen.path.includes('[id]') || !screen.path.startsWith('/room/') || !door) continue;
      const answer = await page.goto(screen.path);
      if (answer?.status() !== 200) continue;
      seen.push(screen.id);
      const told = [...inventory.controls.values()].filter((control) => control.screen === screen.id);
      const is = await anchors(page);
      for (const { id } of told) {
        const why = room.absent(id);
        if (why !== null) expect(is, `${screen.id}: ${why}`).not.toContain(id);
        else if (isSteady(id)) expect(is, `${screen.id} has ${id}`).toContain(id);
      }
    }
    expect(seen.length).toBeGreaterThan(0);
    for (const title of ['South Quay', 'Café']) {
      await page.goto('/room/pages');
      if ((await page.getByRole('link', { name: title, exact: true }).count()) === 0) continue;
      await goToPage(page, title);
      await expect(
        page.getByRole('textbox', { name: 'Text', exact: true }).or(page.getByText('You can read this')).first(),
      ).toBeVisible();
      const there = await onItem(Number(page.url().split('/').at(-1)));
      const is = await anchors(page);
      for (const { id } of [...inventory.controls.values()].filter((control) => control.screen === 'pages.edit')) {
        if (!there.includes(id)) expect(is, `${title} has no ${id}`).not.toContain(id);
        else if (isSteady(id)) expect(is, `${title} has ${id}`).toContain(id);
      }
    }
    await page.context().close();
  });
