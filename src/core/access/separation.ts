import { closure } from './decide';
import type { Apart, PolicyPerson, PolicyRole } from './types';

/**
 * The pairs of roles kept apart that somebody holds both of, at whatever dates, directly or through roles that
 * extend them: static separation of duty over authorized roles (INCITS 359-2012, 5.3; value from memory).
 */
export function heldTogether(
  policy: { roles: ReadonlyMap<string, Pick<PolicyRole, 'id' | 'extends'>> },
  apart: readonly Apart[],
  person: Pick<PolicyPerson, 'assignments'>,
): Apart[] {
  const held = new Set(person.assignments.flatMap((a) => closure(policy, a.role).map(({ role }) => role.id)));
  return apart.filter(([a, b]) => held.has(a) && held.has(b));
}
