import { describe, expect, it } from 'vitest';
import {
  AccessIndex,
  decide,
  extentsOf,
  joinExtents,
  openBundle,
  rulesAllow,
  rulesFor,
  type Place,
  type PolicyPerson,
  type Question,
} from '@/core/access';
import {
  applyOperation,
  assignmentFaults,
  holdersInTheWay,
  MATRIX_HEAD,
  matrixOf,
  openRoles,
  policyOf,
  remediesFor,
  isOfOnePage,
  withMatrix,
  type Operation,
  type Plan,
} from '@/core/plan';
import { neededBy, surplusOf } from '@/core/task';
import { boardOf } from '@/core/dashboard';
import { randomFrom } from '../oracles/worlds';
import { referenceAllows } from '../oracles/reference';
import { allow, deny, person, PLACES, plan, role } from './plans';
import { inventory } from '../inventory';

const pages = Object.values(PLACES);
const permissionIds = [...inventory.permissions.keys()];
const open = (...sections: string[]) => sections.map((section) => ({ section, state: 'open' as const }));
/** The least that holds on the page asked about and all below it. */
const remedyFor = (...asked: Parameters<typeof remediesFor>) => remediesFor(...asked).find((one) => !isOfOnePage(one));
const ask = (p: Plan, people: PolicyPerson[], question: Question) => decide(policyOf(inventory, p, people), question);
const apply = (p: Plan, operations: readonly Operation[]): Plan =>
  operations.reduce((now, op) => {
    const applied = applyOperation(inventory, now, op);
    if (!applied.ok) throw new Error(applied.detail);
    return applied.plan;
  }, p);

/** Random plans over the real inventory: branches, doors, denies, roles that build on roles, dates. */
function randomPlan(seed: number): { p: Plan; people: PolicyPerson[]; question: Question } {
  const { oneOf, chance, below } = randomFrom(seed);
  const scope = () => ({
    ...(chance(0.4) && { branch: oneOf(['1', '2', '3', '4']) }),
    ...(chance(0.15) && { own: true as const }),
    ...(chance(0.15) && { states: [oneOf(['draft', 'published'] as const)] }),
  });
  const someFields = (_: string, where: object) => allow('page.edit', { ...where, fields: ['hours'] });
  const make = (id: string, parents: string[]) =>
    role(id, {
      extends: parents,
      grants: Array.from({ length: 1 + below(4) }, (_, i) => ({
        ...(chance(0.25) ? deny : chance(0.1) ? someFields : allow)(
          oneOf([...permissionIds, 'page.*', 'notice.*']),
          scope(),
        ),
        id: `g${i}`,
      })),
      doors: inventory.doors.map((s) => ({
        section: s.id,
        state: oneOf(['open', 'open', 'look', 'away', 'closed'] as const),
      })),
    });
  const p = plan(make('a', chance(0.5) ? ['b'] : []), make('b', []));
  const held = () => ({
    role: oneOf(['a', 'b']),
    ...(chance(0.3) && { branch: oneOf(['2', '4']) }),
    ...(chance(0.2) && { untilMs: oneOf([500, 2000]) }),
  });
  const people = [
    { ...person('ines', held(), ...(chance(0.4) ? [held()] : [])), suspended: chance(0.05) },
    person('tomas', { role: 'a' }),
  ];
  const permission = oneOf(permissionIds);
  return {
    p,
    people,
    question: {
      person: 'ines',
      permission,
      ...(inventory.permissions.get(permission)?.placed && { place: oneOf(pages) }),
      atMs: 1000,
    },
  };
}

