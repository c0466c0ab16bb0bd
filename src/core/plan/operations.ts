import { z } from 'zod';
import { canonical } from '../json';
import { objectOf, type Inventory } from '../inventory';
import {
  grantSchema,
  KEYHOLDER,
  planSchema,
  publishingOf,
  publishingSchema,
  roleSchema,
  type Plan,
  type PlanRole,
} from './schema';

const role = z.string().min(1);
const name = z.string().trim().max(100);

/** The named changes a plan can undergo. All but the last two concern one role. */
export const operationSchema = z.discriminatedUnion('do', [
  z.strictObject({
    do: z.literal('add-role'),
    role: roleSchema.shape.id,
    name: roleSchema.shape.name,
    purpose: roleSchema.shape.purpose,
    like: role.optional(),
  }),
  z.strictObject({ do: z.literal('name-role'), role, name: roleSchema.shape.name, purpose: roleSchema.shape.purpose }),
  z.strictObject({ do: z.literal('set-extends'), role, extends: z.array(role) }),
  z.strictObject({ do: z.literal('archive-role'), role, archived: z.boolean() }),
  z.strictObject({ do: z.literal('keep-apart'), role, other: role, apart: z.boolean() }),
  z.strictObject({ do: z.literal('change-grant'), role, grant: grantSchema }),
  z.strictObject({ do: z.literal('tick-task'), role, task: z.string(), ticked: z.boolean() }),
  z.strictObject({
    do: z.literal('name-task'),
    role,
    task: z.string(),
    name,
    said: z.array(z.string().trim().min(1).max(60)).max(30),
  }),
  z.strictObject({ do: z.literal('add-grant'), role, grant: grantSchema }),
  z.strictObject({ do: z.literal('remove-grant'), role, grant: z.string() }),
  z.strictObject({
    do: z.literal('set-door'),
    role,
    section: z.string(),
    state: z.enum(['open', 'look', 'away', 'closed']),
  }),
  z.strictObject({ do: z.literal('name-door'), role, section: z.string(), name: name.max(60) }),
  z.strictObject({ do: z.literal('move-door'), role, section: z.string(), to: z.int().min(0) }),
  z.strictObject({ do: z.literal('set-tool'), role, tool: z.string(), on: z.boolean() }),
  z.strictObject({ do: z.literal('set-mode'), role, mode: z.enum(['preview', 'code']), on: z.boolean() }),
  z.strictObject({
    do: z.literal('place-widget'),
    role,
    widget: z.string(),
    column: z.int().min(0).max(2),
    index: z.int().min(0),
  }),
  z.strictObject({ do: z.literal('remove-widget'), role, widget: z.string() }),
  z.strictObject({ do: z.literal('set-columns'), role, count: z.int().min(1).max(3) }),
  z.strictObject({
    do: z.literal('word-stop'),
    role,
    task: z.string(),
    stop: z.string(),
    title: name.max(120),
    text: z.string().trim().max(1200),
  }),
  z.strictObject({ do: z.literal('set-publishing'), publishing: publishingSchema }),
  z.strictObject({
    do: z.literal('replace-plan'),
    plan: planSchema,
    why: z.enum(['file', 'drop', 'return']).optional(),
  }),
]);
export type Operation = z.infer<typeof operationSchema>;
type RoleOperation = Exclude<Operation, { do: 'add-role' | 'keep-apart' | 'set-publishing' | 'replace-plan' }>;

/** The role an operation concerns; null for the whole plan. */
export const roleOf = (op: Operation): string | null =>
  op.do === 'replace-plan' || op.do === 'set-publishing' ? null : op.role;

export type OperationFault =
  'no-role' | 'in-use' | 'archived' | 'no-such-thing' | 'already-so' | 'keyholder-stays' | 'invalid';
export type Applied = { ok: true; plan: Plan } | { ok: false; code: OperationFault; detail: string };

const moved = <T>(list: readonly T[], item: T, to: number): T[] => {
  const rest = list.filter((entry) => entry !== item);
  rest.splice(Math.min(to, rest.length), 0, item);
  return rest;
};

/** The role's doors in order, with every section of the menu named: those left out are closed, at the end. */
export function allDoors(inventory: Inventory, planned: PlanRole): PlanRole['doors'] {
  const named = planned.doors.filter((door) => inventory.doors.some((section) => section.id === door.section));
  const rest = inventory.doors.filter((section) => !named.some((door) => door.section === section.id));
  return [...named, ...rest.map((section) => ({ section: section.id, state: 'closed' as const }))];
}

