import { canonical } from '../json';
import { HOLDS, type Board, type PlacedWidget } from './board';

/** Whether two widgets would show the same: somebody has such a one once. */
export const saysSame = (a: PlacedWidget, b: PlacedWidget) =>
  a.widget === b.widget && a.heading === b.heading && canonical(a.settings ?? {}) === canonical(b.settings ?? {});

/**
 * The boards of the roles somebody holds as one, in the order the roles were given: the first stands as it is, what the
 * others have besides stands behind it in its own columns. The same widget with the same settings stands there once, as
 * firmly as the firmest of them has it. There are as many columns as the widest has.
 */
export function joinBoards(boards: readonly { role: string; board: Board }[]): Board {
  const widgets: PlacedWidget[] = [];
  for (const { role, board } of boards)
    for (const placed of board.widgets) {
      const at = widgets.findIndex((one) => saysSame(one, placed));
      const twin = widgets[at];
      if (twin) {
        const hold = HOLDS[Math.max(HOLDS.indexOf(twin.hold), HOLDS.indexOf(placed.hold))] ?? twin.hold;
        widgets[at] = { ...twin, hold };
      } else {
        const isTaken = widgets.some((one) => one.id === placed.id);
        // No id of an entry has that sign in it.
        widgets.push(isTaken ? { ...placed, id: `${placed.id}@${role}` } : placed);
      }
    }
  return { columns: Math.max(1, ...boards.map(({ board }) => board.columns)), widgets };
}
