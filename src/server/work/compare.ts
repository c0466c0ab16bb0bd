import type { FieldChange, Layout, PageContent } from '@/core/content';
import { getEntry, type Inventory } from '@/core/inventory';
import { runApart } from './apart';

/** What ids in fields are called, as a worker can be given it. */
export interface KnownNames {
  pictures: (readonly [string, string])[];
  people: (readonly [string, string])[];
}
/** A content with the layout it is shown by. */
export type ShownContent = readonly [layout: string, content: PageContent];
export interface CompareWork {
  /** Those an item of its type can have. */
  layouts: readonly Layout[];
  before: ShownContent;
  after: ShownContent;
  names: KnownNames;
}

/**
 * Compares two contents apart from everything else, so that long texts keep nobody waiting who does not ask for them.
 * Throws a Problem when too many ask at once, or when it takes too long.
 */
export async function compareApart(
  inventory: Inventory,
  type: string,
  before: ShownContent,
  after: ShownContent,
  names: KnownNames,
): Promise<FieldChange[]> {
  const layouts = getEntry(inventory.items, type).layouts;
  return (await runApart('compare', { layouts, before, after, names } satisfies CompareWork)) as FieldChange[];
}
