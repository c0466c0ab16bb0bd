import type { Place } from '../access';
import { hasField, isReading, objectOf, type Inventory, type PermissionId, type TaskTemplate } from '../inventory';
import { chainsOf } from './chains';
import type { TaskFacts } from './facts';
import { permissionsOf, type Missing } from './missing';

/** Whether a task can be done, or the first thing that is missing, in the order a person would meet it. */
export type Verdict = { can: true } | { can: false; missing: Missing };

/** What a task asks for: somewhere, to get to it, and on the very thing it is about. */
export interface TaskNeeds {
  somewhere: PermissionId[];
  onThing: PermissionId[];
}

/** The controls somebody has to use; what is only shown on the way may be missing. */
const usedControls = (inventory: Inventory, task: TaskTemplate) =>
  task.moves.filter((move) => move.await !== 'see').flatMap((move) => inventory.controls.get(move.control) ?? []);

/** Every permission a task needs, by its screens, its controls and by itself. */
export function needsOf(inventory: Inventory, task: TaskTemplate): TaskNeeds {
  const screens = [
    task.screen,
    ...task.moves.map((move) => inventory.controls.get(move.control)?.screen ?? task.screen),
  ].flatMap((id) => inventory.screens.get(id) ?? []);
  const list = (ids: (PermissionId | undefined)[]) => [...new Set(ids)].filter((id) => id !== undefined);
  return {
    somewhere: list(screens.filter((screen) => !screen.on).map((screen) => screen.needs)),
    onThing: list([
      ...screens.filter((screen) => screen.on).map((screen) => screen.needs),
      ...task.needs,
      ...usedControls(inventory, task).flatMap(permissionsOf),
    ]),
  };
}

/**
 * The pages one thing of which carries all that a task needs; every page where it is about nothing that lies somewhere.
 * Empty when it cannot be done.
 */
export function placesFor(task: TaskTemplate & { section: string }, facts: TaskFacts): Place[] {
  const places = chainPlaces(task, facts);
  return missingEverywhere(task, facts, places) ? [] : (places ?? [...facts.places]);
}

/** Places at which the whole chain holds; undefined where the task is about nothing that lies somewhere. */
function chainPlaces(task: TaskTemplate, facts: TaskFacts, most = Infinity): Place[] | undefined {
  const { inventory } = facts;
  const needs = needsOf(inventory, task).onThing.filter((id) => inventory.permissions.get(id)?.placed);
  if (!task.thing || needs.length === 0) return undefined;
  const isTheirs = fieldsOf(task, facts);
  const chains = chainsOf(task.thing, needs, facts);
  const hasTools = toolsFor(task, facts);
  const hasPanels = panelsFor(task, facts);
  const found: Place[] = [];
  for (const place of facts.places) {
    if (chains(place) && isTheirs(place) && hasTools(place) && hasPanels(place)) found.push(place);
    if (found.length >= most) break;
  }
  return found;
}

/** The tools a task is done with, one of each list. */
const toolsNeeded = (inventory: Inventory, task: TaskTemplate): (readonly string[])[] => [
  ...(task.tools ?? []).map((tool) => [tool]),
  ...usedControls(inventory, task).flatMap((control) => (control.tools ? [control.tools] : [])),
];

/** Whether the tools of a task are there in one text of the thing it is about. */
function toolsFor(task: TaskTemplate, { inventory, hasTools }: TaskFacts): (place: Place) => boolean {
  const tools = toolsNeeded(inventory, task);
  if (tools.length === 0) return () => true;
  const [type = 'page'] = task.needs.map(objectOf).filter((object) => inventory.items.has(object));
  return (place) => hasTools(type, place, tools);
}

const panelsUsed = (inventory: Inventory, task: TaskTemplate) =>
  usedControls(inventory, task).filter(({ panel }) => panel);