/** An opening of a door at the place it takes by itself: before the first closed one. */
function withDoor(
  inventory: Inventory,
  planned: PlanRole,
  section: string,
  change: (door: PlanRole['doors'][number]) => PlanRole['doors'][number],
): PlanRole {
  return {
    ...planned,
    doors: allDoors(inventory, planned).map((door) => (door.section === section ? change(door) : door)),
  };
}

const sameGrant = (a: PlanRole['grants'][number], b: PlanRole['grants'][number]) =>
  a.effect === b.effect && a.permission === b.permission && canonical(a.scope) === canonical(b.scope);

function isPermissionKnown(inventory: Inventory, permission: string): boolean {
  if (permission === '*') return true;
  return permission.endsWith('.*')
    ? inventory.sectionOfObject.has(objectOf(permission))
    : inventory.permissions.has(permission as never);
}

function change(inventory: Inventory, r: PlanRole, op: RoleOperation): PlanRole | OperationFault {
  switch (op.do) {
    case 'name-role':
      return r.name === op.name && r.purpose === op.purpose
        ? 'already-so'
        : { ...r, name: op.name, purpose: op.purpose };
    case 'set-extends':
      if (r.id === KEYHOLDER) return 'keyholder-stays';
      return canonical(r.extends) === canonical(op.extends)
        ? 'already-so'
        : { ...r, extends: [...new Set(op.extends)] };
    case 'archive-role': {
      if (r.id === KEYHOLDER) return 'keyholder-stays';
      if ((r.archived ?? false) === op.archived) return 'already-so';
      const { archived: _, ...rest } = r;
      return op.archived ? { ...rest, archived: true } : rest;
    }
    case 'change-grant': {
      const old = r.grants.find((g) => g.id === op.grant.id);
      if (!old || !isPermissionKnown(inventory, op.grant.permission)) return 'no-such-thing';
      if (r.id === KEYHOLDER && (old.permission === '*' || op.grant.effect === 'deny')) return 'keyholder-stays';
      if (r.grants.some((g) => sameGrant(g, op.grant))) return 'already-so';
      return { ...r, grants: r.grants.map((g) => (g === old ? op.grant : g)) };
    }
    case 'tick-task': {
      if (!inventory.tasks.has(op.task)) return 'no-such-thing';
      if (r.tasks.some((t) => t.task === op.task) === op.ticked) return 'already-so';
      return { ...r, tasks: op.ticked ? [...r.tasks, { task: op.task }] : r.tasks.filter((t) => t.task !== op.task) };
    }
    case 'name-task': {
      if (!r.tasks.some((t) => t.task === op.task)) return 'no-such-thing';
      const said = [...new Set(op.said)];
      return {
        ...r,
        tasks: r.tasks.map((t) =>
          t.task === op.task ? { task: t.task, ...(op.name && { name: op.name }), ...(said.length && { said }) } : t,
        ),
      };
    }
    case 'add-grant': {
      if (r.id === KEYHOLDER && op.grant.effect === 'deny') return 'keyholder-stays';
      if (!isPermissionKnown(inventory, op.grant.permission)) return 'no-such-thing';
      return r.grants.some((g) => g.id === op.grant.id || sameGrant(g, op.grant))
        ? 'already-so'
        : { ...r, grants: [...r.grants, op.grant] };
    }
    case 'remove-grant': {
      const grant = r.grants.find((g) => g.id === op.grant);
      if (!grant) return 'already-so';
      if (r.id === KEYHOLDER && grant.permission === '*') return 'keyholder-stays';
      return { ...r, grants: r.grants.filter((g) => g.id !== op.grant) };
    }
    case 'set-door': {
      if (!inventory.doors.some((s) => s.id === op.section)) return 'no-such-thing';
      if (r.id === KEYHOLDER && (op.state === 'closed' || op.state === 'look')) return 'keyholder-stays';
      const next = withDoor(inventory, r, op.section, (door) => ({ ...door, state: op.state }));
      return allDoors(inventory, r).some((d) => d.section === op.section && d.state === op.state) ? 'already-so' : next;
    }
    case 'name-door': {
      const section = inventory.doors.find((s) => s.id === op.section);
      if (!section) return 'no-such-thing';
      return withDoor(inventory, r, op.section, (door) => ({
        section: door.section,
        state: door.state,
        ...(op.name && op.name !== section.name && { name: op.name }),
      }));
    }
    case 'move-door': {
      const doors = allDoors(inventory, r);
      const door = doors.find((d) => d.section === op.section);
      return door ? { ...r, doors: moved(doors, door, op.to) } : 'no-such-thing';
    }
    case 'set-tool': {
      if (!inventory.tools.has(op.tool)) return 'no-such-thing';
      const tools = r.toolbar.tools.filter((t) => t !== op.tool);
      if ((tools.length !== r.toolbar.tools.length) === op.on) return 'already-so';
      return {
        ...r,
        toolbar: {
          ...r.toolbar,
          tools: op.on ? [...inventory.tools.keys()].filter((tool) => tool === op.tool || tools.includes(tool)) : tools,
        },
      };
    }
    case 'set-mode': {
      const modes = r.toolbar.modes.filter((m) => m !== op.mode);
      if ((modes.length !== r.toolbar.modes.length) === op.on) return 'already-so';
      return { ...r, toolbar: { ...r.toolbar, modes: op.on ? [...modes, op.mode] : modes } };
    }
    case 'place-widget': {
      if (!inventory.widgets.has(op.widget)) return 'no-such-thing';
      const columns = r.dashboard.columns.map((column) => column.filter((w) => w !== op.widget));
      const column = columns[op.column];
      if (!column) return 'no-such-thing';
      columns[op.column] = moved(column, op.widget, op.index);
      return { ...r, dashboard: { columns } };
    }
    case 'remove-widget': {
      if (!r.dashboard.columns.flat().includes(op.widget)) return 'already-so';
      return {
        ...r,
        dashboard: { columns: r.dashboard.columns.map((column) => column.filter((w) => w !== op.widget)) },
      };
    }
    case 'set-columns': {
      const old = r.dashboard.columns;
      if (old.length === op.count) return 'already-so';
      const columns = Array.from({ length: op.count }, (_, i) => [...(old[i] ?? [])]);
      columns[op.count - 1]?.push(...old.slice(op.count).flat());
      return { ...r, dashboard: { columns } };
    }
    case 'word-stop': {
      const task = inventory.tasks.get(op.task);
      const move = task?.moves.find((m) => m.control === op.stop);
      if (!task || !(move || op.stop.startsWith('door.'))) return 'no-such-thing';
      const words = {
        ...(op.title && op.title !== move?.title && { title: op.title }),
        ...(op.text && op.text !== move?.text && { text: op.text }),
      };
      const stops = Object.fromEntries(
        Object.entries({ ...r.tours[op.task], [op.stop]: words }).filter(([, w]) => Object.keys(w).length),
      );
      const tours = Object.fromEntries(
        Object.entries({ ...r.tours, [op.task]: stops }).filter(([, s]) => Object.keys(s).length),
      );
      return { ...r, tours };
    }
  }
}

