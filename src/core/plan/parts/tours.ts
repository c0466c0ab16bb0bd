import { z } from 'zod';
import { canonical } from '../../json';
import type { Inventory, TaskMove, TaskTemplate } from '../../inventory';
import { nameSchema, operationsOn, role, wordsSchema, type OperationFault, type PlanPart } from './part';

const ownStopSchema = z.strictObject({
  title: wordsSchema(120).optional(),
  text: wordsSchema(1200).optional(),
  /** Left out of the tour. */
  out: z.literal(true).optional(),
  /** Its place among all stops, from 0; without one it stays where it was given. */
  at: z.int().min(0).max(200).optional(),
});
const schema = z.record(z.string(), z.record(z.string(), ownStopSchema));
type Tours = z.infer<typeof schema>;
type OwnStop = z.infer<typeof ownStopSchema>;

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

/** The stops a task's tour is given, in their order: the door, then a stop for each move. */
export const givenStops = (inventory: Inventory, task: TaskTemplate & { section: string }): string[] => [
  ...inventory.doors.flatMap(({ id }) => (id === task.section ? [`door.${id}`] : [])),
  ...task.moves.map(({ control }) => control),
];
/** What stands in a door's place where the menu has it no more: the way by asking, with words of its own. */
export const ASK_STOP = 'frame.ask';
/** The same in the administrator's order. */
export function orderedStops<T extends string>(given: readonly T[], own: Tours[string] = {}): T[] {
  const place = (stop: T) => own[stop]?.at ?? given.indexOf(stop);
  return given.toSorted((a, b) => place(a) - place(b) || given.indexOf(a) - given.indexOf(b));
}

/** One stop of one tour changed; a fault where there is none of that name. */
function changeStop(
  inventory: Inventory,
  value: Tours,
  { task: id, stop }: { task: string; stop: string },
  change: (old: OwnStop, move: TaskMove | undefined) => OwnStop,
): Tours | OperationFault {
  const task = inventory.tasks.get(id);
  const given = task ? givenStops(inventory, task) : [];
  const isAsking = stop === ASK_STOP && given.some((one) => one.startsWith('door.'));
  if (!task || !(given.includes(stop) || isAsking)) return 'no-such-thing';
  const move = task.moves.find((one) => one.control === stop);
  return spoken({ ...value, [id]: { ...value[id], [stop]: change(value[id]?.[stop] ?? {}, move) } });
}
const named = (inventory: Inventory, task: string) => inventory.tasks.get(task)?.name ?? task;

/** Task → stop → words of the administrator's own, whether it is left out, and where it stands. */
export const tours = {
  schema,
  empty: {} as Tours,
  operations: [
    on(
      'word-stop',
      { role, task: z.string(), stop: z.string(), title: nameSchema(120), text: nameSchema(1200) },
      {
        apply: ({ inventory }, value, op) =>
          changeStop(inventory, value, op, ({ title: _, text: __, ...old }, move) => ({
            ...old,
            ...(op.title && op.title !== move?.title && { title: op.title }),
            ...(op.text && op.text !== move?.text && { text: op.text }),
          })),
        say: (inventory, op) => `Reword a stop of “${named(inventory, op.task)}”`,
      },
    ),
    on(
      'leave-stop-out',
      { role, task: z.string(), stop: z.string(), out: z.boolean() },
      {
        apply: ({ inventory }, value, op) =>
          changeStop(inventory, value, op, ({ out: _, ...old }) => ({ ...old, ...(op.out && { out: true }) })),
        say: (inventory, op) =>
          op.out
            ? `Leave a stop out of the tour “${named(inventory, op.task)}”`
            : `Take a stop into the tour “${named(inventory, op.task)}” again`,
      },
    ),
    on(
      'move-stop',
      { role, task: z.string(), stop: z.string(), by: z.union([z.literal(1), z.literal(-1)]) },
      {
        apply({ inventory }, value, op) {
          const task = inventory.tasks.get(op.task);
          if (!task) return 'no-such-thing';
          const given = givenStops(inventory, task);
          const own = value[op.task] ?? {};
          const order = orderedStops(given, own);
          // Among those that are shown: what is left out keeps nothing in its place.
          const shown = order.filter((stop) => !own[stop]?.out);
          const beside = shown[shown.indexOf(op.stop) + op.by];
          if (!shown.includes(op.stop)) return 'no-such-thing';
          if (beside === undefined) return 'already-so';
          const [from, to] = [order.indexOf(op.stop), order.indexOf(beside)];
          const next = order.toSpliced(from, 1).toSpliced(to, 0, op.stop);
          const isGiven = next.join() === given.join();
          return spoken({
            ...value,
            [op.task]: Object.fromEntries(
              next.map((stop, at) => {
                const { at: _, ...rest } = own[stop] ?? {};
                return [stop, isGiven ? rest : { ...rest, at }];
              }),
            ),
          });
        },
        say: (inventory, op) => `Move a stop of the tour “${named(inventory, op.task)}”`,
      },
    ),
  ],
  canonical: (_, value) => spoken(value),
  differences({ task }, before, after) {
    const [was, is] = [spoken(before), spoken(after)];
    return [...new Set([...Object.keys(was), ...Object.keys(is)])]
      .filter((id) => canonical(was[id] ?? {}) !== canonical(is[id] ?? {}))
      .flatMap((id) => {
        const [old, now] = [was[id] ?? {}, is[id] ?? {}];
        const of = (one: Tours[string], what: (stop: OwnStop) => unknown) =>
          canonical(
            Object.fromEntries(Object.entries(one).flatMap(([key, stop]) => (what(stop) ? [[key, what(stop)]] : []))),
          );
        const differs = (what: (stop: OwnStop) => unknown) => of(old, what) !== of(now, what);
        const name = `The tour “${task(id, 'after')}”`;
        const gone = Object.values(now).filter(({ out }) => out).length;
        return [
          ...(differs(({ title, text }) => (title || text) && { title, text }) ? [`${name} has new words.`] : []),
          ...(differs(({ out }) => out)
            ? [gone === 0 ? `${name} has all its stops again.` : `${name} leaves out ${gone} of its stops.`]
            : []),
          ...(differs(({ at }) => at !== undefined && { at }) ? [`${name} has its stops in another order.`] : []),
        ];
      });
  },
  readable: z.unknown().optional(),
  twice: () => [],
  unknown: () => [],
} satisfies PlanPart<Tours, unknown>;
