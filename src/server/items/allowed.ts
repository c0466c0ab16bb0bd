import { and, eq } from 'drizzle-orm';
import type { Place } from '@/core/access';
import { isEmptyValue, readContent, textOf, type ContentFault, type Layout, type PageContent } from '@/core/content';
import { sameJson } from '@/core/json';
import { elementName, policyOf } from '@/core/plan';
import { screensOf, writingOf, type Screens } from '@/core/room';
import { isTheirs, panelOf } from '@/core/screens';
import { pictureSource } from '@/core/toolbar';
import { sayList } from '@/core/words';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow, type Thing } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { findPolicyPerson } from '../people/people';
import { findPictures } from '../pictures/pictures';
import { formOf, layoutOf, picturesOf, type ItemRow } from './forms';
import { thisOf } from './items';
import { type Inventory, ofInventory } from '@/core/inventory';

/** Of people to choose from: whoever chooses. */
const ME = 'me';
const placedOf = ofInventory((inventory) =>
  [...inventory.permissions.values()].filter((permission) => permission.placed).map((permission) => permission.id),
);

/**
 * A permission somebody would have of something as it would be, and has not as it is: rules can hang on where it lies,
 * on the layout and on the author.
 */
export const gained = (access: Access, place: Place, changed: Place, type = 'page') =>
  placedOf(access.inventory).find(
    (permission) =>
      mayNow(access, permission, { place: changed, type }).allowed &&
      !mayNow(access, permission, { place, type }).allowed,
  );

/** All that somebody could not do with something any more as it would be. */
export const lostBy = (access: Access, place: Place, changed: Place, type = 'page'): string[] =>
  placedOf(access.inventory).filter(
    (permission) =>
      mayNow(access, permission, { place, type }).allowed &&
      !mayNow(access, permission, { place: changed, type }).allowed,
  );

/**
 * Whether somebody may give a page a layout: they may change pages with it here, and could do no more with this one by
 * it.
 */
const mayGiveLayout = (access: Access, place: Place, layout: string) =>
  mayNow(access, 'page.edit', { place: { ...place, layout } }).allowed && !gained(access, place, { ...place, layout });

/** The layouts somebody may give a page, and the one it has. */
export function layoutsFor(access: Access, place: Place): string[] {
  const { choices } = screensFor(access).of('page', place, 'page.layout');
  return [...access.inventory.layouts.keys()].filter(
    (id) => id === place.layout || ((!choices || choices.includes(id)) && mayGiveLayout(access, place, id)),
  );
}

const prepared = new WeakMap<Access, Screens>();
/** How the edit screens of whoever asks are prepared: worked out once for each request. */
export function screensFor(access: Access): Screens {
  let screens = prepared.get(access);
  if (!screens) prepared.set(access, (screens = screensOf(access.inventory, access.plan, access.who, now().getTime())));
  return screens;
}

/**
 * The fields of a thing that somebody may change here: rights say so, and its edit screen neither hides nor locks them;
 * null for all of them.
 */
export function fieldsFor(access: Access, type: string, place: Place): string[] | null {
  const { byId } = formOf(access.inventory, { type });
  const screens = screensFor(access);
  const theirs = [...byId.keys()].filter(
    (field) =>
      (type !== 'page' || mayNow(access, 'page.edit', { place, field }).allowed) && screens.theirs(type, place, field),
  );
  return theirs.length === byId.size ? null : theirs;
}

/** Refuses a change of a page's field by another way than its edit screen, where that hides or locks it. */
export function mustLeave(access: Access, place: Place, field: string): void {
  const { show, lock, label } = screensFor(access).of('page', place, field);
  const name = label ?? access.inventory.settings.get(field)?.name ?? field;
  if (lock !== undefined) throw problemAt(field, 'field-locked', { field: name, reason: lock });
  if (show === 'hidden') throw problemAt(field, 'field-hidden', { field: name });
}

/** A panel of the edit screen prepared for somebody: its name, whether it is hidden, and why it is locked. */
function preparedPanel(access: Access, { place, type = 'page' }: Thing, part: string) {
  const id = `${formOf(access.inventory, { type }).type.screen}.${part}`;
  const { show, lock } = place ? screensFor(access).of(type, place, id) : {};
  return { name: access.inventory.controls.get(id)?.name ?? part, show, lock };
}

export function hasPanel(access: Access, thing: Thing, part: string): boolean {
  const { show, lock } = preparedPanel(access, thing, part);
  return show !== 'hidden' && lock === undefined;
}

/** Refuses what a hidden panel would show. */
export function mustSeePanel(access: Access, thing: Thing, part: string): void {
  const { name, show } = preparedPanel(access, thing, part);
  if (show === 'hidden') throw new Problem('panel-hidden', { panel: name });
}

