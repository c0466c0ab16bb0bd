import Ajv2020 from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import {
  answerOf,
  bundleJsonSchema,
  decide,
  firstLockOut,
  openBundle,
  readQuestion,
  type Bundle,
  type Grant,
  type PolicyPerson,
} from '@/core/access';
import { inPlainWords, jsonPath } from '@/core/json';
import { randomFrom } from '../oracles/worlds';

const good = (): Bundle => ({
  roles: [
    { id: 'front', name: 'Front line', extends: [], grants: [{ effect: 'allow', permission: 'notice.*', scope: {} }] },
    {
      id: 'desk',
      name: 'Desk',
      extends: ['front'],
      grants: [
        { effect: 'allow', permission: 'page.edit', scope: { branch: 'quays', states: ['draft'] } },
        { effect: 'deny', permission: 'page.edit', scope: { layouts: ['legal'] } },
      ],
    },
    { id: 'audit', name: 'Audit', extends: [], grants: [] },
  ],
  people: [
    {
      id: 'ana',
      assignments: [
        { role: 'desk', branch: 'quays', from: '2026-01-01T00:00:00+01:00', until: '2026-06-01T00:00:00Z' },
      ],
    },
    { id: 'ben', suspended: true, assignments: [{ role: 'desk' }] },
  ],
  pages: [
    { id: 'home', parent: null, layout: 'plain', state: 'published', author: 'ben' },
    { id: 'quays', parent: 'home', layout: 'plain', state: 'draft', author: 'ana' },
  ],
  apart: [['desk', 'audit']],
});
/** The faults of the good bundle with one value put, or with undefined taken away, at a path. */
function faultsWith(...changes: [path: (string | number)[], value: unknown][]): string[] {
  const broken: unknown = good();
  for (const [path, value] of changes) {
    let at = broken as Record<string | number, unknown>;
    for (const part of path.slice(0, -1)) at = at[part] as Record<string | number, unknown>;
    const last = path.at(-1) ?? '';
    if (value === undefined) delete at[last];
    else at[last] = value;
  }
  const result = openBundle(broken);
  return result.ok ? [] : result.faults.map((f) => `${f.path} ${f.message}`);
}