/** Whether every panel a task uses is on the edit screen, also once the thing is a draft. */
function panelsFor(task: TaskTemplate, { inventory, shows }: TaskFacts): (place: Place) => boolean {
  const panels = panelsUsed(inventory, task);
  return (place) => panels.every(({ id, screen }) => shows(inventory.screens.get(screen)?.on ?? 'page', place, id));
}

/** Whether every control a task uses has a field on a page that they may change, also once it is a draft. */
function fieldsOf(task: TaskTemplate, { inventory, may }: TaskFacts): (place: Place) => boolean {
  const lists = usedControls(inventory, task).flatMap((control) => (control.fields ? [control.fields] : []));
  return (place) =>
    lists.every((list) =>
      list.some(
        (id) =>
          hasField(inventory, place.layout, id) &&
          may('page.edit', place, id) &&
          may('page.edit', { ...place, state: 'draft' }, id),
      ),
    );
}

/**
 * What is missing wherever one looks; what a whole chain has needs no other page (a new page may be allowed what no
 * page there is allows).
 */
function missingEverywhere(
  task: TaskTemplate & { section: string },
  facts: TaskFacts,
  places: readonly Place[] | undefined,
): Missing | undefined {
  const { inventory } = facts;
  const needs = needsOf(inventory, task);
  const held = (permission: PermissionId) =>
    places !== undefined && places.length > 0 && inventory.permissions.get(permission)?.placed;
  for (const permission of new Set([...needs.somewhere, ...needs.onThing.filter((id) => !held(id))])) {
    const decision = facts.best(permission);
    if (decision.allowed) continue;
    const section = inventory.sectionOfObject.get(objectOf(permission)) ?? task.section;
    const door = inventory.doors.some((s) => s.id === section) ? facts.doorOf(section) : 'open';
    if (door === 'closed' || (door === 'look' && !isReading(permission)))
      return { kind: 'door', id: section, state: door };
    return { kind: decision.reason === 'denied' ? 'denied' : 'permission', id: permission };
  }
  return undefined;
}

/**
 * Whether somebody can do a task at an instant with the tools and controls they have: when there is one thing, or one
 * chain of things, that carries all it needs. The same verdict serves the list of tasks, the room, Today, tours and the
 * Workshop.
 */
export function judgeTask(task: TaskTemplate & { section: string }, facts: TaskFacts): Verdict {
  const places = chainPlaces(task, facts, 1);
  const missing = missingEverywhere(task, facts, places);
  if (missing) return { can: false, missing };
  if (places?.length !== 0) return { can: true };
  const panel = panelsUsed(facts.inventory, task).find(
    ({ id }) =>
      chainPlaces(task, { ...facts, shows: (type, at, of) => of !== id || facts.shows(type, at, of) }, 1)?.length === 0,
  );
  if (panel && chainPlaces(task, { ...facts, shows: () => true }, 1)?.length !== 0)
    return { can: false, missing: { kind: 'panel', control: panel.id } };
  const withoutTools: TaskFacts = { ...facts, hasTools: () => true };
  if (chainPlaces(task, withoutTools, 1)?.length !== 0) {
    // With one tool alone it may be done nowhere; if each would do somewhere, no text has them together.
    const lists = toolsNeeded(facts.inventory, task);
    const lacking = lists.find(
      (some) =>
        chainPlaces(task, { ...facts, hasTools: (type, at) => facts.hasTools(type, at, [some]) }, 1)?.length === 0,
    );
    return { can: false, missing: { kind: 'tool', id: (lacking ?? lists[0])?.[0] ?? '' } };
  }
  const anyField =
    chainPlaces({ ...task, moves: task.moves.map((move) => ({ ...move, await: 'see' as const })) }, withoutTools, 1)
      ?.length !== 0;
  const control = anyField && usedControls(facts.inventory, task).find((one) => one.fields);
  return {
    can: false,
    missing: control
      ? { kind: 'field', control: control.id }
      : {
          kind: 'apart',
          ids: needsOf(facts.inventory, task).onThing.filter((id) => facts.inventory.permissions.get(id)?.placed),
        },
  };
}
