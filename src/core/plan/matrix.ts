import type { Bundle } from '../access';
import { closure, covers, missedDoor } from '../access';
import { inPlainWords, jsonPath, type Fault } from '../json';
import type { Inventory } from '../inventory';
import { policyOf } from './policy';
import { grantSchema } from './parts';
import { planSchema, type Plan, type PlanRole } from './schema';

export const MATRIX_HEAD = [
  'role',
  'permission',
  'branch',
  'effect',
  'own',
  'layouts',
  'states',
  'only',
  'fields',
] as const;

/**
 * The grants of a plan as rows under `MATRIX_HEAD`: one for each role × permission × branch and what more it says.
 * Lists are parted by spaces.
 */
export const matrixOf = (plan: Plan): string[][] =>
  plan.roles.flatMap((role) =>
    role.grants.map(({ effect, permission, scope }) => [
      role.id,
      permission,
      scope.branch ?? '',
      effect,
      scope.own ? 'yes' : '',
      (scope.layouts ?? []).join(' '),
      (scope.states ?? []).join(' '),
      scope.only ? 'yes' : '',
      (scope.fields ?? []).join(' '),
    ]),
  );

/**
 * A plan with the grants of a matrix: of every role it names, these and no others. Roles it does not name stay as they
 * are. Grants that were there keep their ids. Rows come without the head.
 */
export function withMatrix(
  plan: Plan,
  rows: readonly (readonly string[])[],
): { ok: true; plan: Plan } | { ok: false; faults: Fault[] } {
  const faults: Fault[] = [];
  const grants = new Map<string, PlanRole['grants']>();
  rows.forEach((row, i) => {
    const [
      roleId = '',
      permission = '',
      branch = '',
      effect = '',
      own = '',
      layouts = '',
      states = '',
      only = '',
      fields = '',
    ] = row;
    const role = plan.roles.find((r) => r.id === roleId);
    if (row.length !== MATRIX_HEAD.length)
      return faults.push({ path: jsonPath([i]), message: `a row needs ${MATRIX_HEAD.length} fields` });
    if (!role) return faults.push({ path: jsonPath([i, 'role']), message: `there is no role "${roleId}"` });
    const yes = Object.entries({ only, own }).find(([, said]) => said !== '' && said !== 'yes');
    if (yes) return faults.push({ path: jsonPath([i, yes[0]]), message: '"yes", or nothing' });
    const list = grants.get(roleId) ?? [];
    grants.set(roleId, list);
    const words = (text: string) => text.split(' ').filter(Boolean);
    const scope = {
      ...(branch && { branch }),
      ...(only && { only: true }),
      ...(own && { own: true }),
      ...(layouts && { layouts: words(layouts) }),
      ...(states && { states: words(states) }),
      ...(fields && { fields: words(fields) }),
    };
    const old = role.grants.find(
      (g) =>
        g.effect === effect &&
        g.permission === permission &&
        JSON.stringify(matrixOf({ ...plan, roles: [{ ...role, grants: [g] }] })[0]) === JSON.stringify(row),
    );
    const parsed = grantSchema.safeParse(
      { id: old?.id ?? `from-file-${i + 1}`, effect, permission, scope },
      { error: inPlainWords },
    );
    if (!parsed.success)
      return faults.push(
        ...parsed.error.issues.map((issue) => ({
          path: jsonPath([i, ...issue.path.filter((part) => part !== 'scope')]),
          message: issue.message,
        })),
      );
    if (list.some((g) => g.id === parsed.data.id))
      return faults.push({ path: jsonPath([i]), message: 'stands there twice' });
    return list.push(parsed.data);
  });
  if (faults.length > 0) return { ok: false, faults };
  const checked = planSchema.safeParse({
    ...plan,
    roles: plan.roles.map((role) => ({ ...role, grants: grants.get(role.id) ?? role.grants })),
  });
  return checked.success
    ? { ok: true, plan: checked.data }
    : {
        ok: false,
        faults: checked.error.issues.map((issue) => ({ path: jsonPath(issue.path), message: issue.message })),
      };
}

/**
 * The roles of a plan for the open form that knows no doors: each as it works for whoever holds it, with what it
 * inherits and what its doors let through written out, permission by permission.
 */
export function openRoles(inventory: Inventory, plan: Plan): Bundle['roles'] {
  const policy = policyOf(inventory, plan, []);
  return plan.roles.map((role) => {
    const held = policy.roles.get(role.id);
    const grants = [...inventory.permissions.keys()].flatMap((permission) =>
      closure(policy, role.id)
        .flatMap((c) => c.role.grants)
        .filter((g) => covers(g.permission, permission) && !missedDoor(held, g, permission))
        .map(({ effect, scope }) => ({ effect, permission: permission, scope })),
    );
    return { id: role.id, name: role.name, extends: [], grants };
  });
}
