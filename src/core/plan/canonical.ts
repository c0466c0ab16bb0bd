import { canonical } from '../json';
import type { Inventory } from '../inventory';
import { PLAN_PART_KEYS, planPart, ROLE_PART_KEYS, rolePart } from './parts';
import type { Plan, PlanRole } from './schema';

/** What a role says, each part in the one form of all that say the same. */
const sayingOfRole = (inventory: Inventory, role: PlanRole) => ({
  ...role,
  extends: [...new Set(role.extends)],
  ...Object.fromEntries(ROLE_PART_KEYS.map((key) => [key, rolePart(key).canonical(inventory, role[key])])),
});

/** Whether two plans say the same: in whatever order roles and rules stand, and whatever the rules are called. */
export function samePlan(inventory: Inventory, a: Plan, b: Plan): boolean {
  const said = (plan: Plan) =>
    canonical({
      ...Object.fromEntries(PLAN_PART_KEYS.map((key) => [key, planPart(key).canonical(inventory, plan[key])])),
      roles: plan.roles.map((role) => sayingOfRole(inventory, role)).sort((x, y) => (x.id < y.id ? -1 : 1)),
    });
  return said(a) === said(b);
}
