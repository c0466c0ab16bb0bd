import { closure, covers, isInForce, missedDoor } from './decide';
import type { Grant, PageId, Place, PersonId, Policy, Scope } from './types';

/** What one grant comes to for one person and one permission: every part must hold. */
export interface AccessRule extends Omit<Scope, 'branch' | 'only'> {
  effect: Grant['effect'];
  /** The thing must lie under each of these: none, one or two pages. */
  branches: readonly PageId[];
  /** The page it must be, or lie on. */
  page?: PageId | undefined;
  /** Whether it also holds for things that lie nowhere. */
  nowhere: boolean;
}

/**
 * What rules are asked about: where it lies, whose it is where it lies nowhere, and the field that is to be changed.
 */
type RuleThing = { place?: Place | undefined; author?: PersonId | undefined; field?: string | undefined };

const isBare = (rule: AccessRule) =>
  rule.branches.length === 0 && !rule.own && !rule.layouts && !rule.states && !rule.fields;

/**
 * What a person's roles say about one permission at an instant, as rules without roles and times: denies first.
 * Empty when the answer is no everywhere. `rulesAllow` on these answers like `decide`, for lists of any length;
 * the two-person rule and a page's own rights for visitors, which concern one thing at a time, are not among them.
 */
export function rulesFor(policy: Policy, personId: PersonId, permission: string, atMs: number): AccessRule[] {
  const person = policy.people.get(personId);
  if (!person || person.suspended) return [];
  const rules: AccessRule[] = [];
  for (const assignment of person.assignments) {
    if (!isInForce(assignment, atMs)) continue;
    const held = policy.roles.get(assignment.role);
    for (const { role } of closure(policy, assignment.role))
      for (const grant of role.grants) {
        if (!covers(grant.permission, permission) || missedDoor(held, grant, permission)) continue;
        const { branch, only, ...rest } = grant.scope;
        const branches = [...new Set([assignment.branch, branch])].filter((id) => id !== undefined);
        rules.push({
          effect: grant.effect,
          ...rest,
          branches,
          ...(only && { page: branch }),
          nowhere: branch === undefined && !rest.layouts && !rest.states,
        });
      }
  }
  const denies = rules.filter((rule) => rule.effect === 'deny');
  if (denies.some(isBare)) return [];
  const allows = rules.filter((rule) => rule.effect === 'allow');
  const everywhere = allows.find(isBare);
  return allows.length === 0 ? [] : [...denies, ...(everywhere ? [everywhere] : allows)];
}

function holds(rule: AccessRule, personId: PersonId, thing: RuleThing): boolean {
  const { place, field } = thing;
  if (rule.fields && field !== undefined && !rule.fields.includes(field)) return false;
  if (!place) return rule.nowhere && (!rule.own || thing.author === personId);
  if (rule.own && place.author !== personId) return false;
  if (rule.layouts && !rule.layouts.includes(place.layout)) return false;
  if (rule.states && !rule.states.includes(place.state)) return false;
  if (rule.page !== undefined && rule.page !== place.path.at(-1)) return false;
  return rule.branches.every((branch) => place.path.includes(branch));
}

/** Whether rules made by `rulesFor` allow it for a thing. */
export const rulesAllow = (rules: readonly AccessRule[], personId: PersonId, thing: RuleThing): boolean =>
  rules.find((rule) => holds(rule, personId, thing))?.effect === 'allow';
