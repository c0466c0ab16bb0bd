import type { Decision, DoorState, Place } from '../access';
import type { Inventory, PermissionId } from '../inventory';

/** What is asked of somebody's room to tell whether a task can be done in it. */
export interface TaskFacts {
  inventory: Inventory;
  /** Who would do it. */
  person: string;
  /** The most favourable decision about a permission over all places. */
  best: (permission: PermissionId) => Decision;
  /** Whether a permission is allowed on a thing that lies somewhere, or for one field of it. */
  may: (permission: PermissionId, place: Place, field?: string) => boolean;
  places: readonly Place[];
  doorOf: (section: string) => DoorState;
  /** Whether one text of a thing of a type that lies somewhere has, of each of these lists, one tool. */
  hasTools: (type: string, place: Place, tools: readonly (readonly string[])[]) => boolean;
  /** Whether the edit screen of a thing of a type that lies somewhere has a panel. */
  shows: (type: string, place: Place, panel: string) => boolean;
}
