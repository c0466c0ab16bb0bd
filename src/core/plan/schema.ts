import { z } from 'zod';
import { apartSchema, fieldsFit, openGrantSchema } from '../access';
import { CHECKS } from '../content';

const id = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[a-z0-9][a-zA-Z0-9._-]*$/, 'letters, digits, dots and dashes only');
const words = (max: number) => z.string().trim().min(1, 'is empty').max(max, `has more than ${max} characters`);

export const grantSchema = openGrantSchema.extend({ id }).refine(...fieldsFit);

export const doorSchema = z.strictObject({
  section: id,
  state: z.enum(['open', 'look', 'away', 'closed']),
  /** The door's name in this room; the section's own name when left out. */
  name: words(60).optional(),
});

export const tickedTaskSchema = z.strictObject({
  task: id,
  /** In this site's words; the task's own name when left out. */
  name: words(100).optional(),
  /** Further words people use when they look for it. */
  said: z.array(words(60)).max(30).optional(),
});

export const stopWordsSchema = z.strictObject({ title: words(120).optional(), text: words(1200).optional() });

export const roleSchema = z.strictObject({
  id,
  name: words(80),
  purpose: z.string().trim().max(400),
  extends: z.array(id),
  grants: z.array(grantSchema),
  tasks: z.array(tickedTaskSchema),
  /** In the order shown; a section that is not named is closed. */
  doors: z.array(doorSchema),
  toolbar: z.strictObject({ tools: z.array(id), modes: z.array(z.enum(['visual', 'preview', 'code'])).min(1) }),
  /** Widget ids, one list a column. */
  dashboard: z.strictObject({ columns: z.array(z.array(id)).min(1).max(3) }),
  /** Task → stop → words of the administrator's own. */
  tours: z.record(z.string(), z.record(z.string(), stopWordsSchema)),
  /** Put away: nobody can be given it. */
  archived: z.literal(true).optional(),
});

export const KEYHOLDER = 'keyholder';
/** What somebody must be able to do at every instant: prepare rooms, step in, go live, and look after people. */
export const VITAL = ['plan.view', 'plan.edit', 'plan.release', 'person.view', 'person.manage'] as const;

const checkRule = z.enum(['block', 'advise', 'off']);
export type CheckRule = z.infer<typeof checkRule>;
/** How strict the site is before something goes out: whether a change note is asked for, and what each check does. */
export const publishingSchema = z.strictObject({
  noteRequired: z.boolean(),
  checks: z.record(z.enum(CHECKS.map((check) => check.id)), checkRule),
});
export type Publishing = z.infer<typeof publishingSchema>;

/** What holds while a plan says nothing of its own: what would be plainly wrong stops, the rest advises. */
const PUBLISHING: Publishing = {
  noteRequired: false,
  checks: {
    required: 'block',
    descriptions: 'advise',
    links: 'advise',
    empty: 'advise',
    headings: 'advise',
    sample: 'block',
    sentences: 'advise',
  },
};
export const publishingOf = (plan: Plan): Publishing => plan.publishing ?? PUBLISHING;

const text = z.string().catch('');
const many = <T extends z.ZodType>(one: T) => z.array(one).catch([]);
const part = <T extends z.ZodRawShape>(shape: T) => {
  const whole = z.object(shape);
  return whole.catch(() => whole.parse({}));
};
/** A plan as far as it can be read: what is of the wrong kind is empty in its place, so that all that is wrong can be told at once. */
export const readablePlanSchema = part({
  roles: many(
    part({
      id: text,
      name: text,
      extends: many(text),
      archived: z.literal(true).optional().catch(undefined),
      grants: many(
        part({
          id: text,
          effect: z.enum(['allow', 'deny']).catch('allow'),
          permission: text,
          scope: part({
            branch: z.string().optional().catch(undefined),
            layouts: z.array(z.string()).optional().catch(undefined),
            fields: z.array(z.string()).optional().catch(undefined),
            only: z.unknown().optional(),
            own: z.unknown().optional(),
            states: z.unknown().optional(),
          }),
        }),
      ),
      tasks: many(part({ task: text })),
      doors: many(part({ section: text })),
      toolbar: part({ tools: many(text) }),
      dashboard: part({ columns: many(many(text)) }),
    }),
  ),
  apart: many(z.tuple([text, text])),
});
export type ReadablePlan = z.infer<typeof readablePlanSchema>;

