import { describe, expect, it } from 'vitest';
import {
  closure,
  covers,
  decide,
  explainInWords,
  refuseInWords,
  VISIT,
  type Grant,
  type Place,
  type Policy,
  type PolicyRole,
  type Question,
} from '@/core/access';
import { PLACES } from './plans';

const grant = (effect: 'allow' | 'deny', permission: string, scope: Grant['scope'] = {}): Grant => ({
  id: `${effect}${permission}${JSON.stringify(scope)}`,
  effect,
  permission,
  scope,
});
const policy = (
  roles: Record<string, Partial<PolicyRole>>,
  people: Policy['people'] extends ReadonlyMap<string, infer P> ? Record<string, Partial<P>> : never,
): Policy => ({
  roles: new Map(Object.entries(roles).map(([id, r]) => [id, { id, name: id, extends: [], grants: [], ...r }])),
  people: new Map(Object.entries(people).map(([id, p]) => [id, { id, name: id, assignments: [], ...p }])),
  secondPerson: new Set(['review.decide']),
});
const ask = (p: Policy, permission: string, place?: Place, more: Partial<Question> = {}) =>
  decide(p, { person: 'ines', permission, place, atMs: 1000, ...more });

describe('what a pattern covers', () => {
  it.each([
    ['*', 'page.edit', true],
    ['page.*', 'page.edit', true],
    ['page.edit', 'page.edit', true],
    ['page.*', 'pages.edit', false],
    ['page.edit', 'page.editor', false],
    ['media.*', 'page.edit', false],
  ])('%s on %s is %s', (pattern, permission, expected) => {
    expect(covers(pattern, permission)).toBe(expected);
  });
});

// The deny-overrides rule-combining algorithm of OASIS XACML 3.0, appendix C.2 (value from memory):
// any Deny gives Deny, else any Permit gives Permit, else NotApplicable (which a gate reads as no).
describe('deny overrides', () => {
  it.each([
    [['allow'], true],
    [['deny'], false],
    [['allow', 'deny'], false],
    [['deny', 'allow'], false],
    [['allow', 'allow'], true],
    [[], false],
  ] as [('allow' | 'deny')[], boolean][])('%j gives %s', (effects, allowed) => {
    const p = policy(
      { r: { grants: effects.map((effect) => grant(effect, 'page.edit')) } },
      { ines: { assignments: [{ role: 'r' }] } },
    );
    expect(ask(p, 'page.edit', PLACES.quay).allowed).toBe(allowed);
  });
  it('names the deny that decided and every grant that applied', () => {
    const p = policy(
      { r: { grants: [grant('allow', 'page.*'), grant('deny', 'page.edit')] } },
      { ines: { assignments: [{ role: 'r' }] } },
    );
    const decision = ask(p, 'page.edit', PLACES.quay);
    expect(decision).toMatchObject({ allowed: false, reason: 'denied', decidedBy: { grant: { effect: 'deny' } } });
    expect(decision.because).toHaveLength(2);
  });
});

// INCITS 359-2012, hierarchical RBAC: a senior role acquires the permissions of its juniors (value from memory).
describe('roles that extend roles', () => {
  const p = policy(
    {
      base: { grants: [grant('allow', 'notice.post')] },
      mid: { extends: ['base'] },
      top: { extends: ['mid'] },
      loop: { extends: ['loop2'] },
      loop2: { extends: ['loop'] },
    },
    { ines: { assignments: [{ role: 'top' }] }, tomas: { assignments: [{ role: 'loop' }] } },
  );
  it('inherit at any depth, and say the way it came', () => {
    expect(ask(p, 'notice.post', PLACES.root).decidedBy?.roles).toEqual(['top', 'mid', 'base']);
  });
  it('do not run in circles', () => {
    expect(closure(p, 'loop').map((c) => c.role.id)).toEqual(['loop', 'loop2']);
  });
});

