import type { Inventory } from '../inventory';
import {
  emptyRole,
  PLAN_PART_KEYS,
  planPart,
  ROLE_PART_KEYS,
  rolePart,
  type Plan,
  type PlanRole,
  type Telling,
} from '../plan';

export interface RoleDifference {
  /** Null for what concerns every role. */
  role: string | null;
  name: string;
  /** One sentence a change. */
  lines: string[];
}

const quoted = (ids: readonly string[], name: (id: string) => string) => ids.map((id) => `“${name(id)}”`).join(', ');

/** What differs in a role itself: what it is called and for, what it builds on, whether it is put away. */
function ownLines(telling: Telling, a: PlanRole, b: PlanRole): string[] {
  const lines: string[] = [];
  if (a.name !== b.name) lines.push(`The role is now called “${b.name}”.`);
  if (a.purpose !== b.purpose) lines.push('What it is for is said in other words.');
  const [was, is] = [[...new Set(a.extends)], [...new Set(b.extends)]];
  if (was.join() !== is.join())
    lines.push(
      is.length === 0
        ? 'It no longer builds on other roles.'
        : `It builds on ${quoted(is, telling.role)}${was.length > 0 ? `; before on ${quoted(was, telling.role)}` : ''}.`,
    );
  if (a.archived !== b.archived)
    lines.push(b.archived ? 'It is archived: nobody can be given it.' : 'It is brought back from the archive.');
  return lines;
}

/** What changes from one plan to another, role by role, in sentences. Roles without a change are left out. */
export function differences(
  inventory: Inventory,
  before: Plan,
  after: Plan,
  page: (id: string) => string,
): RoleDifference[] {
  const out: RoleDifference[] = [];
  const find = (plan: Plan, id: string) => plan.roles.find((one) => one.id === id);
  const role = (id: string) => (find(after, id) ?? find(before, id))?.name ?? id;
  const task = (id: string, of?: PlanRole) =>
    of?.tasks.find((one) => one.task === id)?.name ?? inventory.tasks.get(id)?.name ?? id;
  const everywhere = (telling: Telling) =>
    PLAN_PART_KEYS.flatMap((key) => planPart(key).differences(telling, before[key], after[key]));
  for (const b of after.roles) {
    const old = find(before, b.id);
    const a = old ?? { ...emptyRole(), id: b.id, name: b.name, purpose: b.purpose };
    const telling: Telling = {
      inventory,
      of: b.id,
      page,
      role,
      task: (id, when) => task(id, when === 'before' ? a : b),
    };
    const lines = [
      ...(old ? [] : ['This role is new.']),
      ...ROLE_PART_KEYS.flatMap((key) => rolePart(key).differences(telling, a[key], b[key])),
      ...ownLines(telling, a, b),
      ...everywhere(telling),
    ];
    if (lines.length > 0) out.push({ role: b.id, name: b.name, lines });
  }
  for (const a of before.roles)
    if (!find(after, a.id)) out.push({ role: a.id, name: a.name, lines: ['This role is gone.'] });
  const lines = everywhere({ inventory, of: null, page, role, task: (id) => task(id) });
  if (lines.length > 0) out.push({ role: null, name: 'Before publishing', lines });
  return out;
}
