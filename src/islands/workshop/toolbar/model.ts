import { isInForce, PAGE_STATES, type PageState, type Place, type PolicyPerson } from '@/core/access';
import { writtenForms, type Inventory, ofInventory } from '@/core/inventory';
import { canonical } from '@/core/json';
import { toolResolver, withTool, type Operation, type Plan, type Toolbars } from '@/core/plan';
import { askerFor, editOf } from '@/core/room';
import { WEEKDAYS, type KnownSpots, type Spot, type When } from '@/core/rules';
import { asWritten, rolesThatCount, spotsThatDiffer, type ToolsAnswer } from '@/core/toolbar';
import { weekdayOf } from '@/core/words';
import type { WorkshopFacts } from '../model';

/** A place of the grid: a layout, a field, both, or neither, which stands for everywhere. */
export interface Chosen {
  layout?: string;
  field?: string;
}

export const gridForms = ofInventory((inventory) => writtenForms(inventory).filter(({ texts }) => texts.length > 0));
/** The texts there are, as the first form that has one calls it. */
export const gridTexts = ofInventory((inventory) =>
  gridForms(inventory)
    .flatMap(({ texts }) => texts)
    .filter((field, i, all) => all.findIndex(({ id }) => id === field.id) === i),
);
export const layoutName = (inventory: Inventory, id: string) =>
  gridForms(inventory).find(({ layout }) => layout.id === id)?.layout.name ?? id;
export const textName = (inventory: Inventory, layout: string | undefined, field: string) =>
  (
    gridForms(inventory).find((form) => form.layout.id === layout) ??
    gridForms(inventory).find(({ texts }) => texts.some(({ id }) => id === field))
  )?.texts.find(({ id }) => id === field)?.name ?? field;

/** The kind of thing whose texts stand in a row of the grid; pages in what stands for all. */
export const writtenKindOf = (inventory: Inventory, { layout }: Chosen): string =>
  gridForms(inventory).find((form) => form.layout.id === layout)?.type ?? 'page';

/** What every text becomes that they write in. */
const STATE = 'draft';

/** Everything rules can tell apart beside places. */
export const ALL_SPOTS: KnownSpots = { states: PAGE_STATES, days: WEEKDAYS };
export const KNOWN_SPOTS = Object.keys(ALL_SPOTS) as (keyof KnownSpots)[];

/** What of it is looked at unless something else is chosen: drafts, on the day it is. */
export const usualSpots = (inventory: Inventory, { nowMs }: WorkshopFacts): KnownSpots => ({
  states: [STATE],
  days: [weekdayOf(new Date(nowMs), inventory.timeZone)],
});

/** What somebody gets on a cell of the grid. */
export interface GridCell {
  /** Null where they do not write. */
  answer: ToolsAnswer | null;
  spot: Spot;
  /** In other parts of the website they get other tools there. */
  varies: boolean;
}

