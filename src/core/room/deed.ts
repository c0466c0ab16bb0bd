import { decide, type Decision, type PolicyPerson, type Question } from '../access';
import { freeId } from '../ids';
import { isReading, objectOf, type Inventory, type PermissionId } from '../inventory';
import { canonical } from '../json';
import {
  applyAll,
  KEYHOLDER,
  othersReached,
  policyOf,
  remediesFor,
  type Operation,
  type Plan,
  type Remedy,
} from '../plan';
import { editScreens, isArrangement, type ElementSaid, type ScreenRule } from '../screens';
import { rolesThatCount } from '../toolbar';
import { screensOf } from './screens';
import { writingOf } from './writing';

/** A question about something somebody wants to do, down to what on the edit screen they want to do it with. */
export interface DeedQuestion extends Question {
  /** A field or panel of the edit screen that is wanted. */
  element?: string | undefined;
  /** A tool that is wanted in a text of the thing. */
  tool?: string | undefined;
}

/** What keeps somebody from something they may do: the edit screen prepared for them, or their toolbar. */
export type ScreenStop =
  | { kind: 'hidden'; element: string }
  | { kind: 'locked'; element: string; reason: string }
  | { kind: 'tool'; tool: string };

/** Whether somebody can do something, and what that hangs on: the first that stops them, if anything does. */
export interface Deed {
  allowed: boolean;
  permission: string;
  decision: Decision;
  /** All that is asked for may be done, but not on their screen. */
  stop: ScreenStop | null;
}

/**
 * All permissions that doing something takes: itself first, then what its control asks for, then the screen that is on.
 * Only reading takes nothing else. `element`: a panel of the edit screen, with what that takes.
 */
export function takenFor(inventory: Inventory, permission: string, element?: string): string[] {
  const known = inventory.permissions.get(permission as PermissionId);
  if (!known || isReading(permission)) return [permission];
  const object = objectOf(permission);
  const section = inventory.sections.find(({ id }) => id === inventory.sectionOfObject.get(object));
  const screen = inventory.screens.get(inventory.items.get(object)?.screen ?? section?.home ?? '');
  const needs = [known.control, element].flatMap((id) => inventory.controls.get(id ?? '')?.needs ?? []);
  return [...new Set([permission, ...needs, ...(screen?.needs ? [screen.needs] : [])])];
}

/** What of an edit screen can be asked about: fields and panels of the thing's layout. */
export function askableElements(inventory: Inventory, permission: string, layout: string | undefined) {
  const type = objectOf(permission);
  if (permission !== `${type}.edit`) return [];
  const forms = editScreens(inventory).filter((form) => form.type.id === type);
  return (forms.find((form) => form.layout.id === layout) ?? forms[0])?.elements ?? [];
}

function asksOf(inventory: Inventory, { element, tool: _, ...question }: DeedQuestion): Question[] {
  return takenFor(inventory, question.permission, element).map((permission) => {
    const isPlaced = inventory.permissions.get(permission as PermissionId)?.placed ?? true;
    const { place, ...rest } = question;
    // Of a panel any of its fields will do.
    const field =
      permission === 'page.edit'
        ? askableElements(inventory, permission, place?.layout).find(
            ({ id, kind }) => id === element && kind === 'field',
          )?.field?.id
        : undefined;
    return { ...rest, permission, ...(isPlaced && place && { place }), ...(field !== undefined && { field }) };
  });
}

/** Whether somebody can do something, with what it hangs on. */
export function decideDeed(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  question: DeedQuestion,
): Deed {
  const policy = policyOf(inventory, plan, people);
  const decided = asksOf(inventory, question).map((ask) => ({
    permission: ask.permission,
    decision: decide(policy, ask),
  }));
  const refused = decided.find(({ decision }) => !decision.allowed);
  if (refused) return { ...refused, allowed: false, stop: null };
  const stop = stopOn(inventory, plan, people, question);
  const { permission } = question;
  return { permission, decision: decide(policy, question), allowed: stop === null, stop };
}

/** What of their edit screen or toolbar is in the way of somebody who may. */
function stopOn(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  { person: id, permission, place, element, tool, atMs }: DeedQuestion,
): ScreenStop | null {
  const person = people.find((one) => one.id === id);
  if (!person || !place) return null;
  const type = objectOf(permission);
  if (element !== undefined) {
    const { show, lock } = screensOf(inventory, plan, person, atMs).of(type, place, element);
    if (show === 'hidden') return { kind: 'hidden', element };
    if (lock !== undefined) return { kind: 'locked', element, reason: lock };
  }
  if (tool !== undefined && !writingOf(inventory, plan, person, atMs).has(type, place, [[tool]]))
    return { kind: 'tool', tool };
  return null;
}

