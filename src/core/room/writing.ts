import type { Place, PolicyPerson } from '../access';
import { writtenForms, type Inventory, type PermissionId, type Tool } from '../inventory';
import { groupsIn, toolResolver, type Plan } from '../plan';
import { rolesThatCount, stricter, type Policy } from '../toolbar';

/** What somebody writes a text with. */
export interface TextTools {
  /** Ids, in the order of the inventory. */
  tools: readonly string[];
  /** What rules say becomes of constructs that none of them makes. */
  keep: Readonly<Record<string, Policy>>;
  /** Groups of tools that stand first, in this order: as the set has them that the first of their roles writes with. */
  groups: readonly Tool['group'][];
}

/**
 * What somebody writes with in the texts of a thing of some type that lies somewhere; a page's layout is the place's own.
 * Tools are those it has as it stands and once what was typed has made it a draft.
 */
export interface Writing {
  of: (type: string, place: Place, field: string) => TextTools;
  /** By the fields of its form that hold text. */
  at: (type: string, place: Place) => ReadonlyMap<string, TextTools>;
  /** Whether one text of it has, of each of these lists, one tool. */
  has: (type: string, place: Place, tools: readonly (readonly string[])[]) => boolean;
}

/** Pages have the layout of their place; anything else has a form of its own. */
const PAGE = 'page';

export function writingOf(inventory: Inventory, plan: Plan, person: PolicyPerson, nowMs: number): Writing {
  const resolve = toolResolver(inventory, plan);
  const forms = writtenForms(inventory);
  const formOf = (type: string, place: Place) =>
    forms.find((one) => one.type === type && (type !== PAGE || one.layout.id === place.layout));
  const of = (type: string, place: Place, field: string): TextTools => {
    const roles = rolesThatCount(person, place.path, nowMs);
    const spot = { path: place.path, layout: formOf(type, place)?.layout.id ?? place.layout, field };
    const [now, written] = [place.state, 'draft'].map((state) => resolve(roles, { ...spot, state }));
    if (!now || !written) return { tools: [], keep: {}, groups: [] };
    const groups = groupsIn(plan.toolbars, now);
    if (now === written) return { tools: now.tools, keep: now.keep, groups };
    return {
      groups,
      tools: now.tools.filter((tool) => written.tools.includes(tool)),
      keep: stricter(now.keep, written.keep),
    };
  };
  const at = (type: string, place: Place) =>
    new Map((formOf(type, place)?.texts ?? []).map(({ id }) => [id, of(type, place, id)]));
  return {
    of,
    at,
    has: (type, place, tools) =>
      (formOf(type, place)?.texts ?? []).some(({ id }) => {
        const here = of(type, place, id).tools;
        return tools.every((some) => some.some((tool) => here.includes(tool)));
      }),
  };
}

/** What changes things of a type. */
export const editOf = (type: string): PermissionId => `${type}.edit`;