describe('the least change that would turn a no', () => {
  it('turns it, whenever one is offered, of every kind (random plans)', () => {
    const kinds = new Map<string, number>();
    for (let seed = 1; seed <= 600; seed++) {
      const { p, people, question } = randomPlan(seed);
      const decision = ask(p, people, question);
      const remedy = remedyFor(inventory, p, people, question, decision);
      const told = `seed ${seed}: ${question.permission} ${JSON.stringify(remedy)}`;
      kinds.set(remedy?.kind ?? 'none', (kinds.get(remedy?.kind ?? 'none') ?? 0) + 1);
      if (decision.allowed) expect(remedy, told).toBeUndefined();
      if (remedy?.kind === 'plan') expect(ask(apply(p, remedy.operations), people, question).allowed, told).toBe(true);
      if (remedy?.kind === 'assignment')
        expect(
          ask(
            p,
            people.map((one) => ({
              ...one,
              assignments: one.assignments.map((a) => (a === remedy.before ? remedy.after : a)),
            })),
            question,
          ).allowed,
          told,
        ).toBe(true);
      if (remedy?.kind === 'resume') expect(people[0]?.suspended, told).toBe(true);
    }
    expect(kinds.get('plan')).toBeGreaterThan(150);
    expect(kinds.get('assignment')).toBeGreaterThan(2);
    expect(kinds.get('resume')).toBeGreaterThan(5);
  });
  const place: Place = PLACES.cafe;
  const of = (p: Plan, people: PolicyPerson[], permission: string, more: Partial<Question> = {}) => {
    const question: Question = { person: 'ines', permission, place, atMs: 1000, ...more };
    return remedyFor(inventory, p, people, question, ask(p, people, question));
  };
  it('opens a door before it adds a rule, and adds a rule no wider than the page', () => {
    const desk = role('desk', { grants: [allow('notice.post')], doors: open('pages') });
    expect(of(plan(desk), [person('ines', { role: 'desk' })], 'notice.post')).toEqual({
      kind: 'plan',
      operations: [{ do: 'set-door', role: 'desk', section: 'notices', state: 'open' }],
      alsoFor: [],
    });
    expect(of(plan(desk), [person('ines', { role: 'desk' })], 'page.edit')).toMatchObject({
      operations: [{ do: 'add-grant', role: 'desk', grant: { permission: 'page.edit', scope: { branch: '4' } } }],
    });
  });
  it('opens a door to look where nothing is done behind it by that role, and wholly where something is', () => {
    const state = (...tasks: string[]) =>
      of(
        plan(role('desk', { grants: [allow('page.*')], tasks: tasks.map((task) => ({ task })) })),
        [person('ines', { role: 'desk' })],
        'page.view',
      );
    expect(state()).toMatchObject({ operations: [{ do: 'set-door', section: 'pages', state: 'look' }] });
    expect(state('notices.post')).toMatchObject({ operations: [{ section: 'pages', state: 'look' }] });
    expect(state('pages.words')).toMatchObject({ operations: [{ section: 'pages', state: 'open' }] });
  });
  it('is told for the page alone first, then with all below it', () => {
    const p = plan(role('desk', { doors: open('pages') }));
    const people = [person('ines', { role: 'desk' })];
    const question: Question = { person: 'ines', permission: 'page.edit', place, atMs: 1000 };
    expect(
      remediesFor(inventory, p, people, question, ask(p, people, question)).map((remedy) =>
        remedy.kind === 'plan' ? remedy.operations.map((op) => op.do === 'add-grant' && op.grant.scope) : remedy.kind,
      ),
    ).toEqual([[{ branch: '4', only: true }], [{ branch: '4' }]]);
  });
  it('chooses the role fewest others hold, and names them', () => {
    const p = plan(role('wide', { doors: open('pages') }), role('rare', { doors: open('pages') }));
    const people = [person('ines', { role: 'wide' }, { role: 'rare' }), person('tomas', { role: 'wide' })];
    expect(of(p, people, 'page.edit')).toMatchObject({ operations: [{ role: 'rare' }], alsoFor: [] });
    expect(
      of(
        plan(role('wide', { doors: open('pages') })),
        [person('ines', { role: 'wide' }), person('tomas', { role: 'wide' })],
        'page.edit',
      ),
    ).toMatchObject({ alsoFor: ['tomas'] });
  });
  it('takes every deny away that stands against it, also one that came with another role', () => {
    const p = plan(
      role('base', { grants: [deny('page.edit')] }),
      role('desk', { extends: ['base'], grants: [allow('page.*')], doors: open('pages') }),
    );
    expect(of(p, [person('ines', { role: 'desk' })], 'page.edit')).toEqual({
      kind: 'plan',
      operations: [{ do: 'remove-grant', role: 'base', grant: 'd-page.edit' }],
      alsoFor: [],
    });
  });
  it('mends an assignment that ended, and offers nothing where nobody may', () => {
    const p = plan(role('desk', { grants: [allow('page.*'), allow('review.*')], doors: open('pages', 'review') }));
    // Just what stands in the way is changed: the begin, the end or the branch, the others stay. Asked at 1000.
    for (const [is, becomes] of [
      [{ untilMs: 500 }, { untilMs: undefined }],
      [
        { fromMs: 100, untilMs: 500 },
        { fromMs: 100, untilMs: undefined },
      ],
      [{ fromMs: 1500 }, { fromMs: 1000 }],
      [
        { fromMs: 1500, untilMs: 2000 },
        { fromMs: 1000, untilMs: 2000 },
      ],
      [{ branch: '2' }, { branch: '4' }],
      [
        { branch: '2', fromMs: 100, untilMs: 2000 },
        { branch: '4', fromMs: 100, untilMs: 2000 },
      ],
    ])
      expect(of(p, [person('ines', { role: 'desk', ...is })], 'page.edit')).toEqual({
        kind: 'assignment',
        before: { role: 'desk', ...is },
        after: { role: 'desk', ...becomes },
      });
    expect(of(p, [person('ines', { role: 'desk' })], 'review.decide', { writtenBy: ['ines'] })).toEqual({
      kind: 'nobody',
    });
    expect(of(p, [person('ines')], 'page.edit')).toBeUndefined();
  });
});

