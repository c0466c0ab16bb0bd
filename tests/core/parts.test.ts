import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyOperation,
  crossFaults,
  emptyRole,
  operationInWords,
  operationSchema,
  isOneThing,
  patchOf,
  touchedBy,
  unknownIn,
  PLAN_PART_KEYS,
  planSchema,
  readablePlanSchema,
  ROLE_PART_KEYS,
  roleNames,
  roleOf,
  samePlan,
  withPatch,
  type Operation,
  type Plan,
  type PlanPatch,
} from '@/core/plan';
import { changeInWords, differences } from '@/core/release';
import { demo, operation, operationOf, walked } from './operations';
import { inventory } from '../inventory';

// What holds of every part of a plan, whatever it sets: a new part is tried here without a line more than its
// generator.
const SEED = 20261127;
const page = (id: string) => `page ${id}`;
const walk = fc.array(operation, { maxLength: 6 });

/**
 * Takes one change back after another was made on top of it, and expects the other alone to be left; false where one
 * cannot be made, or both touch the same. `onTop` makes the other, its patch given.
 */
function isTakenBackBeside(
  before: Plan,
  mine: Operation,
  theirs: Operation,
  onTop: (one: Plan, to: PlanPatch, from: PlanPatch) => Plan | null,
): boolean {
  const [one, two] = [applyOperation(inventory, before, mine), applyOperation(inventory, before, theirs)];
  if (!one.ok || !two.ok) return false;
  const [back, forth] = [patchOf(before, one.plan), patchOf(one.plan, before)];
  const touched = touchedBy(back, forth);
  const [to, from] = [patchOf(two.plan, before), patchOf(before, two.plan)];
  const others = touchedBy(from, to);
  if (touched.some((a) => others.some((b) => isOneThing(a, b)))) return false;
  const both = onTop(one.plan, to, from);
  if (!both) return false;
  expect(withPatch(both, back, forth), `${mine.do} and ${theirs.do}`).toEqual(two.plan);
  return true;
}

