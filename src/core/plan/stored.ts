import { z } from 'zod';
import { PLAN_PART_KEYS, PLAN_PARTS } from './parts';
import { operationSchema, type Operation } from './operations';
import type { PlanPatch } from './patch';
import { planSchema, roleSchema, type Plan } from './schema';

type Raw = Record<string, unknown>;
const isRaw = (value: unknown): value is Raw => typeof value === 'object' && value !== null && !Array.isArray(value);

/** One change of the form plans are written in: what was written before it becomes what is written since. */
interface Upgrade {
  name: string;
  plan?: (raw: Raw) => Raw;
  patch?: (raw: Raw) => Raw;
  operation?: (raw: Raw) => Raw;
}

/** What nobody had to be given while there was no choice: to paste with form. */
const ALWAYS_HAD = ['paste.form'];
/** What a role's list of tools says, as a set of that name and the rule that the role writes with it. */
function toolbarEntries(role: unknown): { sets: Raw[]; rules: Raw[] } {
  const toolbar = isRaw(role) && isRaw(role['toolbar']) ? role['toolbar'] : null;
  if (!isRaw(role) || !toolbar) return { sets: [], rules: [] };
  const list = (what: unknown) => (Array.isArray(what) ? (what as unknown[]) : []);
  const { id, name } = role;
  const modes = list(toolbar['modes']).filter((mode) => mode !== 'visual');
  const add = [...list(toolbar['tools']), ...ALWAYS_HAD, ...modes.map((mode) => `mode.${String(mode)}`)];
  return { sets: [{ id, name, add, take: [] }], rules: [{ id, when: { roles: [id] }, then: { use: id } }] };
}
const withoutToolbar = (role: unknown): unknown => {
  if (!isRaw(role)) return role;
  const { toolbar: _, ...rest } = role;
  return rest;
};
/** Toolbars as a part of the plan, from the lists its roles had. */
function withToolbars(raw: Raw): Raw {
  const { roles } = raw;
  if (!Array.isArray(roles) || 'toolbars' in raw) return raw;
  const entries = roles.map(toolbarEntries);
  return {
    ...raw,
    roles: roles.map(withoutToolbar),
    toolbars: { sets: entries.flatMap(({ sets }) => sets), rules: entries.flatMap(({ rules }) => rules) },
  };
}
function patchWithToolbars(raw: Raw): Raw {
  const { roles } = raw;
  if (!isRaw(roles) || !Object.values(roles).some((role) => isRaw(role) && 'toolbar' in role)) return raw;
  const entries = Object.values(roles).map(toolbarEntries);
  return {
    ...raw,
    roles: Object.fromEntries(Object.entries(roles).map(([id, role]) => [id, withoutToolbar(role)])),
    toolbars: {
      entries: Object.fromEntries<unknown>(
        entries.flatMap(({ sets, rules }) => [
          ...sets.map((set) => [`set ${String(set['id'])}`, set] as const),
          ...rules.map((rule) => [`rule ${String(rule['id'])}`, rule] as const),
        ]),
      ),
    },
  };
}

/** What was one tool and is several by now: a heading by its level, a link by what it leads to. */
const PARTED: Record<string, readonly string[]> = {
  heading: ['heading.2', 'heading.3'],
  link: ['link.page', 'link.file', 'link.web', 'link.mail', 'link.phone'],
};
const partsOf = (tool: unknown): readonly unknown[] => PARTED[String(tool)] ?? [tool];
/** A role with the tools it had, each in its parts. */
function withPartedTools(role: unknown): unknown {
  const toolbar = isRaw(role) && isRaw(role['toolbar']) ? role['toolbar'] : {};
  const tools = toolbar['tools'];
  if (!isRaw(role) || !Array.isArray(tools)) return role;
  return { ...role, toolbar: { ...toolbar, tools: tools.flatMap(partsOf) } };
}

/** A board as columns of widgets, as a list of entries that each say their column. */
function withBoard(role: unknown): unknown {
  const dashboard = isRaw(role) ? role['dashboard'] : null;
  const columns = isRaw(dashboard) ? dashboard['columns'] : null;
  if (!isRaw(role) || !Array.isArray(columns)) return role;
  return {
    ...role,
    dashboard: {
      columns: columns.length,
      widgets: columns.flatMap((column: unknown, i) =>
        (Array.isArray(column) ? column : []).map((widget: unknown) => ({
          id: widget,
          widget,
          column: i,
          hold: 'away',
          size: 'narrow',
        })),
      ),
    },
  };
}
const withMenu = (role: unknown): unknown =>
  isRaw(role) && !('menu' in role) ? { ...role, menu: { groups: [], shortcuts: [], hints: {} } } : role;
