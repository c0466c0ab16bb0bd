import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decide, type DoorState } from '@/core/access';
import { isReading } from '@/core/inventory';
import { policyOf, type PlanRole } from '@/core/plan';
import { figures, lossBetween, room, shownDoors } from '@/core/room';
import { boardOf, columnsOf } from '@/core/dashboard';
import { keyholder, person, plan as planOf, PLACES, role, withTools } from './plans';
import { inventory } from '../inventory';

// What is shown and what is refused come from one decision. Random plans of two roles, one of which may build on
// the other, and a person who holds one or both.
const SEED = 20261125;
const places = Object.values(PLACES);
const scope = fc
  .record(
    { branch: fc.constantFrom('1', '2', '3', '4'), only: fc.constant(true as const), own: fc.constant(true as const) },
    { requiredKeys: [] },
  )
  .map(({ only, ...rest }) => ({ ...rest, ...(rest.branch !== undefined && only && { only }) }));
const grants = fc.uniqueArray(
  fc
    .record({
      effect: fc.constantFrom('allow' as const, 'allow' as const, 'deny' as const),
      permission: fc.constantFrom(...inventory.permissions.keys(), 'page.*', 'notice.*', '*'),
      scope,
      fields: fc.option(fc.subarray(['title', 'hours', 'body', 'banner', 'page.layout'], { minLength: 1 }), {
        nil: undefined,
      }),
    })
    .map(({ fields, ...g }) => ({
      ...g,
      scope: { ...g.scope, ...(fields && g.effect === 'allow' && g.permission === 'page.edit' && { fields }) },
    }))
    .map((g) => ({
      ...g,
      id: `${g.effect}-${g.permission.replace('*', 'all')}-${JSON.stringify(g.scope).replaceAll(/\W/g, '')}`,
    })),
  { maxLength: 8, selector: (g) => g.id },
);
const doors = fc
  .array(fc.constantFrom<DoorState>('open', 'look', 'away', 'closed'), {
    minLength: inventory.doors.length,
    maxLength: inventory.doors.length,
  })
  .map((states) => inventory.doors.map((section, i) => ({ section: section.id, state: states[i] ?? 'closed' })));
const tasks = fc.subarray([...inventory.tasks.keys()]).map((ids) => ids.map((task) => ({ task })));
const tools = fc.subarray([...inventory.tools.keys()]);
const widgets = fc.subarray([...inventory.widgets.keys()]);
const roles: fc.Arbitrary<Partial<PlanRole>> = fc.record({
  grants,
  doors,
  tasks,
  dashboard: widgets.map((list) => boardOf(list)),
});
const worlds = fc.record({
  a: roles,
  b: roles,
  tools: fc.record({ a: tools, b: tools }),
  builds: fc.boolean(),
  both: fc.boolean(),
  branch: fc.option(fc.constantFrom('2', '3', '4'), { nil: undefined }),
});

function build(w: typeof worlds extends fc.Arbitrary<infer W> ? W : never) {
  const plan = withTools(planOf(role('a', { ...w.a, extends: w.builds ? ['b'] : [] }), role('b', w.b)), w.tools);
  const who = person('ines', { role: 'a', branch: w.branch }, ...(w.both ? [{ role: 'b' }] : []));
  const policy = policyOf(inventory, plan, [who]);
  const made = room({ inventory, plan, person: who, places, nowMs: 0 });
  const ask = (permission: string) => {
    const question = { person: 'ines', permission, author: 'ines', atMs: 0 };
    return inventory.permissions.get(permission as never)?.placed
      ? places.some(
          (place) =>
            decide(policy, { ...question, place }).allowed ||
            (inventory.permissions.get(permission as never)?.ownAuthor === true &&
              decide(policy, { ...question, place: { ...place, author: 'ines' } }).allowed),
        )
      : decide(policy, question).allowed;
  };
  return { plan, policy, made, ask, who };
}

