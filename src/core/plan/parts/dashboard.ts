import { z } from 'zod';
import { canonical } from '../../json';
import type { Inventory } from '../../inventory';
import {
  idSchema,
  listDifferences,
  moved,
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  unknownNames,
  type Part,
} from './part';

/** Widget ids, one list a column. */
const schema = z.strictObject({ columns: z.array(z.array(idSchema)).min(1).max(3) });
const readable = readableObject({ columns: readableMany(readableMany(readableText)) });
type Dashboard = z.infer<typeof schema>;

const widgetName = (inventory: Inventory, id: string) => inventory.widgets.get(id)?.name ?? id;
const without = ({ columns }: Dashboard, widget: string) => columns.map((column) => column.filter((w) => w !== widget));
const on = operationsOn<Dashboard>();

/** What stands on Today, and where. */
export const dashboard = {
  schema,
  empty: { columns: [[]] } as Dashboard,
  operations: [
    on(
      'place-widget',
      { role, widget: z.string(), column: z.int().min(0).max(2), index: z.int().min(0) },
      {
        apply({ inventory }, value, op) {
          const columns = without(value, op.widget);
          const column = columns[op.column];
          if (!inventory.widgets.has(op.widget) || !column) return 'no-such-thing';
          return { columns: columns.with(op.column, moved(column, op.widget, op.index)) };
        },
        say: (inventory, op) => `Place widget “${widgetName(inventory, op.widget)}”`,
      },
    ),
    on(
      'remove-widget',
      { role, widget: z.string() },
      {
        apply: (_, value, op) =>
          value.columns.flat().includes(op.widget) ? { columns: without(value, op.widget) } : 'already-so',
        say: (inventory, op) => `Remove widget “${widgetName(inventory, op.widget)}”`,
      },
    ),
    on(
      'set-columns',
      { role, count: z.int().min(1).max(3) },
      {
        apply(_, { columns: old }, op) {
          if (old.length === op.count) return 'already-so';
          const columns = Array.from({ length: op.count }, (_, i) => [...(old[i] ?? [])]);
          columns[op.count - 1]?.push(...old.slice(op.count).flat());
          return { columns };
        },
        say: (_, op) => `Dashboard in ${op.count} ${op.count === 1 ? 'column' : 'columns'}`,
      },
    ),
  ],
  canonical: (_, value) => value,
  differences({ inventory }, before, after) {
    const all = (value: Dashboard) => value.columns.flat();
    const lines = listDifferences(
      all(before),
      all(after),
      (id) => `New on Today: “${widgetName(inventory, id)}”.`,
      (id) => `No longer on Today: “${widgetName(inventory, id)}”.`,
    );
    const kept = (value: Dashboard, other: Dashboard) =>
      canonical(value.columns.map((column) => column.filter((widget) => all(other).includes(widget))));
    if (kept(before, after) !== kept(after, before)) lines.push('Today is arranged differently.');
    return lines;
  },
  rows: {
    name: 'Dashboard',
    of: (inventory, { columns }) =>
      [...inventory.widgets.values()].map(({ id, name }) => [name, columns.flat().includes(id) ? 'yes' : '']),
  },
  readable,
  twice: ({ columns }) => columns.flat(),
  unknown: (inventory, { columns }) =>
    columns.flatMap((column, c) =>
      unknownNames(
        column,
        (widget) => inventory.widgets.has(widget),
        (i) => ['columns', c, i],
        (widget) => `the back office has no widget "${widget}"`,
      ),
    ),
} satisfies Part<Dashboard, z.infer<typeof readable>>;
