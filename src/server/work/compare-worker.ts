import { compareContent, type FieldChange } from '@/core/content';
import type { CompareWork } from './compare';

/** What the worker does for `compareApart`. It is given all it needs: a worker that loads much would begin slowly. */
export default function compare({ layouts: list, before, after, names }: CompareWork): FieldChange[] {
  const layouts = new Map(list.map((layout) => [layout.id, layout]));
  const layoutOf = (id: string) => {
    const layout = layouts.get(id);
    if (!layout) throw new RangeError(`there is no layout "${id}"`);
    return layout;
  };
  const pictures = new Map(names.pictures);
  const people = new Map(names.people);
  return compareContent(layouts, [layoutOf(before[0]), before[1]], [layoutOf(after[0]), after[1]], {
    picture: (id) => pictures.get(id) ?? 'a picture that is gone',
    person: (id) => people.get(id) ?? 'somebody who is gone',
    layout: (id) => layouts.get(id)?.name ?? id,
  });
}
