import { decide } from './decide';
import { rulesAllow, rulesFor } from './rules';
import {
  VISIT,
  type Audience,
  type PageId,
  type PageState,
  type PersonId,
  type Place,
  type Policy,
  type PolicyPerson,
} from './types';

/** All that can be asked about: every permission, and where in the page tree something can lie. */
export interface World {
  permissions: readonly { id: string; placed: boolean }[];
  /** The page all others lie below. */
  root: PageId;
  /** Ids from the root of the tree down to a page; undefined for one that is not there. */
  pathOf: (id: PageId) => readonly PageId[] | undefined;
}

/** Somebody under a policy. */
export interface Stand {
  policy: Policy;
  person: PolicyPerson;
}

/** Something one may do and the other may not: a permission, where (nowhere when left out), and from which instant. */
export interface Beyond {
  permission: string;
  place: Place | undefined;
  /** The field that may be changed, where not all may. */ field?: string;
  atMs: number;
}

const OTHER = ' other';
const ANY_STATE: readonly PageState[] = ['published'];
const instantsOf = (people: readonly PolicyPerson[]) =>
  people.flatMap((p) => p.assignments.flatMap((a) => [a.fromMs, a.untilMs])).filter((ms) => ms !== undefined);

/**
 * The first thing somebody may do at an instant that none of some others may; undefined when there is none. This is
 * what "no more than you" means: over all permissions, all places there are or could be (on every branch a rule names,
 * with every layout, state and field it names and one it does not), everybody's work, and visiting pages that are for
 * some only. Whether somebody is suspended does not count for them, since they may be let work again; for the others it
 * does. Roles held apart and the two-person rule do not count either: they take away, and are no gain.
 */
export function findBeyondAt(world: World, theirs: Stand, others: readonly Stand[], atMs: number): Beyond | undefined {
  const stands = [{ ...theirs, policy: awake(theirs), person: { ...theirs.person, suspended: false } }, ...others];
  for (const { id: permission, placed } of world.permissions) {
    const [their = [], ...mine] = stands.map((stand) => rulesFor(stand.policy, stand.person.id, permission, atMs));
    if (their.length === 0) continue;
    const rules = [their, ...mine].flat();
    const authors: (PersonId | null)[] = rules.some((rule) => rule.own)
      ? [theirs.person.id, ...others.map((o) => o.person.id), null]
      : [null];
    const goesBeyond = (thing: { place?: Place; author?: PersonId | undefined; field?: string | undefined }) =>
      rulesAllow(their, theirs.person.id, thing) &&
      !mine.some((list, i) => rulesAllow(list, others[i]?.person.id ?? '', thing));
    const beyond = (place?: Place, field?: string): Beyond => ({
      permission,
      place,
      ...(field !== undefined && field !== OTHER && { field }),
      atMs,
    });
    // One that may change any field may change one no rule names, too.
    const fields = rules.some((rule) => rule.fields)
      ? [OTHER, ...new Set(rules.flatMap((rule) => rule.fields ?? []))]
      : [undefined];
    for (const author of authors)
      for (const field of fields)
        if (goesBeyond({ author: author ?? undefined, field })) return beyond(undefined, field);
    if (!placed) continue;
    const layouts = [OTHER, ...new Set(rules.flatMap((rule) => rule.layouts ?? []))];
    const states = rules.some((rule) => rule.states) ? (['draft', 'waiting', 'published', 'down'] as const) : ANY_STATE;
    const named = pathsNamed(
      world,
      rules.flatMap((rule) => rule.branches),
    );
    // A rule for a page alone ends below it.
    const paths = rules.some((rule) => rule.page !== undefined)
      ? [...named, ...named.map((path) => [...path, OTHER])]
      : named;
    for (const path of paths)
      for (const layout of layouts)
        for (const state of states)
          for (const author of authors) {
            const place: Place = { path, layout, state, author };
            for (const field of fields) if (goesBeyond({ place, field })) return beyond(place, field);
          }
  }
  return findVisitBeyond(world, stands as [Stand, ...Stand[]], atMs);
}

/** Pages only some may visit: for members, and for every role there is. */
function findVisitBeyond(world: World, [theirs, ...others]: [Stand, ...Stand[]], atMs: number): Beyond | undefined {
  const stands = [theirs, ...others];
  const audiences: Audience[] = [
    { kind: 'members' },
    ...[...new Set(stands.flatMap((stand) => [...stand.policy.roles.keys()]))].map((role): Audience => ({
      kind: 'roles',
      roles: [role],
    })),
  ];
  const branches = stands.flatMap(({ person }) => person.assignments.flatMap((a) => a.branch ?? []));
  for (const path of pathsNamed(world, branches))
    for (const audience of audiences) {
      const place: Place = { path, layout: OTHER, state: 'published', author: null, audience };
      const may = ({ policy, person }: Stand) =>
        decide(policy, { person: person.id, permission: VISIT, place, atMs }).allowed;
      if (may(theirs) && !others.some(may)) return { permission: VISIT, place, atMs };
    }
  return undefined;
}

/** A place on each branch that is named, and one that lies on none of them. */
const pathsNamed = (world: World, branches: readonly PageId[]): (readonly PageId[])[] => [
  [world.root],
  ...[...new Set(branches)].map((id) => world.pathOf(id) ?? [world.root, id]),
];

/** The policy with the person in it as they are given, working. */
const awake = ({ policy, person }: Stand): Policy => ({
  ...policy,
  people: new Map(policy.people).set(person.id, { ...person, suspended: false }),
});

/** `findBeyondAt` at an instant and at every later one at which what anybody of them may do can change. */
export function findBeyond(world: World, theirs: Stand, others: readonly Stand[], fromMs: number): Beyond | undefined {
  const instants = [
    ...new Set([fromMs, ...instantsOf([theirs, ...others].map((stand) => stand.person)).filter((ms) => ms > fromMs)]),
  ].sort((a, b) => a - b);
  for (const atMs of instants) {
    const beyond = findBeyondAt(world, theirs, others, atMs);
    if (beyond) return beyond;
  }
  return undefined;
}
