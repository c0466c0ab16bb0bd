import { canonical } from '../json';
import type { Plan, PlanRole } from './schema';

/** The parts of a plan that a change touched, as they were or as they became. Null for a role that is not there. */
export interface PlanPart {
  roles: Record<string, PlanRole | null>;
  /** Role ids in order, where the change touched which there are. */
  order?: string[];
  apart?: Plan['apart'];
  /** Null where it was left out. */
  publishing?: Plan['publishing'] | null;
}

/** What of `plan` differs from `other`: enough to turn `other` into `plan` with `withPart`. */
export function partOf(plan: Plan, other: Plan): PlanPart {
  const roles: PlanPart['roles'] = {};
  for (const role of plan.roles)
    if (canonical(role) !== canonical(other.roles.find((r) => r.id === role.id))) roles[role.id] = role;
  for (const role of other.roles) if (!plan.roles.some((r) => r.id === role.id)) roles[role.id] = null;
  const order = plan.roles.map((r) => r.id);
  return {
    roles,
    ...(canonical(order) !== canonical(other.roles.map((r) => r.id)) && { order }),
    ...(canonical(plan.apart) !== canonical(other.apart) && { apart: plan.apart }),
    ...(canonical(plan.publishing) !== canonical(other.publishing) && { publishing: plan.publishing ?? null }),
  };
}

/** What two changes must not both touch for one to be taken back by itself: roles by id, pairs kept apart, what is asked for before publishing. */
export const touchedBy = (part: PlanPart): string[] => [
  ...Object.keys(part.roles).map((id) => `role ${id}`),
  ...(part.apart ? ['apart'] : []),
  ...(part.publishing !== undefined ? ['publishing'] : []),
];

/** A plan with what another says of some roles; of everything that concerns all roles where null is among them. What the roles build on must be there. */
export function withRolesOf(plan: Plan, other: Plan, ids: readonly (string | null)[]): Plan {
  const part = partOf(other, plan);
  const isChosen = (id: string) => ids.includes(id);
  const pairs = (from: Plan) => from.apart.filter((pair) => pair.some(isChosen));
  return withPart(plan, {
    roles: Object.fromEntries(Object.entries(part.roles).filter(([id]) => isChosen(id))),
    ...(part.apart && { apart: [...plan.apart.filter((pair) => !pair.some(isChosen)), ...pairs(other)] }),
    ...(part.publishing !== undefined && ids.includes(null) && { publishing: part.publishing }),
  });
}

/** A plan with a part of it put in place. */
export function withPart(plan: Plan, part: PlanPart): Plan {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  for (const [id, role] of Object.entries(part.roles)) {
    if (role) roles.set(id, role);
    else roles.delete(id);
  }
  // A role the part knows nothing of stays, behind those it names.
  const order = part.order
    ? [...part.order, ...[...roles.keys()].filter((id) => !part.order?.includes(id))]
    : [...roles.keys()];
  const { publishing: before, ...rest } = plan;
  const publishing = part.publishing === undefined ? before : part.publishing;
  return {
    ...rest,
    roles: order.map((id) => roles.get(id)).filter((role) => role !== undefined),
    apart: part.apart ?? plan.apart,
    ...(publishing && { publishing }),
  };
}
