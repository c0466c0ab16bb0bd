import {
  closure,
  decide,
  isInForce,
  type Assignment,
  type Decision,
  type PolicyPerson,
  type Question,
} from '../access';
import { canonical } from '../json';
import { isReading, objectOf, type Inventory, type PermissionId } from '../inventory';
import { toolRuleInWords } from '../toolbar';
import { applyAll, operationInWords, type Operation } from './operations';
import { isArrangement } from '../screens';
import { elementName, grantInWords, ruleFor, ruleNames, screenRuleInWords } from './parts';
import { policyOf } from './policy';
import { KEYHOLDER, type Plan } from './schema';

/** The least change that turns a no into a yes. */
export type Remedy =
  /** Changes to the plan, and everybody else who holds a role they touch. */
  | { kind: 'plan'; operations: Operation[]; alsoFor: string[] }
  /** The person holds the right role at the wrong time or place. */
  | { kind: 'assignment'; before: Assignment; after: Assignment }
  | { kind: 'resume' }
  /** Nothing may be changed to allow this: somebody else has to do it. */
  | { kind: 'nobody' };

/** Whether it holds on one page alone. */
export const isOfOnePage = (remedy: Remedy): boolean =>
  remedy.kind === 'plan' && remedy.operations.some((op) => op.do === 'add-grant' && op.grant.scope.only === true);

/**
 * What would let a person do what a decision refused, the least first. Only what `decide` then allows is offered; among
 * changes to the plan those come first that touch the fewest other people, then the fewest operations. Empty when the
 * answer was yes already, or when nothing alone would help.
 */
export function remediesFor(
  inventory: Inventory,
  plan: Plan,
  people: readonly PolicyPerson[],
  question: Question,
  decision: Decision,
): Remedy[] {
  if (decision.allowed) return [];
  if (decision.reason === 'second-person') return [{ kind: 'nobody' }];
  if (decision.reason === 'suspended') return [{ kind: 'resume' }];
  const found: Remedy[] = [];
  const person = people.find((p) => p.id === question.person);
  const permission = question.permission as PermissionId;
  if (!person || !inventory.permissions.has(permission)) return [];
  const turns = (operations: readonly Operation[]): boolean => {
    const next = applyAll(inventory, plan, operations);
    return next !== undefined && decide(policyOf(inventory, next, people), question).allowed;
  };

  const { nearest } = decision;
  if (nearest?.missed === 'time' || nearest?.missed === 'assignment-branch') {
    const before = nearest.assignment;
    const place = question.place?.path;
    const after: Assignment =
      nearest.missed === 'assignment-branch' && place
        ? { ...before, branch: place.at(-1) }
        : {
            ...before,
            ...(before.fromMs !== undefined && question.atMs < before.fromMs && { fromMs: question.atMs }),
            ...(before.untilMs !== undefined && question.atMs >= before.untilMs && { untilMs: undefined }),
          };
    const changed = people.map((p) =>
      p === person ? { ...p, assignments: p.assignments.map((a) => (a === before ? after : a)) } : p,
    );
    if (decide(policyOf(inventory, plan, changed), question).allowed) found.push({ kind: 'assignment', before, after });
  }

  const held = person.assignments
    .filter((a) => isInForce(a, question.atMs))
    .map((a) => a.role)
    .filter((id) => id !== KEYHOLDER);
  const candidates: Operation[][] = [];
  const denies = decision.because.filter((way) => way.grant.effect === 'deny');
  const undo: Operation[] = [
    ...new Map(
      denies.map((way) => [
        `${way.roles.at(-1)} ${way.grant.id}`,
        { do: 'remove-grant' as const, role: way.roles.at(-1) ?? '', grant: way.grant.id },
      ]),
    ).values(),
  ];
  if (denies.length > 0) candidates.push(undo);
  const branch = question.place?.path.at(-1);
  // On a page: that page only first, then with all below it.
  const places =
    branch === undefined
      ? [{ as: '', scope: {} }]
      : [
          { as: `-on-${branch}`, scope: { branch, only: true as const } },
          { as: `-under-${branch}`, scope: { branch } },
        ];
  // Where one field is wanted: that field only first, then all of them.
  const { field } = question;
  const scopes = places.flatMap((one) => [
    ...(field === undefined ? [] : [{ as: `${one.as}-some`, scope: { ...one.scope, fields: [field] } }]),
    one,
  ]);
  const section = inventory.sectionOfObject.get(objectOf(permission)) ?? '';
  for (const role of held) {
    const door: Operation = {
      do: 'set-door',
      role,
      section,
      state: isReading(permission) && !worksIn(inventory, plan, role, section) ? 'look' : 'open',
    };
    const grants = scopes.map(({ as, scope }): Operation => ({
      do: 'add-grant',
      role,
      grant: { id: `${permission}${as}-more`, effect: 'allow', permission, scope },
    }));
    for (const operations of [[door], ...grants.flatMap((grant) => [[grant], [grant, door]])])
      candidates.push([...undo, ...operations]);
  }
  const changes = candidates
    .filter((operations) => turns(operations))
    .map((operations) => ({ operations, alsoFor: othersReached(plan, people, person, operations) }))
    .sort((a, b) => a.alsoFor.length - b.alsoFor.length || a.operations.length - b.operations.length);
  // What holds another change within it, and more, is none of its own.
  const least = changes.filter(
    (one, i) =>
      !changes
        .slice(0, i)
        .some((other) => other.operations.every((op) => one.operations.some((o) => canonical(o) === canonical(op)))),
  );
  return [...found, ...least.map((one): Remedy => ({ kind: 'plan', ...one }))];
}

