import { isInForce, sampleOf, type Decision, type Names, type Place, type PolicyPerson } from '@/core/access';
import type { Own } from '@/core/dashboard';
import { sayCount, sayDay, sayList, type Calendar } from '@/core/words';
import { fieldName, type PermissionId, type Inventory } from '@/core/inventory';
import { applyAll, getRole, type Operation, type Plan, type PlanRole } from '@/core/plan';
import {
  askerFor,
  figures,
  lossBetween,
  room,
  type Loss,
  type Room,
  type RoomFigures,
  type StopOfTask,
} from '@/core/room';
import type { Verdict } from '@/core/task';

/** A page as the Workshop needs it: where rights can end. */
export interface WorkshopPage {
  id: string;
  parent: string | null;
  title: string;
  place: Place;
}

export interface WorkshopFacts {
  role: string;
  /** The plan in force. */
  live: Plan;
  people: PolicyPerson[];
  /** What holders of the role made of their Today; whoever changed nothing is left out. */
  own: Readonly<Record<string, Own>>;
  pages: readonly WorkshopPage[];
  nowMs: number;
  calendar: Calendar;
}

/** Whom the room is shown for: the role alone, or somebody who holds it, with all else they hold. */
export interface Viewer {
  person: PolicyPerson;
  /** The instant it is shown for: now, or one at which they hold the role. */ atMs: number;
  /** Why they do not have this room now; null when they do. */ told: string | null;
}

/** Everything the steps and the miniature show: computed from the prepared plan, never stored. */
export interface Prepared {
  role: PlanRole;
  /** The role alone, or one of its holders. */
  person: PolicyPerson;
  /** Why they do not have this room now; null when they do. */
  told: string | null;
  atMs: number;
  now: Room;
  before: Room;
  figuresNow: RoomFigures;
  figuresBefore: RoomFigures;
  loss: Loss;
  best: (permission: PermissionId) => Decision;
}

export const holdersOf = (facts: WorkshopFacts): PolicyPerson[] =>
  facts.people.filter((person) => person.assignments.some((a) => a.role === facts.role));

/**
 * Somebody who holds a role as they are shown the room of: whoever is paused, has not begun or is over is shown what
 * they would have.
 */
export function viewerOf(facts: WorkshopFacts, person: PolicyPerson): Viewer {
  const day = (ms: number) => sayDay(new Date(ms), facts.calendar, new Date(facts.nowMs));
  const held = person.assignments.filter((a) => a.role === facts.role);
  const awake = { ...person, suspended: false };
  const isNow = held.length === 0 || held.some((a) => isInForce(a, facts.nowMs));
  const begins = Math.min(...held.map((a) => a.fromMs ?? Infinity).filter((ms) => ms > facts.nowMs));
  const ended = Math.max(...held.map((a) => a.untilMs ?? -Infinity).filter((ms) => ms <= facts.nowMs));
  const time = isNow
    ? { atMs: facts.nowMs, words: null }
    : begins < Infinity
      ? { atMs: begins, words: `holds this role only from ${day(begins)}` }
      : { atMs: ended - 1, words: `held this role until ${day(ended - 1)}` };
  const words = [person.suspended ? 'is paused and can do nothing now' : null, time.words]
    .filter(Boolean)
    .join(', and ');
  return {
    person: awake,
    atMs: time.atMs,
    told: words === '' ? null : `${person.name} ${words}. This is the room they would have.`,
  };
}

export function prepare(inventory: Inventory, facts: WorkshopFacts, plan: Plan, personId: string | null): Prepared {
  const holder = holdersOf(facts).find((p) => p.id === personId);
  const { person, atMs, told } = viewerOf(facts, holder ?? sampleOf(facts.role));
  const input = { inventory, person, places: facts.pages.map((page) => page.place), nowMs: atMs };
  const now = room({ ...input, plan });
  const before = room({ ...input, plan: facts.live });
  return {
    role: getRole(plan, facts.role),
    person,
    told,
    atMs,
    now,
    before,
    figuresNow: figures(inventory, now),
    figuresBefore: figures(inventory, before),
    loss: lossBetween(before, now),
    best: askerFor({ ...input, plan }).best,
  };
}

/** The room there would be after operations; undefined when one of them does not apply. */
export function roomAfter(
  inventory: Inventory,
  facts: WorkshopFacts,
  plan: Plan,
  person: PolicyPerson,
  operations: readonly Operation[],
): Room | undefined {
  const next = applyAll(inventory, plan, operations);
  const places = facts.pages.map((page) => page.place);
  return next && room({ inventory, plan: next, person, places, nowMs: facts.nowMs });
}

