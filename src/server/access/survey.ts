import {
  AccessIndex,
  decide,
  explainInWords,
  extentsOf,
  isInForce,
  rulesFor,
  scopeInWords,
  VISIT,
  wayInWords,
  type Extent,
  type Names,
  type Place,
  type Policy,
  type PolicyPerson,
  type MapRow,
  sampleOf,
} from '@/core/access';
import { scopeNames, type Inventory, ofInventory } from '@/core/inventory';
import { policyOf, type Plan } from '@/core/plan';
import { room, type RoomTask } from '@/core/room';
import { isDay, sayDay, type Calendar } from '@/core/words';
import { findInstant, now } from '../clock';
import { listPages, type PageFacts } from '../tree/tree';
import type { Tx } from '../db/client';
import { namesFor, type Access } from '../gate/access';
import { listPeople, type Person } from '../people/people';
import { getLivePlan, getPreparedPlan } from '../plan/plans';

/** Which plan is asked about, and whether people or roles stand in the rows. */
export interface SurveyAsked {
  plan: 'live' | 'prepared';
  rows: 'people' | 'roles';
  branch: string | null;
  /** The day asked about, `2026-11-25`; null for now. */ on: string | null;
}

export function readAsked(query: URLSearchParams): SurveyAsked {
  const branch = query.get('branch');
  return {
    plan: query.get('plan') === 'prepared' ? 'prepared' : 'live',
    rows: query.get('rows') === 'roles' ? 'roles' : 'people',
    branch: branch && /^\d{1,9}$/.test(branch) ? branch : null,
    on: isDay(query.get('on') ?? '') ? query.get('on') : null,
  };
}

/** All that questions about a whole site are answered from. */
export interface Survey {
  inventory: Inventory;
  plan: Plan;
  policy: Policy;
  people: Person[];
  rows: PolicyPerson[];
  pages: readonly PageFacts[];
  names: Names;
  atMs: number;
}

/** What can be asked about, section by section, as a field offers it. */
export const permissionChoice = (inventory: Inventory, label: string) => ({
  id: 'may',
  label,
  options: [
    ...inventory.sections.flatMap((section) =>
      section.permissions.map(({ id, name }) => ({
        value: id,
        name,
        group: section.face === 'frame' ? 'On every screen' : section.name,
      })),
    ),
    { value: VISIT, name: 'visit it on the website', group: 'Website' },
  ],
});
/** Which plan is asked about, likewise. */
export const PLAN_CHOICE = {
  id: 'plan',
  label: 'Plan',
  options: [
    { value: '', name: 'As in force' },
    { value: 'prepared', name: 'As prepared' },
  ],
};

export const permissionIdsOf = ofInventory((inventory) => [...inventory.permissions.keys()]);
export const isPlaced = (inventory: Inventory, permission: string) =>
  inventory.permissions.get(permission as never)?.placed ?? permission === VISIT;

export async function loadSurvey(tx: Tx, access: Access, asked: SurveyAsked): Promise<Survey> {
  const plan =
    asked.plan === 'live' ? await getLivePlan(tx, access.site) : (await getPreparedPlan(tx, access.site.id)).plan;
  const people = await listPeople(tx, access.site.id);
  const pages = await listPages(tx, access.site.id);
  const rows =
    asked.rows === 'people'
      ? people
      : plan.roles
          .filter((role) => !role.archived)
          .map((role): PolicyPerson => ({ ...sampleOf(role.id), id: role.id, name: role.name }));
  const names = await namesFor(tx, { ...access, plan });
  return {
    inventory: access.inventory,
    plan,
    policy: policyOf(access.inventory, plan, rows),
    people,
    rows,
    pages,
    names: { ...names, doing: (id) => (id === VISIT ? 'visit it on the website' : names.doing(id)) },
    atMs: instantOf(access, asked.on),
  };
}

/** Noon of a day on the site's clock; now when none is asked about. */
const instantOf = (access: Access, on: string | null): number =>
  (on === null ? now() : (findInstant(`${on}T12:00`, access.site.timeZone) ?? now())).getTime();

/**
 * How far each permission goes for somebody on a branch, or the whole website. Some fields of a page are some of it.
 */
function extentsFor(
  inventory: Inventory,
  policy: Policy,
  pages: readonly PageFacts[],
  branch: string | null,
  atMs: number,
): (personId: string) => Extent[] {
  const tree = pages.map((p) => ({
    id: p.id,
    parent: p.parent,
    layout: p.place.layout,
    state: p.place.state,
    author: p.place.author,
  }));
  const ask = (asked: Policy) => {
    const index = new AccessIndex(asked, tree, permissionIdsOf(inventory));
    const interval =
      (branch === null ? undefined : index.tree.interval(branch)) ?? ([1, Math.max(1, index.tree.size)] as const);
    return (id: string) => extentsOf(index, index.person(id), interval, (one) => isPlaced(inventory, one), atMs);
  };
  const roles = [...policy.roles.values()];
  const all = ask(policy);
  if (!roles.some((role) => role.grants.some((grant) => grant.scope.fields))) return all;
  const wholly = ask({
    ...policy,
    roles: new Map(
      roles.map((role) => [role.id, { ...role, grants: role.grants.filter((grant) => !grant.scope.fields) }]),
    ),
  });
  return (id) => {
    const whole = wholly(id);
    return all(id).map((extent, i) => (extent === 'yes' && whole[i] !== 'yes' ? 'some' : extent));
  };
}

