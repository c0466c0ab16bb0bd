import { z } from 'zod';
import { planIdSchema } from '../ids';
import type { Inventory } from '../inventory';
import {
  eachOf,
  PLAN_PART_KEYS,
  PLAN_PARTS,
  planPart,
  ROLE_PART_KEYS,
  ROLE_PARTS,
  rolePart,
  type PartFault,
} from './parts';
import { readableMany, readableObject, readableText, wordsSchema } from './parts/part';

export const roleSchema = z.strictObject({
  id: planIdSchema,
  name: wordsSchema(80),
  purpose: z.string().trim().max(400),
  extends: z.array(planIdSchema),
  /** Put away: nobody can be given it. */
  archived: z.literal(true).optional(),
  ...eachOf(ROLE_PARTS, 'schema'),
});

export const KEYHOLDER = 'keyholder';
/** What somebody must be able to do at every instant: prepare rooms, step in, go live, and look after people. */
export const VITAL = ['plan.view', 'plan.edit', 'plan.release', 'person.view', 'person.manage'] as const;

/**
 * A plan as far as it can be read: what is of the wrong kind is empty in its place, so that all that is wrong can be
 * told at once.
 */
export const readablePlanSchema = readableObject({
  roles: readableMany(
    readableObject({
      id: readableText,
      name: readableText,
      extends: readableMany(readableText),
      archived: z.literal(true).optional().catch(undefined),
      ...eachOf(ROLE_PARTS, 'readable'),
    }),
  ),
  ...eachOf(PLAN_PARTS, 'readable'),
});
export type ReadablePlan = z.infer<typeof readablePlanSchema>;

const isTwice = (list: readonly string[]) => {
  const named = list.filter(Boolean);
  return new Set(named).size !== named.length;
};

/**
 * What is wrong with a plan though each of its parts is right by itself: what they name of one another, and what stands
 * there twice.
 */
export function crossFaults(plan: ReadablePlan): PartFault[] {
  const faults: PartFault[] = [];
  const fault = (path: PartFault['path'], message: string) => faults.push({ path, message });
  const roles = new Map(plan.roles.map((role, i) => [role.id, i]));
  if (roles.size !== plan.roles.length) fault(['roles'], 'two roles have the same id');
  const keyholder = plan.roles.find((role) => role.id === KEYHOLDER);
  if (
    !keyholder?.grants.some(
      (g) => g.effect === 'allow' && g.permission === '*' && Object.values(g.scope).every((said) => said === undefined),
    )
  )
    fault(['roles'], 'the keyholder role must be there and may do everything');
  if (keyholder && (keyholder.extends.length > 0 || keyholder.grants.some((g) => g.effect === 'deny')))
    fault(['roles'], 'the keyholder role can be forbidden nothing and builds on no other');
  if (keyholder?.archived) fault(['roles'], 'the keyholder role cannot be archived');
  plan.apart.forEach((pair, i) => {
    for (const one of pair) if (!roles.has(one)) fault(['apart', i], `no role "${one}"`);
    if (pair[0] === pair[1]) fault(['apart', i], 'a role cannot be kept apart from itself');
  });
  for (const key of PLAN_PART_KEYS) faults.push(...within([key], planPart(key).cross?.(plan[key], roles) ?? []));
  for (const key of PLAN_PART_KEYS)
    if (isTwice(planPart(key).twice(plan[key]))) fault([key], 'an entry stands there twice');
  plan.roles.forEach((role, i) => {
    for (const parent of role.extends) {
      if (!roles.has(parent)) fault(['roles', i, 'extends'], `no role "${parent}"`);
      if (!role.archived && plan.roles[roles.get(parent) ?? -1]?.archived)
        fault(['roles', i, 'extends'], `role "${role.name}" builds on an archived one`);
    }
    const seen = new Set<string>();
    let layer = [...role.extends];
    while (layer.length) {
      if (layer.includes(role.id)) {
        fault(['roles', i, 'extends'], 'a role cannot extend itself, by whatever way');
        break;
      }
      layer = layer.filter((r) => !seen.has(r));
      layer.forEach((r) => seen.add(r));
      layer = layer.flatMap((r) => plan.roles[roles.get(r) ?? -1]?.extends ?? []);
    }
    for (const key of ROLE_PART_KEYS)
      if (isTwice(rolePart(key).twice(role[key]))) fault(['roles', i, key], 'an entry stands there twice');
  });
  return faults;
}

/** What a plan names that this back office, or this website with these pages, does not have. */
export const unknownIn = (inventory: Inventory, plan: ReadablePlan, pages: ReadonlySet<string>): PartFault[] => [
  ...PLAN_PART_KEYS.flatMap((key) => within([key], planPart(key).unknown(inventory, plan[key], pages))),
  ...plan.roles.flatMap((role, i) =>
    ROLE_PART_KEYS.flatMap((key) => within(['roles', i, key], rolePart(key).unknown(inventory, role[key], pages))),
  ),
];
const within = (path: PartFault['path'], faults: readonly PartFault[]) =>
  faults.map((fault) => ({ ...fault, path: [...path, ...fault.path] }));

/** A plan, or what can be read of one, with every page it names called otherwise. */
export const withPages = <P extends ReadablePlan>(plan: P, call: (page: string) => string): P => ({
  ...plan,
  ...Object.fromEntries(
    PLAN_PART_KEYS.flatMap((key) => {
      const part = planPart(key);
      return part.withPages ? [[key, part.withPages(plan[key], call)]] : [];
    }),
  ),
  roles: plan.roles.map((role) => ({
    ...role,
    ...Object.fromEntries(
      ROLE_PART_KEYS.flatMap((key) => {
        const part = rolePart(key);
        return part.withPages ? [[key, part.withPages(role[key], call)]] : [];
      }),
    ),
  })),
});

/**
 * Everything the administrator has configured, as one versioned document. Published as JSON Schema 2020-12
 * by `planJsonSchema()`.
 */
export const planSchema = z
  .strictObject({
    format: z.literal('safe-room-plan/1'),
    roles: z.array(roleSchema).min(1),
    ...eachOf(PLAN_PARTS, 'schema'),
  })
  .superRefine((plan, ctx) =>
    crossFaults(plan).forEach(({ path, message }) => ctx.addIssue({ code: 'custom', path, message })),
  );

export type Plan = z.infer<typeof planSchema>;
export type PlanRole = z.infer<typeof roleSchema>;

/** What a role begins with, and a plan without roles: nothing of any part. */
export const emptyRole = (): Omit<PlanRole, 'id' | 'name' | 'purpose'> => ({
  extends: [],
  ...eachOf(ROLE_PARTS, 'empty'),
});
export const emptyPlan = (): Plan => ({ format: 'safe-room-plan/1', roles: [], ...eachOf(PLAN_PARTS, 'empty') });

export const planJsonSchema = () => z.toJSONSchema(planSchema, { target: 'draft-2020-12' });

/** Throws a RangeError naming the role when the plan has none of that id. */
export function getRole(plan: Plan, roleId: string): PlanRole {
  const role = plan.roles.find((r) => r.id === roleId);
  if (!role) throw new RangeError(`the plan has no role "${roleId}"`);
  return role;
}
