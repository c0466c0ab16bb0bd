import { z } from 'zod';
import { freeId } from '../../ids';
import { fieldName, type Inventory } from '../../inventory';
import { canonical } from '../../json';
import { whenSchema, whereInWords, whoInWords, type When } from '../../rules';
import {
  arrangementSchema,
  editScreens,
  elementOptions,
  elementSchema,
  isArrangement,
  screenRuleSchema,
  type Aspect,
  type ElementSaid,
  type ScreenRule,
} from '../../screens';
import { sayList, sayWhole } from '../../words';
import {
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  type PlanPart,
  type PartFault,
  type RoleName,
  type WholePart,
} from './part';
import {
  isForAny,
  isOf,
  placeNames,
  readableWhen,
  rolesGone,
  rulesCopied,
  rulesOnPages,
  rulesTaking,
  unknownAmong,
  unknownInWhen,
} from './placeRules';

type Screens = ScreenRule[];
const schema = z.array(screenRuleSchema).max(2000);
const readable = readableMany(
  readableObject({ id: readableText, when: readableWhen, then: z.record(z.string(), z.unknown()).catch({}) }),
);
type Readable = z.infer<typeof readable>;

const said = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, one]) => one !== undefined)) as T;
const same = (a: unknown, b: unknown) => canonical(a ?? null) === canonical(b ?? null);
const placeSchema = whenSchema.omit({ roles: true, fields: true });

/** What an element of an edit screen is called: a field, or a panel by its control. */
export const elementName = (inventory: Inventory, id: string): string =>
  inventory.controls.get(id)?.name ??
  fieldName(inventory, id) ??
  editScreens(inventory)
    .flatMap(({ elements }) => elements)
    .find((element) => element.id === id)?.name ??
  id;
const quoted = (inventory: Inventory, ids: readonly string[]) =>
  sayList(ids.map((id) => `“${elementName(inventory, id)}”`));

/** The rule that says something of an element for one role alone in just this place, or arranges the screen there. */
export const ruleFor = (
  rules: readonly ScreenRule[],
  roleId: string,
  place: Omit<When, 'roles' | 'fields'>,
  element?: string,
): ScreenRule | undefined => {
  const when = said({ ...place, roles: [roleId], ...(element !== undefined && { fields: [element] }) });
  return rules.find((rule) => same(said(rule.when), when));
};

/** What must be filled in on some screen the rule is about, and would be hidden or could not be any more. */
const buried = (inventory: Inventory, { when, then }: ScreenRule): string[] => {
  if (isArrangement(then) || (then.show !== 'hidden' && then.lock === undefined)) return [];
  const forms = editScreens(inventory).filter(({ layout }) => !when.layouts || when.layouts.includes(layout.id));
  return (when.fields ?? []).filter((id) =>
    forms.some(({ elements }) =>
      elements.some(
        (e) => e.id === id && ((e.needed && then.show === 'hidden') || (!e.lockable && then.lock !== undefined)),
      ),
    ),
  );
};

const ASPECTS: Record<Aspect, (value: never, called: (option: string) => string) => string> = {
  show: (value: 'shown' | 'closed' | 'hidden') =>
    ({ shown: 'is open at first', closed: 'is closed at first', hidden: 'is hidden' })[value],
  label: (value: string) => `is called “${value}”`,
  hint: (value: string) => `has the hint “${value}”`,
  lock: (value: string) => `is locked: “${value}”`,
  value: (value: string | number | boolean, called) =>
    `begins with ${typeof value === 'boolean' ? (value ? 'yes' : 'no') : `“${called(String(value))}”`}`,
  required: () => 'must be filled in',
  choices: (value: string[], called) => `offers only ${sayList(value.map((option) => `“${called(option)}”`))}`,
};
const saidOf = (inventory: Inventory, elements: readonly string[], then: ElementSaid): string[] => {
  const options = editScreens(inventory).flatMap((form) =>
    form.elements.flatMap(({ id, field }) => (elements.includes(id) ? elementOptions(inventory, field) : [])),
  );
  const called = (option: string) => options.find(({ id }) => id === option)?.name ?? option;
  return (Object.keys(ASPECTS) as Aspect[]).flatMap((aspect) =>
    then[aspect] === undefined ? [] : [ASPECTS[aspect](then[aspect] as never, called)],
  );
};

/** A rule of edit screens as a sentence: where it holds, and what is so there. */
export function screenRuleInWords(
  inventory: Inventory,
  { when, then }: ScreenRule,
  names: { role: RoleName; page: (id: string) => string },
): string {
  const { fields, ...where } = when;
  const place = `${whereInWords(where, placeNames(inventory, names))}, for ${whoInWords(when, names)}`;
  return isArrangement(then)
    ? `${place}: the edit screen stands in an order of its own.`
    : sayWhole(`${place}: ${quoted(inventory, fields ?? [])} ${sayList(saidOf(inventory, fields ?? [], then))}`);
}

const on = operationsOn<Screens>();
/** The rules with one put in its place, behind all others when it is new; without it where it says nothing any more. */
function put(value: Screens, old: ScreenRule | undefined, next: ScreenRule | null): Screens | 'already-so' {
  if (!next) return old ? value.filter((rule) => rule !== old) : 'already-so';
  if (!old) return [...value, next];
  return same(old, next) ? 'already-so' : value.map((rule) => (rule === old ? next : rule));
}

