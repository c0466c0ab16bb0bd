import { doingWithScope } from '../access';
import { scopeNames, type Inventory } from '../inventory';
import { canonical } from '../json';
import { CHECKS } from '../content';
import { allDoors, emptyRole, publishingOf, type Plan, type PlanRole } from '../plan';

export interface RoleDifference {
  /** Null for what concerns every role. */
  role: string | null;
  name: string;
  /** One sentence a change. */
  lines: string[];
}

const STATE = { open: 'open', look: 'look only', away: 'put away', closed: 'closed' };

/** A grant as a sentence has it: "change pages, under Harbours". */
export function grantInWords(
  inventory: Inventory,
  grant: PlanRole['grants'][number],
  pageName: (id: string) => string,
): string {
  const what =
    grant.permission === '*'
      ? 'do everything'
      : grant.permission.endsWith('.*')
        ? `do everything with ${inventory.sections.find((s) => s.id === inventory.sectionOfObject.get(grant.permission.slice(0, -2)))?.name ?? grant.permission}`
        : (inventory.permissions.get(grant.permission as never)?.name ?? grant.permission);
  return doingWithScope(what, grant.scope, pageName, scopeNames(inventory));
}

/** The words a role has of its own for the stops of a tour; none where they are empty. */
const wordsOf = (role: PlanRole, task: string) =>
  Object.entries(role.tours[task] ?? {})
    .filter(([, words]) => Object.keys(words).length > 0)
    .sort(([x], [y]) => (x < y ? -1 : 1));

function roleLines(
  inventory: Inventory,
  a: PlanRole,
  b: PlanRole,
  pageName: (id: string) => string,
  roleName: (id: string) => string,
): string[] {
  const lines: string[] = [];
  const setDiff = (
    before: readonly string[],
    after: readonly string[],
    gained: (id: string) => string,
    lost: (id: string) => string,
  ) => {
    for (const id of after) if (!before.includes(id)) lines.push(gained(id));
    for (const id of before) if (!after.includes(id)) lines.push(lost(id));
  };
  const taskName = (role: PlanRole, id: string) =>
    role.tasks.find((t) => t.task === id)?.name ?? inventory.tasks.get(id)?.name ?? id;
  setDiff(
    a.tasks.map((t) => t.task),
    b.tasks.map((t) => t.task),
    (id) => `New task: “${taskName(b, id)}”.`,
    (id) => `Task no longer asked of them: “${taskName(a, id)}”.`,
  );
  for (const t of b.tasks) {
    const old = a.tasks.find((o) => o.task === t.task);
    if (old && canonical([old.name, old.said]) !== canonical([t.name, t.said]))
      lines.push(`Task “${taskName(a, t.task)}” has new words: “${taskName(b, t.task)}”.`);
  }
  const order = (role: PlanRole, other: PlanRole) =>
    role.tasks
      .map((t) => t.task)
      .filter((id) => other.tasks.some((o) => o.task === id))
      .join();
  if (order(a, b) !== order(b, a)) lines.push('The tasks stand in another order.');
  const key = (g: PlanRole['grants'][number]) => canonical([g.effect, g.permission, g.scope]);
  for (const g of b.grants)
    if (!a.grants.some((o) => key(o) === key(g)))
      lines.push(
        `They ${g.effect === 'allow' ? 'may now' : 'must no longer'} ${grantInWords(inventory, g, pageName)}.`,
      );
  for (const g of a.grants)
    if (!b.grants.some((o) => key(o) === key(g)))
      lines.push(
        g.effect === 'allow'
          ? `They may no longer ${grantInWords(inventory, g, pageName)}.`
          : `No longer forbidden: ${grantInWords(inventory, g, pageName)}.`,
      );
  const [doorsA, doorsB] = [allDoors(inventory, a), allDoors(inventory, b)];
  const doorName = (d: PlanRole['doors'][number]) =>
    d.name ?? inventory.doors.find((s) => s.id === d.section)?.name ?? d.section;
  for (const d of doorsB) {
    const old = doorsA.find((o) => o.section === d.section);
    if (!old) continue;
    if (old.state !== d.state) lines.push(`Door “${doorName(d)}”: ${STATE[old.state]} → ${STATE[d.state]}.`);
    if (doorName(old) !== doorName(d)) lines.push(`Door “${doorName(old)}” is now called “${doorName(d)}”.`);
  }
  const doorOrder = (doors: PlanRole['doors']) =>
    doors
      .filter(
        (d) =>
          d.state !== 'closed' &&
          doorsA.find((o) => o.section === d.section)?.state !== 'closed' &&
          doorsB.find((o) => o.section === d.section)?.state !== 'closed',
      )
      .map((d) => d.section)
      .join();
  if (doorOrder(doorsA) !== doorOrder(doorsB)) lines.push('The doors stand in another order.');
  const tool = (id: string) => inventory.tools.get(id)?.name ?? inventory.modes.get(id)?.name ?? id;
  setDiff(
    [...a.toolbar.tools, ...a.toolbar.modes],
    [...b.toolbar.tools, ...b.toolbar.modes],
    (id) => `Toolbar gains “${tool(id)}”.`,
    (id) => `Toolbar loses “${tool(id)}”.`,
  );
  const widget = (id: string) => inventory.widgets.get(id)?.name ?? id;
  setDiff(
    a.dashboard.columns.flat(),
    b.dashboard.columns.flat(),
    (id) => `New on Today: “${widget(id)}”.`,
    (id) => `No longer on Today: “${widget(id)}”.`,
  );
  const kept = (role: PlanRole, other: PlanRole) =>
    canonical(role.dashboard.columns.map((c) => c.filter((w) => other.dashboard.columns.flat().includes(w))));
  if (kept(a, b) !== kept(b, a)) lines.push('Today is arranged differently.');
  for (const task of new Set([...Object.keys(a.tours), ...Object.keys(b.tours)]))
    if (canonical(wordsOf(a, task)) !== canonical(wordsOf(b, task)))
      lines.push(`The tour “${taskName(b, task)}” has new words.`);
  if (a.name !== b.name) lines.push(`The role is now called “${b.name}”.`);
  if (a.purpose !== b.purpose) lines.push('What it is for is said in other words.');
  if (a.extends.join() !== b.extends.join())
    lines.push(
      b.extends.length === 0
        ? 'It no longer builds on other roles.'
        : `It builds on ${b.extends.map((id) => `“${roleName(id)}”`).join(', ')}${a.extends.length > 0 ? `; before on ${a.extends.map((id) => `“${roleName(id)}”`).join(', ')}` : ''}.`,
    );
  if (a.archived !== b.archived)
    lines.push(b.archived ? 'It is archived: nobody can be given it.' : 'It is brought back from the archive.');
  return lines;
}