describe('the nearest miss', () => {
  // From far to near (our own order: what is least to mend comes nearest). Of every two, in whichever order they stand.
  const ways: [string, Grant['scope'], object, object?][] = [
    ['time', {}, { untilMs: 1 }],
    ['door-closed', {}, {}, { doors: new Map([['page', 'closed']]) }],
    ['door-look', {}, {}, { doors: new Map([['page', 'look']]) }],
    ['assignment-branch', {}, { branch: '4' }],
    ['branch', { branch: '4' }, {}],
    ['layouts', { layouts: ['banner'] }, {}],
    ['states', { states: ['down'] }, {}],
    ['own', { own: true }, {}],
    ['fields', { fields: ['hours'] }, {}],
  ];
  it.each(
    ways.flatMap((far, i) =>
      ways.slice(i + 1).flatMap((near) =>
        [
          [far, near],
          [near, far],
        ].map((pair) => [far[0], near[0], pair] as const),
      ),
    ),
  )('%s is farther than %s', (_, near, pair) => {
    const roles = Object.fromEntries(
      pair.map(([missed, scope, , more], i) => [
        `r${i}`,
        { grants: [grant('allow', 'page.edit', scope)], ...more, name: missed },
      ]),
    );
    const decision = ask(
      policy(roles, { ines: { assignments: pair.map(([, , assignment], i) => ({ role: `r${i}`, ...assignment })) } }),
      'page.edit',
      { ...PLACES.quay, author: 'tomas' },
      { field: 'title' },
    );
    expect(decision.nearest?.missed).toBe(near);
    expect(decision.missed?.map((way) => way.missed)).toHaveLength(2);
  });
});

describe('where a grant holds', () => {
  const on = (scope: Grant['scope'], assignment: object = {}) =>
    policy(
      { r: { grants: [grant('allow', 'page.edit', scope)] } },
      { ines: { assignments: [{ role: 'r', ...assignment }] } },
    );
  it.each([
    ['on a branch and all below it', { branch: '2' }, PLACES.quay, true],
    ['on the branch itself', { branch: '2' }, PLACES.harbours, true],
    ['not beside it', { branch: '2' }, PLACES.cafe, false],
    ['not above it', { branch: '2' }, PLACES.root, false],
    ['on the page alone: on it', { branch: '2', only: true }, PLACES.harbours, true],
    ['on the page alone: not below it', { branch: '2', only: true }, PLACES.quay, false],
    ['on own work', { own: true }, PLACES.quay, true],
    ['not on the work of others', { own: true }, PLACES.cafe, false],
    ['on certain layouts', { layouts: ['harbour'] }, PLACES.quay, true],
    ['not on other layouts', { layouts: ['harbour'] }, PLACES.cafe, false],
    ['in certain states', { states: ['draft'] }, PLACES.quay, true],
    ['not in other states', { states: ['draft'] }, PLACES.cafe, false],
    ['only where all parts hold', { branch: '2', states: ['published'] }, PLACES.quay, false],
  ] as [string, Grant['scope'], Place, boolean][])('%s', (_, scope, place, allowed) => {
    expect(ask(on(scope), 'page.edit', place).allowed).toBe(allowed);
  });
  it('on some fields: on those, and on changing anything at all; not on others', () => {
    const p = on({ fields: ['hours', 'summary'] });
    expect(
      [undefined, 'hours', 'summary', 'title'].map((field) => ask(p, 'page.edit', PLACES.quay, { field }).allowed),
    ).toEqual([true, true, true, false]);
    expect(ask(p, 'page.edit', PLACES.quay, { field: 'title' })).toMatchObject({
      reason: 'nothing-allows',
      nearest: { missed: 'fields' },
    });
    const both = policy(
      {
        r: {
          grants: [grant('allow', 'page.edit', { fields: ['hours'] }), grant('allow', 'page.edit', { branch: '4' })],
        },
      },
      { ines: { assignments: [{ role: 'r' }] } },
    );
    expect([
      ask(both, 'page.edit', PLACES.quay, { field: 'title' }).allowed,
      ask(both, 'page.edit', PLACES.cafe, { field: 'title' }).allowed,
    ]).toEqual([false, true]);
  });
  it('intersects with the branch of the assignment', () => {
    expect(ask(on({ branch: '2' }, { branch: '3' }), 'page.edit', PLACES.quay).allowed).toBe(true);
    expect(ask(on({ branch: '2' }, { branch: '3' }), 'page.edit', PLACES.harbours).allowed).toBe(false);
  });
  it('is not limited by an assignment’s branch for things without a place, but by its own', () => {
    expect(ask(on({}, { branch: '3' }), 'page.edit').allowed).toBe(true);
    expect(ask(on({ branch: '3' }), 'page.edit').allowed).toBe(false);
    expect(ask(on({ own: true }), 'page.edit', undefined, { author: 'ines' }).allowed).toBe(true);
    expect(ask(on({ own: true }), 'page.edit').allowed).toBe(false);
  });
  it('begins at its first instant and ends before its last', () => {
    const p = on({}, { fromMs: 1000, untilMs: 2000 });
    expect([999, 1000, 1999, 2000].map((atMs) => ask(p, 'page.edit', PLACES.quay, { atMs }).allowed)).toEqual([
      false,
      true,
      true,
      false,
    ]);
  });
});

