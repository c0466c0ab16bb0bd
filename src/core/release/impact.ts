import { rulesAllow, rulesFor, type Place, type PolicyPerson, type Rule } from '../access';
import { columnsOf } from '../dashboard';
import { fieldIds, fieldName, hasField, writtenForms, type Inventory } from '../inventory';
import { canonical } from '../json';
import { elementName, entryName, HOLD_NAMES, policyOf, wordsPlace, wordsPlaces, type Plan } from '../plan';
import { editOf, room, screensOf, type Room } from '../room';
import { elementsOf, isTheirs } from '../screens';
import { needsOf } from '../task';
import { screenRulesOf, toolbarsOf } from './concerns';

/** One thing somebody gains, loses, or finds otherwise, as a sentence. */
export interface Effect {
  kind: 'gain' | 'loss' | 'other';
  words: string;
}

export interface ImpactInput {
  inventory: Inventory;
  before: Plan;
  after: Plan;
  person: PolicyPerson;
  /** Every page of the site. */
  places: readonly Place[];
  pageName: (id: string) => string;
  nowMs: number;
}

const STATE = { open: 'open', look: 'look only', away: 'put away' } as const;
/** From most to least. */
const OPENNESS = ['open', 'look', 'away'] as const;
const idOf = (place: Place) => place.path.at(-1) ?? '';

/** Some pages by name: all while they are few, else how many more. A whole branch is named by its top. */
function pagesInWords(ids: ReadonlySet<string>, input: ImpactInput): string {
  if (ids.size === input.places.length) return 'on the whole website';
  // The pages above which nothing of the list lies, and whether all below them belongs to it.
  const tops = input.places.filter(
    (place) => ids.has(idOf(place)) && !place.path.slice(0, -1).some((id) => ids.has(id)),
  );
  const names = tops.map((top) => {
    const below = input.places.filter((place) => place !== top && place.path.includes(idOf(top)));
    const inside = below.filter((place) => ids.has(idOf(place))).length;
    const name = `“${input.pageName(idOf(top))}”`;
    return below.length === 0 || inside === 0
      ? name
      : inside === below.length
        ? `${name} and all below`
        : `${name} and ${inside} below`;
  });
  const MOST = 4;
  return names.length <= MOST
    ? `on ${names.join(', ')}`
    : `on ${names.slice(0, MOST).join(', ')} and ${names.length - MOST} more`;
}

const minus = (a: ReadonlySet<string>, b: ReadonlySet<string>): Set<string> =>
  new Set([...a].filter((one) => !b.has(one)));

/** Which pages the rules of a permission hold on for somebody; `nowhere` for what lies nowhere. */
function extentOf(input: ImpactInput, rules: readonly Rule[], placed: boolean, ownAuthor: boolean): Set<string> {
  const me = input.person.id;
  if (!placed)
    return new Set([
      ...(rulesAllow(rules, me, {}) ? ['nowhere'] : []),
      ...(rulesAllow(rules, me, { author: me }) ? ['own'] : []),
    ]);
  return new Set(
    input.places
      .filter(
        (place) =>
          rulesAllow(rules, me, { place }) || (ownAuthor && rulesAllow(rules, me, { place: { ...place, author: me } })),
      )
      .map(idOf),
  );
}

function lists(
  out: Effect[],
  before: readonly string[],
  after: readonly string[],
  words: { gain: (id: string) => string; loss: (id: string) => string },
): void {
  for (const id of after) if (!before.includes(id)) out.push({ kind: 'gain', words: words.gain(id) });
  for (const id of before) if (!after.includes(id)) out.push({ kind: 'loss', words: words.loss(id) });
}

