import { rulesAllow, type Place, type AccessRule } from '../access';
import { columnsOf } from '../dashboard';
import { fieldIds, fieldName, hasField } from '../inventory';
import { canonical } from '../json';
import { entryName, HOLD_NAMES, wordsPlace, wordsPlaces } from '../plan';
import { room, type Room } from '../room';
import { needsOf } from '../task';
import {
  type ImpactInput,
  idOf,
  type Effect,
  type Same,
  minus,
  pagesInWords,
  type BothRules,
  bothRulesOf,
  sameOf,
  lists,
} from './effects';
import { toolEffects, screenEffects } from './ruleEffects';

const STATE = { open: 'open', look: 'look only', away: 'put away' } as const;
/** From most to least. */
const OPENNESS = ['open', 'look', 'away'] as const;

/** Which pages the rules of a permission hold on for somebody; `nowhere` for what lies nowhere. */
function extentOf(input: ImpactInput, rules: readonly AccessRule[], placed: boolean, ownAuthor: boolean): Set<string> {
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

function permissionEffects(out: Effect[], input: ImpactInput, rules: BothRules, same: Same): void {
  // Permissions given together have the same rules, which hold on the same pages: they are looked through once for all.
  const known = new Map<string, { less: string | null; more: string | null }>();
  for (const { id, name, placed, ownAuthor = false } of input.inventory.permissions.values()) {
    if (same.rules(id)) continue;
    const [was, is] = rules(id);
    const key = canonical([was, is, placed, ownAuthor]);
    let where = known.get(key);
    if (!where) {
      const [a, b] = [extentOf(input, was, placed, ownAuthor), extentOf(input, is, placed, ownAuthor)];
      const told = (ids: Set<string>) =>
        ids.size === 0 ? null : placed ? `, ${pagesInWords(ids, input)}` : ids.has('nowhere') ? '' : ', of their own';
      known.set(key, (where = { less: told(minus(a, b)), more: told(minus(b, a)) }));
    }
    if (where.less !== null) out.push({ kind: 'loss', words: `May no longer ${name}${where.less}.` });
    if (where.more !== null) out.push({ kind: 'gain', words: `May ${name}${where.more}.` });
  }
}

/** The fields somebody may change before or after only, of pages they may change before and after. */
function fieldEffects(out: Effect[], input: ImpactInput, rules: BothRules): void {
  const { inventory, person } = input;
  const [was, is] = rules('page.edit');
  if (![...was, ...is].some(({ fields }) => fields)) return;
  const may = (rules: readonly AccessRule[], place: Place, field?: string) =>
    rulesAllow(rules, person.id, { place, field });
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
