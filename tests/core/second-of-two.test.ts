import { describe, expect, it } from 'vitest';
import { explainInWords, decide, wayInWords } from '@/core/access';
import { arranged, asPrepared, changedOwn } from '@/core/dashboard';
import { applyOperation, beyondMe, policyOf, worldOf, type Operation, type Plan } from '@/core/plan';
import { differences, impactOf } from '@/core/release';
import { room } from '@/core/room';
import { resolveTools } from '@/core/toolbar';
import { allow, deny, person, plan, PLACES, role } from './plans';
import { inventory } from '../inventory';

// The second of two like cases, and the one in the middle: where a first one is tried elsewhere.

const places = Object.values(PLACES);
const open = (...sections: string[]) => sections.map((section) => ({ section, state: 'open' as const }));
const apply = (p: Plan, ...operations: Operation[]) =>
  operations.reduce((now, operation) => {
    const done = applyOperation(inventory, now, operation);
    if (!done.ok) throw new Error(done.detail);
    return done.plan;
  }, p);
const names = {
  role: (id: string) => id.toUpperCase(),
  page: (id: string) => `page ${id}`,
  doing: (id: string) => id,
  keyholder: 'Maud',
};

describe('a keyholder', () => {
  const p = plan();
  const world = worldOf(
    inventory,
    places.map(({ path }) => path),
  );
  const ground = { inventory, world, nowMs: 1000 };
  const whole = person('new', { role: 'keyholder' });
  it('of one branch, or of another time, makes nobody keyholder of the whole website; one of the whole does, past their own last day', () => {
    const beyond = (...held: Parameters<typeof person>[1][]) => beyondMe(ground, p, person('me', ...held), whole);
    expect(beyond({ role: 'keyholder' })).toBeUndefined();
    expect(beyond({ role: 'keyholder', untilMs: 5000 })).toBeUndefined();
    expect(beyond({ role: 'keyholder', branch: '2' })).toBeDefined();
    expect(beyond({ role: 'keyholder', branch: '2' }, { role: 'keyholder', branch: '4' })).toBeDefined();
    expect(beyond({ role: 'keyholder', untilMs: 500 })).toBeDefined();
    expect(beyond({ role: 'keyholder', fromMs: 2000 })).toBeDefined();
  });
});

describe('a chain of three roles', () => {
  it('names the one held and the one that has the rule, not the one in the middle', () => {
    const p = plan(
      role('a', { extends: ['b'], doors: open('pages') }),
      role('b', { extends: ['c'] }),
      role('c', { grants: [allow('page.edit', { branch: '2' })] }),
    );
    const policy = policyOf(inventory, p, [person('ines', { role: 'a' })]);
    const ask = { person: 'ines', permission: 'page.edit', atMs: 0 };
    const yes = decide(policy, { ...ask, place: PLACES.quay });
    expect(yes.decidedBy && wayInWords(yes.decidedBy, 'page.edit', names)).toBe(
      'A (from “C”) may page.edit, under page 2',
    );
    expect(explainInWords(decide(policy, { ...ask, place: PLACES.cafe }), 'page.edit', names)).toBe(
      'A (from “C”) may page.edit under page 2, but this lies elsewhere.',
    );
  });
});

describe('a verdict on a task', () => {
  const at = (p: Plan) => room({ inventory, plan: p, person: person('ines', { role: 'r' }), places, nowMs: 0 });
  it('names the door that is shut, not the first there is', () => {
    const made = plan(
      role('r', {
        tasks: [{ task: 'pages.banner' }],
        grants: [allow('page.*'), allow('media.*')],
        doors: [...open('pages'), { section: 'pictures', state: 'closed' }],
      }),
    );
    expect(at(made).tasks[0]?.verdict).toEqual({
      can: false,
      missing: { kind: 'door', id: 'pictures', state: 'closed' },
    });
  });
  it('never lets the first page be taken away, and no branch in which one page is forbidden', () => {
    const all = role('r', { tasks: [{ task: 'pages.retire' }], grants: [allow('page.*')], doors: open('pages') });
    const pages = (p: Plan) => [...(at(p).tasks[0]?.pages() ?? [])].sort();
    expect(pages(plan(all))).toEqual(['2', '3', '4']);
    const one = { ...all, grants: [...all.grants, deny('page.retire', { branch: '3' })] };
    expect(pages(plan(one))).toEqual(['4']);
  });
});

describe('why a tool is missing', () => {
  const spot = { path: ['1', '2'], layout: 'plain', state: 'draft', field: 'body', day: 1 };
  it('is told by the strongest rule that took it', () => {
    const answer = resolveTools(
      {
        tools: ['bold', 'italic'],
        sets: new Map(),
        rules: [
          { id: 'narrow', when: { roles: ['r'], fields: ['body'] }, then: { take: ['bold'] } },
          { id: 'gives', when: { roles: ['r'] }, then: { add: ['bold', 'italic'] } },
          { id: 'wide', when: { roles: ['r'], branch: '2' }, then: { take: ['bold'] } },
        ],
        extended: new Map([['r', new Set(['r'])]]),
      },
      ['r'],
      spot,
    );
    expect(answer.missing).toEqual([{ tool: 'bold', rule: 'narrow', why: 'taken' }]);
  });
});

