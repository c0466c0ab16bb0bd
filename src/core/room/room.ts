import { type DoorState, type Place } from '../access';
import type { Document } from '../content';
import { joinBoards, type Board } from '../dashboard';
import { joinLists, type PageListSetup } from '../lists';
import { isReading, objectOf, type Control, type Section } from '../inventory';
import { allDoors } from '../plan';
import { judgeTask, lackingFor, missingInWords, placesFor, type Having, type TaskFacts, type Verdict } from '../task';
import type { ElementState } from '../screens';
import { tourOf, type Tour } from '../tour';
import { followed, menuOf, type Following, type RoomMenu } from './menu';
import { screensOf } from './screens';
import { editOf, writingOf, type Writing } from './writing';
import { type RoomInput, type Asker, askerFor, heldRoles, better } from './asker';

export interface RoomDoor {
  section: string;
  name: string;
  icon: string;
  purpose: string;
  state: Exclude<DoorState, 'closed'>;
  path: string;
  /** What is behind it, in the administrator's words. */
  hint?: string;
}

export interface RoomTask {
  task: string;
  section: string;
  name: string;
  purpose: string;
  said: string[];
  start: string;
  verdict: Verdict;
  /** Pages it can be done on, asked when wanted: all of them for a task that is about no page. */
  pages: () => string[];
  /** Worked out when wanted: most of what a room costs. */
  readonly tour: Tour;
}

/** The back office as one person gets it. */
export interface Room {
  person: { id: string; name: string };
  roles: { id: string; name: string }[];
  /** In menu order, put-away doors included (they are found by asking). */
  doors: RoomDoor[];
  menu: RoomMenu<RoomDoor>;
  /** What the office says in a place: to everybody first, then to their roles. */
  words: (place: string) => Document[];
  /** Where something kept as a way leads; null where it is not theirs. */
  follow: (to: string) => string | null;
  writing: Writing;
  /** What stands on Today, and what is offered: of what they may look at, before they arranged any of it. */
  dashboard: Board;
  /** How the list of pages begins. */
  list: PageListSetup;
  tasks: RoomTask[];
  /** Why a control is not in this room; null where it is. */
  absent: (control: string) => string | null;
}

/**
 * The room of a person under a plan at an instant. Pure: the same in the Workshop's miniature, in the Room
 * and in the tests. A person with several roles gets the best of each: the most open door, every tool, every
 * task; order and names come from the role assigned first. `asker`: of the same input, where it was made already.
 */
