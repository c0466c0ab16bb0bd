import type { Locator, Page } from '@playwright/test';
import { allTools, expect, hire, isKept, isReady, loads, signIn, test, writing, type App } from './app';

/**
 * How a tour is played: by pointer, with a mistake on the way that is refused or taken back, or by keyboard alone and
 * without one. Both hands and both ways are in these two.
 */
type How = 'with a mistake' | 'by keyboard alone';
const HOWS: readonly How[] = ['with a mistake', 'by keyboard alone'];

const card = (page: Page) => page.locator('[data-tour]:not([data-tour="dialog"])');
const tree = (page: Page) => page.getByRole('navigation', { name: 'Your part of the site' });
const dialog = (page: Page) => page.locator('[role=dialog]:not([data-tour]), [role=alertdialog]');

/** What the hands do: with the pointer, or only with keys. */
function handsOf(page: Page, how: How) {
  const isKeys = how === 'by keyboard alone';
  /** Moves the focus to an element as somebody without a pointer does, who takes the shorter way. */
  const reach = async (target: Locator) => {
    await expect(target).toBeVisible();
    for (let pressed = 0; pressed < 250;) {
      const away = await target.evaluate((element) => {
        const at = document.activeElement;
        if (element === at) return 0;
        // A dialog keeps the focus to itself.
        const within = element.closest('[role=dialog], [role=alertdialog]') ?? document;
        const stops = [
          ...within.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, summary, [tabindex]'),
        ].filter((one) => one.tabIndex >= 0 && one.checkVisibility());
        const from = stops.findIndex((one) => one === at);
        const ahead = stops.findIndex((one) => one === element) - from || 1;
        // From the dialog or the page itself only ahead; behind the last comes the first again.
        return from < 0 || Math.abs(ahead) <= stops.length / 2 ? ahead : ahead - Math.sign(ahead) * (stops.length + 1);
      });
      if (away === 0) return;
      // Not all at once: what is passed may change what there is to pass.
      const presses = Math.max(1, Math.floor((Math.abs(away) * 2) / 3));
      for (let i = 0; i < presses; i++) await page.keyboard.press(away > 0 ? 'Tab' : 'Shift+Tab');
      pressed += presses;
    }
    throw new Error(`${String(target)} is not reached by Tab`);
  };
  return {
    isKeys,
    focus: (target: Locator) => (isKeys ? reach(target) : target.click()),
    press: async (target: Locator) => {
      if (!isKeys) return target.click();
      await reach(target);
      return page.keyboard.press('Enter');
    },
    /** Presses what leads to another screen, and waits until that is there. */
    opens: async (target: Locator) => {
      if (isKeys) await reach(target);
      await loads(page, () => (isKeys ? page.keyboard.press('Enter') : target.click()));
    },
    fill: async (target: Locator, words: string) => {
      if (!isKeys) return target.fill(words);
      await reach(target);
      await page.keyboard.press('Control+a');
      if (words === '') return page.keyboard.press('Delete');
      return page.keyboard.insertText(words);
    },
  };
}
interface Playing {
  page: Page;
  how: How;
  hands: ReturnType<typeof handsOf>;
  /** The page of the tree they work on: not the first. */ title: string;
  /** Unlike any other play's. */ words: string;
}