const eachRole = (raw: Raw, change: (role: unknown) => unknown): Raw => ({
  ...raw,
  ...(Array.isArray(raw['roles']) && { roles: raw['roles'].map(change) }),
  ...(isRaw(raw['roles']) && {
    roles: Object.fromEntries(Object.entries(raw['roles']).map(([id, role]) => [id, change(role)])),
  }),
});
/** How everybody begins to read, without a language that screens no longer tell dates in. */
function withScreenDates(raw: Raw): Raw {
  const { reading } = raw;
  const start = isRaw(reading) ? reading['start'] : null;
  if (!isRaw(reading) || !isRaw(start) || (start['dates'] !== 'cy' && start['dates'] !== 'gd')) return raw;
  const { dates: _, ...rest } = start;
  return { ...raw, reading: { ...reading, start: rest } };
}
const WIDGET_OPERATIONS = ['place-widget', 'remove-widget'];

/**
 * Every change of form there was, oldest first. What is stored, and what a file holds, stays as it was written; it is
 * brought up each time it is read, so a new form never rewrites what was in force once.
 */
const UPGRADES: readonly Upgrade[] = [
  { name: 'roles that nobody may hold together', plan: (raw) => ({ apart: [], ...raw }) },
  {
    name: 'changes that touch more than one role',
    patch: (raw) => (typeof raw['id'] === 'string' ? { roles: { [raw['id']]: raw } } : raw),
  },
  {
    name: 'tools that are several by now',
    plan: (raw) => ({ ...raw, ...(Array.isArray(raw['roles']) && { roles: raw['roles'].map(withPartedTools) }) }),
    patch: ({ roles, ...raw }) => ({
      ...raw,
      roles: isRaw(roles)
        ? Object.fromEntries(Object.entries(roles).map(([id, role]) => [id, withPartedTools(role)]))
        : roles,
    }),
    operation: (raw) => ({ ...raw, ...(raw['do'] === 'set-tool' && { tool: partsOf(raw['tool'])[0] }) }),
  },
  {
    name: 'toolbars by rule',
    plan: withToolbars,
    patch: patchWithToolbars,
    operation: ({ mode, ...raw }) =>
      raw['do'] === 'set-mode'
        ? { ...raw, do: 'set-tool', tool: `mode.${String(mode)}` }
        : { ...raw, ...(mode !== undefined && { mode }) },
  },
  { name: 'edit screens by rule', plan: (raw) => ({ screens: [], ...raw }) },
  {
    name: 'widgets that can be set one by one',
    plan: (raw) => eachRole(raw, withBoard),
    patch: (raw) => eachRole(raw, withBoard),
    operation: (raw) =>
      WIDGET_OPERATIONS.includes(String(raw['do'])) && !('entry' in raw) ? { ...raw, entry: raw['widget'] } : raw,
  },
  { name: 'words of the office', plan: (raw) => ({ words: [], ...raw }) },
  {
    name: 'menus with groups and shortcuts',
    plan: (raw) => eachRole(raw, withMenu),
    patch: (raw) => eachRole(raw, withMenu),
  },
  {
    name: 'dates on screens in no language that browsers lack',
    plan: withScreenDates,
    patch: withScreenDates,
    operation: withScreenDates,
  },
];

/** A plan in today's form, not checked yet; what is none stays as it is. */
export const upgradedPlan = (raw: unknown): unknown =>
  isRaw(raw) ? UPGRADES.reduce((now, { plan }) => plan?.(now) ?? now, raw) : raw;

/** Of a collection only what differs; whether the plan holds together with it is seen when it is put in place. */
const entriesSchema = z.strictObject({
  entries: z.record(z.string(), z.unknown()),
  order: z.array(z.string()).optional(),
  moved: z.literal(true).optional(),
});
const patchSchema = z.strictObject({
  roles: z.record(z.string(), roleSchema.nullable()),
  order: z.array(z.string()).optional(),
  ...Object.fromEntries(
    PLAN_PART_KEYS.map((key) => [
      key,
      ('entries' in PLAN_PARTS[key] ? entriesSchema : PLAN_PARTS[key].schema.nullable()).optional(),
    ]),
  ),
});

function read<T>(what: string, schema: z.ZodType<T>, raw: unknown): T {
  const parsed = schema.safeParse(raw);
  if (parsed.success) return parsed.data;
  const first = parsed.error.issues[0];
  throw new RangeError(`a stored ${what} cannot be read: ${first?.path.join('.') ?? ''} ${first?.message ?? ''}`);
}

/** A stored plan of whatever form. Throws a RangeError with the place of what is wrong. */
export const readPlan = (raw: unknown): Plan => read('plan', planSchema, upgradedPlan(raw));
/** A stored patch of whatever form; throws likewise. */
export const readPatch = (raw: unknown): PlanPatch =>
  read('patch', patchSchema, isRaw(raw) ? UPGRADES.reduce((now, { patch }) => patch?.(now) ?? now, raw) : raw);
/** A stored operation of whatever form; throws likewise. */
export const readOperation = (raw: unknown): Operation =>
  read(
    'operation',
    operationSchema,
    isRaw(raw)
      ? UPGRADES.reduce((now, { operation }) => operation?.(now) ?? now, {
          ...raw,
          ...('plan' in raw && { plan: upgradedPlan(raw['plan']) }),
        })
      : raw,
  );
