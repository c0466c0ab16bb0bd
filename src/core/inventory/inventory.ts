import type { Field, Layout } from '../content';
import {
  TOOL_GROUPS,
  type Control,
  type ItemType,
  type ItemVerb,
  type Permission,
  type PermissionId,
  type Screen,
  type Section,
  type TaskTemplate,
  type Tool,
  type Widget,
} from './types';

/** The single list of what the back office holds. What is not in it does not exist. */
export interface Inventory {
  /** The site's time zone, by its IANA name: whose clock everything goes by. */
  timeZone: string;
  sections: readonly Section[];
  /** The sections that are doors of the Room's menu, in their natural order. */
  doors: readonly Section[];
  permissions: ReadonlyMap<PermissionId, Permission & { section: string }>;
  screens: ReadonlyMap<string, Screen & { section: string }>;
  controls: ReadonlyMap<string, Control & { section: string }>;
  tools: ReadonlyMap<string, Tool>;
  widgets: ReadonlyMap<string, Widget & { section: string }>;
  tasks: ReadonlyMap<string, TaskTemplate & { section: string }>;
  /** Forms a page can have, by id. */
  layouts: ReadonlyMap<string, Layout>;
  /** What every page has to fill in beside its layout's fields, by id. */
  settings: ReadonlyMap<string, Field>;
  /** Kinds of items, by id. */
  items: ReadonlyMap<string, ItemType & { section: string }>;
  /** Object of a permission (`page`) → section (`pages`). */
  sectionOfObject: ReadonlyMap<string, string>;
}

/** The kind of item that has a place in the tree and an address; what else there is lies on one. */
const PAGE = 'page';
const ITEM_VERBS: readonly ItemVerb[] = ['view', 'edit', 'send', 'publish', 'retire'];

export class InventoryError extends Error {}

function index<T extends { id: string }>(kind: string, entries: readonly T[]): Map<string, T> {
  const map = new Map<string, T>();
  for (const entry of entries) {
    if (map.has(entry.id)) throw new InventoryError(`${kind} "${entry.id}" is declared twice`);
    map.set(entry.id, entry);
  }
  return map;
}

const inSection = <T extends object>(section: Section, list: readonly T[] | undefined) =>
  (list ?? []).map((entry) => ({ ...entry, section: section.id }));

export const objectOf = (permission: string): string => permission.slice(0, permission.indexOf('.'));
export const isReading = (permission: string): boolean => permission.endsWith('.view');

/** Something that is worked out of an inventory: once for each. */
export function ofInventory<T>(make: (inventory: Inventory) => T): (inventory: Inventory) => T {
  const known = new WeakMap<Inventory, { is: T }>();
  return (inventory) => {
    let found = known.get(inventory);
    if (!found) known.set(inventory, (found = { is: make(inventory) }));
    return found.is;
  };
}

/**
 * Joins section files into the inventory of a site.
 * @throws InventoryError when an id is declared twice, or names a screen, permission, tool or control that is not
 * there.
 */
export function makeInventory(sections: readonly Section[], { timeZone }: { timeZone: string }): Inventory {
  index('section', sections);
  const items = index(
    'kind of item',
    sections.flatMap((s) => inSection(s, s.items)),
  );
  const page = items.get(PAGE);
  const inventory: Inventory = {
    timeZone,
    sections,
    doors: sections.filter((section) => section.face === 'door'),
    permissions: index(
      'permission',
      sections.flatMap((s) => inSection(s, s.permissions)),
    ) as never,
    screens: index(
      'screen',
      sections.flatMap((s) => inSection(s, s.screens)),
    ),
    controls: index(
      'control',
      sections.flatMap((s) => inSection(s, s.controls)),
    ),
    tools: index(
      'tool',
      sections.flatMap((s) => s.tools ?? []),
    ),
    widgets: index(
      'widget',
      sections.flatMap((s) => inSection(s, s.widgets)),
    ),
    tasks: index(
      'task',
      sections.flatMap((s) => inSection(s, s.tasks)),
    ),
    items,
    layouts: index('layout', page?.layouts ?? []),
    settings: index('setting', page?.settings ?? []),
    sectionOfObject: new Map(sections.flatMap((s) => s.permissions.map((p) => [objectOf(p.id), s.id] as const))),
  };
  const must = (there: boolean, what: string) => {
    if (!there) throw new InventoryError(what);
  };
  for (const section of sections)
    must(inventory.screens.has(section.home), `${section.id}: no screen "${section.home}"`);
  for (const { id, screen } of items.values()) {
    must(inventory.screens.has(screen), `${id}: no screen "${screen}"`);
    for (const verb of ITEM_VERBS)
      must(inventory.permissions.has(`${id}.${verb}`), `${id}: no permission "${id}.${verb}"`);
  }
  for (const screen of inventory.screens.values()) {
    must(!screen.needs || inventory.permissions.has(screen.needs), `${screen.id}: no permission "${screen.needs}"`);
    must(!screen.on || screen.on === 'review' || items.has(screen.on), `${screen.id}: no kind of item "${screen.on}"`);
  }
  for (const control of inventory.controls.values()) {
    must(inventory.screens.has(control.screen), `${control.id}: no screen "${control.screen}"`);
    for (const need of [control.needs ?? []].flat())
      must(inventory.permissions.has(need), `${control.id}: no permission "${need}"`);
    for (const field of control.fields ?? [])
      must(fieldName(inventory, field) !== undefined, `${control.id}: no field "${field}"`);
    for (const tool of control.tools ?? []) must(inventory.tools.has(tool), `${control.id}: no tool "${tool}"`);
  }
  for (const widget of inventory.widgets.values())
    must(!widget.needs || inventory.permissions.has(widget.needs), `${widget.id}: no permission "${widget.needs}"`);
  for (const task of inventory.tasks.values()) {
    must(inventory.screens.has(task.screen), `${task.id}: no screen "${task.screen}"`);
    for (const need of task.needs) must(inventory.permissions.has(need), `${task.id}: no permission "${need}"`);
    for (const tool of task.tools ?? []) must(inventory.tools.has(tool), `${task.id}: no tool "${tool}"`);
    for (const move of task.moves)
      must(inventory.controls.has(move.control), `${task.id}: no control "${move.control}"`);
  }
  return inventory;
}

