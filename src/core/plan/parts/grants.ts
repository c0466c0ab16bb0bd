import { z } from 'zod';
import { planIdSchema } from '../../ids';
import { doingWithScope, fieldsFit, openGrantSchema } from '../../access';
import { fieldName, objectOf, scopeNames, type Inventory } from '../../inventory';
import { canonical } from '../../json';
import { operationsOn, readableMany, readableObject, readableText, role, type PlanPart, type PartFault } from './part';

export const grantSchema = openGrantSchema.extend({ id: planIdSchema }).refine(...fieldsFit);
const schema = z.array(grantSchema);
const readableGrant = readableObject({
  id: readableText,
  effect: z.enum(['allow', 'deny']).catch('allow'),
  permission: readableText,
  scope: readableObject({
    branch: z.string().optional().catch(undefined),
    layouts: z.array(z.string()).optional().catch(undefined),
    fields: z.array(z.string()).optional().catch(undefined),
    only: z.unknown().optional(),
    own: z.unknown().optional(),
    states: z.unknown().optional(),
  }),
});
const readable = readableMany(readableGrant);
export type PlanGrant = z.infer<typeof grantSchema>;
type Grants = PlanGrant[];

const sorted = <T extends string>(list: readonly T[]) => [...new Set(list)].sort();
/** What a grant says, whatever it is called and in whatever order its scope is written. */
const saying = ({ effect, permission, scope }: PlanGrant) =>
  canonical([
    effect,
    permission,
    {
      ...scope,
      ...(scope.layouts && { layouts: sorted(scope.layouts) }),
      ...(scope.states && { states: sorted(scope.states) }),
      ...(scope.fields && { fields: sorted(scope.fields) }),
    },
  ]);

function isKnown(inventory: Inventory, permission: string): boolean {
  if (permission === '*') return true;
  return permission.endsWith('.*')
    ? inventory.sectionOfObject.has(objectOf(permission))
    : inventory.permissions.has(permission as never);
}

/** A permission or pattern of permissions as a sentence has it: "change pages", "do everything with Pages". */
function permissionInWords(inventory: Inventory, permission: string): string {
  if (permission === '*') return 'do everything';
  const section = inventory.sectionOfObject.get(objectOf(permission));
  return permission.endsWith('.*')
    ? `do everything with ${inventory.sections.find((s) => s.id === section)?.name ?? permission}`
    : (inventory.permissions.get(permission as never)?.name ?? permission);
}

/** A grant as a sentence has it: "change pages, under Harbours". */
export const grantInWords = (inventory: Inventory, grant: PlanGrant, pageName: (id: string) => string): string =>
  doingWithScope(permissionInWords(inventory, grant.permission), grant.scope, pageName, scopeNames(inventory));

/** What one rule names that this website does not have. */
export function unknownInGrant(
  inventory: Inventory,
  { permission, scope }: Pick<z.infer<typeof readableGrant>, 'permission' | 'scope'>,
  pages: ReadonlySet<string>,
): PartFault[] {
  const faults: PartFault[] = [];
  const known = (is: boolean, path: PartFault['path'], message: string) => {
    if (!is) faults.push({ path, message });
  };
  known(
    permission === '' || isKnown(inventory, permission),
    ['permission'],
    `the back office knows no permission "${permission}"`,
  );
  known(
    scope.branch === undefined || pages.has(scope.branch),
    ['scope', 'branch'],
    `there is no page "${scope.branch}" on this website`,
  );
  scope.layouts?.forEach((layout, i) =>
    known(inventory.layouts.has(layout), ['scope', 'layouts', i], `there is no layout "${layout}"`),
  );
  scope.fields?.forEach((field, i) =>
    known(fieldName(inventory, field) !== undefined, ['scope', 'fields', i], `no page has a field "${field}"`),
  );
  return faults;
}

const briefly = (inventory: Inventory, { effect, permission }: PlanGrant) =>
  `${effect === 'allow' ? 'Allow' : 'Forbid'}: ${permissionInWords(inventory, permission)}`;
const on = operationsOn<Grants>();

/** What the role may and must not do. */
export const grants = {
  schema,
  empty: [] as Grants,
  operations: [
    on(
      'add-grant',
      { role, grant: grantSchema },
      {
        apply({ inventory, isKeyholder }, value, { grant }) {
          if (isKeyholder && grant.effect === 'deny') return 'keyholder-stays';
          if (!isKnown(inventory, grant.permission)) return 'no-such-thing';
          return value.some((one) => one.id === grant.id || saying(one) === saying(grant))
            ? 'already-so'
            : [...value, grant];
        },
        say: (inventory, op) => briefly(inventory, op.grant),
      },
    ),
    on(
      'change-grant',
      { role, grant: grantSchema },
      {
        apply({ inventory, isKeyholder }, value, { grant }) {
          const old = value.find((one) => one.id === grant.id);
          if (!old || !isKnown(inventory, grant.permission)) return 'no-such-thing';
          if (isKeyholder && (old.permission === '*' || grant.effect === 'deny')) return 'keyholder-stays';
          if (value.some((one) => saying(one) === saying(grant))) return 'already-so';
          return value.map((one) => (one === old ? grant : one));
        },
        say: (inventory, op) => `Change a rule. ${briefly(inventory, op.grant)}`,
      },
    ),
    on(
      'remove-grant',
      { role, grant: z.string() },
      {
        apply({ isKeyholder }, value, op) {
          const old = value.find((one) => one.id === op.grant);
          if (!old) return 'already-so';
          if (isKeyholder && old.permission === '*') return 'keyholder-stays';
          return value.filter((one) => one !== old);
        },
        say: () => 'Take a rule away',
      },
    ),
  ],
  // In whatever order they stand, and whatever they are called.
  canonical: (_, value) => sorted(value.map(saying)),
  differences({ inventory, page }, before, after) {
    const lacks = (list: Grants, grant: PlanGrant) => !list.some((one) => saying(one) === saying(grant));
    const once = (list: Grants) => [...new Map(list.map((grant) => [saying(grant), grant])).values()];
    return [
      ...once(after)
        .filter((grant) => lacks(before, grant))
        .map(
          (grant) =>
            `They ${grant.effect === 'allow' ? 'may now' : 'must no longer'} ${grantInWords(inventory, grant, page)}.`,
        ),
      ...once(before)
        .filter((grant) => lacks(after, grant))
        .map(
          (grant) =>
            `${grant.effect === 'allow' ? 'They may no longer' : 'No longer forbidden:'} ${grantInWords(inventory, grant, page)}.`,
        ),
    ];
  },
  readable,
  withPages: <G extends { scope: { branch?: string | undefined } }[]>(value: G, call: (page: string) => string): G =>
    value.map((grant) =>
      grant.scope.branch === undefined
        ? grant
        : { ...grant, scope: { ...grant.scope, branch: call(grant.scope.branch) } },
    ) as G,
  twice: (value) => value.map((grant) => grant.id),
  unknown: (inventory, value, pages) =>
    value.flatMap((grant, i) =>
      unknownInGrant(inventory, grant, pages).map(({ path, message }) => ({ path: [i, ...path], message })),
    ),
} satisfies PlanPart<Grants, z.infer<typeof readable>>;
