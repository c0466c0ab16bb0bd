import { z } from 'zod';
import { apartSchema } from '../../access';
import { listDifferences, operationsOn, readableMany, readableText, role, type PlanPart, type WholePart } from './part';

const readable = readableMany(z.tuple([readableText, readableText]));
type Apart = z.infer<typeof apartSchema>;
const joined = (pair: readonly string[]) => pair.toSorted().join(' ');
const on = operationsOn<Apart>();

/** Pairs of roles nobody may hold together. */
export const apart = {
  schema: apartSchema,
  empty: [] as Apart,
  operations: [
    on(
      'keep-apart',
      { role, other: role, apart: z.boolean() },
      {
        apply({ roles }, value, op) {
          if (![op.role, op.other].every((id) => roles.some((one) => one.id === id))) return 'no-role';
          const rest = value.filter((pair) => joined(pair) !== joined([op.role, op.other]));
          if ((rest.length !== value.length) === op.apart) return 'already-so';
          return op.apart ? [...rest, [op.role, op.other]] : rest;
        },
        say: (_, op, role) =>
          `${op.apart ? 'Keep' : 'Let'} “${role(op.role)}” and “${role(op.other)}” ${op.apart ? 'apart' : 'be held together'}`,
      },
    ),
  ],
  canonical: (_, value) => value.map(joined).sort(),
  // Told of both roles of a pair.
  differences({ of, role }, before, after) {
    const others = (value: Apart) =>
      value.flatMap(([one, other]) => (one === of ? [other] : other === of ? [one] : []));
    return listDifferences(
      others(before),
      others(after),
      (id) => `Nobody may hold it together with “${role(id)}”.`,
      (id) => `It may be held together with “${role(id)}” again.`,
    );
  },
  // A pair with one of the roles is theirs.
  taking(value, from, ids) {
    const isTheirs = (pair: Apart[number]) => pair.some((id) => ids.includes(id));
    return [...value.filter((pair) => !isTheirs(pair)), ...from.filter(isTheirs)];
  },
  readable,
  twice: (value) => value.filter((pair) => pair.every(Boolean)).map(joined),
  unknown: () => [],
} satisfies PlanPart<Apart, z.infer<typeof readable>> & WholePart<Apart>;