describe('a bundle', () => {
  it('that is whole is read, and its own JSON Schema says so too (ajv, JSON Schema 2020-12)', () => {
    expect(openBundle(good()).ok).toBe(true);
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(bundleJsonSchema());
    expect(validate(good())).toBe(true);
    expect(validate({ ...good(), more: 1 })).toBe(false);
  });
  it.each<[string, (string | number)[], unknown, string]>([
    ['an effect that is none', ['roles', 0, 'grants', 0, 'effect'], 'maybe', '$.roles[0].grants[0].effect'],
    ['a permission that is none', ['roles', 0, 'grants', 0, 'permission'], 'page', '$.roles[0].grants[0].permission'],
    ['a part nobody knows', ['roles', 0, 'colour'], 'red', '$.roles[0].colour'],
    ['a part that is missing', ['apart'], undefined, '$.apart'],
    [
      'own: false, which would mean nothing',
      ['roles', 1, 'grants', 0, 'scope', 'own'],
      false,
      '$.roles[1].grants[0].scope.own',
    ],
    ['no state at all', ['roles', 1, 'grants', 0, 'scope', 'states'], [], '$.roles[1].grants[0].scope.states'],
    [
      'an unknown role that is extended',
      ['roles', 1, 'extends', 1],
      'ghost',
      '$.roles[1].extends[1] there is no role "ghost"',
    ],
    [
      'an unknown role that is held',
      ['people', 0, 'assignments', 0, 'role'],
      'ghost',
      '$.people[0].assignments[0].role there is no role "ghost"',
    ],
    [
      'an unknown branch of a grant',
      ['roles', 1, 'grants', 0, 'scope', 'branch'],
      'ghost',
      '$.roles[1].grants[0].scope.branch there is no page "ghost"',
    ],
    [
      'an unknown branch of an assignment',
      ['people', 0, 'assignments', 0, 'branch'],
      'ghost',
      '$.people[0].assignments[0].branch there is no page "ghost"',
    ],
    ['an unknown author', ['pages', 0, 'author'], 'ghost', '$.pages[0].author there is no person "ghost"'],
    ['an unknown parent', ['pages', 1, 'parent'], 'ghost', '$.pages[1].parent there is no page "ghost"'],
    ['an unknown role kept apart', ['apart', 0, 1], 'ghost', '$.apart[0][1] there is no role "ghost"'],
    ['a role apart from itself', ['apart', 0], ['desk', 'desk'], '$.apart[0] a role cannot be kept apart from itself'],
    ['a pair that stands there twice, turned round', ['apart', 1], ['audit', 'desk'], '$.apart[1] stands there twice'],
    ['a role that stands there twice', ['roles', 3], good().roles[2], '$.roles[3].id "audit" stands there twice'],
    ['a person who stands there twice', ['people', 2], good().people[0], '$.people[2].id "ana" stands there twice'],
    ['a page that stands there twice', ['pages', 2], good().pages[0], '$.pages[2].id "home" stands there twice'],
    ['a role extended twice', ['roles', 1, 'extends', 1], 'front', '$.roles[1].extends[1] stands there twice'],
    ['roles in a circle', ['roles', 0, 'extends', 0], 'desk', 'extends itself in a circle'],
    ['a page below itself', ['pages', 0, 'parent'], 'quays', 'lies below itself in a circle'],
    [
      'roles kept apart that somebody holds',
      ['people', 1, 'assignments', 1],
      { role: 'audit' },
      '$.people[1].assignments "ben" holds "desk" and "audit", which are kept apart',
    ],
    [
      'an instant without a zone',
      ['people', 0, 'assignments', 0, 'from'],
      '2026-01-01T00:00:00',
      '$.people[0].assignments[0].from',
    ],
    [
      'a day there is not',
      ['people', 0, 'assignments', 0, 'from'],
      '2026-02-30T00:00:00Z',
      '$.people[0].assignments[0].from',
    ],
    [
      'a minute without seconds',
      ['people', 0, 'assignments', 0, 'until'],
      '2026-01-01T00:00Z',
      '$.people[0].assignments[0].until',
    ],
    [
      'a number for an instant',
      ['people', 0, 'assignments', 0, 'until'],
      1_767_225_600_000,
      '$.people[0].assignments[0].until',
    ],
  ])('with %s is refused, with the path', (_, path, value, expected) => {
    expect(faultsWith([path, value]).join('\n')).toContain(expected);
  });
  it('tells every fault, not only the first', () => {
    expect(
      faultsWith(
        [['pages', 0, 'author'], 'x'],
        [['people', 0, 'assignments', 0, 'role'], 'y'],
        [['roles', 1, 'extends', 1], 'z'],
      ),
    ).toHaveLength(3);
  });
  it('has paths as RFC 9535 writes them, with the shorthand of section 2.5.1.1 where a name allows it (value from memory)', () => {
    expect([jsonPath([]), jsonPath(['a', 0, 'b']), jsonPath(["it's"]), jsonPath(['a b'])]).toEqual([
      '$',
      '$.a[0].b',
      "$['it\\'s']",
      "$['a b']",
    ]);
  });
  it('reads chains longer than the call stack', () => {
    const n = 20_000;
    const b = {
      ...good(),
      pages: Array.from({ length: n }, (_, i) => ({
        id: i === 0 ? 'quays' : `p${i}`,
        parent: i === n - 1 ? null : `p${i + 1}`,
        layout: 'plain',
        state: 'draft',
        author: 'ana',
      })),
    };
    expect(openBundle(b).ok).toBe(true);
  });
});

