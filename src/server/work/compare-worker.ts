import { compareContent, type FieldChange, type Layouts } from '@/core/content';
import { getEntry } from '@/core/inventory';
import { inventory } from '@/office';
import type { CompareWork } from './compare';

/** What the worker does for `compareApart`. */
export default function compare({ type, before, after, names }: CompareWork): FieldChange[] {
  const layouts: Layouts = new Map(getEntry(inventory.items, type).layouts.map((layout) => [layout.id, layout]));
  const pictures = new Map(names.pictures);
  const people = new Map(names.people);
  return compareContent(layouts, [getEntry(layouts, before[0]), before[1]], [getEntry(layouts, after[0]), after[1]], {
    picture: (id) => pictures.get(id) ?? 'a picture that is gone',
    person: (id) => people.get(id) ?? 'somebody who is gone',
    layout: (id) => layouts.get(id)?.name ?? id,
  });
}
