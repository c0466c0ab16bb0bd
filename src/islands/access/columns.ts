import { type Extent, joinExtents, type MapRow } from '@/core/access';
import { inventory } from '@/office';
import type { IconName } from '../kit/iconNames';

/** How far something goes, by word, shape and colour. */
export const EXTENT_LOOK: Record<Extent, { word: string; icon: IconName; look: string }> = {
  yes: { word: 'yes', icon: 'check', look: 'bg-pine-soft text-pine-2' },
  some: { word: 'some', icon: 'half', look: 'bg-sun-soft text-sun-ink' },
  no: { word: 'no', icon: 'minus', look: 'text-ink-3' },
};

export const permissions = [...inventory.permissions.values()];
export const sections = inventory.sections.filter((s) => s.permissions.length > 0);

/** One permission, or all of a section: `at` says which of a row's. */
export interface Column {
  id: string;
  name: string;
  at: number[];
  section: string;
}
export const sectionName = (id: string) => {
  const s = sections.find((one) => one.id === id);
  return s?.face === 'frame' ? 'On every screen' : (s?.name ?? id);
};
export const BY_PERMISSION: Column[] = permissions.map((p, at) => ({
  id: p.id,
  name: p.name,
  at: [at],
  section: p.section,
}));
export const BY_SECTION: Column[] = sections.map((s) => ({
  id: s.id,
  name: sectionName(s.id),
  at: permissions.flatMap((p, at) => (p.section === s.id ? [at] : [])),
  section: s.id,
}));
/** How far what a column holds goes for a row. */
export const extentOf = (row: MapRow, column: Column): Extent =>
  joinExtents(column.at.map((at) => row.cells[at] ?? 'no'));
