import { findScreen, type Inventory, type PermissionId } from '../inventory';
import type { PlanRole } from '../plan';
import type { Place } from '../access';

/** A door of the menu, as far as the menu itself needs it. */
interface DoorOfMenu {
  section: string;
  path: string;
}

export interface RoomShortcut {
  name: string;
  href: string;
  /** It leads out of the back office. */
  outside: boolean;
}

/** How the menu stands: doors in no group, then groups with their headings, then shortcuts. */
export interface RoomMenu<Door extends DoorOfMenu> {
  doors: Door[];
  groups: { name: string; doors: Door[] }[];
  shortcuts: RoomShortcut[];
  /** The screen after signing in. */
  first: string;
}

/** What of shortcuts and favourites is theirs to follow. */
export interface Following {
  inventory: Inventory;
  /** Whether a permission is held anywhere. */
  may: (permission: PermissionId) => boolean;
  /** Whether a thing of a kind that lies somewhere may be looked at. */
  mayOn: (permission: PermissionId, place: Place) => boolean;
  /** Where a page lies; undefined when it is gone. */
  placeOf: (page: string) => Place | undefined;
  /** Where a task that can be done begins. */
  startOf: (task: string) => string | undefined;
}

/** Where something leads that was kept as a way: `task:…`, `page:…`, a screen, an address outside; null where it is not theirs. */
export function followed(to: string, { inventory, may, mayOn, placeOf, startOf }: Following): string | null {
  if (to.startsWith('task:')) return startOf(to.slice(5)) ?? null;
  if (to.startsWith('page:')) {
    const place = placeOf(to.slice(5));
    return place && mayOn('page.view', place) ? `/room/pages/${to.slice(5)}` : null;
  }
  if (!to.startsWith('/')) return to;
  const found = findScreen(inventory, to.split(/[?#]/)[0] ?? '');
  if (!found || !/^\/room(\/|\?|$)/.test(to)) return null;
  const { screen, id } = found;
  if (!screen.needs) return to;
  if (screen.on === 'page') {
    const place = placeOf(id ?? '');
    return place && mayOn(screen.needs, place) ? to : null;
  }
  return may(screen.needs) ? to : null;
}

/**
 * The menu of somebody with these roles, in the order they were given: groups of the first role that has some, with what
 * those of the others add; shortcuts of all of them; the first screen of the first that says one and has it.
 */
export function menuOf<Door extends DoorOfMenu>(
  roles: readonly Pick<PlanRole, 'menu'>[],
  shown: readonly Door[],
  following: Following,
): RoomMenu<Door> {
  const groups: { name: string; doors: Door[] }[] = [];
  const placed = new Set<string>();
  for (const { menu } of roles)
    for (const group of menu.groups) {
      const doors = group.doors.flatMap((id) => {
        const door = shown.find(({ section }) => section === id);
        if (!door || placed.has(id)) return [];
        placed.add(id);
        return [door];
      });
      if (doors.length === 0) continue;
      const same = groups.find(({ name }) => name === group.name);
      if (same) same.doors.push(...doors);
      else groups.push({ name: group.name, doors });
    }
  const shortcuts = new Map<string, RoomShortcut>();
  for (const { menu } of roles)
    for (const { name, to } of menu.shortcuts) {
      const href = followed(to, following);
      if (href !== null && !shortcuts.has(to)) shortcuts.set(to, { name, href, outside: !href.startsWith('/') });
    }
  const first = roles
    .flatMap(({ menu }) => menu.first ?? [])
    .map((id) => shown.find(({ section }) => section === id)?.path)
    .find((path) => path !== undefined);
  return {
    doors: shown.filter(({ section }) => !placed.has(section)),
    groups,
    shortcuts: [...shortcuts.values()],
    first: first ?? '/room',
  };
}
