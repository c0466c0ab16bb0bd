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

/**
 * Every change of form there was, oldest first. What is stored, and what a file holds, stays as it was written; it is
 * brought up each time it is read, so a new form never rewrites what was in force once.
 */
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
];

/** A plan in today's form, not checked yet; what is none stays as it is. */
export const upgradedPlan = (raw: unknown): unknown =>
  isRaw(raw) ? UPGRADES.reduce((now, { plan }) => plan?.(now) ?? now, raw) : raw;

const patchSchema = z.strictObject({
  roles: z.record(z.string(), roleSchema.nullable()),
  order: z.array(z.string()).optional(),
  ...Object.fromEntries(PLAN_PART_KEYS.map((key) => [key, PLAN_PARTS[key].schema.nullable().optional()])),
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
