import { expect, loads, signIn, test } from './app';
import type { Page } from '@playwright/test';

const card = (page: Page) => page.locator('[data-tour]');

/** Whether the ring of the tour lies around an element. */
async function pointsAt(page: Page, name: RegExp | string, role: 'link' | 'button' | 'textbox' = 'link') {
  const target = page.getByRole(role, { name }).first();
  await expect(async () => {
    const [ring, box] = [await page.locator('div.border-ring').boundingBox(), await target.boundingBox()];
    expect(ring && box && ring.x <= box.x && ring.y <= box.y && ring.x + ring.width >= box.x + box.width && ring.y + ring.height >= box.y + box.height).toBe(true);
  }).toPass();
}

test('“late boat” finds the task; the tour waits at the real controls, over screens, to its end', async ({ browser, app }) => {
  const ines = await signIn(browser, app, 'Ines');
  const ask = ines.getByRole('combobox', { name: 'Where do I…?' });
  await ask.fill('late boat');
  await expect(ines.getByRole('option').first()).toContainText('Post a sailing notice');
  await ask.press('Enter');
  await expect(card(ines)).toContainText('Stop 1 of 6');
  await expect(card(ines)).toBeFocused();
  await pointsAt(ines, 'Sailing notices');
  await ines.getByRole('link', { name: 'Sailing notices' }).click();
  await expect(card(ines)).toContainText('Stop 2 of 6');
  await pointsAt(ines, 'Post a notice', 'button');
  await ines.setViewportSize({ width: 900, height: 640 });
  await pointsAt(ines, 'Post a notice', 'button');
  await ines.getByRole('button', { name: 'Post a notice', exact: true }).click();
  await expect(card(ines)).toContainText('Stop 3 of 6');
  await pointsAt(ines, 'What should visitors read?', 'textbox');
  await ines.getByLabel('What should visitors read?').fill('The 07:40 runs late.');
  await expect(card(ines)).toContainText('Good. Press Next when you are done.');
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(card(ines)).toContainText('Stop 6 of 6');
  await loads(ines, () => ines.getByRole('button', { name: 'Put it on the website', exact: true }).click());
  await expect(card(ines)).toContainText('That was the way');
  await card(ines).getByRole('button', { name: 'Done' }).click();
  await expect(card(ines)).toHaveCount(0);
  await ines.goto('/room/tours');
  await expect(ines.getByRole('listitem').filter({ hasText: 'Post a sailing notice' })).toContainText('taken');
  await expect(ines.getByRole('link', { name: 'Tours 1 of 5' })).toBeVisible();
  await ines.context().close();
});

test('a tour works by keyboard alone, is left with Escape and taken up again where it was left', async ({ browser, app }) => {
  const tomas = await signIn(browser, app, 'Tomas');
  const start = tomas.getByRole('button', { name: /Point the way.*Change the words on a harbour page/ });
  await start.focus();
  await tomas.keyboard.press('Enter');
  // While it still looks for the control the card has no button to go there yet.
  await expect(card(tomas)).toHaveAttribute('data-tour', 'pointing');
  await expect(card(tomas)).toBeFocused();
  await tomas.keyboard.press('Tab');
  await tomas.keyboard.press('Tab');
  await tomas.keyboard.press('Enter');
  await expect(tomas.getByRole('link', { name: 'Pages' })).toBeFocused();
  await tomas.keyboard.press('Enter');
  await expect(tomas).toHaveURL(/\/room\/pages$/);
  await expect(card(tomas)).toContainText('Stop 2 of 6');
  await expect(card(tomas)).toBeFocused();
  await tomas.keyboard.press('Escape');
  await expect(card(tomas)).toHaveCount(0);
  await tomas.goto('/room');
  await tomas.getByRole('button', { name: /Take up again at stop 2.*Change the words on a harbour page/ }).click();
  await expect(card(tomas)).toContainText('“Your part of the site” is on another screen.');
  await loads(tomas, () => card(tomas).getByRole('link', { name: 'Take me there' }).click());
  await loads(tomas, () => tomas.getByRole('navigation', { name: 'Your part of the site' }).getByRole('link', { name: 'Skell Island' }).click());
  await expect(card(tomas)).toContainText('Stop 3 of 6');
  await pointsAt(tomas, 'Text', 'textbox');
  await tomas.context().close();
});

test('a stop on a screen further on says how to get there; a control that is gone is said so, and the tour goes on', async ({ browser, app }) => {
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/room/tours');
  await ines.getByRole('button', { name: /Swap a harbour picture/ }).click();
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(ines).toHaveURL(/\/room\/pages$/);
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(card(ines)).toContainText('“Banner picture” is on a screen further on. First: Open the page.');
  // Parking has a layout without a banner.
  await loads(ines, () => ines.getByRole('navigation', { name: 'Your part of the site' }).getByRole('link', { name: 'Parking' }).click());
  await expect(card(ines)).toContainText('“Banner picture” is not on this screen now; it is there on layouts that have a banner. The tour goes on without it: press Next.');
  await card(ines).getByRole('button', { name: 'Next' }).click();
  await expect(card(ines)).toContainText('Stop 4 of 4');
  await pointsAt(ines, /Send to Priya/, 'button');
  await card(ines).getByRole('button', { name: 'Back' }).click();
  await expect(card(ines)).toContainText('Stop 3 of 4');
  await card(ines).getByRole('button', { name: 'Leave the tour' }).click();
  await expect(card(ines)).toHaveCount(0);
  await ines.context().close();
});

test('what nobody can do here is not found, and said so', async ({ browser, app }) => {
  const lotte = await signIn(browser, app, 'Lotte');
  const ask = lotte.getByRole('combobox', { name: 'Where do I…?' });
  await ask.fill('submarine');
  await expect(lotte.getByText('Nothing of yours fits “submarine”.')).toBeVisible();
  await ask.fill('pages');
  // Her door to the pages is put away: not in the menu, but found by asking.
  await expect(lotte.getByRole('navigation', { name: 'Menu' }).getByRole('link', { name: 'Pages' })).toHaveCount(0);
  await lotte.getByRole('option', { name: /^Pages/ }).click();
  await expect(lotte).toHaveURL(/\/room\/pages$/);
  await lotte.context().close();
});