describe(`every part of a plan (seed ${SEED})`, () => {
  it('is a field of a role, or of the plan', () => {
    // Of every role, but for what may be left out.
    const always = ROLE_PART_KEYS.filter((key) => emptyRole()[key] !== undefined);
    for (const one of demo.roles) expect(Object.keys(one)).toEqual(expect.arrayContaining(always));
    expect(demo.roles.flatMap((role) => Object.keys(role))).toEqual(expect.arrayContaining(ROLE_PART_KEYS));
    expect(Object.keys(planSchema.shape)).toEqual(expect.arrayContaining(PLAN_PART_KEYS));
  });
  it('has differences exactly when two plans do not say the same', () => {
    let same = 0;
    fc.assert(
      fc.property(walk, walk, fc.boolean(), (first, second, back) => {
        const before = walked(demo, first);
        const after = back ? walked(before, second) : walked(demo, second);
        const told = differences(inventory, before, after, page);
        const isSame = samePlan(inventory, before, after);
        if (isSame) same++;
        expect(told.length === 0, JSON.stringify({ told, first, second })).toBe(isSame);
        for (const one of told) expect(one.lines.length).toBeGreaterThan(0);
      }),
      { seed: SEED, numRuns: 600 },
    );
    expect(same).toBeGreaterThan(20);
  });
  it('has operations that keep the plan whole, are told of whom they concern, and are undone without a trace', () => {
    const done = new Set<string>();
    // Something of each kind that chance alone seldom makes before it is to be taken away.
    const started = walked(demo, [
      { do: 'put-tool-set', role: 'newsroom', set: { id: 'tiny', name: 'Tiny', add: ['bold'], take: [] } },
      ...['harbour-desk', 'newsroom'].map((role) => ({
        do: 'set-element' as const,
        role,
        element: 'summary',
        place: {},
        said: { show: 'closed' as const },
      })),
    ]);
    fc.assert(
      fc.property(walk, operation, fc.boolean(), (first, op, begun) => {
        const before = walked(begun ? started : demo, first);
        expect(operationSchema.parse(op)).toEqual(op);
        const applied = applyOperation(inventory, before, op);
        if (!applied.ok) return;
        done.add(op.do);
        expect(planSchema.parse(applied.plan)).toEqual(applied.plan);
        const told = differences(inventory, before, applied.plan, page).map((one) => one.role);
        const concerned = op.do === 'keep-apart' ? [op.role, op.other] : [roleOf(op)];
        // Sets and rules for tools may be other roles', too: told of each that they are for.
        const isOthers = op.do === 'replace-plan' || /(tool-(set|rule)|screen-rule)$/.test(op.do);
        if (!isOthers) for (const role of told) expect(concerned, op.do).toContain(role);
        expect(withPatch(before, patchOf(applied.plan, before), patchOf(before, applied.plan))).toEqual(applied.plan);
        expect(withPatch(applied.plan, patchOf(before, applied.plan), patchOf(applied.plan, before))).toEqual(before);
      }),
      { seed: SEED, numRuns: 1000 },
    );
    // Every operation there is was done at least once.
    expect([...done].sort()).toEqual(operationSchema.options.map((option) => option.shape.do.value).sort());
  });
  it('is taken back by itself, what another changed elsewhere in the same role stays', () => {
    let beside = 0;
    fc.assert(
      fc.property(walk, operation, operation, (first, mine, theirs) => {
        // A plan put in the place of another touches all of it, and a copy has what was changed before it was made.
        if ([mine, theirs].some((op) => op.do === 'replace-plan') || theirs.do === 'add-role') return;
        const isBeside = isTakenBackBeside(walked(demo, first), mine, theirs, (one) => {
          const both = applyOperation(inventory, one, theirs);
          return both.ok ? both.plan : null;
        });
        if (isBeside && roleOf(mine) === roleOf(theirs)) beside++;
      }),
      { seed: SEED, numRuns: 1200 },
    );
    expect(beside).toBeGreaterThan(20);
  });
  it('is taken back by itself, what another changed in the same set or rule stays, too', () => {
    const set = demo.toolbars.sets.find(({ id }) => id === 'everyday');
    const rule = demo.toolbars.rules.find(({ id }) => id === 'newsroom');
    if (!set || !rule) throw new Error('the demo has neither');
    const sets = [{ name: 'Tiny' }, { add: ['table'] }, { take: ['bold'] }, { groups: ['modes' as const] }];
    const rules = [
      { when: { ...rule.when, branch: '2' } },
      { when: { ...rule.when, states: ['draft'] } },
      { keep: { table: 'words' as const } },
      { then: { use: 'short' } },
    ];
    const held = demo.roles.find(({ id }) => id === 'newsroom')?.grants.slice(0, 3) ?? [];
    expect(held.length).toBe(3);
    const ops: Operation[][] = [
      held.map((grant) => ({
        do: 'change-grant',
        role: 'newsroom',
        grant: { ...grant, scope: { ...grant.scope, branch: '4' } },
      })),
      sets.map((said) => ({ do: 'put-tool-set', role: 'newsroom', set: { ...set, ...said } })),
      rules.map((said) => ({ do: 'put-tool-rule', role: 'newsroom', rule: { ...rule, ...said } })),
    ];
    for (const same of ops)
      for (const mine of same)
        for (const theirs of same)
          if (mine !== theirs)
            expect(
              // They have not seen the first.
              isTakenBackBeside(demo, mine, theirs, (one, back, forth) => withPatch(one, back, forth)),
              JSON.stringify([mine, theirs]),
            ).toBe(true);
  });
  it('is done once: the same again is refused, but for what takes a step', () => {
    const again = new Set<string>();
    fc.assert(
      fc.property(walk, operation, (first, op) => {
        const once = applyOperation(inventory, walked(demo, first), op);
        if (!once.ok) return;
        const twice = applyOperation(inventory, once.plan, op);
        if (twice.ok) again.add(op.do);
      }),
      { seed: SEED, numRuns: 2000 },
    );
    expect([...again].sort()).toEqual(['move-stop']);
  });
  it('that is set whole is what was set last, whatever was set before', () => {
    const whole = ['set-reading', 'set-publishing', 'set-menu', 'set-page-list', 'set-columns'] as const;
    const set = fc.constantFrom(...whole).chain((kind) => fc.tuple(operationOf(kind), operationOf(kind)));
    fc.assert(
      fc.property(set, ([first, last]) => {
        const op = roleOf(first) === null ? last : { ...last, role: roleOf(first) };
        const second = operationSchema.parse(op);
        const [both, alone] = [walked(demo, [first, second]), walked(demo, [second])];
        expect(samePlan(inventory, both, alone), JSON.stringify([first, second])).toBe(true);
      }),
      { seed: SEED, numRuns: 600 },
    );
  });
  it('touches the very thing only: two ticks in one role are two things, one rule and one widget twice are one', () => {
    const touch = (...ops: Operation[]) =>
      ops.map((op) => {
        const applied = applyOperation(inventory, demo, op);
        if (!applied.ok) throw new Error(applied.detail);
        return touchedBy(patchOf(demo, applied.plan), patchOf(applied.plan, demo));
      });
    const collide = (a: Operation, b: Operation) => {
      const [one = [], two = []] = touch(a, b);
      return one.some((x) => two.some((y) => isOneThing(x, y)));
    };
    const tick = (task: string): Operation => ({ do: 'tick-task', role: 'newsroom', task, ticked: true });
    expect(collide(tick('notices.post'), tick('notices.end'))).toBe(false);
    expect(collide(tick('notices.post'), tick('notices.post'))).toBe(true);
    const door = (state: 'look' | 'open'): Operation => ({
      do: 'set-door',
      role: 'newsroom',
      section: 'people',
      state,
    });
    expect(collide(door('look'), door('open'))).toBe(true);
    expect(collide(door('look'), tick('notices.post'))).toBe(false);
    const named: Operation = { do: 'name-role', role: 'newsroom', name: 'News', purpose: '' };
    expect(collide(named, tick('notices.post'))).toBe(false);
  });
  it('has no name of anything that is not there without being told of it, by its path', () => {
    const pages = new Set(['1', '2', '3', '4']);
    const faultsOf = (value: unknown) => {
      const parsed = planSchema.safeParse(value);
      const readable = readablePlanSchema.parse(value);
      return [
        ...(parsed.error?.issues.map(({ path }) => path.join('.')) ?? []),
        ...[...crossFaults(readable), ...unknownIn(inventory, readable, pages)].map(({ path }) => path.join('.')),
      ];
    };
    // Something of each kind that the demo may not have, put in by operations.
    const plan = fc.sample(operation, { seed: SEED, numRuns: 200 }).reduce((before, op) => {
      const after = walked(before, [op]);
      return faultsOf(after).length === 0 ? after : before;
    }, demo);
    expect(faultsOf(plan)).toEqual([]);
    const untold = new Set<string>();
    let tried = 0;
    const visit = (at: unknown, path: (string | number)[]) => {
      if (typeof at === 'string') {
        const changed = structuredClone(plan) as unknown;
        let hole = changed as Record<string | number, unknown>;
        for (const step of path.slice(0, -1)) hole = hole[step] as typeof hole;
        hole[path.at(-1) ?? ''] = 'nobody-knows-this';
        tried++;
        if (!faultsOf(changed).some((fault) => path.join('.').startsWith(fault)))
          untold.add(path.filter((step) => typeof step === 'string').join('.'));
        return;
      }
      // Of a long list some stand for the others.
      const entries = Object.entries(at ?? {}) as [string, unknown][];
      for (const [i, [key, one]] of entries.entries())
        if (!Array.isArray(at) || i < 2 || i % 5 === 0) visit(one, [...path, Array.isArray(at) ? Number(key) : key]);
    };
    visit(plan, []);
    expect(tried).toBeGreaterThan(200);
    // Words, and names that a plan gives itself.
    expect([...untold].filter((path) => !/\.(id|name|purpose|said|text|title|q|lock)$|\.hints\./.test(path))).toEqual(
      [],
    );
  });
  it('is told by the name of what it is about', () => {
    const NAMED = [
      ['task', inventory.tasks],
      ['tool', inventory.tools],
      ['widget', inventory.widgets],
      ['section', new Map(inventory.doors.map((door) => [door.id, door]))],
    ] as const;
    fc.assert(
      fc.property(operation, (op) => {
        const told = operationInWords(inventory, op, roleNames(demo));
        if (op.do === 'keep-apart')
          for (const id of [op.role, op.other]) expect(told).toContain(`“${roleNames(demo)(id)}”`);
        if (op.do === 'set-extends') for (const id of op.extends) expect(told).toContain(`“${roleNames(demo)(id)}”`);
        for (const [field, names] of NAMED) {
          const id = (op as unknown as Record<string, string>)[field];
          if (id !== undefined) expect(told).toContain(names.get(id as never)?.name);
        }
        const applied = applyOperation(inventory, demo, op);
        if (!applied.ok || !('grant' in op)) return;
        const permission = typeof op.grant === 'string' ? op.grant : op.grant.permission;
        const name = inventory.permissions.get(permission as never)?.name;
        if (name) expect(changeInWords(inventory, demo, applied.plan, op, page)).toContain(name);
      }),
      { seed: SEED, numRuns: 400 },
    );
  });
});
