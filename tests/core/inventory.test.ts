import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { isIcon } from '@/islands/kit/Icon';
import {
  findScreen,
  getEntry,
  groupTools,
  InventoryError,
  makeInventory,
  ofInventory,
  type Section,
} from '@/core/inventory';
import {
  byName,
  dateLanguageOf,
  screenLanguageOf,
  sayAge,
  sayDay,
  sayTime,
  sayWeekday,
  fieldTime,
  greeting,
} from '@/core/words';
import { aspectOf, floorPlan } from '@/islands/workshop/floorPlan';
import { COLUMNS } from '@/islands/pages/columns';
import { inventoryOf } from '@/office';
import { inventory } from '../inventory';

const section: Section = {
  id: 's',
  name: 'S',
  purpose: '',
  icon: '',
  care: 'everyday',
  face: 'door',
  home: 's.home',
  permissions: [{ id: 's.view', name: '', care: 'everyday', placed: false }],
  screens: [{ id: 's.home', name: '', path: '/s', needs: 's.view' }],
  controls: [],
  tasks: [],
};

it('is one of a site: the same for the same facts, another for others, and what is worked out of it likewise', () => {
  const [here, there] = ['Europe/London', 'Pacific/Auckland'].map((timeZone) => inventoryOf({ timeZone }));
  expect(here).toBe(inventory);
  expect(there?.timeZone).toBe('Pacific/Auckland');
  let times = 0;
  const zoneOf = ofInventory(({ timeZone }) => `${timeZone} ${++times}`);
  expect([here, there, here].map((one) => one && zoneOf(one))).toEqual([
    'Europe/London 1',
    'Pacific/Auckland 2',
    'Europe/London 1',
  ]);
});

describe('an inventory', () => {
  it.each([
    ['an id twice', [section, section], 'section "s" is declared twice'],
    [
      'a screen that needs what is not declared',
      [{ ...section, screens: [{ id: 's.home', name: '', path: '/s', needs: 'x.view' as const }] }],
      's.home: no permission "x.view"',
    ],
    [
      'a control that changes a field there is not',
      [{ ...section, controls: [{ id: 'c', name: '', screen: 's.home', description: '', fields: ['ghost'] }] }],
      'c: no field "ghost"',
    ],
    [
      'a control on no screen',
      [{ ...section, controls: [{ id: 'c', name: '', screen: 'ghost', description: '' }] }],
      'c: no screen "ghost"',
    ],
    [
      'a task through no control',
      [
        {
          ...section,
          tasks: [
            {
              id: 't',
              name: '',
              purpose: '',
              said: [],
              needs: [],
              screen: 's.home',
              moves: [{ control: 'ghost', await: 'see' as const, title: '', text: '' }],
            },
          ],
        },
      ],
      't: no control "ghost"',
    ],
  ])('is refused with %s', (_, sections, words) => {
    expect(() => makeInventory(sections, { timeZone: 'UTC' })).toThrow(new InventoryError(words));
  });
  it('finds the screen of an address, and what its [id] is', () => {
    expect(findScreen(inventory, '/room/pages/12')).toMatchObject({ screen: { id: 'pages.edit' }, id: '12' });
    expect(findScreen(inventory, '/room/pages/')).toMatchObject({ screen: { id: 'pages.tree' } });
    expect(findScreen(inventory, '/workshop/roles/harbour-desk/menu')).toMatchObject({
      screen: { id: 'workshop.role' },
    });
    expect(findScreen(inventory, '/room/secrets')).toBeUndefined();
    expect(findScreen(inventory, '/room//x')).toBeUndefined();
  });
  it('names what it does not hold', () => {
    expect(() => getEntry(inventory.tools, 'glitter')).toThrow('the inventory holds no "glitter"');
  });

  it('groups every tool once, in the order of a toolbar', () => {
    const tools = [...inventory.tools.values()];
    expect(groupTools(tools).map((group) => group.id)).toEqual([
      'words',
      'blocks',
      'styles',
      'inserts',
      'aids',
      'modes',
    ]);
    expect(
      groupTools(tools)
        .flatMap((group) => group.tools)
        .map((tool) => tool.id)
        .sort(),
    ).toEqual([...inventory.tools.keys()].sort());
    expect(groupTools(tools.filter((tool) => tool.id === 'table')).map((group) => group.name)).toEqual(['To put in']);
  });

  // Words that are useless without the picture, or that belittle (rules of the trade, common practice, no source).
  it('speaks plainly in every stop', () => {
    for (const task of inventory.tasks.values())
      for (const move of task.moves) {
        const words = `${move.title} ${move.text}`;
        expect(words, task.id).not.toMatch(/\b(just|simply|easy|easily|obviously|over there|over here)\b/i);
        expect(words.split(/\s+/).length, task.id).toBeLessThanOrEqual(140);
      }
  });
});