function doorEffects(out: Effect[], before: Room, after: Room): void {
  for (const door of before.doors) {
    const now = after.doors.find((d) => d.section === door.section);
    if (!now) out.push({ kind: 'loss', words: `The door “${door.name}” is gone.` });
    else if (now.state !== door.state)
      out.push({
        kind: OPENNESS.indexOf(now.state) > OPENNESS.indexOf(door.state) ? 'loss' : 'gain',
        words: `The door “${now.name}”: ${STATE[door.state]} → ${STATE[now.state]}.`,
      });
    else if (now.name !== door.name)
      out.push({ kind: 'other', words: `The door “${door.name}” is called “${now.name}”.` });
  }
  for (const door of after.doors)
    if (!before.doors.some((d) => d.section === door.section))
      out.push({
        kind: 'gain',
        words: `A new door: “${door.name}”${door.state === 'open' ? '' : `, ${STATE[door.state]}`}.`,
      });
}

function taskEffects(out: Effect[], before: Room, after: Room, input: ImpactInput, same: Same): void {
  const { inventory } = input;
  /** Whether nothing that a task's pages go by has changed; they are looked through only where it has. */
  const isAsWas = (id: string) => {
    const template = inventory.tasks.get(id);
    return (
      template !== undefined &&
      same.toolbars &&
      same.screens &&
      // Fields are asked for by the right to change pages, whatever the task names.
      [...needsOf(inventory, template).onThing, 'page.edit'].every(same.rules)
    );
  };
  for (const task of before.tasks) {
    const now = after.tasks.find((t) => t.task === task.task);
    if (!task.verdict.can && (!now || !now.verdict.can)) continue;
    if (!now) out.push({ kind: 'loss', words: `“${task.name}” is no longer among their tasks.` });
    else if (task.verdict.can && !now.verdict.can)
      out.push({ kind: 'loss', words: `“${task.name}” can no longer be done.` });
    else if (!task.verdict.can && now.verdict.can) out.push({ kind: 'gain', words: `“${now.name}” can be done.` });
    else if (!isAsWas(task.task)) {
      const [a, b] = [new Set(task.pages()), new Set(now.pages())];
      const [less, more] = [minus(a, b), minus(b, a)];
      if (less.size > 0) out.push({ kind: 'loss', words: `“${now.name}” no longer ${pagesInWords(less, input)}.` });
      if (more.size > 0) out.push({ kind: 'gain', words: `“${now.name}” also ${pagesInWords(more, input)}.` });
    }
  }
  for (const task of after.tasks)
    if (task.verdict.can && !before.tasks.some((t) => t.task === task.task))
      out.push({ kind: 'gain', words: `A new task: “${task.name}”.` });
}

/** The rules of a permission before and after. */
type BothRules = (permission: string) => readonly [was: readonly Rule[], is: readonly Rule[]];

const bothRulesOf = ({ inventory, before, after, person, nowMs }: ImpactInput): BothRules => {
  const [was, is] = [policyOf(inventory, before, [person]), policyOf(inventory, after, [person])];
  const known = new Map<string, ReturnType<BothRules>>();
  return (permission) => {
    const rules = known.get(permission) ?? [
      rulesFor(was, person.id, permission, nowMs),
      rulesFor(is, person.id, permission, nowMs),
    ];
    known.set(permission, rules);
    return rules;
  };
};

/** What says the same of somebody before and after, wherever one looks. */
interface Same {
  rules: (permission: string) => boolean;
  toolbars: boolean;
  screens: boolean;
}

function sameOf({ before, after, person }: ImpactInput, both: BothRules): Same {
  const known = new Map<string, boolean>();
  return {
    rules(permission) {
      const [was, is] = both(permission);
      const isSame = known.get(permission) ?? canonical(was) === canonical(is);
      known.set(permission, isSame);
      return isSame;
    },
    toolbars: toolbarsOf(before, person) === toolbarsOf(after, person),
    screens: screenRulesOf(before, person) === screenRulesOf(after, person),
  };
}
const isPossible = (rules: readonly Rule[]) => rules.some(({ effect }) => effect === 'allow');

