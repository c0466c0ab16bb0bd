import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decide } from '@/core/access';
import { policyOf, samePlan, withRolesOf, type Operation, type Plan } from '@/core/plan';
import { differences, impactOf, mayLoseTools, usedAndLost, type Use } from '@/core/release';
import { fieldIds } from '@/core/inventory';
import { room } from '@/core/room';
import { demo, operation, walked } from './operations';
import { person, PLACES } from './plans';
import { inventory } from '../inventory';

const SEED = 20261126;
const inventoryFields = fieldIds(inventory);
const roleIds = demo.roles.map((role) => role.id);
const page = (id: string) => `page ${id}`;

describe('differences', () => {
  it('are none after something was taken away and given back, whatever order that leaves', () => {
    const off = walked(demo, [
      { do: 'set-tool', role: 'newsroom', tool: 'bold', on: false },
      { do: 'set-tool', role: 'newsroom', tool: 'bold', on: true },
    ]);
    expect([differences(inventory, demo, off, page), samePlan(inventory, demo, off)]).toEqual([[], true]);
    const reordered: Plan = {
      ...demo,
      toolbars: {
        ...demo.toolbars,
        sets: demo.toolbars.sets.map((set) => ({ ...set, add: set.add.toReversed() })).toReversed(),
      },
      roles: demo.roles.map((r) =>
        r.id === 'newsroom' ? { ...r, grants: [...r.grants].reverse().map((g, i) => ({ ...g, id: `x${i}` })) } : r,
      ),
    };
    expect([differences(inventory, demo, reordered, page), samePlan(inventory, demo, reordered)]).toEqual([[], true]);
  });
  it('tell a new role in full, and what it builds on by name', () => {
    const after = walked(demo, [
      { do: 'add-role', role: 'volunteers', name: 'Volunteers', purpose: 'Help out.', like: 'front-line' },
      { do: 'set-extends', role: 'cafe-manager', extends: ['front-line'] },
    ]);
    expect(differences(inventory, demo, after, page)).toEqual([
      { role: 'cafe-manager', name: 'Café manager', lines: ['It builds on “Front line”.'] },
      {
        role: 'volunteers',
        name: 'Volunteers',
        lines: [
          'This role is new.',
          'New task: “Post a notice”.',
          'New task: “End a notice”.',
          'They may now see all notices.',
          'They may now post notices.',
          'They may now end notices.',
          'Door “Notices”: closed → open.',
          'New on Today: “Notices showing now”.',
        ],
      },
    ]);
  });
});

describe('differences of what is said and set', () => {
  it('give the words themselves, their beginning where they are long, and what of a widget is set', () => {
    const text = (words: string) => ({
      type: 'doc' as const,
      content: [{ type: 'paragraph' as const, content: [{ type: 'text' as const, text: words }] }],
    });
    const widget = {
      do: 'set-widget',
      role: 'newsroom',
      entry: 'pages.unfinished',
      widget: 'pages.unfinished',
    } as const;
    const held = demo.roles
      .find(({ id }) => id === 'newsroom')
      ?.dashboard.widgets.find(({ id }) => id === widget.entry);
    if (!held) throw new Error('the demo has changed');
    const after = walked(demo, [
      { do: 'set-words', role: 'newsroom', at: 'today', text: text('Short sentences carry further.') },
      { do: 'set-words', role: 'newsroom', at: 'door:pages', text: text('long '.repeat(40)) },
      { ...widget, hold: held.hold, size: held.size, settings: { most: 7, links: [] } },
    ]);
    expect(differences(inventory, demo, after, page)).toEqual([
      {
        role: 'newsroom',
        name: 'Newsroom',
        lines: [
          '“My unfinished work” on Today has something else set: how many entries.',
          'New words on Today: “Short sentences carry further.”',
          `New words on the door “Pages”: “${'long '.repeat(24).trim()}…”.`,
        ],
      },
    ]);
  });
});

