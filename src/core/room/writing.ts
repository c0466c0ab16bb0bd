import type { Place, PolicyPerson } from '../access';
import { writtenForms, type Inventory, type PermissionId, type Tool } from '../inventory';
import { groupsIn, toolResolver, type Plan } from '../plan';
import { weekdayOf } from '../words';
import { asWritten, rolesThatCount, type ConstructPolicy, type ToolsAnswer } from '../toolbar';

/** What somebody writes a text with. */
export interface TextTools {
  /** Ids, in the order of the inventory. */
  tools: readonly string[];
  /** What rules say becomes of constructs that none of them makes. */
  keep: Readonly<Record<string, ConstructPolicy>>;
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

const PAGE = 'page';

/** Pages have the layout of their place; anything else has a form of its own, wherever it lies. */
const keyOf = (type: string, layout: string) => (type === PAGE ? `${PAGE} ${layout}` : type);

export function writingOf(inventory: Inventory, plan: Plan, person: PolicyPerson, nowMs: number): Writing {
  const resolve = toolResolver(inventory, plan);
  const forms = new Map(writtenForms(inventory).map((form) => [keyOf(form.type, form.layout.id), form]));
  const formOf = (type: string, place: Place) => forms.get(keyOf(type, place.layout));
  // Without a branch in any assignment the same roles count everywhere.
  const everywhere = person.assignments.every((a) => a.branch === undefined)
    ? rolesThatCount(person, [], nowMs)
    : undefined;
  const day = weekdayOf(new Date(nowMs), inventory.timeZone);
  const known = new Map<ToolsAnswer, TextTools>();
  const textOf = (answer: ToolsAnswer): TextTools => {
    let text = known.get(answer);
    if (!text) {
      text = { tools: answer.tools, keep: answer.keep, groups: groupsIn(plan.toolbars, answer) };
      known.set(answer, text);
    }
    return text;
  };
  const of = (type: string, place: Place, field: string): TextTools => {
    const roles = everywhere ?? rolesThatCount(person, place.path, nowMs);
    const layout = formOf(type, place)?.layout.id ?? place.layout;
    const [now, written] = [place.state, 'draft'].map((state) =>
      resolve(roles, { path: place.path, layout, field, state, day }),
    );
    if (!now || !written) return { tools: [], keep: {}, groups: [] };
    if (now === written) return textOf(now);
    const { tools, keep } = asWritten(now, written);
    return { ...textOf(now), tools, keep };
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
/** The permission to make one. */
export const makingOf = (type: string): PermissionId => `${type}.create`;