describe('who may not, whatever the roles say', () => {
  it('a suspended person, an unknown one, and a second look at one’s own work', () => {
    const p = policy(
      { r: { grants: [grant('allow', '*')] } },
      { ines: { suspended: true, assignments: [{ role: 'r' }] }, priya: { assignments: [{ role: 'r' }] } },
    );
    expect(ask(p, 'page.edit').reason).toBe('suspended');
    expect(ask(p, 'page.edit', undefined, { person: 'nobody' }).reason).toBe('unknown-person');
    expect(ask(p, 'review.decide', PLACES.quay, { person: 'priya', writtenBy: ['ines', 'priya'] }).reason).toBe(
      'second-person',
    );
    expect(ask(p, 'review.decide', PLACES.quay, { person: 'priya', writtenBy: ['ines'] }).allowed).toBe(true);
  });
});

describe('doors', () => {
  const p = (door: 'open' | 'look' | 'away' | 'closed') =>
    policy(
      { r: { grants: [grant('allow', 'page.*')], doors: new Map([['page', door]]) } },
      { ines: { assignments: [{ role: 'r' }] } },
    );
  it.each([
    ['open', true, true],
    ['look', true, false],
    ['away', true, true],
    ['closed', false, false],
  ] as const)('%s: may read %s, may work %s', (door, read, work) => {
    expect(ask(p(door), 'page.view', PLACES.quay).allowed).toBe(read);
    expect(ask(p(door), 'page.edit', PLACES.quay).allowed).toBe(work);
  });
  it('limit what their own role allows, not what another role of the same person allows', () => {
    const both = policy(
      {
        shut: { grants: [grant('allow', 'page.*')], doors: new Map([['page', 'closed']]) },
        wide: { grants: [grant('allow', 'page.edit')], doors: new Map([['page', 'open']]) },
      },
      { ines: { assignments: [{ role: 'shut' }, { role: 'wide' }] } },
    );
    expect(ask(both, 'page.edit', PLACES.quay).decidedBy?.roles).toEqual(['wide']);
  });
});

describe('the words of an answer', () => {
  const names = {
    role: (id: string) => id.toUpperCase(),
    page: (id: string) => `page ${id}`,
    doing: () => 'change pages',
    keyholder: 'Maud',
  };
  it('name the role and where it came from', () => {
    const p = policy(
      { base: { grants: [grant('allow', 'page.edit', { branch: '2' })] }, desk: { extends: ['base'] } },
      { ines: { assignments: [{ role: 'desk' }] } },
    );
    expect(explainInWords(ask(p, 'page.edit', PLACES.quay), 'page.edit', names)).toBe(
      'DESK (from “BASE”) may change pages, under page 2.',
    );
    expect(explainInWords(ask(p, 'page.edit', PLACES.cafe), 'page.edit', names)).toBe(
      'DESK (from “BASE”) may change pages under page 2, but this lies elsewhere.',
    );
    expect(refuseInWords(ask(p, 'page.edit', PLACES.cafe), 'page.edit', names)).toBe(
      'You may change pages under page 2, but this lies elsewhere. Ask Maud if you need to.',
    );
  });
  it.each<[string, Grant['scope'], object, object, string, string]>([
    [
      'time',
      {},
      { untilMs: 1 },
      {},
      'R may change pages, but the assignment is not in force at this time.',
      'Your time for this has not begun or is over.',
    ],
    [
      'a door that is shut',
      {},
      {},
      { doors: new Map([['page', 'closed']]) },
      'R may change pages, but its door is closed.',
      'Your room does not include this: you may not change pages.',
    ],
    [
      'a door to look',
      {},
      {},
      { doors: new Map([['page', 'look']]) },
      'R may change pages, but its door is set to look only.',
      'You can read this, but not change it.',
    ],
    [
      'a branch of the rule',
      { branch: '4' },
      {},
      {},
      'R may change pages under page 4, but this lies elsewhere.',
      'You may change pages under page 4, but this lies elsewhere.',
    ],
    [
      'a page alone',
      { branch: '4', only: true },
      {},
      {},
      'R may change pages on page 4 alone, but this lies elsewhere.',
      'You may change pages on page 4 alone, but this lies elsewhere.',
    ],
    [
      'a branch of the assignment',
      {},
      { branch: '4' },
      {},
      'R may change pages under page 4, but this lies elsewhere.',
      'You may change pages under page 4, but this lies elsewhere.',
    ],
    [
      'a branch of the assignment that is the rule’s, told once',
      { branch: '4' },
      { branch: '4' },
      {},
      'R may change pages under page 4, but this lies elsewhere.',
      'You may change pages under page 4, but this lies elsewhere.',
    ],
    [
      'a branch of the assignment and another of the rule',
      { branch: '2' },
      { branch: '4' },
      {},
      'R may change pages under page 4, under page 2, but this lies elsewhere.',
      'You may change pages under page 4, under page 2, but this lies elsewhere.',
    ],
    [
      'own work',
      { own: true },
      {},
      {},
      'R may change pages, but only on their own work.',
      'You may change pages, but only your own work.',
    ],
    [
      'layouts',
      { layouts: ['banner', 'plain'] },
      {},
      {},
      'R may change pages, but only on the layout banner or plain.',
      'You may change pages with layout banner or plain, but this is none of those.',
    ],
    [
      'states',
      { states: ['down'] },
      {},
      {},
      'R may change pages, but only on what is taken down.',
      'You may change pages that are taken down, but this is none of those.',
    ],
    [
      'fields',
      { fields: ['hours', 'body'] },
      {},
      {},
      'R may change pages, but only hours and body of them.',
      'You may change only hours and body here.',
    ],
  ])('tell what stands in the way: %s', (_, scope, assignment, role, explained, refused) => {
    const decision = ask(
      policy(
        { r: { grants: [grant('allow', 'page.edit', scope)], ...role } },
        { ines: { assignments: [{ role: 'r', ...assignment }] } },
      ),
      'page.edit',
      { ...PLACES.quay, author: 'tomas' },
      { field: 'title' },
    );
    expect(explainInWords(decision, 'page.edit', names)).toBe(explained);
    expect(refuseInWords(decision, 'page.edit', names)).toBe(`${refused} Ask Maud if you need to.`);
  });
});