describe('a part of what is prepared', () => {
  it('takes the roles named and leaves all others as they are', () => {
    const prepared = walked(demo, [
      { do: 'set-tool', role: 'newsroom', tool: 'bold', on: false },
      { do: 'set-tool', role: 'cafe-manager', tool: 'bold', on: false },
      { do: 'keep-apart', role: 'newsroom', other: 'picture-keeper', apart: true },
      { do: 'add-role', role: 'new', name: 'New', purpose: '' },
    ]);
    const part = withRolesOf(demo, prepared, ['newsroom']);
    expect(differences(inventory, demo, part, page).map((d) => d.role)).toEqual(['picture-keeper', 'newsroom']);
    expect(
      differences(inventory, withRolesOf(demo, prepared, ['cafe-manager', 'new']), prepared, page).map((d) => d.role),
    ).toEqual(['picture-keeper', 'newsroom']);
    expect(samePlan(inventory, withRolesOf(demo, prepared, roleIds.concat('new')), prepared)).toBe(true);
    expect(withRolesOf(demo, prepared, [])).toEqual(demo);
  });
});

describe('what somebody gains and loses', () => {
  const places = Object.values(PLACES);
  const ines = person('ines', { role: 'harbour-desk' });
  const effects = (...list: Operation[]) =>
    impactOf({
      inventory,
      before: demo,
      after: walked(demo, list),
      person: ines,
      places,
      pageName: (id) => ({ 1: 'Home', 2: 'Harbours', 3: 'South Quay', 4: 'Café' })[id] ?? id,
      nowMs: 0,
    }).map((e) => `${e.kind}: ${e.words}`);
  const narrowed = (permission: string): Operation => ({
    do: 'change-grant',
    role: 'harbour-desk',
    grant: { id: `${permission}-under-2`, effect: 'allow', permission, scope: { branch: '3' } },
  });
  it('is nothing when nothing changes', () => expect(effects()).toEqual([]));
  it.each([
    [
      'a scope narrowed',
      [narrowed('page.edit')],
      [
        'loss: “Change the words on a harbour page” no longer on “Harbours”.',
        'loss: “Swap a harbour picture” no longer on “Harbours”.',
        'loss: May no longer change pages, on “Harbours”.',
      ],
    ],
    [
      'a right to whole pages that is one to some fields from now on',
      [
        {
          do: 'change-grant',
          role: 'harbour-desk',
          grant: {
            id: 'page.edit-under-2',
            effect: 'allow',
            permission: 'page.edit',
            scope: { branch: '2', fields: inventoryFields.filter((field) => field !== 'summary') },
          },
        },
      ],
      ['loss: May no longer change “Summary”, on “Harbours” and all below.'],
    ],
    [
      'a task unticked',
      [{ do: 'tick-task', role: 'harbour-desk', task: 'pages.find', ticked: false }],
      ['loss: “Find a page” is no longer among their tasks.'],
    ],
    [
      'a widget and a tool taken',
      [
        { do: 'remove-widget', role: 'harbour-desk', entry: 'visits.week', widget: 'visits.week' },
        { do: 'set-tool', role: 'harbour-desk', tool: 'bold', on: false },
      ],
      ['loss: The toolbar lacks “Bold”.', 'loss: Today no longer shows “Visits this week”.'],
    ],
    [
      'a door set to look only',
      [{ do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'look' }],
      [
        'loss: The door “Sailing notices”: open → look only.',
        'loss: “Post a sailing notice” can no longer be done.',
        'loss: “End a sailing notice” can no longer be done.',
        'loss: May no longer post notices, on the whole website.',
        'loss: May no longer end notices, on the whole website.',
      ],
    ],
    [
      'a right given',
      [
        {
          do: 'add-grant',
          role: 'harbour-desk',
          grant: { id: 'p', effect: 'allow', permission: 'page.publish', scope: { branch: '4' } },
        },
      ],
      ['gain: May publish pages without a second look, on “Café”.'],
    ],
    [
      'another door',
      [
        { do: 'set-door', role: 'harbour-desk', section: 'people', state: 'open' },
        {
          do: 'add-grant',
          role: 'harbour-desk',
          grant: { id: 'p', effect: 'allow', permission: 'person.view', scope: {} },
        },
      ],
      [
        'gain: A new door: “People”, look only.',
        'gain: “See whom to ask about a page” can be done.',
        'gain: May see who can sign in.',
      ],
    ],
    [
      'a role that others build on',
      [{ do: 'remove-grant', role: 'front-line', grant: 'notice.end' }],
      ['loss: “End a sailing notice” can no longer be done.', 'loss: May no longer end notices, on the whole website.'],
    ],
  ] as [string, Operation[], string[]][])('%s', (_, list, expected) => {
    expect(effects(...list)).toEqual(expected);
  });
  it('leaves out no page on which decide() answers otherwise, whatever was changed', () => {
    fc.assert(
      fc.property(fc.array(operation, { maxLength: 5 }), (list) => {
        const after = walked(demo, list);
        const told = impactOf({ inventory, before: demo, after, person: ines, places, pageName: String, nowMs: 0 });
        const [was, is] = [policyOf(inventory, demo, [ines]), policyOf(inventory, after, [ines])];
        for (const { id, name } of inventory.permissions.values())
          for (const place of places) {
            if (!inventory.permissions.get(id)?.placed || inventory.permissions.get(id)?.ownAuthor) continue;
            const may = (policy: typeof was) =>
              decide(policy, { person: 'ines', permission: id, place, atMs: 0 }).allowed;
            if (may(was) && !may(is))
              expect(
                told.some((e) => e.kind === 'loss' && e.words.startsWith(`May no longer ${name}`)),
                `${id} ${JSON.stringify(list)}`,
              ).toBe(true);
            if (!may(was) && may(is))
              expect(
                told.some((e) => e.kind === 'gain' && e.words.startsWith(`May ${name}`)),
                id,
              ).toBe(true);
          }
      }),
      { seed: SEED, numRuns: 300 },
    );
  });
});

