import { decide, type Decision, type Policy, type PolicyPerson, type Question } from '../access';
import { canonical } from '../json';
import { isReading, objectOf, type Inventory, type PermissionId } from '../inventory';
import { applyOperation } from './operations';
import { policyOf } from './policy';
import { remediesFor, type Remedy } from './remedy';
import type { Plan } from './schema';

/**
 * All that doing something takes: the permission itself first, then what the screen asks for on which it is done. Only
 * reading takes nothing else.
 */
export function takenFor(inventory: Inventory, permission: string): string[] {
  if (!inventory.permissions.has(permission as PermissionId) || isReading(permission)) return [permission];
  const object = objectOf(permission);
  const section = inventory.sections.find(({ id }) => id === inventory.sectionOfObject.get(object));
  const screen = inventory.screens.get(inventory.items.get(object)?.screen ?? section?.home ?? '');
  return screen?.needs === undefined || screen.needs === permission ? [permission] : [permission, screen.needs];
}

/** What decides whether somebody can do something: the first permission of all it takes that is refused, if any is. */
export interface Deed {
  permission: string;
  decision: Decision;
}

const asksOf = (inventory: Inventory, question: Question): Question[] =>
  takenFor(inventory, question.permission).map((permission) => {
    const isPlaced = inventory.permissions.get(permission as PermissionId)?.placed ?? true;
    const { place, ...rest } = question;
    return { ...rest, permission, ...(isPlaced && place && { place }) };
  });

/** Whether somebody can do something, with the decision it hangs on. */
export function decideDeed(inventory: Inventory, policy: Policy, question: Question): Deed {
  const decided = asksOf(inventory, question).map((ask) => ({
    permission: ask.permission,
    decision: decide(policy, ask),
  }));
  const first = decided.find(({ decision }) => !decision.allowed) ?? decided[0];
  return first ?? { permission: question.permission, decision: decide(policy, question) };
}

/** The plan with a remedy's operations done, and its people with their assignments as it would have them. */
function mended(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  person: string,
  remedy: Remedy,
): { plan: Plan; people: readonly PolicyPerson[] } {
  if (remedy.kind === 'plan')
    return {
      people,
      plan: remedy.operations.reduce((now, operation) => {
        const done = applyOperation(inventory, now, operation);
        return done.ok ? done.plan : now;
      }, plan),
    };
  const change = (one: PolicyPerson): PolicyPerson =>
    remedy.kind === 'assignment'
      ? { ...one, assignments: one.assignments.map((a) => (a === remedy.before ? remedy.after : a)) }
      : { ...one, suspended: false };
  return { plan, people: people.map((one) => (one.id === person ? change(one) : one)) };
}

/**
 * What would let somebody do what they cannot, the least first: like `remediesFor`, of all it takes. What is offered
 * makes the answer yes; what would leave something else in the way is not offered, or goes on until it does.
 */
export function remediesForDeed(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  question: Question,
): Remedy[] {
  const refused = asksOf(inventory, question).flatMap((ask) => {
    const decision = decide(policyOf(inventory, plan, people), ask);
    return decision.allowed ? [] : [{ ask, decision }];
  });
  const [first] = refused;
  if (!first) return [];
  return remediesFor(inventory, plan, people, first.ask, first.decision).flatMap((remedy): Remedy[] => {
    if (remedy.kind === 'nobody') return [remedy];
    const after = mended(inventory, plan, people, question.person ?? '', remedy);
    const next = decideDeed(inventory, policyOf(inventory, after.plan, after.people), question);
    if (next.decision.allowed) return [remedy];
    if (remedy.kind !== 'plan') return [];
    // What is still in the way is mended in the same roles, as far as the first was.
    const scopeOf = (one: Remedy) =>
      one.kind === 'plan'
        ? canonical(one.operations.flatMap((op) => (op.do === 'add-grant' ? [op.grant.scope] : [])))
        : '';
    const more = remediesForDeed(inventory, after.plan, after.people, question).filter((one) => one.kind === 'plan');
    const fitting = more.find((one) => scopeOf(one) === scopeOf(remedy)) ?? more[0];
    return fitting?.kind === 'plan'
      ? [
          {
            kind: 'plan',
            operations: [...remedy.operations, ...fitting.operations],
            alsoFor: [...new Set([...remedy.alsoFor, ...fitting.alsoFor])],
          },
        ]
      : [];
  });
}