function permissionEffects(out: Effect[], input: ImpactInput, rules: BothRules, same: Same): void {
  for (const { id, name, placed, ownAuthor = false } of input.inventory.permissions.values()) {
    // The same rules hold on the same pages, however many there are.
    if (same.rules(id)) continue;
    const [was, is] = rules(id);
    const [a, b] = [extentOf(input, was, placed, ownAuthor), extentOf(input, is, placed, ownAuthor)];
    const [less, more] = [minus(a, b), minus(b, a)];
    const where = (ids: Set<string>) =>
      placed ? `, ${pagesInWords(ids, input)}` : ids.has('nowhere') ? '' : ', of their own';
    if (less.size > 0) out.push({ kind: 'loss', words: `May no longer ${name}${where(less)}.` });
    if (more.size > 0) out.push({ kind: 'gain', words: `May ${name}${where(more)}.` });
  }
}

/** The fields somebody may change before or after only, of pages they may change before and after. */
function fieldEffects(out: Effect[], input: ImpactInput, rules: BothRules): void {
  const { inventory, person } = input;
  const [was, is] = rules('page.edit');
  if (![...was, ...is].some(({ fields }) => fields)) return;
  const may = (rules: readonly Rule[], place: Place, field?: string) => rulesAllow(rules, person.id, { place, field });
  const both = input.places.filter((place) => may(was, place) && may(is, place));
  for (const [kind, more, less] of [
    ['loss', was, is],
    ['gain', is, was],
  ] as const) {
    // Fields that change on the same pages are told together.
    const groups = new Map<string, { names: string[]; on: Set<string> }>();
    for (const field of fieldIds(inventory)) {
      const on = new Set(
        both
          .filter(
            (place) => hasField(inventory, place.layout, field) && may(more, place, field) && !may(less, place, field),
          )
          .map(idOf),
      );
      const key = [...on].join(' ');
      if (on.size > 0)
        groups.set(key, { names: [...(groups.get(key)?.names ?? []), `“${fieldName(inventory, field)}”`], on });
    }
    for (const { names, on } of groups.values())
      out.push({
        kind,
        words: `May ${kind === 'loss' ? 'no longer change' : 'change'} ${names.join(', ')}, ${pagesInWords(on, input)}.`,
      });
  }
}

/**
 * The tools somebody would have more or less where they write before and after. Tools that change in the same texts on
 * the same pages are told together.
 */