/** Every field a page can have: those of the layouts, then those of every page. */
export const fieldIds = (inventory: Inventory): string[] => [
  ...new Set([
    ...[...inventory.layouts.values()].flatMap((layout) => layout.fields.map(({ id }) => id)),
    ...inventory.settings.keys(),
  ]),
];

/** Whether pages of a layout have a field. */
export const hasField = (inventory: Inventory, layout: string, field: string): boolean =>
  inventory.settings.has(field) || (inventory.layouts.get(layout)?.fields.some(({ id }) => id === field) ?? false);

/** What a field of a page is called, whether a layout's or every page's; undefined when there is none. */
export const fieldName = (inventory: Inventory, id: string): string | undefined =>
  inventory.settings.get(id)?.name ??
  [...inventory.layouts.values()].flatMap((layout) => layout.fields).find((field) => field.id === id)?.name;

/** What a tool is called; the id of one that is gone. */
export const toolName = (inventory: Pick<Inventory, 'tools'>, id: string): string =>
  inventory.tools.get(id)?.name ?? id;

/** A form that something can have, a page's layout or another item's, with those of its fields that hold rich text. */
export interface WrittenForm {
  /** The kind of item. */
  type: string;
  layout: Layout;
  texts: readonly Field[];
}
/** Every form there is. */
export const writtenForms = (inventory: Inventory): WrittenForm[] =>
  [...inventory.items.values()].flatMap((type) =>
    type.layouts.map((layout) => ({
      type: type.id,
      layout,
      texts: layout.fields.filter(({ kind }) => kind === 'rich' || kind === 'pieces'),
    })),
  );

/** Layouts and fields by their names, as sentences have them. */
export const scopeNames = (inventory: Inventory) => ({
  layout: (id: string) => `“${inventory.layouts.get(id)?.name ?? id}”`,
  field: (id: string) => `“${fieldName(inventory, id) ?? id}”`,
});

/** Looks an entry up that must be there; throws InventoryError naming the id when it is not. */
export function getEntry<T>(map: ReadonlyMap<string, T>, id: string): T {
  const entry = map.get(id);
  if (entry === undefined) throw new InventoryError(`the inventory holds no "${id}"`);
  return entry;
}

/** The screen that an address belongs to, with the segment its `[id]` stands for. */
export function findScreen(
  inventory: Inventory,
  pathname: string,
): { screen: Screen & { section: string }; id?: string } | undefined {
  const asked = pathname.replace(/\/+$/, '').split('/');
  let best: { screen: Screen & { section: string }; id?: string } | undefined;
  for (const screen of inventory.screens.values()) {
    const pattern = screen.path.split('/');
    if (pattern.length !== asked.length) continue;
    let id: string | undefined;
    const fits = pattern.every((part, i) => {
      if (!part.startsWith('[')) return part === asked[i];
      if (part === '[id]') id = asked[i];
      return asked[i] !== '';
    });
    if (fits && (!best || id === undefined)) best = id === undefined ? { screen } : { screen, id };
  }
  return best;
}

export const TOOL_GROUP_IDS = Object.keys(TOOL_GROUPS) as [Tool['group'], ...Tool['group'][]];

/**
 * Tools by their groups, in the order a toolbar has them; groups without any are left out. `first`: those that stand
 * before the others.
 */
export const groupTools = (
  tools: readonly Tool[],
  first: readonly Tool['group'][] = [],
): { id: Tool['group']; name: string; tools: Tool[] }[] =>
  [...new Set([...first, ...TOOL_GROUP_IDS])]
    .map((id) => ({ id, name: TOOL_GROUPS[id], tools: tools.filter((tool) => tool.group === id) }))
    .filter((group) => group.tools.length > 0);
