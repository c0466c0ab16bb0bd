import type { Place } from '@/core/access';
import { emptyDocument, type PageContent } from '@/core/content';
import { writingOf } from '@/core/room';
import { acceptChange, CONSTRUCT_NAMES, handsOf, handy, makersOf, type AcceptFault } from '@/core/toolbar';
import { inventory } from '@/office';
import { now } from '../clock';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { blocksOf, type Form } from './forms';

const TOOLS = [...inventory.tools.values()];

/** What an item said before somebody wrote. */
export interface Before {
  /** Newest: its draft, or what stands on it. */
  shown: PageContent | undefined;
  /** What visitors see, and what waits. */
  once: readonly (PageContent | undefined)[];
  /** What the draft's rich fields said as its writer found it, and in versions they went back to. */
  bases: readonly PageContent[];
}

/** What only the rich fields of a content say. */
export const richOf = (form: Form, content: PageContent): PageContent =>
  Object.fromEntries(form.rich.flatMap(({ id }) => (content[id] === undefined ? [] : [[id, content[id]]])));

/** What of a content is not accepted, field by field, by the tools and rules of each on this place. */
function faultsIn(access: Access, form: Form, place: Place, { shown, once, bases }: Before, content: PageContent) {
  const writing = writingOf(inventory, access.plan, access.who, now().getTime());
  return form.rich.flatMap((field) => {
    const { tools, keep } = writing.of(form.type.id, place, field.id);
    const hands = handsOf(handy(tools, inventory.tools.keys()), TOOLS, keep);
    const [before = emptyDocument(), ...others] = [shown, ...once, ...bases].flatMap((text) =>
      text?.[field.id] === undefined ? [] : [blocksOf(field, text)],
    );
    const faults = acceptChange(before, blocksOf(field, content), hands, others);
    return faults.length === 0 ? [] : [{ field: field.id, faults }];
  });
}

/** The tools that would make what is new, by their ids with their names. */
const makersFor = (faults: readonly AcceptFault[]): Map<string, string> =>
  new Map(
    faults
      .filter((fault) => fault.why === 'new')
      .flatMap((fault) => makersOf(TOOLS, fault.made))
      .map((tool) => [tool.id, tool.name]),
  );
const inWords = (names: Iterable<string>) => [...names].map((name) => `“${name}”`).join(' and ');

/**
 * Refuses a content for which tools were needed that somebody does not have, and one in which something they could not
 * make again is gone or changed. What stands in one of the texts before, in the same field, needs no tool.
 */
export function mustHaveTools(access: Access, form: Form, place: Place, before: Before, content: PageContent): void {
  for (const { field, faults } of faultsIn(access, form, place, before, content)) {
    const missing = makersFor(faults);
    if (missing.size > 0)
      throw new Problem('tools-missing', { tools: inWords(missing.values()) }, { tools: [...missing.keys()], field });
    const names = new Set(faults.map(({ construct }) => CONSTRUCT_NAMES[construct] ?? construct));
    throw new Problem('takes-away', { what: [...names].join(' or ') }, { field });
  }
}

/** Refuses a copy of texts that somebody could not have written at the place it is put: there all of it is new. */
export function mustHaveToolsToCopy(access: Access, form: Form, place: Place, content: PageContent): void {
  const nothing: Before = { shown: undefined, once: [], bases: [] };
  const missing = makersFor(faultsIn(access, form, place, nothing, content).flatMap(({ faults }) => faults));
  if (missing.size > 0)
    throw new Problem('copy-needs-tools', { tools: inWords(missing.values()) }, { tools: [...missing.keys()] });
}
