import { z } from 'zod';
import {
  bundlePath,
  bundlePeople,
  bundlePeopleSchema,
  checkPeopleAndPages,
  closure,
  instantSchema,
  isInForce,
  type PolicyPerson,
} from '../access';
import { documentFaults, faultsOf, inPlainWords, type Fault } from '../json';
import { isTimeZone, weekdayOf } from '../words';
import { namesIn, type Spot } from '../rules';
import type { ToolWorld } from './resolve';
import { toolRuleSchema, toolSetSchema } from './schema';

/** As many roles as all there are reach together, each with those it extends. */
const MOST_REACHED = 1_000_000;

const id = z.string().min(1);
const ids = z.array(id);

/**
 * Everything toolbars are resolved by, as one open document. `profiles` are the tool sets. Layouts, fields, states and
 * tools are any words.
 */
const toolBundleSchema = z.strictObject({
  roles: z.array(z.strictObject({ id, extends: ids })),
  people: bundlePeopleSchema,
  pages: z.array(z.strictObject({ id, parent: id.nullable(), layout: id, state: id })),
  layouts: z.array(z.strictObject({ id, fields: ids })),
  tools: ids,
  profiles: z.array(toolSetSchema),
  rules: z.array(toolRuleSchema),
  /** Whose days of the week count, by its IANA name; UTC where none is said. */
  timeZone: z.string().refine(isTimeZone, 'is no time zone').optional(),
});
export type ToolBundle = z.infer<typeof toolBundleSchema>;

const toolQuestionSchema = z.strictObject({ person: id, page: id, field: id, at: instantSchema });

/** A bundle that was read: what toolbars are resolved by, who there is, and where. */
export interface OpenedTools {
  ok: true;
  world: ToolWorld;
  people: ReadonlyMap<string, PolicyPerson>;
  pages: ReadonlyMap<string, ToolBundle['pages'][number]>;
  fields: ReadonlySet<string>;
  timeZone: string;
}