/** What somebody writes with under a plan, place by place; `branch`: the part of the website that is looked at. */
export function writingMap(
  inventory: Inventory,
  facts: WorkshopFacts,
  plan: Plan,
  person: PolicyPerson,
  branch: string,
  /** What is told apart where a rule names one. */
  { states, days }: KnownSpots = usualSpots(inventory, facts),
) {
  const resolve = toolResolver(inventory, plan);
  const places = facts.pages.map((page) => page.place);
  const { may } = askerFor({ inventory, plan, person, places, nowMs: facts.nowMs });
  const roles = plan.roles.flatMap((role) => role.grants).flatMap(({ scope }) => scope.branch ?? []);
  const spots = spotsThatDiffer(
    plan.toolbars.rules,
    gridForms(inventory).map(({ layout, texts }) => ({ layout: layout.id, fields: texts.map(({ id }) => id) })),
    places.map(({ path }) => path),
    { states, days },
    [...roles, ...person.assignments.flatMap((a) => a.branch ?? []), ...(branch ? [branch] : [])],
  ).filter((spot) => branch === '' || spot.path.includes(branch));
  const writes = (spot: Omit<Spot, 'day'>): boolean => {
    const type = gridForms(inventory).find(({ layout }) => layout.id === spot.layout)?.type ?? '';
    const place: Place = { path: spot.path, layout: spot.layout, state: spot.state as PageState, author: null };
    return [place, { ...place, author: person.id }].some((at) =>
      may(editOf(type), at, type === 'page' ? spot.field : undefined),
    );
  };
  const ask = (spot: Spot): ToolsAnswer => {
    const [now, draft] = [spot.state, STATE].map((state) =>
      resolve(rolesThatCount(person, spot.path, facts.nowMs), { ...spot, state }),
    );
    if (!now || !draft) throw new Error('every spot has an answer');
    return asWritten(now, draft);
  };
  const anywhere: Spot = {
    path: facts.pages.find((page) => page.id === branch)?.place.path ?? places[0]?.path ?? [],
    layout: '',
    state: states[0] ?? STATE,
    field: '',
    day: days[0] ?? 1,
  };
  const cell = (layout: string, field: string): GridCell => {
    const here = spots.filter((spot) => spot.layout === layout && spot.field === field);
    const written = here.filter(writes);
    const spot = written[0] ?? here[0] ?? { ...anywhere, layout, field };
    const answers = new Set(written.map((one) => canonical([ask(one).tools, ask(one).keep])));
    return { answer: written.length > 0 ? ask(spot) : null, spot, varies: answers.size > 1 };
  };
  /** The spot a place stands for: as narrow as it is named. */
  const spotOf = ({ layout, field }: Chosen): Spot => {
    if (layout !== undefined && field !== undefined) return cell(layout, field).spot;
    const first = spots.find((spot) => writes(spot) && (layout === undefined || spot.layout === layout));
    return { ...anywhere, path: first?.path ?? anywhere.path, layout: layout ?? '', field: field ?? '' };
  };
  /** A page to try a place on: one they write on, with that layout where there is one. */
  const pageFor = ({ layout, field = 'body' }: Chosen): string => {
    const own = layout !== undefined && writtenKindOf(inventory, { layout }) !== 'page' ? layout : undefined;
    const theirs = places.filter(
      (place) =>
        (branch === '' || place.path.includes(branch)) &&
        writes({ path: place.path, layout: own ?? place.layout, state: STATE, field }),
    );
    const best = theirs.find((place) => place.layout === layout) ?? theirs[0] ?? places[0];
    return best?.path.at(-1) ?? '';
  };
  return { cell, spotOf, ask, writes, spots, pageFor };
}

/** Where a rule for a place holds. */
export const whenOf = (role: string, branch: string, { layout, field }: Chosen): When => ({
  roles: [role],
  ...(branch && { branch }),
  ...(layout !== undefined && { layouts: [layout] }),
  ...(field !== undefined && { fields: [field] }),
});

/** The operations that make some toolbars of others. */
export function toolbarOperations(role: string, before: Toolbars, after: Toolbars): Operation[] {
  const changed = <T extends { id: string }>(now: readonly T[], was: readonly T[]) =>
    now.filter((one) => canonical(one) !== canonical(was.find(({ id }) => id === one.id) ?? null));
  const gone = <T extends { id: string }>(now: readonly T[], was: readonly T[]) =>
    was.filter((one) => !now.some(({ id }) => id === one.id));
  return [
    ...changed(after.sets, before.sets).map((set): Operation => ({ do: 'put-tool-set', role, set })),
    ...gone(after.rules, before.rules).map((rule): Operation => ({ do: 'remove-tool-rule', role, rule: rule.id })),
    ...changed(after.rules, before.rules).map((rule): Operation => ({ do: 'put-tool-rule', role, rule })),
    ...gone(after.sets, before.sets).map((set): Operation => ({ do: 'remove-tool-set', role, set: set.id })),
  ];
}

/**
 * The operations that give a role some tools at a place, or take them; null where a rule for a narrower place, or for
 * some days, says otherwise.
 */
export function toolsAt(
  inventory: Inventory,
  plan: Plan,
  role: string,
  tools: readonly string[],
  on: boolean,
  at: { when: When; spot: Spot },
): Operation[] | null {
  const isEverywhere = Object.keys(at.when).length === 1;
  let made = plan.toolbars;
  for (const tool of tools) {
    const given = { role, tool, on, ...(!isEverywhere && { at }) };
    const next = withTool({ inventory, roles: plan.roles }, made, given);
    if (typeof next === 'string') return null;
    made = next;
  }
  const has = toolResolver(inventory, { ...plan, toolbars: made })([role], at.spot).tools;
  if (tools.some((tool) => has.includes(tool) !== on)) return null;
  return isEverywhere
    ? tools.map((tool) => ({ do: 'set-tool', role, tool, on }))
    : toolbarOperations(role, plan.toolbars, made);
}

/** Roles that somebody holds or will hold. */
export const rolesHeldBySomebody = (facts: WorkshopFacts): Set<string> =>
  new Set(
    facts.people.flatMap((person) =>
      person.assignments
        .filter((a) => isInForce(a, facts.nowMs) || (a.fromMs !== undefined && a.fromMs > facts.nowMs))
        .map((a) => a.role),
    ),
  );