/** How far each permission goes for each row, on the branch asked about or the whole website. */
export function mapRows(survey: Survey, branch: string | null): MapRow[] {
  const { inventory, rows, pages, policy, plan, atMs } = survey;
  const extents = extentsFor(inventory, policy, pages, branch, atMs);
  const roleName = (id: string) => plan.roles.find((r) => r.id === id)?.name ?? id;
  return rows.map((row) => {
    const held = row.assignments.filter((a) => isInForce(a, atMs)).map((a) => roleName(a.role));
    const holders = survey.people.filter((p) => p.assignments.some((a) => a.role === row.id)).length;
    const isRole = plan.roles.some((r) => r.id === row.id);
    return {
      id: row.id,
      name: row.name,
      says: row.suspended
        ? 'paused'
        : isRole
          ? `${holders} ${holders === 1 ? 'person' : 'people'}`
          : held.join(', ') || 'no role now',
      cells: extents(row.id),
    };
  });
}

export interface Able {
  id: string;
  name: string;
  email: string;
  ways: string[];
  until: string;
}

/**
 * Everybody who may do something to a page (or to a thing that lies nowhere), with every way it came and how long the
 * last of them lasts.
 */
export function whoCan(
  survey: Survey,
  permission: string,
  place: Place | undefined,
  calendar: Calendar,
): { able: Able[]; unable: { id: string; name: string; words: string }[]; everyone: boolean } {
  const { inventory, people, policy, names, atMs } = survey;
  const ask = (person: string | null) =>
    decide(policy, {
      person,
      permission,
      place: isPlaced(inventory, permission) ? place : undefined,
      ...(person !== null && { author: person }),
      atMs,
    });
  const able = people.flatMap((person): Able[] => {
    const decision = ask(person.id);
    if (!decision.allowed) return [];
    const ends = decision.because.map((way) => way.assignment.untilMs ?? Infinity);
    const last = ends.length ? Math.max(...ends) : Infinity;
    const ways =
      decision.because.length > 0
        ? decision.because.map((way) => `${wayInWords(way, permission, names)}.`)
        : [explainInWords(decision, permission, names)];
    return [
      {
        id: person.id,
        name: person.name,
        email: person.email,
        ways: [...new Set(ways)],
        until: last === Infinity ? 'no end' : `to ${sayDay(new Date(last - 1), calendar, now())}`,
      },
    ];
  });
  const unable = people
    .filter((person) => !able.some((one) => one.id === person.id))
    .map((person) => ({ id: person.id, name: person.name, words: explainInWords(ask(person.id), permission, names) }));
  return { able, unable, everyone: ask(null).allowed };
}

export interface Abilities {
  tasks: RoomTask[];
  sections: { name: string; rows: { id: string; name: string; extent: Extent; where: string[] }[] }[];
}

/** Everything one person can do: in the words of their tasks, and permission by permission. */
export function whatCan(survey: Survey, person: Person): Abilities {
  const { inventory, plan, pages, names, atMs } = survey;
  const policy = policyOf(inventory, plan, [person]);
  const extents = extentsFor(inventory, policy, pages, null, atMs)(person.id);
  const made = room({ inventory, plan, person, places: pages.map((p) => p.place), nowMs: atMs });
  const sections = inventory.sections
    .filter((s) => s.permissions.length > 0)
    .map((section) => ({
      name: section.face === 'frame' ? 'On every screen' : section.name,
      rows: section.permissions.map((permission) => {
        const where = rulesFor(policy, person.id, permission.id, atMs).map(
          ({ effect, branches, page, own, layouts, states, fields }) => {
            const parts = [
              ...scopeInWords({ own, layouts, states, fields }, names.page, scopeNames(inventory)),
              ...branches.filter((b) => b !== page).map((b) => `under ${names.page(b)}`),
              ...(page === undefined ? [] : [`on ${names.page(page)} alone`]),
            ];
            return `${effect === 'deny' ? 'not ' : ''}${parts.join(', ') || (permission.placed ? 'on the whole website' : 'everywhere')}`;
          },
        );
        return {
          id: permission.id,
          name: permission.name,
          extent: extents[permissionIdsOf(inventory).indexOf(permission.id)] ?? ('no' as const),
          where: [...new Set(where)],
        };
      }),
    }));
  return { tasks: made.tasks, sections };
}
