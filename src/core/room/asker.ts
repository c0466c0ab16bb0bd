import {
  type PolicyPerson,
  type Place,
  type DoorState,
  type Decision,
  type AccessRule,
  rulesFor,
  rulesAllow,
  decide,
  isInForce,
} from '../access';
import type { Inventory, PermissionId } from '../inventory';
import { type Plan, policyOf, type PlanRole } from '../plan';

/** What a room is worked out from. */
export interface RoomInput {
  inventory: Inventory;
  plan: Plan;
  person: PolicyPerson;
  /** Every page of the site; the places where something may or may not be done. */
  places: readonly Place[];
  nowMs: number;
}

const BEST: readonly DoorState[] = ['open', 'look', 'away', 'closed'];
/** Of two states of a door the one that lets more through. */
export const better = (a: DoorState, b: DoorState) => (BEST.indexOf(a) <= BEST.indexOf(b) ? a : b);

/** What one person may do, asked in many ways: the most favourable answer over all places, and place by place. */
export interface Asker {
  best: (permission: PermissionId) => Decision;
  may: (permission: PermissionId, place: Place, field?: string) => boolean;
}

/**
 * Decides for one person, keeping what was worked out. What lies on a page may be their own there; a page is its
 * author's.
 */
export function askerFor(input: RoomInput): Asker {
  const policy = policyOf(input.inventory, input.plan, [input.person]);
  const known = new Map<string, Decision>();
  const allRules = new Map<string, AccessRule[]>();
  const rulesOf = (permission: string) => {
    let rules = allRules.get(permission);
    if (!rules) allRules.set(permission, (rules = rulesFor(policy, input.person.id, permission, input.nowMs)));
    return rules;
  };
  const may = (permission: PermissionId, place: Place, field?: string) =>
    rulesAllow(rulesOf(permission), input.person.id, { place, field });
  const best = (permission: PermissionId) => {
    const old = known.get(permission);
    if (old) return old;
    const ownAuthor = input.inventory.permissions.get(permission)?.ownAuthor ?? false;
    const asOwn = (place: Place | undefined) => (place && ownAuthor ? { ...place, author: input.person.id } : place);
    const ask = (place?: Place) =>
      decide(policy, {
        person: input.person.id,
        permission,
        place: asOwn(place),
        author: input.person.id,
        atMs: input.nowMs,
      });
    const placed = input.inventory.permissions.get(permission)?.placed ?? false;
    // Where no rule allows it there is no place to look for.
    const isSomewhere = placed && rulesOf(permission).some(({ effect }) => effect === 'allow');
    const allowed = isSomewhere
      ? input.places.find(
          (place) => may(permission, place) || (ownAuthor && may(permission, { ...place, author: input.person.id })),
        )
      : undefined;
    if (allowed && may(permission, allowed)) {
      const decided = decide(policy, { person: input.person.id, permission, place: allowed, atMs: input.nowMs });
      known.set(permission, decided);
      return decided;
    }
    let answer = ask(placed ? (allowed ?? input.places[0]) : undefined);
    // Forbidden at the first place says little of the others: the answer there may name what comes closer.
    if (placed && answer.reason === 'denied') answer = input.places.map(ask).find((here) => here.nearest) ?? answer;
    known.set(permission, answer);
    return answer;
  };
  return { best, may };
}

/** The roles that count for a person now, in the order they were assigned. */
export function heldRoles(input: RoomInput): PlanRole[] {
  const ids = input.person.suspended
    ? []
    : input.person.assignments.filter((a) => isInForce(a, input.nowMs)).map((a) => a.role);
  return [...new Set(ids)]
    .map((id) => input.plan.roles.find((role) => role.id === id))
    .filter((role) => role !== undefined);
}