describe(`the room and the gate (seed ${SEED})`, () => {
  const check = (says: (world: ReturnType<typeof build>) => void) =>
    fc.assert(
      fc.property(worlds, (w) => says(build(w))),
      { seed: SEED, numRuns: 300 },
    );

  it('agree on every door: what is shown may be read, and a door everybody closed lets nothing through', () => {
    check(({ made, ask, plan, who }) => {
      for (const section of inventory.doors) {
        const shown = made.doors.find((door) => door.section === section.id);
        const home = inventory.screens.get(section.home)?.needs ?? '';
        if (shown) expect(ask(home), section.id).toBe(true);
        const states = who.assignments.map(
          (a) => plan.roles.find((r) => r.id === a.role)?.doors.find((d) => d.section === section.id)?.state,
        );
        if (states.every((state) => state === 'closed')) {
          expect(shown).toBeUndefined();
          for (const permission of section.permissions) expect(ask(permission.id), permission.id).toBe(false);
        }
        if (states.every((state) => state === 'closed' || state === 'look'))
          for (const permission of section.permissions)
            if (!isReading(permission.id)) expect(ask(permission.id), permission.id).toBe(false);
      }
    });
  });

  it('agree on every task: one that can be done is allowed all it needs on one thing, one that cannot lacks what it names', () => {
    check(({ made, ask, policy }) => {
      for (const task of made.tasks) {
        const needs = inventory.tasks.get(task.task)?.needs ?? [];
        const { verdict } = task;
        if (verdict.can) {
          // A page that is made is its maker's own, wherever it lies.
          const isMade = inventory.tasks.get(task.task)?.thing === 'newPage';
          const onNew = (permission: string) =>
            places.some(
              (above) =>
                decide(policy, {
                  person: 'ines',
                  permission,
                  place: { ...above, path: [...above.path, 'new'], state: 'draft', author: 'ines' },
                  atMs: 0,
                }).allowed,
            );
          for (const need of needs)
            expect(ask(need) || (isMade && onNew(need)), `${task.task} needs ${need}`).toBe(true);
          // Asked of the gate page by page, as a person would go about it: what is written in becomes a draft on the
          // way.
          const on = needs.filter((need) => inventory.permissions.get(need)?.placed);
          if (inventory.tasks.get(task.task)?.thing === 'page')
            expect(
              places.some((place) =>
                on.every(
                  (permission) =>
                    decide(policy, { person: 'ines', permission, place: { ...place, state: 'draft' }, atMs: 0 })
                      .allowed,
                ),
              ),
              task.task,
            ).toBe(true);
          // Only a look that the task can do without may be missing from its tour.
          expect(
            task.tour.stops.filter((stop) => stop.stale && stop.await !== 'see').map((stop) => stop.stale),
          ).toEqual([]);
        } else if (verdict.missing.kind === 'permission' || verdict.missing.kind === 'denied')
          expect(ask(verdict.missing.id)).toBe(false);
        else if (verdict.missing.kind === 'tool') {
          // Nowhere they may write have they all the tools that the task takes.
          const template = inventory.tasks.get(task.task);
          const needed = [...(template?.tools ?? []), verdict.missing.id];
          for (const place of places)
            for (const state of [place.state, 'draft' as const])
              if (
                ask('page.edit') &&
                decide(policy, { person: 'ines', permission: 'page.edit', place: { ...place, state }, atMs: 0 })
                  .allowed &&
                needs.every(
                  (need) =>
                    decide(policy, { person: 'ines', permission: need, place: { ...place, state }, atMs: 0 }).allowed,
                )
              )
                for (const { tools: here } of made.writing.at('page', place).values())
                  expect(
                    needed.every((tool) => here.includes(tool)),
                    task.task,
                  ).toBe(false);
        } else if (verdict.missing.kind === 'door') expect(['closed', 'look']).toContain(verdict.missing.state);
        else if (verdict.missing.kind === 'apart') for (const id of verdict.missing.ids) expect(ask(id), id).toBe(true);
        else expect(verdict.missing.kind).toBe('field');
      }
    });
  });

  it('agree on every widget, and show none twice', () => {
    check(({ made, ask }) => {
      const shown = columnsOf(made.dashboard)
        .flat()
        .map(({ widget }) => widget);
      expect(new Set(shown).size).toBe(shown.length);
      for (const id of shown) {
        const needs = inventory.widgets.get(id)?.needs;
        if (needs) expect(ask(needs), id).toBe(true);
      }
    });
  });

  it('count what is there', () => {
    check(({ made }) => {
      const counted = figures(inventory, made);
      expect(counted.choices).toBe(
        shownDoors(made).length + made.tasks.filter((t) => t.verdict.can).length + made.dashboard.widgets.length,
      );
      expect(counted.tasksThatCan).toBeLessThanOrEqual(counted.tasks);
      expect(lossBetween(made, made)).toEqual({ tasks: [], stops: [] });
    });
  });
});

describe('the keyholder', () => {
  it('may do everything everywhere, and has every door, whatever its own doors say', () => {
    const shut = {
      ...keyholder,
      doors: inventory.doors.map((section) => ({ section: section.id, state: 'closed' as const })),
    };
    const policy = policyOf(inventory, { ...planOf(), roles: [shut] }, [person('maud', { role: 'keyholder' })]);
    for (const permission of inventory.permissions.keys())
      for (const place of [...places, undefined])
        expect(decide(policy, { person: 'maud', permission, place, atMs: 0 }).allowed, permission).toBe(true);
  });
});