describe('a question', () => {
  const opened = openBundle(good());
  if (!opened.ok) throw new Error('the bundle is whole');
  const at = '2026-03-01T12:00:00Z';
  it.each<[string, object, string]>([
    ['an unknown person', { person: 'ghost', permission: 'page.edit', at }, '$.person there is no person "ghost"'],
    [
      'an unknown page',
      { person: 'ana', permission: 'page.edit', page: 'ghost', at },
      '$.page there is no page "ghost"',
    ],
    [
      'an unknown author',
      { person: 'ana', permission: 'media.edit', thing: { kind: 'picture', author: 'ghost' }, at },
      '$.thing.author there is no person "ghost"',
    ],
    [
      'a pattern',
      { person: 'ana', permission: 'page.*', at },
      '$.permission a question names one permission, without *',
    ],
    ['no instant', { person: 'ana', permission: 'page.edit' }, '$.at'],
    [
      'something more',
      { person: 'ana', permission: 'page.edit', at, why: true },
      '$.why nothing of this name belongs here',
    ],
  ])('with %s is refused', (_, question, expected) => {
    const read = readQuestion(opened, question);
    expect(read.ok ? '' : read.faults.map((f) => `${f.path} ${f.message}`).join()).toContain(expected);
  });
  it('is answered with what decided and the way it came', () => {
    const read = readQuestion(opened, { person: 'ana', permission: 'notice.post', thing: { kind: 'notice' }, at });
    expect(read.ok && answerOf(decide(opened.policy, read.question))).toEqual({
      allowed: true,
      reason: 'allowed',
      decidedBy: {
        effect: 'allow',
        permission: 'notice.*',
        scope: {},
        roles: ['desk', 'front'],
        assignment: {
          role: 'desk',
          branch: 'quays',
          from: '2025-12-31T23:00:00.000Z',
          until: '2026-06-01T00:00:00.000Z',
        },
      },
      because: [expect.objectContaining({ permission: 'notice.*' })],
    });
  });
  it('counts an assignment from its first instant to before its last, on the clock of its offset', () => {
    const ask = (instant: string) => {
      const read = readQuestion(opened, { person: 'ana', permission: 'page.edit', page: 'quays', at: instant });
      return read.ok && decide(opened.policy, read.question).allowed;
    };
    expect(
      ['2025-12-31T22:59:59.999Z', '2025-12-31T23:00:00Z', '2026-05-31T23:59:59.999Z', '2026-06-01T00:00:00Z'].map(ask),
    ).toEqual([false, true, true, false]);
  });
});

