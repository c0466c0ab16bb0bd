import type { Policy, Question } from '@/core/access';

/**
 * Access decided the slowest and plainest way there is, for comparison: who holds what at the instant, every grant
 * of it, whether each part of the grant holds; a deny wins, then an allow, else no.
 */
export function referenceAllows(policy: Policy, q: Question): boolean {
  const person = policy.people.get(q.person ?? '');
  if (!person || person.suspended) return false;
  if (policy.secondPerson.has(q.permission) && q.person !== null && q.writtenBy?.includes(q.person)) return false;
  const lies = (branch: string | undefined) => branch === undefined || (q.place?.path.includes(branch) ?? false);
  const effects = new Set<string>();
  for (const { role: held, branch, fromMs, untilMs } of person.assignments) {
    if ((fromMs !== undefined && q.atMs < fromMs) || (untilMs !== undefined && q.atMs >= untilMs)) continue;
    if (q.place && !lies(branch)) continue;
    const door = policy.roles.get(held)?.doors?.get(q.permission.split('.')[0] ?? '');
    const roles = new Set([held]);
    for (const id of roles) for (const parent of policy.roles.get(id)?.extends ?? []) roles.add(parent);
    for (const id of roles)
      for (const { effect, permission, scope } of policy.roles.get(id)?.grants ?? []) {
        const [object] = q.permission.split('.');
        if (![q.permission, `${object}.*`, '*'].includes(permission)) continue;
        if (effect === 'allow' && (door === 'closed' || (door === 'look' && !q.permission.endsWith('.view')))) continue;
        if (!lies(scope.branch)) continue;
        if (scope.only && q.place?.path[q.place.path.length - 1] !== scope.branch) continue;
        if (scope.layouts && !scope.layouts.some((layout) => layout === q.place?.layout)) continue;
        if (scope.states && !scope.states.some((state) => state === q.place?.state)) continue;
        if (scope.fields && q.field !== undefined && !scope.fields.some((field) => field === q.field)) continue;
        if (scope.own && (q.place ? q.place.author : q.author) !== q.person) continue;
        effects.add(effect);
      }
  }
  return effects.has('allow') && !effects.has('deny');
}
