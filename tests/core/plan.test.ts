import Ajv2020 from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import {
  allDoors,
  applyOperation,
  doorsNobodyHas,
  getRole,
  planJsonSchema,
  planSchema,
  type Operation,
  type Plan,
} from '@/core/plan';
import { differences } from '@/core/release';
import { demoPlan } from '@/demo/plan';
import { startPlan } from '@/demo/startPlan';
import { boardOf, columnsOf } from '@/core/dashboard';
import { allow, plan, role } from './plans';
import { inventory } from '../inventory';

const demo = demoPlan(inventory, (key) => String(key.length));
const must = (before: Plan, op: Operation): Plan => {
  const applied = applyOperation(inventory, before, op);
  if (!applied.ok) throw new Error(applied.detail);
  return applied.plan;
};

describe('the plan as a document', () => {
  // Oracle: the package ajv, a validator of JSON Schema 2020-12, on the schema we publish.
  const validate = new Ajv2020({ strict: false }).compile(planJsonSchema());
  it('fits the JSON Schema we publish', () => {
    for (const p of [demo, startPlan(inventory)]) {
      expect(planSchema.parse(p)).toEqual(p);
      expect(validate(p), JSON.stringify(validate.errors)).toBe(true);
    }
  });
  it.each([
    ['another format', { ...demo, format: 'x' }],
    ['a field nobody knows', { ...demo, colour: 'red' }],
    [
      'a door in no known state',
      {
        ...demo,
        roles: [{ ...role('keyholder', { grants: [allow('*')] }), doors: [{ section: 'pages', state: 'ajar' }] }],
      },
    ],
  ])('is refused by both with %s', (_, bad) => {
    expect(planSchema.safeParse(bad).success).toBe(false);
    expect(validate(bad)).toBe(false);
  });
  it.each([
    ['two roles of one id', plan(role('a'), role('a')), 'two roles have the same id'],
    ['no keyholder', { ...plan(), roles: [role('a')] }, 'the keyholder role must be there and may do everything'],
    ['a role that extends nobody known', plan(role('a', { extends: ['ghost'] })), 'no role "ghost"'],
    [
      'roles that extend each other',
      plan(role('a', { extends: ['b'] }), role('b', { extends: ['a'] })),
      'a role cannot extend itself, by whatever way',
    ],
    [
      'a widget placed twice',
      plan(role('a', { dashboard: boardOf(['notices.now'], [{ widget: 'notices.now', id: 'notices.now' }]) })),
      'an entry stands there twice',
    ],
  ])('is refused with %s, in words', (_, bad, words) => {
    const parsed = planSchema.safeParse(bad);
    expect(parsed.success ? [] : parsed.error.issues.map((i) => i.message)).toContain(words);
  });
});

