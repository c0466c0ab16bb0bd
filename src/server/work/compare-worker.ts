import { compareContent, type FieldChange } from '@/core/content';
import { getLayout, layouts } from '@/office/layouts';
import type { CompareWork } from './compare';

/** What the worker does for `compareApart`. */
export default function compare({ before, after, names }: CompareWork): FieldChange[] {
  const pictures = new Map(names.pictures);
  const people = new Map(names.people);
  return compareContent(layouts, [getLayout(before[0]), before[1]], [getLayout(after[0]), after[1]], {
    picture: (id) => pictures.get(id) ?? 'a picture that is gone',
    person: (id) => people.get(id) ?? 'somebody who is gone',
    layout: (id) => layouts.get(id)?.name ?? id,
  });
}
