import type { DoorState, Grant, PolicyPerson, PolicyRole, Policy } from '../access';
import { hasField, objectOf, type Inventory } from '../inventory';
import { KEYHOLDER, type Plan } from './schema';

/**
 * A rule for some fields holds on the layouts that have one of them, so that whoever may change a page may change
 * something of it.
 */
function onTheirLayouts(inventory: Inventory, grant: Grant): Grant {
  const { fields, layouts } = grant.scope;
  if (!fields || fields.some((id) => inventory.settings.has(id))) return grant;
  const having = [...inventory.layouts.keys()].filter((layout) => fields.some((id) => hasField(inventory, layout, id)));
  if (having.length === inventory.layouts.size) return grant;
  return { ...grant, scope: { ...grant.scope, layouts: having.filter((id) => !layouts || layouts.includes(id)) } };
}

/** The access policy a plan stands for: its roles' grants, limited by their own doors, and the people who hold them. */
export function policyOf(inventory: Inventory, plan: Plan, people: readonly PolicyPerson[]): Policy {
  const roles = plan.roles.map((role): PolicyRole => {
    const state = new Map<string, DoorState>(inventory.doors.map((section) => [section.id, 'closed']));
    for (const door of role.doors) state.set(door.section, door.state);
    const doors = new Map<string, DoorState>();
    if (role.id !== KEYHOLDER)
      for (const section of inventory.doors)
        for (const p of section.permissions) doors.set(objectOf(p.id), state.get(section.id) ?? 'closed');
    return {
      id: role.id,
      name: role.name,
      extends: role.extends,
      grants: role.grants.map((grant) => onTheirLayouts(inventory, grant)),
      doors,
    };
  });
  return {
    roles: new Map(roles.map((role) => [role.id, role])),
    people: new Map(people.map((person) => [person.id, person])),
    secondPerson: new Set([...inventory.permissions.values()].filter((p) => p.secondPerson).map((p) => p.id)),
  };
}
