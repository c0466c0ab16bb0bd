import { findBeyond, findBeyondAt, isInForce, type Beyond, type PolicyPerson, type World } from '../access';
import type { Inventory } from '../inventory';
import { policyOf } from './policy';
import { KEYHOLDER, type Plan } from './schema';

/** What bounds are asked about: what can be done, where, and the instant in ms since 1970 UTC. */
export interface Ground {
  inventory: Inventory;
  world: World;
  nowMs: number;
}

/** The world of an inventory and a page tree. `paths`: from the root of the tree down to each page. */
export function worldOf(inventory: Inventory, paths: readonly (readonly string[])[]): World {
  const byId = new Map(paths.map((path) => [path.at(-1) ?? '', path]));
  return { permissions: [...inventory.permissions.values()], root: paths[0]?.[0] ?? '1', pathOf: (id) => byId.get(id) };
}

const stand = (ground: Ground, plan: Plan, person: PolicyPerson) => ({
  policy: policyOf(ground.inventory, plan, [person]),
  person,
});

/** A keyholder hands over beyond their own last day; everybody else gives for no longer than they have it. */
function asGiver(me: PolicyPerson, nowMs: number): PolicyPerson {
  const keys = me.assignments.find((a) => a.role === KEYHOLDER && a.branch === undefined && isInForce(a, nowMs));
  return keys ? { ...me, assignments: [...me.assignments, { role: KEYHOLDER }] } : me;
}

/**
 * What somebody, as they are or would be, may do from now on that whoever deals with them may not: undefined when they
 * may be invited so, let work again, or sent a link. With `before` only what they did not have by that counts:
 * undefined when they may be given it.
 */
export const beyondMe = (
  ground: Ground,
  live: Plan,
  me: PolicyPerson,
  target: PolicyPerson,
  before?: PolicyPerson,
): Beyond | undefined =>
  findBeyond(
    ground.world,
    stand(ground, live, target),
    [stand(ground, live, asGiver(me, ground.nowMs)), ...(before ? [stand(ground, live, before)] : [])],
    ground.nowMs,
  );

/**
 * What a room that is tried may do now, by the prepared plan, that whoever would step in may not by the plan in force.
 */
export const beyondMeInTrial = (
  ground: Ground,
  live: Plan,
  prepared: Plan,
  me: PolicyPerson,
  target: PolicyPerson,
): Beyond | undefined =>
  findBeyondAt(ground.world, stand(ground, prepared, target), [stand(ground, live, me)], ground.nowMs);

/** Whether somebody may do more by one state of things than by another. */
export const growsBetween = (
  ground: Ground,
  before: { plan: Plan; person: PolicyPerson },
  after: { plan: Plan; person: PolicyPerson },
): boolean =>
  findBeyond(
    ground.world,
    stand(ground, after.plan, after.person),
    [stand(ground, before.plan, before.person)],
    ground.nowMs,
  ) !== undefined;

/**
 * The first person whom going from one plan to another would give what they had not before and whoever does it has not
 * either.
 */
export function releaseBeyond(
  ground: Ground,
  before: Plan,
  after: Plan,
  people: readonly PolicyPerson[],
  me: PolicyPerson,
): { person: PolicyPerson; beyond: Beyond } | undefined {
  for (const person of people) {
    const beyond = findBeyond(
      ground.world,
      stand(ground, after, person),
      [stand(ground, before, person), stand(ground, before, asGiver(me, ground.nowMs))],
      ground.nowMs,
    );
    if (beyond) return { person, beyond };
  }
  return undefined;
}