describe('dates as people say them', () => {
  const tz = 'Europe/London';
  const calendar = { timeZone: tz, language: 'en-GB' };
  const now = new Date('2026-03-29T12:00:00Z');
  // Summer time began in the United Kingdom on 29 March 2026 at 01:00 UTC (IANA time zone database).
  it.each([
    ['2026-03-29T00:30:00Z', 'today 00:30'],
    ['2026-03-29T01:30:00Z', 'today 02:30'],
    ['2026-03-28T12:00:00Z', 'yesterday 12:00'],
    ['2026-03-30T06:00:00Z', 'tomorrow 07:00'],
    ['2026-11-12T09:30:00Z', '12 November, 09:30'],
    ['2025-11-12T09:30:00Z', '12 November 2025, 09:30'],
  ])('%s is %s', (at, said) => {
    expect(sayTime(new Date(at), calendar, now)).toBe(said);
  });
  // Words and order of the Unicode CLDR, as a native reader would write them (values from memory).
  it.each([
    ['en-US', 'yesterday 12:00', 'November 12, 2025, 09:30', '2 hours', 'Sun'],
    ['de', 'gestern 12:00', '12. November 2025, 09:30', '2 Stunden', 'So'],
    ['fr', 'hier 12:00', '12 novembre 2025, 09:30', '2\u00a0heures', 'dim.'],
    ['nl', 'gisteren 12:00', '12 november 2025, 09:30', '2 uur', 'zo'],
    ['nb', 'i går 12:00', '12. november 2025, 09:30', '2 timer', 'søn.'],
    ['pl', 'wczoraj 12:00', '12 listopada 2025, 09:30', '2 godziny', 'niedz.'],
    ['ar', 'أمس 12:00', '12 نوفمبر 2025, 09:30', 'ساعتان', 'الأحد'],
  ])('are told in %s, too', (language, yesterday, longAgo, age, weekday) => {
    const at = (text: string) => sayTime(new Date(text), { timeZone: tz, language }, now);
    expect([at('2026-03-28T12:00:00Z'), at('2025-11-12T09:30:00Z')]).toEqual([yesterday, longAgo]);
    expect(sayAge(new Date(now.getTime() - 7_200_000), now, language)).toBe(age);
    expect(sayWeekday('2026-03-29', language)).toBe(weekday);
  });
  it('and names stand in the order of a language: Swedish letters aside, å is an a in German and the last in Norwegian', () => {
    const names = ['Åse', 'Zoe', 'anna', 'Pier 10', 'Pier 9'];
    const order = (language: string) => names.toSorted((a, b) => byName(a, b, language));
    expect(order('de')).toEqual(['anna', 'Åse', 'Pier 9', 'Pier 10', 'Zoe']);
    expect(order('nb')).toEqual(['anna', 'Pier 9', 'Pier 10', 'Zoe', 'Åse']);
  });
  it('of a website in English are British, of one in a language there is none for as well', () => {
    expect(['en', 'de', 'tlh', undefined].map(dateLanguageOf)).toEqual(['en-GB', 'de', 'en-GB', 'en-GB']);
  });
  it('on screens are told only as browsers tell them, too', () => {
    expect(['en', 'de', 'cy', 'gd', 'tlh'].map(screenLanguageOf)).toEqual(['en-GB', 'de', 'en-GB', 'en-GB', 'en-GB']);
  });
  it('ages, greetings and fields', () => {
    expect([20, 90, 7200, 86_400 * 3].map((s) => sayAge(new Date(now.getTime() - s * 1000), now, 'en-GB'))).toEqual([
      'a moment',
      '1 minute',
      '2 hours',
      '3 days',
    ]);
    // English wishes a good night only when parting.
    expect(greeting(new Date('2026-07-01T01:00:00Z'), tz)).toBe('Good evening');
    expect(greeting(new Date('2026-07-01T05:00:00Z'), tz)).toBe('Good morning');
    expect(sayDay(now, calendar, now)).toBe('29 March');
    expect(fieldTime(new Date('2026-07-01T17:05:00Z'), tz)).toBe('2026-07-01T18:05');
  });
});