// Who may visit a page on the website, by the page's own rights.
describe('a page with rights of its own', () => {
  const p = policy(
    {
      desk: { extends: ['crew'], grants: [grant('allow', 'page.edit')] },
      crew: {},
      keeper: { grants: [grant('allow', '*')] },
      barred: { grants: [grant('deny', '*', { branch: '2' })] },
    },
    {
      ines: { assignments: [{ role: 'desk', untilMs: 2000 }] },
      maud: { assignments: [{ role: 'keeper' }] },
      tomas: { suspended: true, assignments: [{ role: 'desk' }] },
      juno: { assignments: [{ role: 'desk' }, { role: 'barred' }] },
      oskar: { assignments: [{ role: 'desk', branch: '4' }] },
      idle: {},
    },
  );
  const visit = (who: string | null, audience: Place['audience'], atMs = 1000) =>
    decide(p, { person: who, permission: VISIT, place: { ...PLACES.quay, audience }, atMs }).allowed;
  const all = [null, 'ines', 'maud', 'tomas', 'juno', 'oskar', 'idle'];
  it.each<[string, Place['audience'], boolean[]]>([
    ['none: everyone, whoever they are', undefined, [true, true, true, true, true, true, true]],
    ['everyone', { kind: 'everyone' }, [true, true, true, true, true, true, true]],
    [
      'members: whoever holds anything, wherever, and is not barred',
      { kind: 'members' },
      [false, true, true, false, false, true, false],
    ],
    [
      'a role, also through one that extends it, held here',
      { kind: 'roles', roles: ['crew'] },
      [false, true, true, false, false, false, false],
    ],
    [
      'a role nobody of them has: only who may do everything',
      { kind: 'roles', roles: ['other'] },
      [false, false, true, false, false, false, false],
    ],
  ])('%s', (_, audience, expected) => {
    expect(all.map((who) => visit(who, audience))).toEqual(expected);
  });
  it('counts a member only while the assignment lasts', () => {
    expect([visit('ines', { kind: 'members' }, 1999), visit('ines', { kind: 'members' }, 2000)]).toEqual([true, false]);
  });
  it('lets a visitor do nothing else', () => {
    expect(decide(p, { person: null, permission: 'page.view', place: PLACES.quay, atMs: 0 })).toMatchObject({
      allowed: false,
      reason: 'unknown-person',
    });
  });
});
