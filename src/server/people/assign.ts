import { and, eq, sql } from 'drizzle-orm';
import type { Assignment, PolicyPerson } from '@/core/access';
import { canonical } from '@/core/json';
import { assignmentFaults, growsBetween, type AssignmentFault, type Plan } from '@/core/plan';
import { refusalInWords, type GivenAssignment } from '@/core/wire';
import { dayKey, sayDay, type Calendar } from '@/core/words';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { findDayStart, now } from '../clock';
import type { Tx } from '../db/client';
import { findPageNames } from '../tree/tree';
import { assignments, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { loadBounds } from '../gate/bounds';
import { loadGround } from '../gate/ground';
import { endLinks } from '../gate/set-up';
import { notFound, Problem, problemAt } from '../gate/problems';
import { getPreparedPlan } from '../plan/plans';
import { listPeople, type Person } from './people';
import type { Inventory } from '@/core/inventory';

export const toGiven = (a: Assignment, timeZone: string): GivenAssignment => ({
  role: a.role,
  ...(a.branch !== undefined && { branch: a.branch }),
  ...(a.fromMs !== undefined && { from: dayKey(new Date(a.fromMs), timeZone) }),
  ...(a.untilMs !== undefined && { until: dayKey(new Date(a.untilMs - 1), timeZone) }),
});

/** The instants of given days; one left as it was keeps the very instants it had. */
function fromGiven(given: GivenAssignment, timeZone: string, old: readonly Assignment[], at: number): Assignment {
  const same = old.find((a) => canonical(toGiven(a, timeZone)) === canonical(given));
  if (same) return same;
  const day = (text: string | undefined, field: string, after: 0 | 1) => {
    const start = text === undefined ? undefined : findDayStart(text, timeZone, after);
    if (text !== undefined && !start) throw problemAt(`after.${at}.${field}`, 'not-a-day', { text });
    return start?.getTime();
  };
  return {
    role: given.role,
    branch: given.branch,
    fromMs: day(given.from, 'from', 0),
    untilMs: day(given.until, 'until', 1),
  };
}

/** The plan roles are given by: the one in force, without what the prepared one archives. */
export async function assignablePlan(tx: Tx, access: Access): Promise<Plan> {
  const { plan: prepared } = await getPreparedPlan(tx, access.site.id);
  const live = access.trial ? prepared : access.plan;
  return {
    ...live,
    roles: live.roles.map((role) =>
      prepared.roles.find((r) => r.id === role.id)?.archived ? { ...role, archived: true as const } : role,
    ),
  };
}

/** A fault as the sentence for whoever assigns. */
export function assignmentFaultInWords(
  fault: AssignmentFault,
  plan: Plan,
  person: PolicyPerson,
  calendar: Calendar,
): string {
  const role = (id: string | undefined) => plan.roles.find((r) => r.id === id)?.name ?? id ?? '';
  switch (fault.code) {
    case 'unknown-role':
      return refusalInWords('role-not-in-force', { role: role(person.assignments[fault.at]?.role) });
    case 'archived-role':
      return refusalInWords('role-archived', { role: role(person.assignments[fault.at]?.role) });
    case 'ends-first':
      return refusalInWords('role-ends-first', { role: role(person.assignments[fault.at]?.role) });
    case 'twice':
      return refusalInWords('role-twice', { role: role(person.assignments[fault.at]?.role) });
    case 'kept-apart':
      return refusalInWords('roles-apart', { role: role(fault.pair[0]), other: role(fault.pair[1]) });
    case 'no-keyholder': {
      const day = (ms: number) => sayDay(new Date(ms), calendar, now());
      return fault.gap.fromMs <= now().getTime()
        ? refusalInWords('no-keyholder', {})
        : refusalInWords('no-keyholder-then', {
            day: day(fault.gap.fromMs),
            end: fault.gap.untilMs ? `to ${day(fault.gap.untilMs)}` : 'on',
          });
    }
  }
}

/**
 * Takes the one lock that changes to people wait for, so that what holds for all of them together is checked on what is
 * there.
 */
export const lockPeople = (tx: Tx, access: Access) =>
  tx.execute(sql`select 1 from ${sites} where ${sites.id} = ${access.site.id} for update`);

export async function mustFindPerson(
  tx: Tx,
  access: Access,
  personId: number,
): Promise<{ person: Person; everybody: Person[] }> {
  const everybody = await listPeople(tx, access.site.id);
  const person = everybody.find((p) => p.id === String(personId));
  if (!person) throw notFound('This person');
  return { person, everybody };
}

/** What assignments are checked against. */
export interface Assignable {
  plan: Plan;
  pages: ReadonlyMap<string, string>;
  calendar: Calendar;
}
export const loadAssignable = async (tx: Tx, access: Access): Promise<Assignable> => ({
  plan: await assignablePlan(tx, access),
  pages: await findPageNames(tx, access.site.id),
  calendar: access.calendar,
});

/** Checks what somebody shall hold and gives it as instants; a fault names the field. */
export function checkAssignments(
  inventory: Inventory,
  { plan, pages, calendar }: Assignable,
  everybody: readonly PolicyPerson[],
  person: PolicyPerson,
  after: readonly GivenAssignment[],
  field: string,
): Assignment[] {
  after.forEach((a, i) => {
    if (a.branch !== undefined && !pages.has(a.branch)) throw problemAt(`${field}.${i}.branch`, 'branch-gone');
  });
  const list = after.map((given, i) => fromGiven(given, calendar.timeZone, person.assignments, i));
  const changed = { ...person, assignments: list };
  const people = everybody.some((p) => p.id === person.id)
    ? everybody.map((p) => (p.id === person.id ? changed : p))
    : [...everybody, changed];
  // What was so before, an archived role still held for instance, is not held against a change of something else.
  const old = new Set(
    assignmentFaults(inventory, plan, everybody, person.id, now().getTime()).map((f) =>
      assignmentFaultInWords(f, plan, person, calendar),
    ),
  );
  const faults = assignmentFaults(inventory, plan, people, person.id, now().getTime());
  const told = faults
    .map((fault) => ({
      field: 'at' in fault ? `${field}.${fault.at}` : field,
      message: assignmentFaultInWords(fault, plan, changed, calendar),
    }))
    .filter((f) => !old.has(f.message));
  if (told.length > 0)
    throw new Problem('roles-faulty', { faults: told.map((f) => f.message).join(' ') }, { faults: told });
  return list;
}

/**
 * Writes what somebody shall hold; a link they have not used yet ends where they may do more by it than when it was
 * made.
 */
export async function writeAssignments(
  tx: Tx,
  access: Access,
  person: PolicyPerson,
  personId: number,
  list: readonly Assignment[],
): Promise<void> {
  const siteId = access.site.id;
  if (
    growsBetween(
      await loadGround(tx, access.inventory, siteId),
      { plan: access.plan, person },
      { plan: access.plan, person: { ...person, assignments: list } },
    )
  )
    await endLinks(tx, [personId]);
  await tx.delete(assignments).where(and(eq(assignments.siteId, siteId), eq(assignments.personId, personId)));
  if (list.length > 0)
    await tx
      .insert(assignments)
      .values(
        list.map((a) => ({
          siteId,
          personId,
          roleId: a.role,
          branchId: a.branch === undefined ? null : Number(a.branch),
          fromAt: a.fromMs === undefined ? null : new Date(a.fromMs),
          untilAt: a.untilMs === undefined ? null : new Date(a.untilMs),
        })),
      );
}

/**
 * An assignment as the activity tells it: "Harbour desk, under Skell Island, from 1 March 2027 to 30 September 2027".
 */
export async function assignmentsInWords(tx: Tx, access: Access, list: readonly Assignment[]): Promise<string[]> {
  const pages = await findPageNames(tx, access.site.id);
  const day = (ms: number) => sayDay(new Date(ms), siteCalendar(access.site), now());
  return list.map((a) =>
    [
      access.plan.roles.find((r) => r.id === a.role)?.name ?? a.role,
      a.branch !== undefined && `under ${pages.get(a.branch) ?? 'a page that is gone'}`,
      (a.fromMs !== undefined || a.untilMs !== undefined) &&
        [a.fromMs !== undefined && `from ${day(a.fromMs)}`, a.untilMs !== undefined && `to ${day(a.untilMs - 1)}`]
          .filter(Boolean)
          .join(' '),
    ]
      .filter(Boolean)
      .join(', '),
  );
}

/** What somebody was given and what was taken from them. */
async function changedInWords(
  tx: Tx,
  access: Access,
  before: readonly Assignment[],
  after: readonly Assignment[],
): Promise<string> {
  const [was, is] = [await assignmentsInWords(tx, access, before), await assignmentsInWords(tx, access, after)];
  const [given, taken, kept] = [
    is.filter((one) => !was.includes(one)),
    was.filter((one) => !is.includes(one)),
    is.filter((one) => was.includes(one)),
  ];
  return [
    given.length > 0 && `Given: ${given.join('; ')}.`,
    taken.length > 0 && `Taken: ${taken.join('; ')}.`,
    kept.length > 0 && `Kept: ${kept.join('; ')}.`,
    is.length === 0 && 'No role is left.',
  ]
    .filter(Boolean)
    .join(' ');
}

/**
 * Gives somebody other roles, all at once, and says what was given and taken; refused when they were changed in the
 * meantime. Runs in a transaction.
 */
export async function setAssignments(
  tx: Tx,
  access: Access,
  personId: number,
  given: { before: readonly GivenAssignment[]; after: readonly GivenAssignment[] },
): Promise<string> {
  await lockPeople(tx, access);
  const { person, everybody } = await mustFindPerson(tx, access, personId);
  const bounds = await loadBounds(tx, access);
  bounds.mustTouch(person);
  const current = person.assignments.map((a) => toGiven(a, access.site.timeZone));
  if (canonical(current) !== canonical(given.before)) throw new Problem('person-roles-moved', { person: person.name });
  const list = checkAssignments(
    access.inventory,
    await loadAssignable(tx, access),
    everybody,
    person,
    given.after,
    'after',
  );
  await bounds.mustGive(person, { ...person, assignments: list });
  await writeAssignments(tx, access, person, personId, list);
  const says = await changedInWords(tx, access, person.assignments, list);
  await record(tx, access, 'assigned roles', person.name, { href: '/room/people', detail: says });
  return says;
}

/** Gives everybody who holds a role another one in its place, with the same branch and dates. Runs in a transaction. */
export async function moveHolders(tx: Tx, access: Access, from: string, to: string): Promise<{ moved: number }> {
  await lockPeople(tx, access);
  let everybody: PolicyPerson[] = await listPeople(tx, access.site.id);
  const holders = everybody.filter((p) => p.assignments.some((a) => a.role === from));
  const assignable = await loadAssignable(tx, access);
  const bounds = await loadBounds(tx, access);
  if (from === to) throw new Problem('same-role');
  for (const person of holders) {
    bounds.mustTouch(person);
    const timeZone = access.site.timeZone;
    const kept = person.assignments.filter((a) => a.role !== from).map((a) => toGiven(a, timeZone));
    const moved = person.assignments
      .filter((a) => a.role === from)
      .map((a) => toGiven({ ...a, role: to }, timeZone))
      .filter((a) => !kept.some((k) => canonical(k) === canonical(a)));
    const list = checkAssignments(access.inventory, assignable, everybody, person, [...kept, ...moved], 'to');
    await bounds.mustGive(person, { ...person, assignments: list });
    everybody = everybody.map((p) => (p === person ? { ...p, assignments: list } : p));
    await writeAssignments(tx, access, person, Number(person.id), list);
    await record(tx, access, 'assigned roles', person.name, {
      href: '/room/people',
      detail: await changedInWords(tx, access, person.assignments, list),
    });
  }
  return { moved: holders.length };
}