describe('the floor plan', () => {
  const boxes = floorPlan(
    [
      { id: 'a', tasks: 4 },
      { id: 'b', tasks: 2 },
      { id: 'c', tasks: 0 },
      { id: 'd', tasks: 0 },
    ],
    2,
  );
  it('gives each room an area that grows with its tasks, and fills the house', () => {
    const area = (id: string) => {
      const b = boxes.find((x) => x.section === id);
      return b ? b.width * b.height : 0;
    };
    expect(area('a') / area('b')).toBeCloseTo(2, 6);
    expect(area('b') / area('c')).toBeCloseTo(4, 6);
    expect(boxes.reduce((sum, b) => sum + b.width * b.height, 0)).toBeCloseTo(100 * 100, 6);
  });
  it('leaves room for every name, however many rooms there are, and keeps their order by tasks', () => {
    const many = (rooms: number, first: number) => [first, 3, 1, ...Array.from({ length: rooms - 3 }, () => 0)];
    for (const tasks of [
      [4, 1, 0, 0, 0, 0, 0],
      [1, 1, 1, 1, 1, 1, 0],
      [20, 0, 0, 0, 0],
      many(8, 9),
      many(10, 9),
      many(14, 9),
      many(20, 12),
      many(30, 12),
      [0, 0],
    ]) {
      const aspect = aspectOf(tasks.length);
      const rooms = floorPlan(
        tasks.map((count, i) => ({ id: String(i), tasks: count })),
        aspect,
      );
      // Both in per cent of the width of the house.
      for (const { section, width, height } of rooms)
        expect(
          [width >= 19, height / aspect >= 11.9],
          `${tasks.join()} room ${section}: ${width} × ${height / aspect}`,
        ).toEqual([true, true]);
      const area = (i: number) => {
        const room = rooms.find((one) => one.section === String(i));
        return room ? room.width * room.height : 0;
      };
      for (let i = 1; i < tasks.length; i++) expect(area(i - 1)).toBeGreaterThanOrEqual(area(i) - 1e-6);
    }
  });
  it('lets no two rooms overlap', () => {
    const EDGE = 1e-9;
    for (const a of boxes)
      for (const b of boxes)
        if (a !== b)
          expect(
            a.left + a.width <= b.left + EDGE ||
              b.left + b.width <= a.left + EDGE ||
              a.top + a.height <= b.top + EDGE ||
              b.top + b.height <= a.top + EDGE,
          ).toBe(true);
  });
});

describe('nothing of a section is forgotten', () => {
  const root = join(import.meta.dirname, '../../src');
  const screens = [...inventory.screens.values()];
  it('every screen has its route', () => {
    for (const { id, path } of screens) {
      const route = join(root, 'pages', path);
      expect(
        [`${route}.astro`, join(route, 'index.astro')].some((file) => existsSync(file)),
        `${id}: ${path}`,
      ).toBe(true);
    }
  });
  it('every column of a list is drawn, and none that is not there', () => {
    const told = [...inventory.screens.values()].flatMap((screen) => screen.columns ?? []);
    expect([...COLUMNS.keys()]).toEqual(told.map(({ id }) => id));
  });
  it('every widget is drawn, and none that is not there', () => {
    const drawn = readdirSync(join(root, 'layouts/widgets/of')).map((file) => file.replace(/\.astro$/, ''));
    expect(drawn.sort()).toEqual([...inventory.widgets.keys()].sort());
  });
  it('every section has an icon of its own', () => {
    const icons = inventory.sections.map((section) => [section.id, section.icon] as const);
    for (const [section, icon] of icons) expect(isIcon(icon), `${section}: ${icon}`).toBe(true);
  });
  it('every control a tour points at is on some screen, by its anchor', () => {
    const sources = readdirSync(root, { recursive: true, encoding: 'utf8' })
      .filter((file) => /^(islands|layouts|pages)\//.test(file) && /\.(tsx|astro)$/.test(file))
      .map((file) => readFileSync(join(root, file), 'utf8'))
      .join('\n');
    // Fields have the anchor of their name.
    const fields = new Set(
      [...inventory.items.values()].flatMap((item) => item.layouts.flatMap((one) => one.fields.map(({ id }) => id))),
    );
    const used = new Set([...inventory.tasks.values()].flatMap((task) => task.moves.map((move) => move.control)));
    for (const control of used) {
      const [part] = /(?<=\.edit\.).+$/.exec(control) ?? [];
      const isThere =
        sources.includes(`"${control}"`) ||
        sources.includes(`'${control}'`) ||
        (part !== undefined && sources.includes(`anchor('${part}')`)) ||
        (part !== undefined && fields.has(part));
      expect(isThere, control).toBe(true);
    }
  });
  it('every request a tour waits for has its endpoint', () => {
    const awaited = [...inventory.tasks.values()].flatMap((task) => task.moves.flatMap((move) => move.until ?? []));
    for (const until of new Set(awaited)) {
      const [, method = '', path = ''] = /^(POST|PUT) (\/api\/.+)$/.exec(until) ?? [];
      if (path === '') continue;
      const file = [`${path}.ts`, `${path}/index.ts`].map((end) => join(root, 'pages', end)).find(existsSync);
      expect(file && readFileSync(file, 'utf8'), until).toContain(`export const ${method} =`);
    }
  });
});
