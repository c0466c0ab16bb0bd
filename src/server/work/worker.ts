import { compareContent, type FieldChange } from '@/core/content';
import { acceptChange, usualPolicy, type AcceptFault } from '@/core/toolbar';
import type { AcceptWork } from './accept';
import type { CompareWork } from './compare';

/** What the worker does for `compareApart`. It is given all it needs: a worker that loads much would begin slowly. */
function compare({ layouts: list, before, after, names }: CompareWork): FieldChange[] {
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

/** What the worker does for `acceptApart`. */
function accept({ before, after, from, makes, keep }: AcceptWork): AcceptFault[] {
  const made = makes && new Set(makes);
  return acceptChange(
    before,
    after,
    {
      makes: (one) => made === null || made.has(one),
      policyOf: (construct) => keep[construct] ?? usualPolicy(construct),
    },
    from,
  );
}

const WORK = { compare, accept };
/** One entry for all work: the pool loads it when a thread begins. */
export default function run({ name, work }: { name: keyof typeof WORK; work: unknown }): unknown {
  return WORK[name](work as never);
}