describe('doors, in everything made for speed or taken out', () => {
  it('limit the compiled index, rules for lists and the open form alike (random plans, against the reference)', () => {
    const tree = pages.map((pl) => ({
      id: pl.path.at(-1) ?? '',
      parent: pl.path.at(-2) ?? null,
      layout: pl.layout,
      state: pl.state,
      author: pl.author,
    }));
    const wrong: string[] = [];
    for (let seed = 1; seed <= 200; seed++) {
      const { p, people } = randomPlan(seed);
      const policy = policyOf(inventory, p, people);
      const index = new AccessIndex(policy, tree, permissionIds);
      const bundle = openBundle({
        roles: openRoles(inventory, p),
        people: [...people, person('maud'), person('oskar')].map((one) => ({
          id: one.id,
          ...(one.suspended && { suspended: true }),
          assignments: one.assignments.map((a) => ({
            role: a.role,
            ...(a.branch && { branch: a.branch }),
            ...(a.untilMs !== undefined && { until: new Date(a.untilMs).toISOString() }),
          })),
        })),
        pages: tree.map((t) => ({ ...t, author: t.author ?? 'maud' })),
        apart: [],
      });
      if (!bundle.ok) throw new Error(JSON.stringify(bundle.faults));
      for (const permission of permissionIds)
        for (const place of [...pages, undefined]) {
          const question: Question = { person: 'ines', permission, place, author: 'ines', atMs: 1000 };
          const expected = referenceAllows(policy, question);
          const answers = [
            decide(policy, question).allowed,
            index.may(
              index.person('ines'),
              index.permission(permission),
              place ? index.page(place.path.at(-1) ?? '') : 0,
              1000,
              place ? undefined : index.person('ines'),
            ),
            rulesAllow(rulesFor(policy, 'ines', permission, 1000), 'ines', { place, author: 'ines' }),
            decide(bundle.policy, question).allowed,
          ];
          if (answers.some((a) => a !== expected))
            wrong.push(`seed ${seed}: ${permission} at ${place?.path.at(-1)}: ${answers.join()} not ${expected}`);
        }
    }
    expect(wrong).toEqual([]);
  });
});

