import { z } from 'zod';
import type { RuleCondition, Named, PlaceNames } from '../condition';
import type { Spot } from '../spot';

/** A condition that names some of a kind, any of which may be the spot's. `said`: how a sentence has them. */
export const anyOf = (
  kind: Exclude<Named, 'page'>,
  said: (names: readonly string[]) => string,
  asks: Pick<RuleCondition<string[]>['asks'], 'label' | 'any' | 'rare'>,
  samples: RuleCondition<string[]>['samples'],
): RuleCondition<string[]> => ({
  part: kind,
  schema: z.array(z.string().min(1)),
  holds: (list, spot) => list.includes(spot[kind]),
  rank: () => 1,
  strength: () => true,
  canonical: (list) => [...new Set(list)].sort(),
  words: (list, names: PlaceNames) => said(list.map(names[kind])),
  names: (list) => list.map((id, i) => ({ kind, id, at: [i] })),
  keyOf: (all) => {
    const named = new Set(all.flat());
    return (spot: Spot) => (named.has(spot[kind]) ? spot[kind] : '');
  },
  asks: { ...asks, among: kind },
  samples,
});
