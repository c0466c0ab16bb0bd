import { closure, covers, scopeInWords, type PolicyPerson } from '@/core/access';
import { scopeNames } from '@/core/inventory';
import { allDoors, getRole, type Plan, type PlanRole } from '@/core/plan';
import { inventory } from '@/office';
import type { PageFacts } from '../content/tree';

export interface ComparedGroup {
  name: string;
  rows: { name: string; a: string; b: string }[];
}

const STATE = { open: 'open', look: 'look only', away: 'put away', closed: '' };

/** What two roles have and do, row by row; the same words on both sides where they agree, empty for nothing. Rows neither has are left out. */
export function compareRoles(
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
    return page ? (page.shortName ?? page.liveTitle) : 'a page that is gone';
  };
  const row = (name: string, of: (role: PlanRole) => string) => ({ name, a: of(both[0]), b: of(both[1]) });
  const yes = (is: boolean) => (is ? 'yes' : '');
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
    {
      name: 'Tasks',
      rows: [...inventory.tasks.values()].map((t) =>
        row(t.name, (r) => {
          const ticked = r.tasks.find((x) => x.task === t.id);
          return ticked ? (ticked.name && ticked.name !== t.name ? `“${ticked.name}”` : 'yes') : '';
        }),
      ),
    },
    {
      name: 'May, with what it inherits',
      rows: [...inventory.permissions.values()].map((p) => row(p.name, (r) => may(r, p.id))),
    },
    {
      name: 'Menu',
      rows: inventory.doors.map((s) =>
        row(s.name, (r) => STATE[allDoors(inventory, r).find((d) => d.section === s.id)?.state ?? 'closed']),
      ),
    },
    {
      name: 'Toolbar',
      rows: [...inventory.tools.values()]
        .map((t) => row(t.name, (r) => yes(r.toolbar.tools.includes(t.id))))
        .concat([...inventory.modes.values()].map((m) => row(m.name, (r) => yes(r.toolbar.modes.includes(m.id))))),
    },
    {
      name: 'Dashboard',
      rows: [...inventory.widgets.values()].map((w) =>
        row(w.name, (r) => yes(r.dashboard.columns.flat().includes(w.id))),
      ),
    },
  ];
  return groups
    .map((group) => ({ ...group, rows: group.rows.filter((r) => r.a !== '' || r.b !== '') }))
    .filter((group) => group.rows.length > 0);
}
