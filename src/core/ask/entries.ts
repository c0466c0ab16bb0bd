import { missingInWords } from '../task';
import { askerFor, room, type RoomInput } from '../room';
import type { Findable } from './find';

/** Something "Where do I…?" knows, as one person has it. */
export interface AskEntry extends Findable {
  /** Where it leads; null where it is only told where it is. */
  href: string | null;
  /** Why they may not; null where they may. */
  why: string | null;
  /** Minutes of its tour, for a task they can do. */
  minutes?: number;
}

/**
 * All that can be asked for: every task, ticked or not, every door, screen and control, with whether this person may
 * and what is in the way where they may not. Pure.
 */
export function askable(input: RoomInput): AskEntry[] {
  const { inventory } = input;
  const held = new Set(input.person.assignments.map((a) => a.role));
  const own = room(input);
  // The same room with every task: what one may do is found, whether somebody thought of ticking it or not.
  const all = room({
    ...input,
    plan: {
      ...input.plan,
      roles: input.plan.roles.map((role) =>
        held.has(role.id)
          ? {
              ...role,
              tasks: [
                ...role.tasks,
                ...[...inventory.tasks.keys()]
                  .filter((id) => !role.tasks.some((t) => t.task === id))
                  .map((task) => ({ task })),
              ],
            }
          : role,
      ),
    },
  });
  const { best } = askerFor(input);
  const doorName = (section: string) =>
    own.doors.find((door) => door.section === section)?.name ??
    inventory.sections.find((one) => one.id === section)?.name ??
    section;
  const ticked = new Set(own.tasks.map((task) => task.task));
  const known = new Set(all.tasks.map((task) => task.task));
  const tasks = [
    ...all.tasks.map((task): AskEntry => ({
      id: task.task,
      kind: 'task',
      name: task.name,
      purpose: task.purpose,
      said: task.said,
      may: task.verdict.can,
      href: task.start,
      why: task.verdict.can ? null : missingInWords(inventory, task.verdict.missing, doorName),
      ...(task.verdict.can && { minutes: task.tour.minutes }),
      ...(ticked.has(task.task) && { ticked: true as const }),
    })),
    ...[...inventory.tasks.values()]
      .filter((task) => !known.has(task.id))
      .map((task): AskEntry => ({
        id: task.id,
        kind: 'task',
        name: task.name,
        purpose: task.purpose,
        said: task.said,
        may: false,
        href: null,
        why: 'You hold no role now.',
      })),
  ];
  const doors = inventory.doors.map((section): AskEntry => {
    const door = own.doors.find((one) => one.section === section.id);
    return {
      id: section.id,
      kind: 'door',
      name: door?.name ?? section.name,
      purpose: section.purpose,
      said: [section.name],
      may: door !== undefined,
      href: door?.path ?? null,
      why: door ? null : 'This door is not in your room.',
    };
  });
  const homes = new Set(inventory.doors.map((section) => section.home));
  const screens = [...inventory.screens.values()]
    .filter((screen) => !homes.has(screen.id) && !screen.path.includes('['))
    .map((screen): AskEntry => {
      const may = !screen.needs || best(screen.needs).allowed;
      return {
        id: screen.id,
        kind: 'screen',
        name: screen.name,
        purpose: '',
        said: [],
        may,
        href: may ? screen.path : null,
        why: may ? null : 'This screen is not in your room.',
      };
    });
  const controls = [...inventory.controls.values()]
    .filter((control) => !control.id.startsWith('door.'))
    .map((control): AskEntry => {
      const why = own.absent(control.id);
      const screen = inventory.screens.get(control.screen);
      const path =
        screen &&
        (screen.path.includes('[')
          ? inventory.screens.get(
              inventory.sections.find((section) => section.screens.some((one) => one.id === screen.id))?.home ?? '',
            )?.path
          : screen.path);
      return {
        id: control.id,
        kind: 'control',
        name: control.name,
        purpose: control.description,
        said: [...(control.said ?? []), ...(screen ? [screen.name] : [])],
        may: why === null,
        href: why === null ? (path ?? null) : null,
        why,
      };
    });
  const shown = new Map(own.dashboard.widgets.map((entry) => [entry.widget, entry]));
  const widgets = [...inventory.widgets.values()].map((widget): AskEntry => {
    const may = (shown.get(widget.id)?.hold ?? 'away') !== 'away';
    return {
      id: widget.id,
      kind: 'widget',
      name: shown.get(widget.id)?.heading ?? widget.name,
      purpose: widget.description,
      said: [widget.name],
      may,
      href: may ? '/room' : null,
      why: may ? null : 'It does not stand on your Today.',
    };
  });
  // A tool is theirs where they have it in some text of a page; one page of each layout stands for the others.
  const samples = [...new Map(input.places.map((place) => [place.layout, place])).values()];
  const tools = [...inventory.tools.values()].map((tool): AskEntry => {
    const may = samples.some((place) => own.writing.has('page', place, [[tool.id]]));
    return {
      id: tool.id,
      kind: 'tool',
      name: tool.name,
      purpose: `${tool.description} It stands above the text, on the edit screen of a page.`,
      said: ['make', 'put in', 'add', 'insert'].map((verb) => `${verb} ${tool.name}`),
      may,
      href: null,
      why: may ? null : 'Your toolbar does not have it.',
    };
  });
  return [...tasks, ...doors, ...screens, ...controls, ...widgets, ...tools];
}
