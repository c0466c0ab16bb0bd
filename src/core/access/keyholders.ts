import type { PolicyPerson, RoleId } from './types';

/** A stretch of time, its end exclusive and left out when it never ends. Milliseconds since 1970 UTC. */
export interface Gap { fromMs: number; untilMs?: number }

/**
 * The first stretch from an instant on in which nobody active holds a role on the whole site; undefined when
 * there is none. One pass over the assignments by their beginning: what is covered reaches ever further.
 */
export function firstGap(people: readonly Pick<PolicyPerson, 'suspended' | 'assignments'>[], role: RoleId, nowMs: number): Gap | undefined {
  const held = people
    .filter((person) => !person.suspended)
    .flatMap((person) => person.assignments.filter((a) => a.role === role && a.branch === undefined))
    .map((a) => ({ from: a.fromMs ?? -Infinity, until: a.untilMs ?? Infinity }))
    .filter(({ from, until }) => until > nowMs && until > from)
    .sort((a, b) => a.from - b.from);
  let covered = nowMs;
  for (const { from, until } of held) {
    if (from > covered) return { fromMs: covered, untilMs: from };
    covered = Math.max(covered, until);
  }
  return covered === Infinity ? undefined : { fromMs: covered };
}
