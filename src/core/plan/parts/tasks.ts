import { z } from 'zod';
import { planIdSchema } from '../../ids';
import { canonical } from '../../json';
import type { Inventory } from '../../inventory';
import {
  listDifferences,
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

const tickedTaskSchema = z.strictObject({
  task: planIdSchema,
  /** In this site's words; the task's own name when left out. */
  name: wordsSchema(100).optional(),
  /** Further words people use when they look for it. */
  said: z.array(wordsSchema(60)).max(30).optional(),
});
const schema = z.array(tickedTaskSchema);
const readable = readableMany(readableObject({ task: readableText }));
type Tasks = z.infer<typeof schema>;

const taskName = (inventory: Inventory, id: string) => inventory.tasks.get(id)?.name ?? id;
const on = operationsOn<Tasks>();

/** What the role is there to do, in the order shown. */
export const tasks = {
  schema,
  empty: [] as Tasks,
  operations: [
    on(
      'tick-task',
      { role, task: z.string(), ticked: z.boolean() },
      {
        apply({ inventory }, value, op) {
          if (!inventory.tasks.has(op.task)) return 'no-such-thing';
          if (value.some((one) => one.task === op.task) === op.ticked) return 'already-so';
          return op.ticked ? [...value, { task: op.task }] : value.filter((one) => one.task !== op.task);
        },
        say: (inventory, op) => `${op.ticked ? 'Tick' : 'Untick'} task “${taskName(inventory, op.task)}”`,
      },
    ),
    on(
      'name-task',
      { role, task: z.string(), name: nameSchema(100), said: z.array(z.string().trim().min(1).max(60)).max(30) },
      {
        apply(_, value, op) {
          if (!value.some((one) => one.task === op.task)) return 'no-such-thing';
          const said = [...new Set(op.said)];
          return value.map((one) =>
            one.task === op.task
              ? { task: one.task, ...(op.name && { name: op.name }), ...(said.length > 0 && { said }) }
              : one,
          );
        },
        say: (inventory, op) => `Name task “${taskName(inventory, op.task)}” in own words`,
      },
    ),
  ],
  canonical: (_, value) => value,
  differences({ task }, before, after) {
    const ids = (list: Tasks) => list.map((one) => one.task);
    const words = ({ name, said }: Tasks[number]) => canonical([name, said]);
    const lines = listDifferences(
      ids(before),
      ids(after),
      (id) => `New task: “${task(id, 'after')}”.`,
      (id) => `Task no longer asked of them: “${task(id, 'before')}”.`,
    );
    for (const one of after) {
      const old = before.find((other) => other.task === one.task);
      if (old && words(old) !== words(one))
        lines.push(`Task “${task(one.task, 'before')}” has new words: “${task(one.task, 'after')}”.`);
    }
    const order = (list: Tasks, other: Tasks) =>
      ids(list)
        .filter((id) => ids(other).includes(id))
        .join();
    if (order(before, after) !== order(after, before)) lines.push('The tasks stand in another order.');
    return lines;
  },
  rows: {
    name: 'Tasks',
    of: (inventory, value) =>
      [...inventory.tasks.values()].map(({ id, name }) => {
        const ticked = value.find((one) => one.task === id);
        return [name, !ticked ? '' : ticked.name && ticked.name !== name ? `“${ticked.name}”` : 'yes'];
      }),
  },
  readable,
  twice: (value) => value.map((one) => one.task),
  unknown: (inventory, value) =>
    unknownNames(
      value.map((one) => one.task),
      (task) => inventory.tasks.has(task),
      (i) => [i, 'task'],
      (task) => `the back office knows no task "${task}"`,
    ),
} satisfies PlanPart<Tasks, z.infer<typeof readable>>;