describe('how far a permission goes on a branch', () => {
  it('is yes, some or no; and joined only where all agree', () => {
    const p = plan(
      role('desk', {
        grants: [allow('page.edit', { branch: '2' }), allow('media.view'), allow('media.describe', { own: true })],
        doors: open('pages', 'pictures'),
      }),
    );
    const tree = pages.map((pl) => ({
      id: pl.path.at(-1) ?? '',
      parent: pl.path.at(-2) ?? null,
      layout: pl.layout,
      state: pl.state,
      author: pl.author,
    }));
    const index = new AccessIndex(policyOf(inventory, p, [person('ines', { role: 'desk' })]), tree, permissionIds);
    const on = (branch: string) => {
      const e = extentsOf(
        index,
        0,
        index.tree.interval(branch) ?? [1, 1],
        (id) => inventory.permissions.get(id as never)?.placed ?? false,
        0,
      );
      return (id: string) => e[permissionIds.indexOf(id as never)];
    };
    expect([
      on('1')('page.edit'),
      on('2')('page.edit'),
      on('4')('page.edit'),
      on('4')('media.view'),
      on('4')('media.describe'),
      on('1')('person.view'),
    ]).toEqual(['some', 'yes', 'no', 'yes', 'some', 'no']);
    expect([joinExtents(['yes', 'yes']), joinExtents(['yes', 'no']), joinExtents(['some']), joinExtents([])]).toEqual([
      'yes',
      'some',
      'some',
      'some',
    ]);
  });
});

describe('operations on whole roles', () => {
  const p = plan(role('base'), role('desk', { extends: ['base'], grants: [allow('page.edit')] }));
  const code = (op: Operation, on = p) => {
    const applied = applyOperation(inventory, on, op);
    return applied.ok ? 'ok' : applied.code;
  };
  it.each<[string, Operation, string]>([
    ['a role that is there', { do: 'add-role', role: 'desk', name: 'x', purpose: '' }, 'already-so'],
    ['a copy of none', { do: 'add-role', role: 'n', name: 'x', purpose: '', like: 'ghost' }, 'no-role'],
    [
      'a copy of the keyholder',
      { do: 'add-role', role: 'n', name: 'x', purpose: '', like: 'keyholder' },
      'keyholder-stays',
    ],
    ['the keyholder archived', { do: 'archive-role', role: 'keyholder', archived: true }, 'keyholder-stays'],
    ['a role others build on archived', { do: 'archive-role', role: 'base', archived: true }, 'in-use'],
    ['a circle', { do: 'set-extends', role: 'base', extends: ['desk'] }, 'invalid'],
    ['a role apart from itself', { do: 'keep-apart', role: 'desk', other: 'desk', apart: true }, 'invalid'],
    ['apart from none', { do: 'keep-apart', role: 'desk', other: 'ghost', apart: true }, 'no-role'],
    ['together what is together', { do: 'keep-apart', role: 'desk', other: 'base', apart: false }, 'already-so'],
    ['the same plan', { do: 'replace-plan', plan: p }, 'already-so'],
    [
      'a rule changed into what stands there',
      { do: 'change-grant', role: 'desk', grant: allow('page.edit') },
      'already-so',
    ],
    [
      'a rule changed that is not there',
      { do: 'change-grant', role: 'desk', grant: { ...allow('page.view'), id: 'ghost' } },
      'no-such-thing',
    ],
  ])('refuse %s', (_, op, expected) => {
    expect(code(op)).toBe(expected);
  });
  it('copy a role as it is, and leave an archived one alone until it is brought back', () => {
    const copied = apply(p, [{ do: 'add-role', role: 'copy', name: 'Copy', purpose: 'p', like: 'desk' }]);
    expect(copied.roles.at(-1)).toEqual({ ...p.roles[2], id: 'copy', name: 'Copy', purpose: 'p' });
    const archived = apply(p, [{ do: 'archive-role', role: 'desk', archived: true }]);
    expect(code({ do: 'set-tool', role: 'desk', tool: 'bold', on: true }, archived)).toBe('archived');
    expect(apply(archived, [{ do: 'archive-role', role: 'desk', archived: false }])).toEqual(p);
  });
});