describe('tasks', () => {
  it('are told as lost or gained on some pages exactly where going through all pages finds it so', () => {
    const places = Object.values(PLACES);
    const people = [
      person('ines', { role: 'harbour-desk' }),
      person('both', { role: 'newsroom' }, { role: 'cafe-manager', branch: '4' }),
      person('key', { role: 'keyholder' }),
    ];
    const role = fc.constantFrom('harbour-desk', 'newsroom', 'cafe-manager', 'keyholder');
    const place = fc.record(
      { branch: fc.constantFrom('2', '3', '4'), layouts: fc.constantFrom<string[]>(['banner'], ['plain', 'harbour']) },
      { requiredKeys: [] },
    );
    const denied = fc.constantFrom(
      'page.edit',
      'page.send',
      'page.create',
      'page.arrange',
      'page.retire',
      'notice.post',
    );
    const element = fc.constantFrom('title', 'body', 'summary', 'banner', 'pages.edit.note');
    const of = operation.filter(({ do: what }) => ['set-tool', 'put-tool-rule', 'put-tool-set'].includes(what));
    /** What pages of tasks go by, of a role that one of them holds. */
    const about = fc.oneof(
      fc.tuple(of, role).map(([one, id]) => ({ ...one, role: id }) as Operation),
      fc
        .tuple(role, denied, place)
        .map(([id, permission, scope]): Operation => ({
          do: 'add-grant',
          role: id,
          grant: { id: 'no', effect: 'deny', permission, scope },
        })),
      fc
        .tuple(role, element, place)
        .map(([id, one, where]): Operation => ({
          do: 'set-element',
          role: id,
          element: one,
          place: where,
          said: { show: 'hidden' },
        })),
    );
    let [found, checked] = [0, 0];
    fc.assert(
      fc.property(fc.array(about, { minLength: 1, maxLength: 6 }), fc.constantFrom(...people), (list, who) => {
        const after = walked(demo, list);
        const told = impactOf({ inventory, before: demo, after, person: who, places, pageName: String, nowMs: 0 });
        const [was, is] = [demo, after].map((plan) => room({ inventory, plan, person: who, places, nowMs: 0 }));
        for (const task of was?.tasks ?? []) {
          const now = is?.tasks.find((one) => one.task === task.task);
          if (!now || !task.verdict.can || !now.verdict.can) continue;
          const [a, b] = [task.pages(), now.pages()];
          checked++;
          if (a.some((id) => !b.includes(id)) || b.some((id) => !a.includes(id))) found++;
          for (const [words, more, less] of [
            ['no longer', a, b],
            ['also', b, a],
          ] as const)
            expect(
              told.some((effect) => effect.words.startsWith(`“${now.name}” ${words} on`)),
              `${task.task} ${words} ${JSON.stringify(list)}`,
            ).toBe(more.some((id) => !less.includes(id)));
        }
      }),
      { seed: SEED, numRuns: 200 },
    );
    expect([checked > 500, found > 20]).toEqual([true, true]);
  });
});

