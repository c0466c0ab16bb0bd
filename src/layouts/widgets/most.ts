import type { ShownWidget } from '@/core/dashboard';

/** As many entries as a widget shows where nothing else was set. */
const USUAL = 5;

/** What a widget shows of a list: as many entries as it was set to. */
export const firstOf = <T>(entry: ShownWidget, list: readonly T[]): T[] => list.slice(0, entry.settings?.most ?? USUAL);
export const mostOf = (entry: ShownWidget): number => entry.settings?.most ?? USUAL;

/** Whether something on a page belongs to the part of the website the widget was set to. */
export const isInPart = (entry: ShownWidget, path: readonly string[]): boolean =>
  entry.settings?.branch === undefined || path.includes(entry.settings.branch);
