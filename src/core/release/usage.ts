import type { Place, PolicyPerson } from '../access';
import type { Inventory } from '../inventory';
import type { Plan } from '../plan';
import { writingOf, type Writing } from '../room';
import { handy, makersOf } from '../toolbar';
import { toolbarsOf } from './concerns';

/** What somebody made of late in one text of one layout, and how often. */
export interface Use {
  person: string;
  /** The kind of item. */
  type: string;
  layout: string;
  field: string;
  /** What was made: `heading.2`, `table`. */
  made: string;
  times: number;
  /** Some of the items it was made in. */
  items: readonly string[];
}

/** A tool that people used of late in a text, and would no longer have there. */
export interface UsedAndLost {
  tool: string;
  layout: string;
  field: string;
  times: number;
  /** By their names. */
  people: string[];
  items: string[];
}

/** Whether anybody’s tools may differ between two plans: where not, nobody loses one. */
export const mayLoseTools = (before: Plan, after: Plan, people: readonly PolicyPerson[]): boolean =>
  people.some((person) => toolbarsOf(before, person) !== toolbarsOf(after, person));

/** The tools people used of late that they would lose where they used them if one plan took the place of another. */
export function usedAndLost(
  given: {
    inventory: Inventory;
    before: Plan;
    after: Plan;
    people: readonly PolicyPerson[];
    /** Every page of the site. */
    places: readonly Place[];
    nowMs: number;
  },
  used: readonly Use[],
): UsedAndLost[] {
  const { inventory, before, after, people, places, nowMs } = given;
  const tools = [...inventory.tools.values()];
  const lost = new Map<string, UsedAndLost>();
  const writings = new Map<string, Writing[]>();
  for (const use of used) {
    const person = people.find(({ id }) => id === use.person);
    if (!person) continue;
    const plans = toolbarsOf(before, person) === toolbarsOf(after, person) ? [] : [before, after];
    const writing = writings.get(person.id) ?? plans.map((plan) => writingOf(inventory, plan, person, nowMs));
    writings.set(person.id, writing);
    const [was, is] = writing;
    if (!was || !is) continue;
    const makers = makersOf(tools, use.made).map(({ id }) => id);
    // Many places have the very same toolbar.
    const known = new Map<readonly string[], boolean>();
    const has = (writing: Writing, place: Place) => {
      const at = writing.of(use.type, place, use.field).tools;
      const theirs = known.get(at) ?? makers.some((tool) => handy(at, inventory.tools.keys()).has(tool));
      known.set(at, theirs);
      return theirs;
    };
    const there = places.filter((place) => use.type !== 'page' || place.layout === use.layout);
    if (!there.some((place) => has(was, place) && !has(is, place))) continue;
    const key = `${use.made} ${use.layout} ${use.field}`;
    const old = lost.get(key);
    lost.set(key, {
      tool: makers[0] ?? '',
      layout: use.layout,
      field: use.field,
      times: (old?.times ?? 0) + use.times,
      people: [...new Set([...(old?.people ?? []), person.name])],
      items: [...new Set([...(old?.items ?? []), ...use.items])],
    });
  }
  return [...lost.values()].sort((a, b) => b.times - a.times);
}
