import {
  decide,
  explainInWords,
  type Decision,
  type Names,
  wayInWords,
  type PolicyPerson,
  type Place,
} from '@/core/access';
import { isReading, toolName, type Inventory } from '@/core/inventory';
import { elementName, stepInWords, type Operation, type Remedy } from '@/core/plan';
import { impactOf } from '@/core/release';
import { askableElements, decideDeed, mended, remediesForDeed, type Deed, type DeedQuestion } from '@/core/room';
import type { WhyGroup } from '@/core/wire';
import { sayWhole } from '@/core/words';
import { notFound } from '../gate/problems';
import { liveNameOf } from '../tree/tree';
import { type Survey, isPlaced } from './survey';

/**
 * Why one row may or may not, on every page of a branch: pages with the same reason together, the larger group first.
 */
export function whyOn(survey: Survey, row: string, permission: string, branch: string | null): WhyGroup[] {
  const { inventory, policy, pages, names, atMs } = survey;
  if (!policy.people.has(row)) throw notFound(row === '' ? 'This person' : 'This row');
  const there = isPlaced(inventory, permission)
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
  /** What the person gains besides what is asked for, a sentence each. */
  besides: string[];
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
  /** What of the edit screen or the toolbar alone is in the way: how it is prepared. */
  onScreen: 'screens' | 'toolbar' | null;
}

/** What of a question goes beyond a permission and a page. */
export interface WhyMore {
  /** A field or panel of the edit screen, or a tool, that is wanted. */
  element?: string | undefined;
  tool?: string | undefined;
  /** Who wrote what waits for a second look. */
  writtenBy?: readonly string[] | undefined;
}

/** As many ways as somebody would weigh, and as much of what each gives away as they would read. */
const [MOST_WAYS, MOST_BESIDES] = [4, 6];

/**
 * Why one person or role can or cannot do something to one page, all of what it takes looked at; what came close, and the
 * least changes that would let them, each with what it gives away besides.
 */
export function whyOne(
  survey: Survey,
  row: PolicyPerson,
  permission: string,
  place: Place | undefined,
  more: WhyMore = {},
): WhyOne {
  const { inventory, plan, people, names, atMs } = survey;
  const everybody = [...people.filter((p) => p.id !== row.id), row];
  const question: DeedQuestion = {
    person: row.id,
    permission,
    author: row.id,
    ...(place && isPlaced(inventory, permission) && { place }),
    ...more,
    atMs,
  };
  const deed = decideDeed(inventory, plan, everybody, question);
  const { permission: deciding, decision } = deed;
  const remedies = remediesForDeed(inventory, plan, everybody, question).slice(0, MOST_WAYS);
  return {
    allowed: deed.allowed,
    words: deedInWords(inventory, deed, permission, names),
    onScreen: deed.stop && (deed.stop.kind === 'tool' ? 'toolbar' : 'screens'),
    ways: deed.stop ? [] : decision.because.map((way) => `${wayInWords(way, deciding, names)}.`),
    misses: [
      ...new Set((decision.missed ?? []).map((nearest) => explainInWords({ ...decision, nearest }, deciding, names))),
    ]
      .filter((words) => words !== explainInWords(decision, deciding, names))
      .slice(0, 5),
    remedies: remedies.map((remedy): RemedyTold => {
      switch (remedy.kind) {
        case 'plan':
          return {
            steps: remedy.operations.map((op) => stepInWords(inventory, plan, op, names)),
            alsoFor: remedy.alsoFor,
            besides: besides(survey, everybody, row, remedy, askedName(inventory, more)),
            prepare: { role: roleOf(remedy.operations), operations: remedy.operations },
            elsewhere: null,
          };
        case 'assignment':
          return elsewhere(
            `Let ${row.name} hold “${names.role(remedy.before.role)}” ${remedy.after.branch === undefined ? '' : `under ${names.page(remedy.after.branch)} `}at that time.`,
          );
        case 'resume':
          return elsewhere(`Let ${row.name.split(' ')[0] ?? row.name} work again: the account is paused.`);
        case 'nobody':
          return {
            ...elsewhere('Nothing: nobody gives the second look to their own work. Somebody else has to.'),
            elsewhere: null,
          };
      }
    }),
  };
}
const elsewhere = (step: string): RemedyTold => ({
  steps: [step],
  alsoFor: [],
  besides: [],
  prepare: null,
  elsewhere: '/room/people',
});
const roleOf = (operations: readonly Operation[]): string =>
  operations.flatMap((op) => ('role' in op && op.role ? [op.role] : []))[0] ?? '';

/** Whether they can, and what it hangs on, as a sentence. */
function deedInWords(
  inventory: Inventory,
  { permission: deciding, decision, stop }: Deed,
  permission: string,
  names: Names,
): string {
  const may = `They may ${names.doing(permission)}, but`;
  if (stop?.kind === 'tool') return `${may} no text of it has the tool “${toolName(inventory, stop.tool)}” for them.`;
  if (stop) {
    const element = `“${elementName(inventory, stop.element)}”`;
    const how = stop.kind === 'hidden' ? 'hidden' : 'locked';
    const why = stop.kind === 'locked' ? `: “${stop.reason}”` : '';
    return sayWhole(`${may} ${element} is ${how} on the edit screen prepared for them here${why}`);
  }
  const words = explainInWords(decision, deciding, names);
  if (deciding === permission) return words;
  const how = isReading(deciding) ? 'it is done on a screen for which they have to' : 'whoever does it has to';
  return `${may} ${how} ${names.doing(deciding)}, too. ${words}`;
}

/** What is asked for on the edit screen or in the toolbar, by name; null where it is all of the thing. */
export const askedName = (inventory: Inventory, { element, tool }: WhyMore): string | null =>
  element !== undefined ? elementName(inventory, element) : tool !== undefined ? toolName(inventory, tool) : null;

/** What somebody would gain by a change of the plan besides what its steps say. */
function besides(
  { inventory, plan, pages, names, atMs }: Survey,
  people: readonly PolicyPerson[],
  person: PolicyPerson,
  remedy: Extract<Remedy, { kind: 'plan' }>,
  asked: string | null,
): string[] {
  const isSaid = (words: string) =>
    (asked !== null && words.includes(`“${asked}”`)) ||
    remedy.operations.some(
      (op) => op.do === 'add-grant' && words.startsWith(`May ${names.doing(op.grant.permission)}`),
    );
  return impactOf({
    inventory,
    before: plan,
    after: mended(inventory, plan, people, person.id, remedy).plan,
    person,
    places: pages.map((page) => page.place),
    pageName: names.page,
    nowMs: atMs,
  })
    .flatMap(({ kind, words }) => (kind === 'gain' && !isSaid(words) ? [words] : []))
    .slice(0, MOST_BESIDES);
}

/** What of the edit screen and the toolbar can be asked about, as a field offers it; none for what is done without. */
export function partChoice(inventory: Inventory, permission: string, place: Place | undefined) {
  const elements = askableElements(inventory, permission, place?.layout);
  if (elements.length === 0) return null;
  return {
    id: 'with',
    label: 'With what of it',
    options: [
      { value: '', name: 'anything of it' },
      ...elements.map(({ id, name, kind }) => ({
        value: `part ${id}`,
        name,
        group: kind === 'field' ? 'Fields' : 'Panels',
      })),
      ...[...inventory.tools.values()].map(({ id, name }) => ({ value: `tool ${id}`, name, group: 'Tools' })),
    ],
  };
}
