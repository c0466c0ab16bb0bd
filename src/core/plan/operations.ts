import { z } from 'zod';
import { sameJson } from '../json';
import type { Inventory } from '../inventory';
import {
  PLAN_PART_KEYS,
  PLAN_PARTS,
  planPart,
  ROLE_PART_KEYS,
  ROLE_PARTS,
  type OperationFault,
  type PlanPartKey,
  type RolePartKey,
} from './parts';
import { role as roleId, type OperationContext, type RoleName } from './parts/part';
import { emptyRole, KEYHOLDER, planSchema, roleSchema, type Plan, type PlanRole } from './schema';

const { name, purpose } = roleSchema.shape;
/** Operations on which roles there are, and on the plan as a whole. */
const WHOLE = [
  z.strictObject({ do: z.literal('add-role'), role: roleSchema.shape.id, name, purpose, like: roleId.optional() }),
  z.strictObject({ do: z.literal('name-role'), role: roleId, name, purpose }),
  z.strictObject({ do: z.literal('set-extends'), role: roleId, extends: z.array(roleId) }),
  z.strictObject({ do: z.literal('archive-role'), role: roleId, archived: z.boolean() }),
  z.strictObject({
    do: z.literal('replace-plan'),
    plan: planSchema,
    why: z.enum(['file', 'drop', 'return']).optional(),
  }),
] as const;
type WholeOperation = z.infer<(typeof WHOLE)[number]>;

type RolePartOperation = (typeof ROLE_PARTS)[RolePartKey]['operations'][number];
type PlanPartOperation = (typeof PLAN_PARTS)[PlanPartKey]['operations'][number];
type Schemas = (typeof WHOLE)[number] | (RolePartOperation | PlanPartOperation)['schema'];
const schemas = [
  ...WHOLE,
  ...ROLE_PART_KEYS.flatMap((key) => ROLE_PARTS[key].operations.map(({ schema }) => schema)),
  ...PLAN_PART_KEYS.flatMap((key) => PLAN_PARTS[key].operations.map(({ schema }) => schema)),
] as Schemas[] as [Schemas];

/** The named changes a plan can undergo. */
export const operationSchema = z.discriminatedUnion('do', schemas);
export type Operation = z.infer<Schemas>;

/** A plan with operations done one after the other; undefined where one of them cannot be. */
export function applyAll(inventory: Inventory, plan: Plan, operations: readonly Operation[]): Plan | undefined {
  let next = plan;
  for (const operation of operations) {
    const applied = applyOperation(inventory, next, operation);
    if (!applied.ok) return undefined;
    next = applied.plan;
  }
  return next;
}

/** The role an operation concerns; null for the whole plan. */
export const roleOf = (op: Operation): string | null => ('role' in op ? op.role : null);

export type Applied = { ok: true; plan: Plan } | { ok: false; code: OperationFault; detail: string };

/** An operation of a part as it is called, whatever its value and its fields are. */
interface Known {
  apply(doing: OperationContext, value: unknown, op: Operation): unknown;
  say(inventory: Inventory, op: Operation, role: RoleName): string;
}
type Home = { level: 'role'; key: RolePartKey; known: Known } | { level: 'plan'; key: PlanPartKey; known: Known };
const HOMES = new Map<string, Home>(
  [
    ...ROLE_PART_KEYS.flatMap((key) =>
      ROLE_PARTS[key].operations.map((one) => ({ level: 'role' as const, key, known: one, schema: one.schema })),
    ),
    ...PLAN_PART_KEYS.flatMap((key) =>
      PLAN_PARTS[key].operations.map((one) => ({ level: 'plan' as const, key, known: one, schema: one.schema })),
    ),
  ].map(({ schema, known, ...home }) => [schema.shape.do.value, { ...home, known: known as unknown as Known }]),
);
const homeOf = (op: Operation): Home => {
  const home = HOMES.get(op.do);
  if (!home) throw new RangeError(`no part knows the operation "${op.do}"`);
  return home;
};

const SAY: Record<OperationFault, string> = {
  'no-role': 'There is no such role in the plan.',
  'in-use': 'Other roles build on this one. Let them stand on their own first.',
  archived: 'This role is archived. Bring it back first.',
  'no-such-thing': 'The back office holds no such thing.',
  'already-so': 'That is already so.',
  'keyholder-stays': 'The keyholder role can always do everything; this cannot be taken from it.',
  'needed-stays': 'It has to be filled in, so this would leave nobody able to finish. It can be closed at first.',
  invalid: 'The plan would not hold together.',
};

/**
 * Applies one operation to a plan. Pure; the plan given is left as it is.
 * A fault leaves nothing half-done: the code says which, the detail is a sentence.
 */