/** What is done at a control, the way a tour asks; a mistake is made before it, and must not move the tour on. */
const AT: Record<string, (p: Playing) => Promise<unknown>> = {
  'pages.tree.filter': async ({ page, how, hands, title }) => {
    const field = page.getByLabel('Find a page by title or words');
    if (how === 'with a mistake') {
      await hands.fill(field, 'xyzzy');
      await expect(page.getByText('No page speaks of “xyzzy”')).toBeVisible();
    }
    await hands.fill(field, title);
    await next(page, hands);
  },
  // A new page only shows where it stands.
  'pages.tree.tree': async ({ page, hands, title, words }) =>
    title === ''
      ? expect(tree(page).getByRole('link', { name: words }))
          .toBeVisible()
          .then(() => next(page, hands))
      : hands.opens(tree(page).getByRole('link', { name: title, exact: true })),
  'pages.edit.body': async ({ page, hands, words }) => {
    await expect(writing(page)).toBeEditable();
    await hands.focus(writing(page));
    await page.keyboard.press('Control+End');
    await page.keyboard.type(` ${words}`);
    await page.keyboard.press('Shift+Control+ArrowLeft');
    await isKept(page);
    if ((await card(page).getAttribute('data-stop')) === 'pages.edit.body') await next(page, hands);
  },
  'pages.edit.tool.link': async ({ page, how, hands }) => {
    const open = async () => {
      // With the words still marked, by the keys the toolbar names.
      if (hands.isKeys) {
        await hands.focus(writing(page));
        return page.keyboard.press('Control+k');
      }
      await allTools(page);
      return page.getByRole('toolbar', { name: 'Toolbar' }).getByRole('button', { name: 'Link', exact: true }).click();
    };
    await open();
    await expect(dialog(page).locator('[data-tour=dialog]')).toContainText('Choose a page of the site');
    if (how === 'with a mistake') {
      await page.keyboard.press('Escape');
      await expect(card(page)).toContainText('Waits until it is done');
      await open();
    }
    await hands.fill(dialog(page).getByLabel('Find the page'), 'Fares');
    await hands.press(
      dialog(page)
        .getByRole('list', { name: 'Pages' })
        .getByRole('button', { name: /^Fares/ }),
    );
    await hands.press(dialog(page).getByRole('button', { name: 'Make the link' }));
  },
  'pages.edit.note': async ({ page, hands, words }) => {
    await hands.fill(page.getByLabel(/^What (did you change|is new)\?$/), words);
    await next(page, hands);
  },
  'pages.edit.banner': async ({ page, how, hands }) => {
    const choose = page.getByRole('button', { name: 'Choose another' });
    await hands.press(choose);
    await expect(dialog(page).locator('[data-tour=dialog]')).toContainText('which people who cannot see it hear');
    if (how === 'with a mistake') {
      await hands.press(dialog(page).getByRole('button', { name: 'Close' }));
      await expect(card(page)).toHaveAttribute('data-stop', 'pages.edit.banner');
      await hands.press(choose);
    }
    await hands.press(dialog(page).locator('button[aria-pressed=false]').last());
    await isKept(page);
  },
  'pages.edit.send': (p) => goesOut(p, /^Send/),
  'pages.edit.publish': async (p) => {
    await p.hands.fill(p.page.getByLabel('Summary'), p.words);
    await isKept(p.page);
    await goesOut(p, /^Publish now/);
  },
  'pages.tree.make': async ({ page, how, hands, words }) => {
    await hands.press(page.getByRole('button', { name: 'New page', exact: true }));
    await expect(dialog(page).locator('[data-tour=dialog]')).toContainText('Say what it is called');
    const make = dialog(page).getByRole('button', { name: 'Make it and open it' });
    if (how === 'with a mistake') {
      await expect(make).toBeDisabled();
      await page.keyboard.press('Escape');
      await expect(card(page)).toHaveAttribute('data-stop', 'pages.tree.make');
      await hands.press(page.getByRole('button', { name: 'New page', exact: true }));
    }
    await hands.fill(dialog(page).getByLabel('Title'), words);
    await hands.opens(make);
  },
  'notices.list.post': ({ page, hands }) =>
    hands.press(page.getByRole('button', { name: 'Post a notice', exact: true })),
  'notices.form.text': async ({ page, how, hands, words }) => {
    if (how !== 'with a mistake') await hands.fill(page.getByLabel('What should visitors read?'), words);
    await next(page, hands);
  },
  'notices.form.send': async ({ page, how, hands, words }) => {
    const send = page.getByRole('button', { name: 'Put it on the website', exact: true });
    if (how === 'with a mistake') {
      await hands.press(send);
      await expect(page.getByText('Write what visitors should read.')).toBeVisible();
      await expect(card(page)).toHaveAttribute('data-stop', 'notices.form.send');
      await hands.fill(page.getByLabel('What should visitors read?'), words);
    }
    await hands.opens(send);
  },
  'notices.list.end': async ({ page, how, hands }) => {
    const last = page
      .getByRole('region', { name: 'Showing now' })
      .getByRole('button', { name: /^End now/ })
      .last();
    await hands.press(last);
    if (how === 'with a mistake') {
      await hands.press(dialog(page).getByRole('button', { name: 'Cancel' }));
      await expect(card(page)).toHaveAttribute('data-stop', 'notices.list.end');
      await hands.press(last);
    }
    await expect(dialog(page).locator('[data-tour=dialog]')).toContainText('It leaves the website at once');
    await hands.opens(dialog(page).getByRole('button', { name: 'End it now' }));
  },
  'vacancies.list.make': ({ page, hands }) =>
    hands.press(page.getByRole('button', { name: 'New vacancy', exact: true })),
  'vacancies.form.title': async ({ page, how, hands, words }) => {
    if (how !== 'with a mistake') await hands.fill(page.getByLabel('Which job?'), words);
    await next(page, hands);
  },
  'vacancies.form.send': async ({ page, how, hands, words }) => {
    const begin = page.getByRole('button', { name: 'Begin it', exact: true });
    if (how === 'with a mistake') {
      await hands.press(begin);
      await expect(page.getByText('Say which job it is.')).toBeVisible();
      await expect(card(page)).toHaveAttribute('data-stop', 'vacancies.form.send');
      await hands.fill(page.getByLabel('Which job?'), words);
    }
    await hands.opens(begin);
  },
  'vacancies.edit.closes': async ({ page, hands }) => {
    await hands.focus(page.getByLabel('Apply until'));
    await page.getByLabel('Apply until').fill('2090-05-31');
    await isKept(page);
    if ((await card(page).getAttribute('data-stop')) === 'vacancies.edit.closes') await next(page, hands);
  },
  'vacancies.edit.send': (p) => goesOut(p, /^Send/, 'Job'),
  'review.list.waiting': ({ page, hands, title }) =>
    hands.opens(page.getByRole('region', { name: 'Waiting for a second look' }).getByRole('link', { name: title })),
  'review.look.publish': async ({ page, how, hands }) => {
    if (how === 'with a mistake') {
      await hands.press(page.getByRole('button', { name: 'Send it back' }));
      await expect(page.getByText(/Say what should be different/)).toBeVisible();
      await expect(card(page)).toHaveAttribute('data-stop', 'review.look.publish');
    }
    await hands.opens(page.getByRole('button', { name: 'Publish it', exact: true }));
  },
  'pictures.list.describe': ({ page, hands }) => hands.press(page.getByRole('button', { name: /^Describe/ }).nth(1)),
  'pictures.form.text': async ({ page, how, hands, words }) => {
    await hands.fill(page.getByLabel('What does it show?'), how === 'with a mistake' ? '' : words);
    await next(page, hands);
  },
  'pictures.form.keep': async ({ page, how, hands, words }) => {
    const keep = page.getByRole('button', { name: 'Keep this description', exact: true });
    if (how === 'with a mistake') {
      await hands.press(keep);
      await expect(card(page)).toHaveAttribute('data-stop', 'pictures.form.keep');
      await hands.fill(page.getByLabel('What does it show?'), words);
    }
    await hands.press(keep);
  },
};