/** What is on edit screens, for whom and where: rules as those of toolbars, resolved alike. */
export const screens = {
  schema,
  empty: [] as Screens,
  operations: [
    on(
      'set-element',
      { role, element: z.string(), place: placeSchema, said: elementSchema.nullable() },
      {
        apply({ inventory }, value, { role: of, element, place, said: asked }) {
          if (!editScreens(inventory).some(({ elements }) => elements.some(({ id }) => id === element)))
            return 'no-such-thing';
          const old = ruleFor(value, of, place, element);
          const then = said(asked ?? {});
          const next: ScreenRule | null =
            Object.keys(then).length === 0
              ? null
              : {
                  id: old?.id ?? freeId(value, `${of}-${element.replaceAll(/[^a-zA-Z0-9]/g, '-')}`),
                  when: said({ ...place, roles: [of], fields: [element] }),
                  then,
                };
          return next && buried(inventory, next).length > 0 ? 'needed-stays' : put(value, old, next);
        },
        say: (inventory, op) => {
          const name = quoted(inventory, [op.element]);
          const told = saidOf(inventory, [op.element], op.said ?? {});
          return told.length ? `Edit screen: ${name} ${sayList(told)}` : `Edit screen: ${name} as it is by itself`;
        },
      },
    ),
    on(
      'arrange-screen',
      { role, place: placeSchema, arrangement: arrangementSchema.nullable() },
      {
        apply(_, value, { role: of, place, arrangement }) {
          const old = ruleFor(value, of, place);
          return put(
            value,
            old,
            arrangement && {
              id: old?.id ?? freeId(value, `${of}-order`),
              when: said({ ...place, roles: [of] }),
              then: arrangement,
            },
          );
        },
        say: (_, op) => (op.arrangement ? 'Edit screen in another order' : 'Edit screen in its own order again'),
      },
    ),
    on(
      'remove-screen-rule',
      { role, rule: z.string() },
      {
        apply(_, value, op) {
          const rest = value.filter(({ id }) => id !== op.rule);
          return rest.length === value.length ? 'no-such-thing' : rest;
        },
        say: () => 'Do away with a rule for edit screens',
      },
    ),
  ],
  canonical: (_, value) => value.map((rule) => ({ ...rule, when: said(rule.when), then: said(rule.then) })),
  differences({ inventory, of, role: roleName, page }, before, after) {
    const isTheirs = (rule: ScreenRule) => isForAny(rule, [of]);
    const tell = (rule: ScreenRule) => screenRuleInWords(inventory, rule, { role: roleName, page });
    const [was, is] = [before.filter(isTheirs), after.filter(isTheirs)];
    const lines: string[] = [];
    for (const old of was) {
      const now = is.find(({ id }) => id === old.id);
      if (!now) lines.push(`No longer on edit screens: ${tell(old)}`);
      else if (!same(old, now)) {
        const [one, two] = [tell(old), tell(now)];
        lines.push(`On edit screens: ${two}`, `Before: ${one}`);
      }
    }
    for (const now of is) if (!was.some(({ id }) => id === now.id)) lines.push(`On edit screens: ${tell(now)}`);
    const ids = (list: Screens, other: Screens) =>
      list.filter(({ id }) => other.some((one) => one.id === id)).map(({ id }) => id);
    if (lines.length === 0 && !same(ids(was, is), ids(is, was)))
      lines.push('Rules for edit screens stand in another order.');
    if (of === null && lines.length === 0 && !same(ids(before, after), ids(after, before)))
      lines.push('Rules for edit screens stand in another order.');
    return lines;
  },
  taking: rulesTaking,
  entries: {
    of: (value) => new Map<string, unknown>(value.map((rule) => [rule.id, rule])),
    from: (entries) => [...entries.values()] as Screens,
  },
  copyRole: rulesCopied,
  rowsOf: {
    name: 'Edit screens',
    of: (inventory, value, roleId, { role: roleName, page }) => [
      [
        'Prepared',
        value
          .filter((rule) => isOf(rule, roleId))
          .map((rule) =>
            screenRuleInWords(
              inventory,
              { ...rule, when: { ...rule.when, roles: undefined } },
              { role: roleName, page },
            ),
          )
          .join(' '),
      ],
    ],
  },
  cross(value, roles) {
    return [
      ...rolesGone(value, roles),
      ...value.flatMap(({ when, then }, i): PartFault[] =>
        isArrangement(then) === (when.fields === undefined)
          ? []
          : [
              {
                path: [i, 'when', 'fields'],
                message: 'names what the rule is about; an order is about the whole screen',
              },
            ],
      ),
    ];
  },
  readable,
  twice: (value) => value.map(({ id }) => id),
  unknown(inventory, value, pages) {
    const forms = editScreens(inventory);
    const elements = new Set(forms.flatMap((form) => form.elements.map(({ id }) => id)));
    const known = {
      layouts: new Set(forms.map(({ layout }) => layout.id)),
      fields: elements,
      fieldsAre: 'field or panel',
      pages,
    };
    return value.flatMap(({ when, then }, i): PartFault[] => {
      const parsed = screenRuleSchema.safeParse({ id: 'x', when: said(when), then });
      const lists = (['main', 'side'] as const).map((key) => [key, then[key]] as const);
      return [
        ...unknownInWhen(when, known, [i, 'when']),
        ...lists.flatMap(([key, list]) =>
          Array.isArray(list) ? unknownAmong(elements, known.fieldsAre, list.map(String), [i, 'then', key]) : [],
        ),
        ...(parsed.success
          ? buried(inventory, parsed.data).map((id) => ({
              path: [i, 'then'],
              message: `"${id}" must be filled in, so it can be neither hidden nor, but for a title, locked`,
            }))
          : []),
      ];
    });
  },
  withPages: <V extends Screens | Readable>(value: V, call: (page: string) => string): V =>
    rulesOnPages<V[number]>(value, call) as V,
} satisfies PlanPart<Screens, Readable> & WholePart<Screens>;
