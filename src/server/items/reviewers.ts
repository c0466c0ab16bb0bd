import { decide, type PersonId, type Place } from '@/core/access';
import { policyOf } from '@/core/plan';
import { now } from '../clock';
import type { Access } from '../gate/access';
import type { Person } from '../people/people';

/** Of some people those who can give what some others wrote somewhere a second look, by the plan in force, now. */
export function reviewersOf<P extends Person>(
  access: Access,
  people: readonly P[],
  { place, writtenBy }: { place: Place | undefined; writtenBy: readonly PersonId[] },
): P[] {
  const policy = policyOf(access.inventory, access.plan, people);
  const atMs = now().getTime();
  return people.filter(
    ({ id }) => decide(policy, { person: id, permission: 'review.decide', place, writtenBy, atMs }).allowed,
  );
}
