import type { Place } from '@/core/access';
import { emptyDocument, type PageContent } from '@/core/content';
import { writingOf } from '@/core/room';
import { acceptChange, CONSTRUCT_NAMES, handsOf, handy, makersOf } from '@/core/toolbar';
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

/**
 * Refuses a content for which tools were needed that somebody does not have, and one in which something they could not
 * make again is gone or changed, by the tools and rules of each field on this place. What stands in one of the texts before, in the same field, needs no tool.
 */
export function mustHaveTools(
  access: Access,
  form: Form,
  place: Place,
  { shown, once, bases }: Before,
  content: PageContent,
): void {
  const writing = writingOf(inventory, access.plan, access.who, now().getTime());
  for (const field of form.rich) {
    const { tools, keep } = writing.of(form.type.id, place, field.id);
    const hands = handsOf(handy(tools, inventory.tools.keys()), TOOLS, keep);
    const [before = emptyDocument(), ...others] = [shown, ...once, ...bases].flatMap((text) =>
      text?.[field.id] === undefined ? [] : [blocksOf(field, text)],
    );
    const faults = acceptChange(before, blocksOf(field, content), hands, others);
    const missing = new Map(
      faults
        .filter((fault) => fault.why === 'new')
        .flatMap((fault) => makersOf(TOOLS, fault.made))
        .map((tool) => [tool.id, tool.name]),
    );
    if (missing.size > 0)
      throw new Problem(
        'tools-missing',
        { tools: [...missing.values()].map((name) => `“${name}”`).join(' and ') },
        { tools: [...missing.keys()], field: field.id },
      );
    if (faults.length > 0) {
      const names = new Set(faults.map(({ construct }) => CONSTRUCT_NAMES[construct] ?? construct));
      throw new Problem('takes-away', { what: [...names].join(' or ') }, { field: field.id });
    }
  }
}
