import { isInForce, sampleOf, type PolicyPerson } from '@/core/access';
import { KEYHOLDER, type Plan } from '@/core/plan';
import { canonical } from '@/core/json';
import { differences, impactOf, type Effect, type RoleDifference } from '@/core/release';
import { askerFor, figures, room, type RoomFigures } from '@/core/room';
import { missingInWords, surplusOf } from '@/core/task';
import type { HistoryEntry } from '@/core/wire';
import { now } from '../clock';
import { type PageFacts, liveNameOf } from '../tree/tree';
import type { Inventory } from '@/core/inventory';

const nameOfPage = (pages: readonly PageFacts[]) => (id: string) => {
  const page = pages.find((p) => p.id === id);
  return page ? liveNameOf(page) : 'a page that is gone';
};

/** What is to be known of somebody who holds a role and does not work by it now. */
const holderState = (person: PolicyPerson, role: string, atMs: number): string => {
  const held = person.assignments.filter((a) => a.role === role);
  if (person.suspended) return ' (paused)';
  if (held.some((a) => isInForce(a, atMs))) return '';
  return held.some((a) => (a.fromMs ?? 0) > atMs) ? ' (not begun)' : ' (ended)';
};

const holders = (people: readonly PolicyPerson[], role: string) =>
  people.filter((person) => person.assignments.some((a) => a.role === role));

export interface RoleSummary {
  id: string;
  name: string;
  purpose: string;
  archived: boolean;
  people: string[];
  /** Names of the roles that build on it. */
  under: string[];
  figures: RoomFigures;
  changed: boolean;
  /** What it may do and no task of it needs, in words. */
  surplus: string[];
  /** What is wrong with it, a sentence each. */
  problems: string[];
}

/** Every role of the prepared plan, with how its room stands for somebody who holds just it. */
export function summarizeRoles(
  inventory: Inventory,
  plan: Plan,
  live: Plan,
  people: readonly PolicyPerson[],
  pages: readonly PageFacts[],
): RoleSummary[] {
  const changed = new Set(differences(inventory, live, plan, nameOfPage(pages)).map((d) => d.role));
  const places = pages.map((page) => page.place);
  return plan.roles.map((role) => {
    const held = holders(people, role.id);
    const input = { inventory, plan, person: sampleOf(role.id), places, nowMs: now().getTime() };
    const asker = askerFor(input);
    const made = room(input, asker);
    const gone = role.grants.filter(
      (g) => g.scope.branch !== undefined && !pages.some((p) => p.id === g.scope.branch),
    ).length;
    return {
      id: role.id,
      name: role.name,
      purpose: role.purpose,
      archived: role.archived ?? false,
      under: plan.roles.filter((r) => r.extends.includes(role.id) && !r.archived).map((r) => r.name),
      people: held.map((p) => p.name + holderState(p, role.id, now().getTime())),
      changed: changed.has(role.id),
      figures: figures(inventory, made),
      surplus: surplusOf(inventory, role, (permission) => asker.best(permission).allowed).map(
        (id) => inventory.permissions.get(id)?.name ?? id,
      ),
      problems: [
        ...made.tasks
          .filter((task) => role.tasks.some((t) => t.task === task.task) && !task.verdict.can)
          .map(
            (task) =>
              `“${task.name}” cannot be done. ${task.verdict.can ? '' : missingInWords(inventory, task.verdict.missing, (id) => role.doors.find((d) => d.section === id)?.name ?? inventory.sections.find((s) => s.id === id)?.name ?? id)}`,
          ),
        ...(gone > 0
          ? [`${gone} ${gone === 1 ? 'rule names a page that is' : 'rules name pages that are'} gone.`]
          : []),
        ...(role.tasks.length === 0 && !role.archived && role.id !== KEYHOLDER ? ['No task is ticked.'] : []),
      ],
    };
  });
}

export interface PersonChange {
  name: string;
  /** Why they have no room now; null when they have. */ told: string | null;
  effects: Effect[];
}
export interface RoleChange extends RoleDifference {
  /** Who prepared it. */
  by: string[];
  /** What changes for somebody who holds just this role. */
  alone: Effect[];
  /** Everybody who holds it, or a role that builds on it. */
  people: { id: string; name: string }[];
}
export interface PlanChange {
  roles: RoleChange[];
  people: PersonChange[];
}

/** Whether a role is another one or builds on it. */
function buildsOn(plan: Plan, role: string, base: string): boolean {
  return (
    role === base ||
    (plan.roles.find((r) => r.id === role)?.extends.some((parent) => buildsOn(plan, parent, base)) ?? false)
  );
}

/**
 * The instant somebody is asked about: now, or when the first of what they hold begins; and what is to be known of
 * that.
 */
function atWork(person: PolicyPerson, atMs: number): { atMs: number; told: string | null } {
  const isNow = person.assignments.some((a) => isInForce(a, atMs));
  const begins = Math.min(...person.assignments.map((a) => a.fromMs ?? Infinity).filter((ms) => ms > atMs));
  const told = person.suspended
    ? 'paused now'
    : isNow
      ? null
      : begins < Infinity
        ? 'has not begun'
        : 'all they held is over';
  return { atMs: isNow || begins === Infinity ? atMs : begins, told };
}

/**
 * What going from one plan to another changes: role by role, and for everybody it touches all they gain and lose, with
 * the places.
 */
export function changesBetween(
  inventory: Inventory,
  before: Plan,
  after: Plan,
  people: readonly PolicyPerson[],
  pages: readonly PageFacts[],
  recent: readonly HistoryEntry[] = [],
): PlanChange {
  const pageName = nameOfPage(pages);
  const input = { inventory, before, after, places: pages.map((page) => page.place), pageName };
  const nowMs = now().getTime();
  const roles = differences(inventory, before, after, pageName).map((difference): RoleChange => ({
    ...difference,
    by: [
      ...new Set(
        recent.filter((entry) => entry.role === difference.role || entry.role === null).map((entry) => entry.by),
      ),
    ],
    alone: difference.role === null ? [] : impactOf({ ...input, person: sampleOf(difference.role), nowMs }),
    people: people
      .filter(
        (person) =>
          difference.role !== null &&
          person.assignments.some(
            (a) => buildsOn(after, a.role, difference.role ?? '') || buildsOn(before, a.role, difference.role ?? ''),
          ),
      )
      .map(({ id, name }) => ({ id, name })),
  }));
  const touched = new Set(roles.flatMap((role) => role.people.map((person) => person.id)));
  // Many hold just the same: what changes is worked out once for all of them. Own work apart, that is all there is to a
  // person here.
  const known = new Map<string, Effect[]>();
  const persons = people
    .filter((person) => touched.has(person.id))
    .map((person): PersonChange => {
      const { atMs, told } = atWork(person, nowMs);
      const key = canonical([
        atMs,
        person.assignments,
        pages.some((page) => page.place.author === person.id) ? person.id : '',
      ]);
      const effects = known.get(key) ?? impactOf({ ...input, person: { ...person, suspended: false }, nowMs: atMs });
      known.set(key, effects);
      return { name: person.name, told, effects };
    });
  return { roles, people: persons };
}
