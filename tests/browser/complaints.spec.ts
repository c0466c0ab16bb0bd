import type { Page } from '@playwright/test';
import { allTools, axe, expect, goLive, isKept, loads, openPage, signIn, test, writing } from './app';

const pick = async (page: Page, label: string, title: string) => {
  await page.getByRole('combobox', { name: label }).fill(title);
  await page.getByRole('option', { name: title }).first().click();
};

/** Asks why somebody cannot do something, to the answer no. */
async function ask(maud: Page, what: { who: string; may: string; page?: string; with?: string }) {
  await maud.goto('/workshop/access/why');
  await loads(maud, () => maud.getByLabel('Who').selectOption(what.who));
  await loads(maud, () => maud.getByLabel('May they').selectOption(what.may));
  if (what.page !== undefined) await loads(maud, () => pick(maud, 'Which page', what.page ?? ''));
  if (what.with !== undefined)
    await loads(maud, () => maud.getByLabel('With what of it').selectOption({ label: what.with ?? '' }));
  await expect(maud.getByRole('region', { name: 'The answer' }).getByText('no', { exact: true })).toBeVisible();
}

/** Prepares the least change offered, reads the same question answered with yes, and goes live. */
async function mend(maud: Page) {
  await loads(maud, () => maud.getByRole('button', { name: 'Prepare this' }).first().click());
  await expect(maud.getByRole('status')).toContainText('It is prepared, and this is the same question');
  await expect(maud.getByRole('region', { name: 'The answer' }).getByText('yes', { exact: true })).toBeVisible();
  await expect(maud.getByRole('region', { name: 'What would change it' })).toContainText(
    'what is prepared has to go live',
  );
  await loads(maud, () => maud.getByRole('link', { name: 'Review and go live' }).last().click());
  await maud.getByRole('button', { name: /^Go live/ }).click();
  await loads(maud, () => maud.getByRole('button', { name: 'Go live now' }).click());
}

test('complaints of people who cannot do something, each from the question to the deed', async ({ browser, app }) => {
  const maud = await signIn(browser, app, 'Maud');

  await test.step('publishing a page far from what one works on: looking, changing and publishing go together', async () => {
    await ask(maud, { who: 'Tomas Reed', may: 'publish pages without a second look', page: 'Timetable' });
    const least = maud.getByRole('article', { name: 'The least change' });
    await expect(least).toContainText('look at pages in the back office');
    await expect(least).toContainText('change pages');
    await axe(maud, 'why and what would change it');
    await mend(maud);
    const tomas = await signIn(browser, app, 'Tomas');
    await openPage(tomas, 'Timetable');
    await writing(tomas).click();
    await tomas.keyboard.type('Winter begins. ');
    await isKept(tomas);
    await tomas.getByRole('button', { name: 'Publish now' }).click();
    await loads(tomas, () => tomas.getByRole('alertdialog').getByRole('button', { name: 'Publish now' }).click());
    await tomas.goto('/timetable');
    await expect(tomas.getByRole('main')).toContainText('Winter begins.');
    await tomas.context().close();
  });

  await test.step('a tool for one text: one more row in a table that stands there, and no way to take it away', async () => {
    await ask(maud, { who: 'Ines Varga', may: 'change pages', page: 'South Quay', with: 'Rows and columns' });
    await expect(maud.getByRole('region', { name: 'The answer' })).toContainText(
      'They may change pages, but no text of it has the tool “Rows and columns” for them.',
    );
    await mend(maud);
    const ines = await signIn(browser, app, 'Ines');
    await openPage(ines, 'South Quay');
    const rows = writing(ines).locator('tr');
    const before = await rows.count();
    await writing(ines).locator('td').last().click();
    await allTools(ines);
    await expect(ines.getByRole('button', { name: 'Remove table' })).toHaveCount(0);
    await ines.getByRole('button', { name: 'Row below', exact: true }).click();
    await expect(rows).toHaveCount(before + 1);
    await isKept(ines);
    await ines.context().close();
  });

  await test.step('a field that is locked, and a panel that is hidden, on the edit screen prepared', async () => {
    await goLive(
      maud,
      'harbour-desk',
      {
        do: 'set-element',
        role: 'harbour-desk',
        element: 'summary',
        place: {},
        said: { lock: 'The office writes it.' },
      },
      { do: 'set-element', role: 'harbour-desk', element: 'pages.edit.address', place: {}, said: { show: 'hidden' } },
    );
    await ask(maud, { who: 'Tomas Reed', may: 'change pages', page: 'South Quay', with: 'Summary' });
    await expect(maud.getByRole('region', { name: 'The answer' })).toContainText('“The office writes it.”');
    await mend(maud);
    await ask(maud, { who: 'Tomas Reed', may: 'change pages', page: 'South Quay', with: 'Address' });
    await expect(maud.getByRole('region', { name: 'The answer' })).toContainText('is hidden on the edit screen');
    await mend(maud);
    const tomas = await signIn(browser, app, 'Tomas');
    await openPage(tomas, 'South Quay');
    await tomas.getByLabel('Summary').fill('The quay in the south.');
    await isKept(tomas);
    await tomas.getByText('Address', { exact: true }).click();
    await expect(tomas.getByLabel('Last part of the address')).toBeEditable();
    await tomas.context().close();
  });

  await test.step('a door that is shut: seeing who works here, and describing pictures', async () => {
    await ask(maud, { who: 'Juno Park', may: 'describe pictures' });
    await mend(maud);
    await ask(maud, { who: 'Juno Park', may: 'see who can sign in' });
    await mend(maud);
    const juno = await signIn(browser, app, 'Juno');
    await juno.goto('/room/people');
    await expect(juno.getByText('Oskar Finch').first()).toBeVisible();
    await juno.goto('/room/pictures');
    await juno
      .getByRole('button', { name: /^Describe/ })
      .first()
      .click();
    await expect(juno.getByLabel('What does it show?').first()).toBeEditable();
    await juno.context().close();
  });

  await test.step('the second look at one’s own work: nobody is offered it', async () => {
    const ines = await signIn(browser, app, 'Ines');
    await openPage(ines, 'Skell Island');
    await writing(ines).click();
    await ines.keyboard.type('Seals at low water. ');
    await isKept(ines);
    await ines.getByRole('button', { name: /^Send .*for a second look$/ }).click();
    await expect(ines.getByText(/^It is sent/)).toBeVisible();
    await ines.context().close();
    await ask(maud, { who: 'Ines Varga', may: 'give the second look: publish or send back', page: 'Skell Island' });
    await expect(maud.getByRole('region', { name: 'What would change it' })).toContainText('Somebody else has to.');
    await expect(maud.getByRole('button', { name: 'Prepare this' })).toHaveCount(0);
  });
  await maud.context().close();
});
