import { canonical } from '../json';
import { PLAN_PART_KEYS, planPart } from './parts';
import type { Plan, PlanRole } from './schema';
import { changedAlike, differing, inOrderOf, isMoved } from './within';

/**
 * What of a plan a change touched, as it was or as it became. Null for a role that is not there, and for what the plan
 * left out.
 */
export type PlanPatch = {
  roles: Record<string, PlanRole | null>;
  /** Role ids in order, where the change touched which there are. */
  order?: string[];
  /**
   * Parts of the plan by their fields: as a whole, null where it is left out; of a collection the entries that differ,
   * null for one that is not there, all names in their order, and whether those that stay were put in another.
   */
  [key: string]: unknown;
};
interface EntriesPatch {
  entries: Record<string, unknown>;
  order?: string[];
  moved?: true;
}

function entriesPatch(
  now: ReadonlyMap<string, unknown>,
  other: ReadonlyMap<string, unknown>,
): EntriesPatch | undefined {
  const entries: Record<string, unknown> = {};
  for (const name of new Set([...now.keys(), ...other.keys()]))
    if (canonical(now.get(name) ?? null) !== canonical(other.get(name) ?? null)) entries[name] = now.get(name) ?? null;
  const order = [...now.keys()];
  const isOther = isMoved(now, other);
  if (Object.keys(entries).length === 0 && !isOther) return undefined;
  return {
    entries,
    ...(order.join() !== [...other.keys()].join() && { order }),
    ...(isOther && { moved: true as const }),
  };
}

/** What of a part differs; undefined where nothing does. */
function partPatch(key: (typeof PLAN_PART_KEYS)[number], now: unknown, other: unknown): unknown {
  if (canonical(now) === canonical(other)) return undefined;
  const { entries } = planPart(key);
  return entries ? entriesPatch(entries.of(now), entries.of(other)) : (now ?? null);
}

/** A part with a patch of it put in place; undefined where it is left out then. */
function withPartPatch(key: (typeof PLAN_PART_KEYS)[number], value: unknown, patch: unknown, other: unknown): unknown {
  const { entries } = planPart(key);
  if (!entries) return patch ?? undefined;
  const { entries: changed, order, moved } = patch as EntriesPatch;
  const all = new Map(entries.of(value));
  const from = (other as EntriesPatch | undefined)?.entries ?? {};
  for (const [name, one] of Object.entries(changed)) {
    const now = all.get(name);
    if (one === null) all.delete(name);
    else all.set(name, now !== undefined && from[name] ? changedAlike(now, from[name], one) : one);
  }
  const now = [...entries.of(value).keys()];
  const names = inOrderOf(now, order ?? now, all, moved ?? false);
  return entries.from(new Map(names.map((name) => [name, all.get(name)])));
}

/** What of `plan` differs from `other`: enough to turn `other` into `plan` with `withPatch`. */
export function patchOf(plan: Plan, other: Plan): PlanPatch {
  const roles: PlanPatch['roles'] = {};
  for (const role of plan.roles)
    if (canonical(role) !== canonical(other.roles.find((r) => r.id === role.id))) roles[role.id] = role;
  for (const role of other.roles) if (!plan.roles.some((r) => r.id === role.id)) roles[role.id] = null;
  const order = plan.roles.map((r) => r.id);
  return {
    roles,
    ...(canonical(order) !== canonical(other.roles.map((r) => r.id)) && { order }),
    ...Object.fromEntries(
      PLAN_PART_KEYS.flatMap((key) => {
        const differs = partPatch(key, plan[key], other[key]);
        return differs === undefined ? [] : [[key, differs]];
      }),
    ),
  };
}

/**
 * What two changes must not both touch for one to be taken back by itself (`isOneThing` tells): of roles what lies within
 * them, entries of collections, each other part of the plan as a whole. `other`: the patch that leads back.
 */
export const touchedBy = (patch: PlanPatch, other: PlanPatch): string[] => [
  ...Object.entries(patch.roles).flatMap(([id, role]) => differing(role, other.roles[id], `role ${id}`)),
  ...PLAN_PART_KEYS.filter((key) => patch[key] !== undefined).flatMap((key) => {
    if (!planPart(key).entries) return [key];
    const { entries, moved } = patch[key] as EntriesPatch;
    const from = (other[key] as EntriesPatch | undefined)?.entries ?? {};
    return [
      ...Object.entries(entries).flatMap(([name, one]) => differing(one, from[name] ?? null, `${key} ${name}`)),
      ...(moved ? [`${key} order`] : []),
    ];
  }),
];

/**
 * A plan with what another says of some roles; of everything that concerns all roles where null is among them. What the
 * roles build on must be there.
 */
export function withRolesOf(plan: Plan, other: Plan, ids: readonly (string | null)[]): Plan {
  const patch = patchOf(other, plan);
  const taken = withPatch(
    plan,
    { roles: Object.fromEntries(Object.entries(patch.roles).filter(([id]) => ids.includes(id))) },
    patchOf(plan, other),
  );
  for (const key of PLAN_PART_KEYS)
    if (patch[key] !== undefined) setPart(taken, key, planPart(key).taking(plan[key], other[key], ids));
  return taken;
}

/**
 * A plan with a patch put in place. `other`: the patch that leads back; what was changed within a role meanwhile and lies
 * elsewhere in it stays.
 */
export function withPatch(plan: Plan, patch: PlanPatch, other: PlanPatch): Plan {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  for (const [id, role] of Object.entries(patch.roles)) {
    const [now, from] = [roles.get(id), other.roles[id]];
    if (role) roles.set(id, now && from ? (changedAlike(now, from, role) as PlanRole) : role);
    else roles.delete(id);
  }
  // A role the patch knows nothing of stays, behind those it names.
  const order = patch.order
    ? [...patch.order, ...[...roles.keys()].filter((id) => !patch.order?.includes(id))]
    : [...roles.keys()];
  const whole: Plan = { ...plan, roles: order.map((id) => roles.get(id)).filter((role) => role !== undefined) };
  for (const key of PLAN_PART_KEYS)
    if (patch[key] !== undefined) setPart(whole, key, withPartPatch(key, plan[key], patch[key], other[key]));
  return whole;
}

/** Puts a part into a plan that is being made; takes it out where there is no value. */
function setPart(plan: Plan, key: (typeof PLAN_PART_KEYS)[number], value: unknown): void {
  if (value === undefined) delete (plan as Partial<Plan>)[key];
  else Object.assign(plan, { [key]: value });
}
