import { isReading, objectOf, type Inventory, type PermissionId, type TaskTemplate } from '../inventory';
import type { Operation } from '../plan';
import type { Decision, DoorState } from '../access';

export type Missing =
  | { kind: 'permission'; id: PermissionId }
  | { kind: 'denied'; id: PermissionId }
  | { kind: 'door'; id: string; state: DoorState }
  | { kind: 'tool'; id: string };

/** Whether a task can be done, or the first thing that is missing, in the order a person would meet it. */
export type Verdict = { can: true } | { can: false; missing: Missing };

export interface TaskFacts {
  inventory: Inventory;
  /** The most favourable decision about a permission over all places. */
  best(permission: PermissionId): Decision;
  doorOf(section: string): DoorState;
  tools: ReadonlySet<string>;
}

/** Follows a task from its door through its permissions to its tools. */
export function judgeTask(task: TaskTemplate & { section: string }, facts: TaskFacts): Verdict {
  const screenNeeds = getScreenNeeds(facts.inventory, task);
  for (const permission of [...new Set([...screenNeeds, ...task.needs])]) {
    const decision = facts.best(permission);
    if (decision.allowed) continue;
    const section = facts.inventory.sectionOfObject.get(objectOf(permission)) ?? task.section;
    const door = facts.inventory.doors.some((s) => s.id === section) ? facts.doorOf(section) : 'open';
    if (door === 'closed' || (door === 'look' && !isReading(permission))) return { can: false, missing: { kind: 'door', id: section, state: door } };
    if (decision.reason === 'denied') return { can: false, missing: { kind: 'denied', id: permission } };
    return { can: false, missing: { kind: 'permission', id: permission } };
  }
  for (const tool of task.tools ?? []) if (!facts.tools.has(tool)) return { can: false, missing: { kind: 'tool', id: tool } };
  return { can: true };
}

function getScreenNeeds(inventory: Inventory, task: TaskTemplate): PermissionId[] {
  const screens = [task.screen, ...task.moves.map((move) => inventory.controls.get(move.control)?.screen ?? task.screen)];
  return [...new Set(screens)].map((id) => inventory.screens.get(id)?.needs).filter((need) => need !== undefined);
}

/** What is missing, as a sentence for the administrator. */
export function missingInWords(inventory: Inventory, missing: Missing): string {
  const section = (id: string) => inventory.sections.find((s) => s.id === id)?.name ?? id;
  const permission = (id: PermissionId) => inventory.permissions.get(id)?.name ?? id;
  switch (missing.kind) {
    case 'permission': return `Missing: may ${permission(missing.id)}.`;
    case 'denied': return `A deny forbids it: must not ${permission(missing.id)}.`;
    case 'door': return missing.state === 'look' ? `The door “${section(missing.id)}” is set to look only.` : `The door “${section(missing.id)}” is closed.`;
    case 'tool': return `The toolbar lacks “${inventory.tools.get(missing.id)?.name ?? missing.id}”.`;
  }
}

/** The operation that adds what is missing; undefined where that is for a person to decide. */
export function mendMissing(role: string, missing: Missing): Operation | undefined {
  switch (missing.kind) {
    case 'permission': return { do: 'add-grant', role, grant: { id: `${missing.id}-everywhere`, effect: 'allow', permission: missing.id, scope: {} } };
    case 'door': return { do: 'set-door', role, section: missing.id, state: 'open' };
    case 'tool': return { do: 'set-tool', role, tool: missing.id, on: true };
    case 'denied': return undefined;
  }
}
