import { type Extent, joinExtents, type MapRow } from '@/core/access';
import type { IconName } from '../kit/iconNames';
import { type Inventory, ofInventory } from '@/core/inventory';

/** How far something goes, by word, shape and colour. */
export const EXTENT_LOOK: Record<Extent, { word: string; icon: IconName; look: string }> = {
  yes: { word: 'yes', icon: 'check', look: 'bg-pine-soft text-pine-2' },
  some: { word: 'some', icon: 'half', look: 'bg-sun-soft text-sun-ink' },
  no: { word: 'no', icon: 'minus', look: 'text-ink-3' },
};

export const mapPermissions = ofInventory((inventory) => [...inventory.permissions.values()]);
export const mapSections = ofInventory((inventory) => inventory.sections.filter((s) => s.permissions.length > 0));

/** One permission, or all of a section: `at` says which of a row's. */
export interface Column {
  id: string;
  name: string;
  at: number[];
  section: string;
}
export const sectionName = (inventory: Inventory, id: string) => {
  const s = mapSections(inventory).find((one) => one.id === id);
  return s?.face === 'frame' ? 'On every screen' : (s?.name ?? id);
};
export const byPermission = ofInventory((inventory): Column[] =>
  mapPermissions(inventory).map((p, at) => ({ id: p.id, name: p.name, at: [at], section: p.section })),
);
export const bySection = ofInventory((inventory): Column[] =>
  mapSections(inventory).map((s) => ({
    id: s.id,
    name: sectionName(inventory, s.id),
    at: mapPermissions(inventory).flatMap((p, at) => (p.section === s.id ? [at] : [])),
    section: s.id,
  })),
);
/** How far what a column holds goes for a row. */
export const extentOf = (row: MapRow, column: Column): Extent =>
  joinExtents(column.at.map((at) => row.cells[at] ?? 'no'));
