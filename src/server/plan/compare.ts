import { closure, covers, scopeInWords, type PolicyPerson } from '@/core/access';
import { scopeNames, type Inventory } from '@/core/inventory';
import {
  getRole,
  PLAN_PART_KEYS,
  planPart,
  ROLE_PART_KEYS,
  rolePart,
  type Plan,
  type PlanRole,
  type RolePartKey,
} from '@/core/plan';
import { type PageFacts, liveNameOf } from '../tree/tree';

export interface ComparedGroup {
  name: string;
  rows: { name: string; a: string; b: string }[];
}

/**
 * What two roles have and do, row by row; the same words on both sides where they agree, empty for nothing. Rows
 * neither has are left out.
 */
export function compareRoles(
  inventory: Inventory,
  plan: Plan,
  a: string,
  b: string,
  people: readonly PolicyPerson[],
  pages: readonly PageFacts[],
): ComparedGroup[] {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  const both = [getRole(plan, a), getRole(plan, b)] as const;
  const pageName = (id: string) => {
    const page = pages.find((p) => p.id === id);
    return page ? liveNameOf(page) : 'a page that is gone';
  };
  const row = (name: string, of: (role: PlanRole) => string) => ({ name, a: of(both[0]), b: of(both[1]) });
  const may = (role: PlanRole, permission: string) =>
    closure({ roles }, role.id)
      .flatMap(({ role: from }) =>
        from.grants
          .filter((g) => covers(g.permission, permission))
          .map(
            (g) =>
              `${g.effect === 'deny' ? 'must not ' : ''}${scopeInWords(g.scope, pageName, scopeNames(inventory)).join(', ') || 'everywhere'}`,
          ),
      )
      .filter((words, i, all) => all.indexOf(words) === i)
      .sort()
      .join('; ');
  const byParts = (keys: readonly RolePartKey[]): ComparedGroup[] =>
    keys.flatMap((key) => {
      const { rows } = rolePart(key);
      if (!rows) return [];
      const [of, beside] = both.map((role) => rows.of(inventory, role[key]));
      return [
        { name: rows.name, rows: (of ?? []).map(([name, says], i) => ({ name, a: says, b: beside?.[i]?.[1] ?? '' })) },
      ];
    });
  const byWholeParts = (): ComparedGroup[] =>
    PLAN_PART_KEYS.flatMap((key) => {
      const { rowsOf } = planPart(key);
      if (!rowsOf) return [];
      const telling = { role: (id: string) => roles.get(id)?.name ?? id, page: pageName, roles: plan.roles };
      const [of, beside] = both.map((role) => rowsOf.of(inventory, plan[key], role.id, telling));
      return [
        {
          name: rowsOf.name,
          rows: (of ?? []).map(([name, says], i) => ({ name, a: says, b: beside?.[i]?.[1] ?? '' })),
        },
      ];
    });
  const groups: ComparedGroup[] = [
    {
      name: 'The role',
      rows: [
        row('Held by', (r) =>
          people
            .filter((p) => p.assignments.some((x) => x.role === r.id))
            .map((p) => p.name)
            .join(', '),
        ),
        row('Builds on', (r) => r.extends.map((id) => roles.get(id)?.name ?? id).join(', ')),
        row('Never together with', (r) =>
          plan.apart
            .flatMap((pair) => (pair[0] === r.id ? [pair[1]] : pair[1] === r.id ? [pair[0]] : []))
            .map((id) => roles.get(id)?.name ?? id)
            .join(', '),
        ),
      ],
    },
    ...byParts(['tasks']),
    {
      name: 'May, with what it inherits',
      rows: [...inventory.permissions.values()].map((p) => row(p.name, (r) => may(r, p.id))),
    },
    ...byParts(ROLE_PART_KEYS.filter((key) => key !== 'tasks')),
    ...byWholeParts(),
  ];
  return groups
    .map((group) => ({ ...group, rows: group.rows.filter((r) => r.a !== '' || r.b !== '') }))
    .filter((group) => group.rows.length > 0);
}
