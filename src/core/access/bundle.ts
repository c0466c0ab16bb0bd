import { z } from 'zod';
import { documentFaults, faultsOf, inPlainWords, type Fault } from '../json';
import { PERMISSION_PATTERN, fieldsFit, openScopeSchema } from './schema';
import { heldTogether } from './separation';
import type { Decision, Grant, PageState, Place, Policy, PolicyPerson, PolicyRole, Question, Way } from './types';

const id = z.string().min(1);
/** RFC 3339, with seconds and offset. */
export const instantSchema = z.iso
  .datetime({ offset: true, abort: true, error: 'not an instant like 2026-11-25T09:00:00Z (RFC 3339)' })
  .refine(
    (text) => /:\d\d:\d\d/.test(text) && Number.isFinite(Date.parse(text)),
    'not an instant like 2026-11-25T09:00:00Z (RFC 3339)',
  );

const grant = z
  .strictObject({
    effect: z.enum(['allow', 'deny']),
    permission: z.string().regex(PERMISSION_PATTERN, 'object.verb, object.* or *'),
    scope: openScopeSchema,
  })
  .refine(...fieldsFit);

/** Who holds what, as every bundle writes it. */
export const bundlePeopleSchema = z.array(
  z.strictObject({
    id,
    suspended: z.boolean().optional(),
    assignments: z.array(
      z.strictObject({
        role: id,
        branch: id.optional(),
        from: instantSchema.optional(),
        until: instantSchema.optional(),
      }),
    ),
  }),
);

const toMs = (text: string | undefined) => (text === undefined ? undefined : Date.parse(text));

/** The people of a bundle, by id. */
export const bundlePeople = (people: z.infer<typeof bundlePeopleSchema>): Map<string, PolicyPerson> =>
  new Map(
    people.map(({ id: person, suspended, assignments }) => [
      person,
      {
        id: person,
        name: person,
        suspended,
        assignments: assignments.map((a) => ({
          role: a.role,
          branch: a.branch,
          fromMs: toMs(a.from),
          untilMs: toMs(a.until),
        })),
      },
    ]),
  );

/** Ids from the root of the tree down to a page itself. */
export function bundlePath(pages: ReadonlyMap<string, { id: string; parent: string | null }>, page: string): string[] {
  const path: string[] = [];
  for (let up = pages.get(page); up; up = up.parent === null ? undefined : pages.get(up.parent)) path.push(up.id);
  return path.reverse();
}

/** Tells of whatever people and pages of a bundle name that is not there, or that runs in a circle. */
export function checkPeopleAndPages(
  { known, fault, inCircle }: ReturnType<typeof documentFaults>,
  {
    people,
    pages,
  }: { people: z.infer<typeof bundlePeopleSchema>; pages: readonly { id: string; parent: string | null }[] },
  roleAt: ReadonlyMap<string, number>,
  pageAt: ReadonlyMap<string, number>,
): void {
  people.forEach((person, i) =>
    person.assignments.forEach((a, k) => {
      known(roleAt, 'role', a.role, ['people', i, 'assignments', k, 'role']);
      known(pageAt, 'page', a.branch, ['people', i, 'assignments', k, 'branch']);
      if (a.from !== undefined && a.until !== undefined && Date.parse(a.until) <= Date.parse(a.from))
        fault(['people', i, 'assignments', k, 'until'], 'ends before it begins');
    }),
  );
  pages.forEach((page, i) => known(pageAt, 'page', page.parent, ['pages', i, 'parent']));
  inCircle(
    pages,
    (page) => [page.parent ?? []].flat(),
    (page, i) => fault(['pages', i, 'parent'], `page "${page}" lies below itself in a circle`),
  );
}

/** Everything access is decided by, as one open document. Layouts and states are any words; they only have to match. */
export const bundleSchema = z.strictObject({
  roles: z.array(z.strictObject({ id, name: z.string(), extends: z.array(id), grants: z.array(grant) })),
  people: bundlePeopleSchema,
  pages: z.array(z.strictObject({ id, parent: id.nullable(), layout: id, state: id, author: id })),
  apart: z.array(z.tuple([id, id])),
});
export type Bundle = z.infer<typeof bundleSchema>;

export const questionSchema = z.strictObject({
  person: id,
  permission: z
    .string()
    .regex(PERMISSION_PATTERN, 'object.verb')
    .refine((text) => !text.includes('*'), 'a question names one permission, without *'),
  page: id.optional(),
  thing: z.strictObject({ kind: id, author: id.optional() }).optional(),
  /** The field of the page that is to be changed. */
  field: id.optional(),
  at: instantSchema,
});

export const bundleJsonSchema = () => z.toJSONSchema(bundleSchema, { target: 'draft-2020-12' });

export type Opened =
  { ok: true; policy: Policy; pages: ReadonlyMap<string, Bundle['pages'][number]> } | { ok: false; faults: Fault[] };

