import { getEntry, type Control, type Happening, type Inventory, type TaskTemplate } from '../inventory';
import { ASK_STOP, givenStops, orderedStops, type PlanRole } from '../plan';

/** One step of a tour. */
export interface Stop {
  /** Its control's id; stays the same when words change. */
  key: string;
  control: string;
  controlName: string;
  screen: string;
  /** Address of the screen; null when it can only be reached by what the stop before does. */
  path: string | null;
  title: string;
  text: string;
  await: 'press' | 'type' | 'see';
  /** One of which must have happened before it goes on; empty where the press, the typing or a look is all. */
  until: readonly Happening[];
  /** Shown only after something was done. */
  appears: string | null;
  /** Why the stop cannot be shown in this room; null when it can. */
  stale: string | null;
}

export interface Tour {
  task: string;
  name: string;
  stops: Stop[];
  /** Stops left out of it, in the order they were given. */ left: { key: string; title: string }[];
  minutes: number;
}

export interface TourRoom {
  doorName(section: string): string;
  /** The door is in the menu, so that it can be pointed at. */
  doorShown(section: string): boolean;
  /** What a control is called in this room: as its edit screen has it. */
  calls(control: Control): string;
  /** Why a control is not in this room, or null when it is. */
  absent(control: string): string | null;
}

/** Words spoken or read in a minute (common practice, no source; pooled over narrated tours). */
const WORDS_A_MINUTE = 160;
/** Time to act on a stop that waits for an action, in seconds (common practice, no source). */
const ACT_S = 6;

/** The length of a tour in whole minutes, at least 1. */
export function tourMinutes(stops: readonly Pick<Stop, 'title' | 'text' | 'await'>[]): number {
  const words = stops.reduce((sum, stop) => sum + `${stop.title} ${stop.text}`.split(/\s+/).filter(Boolean).length, 0);
  const acting = stops.filter((stop) => stop.await !== 'see').length * ACT_S;
  return Math.max(1, Math.round(words / WORDS_A_MINUTE + acting / 60));
}

/**
 * The tour of a task as one room has it: first the door, then each move, in the administrator's words where
 * there are any. Pure; a control the room lacks makes its stop stale, it is not left out.
 */
export function tourOf(
  inventory: Inventory,
  room: TourRoom,
  words: PlanRole['tours'],
  task: TaskTemplate & { section: string },
  name: string,
): Tour {
  const section = inventory.sections.find((s) => s.id === task.section);
  const own = words[task.id] ?? {};
  const stops: Stop[] = [];
  const add = (stop: Omit<Stop, 'controlName' | 'screen' | 'path' | 'appears' | 'stale'>, controlName?: string) => {
    const control = getEntry(inventory.controls, stop.control);
    const screen = getEntry(inventory.screens, control.screen);
    stops.push({
      ...stop,
      title: own[stop.key]?.title ?? stop.title,
      text: own[stop.key]?.text ?? stop.text,
      controlName: controlName ?? room.calls(control),
      screen: screen.id,
      path: screen.path.includes('[') ? null : screen.path,
      appears: control.appears ?? null,
      stale: room.absent(stop.control),
    });
  };
  if (section?.face === 'door') {
    const door = room.doorName(section.id);
    if (room.doorShown(section.id))
      add(
        {
          key: `door.${section.id}`,
          control: `door.${section.id}`,
          await: 'press',
          until: [],
          title: `This is the way to “${door}”`,
          text: `Open “${door}”. ${section.purpose}`,
        },
        door,
      );
    else
      add({
        key: ASK_STOP,
        control: ASK_STOP,
        await: 'see',
        until: [],
        title: `Ask for ${door}`,
        text: `“${door}” has no door of its own in your menu. Type its name into “Where do I…?” and choose it from the list.`,
      });
  }
  for (const move of task.moves)
    add({
      key: move.control,
      control: move.control,
      await: move.await,
      until: move.until ?? [],
      title: move.title,
      text: move.text,
    });
  // Instead of a door that is not in the menu one is asked for: in its place.
  const placeOf = (stop: Stop) => (stop.key === ASK_STOP && section ? `door.${section.id}` : stop.key);
  const order = orderedStops(givenStops(inventory, task), own);
  const isOut = (stop: Stop) => own[placeOf(stop)]?.out === true;
  const shown = stops
    .filter((stop) => !isOut(stop))
    .toSorted((a, b) => order.indexOf(placeOf(a)) - order.indexOf(placeOf(b)));
  return {
    task: task.id,
    name,
    stops: shown,
    left: stops.filter(isOut).map((stop) => ({ key: placeOf(stop), title: stop.title })),
    minutes: tourMinutes(shown),
  };
}