describe('assigning roles', () => {
  const p: Plan = {
    ...plan(role('base'), role('desk', { extends: ['base'] }), role('audit'), role('old', { archived: true })),
    apart: [['base', 'audit']],
  };
  const maud = person('maud', { role: 'keyholder' });
  const codes = (...assignments: PolicyPerson['assignments'][number][]) =>
    assignmentFaults(inventory, p, [maud, person('ines', ...assignments)], 'ines', 1000).map((f) => f.code);
  it('names every fault', () => {
    expect(codes({ role: 'desk' })).toEqual([]);
    expect(codes({ role: 'ghost' }, { role: 'old' })).toEqual(['unknown-role', 'archived-role']);
    expect(codes({ role: 'desk', fromMs: 5, untilMs: 5 }, { role: 'desk' }, { role: 'desk' })).toEqual([
      'ends-first',
      'twice',
    ]);
    expect(codes({ role: 'desk' }, { role: 'audit' })).toEqual(['kept-apart']);
    expect(
      assignmentFaults(inventory, p, [person('ines', { role: 'keyholder', untilMs: 2000 })], 'ines', 1000),
    ).toEqual([{ code: 'no-keyholder', gap: { fromMs: 2000 } }]);
  });
  it('tells who stands in the way of a plan', () => {
    expect(
      holdersInTheWay(p, [
        maud,
        person('ines', { role: 'desk' }, { role: 'audit' }),
        person('tomas', { role: 'old' }),
      ]).map((h) => [h.person.id, h.archived ?? h.pair?.join()]),
    ).toEqual([
      ['ines', 'base,audit'],
      ['tomas', 'old'],
    ]);
  });
});

describe('rules as a matrix', () => {
  it('come back as they went out (random plans)', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const { p } = randomPlan(seed);
      // Of rules that say the same one is enough in a matrix.
      const rows = matrixOf(p);
      if (new Set(rows.map((r) => r.join())).size !== rows.length) continue;
      expect(withMatrix(p, rows), `seed ${seed}`).toEqual({ ok: true, plan: p });
      for (const row of rows) expect(row).toHaveLength(MATRIX_HEAD.length);
    }
  });
  it('say where a fault is', () => {
    const p = plan(role('desk'));
    const read = withMatrix(p, [
      ['desk', 'page.view', '', 'allow', '', '', '', '', ''],
      ['desk', 'page', '', 'allow', '', '', '', '', ''],
      ['ghost', 'page.view', '', 'allow', '', '', '', '', ''],
      ['desk', 'page.view', '', 'allow', 'no', '', '', '', ''],
      ['desk', 'page.view', '', 'allow', '', '', 'asleep', '', ''],
      ['desk', 'page.view', '', 'allow', '', '', '', 'yes', ''],
      ['desk', 'page.view', '2', 'allow', '', '', '', 'ja', ''],
      ['desk'],
      ['desk', 'page.view', '', 'allow', '', '', '', '', 'title'],
      ['desk', 'page.edit', '', 'deny', '', '', '', '', 'title'],
      ['desk', 'page.edit', '', 'allow', '', '', '', '', 'title hours'],
    ]);
    expect(read.ok ? [] : read.faults.map((f) => f.path)).toEqual([
      '$[1].permission',
      '$[2].role',
      '$[3].own',
      '$[4].states[0]',
      '$[5].only',
      '$[6].only',
      '$[7]',
      '$[8].fields',
      '$[9].fields',
    ]);
  });
});

describe('what a role may do and needs not', () => {
  it('is surplus, but for what its tasks, their screens and its widgets need; the keyholder has none', () => {
    const r = role('desk', {
      tasks: [{ task: 'notices.post' }],
      dashboard: boardOf(['visits.week']),
      grants: [allow('notice.*'), allow('visits.view'), allow('media.view')],
    });
    const needed = neededBy(inventory, r);
    expect([...needed.keys()].sort()).toEqual(['notice.post', 'notice.view']);
    const may = (id: string) => ['notice.view', 'notice.post', 'notice.end', 'visits.view', 'media.view'].includes(id);
    expect(surplusOf(inventory, r, may)).toEqual(['notice.end', 'media.view']);
    expect(surplusOf(inventory, role('keyholder'), () => true)).toEqual([]);
  });
});
