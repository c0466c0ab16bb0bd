import type { Inventory } from '../inventory';
import { toolsIn, type ToolWorld } from '../toolbar';
import { worldOfToolbars } from './parts';
import type { Plan } from './schema';

/** What toolbars are resolved by under a plan. */
export const toolWorldOf = (inventory: Inventory, plan: Plan): ToolWorld =>
  worldOfToolbars(inventory.tools.keys(), plan.toolbars, plan.roles);

const known = new WeakMap<Plan, { inventory: Inventory; resolve: ReturnType<typeof toolsIn> }>();

/** Which tools some roles have on a spot under a plan; what was worked out is kept as long as the plan. */
export function toolResolver(inventory: Inventory, plan: Plan): ReturnType<typeof toolsIn> {
  const kept = known.get(plan);
  if (kept?.inventory === inventory) return kept.resolve;
  const resolve = toolsIn(toolWorldOf(inventory, plan));
  known.set(plan, { inventory, resolve });
  return resolve;
}
