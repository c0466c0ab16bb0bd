import { type AccessRule, type Place, rulesAllow } from '../access';
import { toolName, type Inventory, writtenForms } from '../inventory';
import { canonical } from '../json';
import { elementName } from '../plan';
import { type Room, editOf, screensOf } from '../room';
import { elementsOf, isTheirs, type ElementState } from '../screens';
import { sayList } from '../words';
import { type Effect, type ImpactInput, type BothRules, isPossible, idOf, pagesInWords } from './effects';

/**
 * The tools somebody would have more or less where they write before and after. Tools that change in the same texts on
 * the same pages are told together.
 */
export function toolEffects(out: Effect[], before: Room, after: Room, input: ImpactInput, rules: BothRules): void {
  const { inventory, person } = input;
  const name = (id: string) => `“${toolName(inventory, id)}”`;
  for (const [type, texts] of textsByType(inventory)) {
    const [was, is] = rules(editOf(type));
    if (!isPossible(was) || !isPossible(is)) continue;
    const ownAuthor = inventory.permissions.get(editOf(type))?.ownAuthor ?? false;
    const may = (rules: readonly AccessRule[], place: Place) =>
      rulesAllow(rules, person.id, { place }) ||
      (ownAuthor && rulesAllow(rules, person.id, { place: { ...place, author: person.id } }));
    const both = input.places.filter((place) => may(was, place) && may(is, place));
    const here = new Set(both.map(idOf));
    for (const [kind, more, less] of [
      ['loss', before, after],
      ['gain', after, before],
    ] as const) {
      const changed = new Map<string, { on: Set<string>; texts: Set<string> }>();
      for (const place of both)
        for (const [text, { tools }] of more.writing.at(type, place)) {
          const other = less.writing.at(type, place).get(text)?.tools ?? [];
          for (const tool of tools) {
            if (other.includes(tool)) continue;
            const { on, texts: of } = changed.get(tool) ?? { on: new Set(), texts: new Set() };
            changed.set(tool, { on: on.add(idOf(place)), texts: of.add(text) });
          }
        }
      const groups = new Map<string, string[]>();
      for (const [tool, { on, texts: of }] of changed) {
        const isAll = [...texts.keys()].every(
          (text) => of.has(text) || !both.some((place) => more.writing.at(type, place).has(text)),
        );
        const where = [
          ...(isAll ? [] : [`in ${[...of].map((text) => `“${texts.get(text) ?? text}”`).join(', ')}`]),
          ...(on.size === here.size ? [] : [pagesInWords(on, input)]),
        ].join(', ');
        groups.set(where, [...(groups.get(where) ?? []), name(tool)]);
      }
      const of = type === 'page' ? '' : ` of ${inventory.items.get(type)?.many ?? type}`;
      for (const [where, tools] of groups)
        out.push({
          kind,
          words: `The toolbar${of} ${kind === 'loss' ? 'lacks' : 'has'} ${tools.join(', ')}${where === '' ? '' : `, ${where}`}.`,
        });
    }
  }
}

/** The fields that hold rich text, with their names, by the types of what has them. */
function textsByType(inventory: Inventory): Map<string, Map<string, string>> {
  const types = new Map<string, Map<string, string>>();
  for (const { type, texts } of writtenForms(inventory)) {
    const of = types.get(type) ?? new Map<string, string>();
    for (const { id, name } of texts) of.set(id, name);
    types.set(type, of);
  }
  return types;
}
/** What is otherwise on edit screens, told once for each of them on however many pages it is so. */
export function screenEffects(out: Effect[], input: ImpactInput, both: BothRules): void {
  const { inventory, before, after, person, places, nowMs } = input;
  const [was, is] = [before, after].map((plan) => screensOf(inventory, plan, person, nowMs));
  const branches = new Set([...before.screens, ...after.screens].flatMap(({ when }) => when.branch ?? []));
  const told = new Map<string, { kind: Effect['kind']; of: string; layouts: Set<string> }>();
  /** On which screens there is an element at all. */
  const standsOn = new Map<string, Set<string>>();
  for (const type of inventory.items.values()) {
    const [, rules] = both(editOf(type.id));
    // Alike for all pages that lie below the same branches of rules, with the same layout and state.
    const kinds = new Map<string, Place>();
    for (const place of places)
      // What lies on a page may be their own whosever the page is.
      if (rulesAllow(rules, person.id, { place: type.id === 'page' ? place : { ...place, author: person.id } }))
        kinds.set([...place.path.filter((id) => branches.has(id)), place.layout, place.state].join(' '), place);
    for (const place of kinds.values())
      for (const layout of type.layouts.filter(({ id }) => type.id !== 'page' || id === place.layout))
        for (const { id } of elementsOf(inventory, type, layout)) {
          standsOn.set(id, (standsOn.get(id) ?? new Set()).add(layout.name));
          const [old, now] = [was?.of(type.id, place, id), is?.of(type.id, place, id)];
          for (const [kind, words] of old && now ? elementEffects(inventory, id, old, now) : []) {
            const { layouts } = told.get(words) ?? { layouts: new Set() };
            told.set(words, { kind, of: id, layouts: layouts.add(layout.name) });
          }
        }
  }
  for (const [words, { kind, of, layouts }] of told)
    out.push({
      kind,
      words:
        layouts.size === standsOn.get(of)?.size
          ? `${words}.`
          : `${words} of ${sayList([...layouts].map((name) => `“${name}”`))}.`,
    });
}

/** What is otherwise about one element of an edit screen, without the full stop. */
function elementEffects(
  inventory: Inventory,
  id: string,
  { because: _, ...old }: ElementState,
  { because: __, ...now }: ElementState,
): [Effect['kind'], string][] {
  if (canonical(old) === canonical(now)) return [];
  const name = `“${elementName(inventory, id)}”`;
  if (isTheirs(old) && !isTheirs(now))
    return [['loss', `${name} ${now.lock === undefined ? 'is hidden' : `is locked (“${now.lock}”)`} on edit screens`]];
  if (!isTheirs(old) && isTheirs(now)) return [['gain', `${name} can be changed on edit screens`]];
  const { required: wasAsked, choices: could, ...otherwise } = old;
  const { required: isAsked, choices: can, ...then } = now;
  const isIn = (one: string[] | undefined, choices: string[] | undefined) =>
    !choices || (one?.every((choice) => choices.includes(choice)) ?? false);
  const effects: [Effect['kind'], string][] = [];
  if (!isIn(could, can)) effects.push(['loss', `${name} offers fewer choices on edit screens`]);
  if (!isIn(can, could)) effects.push(['gain', `${name} offers more choices on edit screens`]);
  if (isAsked !== wasAsked)
    effects.push(['other', `${name} ${isAsked ? 'must' : 'no longer has to'} be filled in on edit screens`]);
  if (canonical(otherwise) !== canonical(then))
    effects.push(['other', `${name} is prepared otherwise on edit screens`]);
  return effects;
}
