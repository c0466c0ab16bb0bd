import {
  decide,
  explainInWords,
  type Decision,
  type Names,
  wayInWords,
  type PolicyPerson,
  type Place,
} from '@/core/access';
import { type Operation, decideDeed, policyOf, remediesForDeed, grantInWords, operationInWords } from '@/core/plan';
import type { WhyGroup } from '@/core/wire';
import { inventory } from '@/office';
import { notFound } from '../gate/problems';
import { liveNameOf } from '../tree/tree';
import { type Survey, isPlaced } from './survey';

/**
 * Why one row may or may not, on every page of a branch: pages with the same reason together, the larger group first.
 */
export function whyOn(survey: Survey, row: string, permission: string, branch: string | null): WhyGroup[] {
  const { policy, pages, names, atMs } = survey;
  if (!policy.people.has(row)) throw notFound(row === '' ? 'This person' : 'This row');
  const there = isPlaced(permission)
    ? pages.filter((p) => branch === null || p.place.path.includes(branch))
    : [undefined];
  const groups = new Map<string, WhyGroup>();
  for (const page of there) {
    const decision = decide(policy, { person: row, permission, ...(page && { place: page.place }), atMs });
    const words = explainInWords(decision, permission, names);
    let group = groups.get(words);
    if (!group)
      groups.set(
        words,
        (group = { allowed: decision.allowed, words, ways: waysOf(decision, permission, names), pages: [], count: 0 }),
      );
    group.count++;
    if (page && group.pages.length < 5) group.pages.push(liveNameOf(page));
  }
  return [...groups.values()].sort((a, b) => b.count - a.count);
}
const waysOf = (decision: Decision, permission: string, names: Names): string[] =>
  decision.because.length > 1 ? decision.because.map((way) => `${wayInWords(way, permission, names)}.`) : [];

export interface RemedyTold {
  /** What would be changed, a sentence each. */
  steps: string[];
  /** Others for whom it would count, too. */
  alsoFor: string[];
  /** The role and the operations to prepare; null for what is changed elsewhere. */
  prepare: { role: string; operations: Operation[] } | null;
  /** Where else it is changed. */
  elsewhere: string | null;
}

export interface WhyOne {
  allowed: boolean;
  words: string;
  ways: string[];
  misses: string[];
  remedies: RemedyTold[];
}

/**
 * Why one person or role may or may not do something to one page, what came close, and the least changes that would
 * allow it.
 */
export function whyOne(survey: Survey, row: PolicyPerson, permission: string, place: Place | undefined): WhyOne {
  const { plan, people, names, atMs } = survey;
  const everybody = [...people.filter((p) => p.id !== row.id), row];
  const policy = policyOf(inventory, plan, everybody);
  const question = {
    person: row.id,
    permission,
    author: row.id,
    ...(place && isPlaced(permission) && { place }),
    atMs,
  };
  // All it takes: to look at it, too, or somebody who may is stopped by the screen.
  const { permission: deciding, decision } = decideDeed(inventory, policy, question);
  const first = row.name.split(' ')[0] ?? row.name;
  const remedies = remediesForDeed(inventory, plan, everybody, question)
    .slice(0, 4)
    .map((remedy): RemedyTold => {
      switch (remedy.kind) {
        case 'plan':
          return {
            steps: remedy.operations.map((op) => stepInWords(op, names)),
            alsoFor: remedy.alsoFor,
            prepare: {
              role: ('role' in (remedy.operations[0] ?? {}) && (remedy.operations[0] as { role: string }).role) || '',
              operations: remedy.operations,
            },
            elsewhere: null,
          };
        case 'assignment':
          return {
            steps: [
              `Let ${row.name} hold “${names.role(remedy.before.role)}” ${remedy.after.branch === undefined ? '' : `under ${names.page(remedy.after.branch)} `}at that time.`,
            ],
            alsoFor: [],
            prepare: null,
            elsewhere: '/room/people',
          };
        case 'resume':
          return {
            steps: [`Let ${first} work again: the account is paused.`],
            alsoFor: [],
            prepare: null,
            elsewhere: '/room/people',
          };
        case 'nobody':
          return {
            steps: ['Nothing: nobody gives the second look to their own work. Somebody else has to.'],
            alsoFor: [],
            prepare: null,
            elsewhere: null,
          };
      }
    });
  return {
    allowed: decision.allowed,
    words:
      deciding === permission
        ? explainInWords(decision, permission, names)
        : `They may ${names.doing(permission)}, but it is done on a screen for which they have to ${names.doing(deciding)}. ${explainInWords(decision, deciding, names)}`,
    ways: decision.because.map((way) => `${wayInWords(way, deciding, names)}.`),
    misses: [
      ...new Set(
        (decision.missed ?? []).slice(1, 6).map((nearest) => explainInWords({ ...decision, nearest }, deciding, names)),
      ),
    ],
    remedies,
  };
}

/** What an operation of a remedy would do, as the administrator says it. */
function stepInWords(op: Operation, names: Names): string {
  if (op.do === 'add-grant')
    return `Allow “${names.role(op.role)}” to ${grantInWords(inventory, op.grant, names.page)}.`;
  if (op.do === 'remove-grant') return `Take the “must not” away from “${names.role(op.role)}”.`;
  return `“${'role' in op ? names.role(op.role) : ''}”: ${operationInWords(inventory, op, names.role)}.`;
}
