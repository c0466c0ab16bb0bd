import type { PageContent } from '@/core/content';
import { room } from '@/core/room';
import {
  CODE_VIEW,
  constructsOf,
  losesProtected,
  mergeConstructs,
  missingTools,
  type Constructs,
} from '@/core/toolbar';
import { inventory } from '@/office';
import { now } from '../clock';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { blocksOf, type Form } from './forms';

const TOOLS = [...inventory.tools.values()];

/** What all rich fields, shown by the layout or not, hold of things that tools make. */
const held = (form: Form, content: PageContent | undefined): Record<string, Constructs> =>
  content
    ? Object.fromEntries(
        form.rich
          .filter((field) => content[field.id] !== undefined)
          .map((field) => [field.id, constructsOf(blocksOf(field, content))]),
      )
    : {};

const merge = (a: Record<string, Constructs>, b: Record<string, Constructs>) =>
  Object.fromEntries(
    [...new Set([...Object.keys(a), ...Object.keys(b)])].map((field) => [
      field,
      mergeConstructs(a[field] ?? {}, b[field] ?? {}),
    ]),
  );

/** The tools a person may make things with: all of them where the code view is theirs. */
export function toolsOf(access: Access): ReadonlySet<string> {
  const { toolbar } = room({ inventory, plan: access.plan, person: access.who, places: [], nowMs: now().getTime() });
  return new Set(toolbar.modes.includes('code') ? [...inventory.tools.keys(), CODE_VIEW] : toolbar.tools);
}

/**
 * Refuses a content for which tools were needed that somebody does not have, and one in which something they could not
 * make again is gone. What its fields held once needs no tool. Gives what they hold at most by now.
 */
export function mustHaveTools(
  access: Access,
  form: Form,
  old: {
    shown: PageContent | undefined;
    once: readonly (PageContent | undefined)[];
    allowance: Record<string, Constructs>;
  },
  content: PageContent,
): Record<string, Constructs> {
  const allowance = [...old.once, old.shown].map((one) => held(form, one)).reduce(merge, old.allowance);
  const tools = toolsOf(access);
  for (const field of form.rich) {
    const blocks = blocksOf(field, content);
    const missing = missingTools(tools, TOOLS, allowance[field.id] ?? {}, blocks);
    if (missing.length)
      throw new Problem(
        'tools-missing',
        { tools: missing.map((t) => `“${t.name}”`).join(' and ') },
        { tools: missing.map((t) => t.id), field: field.id },
      );
    if (old.shown && losesProtected(tools, TOOLS, blocksOf(field, old.shown), blocks))
      throw new Problem('takes-away', {}, { field: field.id });
  }
  return merge(allowance, held(form, content));
}
