import { z } from 'zod';
import type { Inventory } from '../../inventory';
import {
  idSchema,
  listDifferences,
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  unknownNames,
  type Part,
} from './part';

const schema = z.strictObject({
  tools: z.array(idSchema),
  modes: z.array(z.enum(['visual', 'preview', 'code'])).min(1),
});
const readable = readableObject({ tools: readableMany(readableText) });
type Toolbar = z.infer<typeof schema>;

const inOrder = (order: Iterable<string>, list: readonly string[]) => {
  const at = [...order];
  return [...new Set(list)].sort((a, b) => at.indexOf(a) - at.indexOf(b));
};
const toolName = (inventory: Inventory, id: string) =>
  inventory.tools.get(id)?.name ?? inventory.modes.get(id)?.name ?? id;
const on = operationsOn<Toolbar>();

/** The formatting tools and the ways of writing. */
export const toolbar = {
  schema,
  empty: { tools: [], modes: ['visual'] } as Toolbar,
  operations: [
    on(
      'set-tool',
      { role, tool: z.string(), on: z.boolean() },
      {
        apply({ inventory }, value, op) {
          if (!inventory.tools.has(op.tool)) return 'no-such-thing';
          const rest = value.tools.filter((tool) => tool !== op.tool);
          if ((rest.length !== value.tools.length) === op.on) return 'already-so';
          return { ...value, tools: op.on ? inOrder(inventory.tools.keys(), [...rest, op.tool]) : rest };
        },
        say: (inventory, op) => `${op.on ? 'Give' : 'Take away'} tool “${toolName(inventory, op.tool)}”`,
      },
    ),
    on(
      'set-mode',
      { role, mode: z.enum(['preview', 'code']), on: z.boolean() },
      {
        apply(_, value, op) {
          const rest = value.modes.filter((mode) => mode !== op.mode);
          if ((rest.length !== value.modes.length) === op.on) return 'already-so';
          return { ...value, modes: op.on ? [...rest, op.mode] : rest };
        },
        say: (inventory, op) => `${op.on ? 'Give' : 'Take away'} “${toolName(inventory, op.mode)}”`,
      },
    ),
  ],
  canonical: (inventory, { tools, modes }) => ({
    tools: inOrder(inventory.tools.keys(), tools),
    modes: inOrder(inventory.modes.keys(), modes),
  }),
  differences: ({ inventory }, before, after) =>
    listDifferences(
      [...before.tools, ...before.modes],
      [...after.tools, ...after.modes],
      (id) => `Toolbar gains “${toolName(inventory, id)}”.`,
      (id) => `Toolbar loses “${toolName(inventory, id)}”.`,
    ),
  rows: {
    name: 'Toolbar',
    of: (inventory, { tools, modes }) =>
      [...inventory.tools.values(), ...inventory.modes.values()].map(({ id, name }) => [
        name,
        [...tools, ...modes].includes(id) ? 'yes' : '',
      ]),
  },
  readable,
  twice: () => [],
  unknown: (inventory, { tools }) =>
    unknownNames(
      tools,
      (tool) => inventory.tools.has(tool),
      (i) => ['tools', i],
      (tool) => `the back office has no tool "${tool}"`,
    ),
} satisfies Part<Toolbar, z.infer<typeof readable>>;
