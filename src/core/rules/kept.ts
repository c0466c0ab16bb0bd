import type { Spot } from './rules';
import type { When } from './when';

/**
 * What rules say of somebody with these roles on a spot, for rules that are asked often: what is answered once is kept
 * for every spot that no rule tells apart from it. `answer` goes by the rules alone.
 */
export function keptBySpot<A>(
  rules: readonly { when: When }[],
  answer: (roles: readonly string[], spot: Spot) => A,
): (roles: readonly string[], spot: Spot) => A {
  const named = (what: 'layouts' | 'fields' | 'states') => new Set(rules.flatMap(({ when }) => when[what] ?? []));
  const [layouts, fields, states] = [named('layouts'), named('fields'), named('states')];
  const branches = new Set(rules.flatMap(({ when }) => when.branch ?? []));
  // Paths with the same of those pages on them share what is known; each is looked through once.
  const byChain = new Map<string, Map<string, { is: A }>>();
  const byPath = new WeakMap<readonly string[], Map<string, { is: A }>>();
  const knownOn = (path: readonly string[]) => {
    let known = byPath.get(path);
    if (!known) {
      const chain = path.filter((page) => branches.has(page)).join('/');
      known = byChain.get(chain) ?? new Map<string, { is: A }>();
      byChain.set(chain, known);
      byPath.set(path, known);
    }
    return known;
  };
  return (roles, spot) => {
    const known = knownOn(spot.path);
    const who = roles.length === 1 ? (roles[0] ?? '') : roles.join(' ');
    const key = `${who}|${layouts.has(spot.layout) ? spot.layout : ''}|${fields.has(spot.field) ? spot.field : ''}|${states.has(spot.state) ? spot.state : ''}`;
    let found = known.get(key);
    if (!found) known.set(key, (found = { is: answer(roles, spot) }));
    return found.is;
  };
}
