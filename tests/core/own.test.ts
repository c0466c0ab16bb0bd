import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Place } from '@/core/access';
import { followed } from '@/core/room/menu';
import { PLACES } from './plans';
import {
  changedMenu,
  chosenPreferences,
  MOST_FAVOURITES,
  ownMenuSchema,
  PALETTE_COLOURS,
  PALETTES,
  preferencesOf,
  usualMenu,
  usualPreferences,
  type Colour,
  type MenuChange,
} from '@/core/own';
import { inventory } from '../inventory';

/** Relative luminance and contrast ratio as WCAG 2.2 defines them (section "Dictionary", values from memory). */
const channel = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
const luminance = (hex: string) => {
  const full = hex.length === 4 ? hex.replaceAll(/[\da-f]/gi, (digit) => digit + digit) : hex;
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((i) => channel(parseInt(full.slice(i, i + 2), 16) / 255));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const contrast = (a: string, b: string) => {
  const [light = 0, dark = 0] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (light + 0.05) / (dark + 0.05);
};

/** Text as the screens set it: each of these colours on each of these grounds. */
const TEXT: [Colour[], Colour[]][] = [
  [
    ['ink', 'ink-2'],
    ['white', 'paper', 'sheet', 'sand', 'pine-soft', 'pine-wash', 'sun-soft', 'brick-soft', 'sky-soft'],
  ],
  [['ink-3'], ['white', 'paper', 'sheet']],
  [
    ['pine', 'pine-2'],
    ['white', 'paper', 'sheet', 'pine-soft', 'pine-wash', 'sun-soft', 'brick-soft', 'sand'],
  ],
  [['brick'], ['white', 'paper', 'sheet', 'brick-soft']],
  [['sky'], ['white', 'paper', 'sheet', 'sky-soft']],
  [['sun-ink'], ['sun-soft', 'sheet', 'paper']],
  [['white'], ['pine', 'pine-2', 'brick']],
];
/** Marks and what shows the focus: told apart from what is around them. */
const MARKS: [Colour[], Colour[]][] = [
  [
    ['pine', 'sun', 'brick', 'sky'],
    ['paper', 'sheet'],
  ],
];

const css = readFileSync(join(import.meta.dirname, '../../src/styles/office.css'), 'utf8');
const paper = Object.fromEntries(
  [...css.matchAll(/--color-([\w-]+):\s*(#[\da-f]+);/gi)].map((found) => [found[1], found[2]]),
) as Record<Colour, string>;

describe('the colours of the back office', () => {
  it('have a palette for each name, each with every colour', () => {
    for (const palette of PALETTES)
      if (palette !== 'paper') expect(Object.keys(PALETTE_COLOURS[palette]).sort()).toEqual(Object.keys(paper).sort());
  });
  it.each(PALETTES)('can be read in every pair they are used in: %s (WCAG 2.2, 1.4.3 and 1.4.11)', (name) => {
    const colours = name === 'paper' ? paper : PALETTE_COLOURS[name];
    const low: string[] = [];
    for (const [pairs, least] of [
      [TEXT, 4.5],
      [MARKS, 3],
    ] as const)
      for (const [fronts, grounds] of pairs)
        for (const front of fronts)
          for (const ground of grounds) {
            const ratio = contrast(colours[front], colours[ground]);
            if (ratio < least) low.push(`${front} on ${ground}: ${ratio.toFixed(2)}`);
          }
    expect(low).toEqual([]);
  });
  it('of the strongest reach 7 to 1 for all words (WCAG 2.2, 1.4.6)', () => {
    const { ink, 'ink-2': second, pine, brick, sheet } = PALETTE_COLOURS.contrast;
    for (const front of [ink, second, pine, brick]) expect(contrast(front, sheet)).toBeGreaterThanOrEqual(7);
  });
  it('is measured as the standard’s own examples are (values from memory)', () => {
    expect(contrast('#000000', '#ffffff')).toBeCloseTo(21, 5);
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
  });
});

describe('preferences', () => {
  it('are one’s own as far as they are free, else what everybody begins with', () => {
    expect(preferencesOf({ start: {}, fixed: [] }, {})).toEqual(usualPreferences);
    expect(
      preferencesOf({ start: { text: 125, palette: 'night' }, fixed: ['palette'] }, { text: 150, palette: 'paper' }),
    ).toEqual({ ...usualPreferences, text: 150, palette: 'night' });
  });
  it('are read as they were kept; of what can no longer be chosen the rest stays', () => {
    expect(chosenPreferences({ dates: 'cy', text: 125, gone: true, palette: 'night' })).toEqual({
      text: 125,
      palette: 'night',
    });
    expect([null, undefined].map(chosenPreferences)).toEqual([{}, {}]);
  });
});

describe('one’s own part of the menu', () => {
  const change: fc.Arbitrary<MenuChange> = fc.oneof(
    fc.record({ do: fc.constant('narrow' as const), on: fc.boolean() }),
    fc.record({
      do: fc.constant('keep' as const),
      favourite: fc.record({ to: fc.nat(20).map((n) => `page:${n}`), name: fc.constantFrom('A', 'B') }),
    }),
    fc.record({ do: fc.constant('drop' as const), to: fc.nat(20).map((n) => `page:${n}`) }),
  );
  it('holds each favourite once, never more than there is room for, and a change made twice is made once', () => {
    fc.assert(
      fc.property(fc.array(change, { maxLength: 40 }), change, (list, last) => {
        const menu = list.reduce((now, one) => changedMenu(now, one) ?? now, usualMenu());
        expect(ownMenuSchema.parse(menu)).toEqual(menu);
        expect(new Set(menu.favourites.map(({ to }) => to)).size).toBe(menu.favourites.length);
        expect(menu.favourites.length).toBeLessThanOrEqual(MOST_FAVOURITES);
        const once = changedMenu(menu, last) ?? menu;
        expect(changedMenu(once, last) ?? once).toEqual(once);
      }),
      { seed: 20261128, numRuns: 400 },
    );
  });
  it('takes no way out of the back office', () => {
    for (const to of [
      'https://evil.example',
      '//evil.example',
      'javascript:alert(1)',
      '/workshop',
      '/room/../workshop',
      '',
    ])
      expect(ownMenuSchema.safeParse({ narrow: false, favourites: [{ to, name: 'x' }] }).success, to).toBe(false);
  });
});

describe('a way that was kept', () => {
  const may = new Set(['notice.view', 'page.view']);
  const follow = (to: string, pages: Record<string, Place> = { '4': PLACES.cafe, '3': PLACES.quay }) =>
    followed(to, {
      inventory,
      may: (permission) => may.has(permission),
      mayOn: (permission, place) => may.has(permission) && place === PLACES.cafe,
      placeOf: (page) => pages[page],
      startOf: (task) => (task === 'notices.post' ? '/room/notices' : undefined),
    });
  it.each([
    ['a task they can do', 'task:notices.post', '/room/notices'],
    ['a task they cannot', 'task:pages.move', null],
    ['a page they may look at', 'page:4', '/room/pages/4'],
    ['a page they may not', 'page:3', null],
    ['a page that is gone', 'page:9', null],
    ['an address outside', 'https://elsewhere.example/x', 'https://elsewhere.example/x'],
    ['a screen they may open', '/room/notices', '/room/notices'],
    ['the same with a question', '/room/notices?state=ended', '/room/notices?state=ended'],
    ['a screen they may not', '/room/people', null],
    ['a screen that asks nothing', '/room', '/room'],
    ['a screen there is not', '/room/nowhere', null],
    ['the Workshop', '/workshop', null],
    ['the edit screen of a page they may look at', '/room/pages/4', '/room/pages/4'],
    ['of one they may not', '/room/pages/3', null],
    ['of one that is gone', '/room/pages/9', null],
  ])('%s', (_, to, leads) => expect(follow(to)).toBe(leads));
});
