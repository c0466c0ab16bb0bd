import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyOperation,
  emptyRole,
  operationInWords,
  operationSchema,
  patchOf,
  PLAN_PART_KEYS,
  planSchema,
  ROLE_PART_KEYS,
  roleNames,
  roleOf,
  samePlan,
  withPatch,
} from '@/core/plan';
import { changeInWords, differences } from '@/core/release';
import { inventory } from '@/office';
import { demo, operation, walked } from './operations';

// What holds of every part of a plan, whatever it sets: a new part is tried here without a line more than its
// generator.
const SEED = 20261127;
const page = (id: string) => `page ${id}`;
const walk = fc.array(operation, { maxLength: 6 });

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
        expect(withPatch(before, patchOf(applied.plan, before))).toEqual(applied.plan);
        expect(withPatch(applied.plan, patchOf(before, applied.plan))).toEqual(before);
      }),
      { seed: SEED, numRuns: 1000 },
    );
    // Every operation there is was done at least once.
    expect([...done].sort()).toEqual(operationSchema.options.map((option) => option.shape.do.value).sort());
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