/** Sends or publishes; the mistake is an empty title, which waits at its field. */
async function goesOut({ page, how, hands }: Playing, button: RegExp, name = 'Page title'): Promise<void> {
  const go = page.getByRole('button', { name: button });
  const title = page.getByLabel(name, { exact: true });
  if (how === 'with a mistake') {
    const right = await title.inputValue();
    await hands.fill(title, '');
    await expect(page.getByRole('button', { name, exact: true })).toBeVisible();
    await hands.press(go);
    await expect(title).toBeFocused();
    await expect(card(page)).toContainText('Waits until it is done');
    await hands.fill(title, right);
    await expect(page.getByRole('button', { name, exact: true })).toHaveCount(0);
  }
  if (!button.source.includes('Publish')) return hands.opens(go);
  await hands.press(go);
  await expect(dialog(page).locator('[data-tour=dialog]')).toContainText('Visitors see');
  return hands.opens(dialog(page).getByRole('button', { name: 'Publish now' }));
}

async function next(page: Page, hands: Playing['hands']): Promise<void> {
  await hands.press(card(page).getByRole('button', { name: /^(Next|Finish)$/ }));
}

/** Tours that only show something: seen, never taken. */
const SHOWN = new Set(['Find a page', 'See who works on the website', 'Find out who changed something']);

