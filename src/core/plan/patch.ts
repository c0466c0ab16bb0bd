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
  for (const role of plan.roles) if (canonical(role) !== canonical(other.roles.find((r) => r.id === role.id))) roles[role.id] = role;
  for (const role of other.roles) if (!plan.roles.some((r) => r.id === role.id)) roles[role.id] = null;
  const order = plan.roles.map((r) => r.id);
  return {
    roles,
    ...(canonical(order) !== canonical(other.roles.map((r) => r.id)) && { order }),
    ...(canonical(plan.apart) !== canonical(other.apart) && { apart: plan.apart }),
    ...(canonical(plan.publishing) !== canonical(other.publishing) && { publishing: plan.publishing ?? null }),
  };
}

/** A plan with a part of it put in place. */
export function withPart(plan: Plan, part: PlanPart): Plan {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  for (const [id, role] of Object.entries(part.roles)) {
    if (role) roles.set(id, role);
    else roles.delete(id);
  }
  const order = part.order ?? [...roles.keys()];
  const { publishing: before, ...rest } = plan;
  const publishing = part.publishing === undefined ? before : part.publishing;
  return { ...rest, roles: order.map((id) => roles.get(id)).filter((role) => role !== undefined), apart: part.apart ?? plan.apart, ...(publishing && { publishing }) };
}
