import type { PolicyPerson } from '@/core/access';
import { KEYHOLDER, type Plan } from '@/core/plan';
import { differences, type RoleDifference } from '@/core/release';
import { bestDecisions, figures, lossBetween, room, type Loss, type RoomFigures } from '@/core/room';
import { missingInWords, surplusOf } from '@/core/task';
import { inventory } from '@/office';
import { now } from '../clock';
import type { PageFacts } from '../content/tree';
import { sampleOf } from '../gate/access';

const nameOfPage = (pages: readonly PageFacts[]) => (id: string) => {
  const page = pages.find((p) => p.id === id);
  return page ? (page.shortName ?? page.liveTitle) : 'a page that is gone';
};

const holders = (people: readonly PolicyPerson[], role: string) => people.filter((person) => person.assignments.some((a) => a.role === role));

export interface RoleSummary {
  id: string;
  name: string;
  purpose: string;
  archived: boolean;
  people: string[];
  figures: RoomFigures;
  changed: boolean;
  /** What it may do and no task of it needs, in words. */
  surplus: string[];
  /** What is wrong with it, a sentence each. */
  problems: string[];
}

/** Every role of the prepared plan, with how its room stands for the first person who holds it. */
export function summarizeRoles(plan: Plan, live: Plan, people: readonly PolicyPerson[], pages: readonly PageFacts[]): RoleSummary[] {
  const changed = new Set(differences(inventory, live, plan, nameOfPage(pages)).map((d) => d.role));
  const places = pages.map((page) => page.place);
  return plan.roles.map((role) => {
    const held = holders(people, role.id);
    const input = { inventory, plan, person: held[0] ?? sampleOf(role.id), places, nowMs: now().getTime() };
    const made = room(input);
    // What comes with other roles of the same person is none of this role's: surplus is asked of somebody who holds just it.
    const alone = bestDecisions({ ...input, person: sampleOf(role.id) });
    const gone = role.grants.filter((g) => g.scope.branch !== undefined && !pages.some((p) => p.id === g.scope.branch)).length;
    return {
      id: role.id, name: role.name, purpose: role.purpose, archived: role.archived ?? false, people: held.map((p) => p.name), changed: changed.has(role.id), figures: figures(inventory, made),
      surplus: surplusOf(inventory, role, (permission) => alone(permission).allowed).map((id) => inventory.permissions.get(id)?.name ?? id),
      problems: [
        ...made.tasks.filter((task) => role.tasks.some((t) => t.task === task.task) && !task.verdict.can).map((task) => `“${task.name}” cannot be done. ${task.verdict.can ? '' : missingInWords(inventory, task.verdict.missing)}`),
        ...(gone > 0 ? [`${gone} ${gone === 1 ? 'rule names a page that is' : 'rules name pages that are'} gone.`] : []),
        ...(role.tasks.length === 0 && !role.archived && role.id !== KEYHOLDER ? ['No task is ticked.'] : []),
      ],
    };
  });
}

export interface Touched extends RoleDifference {
  /** Everybody who holds the role, or a role that extends it. */
  people: { name: string; loss: Loss }[];
}

/** Whether a role is another one or builds on it. */
function buildsOn(plan: Plan, role: string, base: string): boolean {
  return role === base || (plan.roles.find((r) => r.id === role)?.extends.some((parent) => buildsOn(plan, parent, base)) ?? false);
}

/** What going from one plan to another changes, for whom, and what they could no longer do. */
export function touchedBy(before: Plan, after: Plan, people: readonly PolicyPerson[], pages: readonly PageFacts[]): Touched[] {
  const places = pages.map((page) => page.place);
  const nowMs = now().getTime();
  return differences(inventory, before, after, nameOfPage(pages)).map((difference) => ({
    ...difference,
    people: people
      .filter((person) => difference.role !== null && person.assignments.some((a) => buildsOn(after, a.role, difference.role ?? '')))
      .map((person) => ({ name: person.name, loss: lossBetween(room({ inventory, plan: before, person, places, nowMs }), room({ inventory, plan: after, person, places, nowMs })) })),
  }));
}
