import { decide, isInForce } from './decide';
import type { Policy, RoleId } from './types';

/** A stretch of time, its end exclusive and left out when it never ends. Milliseconds since 1970 UTC. */
export interface Gap {
  fromMs: number;
  untilMs?: number;
}

/**
 * The first stretch from an instant on in which nobody active holds a role on the whole site and may, by `decide`, do
 * all of some things; undefined when there is none. What anybody may do changes only where an assignment begins or
 * ends, so those instants are asked.
 */
export function firstLockOut(policy: Policy, role: RoleId, vital: readonly string[], nowMs: number): Gap | undefined {
  const people = [...policy.people.values()];
  const ends = people
    .flatMap((person) => person.assignments.flatMap((a) => [a.fromMs, a.untilMs]))
    .filter((ms) => ms !== undefined && ms > nowMs) as number[];
  const instants = [...new Set([nowMs, ...ends])].sort((a, b) => a - b);
  const holders = people.filter(
    (person) => !person.suspended && person.assignments.some((a) => a.role === role && a.branch === undefined),
  );
  const isHeld = (atMs: number) =>
    holders.some(
      (person) =>
        person.assignments.some((a) => a.role === role && a.branch === undefined && isInForce(a, atMs)) &&
        vital.every((permission) => decide(policy, { person: person.id, permission, atMs }).allowed),
    );
  const from = instants.findIndex((atMs) => !isHeld(atMs));
  if (from < 0) return undefined;
  const until = instants.slice(from).find(isHeld);
  return { fromMs: instants[from] ?? nowMs, ...(until !== undefined && { untilMs: until }) };
}