describe('operations', () => {
  const desk = (p: Plan) => getRole(p, 'harbour-desk');
  it('change one role and leave the plan given as it was', () => {
    const before = structuredClone(demo);
    const after = must(demo, { do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'closed' });
    expect(demo).toEqual(before);
    expect(desk(after).doors.find((d) => d.section === 'notices')).toEqual({
      section: 'notices',
      state: 'closed',
      name: 'Sailing notices',
    });
    expect(after.roles.filter((r) => r.id !== 'harbour-desk')).toEqual(
      demo.roles.filter((r) => r.id !== 'harbour-desk'),
    );
  });
  it('order doors, name them and give names back', () => {
    const moved = must(demo, { do: 'move-door', role: 'harbour-desk', section: 'notices', to: 0 });
    expect(
      allDoors(inventory, desk(moved).doors)
        .map((d) => d.section)
        .slice(0, 2),
    ).toEqual(['notices', 'pages']);
    expect(desk(must(demo, { do: 'name-door', role: 'harbour-desk', section: 'notices', name: '' })).doors[1]).toEqual({
      section: 'notices',
      state: 'open',
    });
  });
  it('leave doors that no role in force has: those of a section that came later, and those everybody closed', () => {
    expect(doorsNobodyHas(inventory, demo.roles)).toEqual([]);
    const older = demo.roles.map((role) => ({
      ...role,
      doors: role.doors.filter((door) => door.section !== 'vacancies'),
    }));
    expect(doorsNobodyHas(inventory, older)).toEqual(['vacancies']);
    const [first, ...rest] = older;
    const one = (door: { state: 'closed' | 'away' }, archived = false) =>
      doorsNobodyHas(inventory, [
        ...rest,
        { ...first, archived, doors: [...(first?.doors ?? []), { section: 'vacancies', ...door }] },
      ]);
    expect([one({ state: 'closed' }), one({ state: 'away' })]).toEqual([['vacancies'], []]);
    expect(one({ state: 'away' }, true)).toContain('vacancies');
  });
  it('place widgets in columns, and keep those of a column that goes', () => {
    const columns = (plan: Plan) => columnsOf(desk(plan).dashboard).map((list) => list.map(({ id }) => id));
    const one = must(demo, { do: 'set-columns', role: 'harbour-desk', count: 1 });
    expect(columns(one)).toEqual([['pages.unfinished', 'pages.coming', 'notices.now', 'frame.word', 'visits.week']]);
    const first = must(one, {
      do: 'place-widget',
      role: 'harbour-desk',
      entry: 'visits.week',
      widget: 'visits.week',
      column: 0,
      index: 0,
    });
    expect(columns(first)[0]?.[0]).toBe('visits.week');
    // With as many columns again everything else is where it was.
    expect(columns(must(one, { do: 'set-columns', role: 'harbour-desk', count: 3 }))).toEqual(columns(demo));
    // The same widget a second time, with other settings, is another entry.
    const twice = must(
      must(demo, {
        do: 'place-widget',
        role: 'harbour-desk',
        entry: 'pages.lately-2',
        widget: 'pages.lately',
        column: 2,
        index: 9,
      }),
      {
        do: 'set-widget',
        role: 'harbour-desk',
        entry: 'pages.lately-2',
        widget: 'pages.lately',
        hold: 'move',
        size: 'narrow',
        settings: { branch: '2' },
      },
    );
    expect(columns(twice)[2]).toEqual(['visits.week', 'pages.lately-2']);
  });
  it('keep only words that differ from the given ones', () => {
    const own = must(demo, {
      do: 'word-stop',
      role: 'harbour-desk',
      task: 'pages.find',
      stop: 'pages.tree.filter',
      title: 'Type',
      text: '',
    });
    expect(desk(own).tours['pages.find']).toEqual({ 'pages.tree.filter': { title: 'Type' } });
    expect(
      desk(
        must(own, {
          do: 'word-stop',
          role: 'harbour-desk',
          task: 'pages.find',
          stop: 'pages.tree.filter',
          title: '',
          text: '',
        }),
      ).tours['pages.find'],
    ).toBeUndefined();
  });
  it.each([
    [{ do: 'tick-task', role: 'ghost', task: 'pages.find', ticked: true }, 'no-role'],
    [{ do: 'tick-task', role: 'harbour-desk', task: 'moon.landing', ticked: true }, 'no-such-thing'],
    [{ do: 'tick-task', role: 'harbour-desk', task: 'pages.find', ticked: true }, 'already-so'],
    [{ do: 'set-door', role: 'keyholder', section: 'pages', state: 'closed' }, 'keyholder-stays'],
    [{ do: 'remove-grant', role: 'keyholder', grant: 'everything' }, 'keyholder-stays'],
    [
      {
        do: 'add-grant',
        role: 'harbour-desk',
        grant: { id: 'x', effect: 'allow', permission: 'moon.land', scope: {} },
      },
      'no-such-thing',
    ],
    [{ do: 'set-tool', role: 'harbour-desk', tool: 'glitter', on: true }, 'no-such-thing'],
  ] as [Operation, string][])('%j is refused: %s', (op, code) => {
    expect(applyOperation(inventory, demo, op)).toMatchObject({ ok: false, code });
  });
});

describe('differences in words', () => {
  it('say what a release changes for whom', () => {
    let after = must(demo, { do: 'set-door', role: 'harbour-desk', section: 'pictures', state: 'away' });
    after = must(after, { do: 'set-tool', role: 'harbour-desk', tool: 'link.page', on: false });
    after = must(after, {
      do: 'add-grant',
      role: 'cafe-manager',
      grant: { id: 'p', effect: 'allow', permission: 'page.publish', scope: { branch: '4' } },
    });
    after = must(after, { do: 'tick-task', role: 'cafe-manager', task: 'notices.end', ticked: false });
    expect(differences(inventory, demo, after, (id) => `page ${id}`)).toEqual([
      {
        role: 'harbour-desk',
        name: 'Harbour desk',
        lines: [
          'Door “Pictures”: look only → put away.',
          'A rule for tools: Everywhere, “Harbour desk” goes without “Link to a page”.',
        ],
      },
      {
        role: 'cafe-manager',
        name: 'Café manager',
        lines: [
          'Task no longer asked of them: “End a notice”.',
          'They may now publish pages without a second look, under page 4.',
        ],
      },
    ]);
  });
});
