import { closure, type PolicyPerson } from '../access';
import { canonical } from '../json';
import type { Plan, PlanRole } from '../plan';

/** The roles somebody was given, and those they build on, as a plan has them. */
function rolesOf({ roles }: Plan, person: PolicyPerson): PlanRole[] {
  const byId = new Map(roles.map((role) => [role.id, role]));
  const held = new Set(
    person.assignments.flatMap(({ role }) => closure({ roles: byId }, role).map((reached) => reached.role.id)),
  );
  return roles.filter(({ id }) => held.has(id));
}

/** Rules and sets are long, and the same for everybody. */
const rulesAsText = new WeakMap<Plan['toolbars'], string>();
function asText(toolbars: Plan['toolbars']): string {
  const text = rulesAsText.get(toolbars) ?? canonical(toolbars);
  rulesAsText.set(toolbars, text);
  return text;
}
/** All that decides which tools somebody has, as text: where it is the same in two plans they have the same. */
export const toolbarsOf = (plan: Plan, person: PolicyPerson): string =>
  asText(plan.toolbars) + canonical(rolesOf(plan, person).map((role) => [role.id, role.extends]));

/** All that decides how somebody's edit screens are prepared, as text, in the same way. */
export function screenRulesOf(plan: Plan, person: PolicyPerson): string {
  const held = rolesOf(plan, person);
  const isOne = new Set(person.assignments.map(({ role }) => role)).size <= 1;
  const isFor = (roles: readonly string[] | undefined) => !roles || held.some(({ id }) => roles.includes(id));
  return canonical([
    plan.screens.filter(({ when }) => isFor(when.roles)),
    // Of several roles those count that let them change a thing by themselves.
    held.map(({ id, extends: base, grants, doors }) => [id, base, ...(isOne ? [] : [grants, doors])]),
  ]);
}
