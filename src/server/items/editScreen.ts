import { publishingOf } from '@/core/plan';
import { writingOf, type TextTools } from '@/core/room';
import { kindOfField } from '@/core/content';
import { arrange, elementsOf, panelOf } from '@/core/screens';
import { controlsOn } from '@/core/task';
import { pictureSource } from '@/core/toolbar';
import { now } from '../clock';
import { pageNamer } from '../tree/naming';
import type { Tx } from '../db/client';
import { isKeyholder, type Access } from '../gate/access';
import { mayNow, type Thing } from '../gate/authorize';
import { listPictures } from '../pictures/pictures';
import { listPeople } from '../people/people';
import type { LoadedRoom } from '../room';
import { fieldsFor, findPicturesEver, screensFor } from './allowed';
import { getEditable } from './editable';
import { formOf, picturesOf } from './forms';
import { listWriters } from './items';
import { listNotes } from './notes';
import { listItemRemarks } from './remarks';
import { reviewersOf } from './reviewers';

/**
 * All that the edit screen of an item of any type is given, as far as whoever asks may see it. `address`: where
 * visitors see it.
 */
export async function loadEditScreen(
  tx: Tx,
  access: Access,
  thing: Thing,
  id: number,
  loaded: LoadedRoom,
  address: string | null,
) {
  const { type = 'page', place } = thing;
  const [editable, pictures, people, writers, remarks] = await Promise.all([
    getEditable(tx, access.inventory, access.site.id, id),
    listPictures(tx, access.site.id),
    listPeople(tx, access.site.id),
    listWriters(tx, id),
    listItemRemarks(tx, access, id, thing),
  ]);
  const form = formOf(access.inventory, { type });
  const { one } = form.type;
  const may = (permission: string) => mayNow(access, permission, thing).allowed;
  const edit = may('item.edit');
  // Notes and the pictures and people there are to choose from are for whoever may change it, as far as their room
  // shows them.
  const notes = edit ? await listNotes(tx, access.site.id, id) : [];
  const had = new Set(
    [editable.content, editable.live ?? {}]
      .flatMap((content) => picturesOf(form, content))
      .map((picture) => picture.id),
  );
  const choosable = mayNow(access, 'media.view').allowed ? pictures : pictures.filter((picture) => had.has(picture.id));
  const known = mayNow(access, 'person.view').allowed
    ? people
    : people.filter(
        (person) =>
          person.id === access.who.id ||
          person.id === place?.author ||
          person.id === editable.content['page.author'] ||
          person.id === editable.live?.['page.author'],
      );
  const writtenBy = [...writers.map(String), access.who.id];
  const reviewers = reviewersOf(access, people, { place, writtenBy })
    .filter((person) => !isKeyholder(person))
    .map(({ id, name }) => ({ id, name }));
  const writing = writingOf(access.inventory, access.plan, access.who, now().getTime());
  const prepared = screensFor(access);
  const controls = controlsOn(access.inventory, form.type.screen, {
    may,
    hasTool: (tools) => place !== undefined && writing.has(type, place, [tools]),
  }).filter((control) => !place || prepared.of(type, place, control).show !== 'hidden');
  /** In every layout, as the toolbars: for who may write. */
  const screens = Object.fromEntries(
    [...form.layouts].map(([layout, of]) => {
      const here = place && (type === 'page' ? { ...place, layout } : place);
      const elements = elementsOf(access.inventory, form.type, of);
      const standing = elements.filter(({ panel }) => panel === undefined);
      const column = (which: 'main' | 'side') => standing.filter((one) => one.column === which).map((one) => one.id);
      const states = elements.flatMap(({ id: element }) => {
        const { because: _, ...state } = here ? prepared.of(type, here, element) : { because: {} };
        return Object.keys(state).length > 0 ? [[element, state] as const] : [];
      });
      return [
        layout,
        {
          elements: Object.fromEntries(states),
          ...arrange(here && prepared.arranged(type, here), { main: column('main'), side: column('side') }),
        },
      ];
    }),
  );
  // In every layout they may give it: the screen changes with the layout before it is kept.
  const toolbars: Record<string, Record<string, TextTools>> = {};
  if (place && edit)
    for (const [layout, { fields }] of form.layouts)
      toolbars[layout] = Object.fromEntries(
        fields
          .filter((field) => kindOfField(field).texts !== undefined || kindOfField(field).refersTo === 'picture')
          .map(({ id: field }) => [field, writing.of(type, { ...place, layout }, field)]),
      );
  const isLimited = Object.values(toolbars).some((fields) =>
    Object.values(fields).some(({ tools }) => pictureSource(tools) !== 'all'),
  );
  const own = isLimited ? await findPicturesEver(tx, access.inventory, { id, type }) : new Set<string>();
  for (const picture of had) own.add(picture);
  const { layout: _, live: __, unfinished, ...shown } = editable;
  return {
    item: { ...shown, content: { ...editable.content, ...(unfinished as typeof editable.content) }, address },
    about: { one: form.type.one, screen: form.type.screen },
    layouts: form.type.layouts,
    settings: form.type.settings,
    crumbs: (place?.path ?? []).map(pageNamer(access, loaded.pages)),
    me: { id: access.who.id },
    controls,
    may: { edit, retire: may('item.retire') },
    readOnlyWhy: edit ? null : `You can read this ${one} but not change it. Ask the keyholder if you need to.`,
    reviewers,
    noteRequired: publishingOf(access.plan).noteRequired,
    remarks,
    notes,
    people: known.map(({ id, name }) => ({ id, name })),
    theirFields: edit && place ? fieldsFor(access, type, place) : null,
    screens,
    fieldPanels: Object.fromEntries(
      form.fields.flatMap((field) => {
        const panel = panelOf(access.inventory, type, field.id);
        return panel === undefined ? [] : [[field.id, panel]];
      }),
    ),
    toolbars,
    ownPictures: [...own],
    allTools: [...access.inventory.tools.values()],
    pictures: choosable.map(({ part, ...picture }) => ({
      ...picture,
      ofPart: part !== null && (place?.path.includes(part) ?? false),
    })),
    calendar: access.calendar,
    isTrial: access.trial !== null,
    now: now().toISOString(),
  };
}
