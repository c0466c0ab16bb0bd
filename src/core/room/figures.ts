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
  staleStops: StopOfTask[];
}

/** A stop by its title, and whose tour it is in by the name of the task. */
export interface StopOfTask {
  task: string;
  stop: string;
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
    staleStops: can.flatMap((t) =>
      t.tour.stops.filter((stop) => stop.stale).map(({ title }) => ({ task: t.name, stop: title })),
    ),
  };
}

export interface Loss {
  /** Names of tasks that could be done before and cannot after. */
  tasks: string[];
  /** Stops that could be shown before and cannot after, of tasks that can be done all the same. */
  stops: StopOfTask[];
}

/** What a change of room takes away. */
export function lossBetween(before: Room, after: Room): Loss {
  const now = new Map(after.tasks.map((task) => [task.task, task]));
  const could = before.tasks.filter((task) => now.has(task.task));
  return {
    tasks: could.filter((task) => task.verdict.can && !now.get(task.task)?.verdict.can).map(({ name }) => name),
    stops: could.flatMap(({ task, tour }) => {
      const then = now.get(task);
      if (!then?.verdict.can) return [];
      const there = new Set(tour.stops.filter(({ stale }) => !stale).map(({ key }) => key));
      return then.tour.stops
        .filter(({ key, stale }) => stale && there.has(key))
        .map(({ title }) => ({ task: then.name, stop: title }));
    }),
  };
}