/** What is wrong with a plan though each of its parts is right by itself: what they name of one another, and what stands there twice. */
export function crossFaults(plan: ReadablePlan): { path: (string | number)[]; message: string }[] {
  const faults: { path: (string | number)[]; message: string }[] = [];
  const fault = (path: (string | number)[], message: string) => faults.push({ path, message });
  const roles = new Map(plan.roles.map((role, i) => [role.id, i]));
  if (roles.size !== plan.roles.length) fault(['roles'], 'two roles have the same id');
  const keyholder = plan.roles.find((role) => role.id === KEYHOLDER);
  if (
    !keyholder?.grants.some(
      (g) => g.effect === 'allow' && g.permission === '*' && Object.values(g.scope).every((said) => said === undefined),
    )
  )
    fault(['roles'], 'the keyholder role must be there and may do everything');
  if (keyholder && (keyholder.extends.length > 0 || keyholder.grants.some((g) => g.effect === 'deny')))
    fault(['roles'], 'the keyholder role can be forbidden nothing and builds on no other');
  if (keyholder?.archived) fault(['roles'], 'the keyholder role cannot be archived');
  plan.apart.forEach((pair, i) => {
    for (const one of pair) if (!roles.has(one)) fault(['apart', i], `no role "${one}"`);
    if (pair[0] === pair[1]) fault(['apart', i], 'a role cannot be kept apart from itself');
  });
  if (new Set(plan.apart.map((pair) => pair.toSorted().join(' '))).size !== plan.apart.length)
    fault(['apart'], 'a pair stands there twice');
  plan.roles.forEach((role, i) => {
    for (const parent of role.extends) {
      if (!roles.has(parent)) fault(['roles', i, 'extends'], `no role "${parent}"`);
      if (!role.archived && plan.roles[roles.get(parent) ?? -1]?.archived)
        fault(['roles', i, 'extends'], `role "${role.name}" builds on an archived one`);
    }
    const seen = new Set<string>();
    let layer = [...role.extends];
    while (layer.length) {
      if (layer.includes(role.id)) {
        fault(['roles', i, 'extends'], 'a role cannot extend itself, by whatever way');
        break;
      }
      layer = layer.filter((r) => !seen.has(r));
      layer.forEach((r) => seen.add(r));
      layer = layer.flatMap((r) => plan.roles[roles.get(r) ?? -1]?.extends ?? []);
    }
    const twice = (list: readonly string[], path: string) => {
      const named = list.filter(Boolean);
      if (new Set(named).size !== named.length) fault(['roles', i, path], 'an entry stands there twice');
    };
    twice(
      role.grants.map((g) => g.id),
      'grants',
    );
    twice(
      role.tasks.map((t) => t.task),
      'tasks',
    );
    twice(
      role.doors.map((d) => d.section),
      'doors',
    );
    twice(role.dashboard.columns.flat(), 'dashboard');
  });
  return faults;
}

/**
 * Everything the administrator has configured, as one versioned document. Published as JSON Schema 2020-12
 * by `planJsonSchema()`.
 */
export const planSchema = z
  .strictObject({
    format: z.literal('safe-room-plan/1'),
    roles: z.array(roleSchema).min(1),
    /** Pairs of roles nobody may hold together. */
    apart: apartSchema,
    /** As `publishingOf` says when left out. */
    publishing: publishingSchema.optional(),
  })
  .superRefine((plan, ctx) =>
    crossFaults(plan).forEach(({ path, message }) => ctx.addIssue({ code: 'custom', path, message })),
  );

export type Plan = z.infer<typeof planSchema>;
export type PlanRole = z.infer<typeof roleSchema>;
export type PlanDoor = z.infer<typeof doorSchema>;

export const planJsonSchema = () => z.toJSONSchema(planSchema, { target: 'draft-2020-12' });

/** Throws a RangeError naming the role when the plan has none of that id. */
export function getRole(plan: Plan, roleId: string): PlanRole {
  const role = plan.roles.find((r) => r.id === roleId);
  if (!role) throw new RangeError(`the plan has no role "${roleId}"`);
  return role;
}
