import { canonical } from '../json';
import { PLAN_PART_KEYS, planPart, type PlanPartKey } from './parts';
import type { Plan, PlanRole } from './schema';

/**
 * What of a plan a change touched, as it was or as it became. Null for a role that is not there, and for what the plan
 * left out.
 */
export type PlanPatch = {
  roles: Record<string, PlanRole | null>;
  /** Role ids in order, where the change touched which there are. */
  order?: string[];
} & { [Key in PlanPartKey]?: Plan[Key] | null };

/** What of `plan` differs from `other`: enough to turn `other` into `plan` with `withPatch`. */
export function patchOf(plan: Plan, other: Plan): PlanPatch {
  const roles: PlanPatch['roles'] = {};
  for (const role of plan.roles)
    if (canonical(role) !== canonical(other.roles.find((r) => r.id === role.id))) roles[role.id] = role;
  for (const role of other.roles) if (!plan.roles.some((r) => r.id === role.id)) roles[role.id] = null;
  const order = plan.roles.map((r) => r.id);
  return {
    roles,
    ...(canonical(order) !== canonical(other.roles.map((r) => r.id)) && { order }),
    ...Object.fromEntries(
      PLAN_PART_KEYS.filter((key) => canonical(plan[key]) !== canonical(other[key])).map((key) => [
        key,
        plan[key] ?? null,
      ]),
    ),
  };
}

/**
 * What two changes must not both touch for one to be taken back by itself: roles by id, and each part of the plan as a
 * whole.
 */
export const touchedBy = (patch: PlanPatch): string[] => [
  ...Object.keys(patch.roles).map((id) => `role ${id}`),
  ...PLAN_PART_KEYS.filter((key) => patch[key] !== undefined),
];

/**
 * A plan with what another says of some roles; of everything that concerns all roles where null is among them. What the
 * roles build on must be there.
 */
export function withRolesOf(plan: Plan, other: Plan, ids: readonly (string | null)[]): Plan {
  const patch = patchOf(other, plan);
  return withPatch(plan, {
    roles: Object.fromEntries(Object.entries(patch.roles).filter(([id]) => ids.includes(id))),
    ...Object.fromEntries(
      PLAN_PART_KEYS.filter((key) => patch[key] !== undefined).map((key) => [
        key,
        planPart(key).taking(plan[key], other[key], ids) ?? null,
      ]),
    ),
  });
}

/** A plan with a patch put in place. */
export function withPatch(plan: Plan, patch: PlanPatch): Plan {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  for (const [id, role] of Object.entries(patch.roles)) {
    if (role) roles.set(id, role);
    else roles.delete(id);
  }
  // A role the patch knows nothing of stays, behind those it names.
  const order = patch.order
    ? [...patch.order, ...[...roles.keys()].filter((id) => !patch.order?.includes(id))]
    : [...roles.keys()];
  const whole: Plan = { ...plan, roles: order.map((id) => roles.get(id)).filter((role) => role !== undefined) };
  for (const key of PLAN_PART_KEYS) {
    if (patch[key] === undefined) continue;
    if (patch[key] === null) delete (whole as Partial<Plan>)[key];
    else Object.assign(whole, { [key]: patch[key] });
  }
  return whole;
}
