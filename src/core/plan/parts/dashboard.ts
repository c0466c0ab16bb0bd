import { z } from 'zod';
import { planIdSchema } from '../../ids';
import {
  boardSchema,
  columnOf,
  columnsOf,
  MOST_COLUMNS,
  placedAt,
  placedSchema,
  type Board,
  type Hold,
  type PlacedWidget,
  type WidgetSettings,
} from '../../dashboard';
import { canonical } from '../../json';
import type { Inventory } from '../../inventory';
import { sayList } from '../../words';
import {
  listDifferences,
  operationsOn,
  readableMany,
  readableObject,
  readableText,
  role,
  type PlanPart,
  type PartFault,
} from './part';

const SETTING_NAMES: readonly (readonly [keyof WidgetSettings, string])[] = [
  ['most', 'how many entries'],
  ['branch', 'which part of the website'],
  ['kind', 'which kind'],
  ['words', 'its words'],
  ['links', 'its links'],
];
const readable = readableObject({
  widgets: readableMany(
    readableObject({
      id: readableText,
      widget: readableText,
      size: readableText,
      settings: z.record(z.string(), z.unknown()).optional().catch(undefined),
    }),
  ),
});
type Readable = z.infer<typeof readable>;

const widgetName = (inventory: Inventory, id: string) => inventory.widgets.get(id)?.name ?? id;
/** What an entry is called: its own heading, else as its widget. */
export const entryName = (
  inventory: Inventory,
  { heading, widget }: Pick<PlacedWidget, 'heading' | 'widget'>,
): string => heading ?? widgetName(inventory, widget);
const column = z
  .int()
  .min(0)
  .max(MOST_COLUMNS - 1);
const on = operationsOn<Board>();

/** What may be done with it, in the words of the Workshop. */
export const HOLD_NAMES: Record<Hold, string> = {
  fixed: 'stays where it is',
  move: 'may be moved',
  away: 'may be put away',
  offered: 'is offered',
};