describe('an operation', () => {
  it('puts a role away on which only put away ones build, and none on which one builds that is not', () => {
    const p = plan(role('base'), role('old', { extends: ['base'] }));
    const away = (of: string): Operation => ({ do: 'archive-role', role: of, archived: true });
    expect(applyOperation(inventory, p, away('base'))).toMatchObject({ ok: false, code: 'in-use' });
    expect(applyOperation(inventory, apply(p, away('old')), away('base'))).toMatchObject({ ok: true });
  });
  it('neither hides nor locks the layout', () => {
    const p = plan(role('r'));
    const set = (said: object): Operation => ({
      do: 'set-element',
      role: 'r',
      element: 'page.layout',
      place: {},
      said,
    });
    expect(applyOperation(inventory, p, set({ show: 'hidden' }))).toMatchObject({ ok: false, code: 'needed-stays' });
    expect(applyOperation(inventory, p, set({ lock: 'No.' }))).toMatchObject({ ok: false, code: 'needed-stays' });
    expect(applyOperation(inventory, p, set({ hint: 'Choose.' }))).toMatchObject({ ok: true });
  });
});

describe('what is told of a change', () => {
  it('calls a role by its new name, also where others build on it', () => {
    const before = plan(role('base', { name: 'Gate' }), role('r', { name: 'Desk' }));
    const after = apply(
      before,
      { do: 'name-role', role: 'base', name: 'Pier', purpose: '' },
      { do: 'set-extends', role: 'r', extends: ['base'] },
    );
    const told = differences(inventory, before, after, (id) => id);
    expect(told.find(({ role: of }) => of === 'base')?.lines).toEqual(['The role is now called “Pier”.']);
    expect(told.find(({ role: of }) => of === 'r')?.lines).toEqual(['It builds on “Pier”.']);
  });
  it('counts the pages below where it is not all of them', () => {
    const tree = ['2', '3', '4', '5', '6'].map((id) => ({
      ...PLACES.quay,
      path: id === '2' ? ['1', '2'] : ['1', '2', id],
    }));
    const all = [PLACES.root, ...tree, { ...PLACES.cafe, path: ['1', '9'] }];
    const gains = (scope: object, more: Plan['roles'][number]['grants'] = []) => {
      const before = plan(role('r', { doors: open('pages'), grants: more }));
      const after = apply(before, {
        do: 'add-grant',
        role: 'r',
        grant: { id: 'new', effect: 'allow', permission: 'page.edit', scope },
      });
      return impactOf({
        inventory,
        before,
        after,
        person: person('ines', { role: 'r' }),
        places: all,
        pageName: (id) => `P${id}`,
        nowMs: 0,
      }).flatMap(({ words }) => (words.startsWith('May change pages') ? [words] : []));
    };
    expect(gains({ branch: '2' })).toEqual(['May change pages, on “P2” and all below.']);
    expect(gains({ branch: '2', only: true })).toEqual(['May change pages, on “P2”.']);
    const forbidden = ['5', '6'].map((id) => ({ ...deny('page.edit', { branch: id }), id: `d-${id}` }));
    expect(gains({ branch: '2' }, forbidden)).toEqual(['May change pages, on “P2” and 2 below.']);
    expect(gains({})).toEqual(['May change pages, on the whole website.']);
  });
});

describe('a widget', () => {
  it('that is put away and brought back stands where it stood, moved or not', () => {
    const board = {
      columns: 2,
      widgets: ['a', 'b', 'c', 'd'].map((id, i) => ({
        id,
        widget: 'notices.now',
        column: i < 3 ? 0 : 1,
        hold: 'away' as const,
        size: 'narrow' as const,
      })),
    };
    const order = (own: Parameters<typeof arranged>[1]) =>
      [0, 1].map((at) => arranged(board, own).shown.flatMap(({ id, column }) => (column === at ? [id] : [])));
    const done = (own: Parameters<typeof arranged>[1], change: Parameters<typeof changedOwn>[2]) => {
      const next = changedOwn(board, own, change, ({ id }) => id);
      if (!next) throw new Error('refused');
      return next;
    };
    const back = (own: Parameters<typeof arranged>[1], entry: string) =>
      done(done(own, { do: 'show', entry, on: false }), { do: 'show', entry, on: true });
    for (const entry of ['a', 'b', 'c', 'd'])
      expect(order(back(asPrepared(), entry)), entry).toEqual(order(asPrepared()));
    const moved = done(asPrepared(), { do: 'move', entry: 'b', column: 1, index: 0 });
    expect(order(moved)).toEqual([
      ['a', 'c'],
      ['b', 'd'],
    ]);
    expect(order(back(moved, 'b'))).toEqual(order(moved));
    expect(order(back(moved, 'a'))).toEqual(order(moved));
  });
});
