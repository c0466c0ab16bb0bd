import { z } from 'zod';
import { isHref, shortTextSchema } from '../content';
import { freeId, planIdSchema } from '../ids';

/** Columns a board can have. */
export const MOST_COLUMNS = 4;

/**
 * What a person may do with a widget: nothing; move it; put it away as well; or it is not there and may be added. From
 * the freest to the firmest of those that are there comes last.
 */
export const HOLDS = ['offered', 'away', 'move', 'fixed'] as const;
export type Hold = (typeof HOLDS)[number];

/** Over how many columns a widget goes: one, two, all. */
export const SIZES = ['narrow', 'wide', 'full'] as const;
export type Size = (typeof SIZES)[number];

/** What can be set on a widget; which of it a widget has is said where it is declared (`Widget.takes`). */
export const widgetSettingsSchema = z.strictObject({
  /** How many entries it lists. */
  most: z.int().min(1).max(20).optional(),
  /** A page: only what lies there or below. */
  branch: z.string().min(1).optional(),
  /** One of the kinds the widget tells apart. */
  kind: z.string().min(1).max(40).optional(),
  words: shortTextSchema.optional(),
  links: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1, 'say what the link is called').max(80),
        href: z.string().refine(isHref, 'begin with https://, mailto:, tel: or /'),
      }),
    )
    .max(20)
    .optional(),
});
export type WidgetSettings = z.infer<typeof widgetSettingsSchema>;

/** A widget as it is prepared on a board. The same widget may stand there several times, each time as another entry. */
export const placedSchema = z.strictObject({
  id: planIdSchema,
  widget: planIdSchema,
  /** Counted from 0. A board with fewer columns shows it in its last one. */
  column: z
    .int()
    .min(0)
    .max(MOST_COLUMNS - 1),
  hold: z.enum(HOLDS),
  size: z.enum(SIZES),
  /** Above it, in the administrator's words. */
  heading: z.string().trim().min(1).max(80).optional(),
  settings: widgetSettingsSchema.optional(),
});
export type PlacedWidget = z.infer<typeof placedSchema>;

/** What stands on Today: columns on a wide screen, and the widgets in their order, each in a column. */
export const boardSchema = z.strictObject({
  columns: z.int().min(1).max(MOST_COLUMNS),
  widgets: z.array(placedSchema).max(60),
});
export type Board = z.infer<typeof boardSchema>;

export const columnOf = ({ columns }: Pick<Board, 'columns'>, { column }: { column: number }): number =>
  Math.min(column, columns - 1);

/** The widgets a board has on Today, column by column; what is only offered is not among them. */
export const columnsOf = (board: Board): PlacedWidget[][] =>
  Array.from({ length: board.columns }, (_, column) =>
    board.widgets.filter((one) => one.hold !== 'offered' && columnOf(board, one) === column),
  );

/**
 * A list with an entry in a column, `index` counted among those of that column (what is offered included); it leaves
 * where it was.
 */
export function placedAt(board: Board, entry: PlacedWidget, column: number, index: number): PlacedWidget[] {
  const rest = board.widgets.filter((one) => one.id !== entry.id);
  const there = rest.filter((one) => columnOf(board, one) === column);
  const before = there[index];
  const at = before
    ? rest.indexOf(before)
    : there.length
      ? rest.indexOf(there.at(-1) as PlacedWidget) + 1
      : rest.length;
  return rest.toSpliced(at, 0, { ...entry, column });
}

/** The part of a screen that widgets stacked in one column fill, or one widget that goes over several. */
export interface BoardCell<T> {
  column: number;
  span: number;
  row: number;
  rows: number;
  widgets: T[];
}

/**
 * Where everything stands in a grid. Widgets of one column are stacked in one cell, so that none leaves a gap beside a
 * taller one; one that goes over several columns stands below all that comes before it there. Rows are counted from 0;
 * a stack reaches down to what ends it, or to the last row.
 */
export function cellsOf<T extends { column: number; size: Size }>(
  columns: number,
  widgets: readonly T[],
): BoardCell<T>[] {
  const cells: BoardCell<T>[] = [];
  /** The first free row of each column, and the stack that can be gone on with there. */
  const next = Array.from({ length: columns }, () => 0);
  const open: (BoardCell<T> | null)[] = Array.from({ length: columns }, () => null);
  const spanOf = (size: Size) => (size === 'narrow' ? 1 : size === 'wide' ? Math.min(2, columns) : columns);
  for (const widget of widgets) {
    const span = spanOf(widget.size);
    const column = Math.min(widget.column, columns - span);
    const stack = open[column];
    if (span === 1 && stack) {
      stack.widgets.push(widget);
      continue;
    }
    const over = Array.from({ length: span }, (_, i) => column + i);
    const row = Math.max(...over.map((one) => next[one] ?? 0));
    const cell: BoardCell<T> = { column, span, row, rows: 1, widgets: [widget] };
    cells.push(cell);
    for (const one of over) {
      const above = open[one];
      if (above) above.rows = row - above.row;
      next[one] = row + 1;
      open[one] = span === 1 ? cell : null;
    }
  }
  const rows = Math.max(1, ...next);
  for (const stack of open) if (stack) stack.rows = rows - stack.row;
  return cells.sort((a, b) => a.row - b.row || a.column - b.column);
}

/**
 * A board from its columns: widgets by name, or with what is set on them. What nothing is said of may be put away and is
 * as narrow as can be.
 */
export const boardOf = (...columns: (string | (Partial<PlacedWidget> & { widget: string }))[][]): Board => {
  const widgets: PlacedWidget[] = [];
  for (const [column, list] of columns.entries())
    for (const one of list) {
      const said = typeof one === 'string' ? { widget: one } : one;
      widgets.push({ id: freeId(widgets, said.widget), column, hold: 'away', size: 'narrow', ...said });
    }
  return { columns: Math.max(1, columns.length), widgets };
};
