import { canonical } from '../json';
import type { Inventory } from '../inventory';
import { allDoors } from './operations';
import { publishingOf, type Plan, type PlanRole } from './schema';

const byText = (a: unknown, b: unknown) => {
  const [x, y] = [canonical(a), canonical(b)];
  return x < y ? -1 : x > y ? 1 : 0;
};
const inOrder = (order: readonly string[], list: readonly string[]) =>
  [...list].sort((a, b) => order.indexOf(a) - order.indexOf(b));

function canonicalRole(inventory: Inventory, role: PlanRole): PlanRole {
  const sections = inventory.doors.map((section) => section.id);
  const doors = allDoors(inventory, role).map(({ section, state, name }) => ({
    section,
    state,
    ...(name !== undefined && name !== inventory.sections.find((s) => s.id === section)?.name && { name }),
  }));
  const closed = doors
    .filter((door) => door.state === 'closed')
    .sort((a, b) => sections.indexOf(a.section) - sections.indexOf(b.section));
  const tours = Object.fromEntries(
    Object.entries(role.tours)
      .map(
        ([task, stops]) =>
          [
            task,
            Object.fromEntries(Object.entries(stops).filter(([, words]) => Object.keys(words).length > 0)),
          ] as const,
      )
      .filter(([, stops]) => Object.keys(stops).length > 0),
  );
  return {
    ...role,
    extends: [...new Set(role.extends)],
    grants: role.grants.map((grant) => ({
      ...grant,
      scope: {
        ...grant.scope,
        ...(grant.scope.layouts && { layouts: [...new Set(grant.scope.layouts)].sort() }),
        ...(grant.scope.states && { states: [...new Set(grant.scope.states)].sort() }),
        ...(grant.scope.fields && { fields: [...new Set(grant.scope.fields)].sort() }),
      },
    })),
    doors: [...doors.filter((door) => door.state !== 'closed'), ...closed],
    toolbar: {
      tools: inOrder([...inventory.tools.keys()], [...new Set(role.toolbar.tools)]),
      modes: inOrder([...inventory.modes.keys()], [...new Set(role.toolbar.modes)]) as PlanRole['toolbar']['modes'],
    },
    tours,
  };
}

/**
 * A plan in the one form of all that say the same: tools in the order of a toolbar, closed doors behind the others in their natural
 * order, a door's own name left out where it is the section's, pairs in order, no empty words.
 */
const canonicalPlan = (inventory: Inventory, plan: Plan): Plan => ({
  ...plan,
  roles: plan.roles.map((role) => canonicalRole(inventory, role)),
  apart: plan.apart.map((pair) => pair.toSorted() as [string, string]).sort(byText),
});

/** Whether two plans say the same: in whatever order roles and rules stand, and whatever the rules are called. */
export function samePlan(inventory: Inventory, a: Plan, b: Plan): boolean {
  const said = (plan: Plan) => {
    const { roles, apart } = canonicalPlan(inventory, plan);
    return canonical({
      apart,
      publishing: publishingOf(plan),
      roles: [...roles]
        .sort((x, y) => (x.id < y.id ? -1 : 1))
        .map((role) => ({
          ...role,
          grants: [
            ...new Map(
              role.grants.map(({ effect, permission, scope }) => [canonical([effect, permission, scope]), 1]),
            ).keys(),
          ].sort(),
        })),
    });
  };
  return said(a) === said(b);
}