/** Refuses what goes round a panel that the edit screen prepared for somebody has not, or has locked. */
export function mustHavePanel(access: Access, thing: Thing, part: string): void {
  const { name, show, lock } = preparedPanel(access, thing, part);
  if (show === 'hidden') throw new Problem('panel-hidden', { panel: name });
  if (lock !== undefined) throw new Problem('field-locked', { field: name, reason: lock });
}

/** What goes by where and by whom something is made: no plan can say it for everybody, and rights hang on some of it. */
const NEVER_BEGUN = ['title', 'page.layout', 'page.author', 'page.slug', 'page.ownAddress', 'page.redirect'];

/**
 * What a thing that is made begins with, by the edit screen its maker will have: the values set for the fields of its
 * form.
 */
export function startFor(access: Access, type: string, place: Place): PageContent {
  const screens = screensFor(access);
  if (!screens.isAny) return {};
  const { layouts, byId } = formOf(access.inventory, { type });
  const layout = layouts.get(place.layout) ?? [...layouts.values()][0];
  const fields = [...byId.keys()].filter((id) => id.includes('.') || layout?.fields.some((field) => field.id === id));
  const given = Object.fromEntries(
    fields.flatMap((id) => {
      const { value } = screens.of(type, place, id);
      return value === undefined || NEVER_BEGUN.includes(id) ? [] : [[id, value]];
    }),
  );
  // Only what the form takes: a value that was set for another kind of field is left out.
  const read = layout && readContent(layouts, layout.id, given, formOf(access.inventory, { type }).type.settings);
  return Object.fromEntries(
    Object.keys(given)
      .filter((id) => read && !read.faults.some(({ field }) => field === id))
      .map((id) => [id, read?.content[id] ?? null]),
  );
}

/** Fields that must say something before it goes on, by the edit screen of whoever sends it, and say nothing. */
export function unfilled(
  access: Access,
  item: ItemRow,
  place: Place | undefined,
  content: PageContent,
): ContentFault[] {
  const screens = screensFor(access);
  if (!place || !screens.isAny) return [];
  const form = formOf(access.inventory, item);
  const layout = form.layouts.get(textOf(content, 'page.layout')) ?? layoutOf(access.inventory, content, item);
  const here = item.type === 'page' ? { ...place, layout: layout.id } : place;
  return [...layout.fields, ...form.type.settings].flatMap((field): ContentFault[] => {
    const state = screens.of(item.type, here, field.id);
    const value = content[field.id];
    const isEmpty = isEmptyValue(value) || (typeof value === 'string' && value.trim() === '');
    if (!state.required || !isTheirs(state) || !isEmpty) return [];
    const panel = panelOf(access.inventory, item.type, field.id);
    const inPanel =
      panel === undefined
        ? ''
        : ` (in “${screens.of(item.type, here, panel).label ?? elementName(access.inventory, panel)}”)`;
    return [{ field: field.id, message: `“${state.label ?? field.name}”${inPanel} is asked for. Fill it in first.` }];
  });
}

/** As many fields as a refusal names. */
const FEW_FIELDS = 6;

/**
 * Refuses what changes a field somebody may not change, whether it is right already or waits to be; each of `before`
 * and `after` is what the page says and what is unfinished of it. What one of `known` says may be chosen again, whatever
 * is offered.
 */
export function mustMayWrite(
  access: Access,
  item: ItemRow,
  place: Place | undefined,
  before: readonly Record<string, unknown>[],
  after: readonly Record<string, unknown>[],
  known: readonly (Record<string, unknown> | undefined)[] = [],
): void {
  if (!place) return;
  const form = formOf(access.inventory, item);
  const screens = screensFor(access);
  const theirs = fieldsFor(access, item.type, place);
  if (!theirs && !screens.isAny) return;
  const ids = new Set([...before, ...after].flatMap((part) => Object.keys(part)));
  const touched = [...ids].filter((id) => after.some((part, i) => !sameJson(part[id], before[i]?.[id])));
  for (const id of touched) {
    const { choices, label } = screens.of(item.type, place, id);
    const chosen = after[0]?.[id];
    const wanted = id === 'page.author' && chosen === access.who.id ? ME : chosen;
    const isKnown = known.some((one) => one?.[id] === chosen);
    if (choices && !isKnown && typeof wanted === 'string' && wanted !== '' && !choices.includes(wanted))
      throw problemAt(id, 'choice-not-offered', { field: label ?? form.byId.get(id)?.name ?? id });
  }
  const changed = touched.filter((id) => theirs && !theirs.includes(id));
  const [first] = changed;
  if (!theirs || first === undefined) return;
  const { show, lock, label } = screens.of(item.type, place, first);
  const called = label ?? form.byId.get(first)?.name ?? first;
  if (lock !== undefined) throw problemAt(first, 'field-locked', { field: called, reason: lock });
  if (show === 'hidden') throw problemAt(first, 'field-hidden', { field: called });
  const name = (id: string) => `“${form.byId.get(id)?.name ?? id}”`;
  const rest = theirs.length <= FEW_FIELDS ? ` You may change ${sayList(theirs.map(name))}.` : '';
  throw new Problem(
    'fields-not-yours',
    { fields: `${sayList(changed.map(name))} ${changed.length === 1 ? 'is' : 'are'}`, rest },
    { permission: 'page.edit', page: String(item.id), fields: changed },
  );
}