/** What would give somebody a tool, or an element of the edit screen: on this page and below it, or everywhere. */
function ownWaysPast(
  inventory: Inventory,
  plan: Plan,
  person: PolicyPerson,
  question: DeedQuestion,
  stop: ScreenStop,
): Operation[][] {
  const path = question.place?.path ?? [];
  const branch = path.at(-1);
  const roles = rolesThatCount(person, path, question.atMs).filter((role) => role !== KEYHOLDER);
  return roles.flatMap((role): Operation[][] => {
    if (stop.kind === 'tool') {
      const { tool } = stop;
      const here = { roles: [role], ...(branch !== undefined && { branch }) };
      return [
        [
          {
            do: 'put-tool-rule',
            role,
            rule: { id: freeId(plan.toolbars.rules, `${role}-add`), when: here, then: { add: [tool] } },
          },
        ],
        [{ do: 'set-tool', role, tool, on: true }],
        // What cuts everybody down to some tools has to let this one through.
        ...plan.toolbars.rules.flatMap((rule): Operation[][] => {
          const { cap } = rule.then;
          if (!cap) return [];
          const wider: Operation = { do: 'put-tool-rule', role, rule: { ...rule, then: { cap: [...cap, tool] } } };
          return [[wider], [wider, { do: 'set-tool', role, tool, on: true }]];
        }),
      ];
    }
    const { place } = question;
    if (!place) return [];
    const { because } = screensOf(inventory, plan, person, question.atMs).of(
      objectOf(question.permission),
      place,
      stop.element,
    );
    const shown = { show: 'closed' as const };
    return [
      ...(stop.kind === 'hidden'
        ? [[setElement(role, stop.element, branch === undefined ? {} : { branch }, shown)]]
        : []),
      ...plan.screens.flatMap((rule) => (Object.values(because).includes(rule.id) ? [withoutStop(rule, role)] : [])),
    ].filter((operations) => operations.length > 0);
  });
}

const setElement = (role: string, element: string, place: object, said: ElementSaid | null): Operation => ({
  do: 'set-element',
  role,
  element,
  place,
  said,
});

/**
 * A rule of edit screens with all it says but that it hides or locks; nothing where it says that of other elements, too,
 * or says more for other roles: what else was prepared would go with it.
 */
function withoutStop({ id, when, then }: ScreenRule, role: string): Operation[] {
  const { roles, fields, ...place } = when;
  const [element, ...others] = fields ?? [];
  if (isArrangement(then) || element === undefined || others.length > 0) return [];
  const { show: _, lock: __, ...rest } = then;
  const says = Object.keys(rest).length > 0;
  if (roles?.length === 1 && roles[0] === role) return [setElement(role, element, place, says ? rest : null)];
  return says ? [] : [{ do: 'remove-screen-rule', role, rule: id }];
}

/** The plan with a remedy's operations done, and its people with their assignments as it would have them. */
export function mended(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  person: string,
  remedy: Remedy,
): { plan: Plan; people: readonly PolicyPerson[] } {
  // All of it or nothing, as it would be prepared.
  if (remedy.kind === 'plan') return { people, plan: applyAll(inventory, plan, remedy.operations) ?? plan };
  const change = (one: PolicyPerson): PolicyPerson =>
    remedy.kind === 'assignment'
      ? { ...one, assignments: one.assignments.map((a) => (a === remedy.before ? remedy.after : a)) }
      : { ...one, suspended: false };
  return { plan, people: people.map((one) => (one.id === person ? change(one) : one)) };
}

/** Ways past the first thing that is in the way, the least first; what else is in the way is not looked at. */
function firstWays(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  question: DeedQuestion,
): Remedy[] {
  const policy = policyOf(inventory, plan, people);
  for (const ask of asksOf(inventory, question)) {
    const decision = decide(policy, ask);
    if (!decision.allowed) return remediesFor(inventory, plan, people, ask, decision);
  }
  const stop = stopOn(inventory, plan, people, question);
  const person = people.find(({ id }) => id === question.person);
  if (!stop || !person) return [];
  return ownWaysPast(inventory, plan, person, question, stop)
    .map((operations): PlanWay => ({
      kind: 'plan',
      operations,
      alsoFor: othersReached(plan, people, person, operations),
    }))
    .sort((a, b) => a.alsoFor.length - b.alsoFor.length || a.operations.length - b.operations.length);
}

/** As many things one after the other as can be in the way of anything, and some more. */
const MOST_STEPS = 8;

type PlanWay = Extract<Remedy, { kind: 'plan' }>;

/** How far the rules go that a way adds. */
const scopesIn = (operations: readonly Operation[]): string =>
  canonical(operations.flatMap((op) => (op.do === 'add-grant' ? [op.grant.scope] : [])));

/**
 * What would let somebody do what they cannot, the least first: like `remediesFor`, of all it takes, the edit screen and
 * the toolbar too. What is offered makes the answer yes; what would leave something else in the way goes on past that, in
 * the same roles and as far as it went, or is not offered.
 */
export function remediesForDeed(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  question: DeedQuestion,
): Remedy[] {
  const out = new Map<string, Remedy>();
  for (const first of firstWays(inventory, plan, people, question)) {
    if (first.kind !== 'plan') {
      const after = mended(inventory, plan, people, question.person ?? '', first);
      if (first.kind === 'nobody' || decideDeed(inventory, after.plan, after.people, question).allowed)
        out.set(canonical(first), first);
      continue;
    }
    let way: PlanWay | undefined = first;
    for (let step = 0; way !== undefined && step < MOST_STEPS; step++) {
      const after: Plan = mended(inventory, plan, people, question.person ?? '', way).plan;
      if (decideDeed(inventory, after, people, question).allowed) break;
      const more = firstWays(inventory, after, people, question).filter((one) => one.kind === 'plan');
      const next: PlanWay | undefined =
        more.find((one) => scopesIn(one.operations) === scopesIn(first.operations)) ?? more[0];
      way = next && {
        kind: 'plan',
        operations: [...way.operations, ...next.operations],
        alsoFor: [...new Set([...way.alsoFor, ...next.alsoFor])],
      };
    }
    if (way && decideDeed(inventory, mended(inventory, plan, people, '', way).plan, people, question).allowed)
      out.set(canonical(way), way);
  }
  return [...out.values()];
}