/** Which roles can no longer, or can again, be held together with one. */
function apartLines(role: string, before: Plan, after: Plan): string[] {
  const others = (plan: Plan) =>
    plan.apart.filter((pair) => pair.includes(role)).map((pair) => (pair[0] === role ? pair[1] : pair[0]));
  const name = (id: string) => after.roles.find((r) => r.id === id)?.name ?? id;
  return [
    ...others(after)
      .filter((id) => !others(before).includes(id))
      .map((id) => `Nobody may hold it together with “${name(id)}”.`),
    ...others(before)
      .filter((id) => !others(after).includes(id))
      .map((id) => `It may be held together with “${name(id)}” again.`),
  ];
}

const RULE = { block: 'stops publishing', advise: 'advises', off: 'is off' };

/** What is asked for before something goes out, where that changes. */
function publishingLines(before: Plan, after: Plan): string[] {
  const [a, b] = [publishingOf(before), publishingOf(after)];
  return [
    ...(a.noteRequired === b.noteRequired
      ? []
      : [b.noteRequired ? 'A change note is asked for.' : 'A change note is no longer asked for.']),
    ...CHECKS.filter((check) => a.checks[check.id] !== b.checks[check.id]).map(
      (check) => `“${check.name}” ${RULE[b.checks[check.id]]}.`,
    ),
  ];
}

/** What changes from one plan to another, role by role, in sentences. Roles without a change are left out. */
export function differences(
  inventory: Inventory,
  before: Plan,
  after: Plan,
  pageName: (id: string) => string,
): RoleDifference[] {
  const out: RoleDifference[] = [];
  for (const b of after.roles) {
    const a = before.roles.find((r) => r.id === b.id);
    const roleName = (id: string) =>
      after.roles.find((r) => r.id === id)?.name ?? before.roles.find((r) => r.id === id)?.name ?? id;
    const lines = a
      ? roleLines(inventory, a, b, pageName, roleName)
      : [
          'This role is new.',
          ...roleLines(
            inventory,
            { ...emptyRole(), id: b.id, name: b.name, purpose: b.purpose },
            b,
            pageName,
            roleName,
          ),
        ];
    lines.push(...apartLines(b.id, before, after));
    if (lines.length) out.push({ role: b.id, name: b.name, lines });
  }
  for (const a of before.roles)
    if (!after.roles.some((r) => r.id === a.id)) out.push({ role: a.id, name: a.name, lines: ['This role is gone.'] });
  const everywhere = publishingLines(before, after);
  if (everywhere.length) out.push({ role: null, name: 'Before publishing', lines: everywhere });
  return out;
}