describe('a keyholder at every instant from now on', () => {
  const held = (
    ...list: { fromMs?: number; untilMs?: number; branch?: string; suspended?: boolean; role?: string }[]
  ) =>
    list.map(({ suspended, ...a }, i) => ({
      id: String(i),
      name: '',
      suspended,
      assignments: [{ role: 'keyholder', ...a }],
    }));
  const all: Grant = { id: 'all', effect: 'allow', permission: '*', scope: {} };
  const gap = (people: PolicyPerson[], nowMs: number, desk?: Grant['effect']) =>
    firstLockOut(
      {
        roles: new Map([
          ['keyholder', { id: 'keyholder', name: '', extends: [], grants: [all] }],
          [
            'desk',
            {
              id: 'desk',
              name: '',
              extends: [],
              grants: desk ? [{ ...all, effect: desk, permission: desk === 'deny' ? 'plan.*' : '*' }] : [],
            },
          ],
        ]),
        people: new Map(people.map((p) => [p.id, p])),
        secondPerson: new Set(),
      },
      'keyholder',
      ['plan.edit', 'person.manage'],
      nowMs,
    );
  it.each([
    ['for ever', held({}), undefined],
    ['nobody', held(), { fromMs: 100 }],
    ['until some day', held({ untilMs: 200 }), { fromMs: 200 }],
    ['one hands over to the other at the same instant', held({ untilMs: 200 }, { fromMs: 200 }), undefined],
    ['a gap between two', held({ untilMs: 200 }, { fromMs: 300 }), { fromMs: 200, untilMs: 300 }],
    ['only later', held({ fromMs: 150 }), { fromMs: 100, untilMs: 150 }],
    ['a suspended one does not count', held({ suspended: true }), { fromMs: 100 }],
    ['nor one of a branch', held({ branch: '2' }), { fromMs: 100 }],
    ['nor another role', held({ role: 'desk' }), { fromMs: 100 }],
  ])('%s', (_, people, expected) => {
    expect(gap(people, 100)).toEqual(expected);
  });
  it('counts what they can do, not what they hold: a second role that forbids it shuts them out while it lasts', () => {
    const both = held({}).map((p) => ({
      ...p,
      assignments: [...p.assignments, { role: 'desk', fromMs: 300, untilMs: 400 }],
    }));
    expect(gap(both, 100)).toBeUndefined();
    expect(gap(both, 100, 'deny')).toEqual({ fromMs: 300, untilMs: 400 });
    expect(
      gap([...both, ...held({ fromMs: 200, untilMs: 350 }).map((p) => ({ ...p, id: 'other' }))], 100, 'deny'),
    ).toEqual({ fromMs: 350, untilMs: 400 });
  });
  it('counts who holds the role itself, whatever another role lets somebody do before they do', () => {
    const later = held({ fromMs: 300 }).map((p) => ({ ...p, assignments: [...p.assignments, { role: 'desk' }] }));
    expect(gap(later, 100, 'allow')).toEqual({ fromMs: 100, untilMs: 300 });
  });
  it('is found as by looking at every instant, on random assignments', () => {
    for (let seed = 1; seed <= 500; seed++) {
      const random = randomFrom(seed);
      const people = held(
        ...Array.from({ length: random.below(5) }, () => ({
          ...(random.chance(0.7) && { fromMs: random.below(20) }),
          ...(random.chance(0.8) && { untilMs: random.below(20) }),
          suspended: random.chance(0.1),
        })),
      );
      const covered = (t: number) =>
        people.some((p) => !p.suspended && p.assignments.some((a) => t >= (a.fromMs ?? -1) && t < (a.untilMs ?? 99)));
      const bare = Array.from({ length: 60 }, (_, t) => t)
        .slice(5)
        .find((t) => !covered(t));
      expect(gap(people, 5)?.fromMs, `seed ${seed}`).toBe(bare);
    }
  });
});

describe('a value that does not fit', () => {
  const shape = z.strictObject({
    name: z.string().min(2),
    days: z.int().max(30),
    look: z.enum(['a', 'b']),
    list: z.array(z.boolean()).min(1),
    own: z.string().min(1, 'Say who it is.'),
    on: z.iso.date(),
    either: z.union([z.null(), z.strictObject({})]),
  });
  const said = (value: unknown) =>
    shape.safeParse(value, { error: inPlainWords }).error?.issues.map((one) => `${one.path.join('.')}: ${one.message}`);
  it('is told of in plain words, and in its own where its schema has some', () => {
    expect(said(undefined)).toEqual([': this is missing']);
    expect(said({ name: 'x', days: 31, look: 'c', list: [], own: '', on: '1', either: 1, more: 1 })).toEqual([
      'name: this should be at least 2 characters',
      'days: this should be at most 30',
      'look: this should be one of "a", "b"',
      'list: this should be at least 1',
      'own: Say who it is.',
      'on: this is not written as it should be',
      'either: this is not of any form that fits here',
      ': nothing of the name “more” belongs here',
    ]);
    expect(said({ name: 1, days: 1.5, list: [1] })).toEqual([
      'name: this should be text',
      'days: this should be a whole number',
      'look: this should be one of "a", "b"',
      'list.0: this should be true or false',
      'own: this is missing',
      'on: this is missing',
      'either: this is not of any form that fits here',
    ]);
  });
});
