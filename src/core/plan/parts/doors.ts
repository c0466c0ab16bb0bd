import { z } from 'zod';
import { planIdSchema } from '../../ids';
import type { Inventory } from '../../inventory';
import {
  moved,
  nameSchema,
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  unknownNames,
  wordsSchema,
  type PlanPart,
} from './part';

const state = z.enum(['open', 'look', 'away', 'closed']);
const doorSchema = z.strictObject({
  section: planIdSchema,
  state,
  /** The door's name in this room; the section's own name when left out. */
  name: wordsSchema(60).optional(),
});
const schema = z.array(doorSchema);
const readable = readableMany(readableObject({ section: readableText }));
export type PlanDoor = z.infer<typeof doorSchema>;
type Doors = PlanDoor[];

const STATE = { open: 'open', look: 'look only', away: 'put away', closed: 'closed' };
const sectionName = (inventory: Inventory, id: string) => inventory.sections.find((s) => s.id === id)?.name ?? id;

/** All doors in order, with every section of the menu named: those left out are closed, at the end. */
export function allDoors(inventory: Inventory, planned: Doors): Doors {
  const named = planned.filter((door) => inventory.doors.some((section) => section.id === door.section));
  const rest = inventory.doors.filter((section) => !named.some((door) => door.section === section.id));
  return [...named, ...rest.map((section) => ({ section: section.id, state: 'closed' as const }))];
}

/** The doors that are closed in every role in force: as those of a section are that came with a newer version. */
export function doorsNobodyHas(
  inventory: Inventory,
  roles: readonly { archived?: boolean | undefined; doors: Doors }[],
): string[] {
  const had = new Set(
    roles
      .filter((role) => !role.archived)
      .flatMap((role) => role.doors.filter((door) => door.state !== 'closed').map((door) => door.section)),
  );
  return inventory.doors.map((section) => section.id).filter((id) => !had.has(id));
}

const isDoor = (inventory: Inventory, section: string) => inventory.doors.some((door) => door.id === section);
const on = operationsOn<Doors>();

/** The doors of the menu, in the order shown; a section that is not named is closed. */
export const doors = {
  schema,
  empty: [] as Doors,
  operations: [
    on(
      'set-door',
      { role, section: z.string(), state },
      {
        apply({ inventory, isKeyholder }, value, op) {
          if (!isDoor(inventory, op.section)) return 'no-such-thing';
          if (isKeyholder && (op.state === 'closed' || op.state === 'look')) return 'keyholder-stays';
          const all = allDoors(inventory, value);
          if (all.some((door) => door.section === op.section && door.state === op.state)) return 'already-so';
          return all.map((door) => (door.section === op.section ? { ...door, state: op.state } : door));
        },
        say: (inventory, op) => `Door “${sectionName(inventory, op.section)}”: ${STATE[op.state]}`,
      },
    ),
    on(
      'name-door',
      { role, section: z.string(), name: nameSchema(60) },
      {
        apply({ inventory }, value, op) {
          if (!isDoor(inventory, op.section)) return 'no-such-thing';
          const own = op.name !== '' && op.name !== sectionName(inventory, op.section);
          return allDoors(inventory, value).map((door) =>
            door.section === op.section
              ? { section: door.section, state: door.state, ...(own && { name: op.name }) }
              : door,
          );
        },
        say: (inventory, op) =>
          `Door “${sectionName(inventory, op.section)}” ${op.name ? `is called “${op.name}”` : 'has its own name back'}`,
      },
    ),
    on(
      'move-door',
      { role, section: z.string(), to: z.int().min(0) },
      {
        apply({ inventory }, value, op) {
          const all = allDoors(inventory, value);
          const door = all.find((one) => one.section === op.section);
          return door ? moved(all, door, op.to) : 'no-such-thing';
        },
        say: (inventory, op) => `Move door “${sectionName(inventory, op.section)}” to place ${op.to + 1}`,
      },
    ),
  ],
  // Closed ones stand behind the others in their natural order; a name is left out where it is the section's.
  canonical(inventory, value) {
    const order = inventory.doors.map((section) => section.id);
    const all = allDoors(inventory, value).map(({ section, state, name }) => ({
      section,
      state,
      ...(name !== undefined && name !== sectionName(inventory, section) && { name }),
    }));
    const closed = all.filter((door) => door.state === 'closed');
    return [
      ...all.filter((door) => door.state !== 'closed'),
      ...closed.sort((a, b) => order.indexOf(a.section) - order.indexOf(b.section)),
    ];
  },
  differences({ inventory }, before, after) {
    const [was, is] = [allDoors(inventory, before), allDoors(inventory, after)];
    const called = (door: PlanDoor) => door.name ?? sectionName(inventory, door.section);
    const lines = is.flatMap((door) => {
      const old = was.find((one) => one.section === door.section);
      if (!old) return [];
      return [
        ...(old.state === door.state ? [] : [`Door “${called(door)}”: ${STATE[old.state]} → ${STATE[door.state]}.`]),
        ...(called(old) === called(door) ? [] : [`Door “${called(old)}” is now called “${called(door)}”.`]),
      ];
    });
    // Of the doors that can be seen before and after.
    const isSeen = (list: Doors, section: string) =>
      list.some((door) => door.section === section && door.state !== 'closed');
    const order = (list: Doors) =>
      list.map((door) => door.section).filter((section) => isSeen(was, section) && isSeen(is, section));
    return order(was).join() === order(is).join() ? lines : [...lines, 'The doors stand in another order.'];
  },
  rows: {
    name: 'Menu',
    of: (inventory, value) => {
      const all = allDoors(inventory, value);
      return inventory.doors.map(({ id, name }) => {
        const state = all.find((door) => door.section === id)?.state ?? 'closed';
        return [name, state === 'closed' ? '' : STATE[state]];
      });
    },
  },
  readable,
  twice: (value) => value.map((door) => door.section),
  unknown: (inventory, value) =>
    unknownNames(
      value.map((door) => door.section),
      (section) => isDoor(inventory, section),
      (i) => [i, 'section'],
      (section) => `the back office has no section "${section}"`,
    ),
} satisfies PlanPart<Doors, z.infer<typeof readable>>;
