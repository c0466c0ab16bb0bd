import { closure, firstLockOut, heldTogether, type Apart, type Gap, type PolicyPerson } from '../access';
import type { Inventory } from '../inventory';
import { canonical } from '../json';
import { policyOf } from './policy';
import { KEYHOLDER, VITAL, type Plan } from './schema';

/** What is wrong with what somebody shall hold; `at` is the place in their list of assignments. */
export type AssignmentFault =
  | { code: 'unknown-role' | 'archived-role' | 'twice' | 'ends-first'; at: number }
  | { code: 'kept-apart'; pair: Apart }
  | { code: 'no-keyholder'; gap: Gap };

/**
 * What would be wrong if people held what they hold here, of whom one is being changed: roles that are not there or
 * archived, an end before the beginning, roles kept apart, and an instant from now on without an active keyholder.
 */
export function assignmentFaults(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  changedId: string,
  nowMs: number,
): AssignmentFault[] {
  const faults: AssignmentFault[] = [];
  const person = people.find((p) => p.id === changedId);
  const seen = new Set<string>();
  person?.assignments.forEach((a, at) => {
    const role = plan.roles.find((r) => r.id === a.role);
    if (!role) faults.push({ code: 'unknown-role', at });
    else if (role.archived) faults.push({ code: 'archived-role', at });
    if (a.fromMs !== undefined && a.untilMs !== undefined && a.untilMs <= a.fromMs)
      faults.push({ code: 'ends-first', at });
    const key = canonical([a.role, a.branch ?? null, a.fromMs ?? null, a.untilMs ?? null]);
    if (seen.has(key)) faults.push({ code: 'twice', at });
    seen.add(key);
  });
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  if (person) for (const pair of heldTogether({ roles }, plan.apart, person)) faults.push({ code: 'kept-apart', pair });
  const gap = lockOutOf(inventory, plan, people, nowMs);
  if (gap) faults.push({ code: 'no-keyholder', gap });
  return faults;
}

/**
 * The first stretch from now on in which no active keyholder could really look after the website under a plan;
 * undefined when there is none.
 */
export const lockOutOf = (
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  nowMs: number,
): Gap | undefined => firstLockOut(policyOf(inventory, plan, people), KEYHOLDER, VITAL, nowMs);

/** Everybody who, under a plan, holds roles it keeps apart or has archived: what hinders it from going live. */
export function holdersInTheWay(
  plan: Plan,
  people: readonly PolicyPerson[],
): { person: PolicyPerson; pair?: Apart; archived?: string }[] {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  return people.flatMap((person) => [
    ...heldTogether({ roles }, plan.apart, person).map((pair) => ({ person, pair })),
    ...person.assignments
      .filter(
        (a) => closure({ roles }, a.role)[0] === undefined || plan.roles.some((r) => r.id === a.role && r.archived),
      )
      .map((a) => ({ person, archived: a.role })),
  ]);
}
