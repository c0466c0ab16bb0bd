import { columnsOf } from '../dashboard';
import type { Inventory } from '../inventory';
import type { Room } from './room';

export interface RoomFigures {
  /** Doors, task cards and widgets an editor finds on arrival. */
  choices: number;
  tasks: number;
  tasksThatCan: number;
  /** Doors in the menu that no ticked task goes through. */
  idleDoors: string[];
  /** Tour stops whose control this room lacks. */
  staleStops: number;
}

export const shownDoors = (room: Room) => room.doors.filter((door) => door.state !== 'away');

/** Counts what a room asks of the person in it. */
export function figures(inventory: Inventory, room: Room): RoomFigures {
  const used = new Set(
    room.tasks.flatMap((t) => [
      t.section,
      ...t.tour.stops.map((stop) => inventory.controls.get(stop.control)?.section),
    ]),
  );
  const can = room.tasks.filter((t) => t.verdict.can);
  return {
    choices: shownDoors(room).length + can.length + columnsOf(room.dashboard).flat().length,
    tasks: room.tasks.length,
    tasksThatCan: can.length,
    idleDoors: shownDoors(room)
      .filter((door) => !used.has(door.section))
      .map((door) => door.name),
    // Of what cannot be done at all the tasks themselves tell.
    staleStops: can.flatMap((t) => t.tour.stops).filter((stop) => stop.stale).length,
  };
}

export interface Loss {
  /** Names of tasks that could be done before and cannot after. */
  tasks: string[];
  /** Stops that could be shown before and cannot after. */
  stops: number;
}

/** What a change of room takes away. */
export function lossBetween(before: Room, after: Room): Loss {
  const live = (room: Room) =>
    new Set(room.tasks.flatMap((t) => t.tour.stops.filter((s) => !s.stale).map((s) => `${t.task} ${s.key}`)));
  const now = live(after);
  const ticked = new Set(after.tasks.map((t) => t.task));
  return {
    tasks: before.tasks
      .filter((t) => t.verdict.can && ticked.has(t.task) && !after.tasks.find((n) => n.task === t.task)?.verdict.can)
      .map((t) => t.name),
    stops: [...live(before)].filter((key) => ticked.has(key.split(' ')[0] ?? '') && !now.has(key)).length,
  };
}