const SAY: Record<OperationFault, string> = {
  'no-role': 'There is no such role in the plan.',
  'in-use': 'Other roles build on this one. Let them stand on their own first.',
  archived: 'This role is archived. Bring it back first.',
  'no-such-thing': 'The back office holds no such thing.',
  'already-so': 'That is already so.',
  'keyholder-stays': 'The keyholder role can always do everything; this cannot be taken from it.',
  invalid: 'The plan would not hold together.',
};

/**
 * Applies one operation to a plan. Pure; the plan given is left as it is.
 * A fault leaves nothing half-done: the code says which, the detail is a sentence.
 */
export function applyOperation(inventory: Inventory, plan: Plan, op: Operation): Applied {
  const fault = (code: OperationFault, detail = SAY[code]): Applied => ({ ok: false, code, detail });
  const next = changePlan(inventory, plan, op);
  if (typeof next === 'string') return fault(next);
  const checked = planSchema.safeParse(next);
  if (!checked.success) return fault('invalid', checked.error.issues[0]?.message ?? SAY.invalid);
  return { ok: true, plan: checked.data };
}

/** What a role begins with: nothing. */
export const emptyRole = (): Omit<PlanRole, 'id' | 'name' | 'purpose'> => ({
  extends: [],
  grants: [],
  tasks: [],
  doors: [],
  toolbar: { tools: [], modes: ['visual'] },
  dashboard: { columns: [[]] },
  tours: {},
});