/** What stands on Today, where, and what the person may do with it. */
export const dashboard = {
  schema: boardSchema,
  empty: { columns: 1, widgets: [] } as Board,
  operations: [
    on(
      'place-widget',
      { role, entry: planIdSchema, widget: planIdSchema, column, index: z.int().min(0) },
      {
        apply({ inventory }, value, op) {
          const declared = inventory.widgets.get(op.widget);
          const old = value.widgets.find(({ id }) => id === op.entry);
          if (!declared || op.column >= value.columns || (old && old.widget !== op.widget)) return 'no-such-thing';
          const entry = old ?? {
            id: op.entry,
            widget: op.widget,
            column: op.column,
            hold: 'away' as const,
            size: declared.sizes?.[0] ?? ('narrow' as const),
          };
          return { ...value, widgets: placedAt(value, entry, op.column, op.index) };
        },
        say: (inventory, op) => `Place widget “${widgetName(inventory, op.widget)}”`,
      },
    ),
    on(
      'set-widget',
      {
        role,
        entry: planIdSchema,
        widget: planIdSchema,
        ...placedSchema.pick({ hold: true, size: true, heading: true, settings: true }).shape,
      },
      {
        apply({ inventory }, value, { entry, widget, hold, size, heading, settings }) {
          const old = value.widgets.find(({ id }) => id === entry);
          if (!old || old.widget !== widget) return 'no-such-thing';
          const said = Object.fromEntries(
            Object.entries(settings ?? {}).filter(
              ([, one]) => one !== undefined && !(Array.isArray(one) && !one.length),
            ),
          );
          const next: PlacedWidget = {
            id: old.id,
            widget,
            column: old.column,
            hold,
            size,
            ...(heading && heading !== widgetName(inventory, widget) && { heading }),
            ...(Object.keys(said).length > 0 && { settings: said }),
          };
          return { ...value, widgets: value.widgets.map((one) => (one === old ? next : one)) };
        },
        say: (inventory, op) =>
          `Set widget “${widgetName(inventory, op.widget)}”${op.heading ? `, called “${op.heading}”` : ''}`,
      },
    ),
    on(
      'remove-widget',
      { role, entry: planIdSchema, widget: planIdSchema },
      {
        apply: (_, value, op) =>
          value.widgets.some(({ id }) => id === op.entry)
            ? { ...value, widgets: value.widgets.filter(({ id }) => id !== op.entry) }
            : 'already-so',
        say: (inventory, op) => `Remove widget “${widgetName(inventory, op.widget)}”`,
      },
    ),
    on(
      'set-columns',
      { role, count: z.int().min(1).max(MOST_COLUMNS) },
      {
        // The columns widgets were put in stay written down: with as many columns again all is as it was.
        apply: (_, value, op) => ({ ...value, columns: op.count }),
        say: (_, op) => `Dashboard in ${op.count} ${op.count === 1 ? 'column' : 'columns'}`,
      },
    ),
  ],
  canonical: (_, value) => value,
  differences({ inventory }, before, after) {
    const name = (of: Board) => (id: string) => {
      const entry = of.widgets.find((one) => one.id === id);
      return entry ? entryName(inventory, entry) : id;
    };
    const ids = ({ widgets }: Board) => widgets.map(({ id }) => id);
    const says = (hold: Hold | undefined) => (hold === 'offered' ? 'Offered for Today' : 'New on Today');
    const holdOf = (of: Board, id: string) => of.widgets.find((one) => one.id === id)?.hold;
    const lines = listDifferences(
      ids(before),
      ids(after),
      (id) => `${says(holdOf(after, id))}: “${name(after)(id)}”.`,
      (id) =>
        `${holdOf(before, id) === 'offered' ? 'No longer offered for Today' : 'No longer on Today'}: “${name(before)(id)}”.`,
    );
    for (const old of before.widgets) {
      const now = after.widgets.find(({ id }) => id === old.id);
      if (!now) continue;
      const called = entryName(inventory, now);
      if (now.widget !== old.widget) lines.push(`“${entryName(inventory, old)}” on Today is “${called}” now.`);
      else if (now.heading !== old.heading)
        lines.push(`“${entryName(inventory, old)}” is called “${called}” on Today.`);
      if (now.hold !== old.hold)
        lines.push(`“${called}” on Today ${HOLD_NAMES[now.hold]}; before, it ${HOLD_NAMES[old.hold]}.`);
      if (now.size !== old.size) lines.push(`“${called}” on Today is ${now.size}; before, it was ${old.size}.`);
      const set = SETTING_NAMES.filter(
        ([key]) => canonical(now.settings?.[key]) !== canonical(old.settings?.[key]),
      ).map(([, name]) => name);
      if (set.length > 0) lines.push(`“${called}” on Today has something else set: ${sayList(set)}.`);
    }
    const kept = (value: Board, other: Board) =>
      canonical([
        value.columns,
        value.widgets.filter(({ id }) => ids(other).includes(id)).map(({ id, column: at }) => [id, at]),
      ]);
    if (kept(before, after) !== kept(after, before)) lines.push('Today is arranged differently.');
    return lines;
  },
  rows: {
    name: 'Dashboard',
    of: (inventory, board) => {
      const all = columnsOf(board).flat();
      return [...inventory.widgets.values()].map(({ id, name }): [string, string] => [
        name,
        all.some(({ widget }) => widget === id)
          ? 'yes'
          : board.widgets.some(({ widget }) => widget === id)
            ? 'offered'
            : '',
      ]);
    },
  },
  readable,
  twice: ({ widgets }) => widgets.map(({ id }) => id),
  unknown: (inventory, { widgets }, pages) =>
    widgets.flatMap(({ widget, size, settings }, i): PartFault[] => {
      const fault = (path: (string | number)[], message: string) => [{ path: ['widgets', i, ...path], message }];
      const declared = inventory.widgets.get(widget);
      if (!declared) return widget === '' ? [] : fault(['widget'], `the back office has no widget "${widget}"`);
      const takes = declared.takes ?? [];
      const branch = settings?.['branch'];
      const kind = settings?.['kind'];
      return [
        ...Object.keys(settings ?? {}).flatMap((key) =>
          takes.some((one) => one === key)
            ? []
            : fault(['settings', key], `"${key}" cannot be set on the widget "${widget}"`),
        ),
        ...(typeof branch === 'string' && !pages.has(branch)
          ? fault(['settings', 'branch'], `there is no page "${branch}"`)
          : []),
        ...(typeof kind === 'string' && !declared.kinds?.some(({ id }) => id === kind)
          ? fault(['settings', 'kind'], `the widget "${widget}" has no kind "${kind}"`)
          : []),
        ...(size !== '' && !(declared.sizes ?? ['narrow']).some((one) => one === size)
          ? fault(['size'], `the widget "${widget}" cannot be ${size}`)
          : []),
      ];
    }),
  withPages: <V extends Board | Readable>(value: V, call: (page: string) => string): V => ({
    ...value,
    widgets: value.widgets.map((one) => {
      const branch = one.settings?.['branch'];
      return typeof branch === 'string' ? { ...one, settings: { ...one.settings, branch: call(branch) } } : one;
    }),
  }),
} satisfies PlanPart<Board, Readable>;

/** The column an entry stands in, and its place among those of that column. */
export function placeOf(board: Board, entry: string): { column: number; index: number } | null {
  const placed = board.widgets.find(({ id }) => id === entry);
  if (!placed) return null;
  const at = columnOf(board, placed);
  return { column: at, index: board.widgets.filter((one) => columnOf(board, one) === at).indexOf(placed) };
}
