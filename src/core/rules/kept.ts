import type { Spot } from './spot';
import { keysOf, type When } from './when';

/**
 * What rules say of somebody with these roles on a spot, for rules that are asked often: what is answered once is kept
 * for every spot that no rule tells apart from it. `answer` goes by the rules alone.
 */
export function keptBySpot<A>(
  rules: readonly { when: When }[],
  answer: (roles: readonly string[], spot: Spot) => A,
): (roles: readonly string[], spot: Spot) => A {
  const key = keysOf(rules);
  // Paths with the same of those pages on them share what is known; each is looked through once.
  const byChain = new Map<string, Map<string, { is: A }>>();
  const byPath = new WeakMap<readonly string[], Map<string, { is: A }>>();
  const knownOn = (spot: Spot) => {
    let known = byPath.get(spot.path);
    if (!known) {
      const chain = key.path(spot);
      known = byChain.get(chain) ?? new Map<string, { is: A }>();
      byChain.set(chain, known);
      byPath.set(spot.path, known);
    }
    return known;
  };
  return (roles, spot) => {
    const known = knownOn(spot);
    const who = roles.length === 1 ? (roles[0] ?? '') : roles.join(' ');
    const asked = `${who}|${key.rest(spot)}`;
    let found = known.get(asked);
    if (!found) known.set(asked, (found = { is: answer(roles, spot) }));
    return found.is;
  };
}