function changePlan(inventory: Inventory, plan: Plan, op: Operation): Plan | OperationFault {
  if (op.do === 'replace-plan') return canonical(plan) === canonical(op.plan) ? 'already-so' : op.plan;
  if (op.do === 'set-publishing')
    return canonical(publishingOf(plan)) === canonical(op.publishing)
      ? 'already-so'
      : { ...plan, publishing: op.publishing };
  const target = plan.roles.find((r) => r.id === op.role);
  if (op.do === 'add-role') {
    if (target) return 'already-so';
    const like = op.like === undefined ? emptyRole() : plan.roles.find((r) => r.id === op.like);
    if (!like) return 'no-role';
    // Whoever may do everything is the keyholder; a copy of that role would be a second one nobody looks after.
    if (op.like === KEYHOLDER) return 'keyholder-stays';
    const { archived: _, ...made } = { ...like, archived: undefined, id: op.role, name: op.name, purpose: op.purpose };
    return { ...plan, roles: [...plan.roles, made] };
  }
  if (!target) return 'no-role';
  if (op.do === 'keep-apart') {
    if (!plan.roles.some((r) => r.id === op.other)) return 'no-role';
    const rest = plan.apart.filter((pair) => !(pair.includes(op.role) && pair.includes(op.other)));
    if ((rest.length !== plan.apart.length) === op.apart) return 'already-so';
    return { ...plan, apart: op.apart ? [...rest, [op.role, op.other]] : rest };
  }
  if (target.archived && op.do !== 'archive-role') return 'archived';
  if (op.do === 'archive-role' && op.archived && plan.roles.some((r) => !r.archived && r.extends.includes(op.role)))
    return 'in-use';
  const next = change(inventory, target, op);
  return typeof next === 'string' ? next : { ...plan, roles: plan.roles.map((r) => (r === target ? next : r)) };
}

/** An operation as the administrator would say it: "Door “Notices”: closed". */
export function operationInWords(inventory: Inventory, op: Operation): string {
  const section = (id: string) => inventory.sections.find((s) => s.id === id)?.name ?? id;
  const task = (id: string) => inventory.tasks.get(id)?.name ?? id;
  const widget = (id: string) => inventory.widgets.get(id)?.name ?? id;
  const state = { open: 'open', look: 'look only', away: 'put away', closed: 'closed' };
  const may = (g: PlanRole['grants'][number]) =>
    `${g.effect === 'allow' ? 'Allow' : 'Forbid'}: ${inventory.permissions.get(g.permission as never)?.name ?? g.permission}`;
  switch (op.do) {
    case 'add-role':
      return `New role “${op.name}”${op.like === undefined ? '' : ', as a copy'}`;
    case 'name-role':
      return `Role called “${op.name}”`;
    case 'set-extends':
      return op.extends.length ? 'Build on other roles' : 'Stand on its own';
    case 'archive-role':
      return op.archived ? 'Archive the role' : 'Bring the role back';
    case 'keep-apart':
      return op.apart ? 'Keep two roles apart' : 'Let two roles be held together';
    case 'change-grant':
      return `Change a rule. ${may(op.grant)}`;
    case 'set-publishing':
      return 'Set what is looked for before publishing';
    case 'replace-plan':
      return {
        file: 'Plan read from a file',
        drop: 'What was prepared was dropped',
        return: 'The plan that was gone back to',
      }[op.why ?? 'file'];
    case 'tick-task':
      return `${op.ticked ? 'Tick' : 'Untick'} task “${task(op.task)}”`;
    case 'name-task':
      return `Name task “${task(op.task)}” in own words`;
    case 'add-grant':
      return may(op.grant);
    case 'remove-grant':
      return 'Take a grant away';
    case 'set-door':
      return `Door “${section(op.section)}”: ${state[op.state]}`;
    case 'name-door':
      return op.name
        ? `Door “${section(op.section)}” is called “${op.name}”`
        : `Door “${section(op.section)}” has its own name back`;
    case 'move-door':
      return `Move door “${section(op.section)}” to place ${op.to + 1}`;
    case 'set-tool':
      return `${op.on ? 'Give' : 'Take away'} tool “${inventory.tools.get(op.tool)?.name ?? op.tool}”`;
    case 'set-mode':
      return `${op.on ? 'Give' : 'Take away'} “${inventory.modes.get(op.mode)?.name ?? op.mode}”`;
    case 'place-widget':
      return `Place widget “${widget(op.widget)}”`;
    case 'remove-widget':
      return `Remove widget “${widget(op.widget)}”`;
    case 'set-columns':
      return `Dashboard in ${op.count} ${op.count === 1 ? 'column' : 'columns'}`;
    case 'word-stop':
      return `Reword a stop of “${task(op.task)}”`;
  }
}
