import type { Inventory, PermissionId } from '../inventory';
import { KEYHOLDER, type PlanRole } from '../plan';
import { needsOf } from './verdict';

/** Permissions a role's ticked tasks need, with the names of those tasks; the screens they go through included. */
export function neededBy(inventory: Inventory, role: PlanRole): Map<PermissionId, string[]> {
  const needed = new Map<PermissionId, string[]>();
  for (const ticked of role.tasks) {
    const task = inventory.tasks.get(ticked.task);
    if (!task) continue;
    const { somewhere, onThing } = needsOf(inventory, task);
    for (const need of new Set([...onThing, ...somewhere]))
      needed.set(need, [...(needed.get(need) ?? []), ticked.name ?? task.name]);
  }
  return needed;
}

/**
 * What a role may do and no ticked task of it, nor a widget on its dashboard, needs. Nothing for the keyholder, who is
 * there for everything.
 */
export function surplusOf(
  inventory: Inventory,
  role: PlanRole,
  may: (permission: PermissionId) => boolean,
): PermissionId[] {
  if (role.id === KEYHOLDER) return [];
  const needed = neededBy(inventory, role);
  const shown = new Set(role.dashboard.widgets.map(({ widget }) => inventory.widgets.get(widget)?.needs));
  return [...inventory.permissions.keys()].filter(
    (permission) => !needed.has(permission) && !shown.has(permission) && may(permission),
  );
}