/** What of the control a stop points at, and of the form that is in, lies under the card. */
const underCard = (page: Page): Promise<string[]> =>
  card(page).evaluate((card) => {
    const control = [...document.querySelectorAll<HTMLElement>(`[data-anchor="${card.dataset['stop']}"]`)].find((one) =>
      one.checkVisibility(),
    );
    const works = [control, ...(control?.closest('form')?.querySelectorAll<HTMLElement>('[type="submit"]') ?? [])];
    return works.flatMap((one) => {
      const box = one?.getBoundingClientRect();
      // The whole of a text, a tree or a list is larger than what is free.
      if (!one || !box || box.height > innerHeight / 3) return [];
      const there = document.elementFromPoint((box.left + box.right) / 2, (box.top + box.bottom) / 2);
      return there && card.contains(there) ? [one.textContent.trim() || one.id] : [];
    });
  });

/** Plays a tour from Tours to its end, stop by stop, as its card says. */
async function play(page: Page, name: string, how: How, title: string, words: string): Promise<void> {
  const hands = handsOf(page, how);
  await page.goto('/room/tours');
  const row = page.getByRole('listitem').filter({ has: page.getByRole('heading', { name, exact: true }) });
  await hands.press(row.getByRole('button', { name: /^(Point the way|From the beginning)/ }).last());
  let went = how !== 'with a mistake';
  for (let turn = 0; turn < 12; turn++) {
    await isReady(page);
    await expect(card(page)).toHaveAttribute('data-tour', /^(pointing|elsewhere|ended)$/);
    if ((await card(page).getAttribute('data-tour')) === 'ended') break;
    const [stop, number] = [
      (await card(page).getAttribute('data-stop')) ?? '',
      await card(page)
        .getByText(/^Stop \d+ of/)
        .textContent(),
    ];
    // What one works with is never under the card.
    await expect.poll(() => underCard(page), { message: `${name}, ${number}` }).toEqual([]);
    // After a look back it may be on the screen before.
    if ((await card(page).getAttribute('data-tour')) === 'elsewhere') {
      await hands.opens(card(page).getByRole('link', { name: 'Take me there' }));
      continue;
    }
    if (stop.startsWith('door.')) await hands.opens(page.locator(`[data-anchor="${stop}"]`));
    else if (AT[stop]) await AT[stop]({ page, how, hands, title, words });
    else {
      // A look back on the way does no harm.
      if (!went && !/^Stop 1 /.test(number ?? '')) {
        went = true;
        await hands.press(card(page).getByRole('button', { name: 'Back' }));
        await expect(card(page)).not.toContainText(number ?? '');
        continue;
      }
      await next(page, hands);
    }
    await expect(card(page)).not.toContainText(number ?? '');
  }
  await expect(card(page), `“${name}” ${how}`).toContainText(SHOWN.has(name) ? 'That is the way' : 'You have done it');
  await hands.press(card(page).getByRole('button', { name: 'Done' }));
  await expect(card(page)).toHaveCount(0);
}

/** A draft that waits for a second look, sent by the harbour desk. */
async function sends(browser: Parameters<typeof signIn>[0], app: App, title: string, words: string): Promise<void> {
  const ines = await signIn(browser, app, 'Ines');
  await ines.goto('/room/pages');
  await loads(ines, () => tree(ines).getByRole('link', { name: title, exact: true }).click());
  await ines.getByLabel('Summary').fill(words);
  await isKept(ines);
  await loads(ines, () => ines.getByRole('button', { name: /^Send/ }).click());
  await ines.context().close();
}