/** Reads a bundle: every fault in it with its path, or what it stands for. */
export function openToolBundle(value: unknown): OpenedTools | { ok: false; faults: Fault[] } {
  const parsed = toolBundleSchema.safeParse(value, { error: inPlainWords });
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const { roles, people, pages, layouts, tools, profiles, rules, timeZone = 'UTC' } = parsed.data;
  const found = documentFaults();
  const { faults, fault, index, known, once, inCircle } = found;
  const roleAt = index(roles, ['roles']);
  index(people, ['people']);
  const pageAt = index(pages, ['pages']);
  const layoutAt = index(layouts, ['layouts']);
  const setAt = index(profiles, ['profiles']);
  index(rules, ['rules']);
  once(tools, ['tools']);
  const toolIds = new Set(tools);
  const fields = new Set(layouts.flatMap((layout) => layout.fields));
  const all = (
    map: { has: (id: string) => boolean },
    what: string,
    list: readonly string[] | undefined,
    path: PropertyKey[],
  ) => {
    list?.forEach((one, i) => known(map, what, one, [...path, i]));
    once(list ?? [], path);
  };
  roles.forEach((role, i) => all(roleAt, 'role', role.extends, ['roles', i, 'extends']));
  checkPeopleAndPages(found, { people, pages }, roleAt, pageAt);
  pages.forEach((page, i) => known(layoutAt, 'layout', page.layout, ['pages', i, 'layout']));
  layouts.forEach((layout, i) => once(layout.fields, ['layouts', i, 'fields']));
  profiles.forEach((set, i) => {
    known(setAt, 'profile', set.base, ['profiles', i, 'base']);
    all(toolIds, 'tool', set.add, ['profiles', i, 'add']);
    all(toolIds, 'tool', set.take, ['profiles', i, 'take']);
  });
  profiles.forEach((set, i) =>
    set.take.forEach((tool, k) => {
      if (set.add.includes(tool)) fault(['profiles', i, 'take', k], `"${tool}" is added by the same profile`);
    }),
  );
  pages
    .flatMap((page, i) => (page.parent === null ? [i] : []))
    .slice(1)
    .forEach((i) => fault(['pages', i, 'parent'], 'there is a first page already'));
  rules.forEach(({ when, then }, i) => {
    for (const [what, said] of Object.entries(when))
      if (Array.isArray(said)) {
        if (said.length === 0) fault(['rules', i, 'when', what], 'names nothing, so the rule would never hold');
        once(said, ['rules', i, 'when', what]);
      }
    when.roles?.forEach((role, k) => known(roleAt, 'role', role, ['rules', i, 'when', 'roles', k]));
    for (const { kind, id, at } of namesIn(when))
      if (kind !== 'state')
        known({ page: pageAt, layout: layoutAt, field: fields }[kind], kind, id, ['rules', i, 'when', ...at]);
    known(setAt, 'profile', then.use, ['rules', i, 'then', 'use']);
    for (const what of ['add', 'take', 'cap'] as const) all(toolIds, 'tool', then[what], ['rules', i, 'then', what]);
  });
  inCircle(
    roles,
    (role) => role.extends,
    (role, i) => fault(['roles', i, 'extends'], `role "${role}" extends itself in a circle`),
  );
  inCircle(
    profiles,
    (set) => [set.base ?? []].flat(),
    (set, i) => fault(['profiles', i, 'base'], `profile "${set}" is its own base in a circle`),
  );
  if (faults.length > 0) return { ok: false, faults };
  const roleMap = new Map(roles.map((role) => [role.id, role]));
  const byId = new Map(pages.map((page) => [page.id, page]));
  const extended = new Map<string, ReadonlySet<string>>();
  let reached = 0;
  for (const role of roleMap.keys()) {
    const all = new Set(closure({ roles: roleMap }, role).map((one) => one.role.id));
    reached += all.size;
    if (reached > MOST_REACHED) {
      fault(['roles', roleAt.get(role) ?? 0, 'extends'], 'too many roles extend too many others');
      return { ok: false, faults };
    }
    extended.set(role, all);
  }
  return {
    ok: true,
    world: { tools, sets: new Map(profiles.map((set) => [set.id, set])), rules, extended },
    people: bundlePeople(people),
    pages: byId,
    fields,
    timeZone,
  };
}

/**
 * The roles that count for somebody on a page at an instant: assignments in force whose branch, if any, holds it; none
 * of somebody suspended.
 */
export const rolesThatCount = (person: PolicyPerson, path: readonly string[], atMs: number): string[] =>
  person.suspended
    ? []
    : [
        ...new Set(
          person.assignments
            .filter((a) => isInForce(a, atMs) && (a.branch === undefined || path.includes(a.branch)))
            .map((a) => a.role),
        ),
      ];

/** Reads one question about an opened bundle: the roles that count, and the spot. */
export function readToolQuestion(
  bundle: OpenedTools,
  value: unknown,
): { ok: true; question: { roles: string[]; spot: Spot } } | { ok: false; faults: Fault[] } {
  const parsed = toolQuestionSchema.safeParse(value, { error: inPlainWords });
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const { person, page, field, at } = parsed.data;
  const { faults, known } = documentFaults();
  known(bundle.people, 'person', person, ['person']);
  known(bundle.pages, 'page', page, ['page']);
  known(bundle.fields, 'field', field, ['field']);
  const who = bundle.people.get(person);
  const there = bundle.pages.get(page);
  if (faults.length > 0 || !who || !there) return { ok: false, faults };
  const path = bundlePath(bundle.pages, page);
  const { layout, state } = there;
  return {
    ok: true,
    question: {
      roles: rolesThatCount(who, path, Date.parse(at)),
      spot: { path, layout, state, field, day: weekdayOf(new Date(at), bundle.timeZone) },
    },
  };
}