describe('tools that were used of late', () => {
  const places = Object.values(PLACES);
  const ines = person('ines', { role: 'harbour-desk' });
  const use = {
    person: 'ines',
    type: 'page',
    layout: 'harbour',
    field: 'body',
    made: 'heading.2',
    times: 3,
    items: ['3'],
  };
  const lost = (uses: Use[], ...list: Operation[]) =>
    usedAndLost({ inventory, before: demo, after: walked(demo, list), people: [ines], places, nowMs: 0 }, uses);
  const without = (when: object): Operation => ({
    do: 'put-tool-rule',
    role: 'harbour-desk',
    rule: { id: 'less', when: { roles: ['harbour-desk'], ...when }, then: { take: ['heading.2'] } },
  });
  it('and go where they were used are told, added up, with who used them', () => {
    const second = { ...use, times: 2, items: ['3', '9'] };
    expect(lost([use, second, { ...use, made: 'bold' }], without({ layouts: ['harbour'] }))).toEqual([
      { tool: 'heading.2', layout: 'harbour', field: 'body', times: 5, people: ['ines'], items: ['3', '9'] },
    ]);
  });
  it('and go because a role builds on another no longer are told, too', () => {
    const before = walked(demo, [
      { do: 'remove-tool-rule', role: 'harbour-desk', rule: 'harbour-desk' },
      {
        do: 'put-tool-rule',
        role: 'front-line',
        rule: { id: 'theirs', when: { roles: ['front-line'] }, then: { use: 'everyday' } },
      },
    ]);
    const after = walked(before, [{ do: 'set-extends', role: 'harbour-desk', extends: [] }]);
    const given = { inventory, people: [ines], places, nowMs: 0 };
    expect(usedAndLost({ ...given, before, after }, [use])).toMatchObject([{ tool: 'heading.2', people: ['ines'] }]);
    expect(usedAndLost({ ...given, before: after, after: before }, [use])).toEqual([]);
    expect(mayLoseTools(before, after, [ines])).toBe(true);
  });
  it('need not be asked about where a change has nothing to do with their tools', () => {
    const may = (...list: Operation[]) => mayLoseTools(demo, walked(demo, list), [ines]);
    expect(may(without({}))).toBe(true);
    expect(may({ do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'away' })).toBe(false);
    expect(may({ do: 'set-extends', role: 'newsroom', extends: [] })).toBe(false);
  });
  it('and stay there, or go elsewhere only, are not', () => {
    expect(lost([use])).toEqual([]);
    expect(lost([use], without({ layouts: ['plain'] }))).toEqual([]);
    expect(lost([use], without({ fields: ['intro'] }))).toEqual([]);
    expect(lost([{ ...use, person: 'nobody' }], without({}))).toEqual([]);
    // Somebody with the code view loses nothing.
    expect(lost([use], without({}), { do: 'set-tool', role: 'harbour-desk', tool: 'mode.code', on: true })).toEqual([]);
  });
});