/** What an operation of a remedy would do to a plan, as the administrator says it. */
export function stepInWords(
  inventory: Inventory,
  plan: Plan,
  op: Operation,
  names: { role: (id: string) => string; page: (id: string) => string },
): string {
  switch (op.do) {
    case 'add-grant':
      return `Allow “${names.role(op.role)}” to ${grantInWords(inventory, op.grant, names.page)}.`;
    case 'remove-grant':
      return `Take the “must not” away from “${names.role(op.role)}”.`;
    case 'put-tool-rule': {
      const words = toolRuleInWords(op.rule, ruleNames(inventory, plan.toolbars.sets, names));
      return plan.toolbars.rules.some(({ id }) => id === op.rule.id) ? `A rule becomes: ${words}` : words;
    }
    case 'set-element': {
      const { role, element, place, said } = op;
      const old = ruleFor(plan.screens, role, place, element);
      const was = old && !isArrangement(old.then) ? old.then : {};
      const gone = [
        ...(was.lock !== undefined && said?.lock === undefined ? ['locked'] : []),
        ...(was.show === 'hidden' && said?.show !== 'hidden' ? ['hidden'] : []),
      ];
      const where = place.branch === undefined ? '' : `, on “${names.page(place.branch)}” and all below it`;
      const when = { ...place, roles: [role], fields: [element] };
      if (gone.length > 0)
        return `For “${names.role(role)}”${where}: “${elementName(inventory, element)}” is no longer ${gone.join(' and ')}.`;
      if (said) return screenRuleInWords(inventory, { id: element, when, then: said }, names);
      break;
    }
    case 'remove-screen-rule': {
      const rule = plan.screens.find(({ id }) => id === op.rule);
      if (rule) return `Do away with: ${screenRuleInWords(inventory, rule, names)}`;
    }
  }
  return `“${'role' in op && op.role ? names.role(op.role) : ''}”: ${operationInWords(inventory, op, names.role)}.`;
}

/** The roles an operation is about: those a rule it changes or does away with is for; null for all. */
function rolesOf(plan: Plan, op: Operation): readonly string[] | null {
  const rule =
    op.do === 'put-tool-rule'
      ? (plan.toolbars.rules.find(({ id }) => id === op.rule.id) ?? op.rule)
      : op.do === 'remove-screen-rule'
        ? plan.screens.find(({ id }) => id === op.rule)
        : undefined;
  if (rule) return rule.when.roles ?? null;
  return 'role' in op && op.role !== null ? [op.role] : [];
}

/** Everybody else for whom operations would count, by name: who holds a role they are about, or one that builds on it. */
export function othersReached(
  plan: Plan,
  people: readonly PolicyPerson[],
  person: PolicyPerson,
  operations: readonly Operation[],
): string[] {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  const about = operations.map((op) => rolesOf(plan, op));
  const reaches = (role: string) =>
    closure({ roles }, role).some(({ role: { id } }) => about.some((ids) => ids === null || ids.includes(id)));
  return people
    .filter((one) => one !== person && one.assignments.some(({ role }) => reaches(role)))
    .map(({ name }) => name);
}

/** Whether a ticked task of a role needs more of a section than reading. */
function worksIn(inventory: Inventory, plan: Plan, roleId: string, section: string): boolean {
  const tasks = plan.roles.find((r) => r.id === roleId)?.tasks ?? [];
  return tasks.some(({ task }) =>
    inventory.tasks
      .get(task)
      ?.needs.some((need) => !isReading(need) && inventory.sectionOfObject.get(objectOf(need)) === section),
  );
}