/** A room in which every task is ticked, to tell of those that are not whether they could be done. */
export const roomWithAllTasks = (inventory: Inventory, facts: WorkshopFacts, plan: Plan, person: PolicyPerson): Room =>
  roomWithTasks(inventory, facts, plan, person, ({ tasks }) => [
    ...tasks,
    ...[...inventory.tasks.keys()].filter((id) => !tasks.some((t) => t.task === id)).map((task) => ({ task })),
  ]);

/** Whether one task could be done, ticked or not; undefined where there is none of that name. */
export const verdictOn = (
  inventory: Inventory,
  facts: WorkshopFacts,
  plan: Plan,
  person: PolicyPerson,
  task: string,
): Verdict | undefined =>
  roomWithTasks(inventory, facts, plan, person, () => [{ task }]).tasks.find((one) => one.task === task)?.verdict;

function roomWithTasks(
  inventory: Inventory,
  facts: WorkshopFacts,
  plan: Plan,
  person: PolicyPerson,
  tasksOf: (role: PlanRole) => PlanRole['tasks'],
): Room {
  const roles = plan.roles.map((role) => (role.id === facts.role ? { ...role, tasks: tasksOf(role) } : role));
  const places = facts.pages.map((page) => page.place);
  return room({ inventory, plan: { ...plan, roles }, person, places, nowMs: facts.nowMs });
}

/** What an operation would take away, as a sentence; null when nothing. */
export function warnOf(name: string, doing: string, before: Room, after: Room | undefined): string | null {
  if (!after) return null;
  const loss = lossBetween(before, after);
  const { tasks, stops } = loss;
  if (tasks.length === 0 && stops.length === 0) return null;
  const blocked = `block ${sayCount(tasks.length, 'task', 'tasks')}: ${tasks.map((task) => `“${task}”`).join(', ')}`;
  const parts = [tasks.length > 0 && blocked, stops.length > 0 && `leave tours without ${stopsInWords(stops)}`];
  return `${doing} ${name} would ${parts.filter(Boolean).join(', and ')}.`;
}

/** “Say it well” in “Write a page”, and so on. */
export const stopsInWords = (stops: readonly StopOfTask[]): string =>
  sayList(stops.map(({ task, stop }) => `“${stop}” in “${task}”`));

export function namesOf(inventory: Inventory, facts: WorkshopFacts, plan: Plan): Names {
  return {
    role: (id) => plan.roles.find((r) => r.id === id)?.name ?? id,
    layout: (id) => inventory.layouts.get(id)?.name ?? id,
    field: (id) => fieldName(inventory, id) ?? id,
    page: (id) => facts.pages.find((p) => p.id === id)?.title ?? 'a page that is gone',
    doing: (permission) => inventory.permissions.get(permission as PermissionId)?.name ?? permission,
    keyholder: 'the keyholder',
  };
}

/** Grants that come with roles this one extends, with the role they come from. */
export function inheritedGrants(plan: Plan, role: PlanRole): { grant: PlanRole['grants'][number]; from: string }[] {
  const out: { grant: PlanRole['grants'][number]; from: string }[] = [];
  const seen = new Set([role.id]);
  const visit = (ids: readonly string[]) => {
    for (const id of ids) {
      const parent = plan.roles.find((r) => r.id === id);
      if (!parent || seen.has(id)) continue;
      seen.add(id);
      out.push(...parent.grants.map((grant) => ({ grant, from: parent.name })));
      visit(parent.extends);
    }
  };
  visit(role.extends);
  return out;
}

/** What a role calls a door. */
export const doorNameOf = (inventory: Inventory, role: PlanRole) => (section: string) =>
  role.doors.find((door) => door.section === section)?.name ??
  inventory.sections.find((s) => s.id === section)?.name ??
  section;

export const DOOR_STATES = [
  { state: 'open', name: 'Open', says: 'In the menu; they can work there.', icon: 'door', pill: 'pill-pine' },
  { state: 'look', name: 'Look only', says: 'In the menu; they can read.', icon: 'eye', pill: 'pill-sky' },
  {
    state: 'away',
    name: 'Put away',
    says: 'Not in the menu; found by asking or by a link.',
    icon: 'archive',
    pill: 'pill-plain',
  },
  { state: 'closed', name: 'Closed', says: 'No access, whatever they try.', icon: 'lock', pill: 'pill-brick' },
] as const;

export const CARE = {
  everyday: { name: 'everyday', pill: 'pill-pine' },
  care: { name: 'with care', pill: 'pill-sun' },
  keyholders: { name: 'keyholders only', pill: 'pill-brick' },
} as const;