/** The pictures that versions of an item ever showed, by their ids. */
export async function findPicturesEver(
  tx: Tx,
  inventory: Inventory,
  item: Pick<ItemRow, 'id' | 'type'>,
): Promise<Set<string>> {
  const form = formOf(inventory, item);
  const rows = await tx.select({ content: revisions.content }).from(revisions).where(eq(revisions.itemId, item.id));
  return new Set(rows.flatMap(({ content }) => picturesOf(form, content).map(({ id }) => id)));
}

/**
 * Whether a draft names only what there is and what its writer may: pictures and people of the site, a layout and an
 * author that give nobody more than the writer has.
 */
export async function mustMayUse(
  tx: Tx,
  access: Access,
  item: ItemRow,
  layout: Layout,
  content: PageContent,
  shown: PageContent | undefined,
  /** What pictures may be taken from on this layout and in this place. */
  from: readonly (PageContent | undefined)[],
  place: Place | undefined,
): Promise<void> {
  const form = formOf(access.inventory, item);
  const wanted = picturesOf(form, content);
  if (wanted.length > 0) {
    // Whoever may not see all pictures, or shall choose from its own, has those the page ever had.
    const known = new Set(from.flatMap((text) => picturesOf(form, text ?? {}).map(({ id }) => id)));
    const writing = writingOf(access.inventory, access.plan, access.who, now().getTime());
    const sourceOf = (field: string) =>
      !mayNow(access, 'media.view').allowed
        ? 'own'
        : place
          ? pictureSource(writing.of(form.type.id, { ...place, layout: layout.id }, field).tools)
          : 'all';
    const limited = wanted.filter(({ field, id }) => !known.has(id) && sourceOf(field.id) !== 'all');
    if (limited.length > 0) {
      for (const id of await findPicturesEver(tx, access.inventory, item)) known.add(id);
      const pictures = await findPictures(
        tx,
        access.site.id,
        limited.map(({ id }) => id),
      );
      const isOfPart = (id: string) => place?.path.includes(pictures.get(id)?.part ?? '') === true;
      const chosen = limited.find(
        ({ field, id }) => !known.has(id) && !(sourceOf(field.id) === 'part' && isOfPart(id)),
      );
      if (chosen)
        throw problemAt(chosen.field.id, 'picture-not-yours', {
          field: chosen.field.name,
          thing: thisOf(access.inventory, item).toLowerCase(),
        });
    }
  }
  if (form.type.settings.length === 0) return;
  const author = textOf(content, 'page.author');
  if (
    author &&
    author !== String(item.authorId) &&
    !(
      /^\d{1,9}$/.test(author) &&
      (
        await tx
          .select({ id: people.id })
          .from(people)
          .where(and(eq(people.siteId, access.site.id), eq(people.id, Number(author))))
      ).length
    )
  )
    throw problemAt('page.author', 'author-unknown');
  if (!place) return;
  if (layout.id !== item.layout && !mayNow(access, 'page.edit', { place: { ...place, layout: layout.id } }).allowed)
    throw problemAt('page.layout', 'layout-not-yours', { layout: layout.name });
  const isNew = (field: string, value: string) => value !== '' && value !== textOf(shown ?? {}, field);
  if (
    layout.id !== item.layout &&
    isNew('page.layout', layout.id) &&
    gained(access, place, { ...place, layout: layout.id })
  )
    throw problemAt('page.layout', 'layout-gives-more', { layout: layout.name });
  if (author && author !== String(item.authorId) && isNew('page.author', author)) {
    const changed = { ...place, author };
    if (author === access.who.id) {
      if (gained(access, place, changed)) throw problemAt('page.author', 'authorship-gives-you-more');
    } else {
      const person = await findPolicyPerson(tx, Number(author));
      const theirs = person && { ...access, who: person, policy: policyOf(access.inventory, access.plan, [person]) };
      const more =
        theirs &&
        placedOf(access.inventory).find(
          (permission) =>
            mayNow(theirs, permission, { place: changed }).allowed &&
            !mayNow(theirs, permission, { place }).allowed &&
            !mayNow(access, permission, { place }).allowed,
        );
      if (more) throw problemAt('page.author', 'authorship-gives-them-more');
    }
  }
}