/** Two notices that show, so that there is always one to end which is not the only one. */
async function posts(page: Page, words: string): Promise<void> {
  for (const number of [1, 2]) {
    await page.goto('/room/notices');
    await page.getByRole('button', { name: 'Post a notice', exact: true }).click();
    await page.getByLabel('What should visitors read?').fill(`${words} ${number}`);
    await loads(page, () => page.getByRole('button', { name: 'Put it on the website', exact: true }).click());
  }
}

/** Roles nobody of the demo holds, with somebody new who does. */
const NEW: Record<string, string> = { Flo: 'front-line' };

/** Every role of the demo, with the tours of their room as they are named there and the page each is about. */
const ROLES: [who: string, tours: [name: string, title: string][]][] = [
  [
    'Ines',
    [
      ['Post a sailing notice', ''],
      ['End a sailing notice', ''],
      ['Change the words on a harbour page', 'Port Ennis'],
      ['Swap a harbour picture', 'Skell Island'],
      ['Find a page', 'Left luggage'],
    ],
  ],
  [
    'Priya',
    [
      ['Give a page a second look', 'Port Ennis'],
      ['Find a page', 'Fares'],
    ],
  ],
  [
    'Oskar',
    [
      ['Change the café hours or the menu', 'Menu'],
      ['Tell visitors that the café is closed', ''],
      ['End a notice', ''],
    ],
  ],
  ['Lotte', [['Describe a picture', '']]],
  [
    'Juno',
    [
      ['Change the words on a page', 'History'],
      ['Make words lead to another page', 'Jobs'],
      ['Publish a page at once', 'Contact'],
      ['Make a new page', ''],
      ['Write a vacancy', ''],
    ],
  ],
  ['Sam', [['Post a sailing notice', '']]],
  [
    'Flo',
    [
      ['Post a notice', ''],
      ['End a notice', ''],
    ],
  ],
  [
    'Maud',
    [
      ['Publish a page at once', 'Timetable'],
      ['Post a notice', ''],
      ['Give a page a second look', 'Port Ennis'],
      ['Describe a picture', ''],
      ['See who works on the website', ''],
      ['Find out who changed something', ''],
    ],
  ],
];

/** Of a tour that several have, the controls are the same: by keyboard it is played by the first of them. */
const isFirst = (who: string, name: string) =>
  ROLES.find(([, tours]) => tours.some(([one]) => one === name))?.[0] === who;

// They are many: on every worker there is, each with an application of its own.
test.describe.configure({ mode: 'parallel' });
for (const [who, tours] of ROLES) {
  const comes = async (app: App) => (NEW[who] ? hire(app, who, NEW[who]) : undefined);
  test(`these are all the tours of ${who}`, async ({ browser, app }) => {
    await comes(app);
    const page = await signIn(browser, app, who);
    await page.goto('/room/tours');
    expect(
      (await page.getByRole('main').getByRole('heading', { level: 2 }).allTextContents()).map((name) => name.trim()),
    ).toEqual(tours.map(([name]) => name));
    await page.context().close();
  });
  for (const [name, title] of tours)
    for (const how of HOWS.filter((one) => one !== 'by keyboard alone' || isFirst(who, name)))
      test(`the tour “${name}” of ${who} is played to its end ${how}`, async ({ browser, app }) => {
        await comes(app);
        const page = await signIn(browser, app, who);
        const words = `Played by ${who} ${how}: ${name}.`;
        if (name.includes('second look')) await sends(browser, app, title, words);
        if (name.startsWith('End a')) await posts(page, words);
        await play(page, name, how, title, words);
        await page.goto('/room/tours');
        await expect(
          page
            .getByRole('listitem')
            .filter({ has: page.getByRole('heading', { name, exact: true }) })
            .locator('.pill'),
        ).toHaveText(SHOWN.has(name) ? 'seen' : 'taken');
        await page.context().close();
      });
}