/** Reads a bundle: every fault in it with its path, or the policy and the pages it stands for. */
export function openBundle(value: unknown): Opened {
  const parsed = bundleSchema.safeParse(value, { error: inPlainWords });
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const { roles, people, pages, apart } = parsed.data;
  const found = documentFaults();
  const { faults, fault, index, known, once, inCircle } = found;
  const roleAt = index(roles, ['roles']);
  const personAt = index(people, ['people']);
  const pageAt = index(pages, ['pages']);
  roles.forEach((role, i) => {
    role.extends.forEach((parent, k) => known(roleAt, 'role', parent, ['roles', i, 'extends', k]));
    once(role.extends, ['roles', i, 'extends']);
    role.grants.forEach((g, k) => known(pageAt, 'page', g.scope.branch, ['roles', i, 'grants', k, 'scope', 'branch']));
  });
  checkPeopleAndPages(found, { people, pages }, roleAt, pageAt);
  pages.forEach((page, i) => {
    known(personAt, 'person', page.author, ['pages', i, 'author']);
  });
  apart.forEach((pair, i) => {
    pair.forEach((one, k) => known(roleAt, 'role', one, ['apart', i, k]));
    if (pair[0] === pair[1]) fault(['apart', i], 'a role cannot be kept apart from itself');
  });
  once(
    apart.map((pair) => pair.toSorted()),
    ['apart'],
  );
  inCircle(
    roles,
    (role) => role.extends,
    (role, i) => fault(['roles', i, 'extends'], `role "${role}" extends itself in a circle`),
  );
  const policy: Policy = {
    roles: new Map(
      roles.map((role): [string, PolicyRole] => [
        role.id,
        {
          ...role,
          grants: role.grants.map((g, k): Grant => ({
            id: `${role.id}[${k}]`,
            ...g,
            scope: g.scope as Grant['scope'],
          })),
        },
      ]),
    ),
    people: bundlePeople(people),
    secondPerson: new Set(),
  };
  if (faults.length === 0)
    people.forEach((person, i) => {
      const held = policy.people.get(person.id);
      for (const [a, b] of held ? heldTogether(policy, apart, held) : [])
        fault(['people', i, 'assignments'], `"${person.id}" holds "${a}" and "${b}", which are kept apart`);
    });
  if (faults.length > 0) return { ok: false, faults };
  return { ok: true, policy, pages: new Map(pages.map((page) => [page.id, page])) };
}

export type AskedQuestion = { ok: true; question: Question } | { ok: false; faults: Fault[] };

/**
 * Reads one question about an opened bundle. A thing with a page lies there and has its own author; a page alone has
 * the page's.
 */
export function readQuestion(bundle: Extract<Opened, { ok: true }>, value: unknown): AskedQuestion {
  const parsed = questionSchema.safeParse(value);
  if (!parsed.success) return { ok: false, faults: faultsOf(parsed.error) };
  const { person, permission, page, thing, field, at } = parsed.data;
  const faults: Fault[] = [];
  if (!bundle.policy.people.has(person)) faults.push({ path: '$.person', message: `there is no person "${person}"` });
  if (thing?.author !== undefined && !bundle.policy.people.has(thing.author))
    faults.push({ path: '$.thing.author', message: `there is no person "${thing.author}"` });
  const there = page === undefined ? undefined : bundle.pages.get(page);
  if (page !== undefined && !there) faults.push({ path: '$.page', message: `there is no page "${page}"` });
  if (faults.length > 0) return { ok: false, faults };
  let place: Place | undefined;
  if (there) {
    place = {
      path: bundlePath(bundle.pages, there.id),
      layout: there.layout,
      state: there.state as PageState,
      author: thing ? (thing.author ?? null) : there.author,
    };
  }
  return {
    ok: true,
    question: {
      person,
      permission,
      ...(place && { place }),
      ...(thing?.author !== undefined && { author: thing.author }),
      ...(field !== undefined && { field }),
      atMs: Date.parse(at),
    },
  };
}

/** A decision as the open form writes it. */
export function answerOf(decision: Decision): {
  allowed: boolean;
  reason: string;
  decidedBy: object | null;
  because: object[];
} {
  const way = ({ grant: { effect, permission, scope }, assignment, roles }: Way) => ({
    effect,
    permission,
    scope,
    roles,
    assignment: {
      role: assignment.role,
      ...(assignment.branch !== undefined && { branch: assignment.branch }),
      ...(assignment.fromMs !== undefined && { from: new Date(assignment.fromMs).toISOString() }),
      ...(assignment.untilMs !== undefined && { until: new Date(assignment.untilMs).toISOString() }),
    },
  });
  return {
    allowed: decision.allowed,
    reason: decision.reason,
    decidedBy: decision.decidedBy && way(decision.decidedBy),
    because: decision.because.map(way),
  };
}
