import type { DoorState } from '../access';
import { toolName, type Control, type Inventory, type PermissionId } from '../inventory';
import type { Operation } from '../plan';

/** What keeps somebody from a task, or a control from their room. */
export type Missing =
  | { kind: 'permission'; id: PermissionId }
  | { kind: 'denied'; id: PermissionId }
  /** Each is allowed somewhere, but no one thing has them all. */
  | { kind: 'apart'; ids: PermissionId[] }
  /** Allowed, but no page it is allowed on has what the task changes, or not for them to change. */
  | { kind: 'field'; control: string }
  /** Hidden on the edit screens prepared for them. */
  | { kind: 'panel'; control: string }
  | { kind: 'door'; id: string; state: DoorState }
  | { kind: 'tool'; id: string };

/** What somebody may, about the thing at hand or at all, and writes with. */
export interface Having {
  may: (permission: PermissionId) => boolean;
  /** Whether they have one of these tools for what is edited on a screen. */
  hasTool: (tools: readonly string[], screen: string) => boolean;
}

export const permissionsOf = ({ needs }: Pick<Control, 'needs'>): readonly PermissionId[] =>
  needs === undefined ? [] : typeof needs === 'string' ? [needs] : needs;

/**
 * All that keeps a control from somebody, in the order they would meet it; nothing where it is there for them. Verdicts
 * on tasks, tours, the Workshop's miniature and the screens themselves ask this.
 */
export function lackingFor(
  control: Pick<Control, 'needs' | 'screen' | 'tools'>,
  { may, hasTool }: Having,
): Extract<Missing, { kind: 'permission' | 'tool' }>[] {
  const { tools = [], screen } = control;
  return [
    ...permissionsOf(control)
      .filter((id) => !may(id))
      .map((id) => ({ kind: 'permission' as const, id })),
    ...(tools.length > 0 && !hasTool(tools, screen)
      ? tools.slice(0, 1).map((id) => ({ kind: 'tool' as const, id }))
      : []),
  ];
}

/** The controls of a screen that are there for somebody, in the inventory's order. */
export const controlsOn = (inventory: Inventory, screen: string, having: Having): string[] =>
  [...inventory.controls.values()]
    .filter((control) => control.screen === screen && lackingFor(control, having).length === 0)
    .map(({ id }) => id);

/** What is missing, as a sentence for the administrator. */
export function missingInWords(
  inventory: Inventory,
  missing: Missing,
  doorName: (section: string) => string = (id) => inventory.sections.find((s) => s.id === id)?.name ?? id,
): string {
  const permission = (id: PermissionId) => inventory.permissions.get(id)?.name ?? id;
  switch (missing.kind) {
    case 'permission':
      return `Missing: may ${permission(missing.id)}.`;
    case 'denied':
      return `A deny forbids it: must not ${permission(missing.id)}.`;
    case 'apart':
      return missing.ids.length === 1
        ? `May ${missing.ids.map(permission).join()}, but nowhere where it helps.`
        : `Nowhere together: may ${missing.ids.map(permission).join('; ')} – each somewhere, but not all on one page.`;
    case 'field':
      return `No page they may change has “${inventory.controls.get(missing.control)?.name ?? missing.control}” for them to change.`;
    case 'panel':
      return `“${inventory.controls.get(missing.control)?.name ?? missing.control}” is hidden on their edit screen.`;
    case 'door':
      return missing.state === 'look'
        ? `The door “${doorName(missing.id)}” is set to look only.`
        : `The door “${doorName(missing.id)}” is closed.`;
    case 'tool':
      return `The toolbar lacks “${toolName(inventory, missing.id)}”.`;
  }
}

/** The operation that adds what is missing; undefined where that is for a person to decide. */
export function mendMissing(role: string, missing: Missing): Operation | undefined {
  switch (missing.kind) {
    case 'permission':
      return {
        do: 'add-grant',
        role,
        grant: { id: `${missing.id}-everywhere`, effect: 'allow', permission: missing.id, scope: {} },
      };
    case 'door':
      return { do: 'set-door', role, section: missing.id, state: 'open' };
    case 'tool':
      return { do: 'set-tool', role, tool: missing.id, on: true };
    case 'panel':
      return { do: 'set-element', role, element: missing.control, place: {}, said: { show: 'closed' } };
    case 'denied':
    case 'apart':
    case 'field':
      return undefined;
  }
}
