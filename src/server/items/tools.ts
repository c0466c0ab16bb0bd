import type { Place } from '@/core/access';
import { emptyDocument, type PageContent } from '@/core/content';
import { writingOf } from '@/core/room';
import { CONSTRUCT_NAMES, handy, makersOf, type AcceptFault } from '@/core/toolbar';
import { acceptApart } from '../work/accept';
import { now } from '../clock';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { blocksOf, type Form } from './forms';
import type { Inventory } from '@/core/inventory';

/** What an item said before somebody wrote. */
export interface Before {
  /** Newest: its draft, or what stands on it. */
  shown: PageContent | undefined;
  /** What visitors see, and what waits. */
  once: readonly (PageContent | undefined)[];
  /**
   * Where `shown` was written by whoever writes now: the layout, and the path of its page. Made with the tools they had
   * there, it is no text to begin from with others.
   */
  writtenOn?: { layout: string; path: string | null } | undefined;
  /** Whether `shown` is no text to take anything from. */
  isElsewhere?: boolean | undefined;
  /** What the draft's rich fields said as its writer found it, and in versions they went back to. */
  bases: readonly PageContent[];
}

/** The same for a layout and a place that it is written on now. */
export function beforeOn(before: Before, layout: string, path: string | null): Before {
  const { writtenOn, once } = before;
  const isElsewhere =
    writtenOn !== undefined &&
    (writtenOn.layout !== layout || (writtenOn.path !== null && path !== null && writtenOn.path !== path));
  if (!isElsewhere) return before;
  // What visitors see is there whoever made it; what only waits was made on its own layout.
  const [live, ...waiting] = once;
  const theirs = [live, ...waiting.filter((text) => text?.['page.layout'] === layout)];
  return { ...before, once: theirs, isElsewhere };
}

/** What only the rich fields of a content say. */
export const richOf = (form: Form, content: PageContent): PageContent =>
  Object.fromEntries(form.rich.flatMap(({ id }) => (content[id] === undefined ? [] : [[id, content[id]]])));

/** What of a content is not accepted, field by field, by the tools and rules of each on this place. */
async function faultsIn(
  access: Access,
  form: Form,
  place: Place,
  { shown, once, bases, isElsewhere = false }: Before,
  content: PageContent,
) {
  const writing = writingOf(access.inventory, access.plan, access.who, now().getTime());
  const out: { field: string; faults: AcceptFault[] }[] = [];
  for (const field of form.rich) {
    const { tools, keep } = writing.of(form.type.id, place, field.id);
    const [before, ...from] = [shown, ...(isElsewhere ? [] : [shown]), ...once, ...bases].map((text) =>
      text?.[field.id] === undefined ? null : blocksOf(field, text),
    );
    const faults = await acceptApart(
      {
        before: before ?? emptyDocument(),
        after: blocksOf(field, content),
        from: from.filter((text) => text !== null && text !== undefined),
        keep,
      },
      handy(tools, access.inventory.tools.keys()),
      [...access.inventory.tools.values()],
    );
    if (faults.length > 0) out.push({ field: field.id, faults });
  }
  return out;
}

/** The tools that would make what is new, by their ids with their names. */
const makersFor = (inventory: Inventory, faults: readonly AcceptFault[]): Map<string, string> =>
  new Map(
    faults
      .filter((fault) => fault.why === 'new')
      .flatMap((fault) => makersOf([...inventory.tools.values()], fault.made))
      .map((tool) => [tool.id, tool.name]),
  );
const inWords = (names: Iterable<string>) => [...names].map((name) => `“${name}”`).join(' and ');

/**
 * Refuses a content for which tools were needed that somebody does not have, and one in which something they could not
 * make again is gone or changed. What stands in one of the texts before, in the same field, needs no tool.
 */
export async function mustHaveTools(
  access: Access,
  form: Form,
  place: Place,
  before: Before,
  content: PageContent,
): Promise<void> {
  for (const { field, faults } of await faultsIn(access, form, place, before, content)) {
    const missing = makersFor(access.inventory, faults);
    if (missing.size > 0)
      throw new Problem('tools-missing', { tools: inWords(missing.values()) }, { tools: [...missing.keys()], field });
    const names = new Set(faults.map(({ construct }) => CONSTRUCT_NAMES[construct] ?? construct));
    throw new Problem('takes-away', { what: [...names].join(' or ') }, { field });
  }
}

/** Refuses a copy of texts that somebody could not have written at the place it is put: there all of it is new. */
export async function mustHaveToolsToCopy(
  access: Access,
  form: Form,
  place: Place,
  content: PageContent,
): Promise<void> {
  const nothing: Before = { shown: undefined, once: [], bases: [] };
  const missing = makersFor(
    access.inventory,
    (await faultsIn(access, form, place, nothing, content)).flatMap(({ faults }) => faults),
  );
  if (missing.size > 0)
    throw new Problem('copy-needs-tools', { tools: inWords(missing.values()) }, { tools: [...missing.keys()] });
}