export function applyOperation(inventory: Inventory, plan: Plan, op: Operation): Applied {
  const fault = (code: OperationFault, detail = SAY[code]): Applied => ({ ok: false, code, detail });
  const next = isWhole(op) ? changeWhole(plan, op) : changePart(inventory, plan, op);
  if (typeof next === 'string') return fault(next);
  const checked = planSchema.safeParse(next);
  if (!checked.success) return fault('invalid', checked.error.issues[0]?.message ?? SAY.invalid);
  return sameJson(plan, checked.data) ? fault('already-so') : { ok: true, plan: checked.data };
}

const isWhole = (op: Operation): op is WholeOperation => WHOLE.some(({ shape }) => shape.do.value === op.do);

const withRole = (plan: Plan, old: PlanRole, role: PlanRole): Plan => ({
  ...plan,
  roles: plan.roles.map((one) => (one === old ? role : one)),
});

function changeWhole(plan: Plan, op: WholeOperation): Plan | OperationFault {
  if (op.do === 'replace-plan') return op.plan;
  const target = plan.roles.find((r) => r.id === op.role);
  if (op.do === 'add-role') {
    if (target) return 'already-so';
    const like = op.like === undefined ? emptyRole() : plan.roles.find((r) => r.id === op.like);
    if (!like) return 'no-role';
    // Whoever may do everything is the keyholder; a copy of that role would be a second one nobody looks after.
    if (op.like === KEYHOLDER) return 'keyholder-stays';
    const { archived: _, ...made } = { ...like, archived: undefined, id: op.role, name: op.name, purpose: op.purpose };
    const copied = { ...plan, roles: [...plan.roles, made] };
    const { like: from } = op;
    if (from !== undefined)
      for (const key of PLAN_PART_KEYS) {
        const part = planPart(key);
        if (part.copyRole) Object.assign(copied, { [key]: part.copyRole(plan[key], from, op.role) });
      }
    return copied;
  }
  if (!target) return 'no-role';
  if (op.do === 'archive-role') {
    if (op.archived && plan.roles.some((r) => !r.archived && r.extends.includes(op.role))) return 'in-use';
    if (target.id === KEYHOLDER) return 'keyholder-stays';
    const { archived: _, ...rest } = target;
    return withRole(plan, target, op.archived ? { ...rest, archived: true } : rest);
  }
  if (target.archived) return 'archived';
  if (op.do === 'name-role') return withRole(plan, target, { ...target, name: op.name, purpose: op.purpose });
  if (target.id === KEYHOLDER) return 'keyholder-stays';
  return withRole(plan, target, { ...target, extends: [...new Set(op.extends)] });
}

/** An operation of one part: on its value in the role named, or in the plan. */
function changePart(inventory: Inventory, plan: Plan, op: Operation): Plan | OperationFault {
  const { level, key, known } = homeOf(op);
  const { roles } = plan;
  const put = <Whole extends object>(whole: Whole, value: unknown): Whole => {
    const { [key as keyof Whole]: _, ...rest } = whole;
    return { ...rest, ...(value !== undefined && { [key]: value }) } as Whole;
  };
  if (level === 'plan') {
    const value = known.apply({ inventory, isKeyholder: false, roles }, plan[key], op);
    return typeof value === 'string' ? (value as OperationFault) : put(plan, value);
  }
  const target = plan.roles.find((one) => one.id === roleOf(op));
  if (!target) return 'no-role';
  if (target.archived) return 'archived';
  const value = known.apply({ inventory, isKeyholder: target.id === KEYHOLDER, roles }, target[key], op);
  return typeof value === 'string' ? (value as OperationFault) : withRole(plan, target, put(target, value));
}

/** What the roles of a plan are called; one that is not in it by its id. */
export const roleNames =
  (plan: Plan): RoleName =>
  (id) =>
    plan.roles.find((one) => one.id === id)?.name ?? id;

/** An operation as the administrator would say it: "Door “Notices”: closed". */
export function operationInWords(inventory: Inventory, op: Operation, role: RoleName): string {
  if (!isWhole(op)) return homeOf(op).known.say(inventory, op, role);
  switch (op.do) {
    case 'add-role':
      return `New role “${op.name}”${op.like === undefined ? '' : ', as a copy'}`;
    case 'name-role':
      return `Role called “${op.name}”`;
    case 'set-extends':
      return op.extends.length ? `Build on ${op.extends.map((id) => `“${role(id)}”`).join(', ')}` : 'Stand on its own';
    case 'archive-role':
      return op.archived ? 'Archive the role' : 'Bring the role back';
    case 'replace-plan':
      return {
        file: 'Plan read from a file',
        drop: 'What was prepared was dropped',
        return: 'The plan that was gone back to',
      }[op.why ?? 'file'];
  }
}
