import { type z } from 'zod';
import { PAGE_STATES, STATE_WORDS } from '../../access';
import { freeId } from '../../ids';
import { scopeNames, type Inventory } from '../../inventory';
import { namesIn, readableWhenShape, type Named, type PlaceNames, type When } from '../../rules';
import { readableObject, unknownNames, type PartFault, type Telling } from './part';

/** What all parts share that are rules by place, whatever such a rule does. */
interface PlaceRule {
  id: string;
  when: When;
}

/** Where a rule holds, as much of it as can be read. */
export const readableWhen = readableObject(readableWhenShape);

/** How sentences about where a rule holds call things. */
export function placeNames(inventory: Inventory, { role, page }: Pick<Telling, 'role' | 'page'>): PlaceNames {
  const bare = (name: (id: string) => string) => (id: string) => name(id).slice(1, -1);
  const { layout, field } = scopeNames(inventory);
  return {
    role,
    page,
    layout: bare(layout),
    field: bare(field),
    // Of one thing: "in what is a draft".
    state: (id) => (id === 'draft' ? 'a draft' : (STATE_WORDS[id as keyof typeof STATE_WORDS] ?? id)),
  };
}

/** Whether a rule is one of a role's own. */
export const isOf = ({ when }: PlaceRule, role: string): boolean => when.roles?.includes(role) ?? false;

/** Whether it belongs to some roles; with null among them, what is for everybody does, too. */
export const isForAny = ({ when }: PlaceRule, ids: readonly (string | null)[]): boolean =>
  when.roles ? when.roles.some((id) => ids.includes(id)) : ids.includes(null);

/** The rules with what others say for some roles, in the order of those they come from; what they do not know behind. */
export function rulesTaking<R extends PlaceRule>(
  value: readonly R[],
  from: readonly R[],
  ids: readonly (string | null)[],
): R[] {
  const taken = from.filter((rule) => isForAny(rule, ids));
  const kept = value.filter((rule) => !isForAny(rule, ids) && !taken.some((one) => one.id === rule.id));
  return [
    ...from.flatMap((rule) => (taken.includes(rule) ? [rule] : kept.filter((one) => one.id === rule.id))),
    ...kept.filter((rule) => !from.some((one) => one.id === rule.id)),
  ];
}

/** The rules when a role is made as a copy of another: each of that role's own stands there for the copy as well. */
export const rulesCopied = <R extends PlaceRule>(rules: readonly R[], from: string, to: string): R[] =>
  rules.flatMap((rule) =>
    isOf(rule, from)
      ? [rule, { ...rule, id: freeId(rules, `${rule.id}-${to}`), when: { ...rule.when, roles: [to] } }]
      : [rule],
  );

/** The rules with every page they name called otherwise. */
export const rulesOnPages = <R extends { when: { branch?: string | undefined } }>(
  rules: readonly R[],
  call: (page: string) => string,
): R[] =>
  rules.map((rule) =>
    rule.when.branch === undefined ? rule : { ...rule, when: { ...rule.when, branch: call(rule.when.branch) } },
  );

/** Roles that rules are for and a plan has not. */
export const rolesGone = (
  rules: readonly PlaceRule[],
  roles: ReadonlyMap<string, unknown>,
  path: readonly (string | number)[] = [],
): PartFault[] =>
  rules.flatMap(({ when }, i) =>
    unknownNames(
      when.roles ?? [],
      (id) => roles.has(id),
      (k) => [...path, i, 'when', 'roles', k],
      (id) => `no role "${id}"`,
    ),
  );

/** Names that a back office has not, with their places. */
export const unknownAmong = (
  known: ReadonlySet<string>,
  what: string,
  names: readonly string[] | undefined,
  path: readonly (string | number)[],
): PartFault[] =>
  unknownNames(
    names ?? [],
    (id) => known.has(id),
    (i) => [...path, i],
    (id) => `the back office has no ${what} "${id}"`,
  );

/** What a rule says of where it holds, and is not there: layouts, fields (by whatever they are called), states, a page. */
export function unknownInWhen(
  when: z.infer<typeof readableWhen>,
  known: { layouts: ReadonlySet<string>; fields: ReadonlySet<string>; fieldsAre: string; pages: ReadonlySet<string> },
  path: readonly (string | number)[],
): PartFault[] {
  const there: Record<Named, { has: (id: string) => boolean; words: (id: string) => string }> = {
    layout: { has: (id) => known.layouts.has(id), words: (id) => `the back office has no layout "${id}"` },
    field: { has: (id) => known.fields.has(id), words: (id) => `the back office has no ${known.fieldsAre} "${id}"` },
    state: {
      has: (id) => PAGE_STATES.some((state) => state === id),
      words: (id) => `the back office has no state "${id}"`,
    },
    page: { has: (id) => known.pages.has(id), words: (id) => `there is no page "${id}"` },
  };
  return namesIn(when).flatMap(({ kind, id, at }) =>
    unknownNames([id], there[kind].has, () => [...path, ...at], there[kind].words),
  );
}
