import { type PolicyPerson, type Place, type AccessRule, rulesFor } from '../access';
import type { Inventory } from '../inventory';
import { canonical } from '../json';
import { type Plan, policyOf } from '../plan';
import { toolbarsOf, screenRulesOf } from './concerns';

/** One thing somebody gains, loses, or finds otherwise, as a sentence. */
export interface Effect {
  kind: 'gain' | 'loss' | 'other';
  words: string;
}

/** Two plans, and whom and where their difference is told for. */
export interface ImpactInput {
  inventory: Inventory;
  before: Plan;
  after: Plan;
  person: PolicyPerson;
  /** Every page of the site. */
  places: readonly Place[];
  pageName: (id: string) => string;
  nowMs: number;
}

/** The page something lies on, or is. */
export const idOf = (place: Place) => place.path.at(-1) ?? '';

/** More nobody would read. */
const MOST_NAMED = 4;

/** Some pages by name: all while they are few, else how many more. A whole branch is named by its top. */
export function pagesInWords(ids: ReadonlySet<string>, input: ImpactInput): string {
  if (ids.size === input.places.length) return 'on the whole website';
  // The pages above which nothing of the list lies, and whether all below them belongs to it.
  const tops = input.places.filter(
    (place) => ids.has(idOf(place)) && !place.path.slice(0, -1).some((id) => ids.has(id)),
  );
  const names = tops.slice(0, MOST_NAMED).map((top) => {
    const below = input.places.filter((place) => place !== top && place.path.includes(idOf(top)));
    const inside = below.filter((place) => ids.has(idOf(place))).length;
    const name = `“${input.pageName(idOf(top))}”`;
    return below.length === 0 || inside === 0
      ? name
      : inside === below.length
        ? `${name} and all below`
        : `${name} and ${inside} below`;
  });
  const more = tops.length - names.length;
  return `on ${names.join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}

/** What is in one set and not in another. */
export const minus = (a: ReadonlySet<string>, b: ReadonlySet<string>): Set<string> =>
  new Set([...a].filter((one) => !b.has(one)));

/** What came and what went of a list, each as a sentence. */
export function lists(
  out: Effect[],
  before: readonly string[],
  after: readonly string[],
  words: { gain: (id: string) => string; loss: (id: string) => string },
): void {
  for (const id of after) if (!before.includes(id)) out.push({ kind: 'gain', words: words.gain(id) });
  for (const id of before) if (!after.includes(id)) out.push({ kind: 'loss', words: words.loss(id) });
}

/** The rules of a permission before and after. */
export type BothRules = (permission: string) => readonly [was: readonly AccessRule[], is: readonly AccessRule[]];
export const bothRulesOf = ({ inventory, before, after, person, nowMs }: ImpactInput): BothRules => {
  const [was, is] = [policyOf(inventory, before, [person]), policyOf(inventory, after, [person])];
  const known = new Map<string, ReturnType<BothRules>>();
  return (permission) => {
    const rules = known.get(permission) ?? [
      rulesFor(was, person.id, permission, nowMs),
      rulesFor(is, person.id, permission, nowMs),
    ];
    known.set(permission, rules);
    return rules;
  };
};

/** What says the same of somebody before and after, wherever one looks. */
export interface Same {
  rules: (permission: string) => boolean;
  toolbars: boolean;
  screens: boolean;
}

export function sameOf({ before, after, person }: ImpactInput, both: BothRules): Same {
  const known = new Map<string, boolean>();
  return {
    rules(permission) {
      const [was, is] = both(permission);
      const isSame = known.get(permission) ?? canonical(was) === canonical(is);
      known.set(permission, isSame);
      return isSame;
    },
    toolbars: toolbarsOf(before, person) === toolbarsOf(after, person),
    screens: screenRulesOf(before, person) === screenRulesOf(after, person),
  };
}
export const isPossible = (rules: readonly AccessRule[]) => rules.some(({ effect }) => effect === 'allow');
