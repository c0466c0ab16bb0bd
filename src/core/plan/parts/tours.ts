import { z } from 'zod';
import { canonical } from '../../json';
import { nameSchema, operationsOn, role, wordsSchema, type PlanPart } from './part';

const stopWordsSchema = z.strictObject({ title: wordsSchema(120).optional(), text: wordsSchema(1200).optional() });
const schema = z.record(z.string(), z.record(z.string(), stopWordsSchema));
type Tours = z.infer<typeof schema>;

/** Without stops that say nothing, and tours that have none left. */
const spoken = (value: Tours): Tours =>
  Object.fromEntries(
    Object.entries(value)
      .map(
        ([task, stops]) =>
          [
            task,
            Object.fromEntries(Object.entries(stops).filter(([, words]) => Object.keys(words).length > 0)),
          ] as const,
      )
      .filter(([, stops]) => Object.keys(stops).length > 0),
  );
const on = operationsOn<Tours>();

/** Task → stop → words of the administrator's own. */
export const tours = {
  schema,
  empty: {} as Tours,
  operations: [
    on(
      'word-stop',
      { role, task: z.string(), stop: z.string(), title: nameSchema(120), text: nameSchema(1200) },
      {
        apply({ inventory }, value, op) {
          const task = inventory.tasks.get(op.task);
          const move = task?.moves.find((one) => one.control === op.stop);
          if (!task || !(move || op.stop.startsWith('door.'))) return 'no-such-thing';
          const words = {
            ...(op.title && op.title !== move?.title && { title: op.title }),
            ...(op.text && op.text !== move?.text && { text: op.text }),
          };
          return spoken({ ...value, [op.task]: { ...value[op.task], [op.stop]: words } });
        },
        say: (inventory, op) => `Reword a stop of “${inventory.tasks.get(op.task)?.name ?? op.task}”`,
      },
    ),
  ],
  canonical: (_, value) => spoken(value),
  differences({ task }, before, after) {
    const [was, is] = [spoken(before), spoken(after)];
    return [...new Set([...Object.keys(was), ...Object.keys(is)])]
      .filter((id) => canonical(was[id] ?? {}) !== canonical(is[id] ?? {}))
      .map((id) => `The tour “${task(id, 'after')}” has new words.`);
  },
  readable: z.unknown().optional(),
  twice: () => [],
  unknown: () => [],
} satisfies PlanPart<Tours, unknown>;