export function room(input: RoomInput, asker: Asker = askerFor(input)): Room {
  const { best, may } = asker;
  const { inventory } = input;
  const roles = heldRoles(input);
  const planned = new Map<string, { state: DoorState; name?: string | undefined }>();
  for (const role of roles)
    for (const door of allDoors(inventory, role.doors)) {
      const old = planned.get(door.section);
      planned.set(
        door.section,
        old
          ? { state: better(old.state, door.state), name: old.name ?? door.name }
          : { state: door.state, name: door.name },
      );
    }
  const doors: RoomDoor[] = [];
  for (const [id, { state, name }] of planned) {
    const section = inventory.sections.find((s) => s.id === id);
    const home = section && inventory.screens.get(section.home);
    if (!section || !home || state === 'closed' || (home.needs && !best(home.needs).allowed)) continue;
    const worksHere =
      section.permissions.every((p) => isReading(p.id)) ||
      section.permissions.some((p) => !isReading(p.id) && best(p.id).allowed);
    const hint = roles.map(({ menu }) => menu.hints[id]).find((one) => one !== undefined);
    doors.push({
      section: id,
      name: name ?? section.name,
      icon: section.icon,
      purpose: section.purpose,
      path: home.path,
      ...(hint !== undefined && { hint }),
      state: state === 'open' && !worksHere ? 'look' : state,
    });
  }
  const writing = writingOf(inventory, input.plan, input.person, input.nowMs);
  const screens = screensOf(inventory, input.plan, input.person, input.nowMs);

  const seesWidget = (id: string) => {
    const widget = inventory.widgets.get(id);
    return widget !== undefined && (!widget.needs || best(widget.needs).allowed);
  };
  const dashboard = joinBoards(
    roles.map(({ id, dashboard: { columns, widgets } }) => ({
      role: id,
      board: { columns, widgets: widgets.filter(({ widget }) => seesWidget(widget)) },
    })),
  );

  const doorOf = (section: string): DoorState => planned.get(section)?.state ?? 'closed';
  const nameOf = (section: Section | undefined, id: string) =>
    doors.find((d) => d.section === id)?.name ?? planned.get(id)?.name ?? section?.name ?? id;
  const facts: TaskFacts = {
    inventory,
    person: input.person.id,
    best,
    may: (permission, place, field) =>
      may(permission, place, field) && (field === undefined || screens.theirs(objectOf(permission), place, field)),
    places: input.places,
    doorOf,
    hasTools: writing.has,
    shows: (type, place, panel) => screens.of(type, place, panel).show !== 'hidden',
  };
  const known = new Map<string, readonly Place[]>();
  /** Where they may change things of a type. */
  const theirPlaces = (type: string): readonly Place[] => {
    const permission = editOf(type);
    const places =
      known.get(type) ?? (best(permission).allowed ? input.places.filter((place) => may(permission, place)) : []);
    known.set(type, places);
    return places;
  };
  const having: Having = {
    may: (permission) => best(permission).allowed,
    hasTool: (tools, screen) => {
      const type = inventory.screens.get(screen)?.on ?? '';
      return theirPlaces(type).some((place) => writing.has(type, place, [tools]));
    },
  };
  const states = new Map<string, readonly ElementState[]>();
  /** How edit screens of theirs have a control, wherever they may change something; none if nothing is said. */
  const statesOf = (control: Control): readonly ElementState[] => {
    const type = inventory.screens.get(control.screen)?.on;
    if (type === undefined || !screens.names(control.id)) return [];
    const found = states.get(control.id) ?? [
      ...new Set(theirPlaces(type).map((place) => screens.of(type, place, control.id))),
    ];
    states.set(control.id, found);
    return found;
  };
  const isShown = ({ show }: ElementState) => show !== 'hidden';
  /** Whether a panel is hidden on every screen of theirs that could have it. */
  const isHidden = (control: Control) => {
    const had = control.panel ? statesOf(control) : [];
    return had.length > 0 && !had.some(isShown);
  };
  const tourRoom = {
    doorName: (id: string) =>
      nameOf(
        inventory.sections.find((s) => s.id === id),
        id,
      ),
    calls: (control: Control) => {
      const names = new Set(
        statesOf(control)
          .filter(isShown)
          .map(({ label }) => label ?? control.name),
      );
      return [...names].join('” or “') || control.name;
    },
    doorShown: (id: string) => doors.some((d) => d.section === id && d.state !== 'away') || doorOf(id) === 'closed',
    absent: (id: string): string | null => {
      const control = inventory.controls.get(id);
      const screen = control && inventory.screens.get(control.screen);
      if (!control || !screen) return 'It is not in the inventory.';
      if (id.startsWith('door.'))
        return doors.some((d) => `door.${d.section}` === id && d.state !== 'away')
          ? null
          : `The door “${control.name}” is not in this room.`;
      const [first] = [{ ...screen, screen: screen.id }, control].flatMap((one) => lackingFor(one, having));
      if (!first) return isHidden(control) ? missingInWords(inventory, { kind: 'panel', control: id }) : null;
      return first.kind === 'permission'
        ? `“${control.name}” is not in this room: may not ${inventory.permissions.get(first.id)?.name ?? first.id}.`
        : missingInWords(inventory, first);
    },
  };
  const tasks: RoomTask[] = [];
  for (const role of roles)
    for (const ticked of role.tasks) {
      const template = inventory.tasks.get(ticked.task);
      if (!template || tasks.some((t) => t.task === ticked.task)) continue;
      const name = ticked.name ?? template.name;
      let tour: Tour | undefined;
      tasks.push({
        task: template.id,
        section: template.section,
        name,
        purpose: template.purpose,
        said: [...template.said, ...(ticked.said ?? []), template.name],
        start: inventory.screens.get(template.screen)?.path ?? '/room',
        verdict: judgeTask(template, facts),
        pages: () => placesFor(template, facts).map((place) => place.path.at(-1) ?? ''),
        get tour() {
          return (tour ??= tourOf(inventory, tourRoom, role.tours, template, name));
        },
      });
    }
  let byPage: ReadonlyMap<string | undefined, Place> | undefined;
  const following: Following = {
    inventory,
    may: (permission) => best(permission).allowed,
    mayOn: may,
    placeOf: (page) => (byPage ??= new Map(input.places.map((place) => [place.path.at(-1), place]))).get(page),
    startOf: (task) => tasks.find((one) => one.task === task && one.verdict.can)?.start,
  };
  return {
    person: { id: input.person.id, name: input.person.name },
    roles: roles.map(({ id, name }) => ({ id, name })),
    doors,
    menu: menuOf(
      roles,
      doors.filter(({ state }) => state !== 'away'),
      following,
    ),
    words: (place) => {
      const said = input.plan.words.filter(({ at }) => at === place);
      const held = roles.map(({ id }) => id);
      return [
        ...said.filter(({ role }) => role === undefined),
        ...held.flatMap((id) => said.filter(({ role }) => role === id)),
      ].map(({ text }) => text);
    },
    follow: (to) => followed(to, following),
    writing,
    dashboard,
    list: joinLists(roles.map(({ pageList }) => pageList ?? { filters: [] })),
    tasks,
    absent: tourRoom.absent,
  };
}