function toolEffects(out: Effect[], before: Room, after: Room, input: ImpactInput, rules: BothRules): void {
  const { inventory, person } = input;
  const name = (id: string) => `“${inventory.tools.get(id)?.name ?? id}”`;
  for (const [type, texts] of textsByType(inventory)) {
    const [was, is] = rules(editOf(type));
    if (!isPossible(was) || !isPossible(is)) continue;
    const ownAuthor = inventory.permissions.get(editOf(type))?.ownAuthor ?? false;
    const may = (rules: readonly Rule[], place: Place) =>
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
function screenEffects(out: Effect[], input: ImpactInput, both: BothRules): void {
  const { inventory, before, after, person, places, nowMs } = input;
  const [was, is] = [before, after].map((plan) => screensOf(inventory, plan, person, nowMs));
  const [, rules] = both(editOf('page'));
  const branches = new Set([...before.screens, ...after.screens].flatMap(({ when }) => when.branch ?? []));
  // Alike for all pages that lie below the same branches of rules, with the same layout and state.
  const kinds = new Map<string, Place>();
  for (const place of places)
    if (rulesAllow(rules, person.id, { place }))
      kinds.set([...place.path.filter((id) => branches.has(id)), place.layout, place.state].join(' '), place);
  const told = new Map<string, { kind: Effect['kind']; layouts: Set<string> }>();
  const say = (kind: Effect['kind'], words: string, layout: string) => {
    const old = told.get(words) ?? { kind, layouts: new Set() };
    told.set(words, { kind, layouts: old.layouts.add(layout) });
  };
  const page = inventory.items.get('page');
  for (const place of kinds.values())
    for (const layout of page?.layouts.filter(({ id }) => id === place.layout) ?? [])
      for (const { id } of page ? elementsOf(inventory, page, layout) : []) {
        const [old, now] = [was?.of('page', place, id), is?.of('page', place, id)];
        if (!old || !now) continue;
        const name = `“${elementName(inventory, id)}”`;
        const { because: _, ...one } = old;
        const { because: __, ...two } = now;
        if (canonical(one) === canonical(two)) continue;
        if (isTheirs(old) && !isTheirs(now))
          say(
            'loss',
            `${name} ${now.lock === undefined ? 'is hidden' : `is locked (“${now.lock}”)`} on edit screens`,
            layout.name,
          );
        else if (!isTheirs(old) && isTheirs(now)) say('gain', `${name} can be changed on edit screens`, layout.name);
        else say('other', `${name} is prepared otherwise on edit screens`, layout.name);
      }
  const all = new Set([...kinds.values()].map(({ layout }) => layout)).size;
  for (const [words, { kind, layouts }] of told)
    out.push({
      kind,
      words: layouts.size === all ? `${words}.` : `${words} of ${[...layouts].map((name) => `“${name}”`).join(', ')}.`,
    });
}

/**
 * Everything somebody would gain, lose or find otherwise if one plan took the place of another: doors, tasks with their
 * places, what they may do with its places, tools and widgets. Empty when nothing changes for them.
 */
export function impactOf(input: ImpactInput): Effect[] {
  const { inventory, person, places, nowMs } = input;
  const before = room({ inventory, plan: input.before, person, places, nowMs });
  const after = room({ inventory, plan: input.after, person, places, nowMs });
  const out: Effect[] = [];
  doorEffects(out, before, after);
  const rules = bothRulesOf(input);
  const same = sameOf(input, rules);
  taskEffects(out, before, after, input, same);
  permissionEffects(out, input, rules, same);
  fieldEffects(out, input, rules);
  if (!same.toolbars) toolEffects(out, before, after, input, rules);
  if (!same.screens) screenEffects(out, input, rules);
  const shortcuts = ({ menu }: Room) => menu.shortcuts.map(({ name }) => name);
  lists(out, shortcuts(before), shortcuts(after), {
    gain: (name) => `The shortcut “${name}” is in the menu.`,
    loss: (name) => `The shortcut “${name}” is no longer in the menu.`,
  });
  const filters = ({ list }: Room) => list.filters.map(({ name }) => name);
  lists(out, filters(before), filters(after), {
    gain: (name) => `The filter “${name}” stands above the list of pages.`,
    loss: (name) => `The filter “${name}” no longer stands above the list of pages.`,
  });
  const begins = ({ list: { view, columns, sort } }: Room) => canonical({ view, columns, sort });
  if (begins(before) !== begins(after)) out.push({ kind: 'other', words: 'The list of pages begins otherwise.' });
  if (before.menu.first !== after.menu.first)
    out.push({ kind: 'other', words: 'After signing in they begin with another screen.' });
  for (const place of wordsPlaces(inventory))
    if (canonical(before.words(place)) !== canonical(after.words(place)))
      out.push({ kind: 'other', words: `The office says something else on ${wordsPlace(inventory, place)}.` });
  const onToday = ({ dashboard }: Room) => columnsOf(dashboard).flatMap((column) => column.map((one) => one.id));
  const widget = ({ dashboard }: Room, id: string) => {
    const entry = dashboard.widgets.find((one) => one.id === id);
    return entry ? entryName(inventory, entry) : id;
  };
  lists(out, onToday(before), onToday(after), {
    gain: (id) => `Today shows “${widget(after, id)}”.`,
    loss: (id) => `Today no longer shows “${widget(before, id)}”.`,
  });
  for (const now of after.dashboard.widgets) {
    const old = before.dashboard.widgets.find(({ id }) => id === now.id);
    if (!old) continue;
    const called = entryName(inventory, now);
    if (old.hold !== now.hold && old.hold !== 'offered' && now.hold !== 'offered')
      out.push({ kind: 'other', words: `“${called}” on Today ${HOLD_NAMES[now.hold]}.` });
    if (canonical([old.heading, old.size, old.settings]) !== canonical([now.heading, now.size, now.settings]))
      out.push({ kind: 'other', words: `“${called}” on Today is set otherwise.` });
  }
  return out;
}
