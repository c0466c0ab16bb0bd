import { z } from 'zod';
import { planIdSchema } from '../../ids';
import { isHref } from '../../content';
import { canonical } from '../../json';
import { findScreen, type Inventory } from '../../inventory';
import {
  listDifferences,
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  unknownNames,
  wordsSchema,
  type PlanPart,
  type PartFault,
} from './part';

/** Where a shortcut leads: a task or a page by its id, a screen of this back office, or an address outside. */
const toSchema = z
  .string()
  .max(500)
  .refine(
    (to) => /^(task:.+|page:.+|\/room(\/|\?|$))/.test(to) || (isHref(to) && !to.startsWith('/') && !to.startsWith('#')),
    'begin with https://, mailto:, tel: or /room',
  );
const shortcutSchema = z.strictObject({ id: planIdSchema, name: wordsSchema(60), to: toSchema });
export type Shortcut = z.infer<typeof shortcutSchema>;

const schema = z.strictObject({
  /** Doors that stand together under a heading, behind those that stand in none. */
  groups: z.array(z.strictObject({ name: wordsSchema(40), doors: z.array(planIdSchema).max(40) })).max(12),
  shortcuts: z.array(shortcutSchema).max(20),
  /** A word on what is behind a door, by its section. */
  hints: z.record(planIdSchema, wordsSchema(120)),
  /** The section whose door is open after signing in; Today when left out. */
  first: planIdSchema.optional(),
});
export type Menu = z.infer<typeof schema>;
const readable = readableObject({
  groups: readableMany(readableObject({ name: readableText, doors: readableMany(readableText) })),
  shortcuts: readableMany(readableObject({ id: readableText, to: readableText })),
  hints: z.record(z.string(), z.unknown()).catch({}),
  first: readableText.optional(),
});
type Readable = z.infer<typeof readable>;

const sectionName = (inventory: Inventory, id: string) => inventory.sections.find((one) => one.id === id)?.name ?? id;
const on = operationsOn<Menu>();

/** How the menu stands beside its doors: groups, shortcuts, hints, and where one begins. */
export const menu = {
  schema,
  empty: { groups: [], shortcuts: [], hints: {} } as Menu,
  operations: [
    on(
      'set-menu',
      { role, menu: schema },
      {
        apply: (_, _value, op) => ({ ...op.menu, groups: op.menu.groups.filter(({ doors }) => doors.length > 0) }),
        say: () => 'Menu: groups, shortcuts, hints, first screen',
      },
    ),
  ],
  canonical: (_, value) => value,
  differences({ inventory }, before, after) {
    const lines: string[] = [];
    const told = ({ groups }: Menu) =>
      groups.map(({ name, doors }) => `“${name}” (${doors.map((id) => sectionName(inventory, id)).join(', ')})`);
    if (canonical(before.groups) !== canonical(after.groups))
      lines.push(
        after.groups.length === 0
          ? 'The doors of the menu stand in no groups.'
          : `Groups of the menu: ${told(after).join('; ')}.`,
      );
    const shortcut = (of: Menu) => (id: string) => of.shortcuts.find((one) => one.id === id)?.name ?? id;
    const ids = ({ shortcuts }: Menu) => shortcuts.map(({ id }) => id);
    lines.push(
      ...listDifferences(
        ids(before),
        ids(after),
        (id) => `New shortcut in the menu: “${shortcut(after)(id)}”.`,
        (id) => `No longer a shortcut in the menu: “${shortcut(before)(id)}”.`,
      ),
    );
    const both = after.shortcuts.filter(({ id }) => ids(before).includes(id));
    for (const now of both) {
      const old = before.shortcuts.find(({ id }) => id === now.id);
      if (canonical(old) !== canonical(now))
        lines.push(`The shortcut “${now.name}” leads elsewhere or is called otherwise.`);
    }
    const kept = (of: Menu, other: Menu) => ids(of).filter((id) => ids(other).includes(id));
    if (canonical(kept(before, after)) !== canonical(kept(after, before)))
      lines.push('Shortcuts of the menu stand in another order.');
    for (const id of new Set([...Object.keys(before.hints), ...Object.keys(after.hints)]))
      if (before.hints[id] !== after.hints[id])
        lines.push(
          after.hints[id] === undefined
            ? `The door “${sectionName(inventory, id)}” has no hint any more.`
            : `Hint of the door “${sectionName(inventory, id)}”: “${after.hints[id]}”.`,
        );
    if (before.first !== after.first)
      lines.push(
        `They begin with “${after.first === undefined ? 'Today' : sectionName(inventory, after.first)}” after signing in.`,
      );
    return lines;
  },
  rows: {
    name: 'Menu',
    of: (inventory, value) => [
      ['Begins with', value.first === undefined ? 'Today' : sectionName(inventory, value.first)],
      ['Groups', value.groups.map(({ name }) => name).join(', ')],
      ['Shortcuts', value.shortcuts.map(({ name }) => name).join(', ')],
    ],
  },
  readable,
  twice: ({ groups, shortcuts }) => [
    ...shortcuts.map(({ id }) => id),
    ...groups.flatMap(({ doors }) => doors.map((id) => id && `door ${id}`)),
  ],
  unknown(inventory, { groups, shortcuts, hints, first }, pages) {
    const isDoor = (id: string) => inventory.doors.some((section) => section.id === id);
    const door = (id: string) => `the back office has no door "${id}"`;
    return [
      ...groups.flatMap(({ doors }, i) => unknownNames(doors, isDoor, (k) => ['groups', i, 'doors', k], door)),
      ...unknownNames(Object.keys(hints), isDoor, () => ['hints'], door),
      ...unknownNames(first ? [first] : [], isDoor, () => ['first'], door),
      ...shortcuts.flatMap(({ to }, i): PartFault[] => {
        const fault = (message: string) => [{ path: ['shortcuts', i, 'to'], message }];
        const [kind, id = ''] = [to.slice(0, 5), to.slice(5)];
        if (kind === 'task:' && !inventory.tasks.has(id)) return fault(`the back office has no task "${id}"`);
        if (kind === 'page:' && !pages.has(id)) return fault(`there is no page "${id}"`);
        return to.startsWith('/room') && !findScreen(inventory, to.split(/[?#]/)[0] ?? '')
          ? fault(`the back office has no screen at "${to}"`)
          : [];
      }),
    ];
  },
  withPages: <V extends Menu | Readable>(value: V, call: (page: string) => string): V => ({
    ...value,
    shortcuts: value.shortcuts.map((one) =>
      one.to.startsWith('page:') ? { ...one, to: `page:${call(one.to.slice(5))}` } : one,
    ),
  }),
} satisfies PlanPart<Menu, Readable>;
