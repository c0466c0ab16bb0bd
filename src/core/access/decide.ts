import {
  VISIT,
  type Assignment,
  type Decision,
  type Grant,
  type Miss,
  type MissedWay,
  type Place,
  type Policy,
  type PolicyPerson,
  type PolicyRole,
  type Question,
  type Way,
} from './types';

/** Whether a grant's pattern (`page.edit`, `page.*`, `*`) covers a permission. */
export function covers(pattern: string, permission: string): boolean {
  if (pattern === '*' || pattern === permission) return true;
  return pattern.endsWith('.*') && permission.startsWith(pattern.slice(0, -1));
}

/** A role somebody has by one they hold. */
class Reached<R extends Pick<PolicyRole, 'id' | 'extends'>> {
  constructor(
    readonly role: R,
    private readonly by: Reached<R> | null,
  ) {}
  /** The chain that leads to it, the role held first. */
  get chain(): string[] {
    const ids = [this.role.id];
    for (let { by } = this; by; by = by.by) ids.push(by.role.id);
    return ids.reverse();
  }
}

/** A role and every role it extends, each with the chain that leads to it, the role itself first. Cycles are cut. */
export function closure<R extends Pick<PolicyRole, 'id' | 'extends'>>(
  policy: { roles: ReadonlyMap<string, R> },
  roleId: string,
): Reached<R>[] {
  const out: Reached<R>[] = [];
  const seen = new Set<string>();
  // Depth first with a stack of our own: chains can be longer than the call stack.
  const stack: { id: string; by: Reached<R> | null }[] = [{ id: roleId, by: null }];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const role = policy.roles.get(next.id);
    if (!role || seen.has(next.id)) continue;
    seen.add(next.id);
    const here = new Reached(role, next.by);
    out.push(here);
    for (const parent of role.extends.toReversed()) stack.push({ id: parent, by: here });
  }
  return out;
}

export const isInForce = (assignment: Pick<Assignment, 'fromMs' | 'untilMs'>, atMs: number): boolean =>
  atMs >= (assignment.fromMs ?? -Infinity) && atMs < (assignment.untilMs ?? Infinity);

/** What a role's own door keeps a grant of it (or of a role it extends) from; denies pass every door. */
export function missedDoor(held: PolicyRole | undefined, grant: Grant, permission: string): Miss | undefined {
  if (grant.effect === 'deny') return undefined;
  const door = held?.doors?.get(permission.slice(0, permission.indexOf('.')));
  if (door === 'closed') return 'door-closed';
  if (door === 'look' && !permission.endsWith('.view')) return 'door-look';
  return undefined;
}

function missedScope(grant: Grant, place: Place | undefined, question: Question): Miss | undefined {
  const { branch, only, own, layouts, states, fields } = grant.scope;
  if (branch !== undefined && !(only ? place?.path.at(-1) === branch : place?.path.includes(branch))) return 'branch';
  if (layouts && !(place && layouts.includes(place.layout))) return 'layouts';
  if (states && !(place && states.includes(place.state))) return 'states';
  const author = place ? place.author : question.author;
  if (own && author !== question.person) return 'own';
  if (fields && question.field !== undefined && !fields.includes(question.field)) return 'fields';
  return undefined;
}

/**
 * Whether a page's own rights name a person: as a member, who holds any role now, or as holder of one of its roles
 * (also through a role that extends it).
 */
function isOfAudience(policy: Policy, person: PolicyPerson, place: Place, atMs: number): boolean {
  const { audience } = place;
  if (!audience || audience.kind === 'everyone') return true;
  const held = person.assignments.filter((a) => isInForce(a, atMs));
  if (audience.kind === 'members') return held.length > 0;
  return held.some(
    (a) =>
      (a.branch === undefined || place.path.includes(a.branch)) &&
      closure(policy, a.role).some(({ role }) => audience.roles.includes(role.id)),
  );
}

/** From far to near: the later a way misses, the closer it came. */
const NEARNESS: readonly Miss[] = [
  'time',
  'door-closed',
  'door-look',
  'assignment-branch',
  'branch',
  'layouts',
  'states',
  'own',
  'fields',
];

/**
 * Whether a person may do something to a thing at an instant, and why: every grant that applied with the way it
 * came, the one that decided, and on a no the allow that came closest.
 *
 * Deny wins over allow; nothing allowed means no (the "deny-overrides" rule-combining algorithm of
 * OASIS XACML 3.0, appendix C.2; value from memory). The branch of an assignment and the branch of a grant must both
 * hold, for allows and denies alike; for a thing without a place an assignment's branch narrows nothing, and
 * a grant that names a branch, layouts or states does not apply. Visiting a page on the website (`VISIT`) is also
 * allowed by the page's own rights, where no deny is against it; a page for everyone is so for visitors too.
 * Pure: the same question always gets the same answer.
 */
export function decide(policy: Policy, question: Question): Decision {
  const plain = (allowed: boolean, reason: Decision['reason'], because: readonly Way[] = []): Decision => ({
    allowed,
    reason,
    decidedBy: null,
    because,
    nearest: null,
  });
  const visited = question.permission === VISIT ? question.place : undefined;
  if (visited && (visited.audience ?? { kind: 'everyone' }).kind === 'everyone') return plain(true, 'audience');
  const person = question.person === null ? undefined : policy.people.get(question.person);
  if (!person) return plain(false, 'unknown-person');
  if (person.suspended) return plain(false, 'suspended');
  if (
    question.person !== null &&
    question.writtenBy?.includes(question.person) &&
    policy.secondPerson.has(question.permission)
  )
    return plain(false, 'second-person');

  const because: Way[] = [];
  const misses: MissedWay[] = [];
  for (const assignment of person.assignments) {
    const held = policy.roles.get(assignment.role);
    const outside =
      assignment.branch !== undefined &&
      question.place !== undefined &&
      !question.place.path.includes(assignment.branch);
    for (const reached of closure(policy, assignment.role)) {
      for (const grant of reached.role.grants) {
        if (!covers(grant.permission, question.permission)) continue;
        const way: Way = { grant, assignment, roles: reached.chain };
        const missed =
          (isInForce(assignment, question.atMs) ? undefined : 'time') ??
          missedDoor(held, grant, question.permission) ??
          (outside ? 'assignment-branch' : undefined) ??
          missedScope(grant, question.place, question);
        if (!missed) because.push(way);
        else if (grant.effect === 'allow') misses.push({ ...way, missed });
      }
    }
  }
  const deny = because.find((way) => way.grant.effect === 'deny');
  if (deny) return { allowed: false, reason: 'denied', decidedBy: deny, because, nearest: null };
  const allow = because[0];
  if (allow) return { allowed: true, reason: 'allowed', decidedBy: allow, because, nearest: null };
  if (visited && isOfAudience(policy, person, visited, question.atMs)) return plain(true, 'audience');
  // A stable sort: of those that came as close, the one that stands first.
  const missed = misses.sort((a, b) => NEARNESS.indexOf(b.missed) - NEARNESS.indexOf(a.missed));
  return { allowed: false, reason: 'nothing-allows', decidedBy: null, because, nearest: missed[0] ?? null, missed };
}
