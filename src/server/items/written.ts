import {
  faultsInSight,
  kindOfField,
  readContent,
  settingsOf,
  type ContentFault,
  type Field,
  type PageContent,
} from '@/core/content';
import type { Tx } from '../db/client';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { findForbiddenBelow } from './branches';
import { breathe } from '../work/breathe';
import { formOf, picturesOf, type Form, type ItemRow } from './forms';
import { mustMayUse, mustMayWrite } from './allowed';
import { withNames } from './links';
import { findPictures } from '../pictures/pictures';
import { titleOf } from './publishing';
import { findPlace } from '../tree/tree';
import { beforeOn, mustHaveTools, type Before } from './tools';

/**
 * Whether a value that is not right can be kept as it was typed: only what an editor's fields can hold. A text that
 * does not fit the schema, or a choice there is not, was not typed by anybody.
 */
const canWait = (field: Field | undefined, value: unknown): boolean =>
  field !== undefined && kindOfField(field).waits(value, field);

/**
 * Reads what somebody sent as the content of an item, whichever way it came. A field left out stays as it was.
 * Everything stored is looked at, shown or not: pictures and people must be there, the layout theirs to use, tools
 * theirs for what is new, and what they could not make again must stay. A field that is not right yet takes nothing
 * from the others: it is given back in
 * `unfinished`, as typed, with its fault where its layout shows it.
 */
export async function readWritten(
  tx: Tx,
  access: Access,
  item: ItemRow,
  given: unknown,
  before: Before & { unfinished: Record<string, unknown> },
): Promise<{
  content: PageContent;
  unfinished: Record<string, unknown>;
  faults: ContentFault[];
  /** Where it lies. */
  path: string | null;
}> {
  // What it said before likewise: where there is a page by now, the link is still the one that stood there.
  const { shown, unfinished: waits, once } = before;
  const { named, old } = await withNames(tx, access, item.id, { named: given, old: before }, [shown, waits, ...once]);
  const raw =
    typeof named === 'object' && named !== null && !Array.isArray(named)
      ? { ...old.shown, ...(named as Record<string, unknown>) }
      : named;
  await breathe();
  const form = formOf(access.inventory, item);
  const read = readContent(form.layouts, item.layout, raw, form.type.settings);
  await breathe();
  if (!read) throw problemAt('', 'nothing-sent');
  const faults = [
    ...read.faults,
    ...lastPartGone(item, read.content),
    ...(await picturesGone(tx, access, form, read.content)),
  ];
  const strange = faults.filter(({ field }) => !canWait(form.byId.get(field), (raw as Record<string, unknown>)[field]));
  if (strange.length > 0)
    throw new Problem('content-faulty', { faults: strange.map((f) => f.message).join(' ') }, { faults: strange });
  // What is not right yet stays beside the draft as it was typed; the draft goes on saying of it what it said.
  const unfinished = Object.fromEntries(
    faults.map(({ field }) => [field, (raw as Record<string, unknown>)[field] ?? null]),
  );
  const said = old.shown ?? {};
  const content = {
    ...read.content,
    ...Object.fromEntries(Object.keys(unfinished).map((field) => [field, said[field] ?? null])),
  };
  const place = await findPlace(tx, access.site.id, item.id);
  mustMayWrite(access, item, place, [said, old.unfinished], [content, unfinished], old.once);
  await breathe();
  const path = place?.path.join('.') ?? null;
  const begun = beforeOn(old, read.layout.id, path);
  await mustMayUse(
    tx,
    access,
    item,
    read.layout,
    content,
    old.shown,
    begun.isElsewhere ? begun.once : [begun.shown],
    place,
  );
  await mustMayReaddress(tx, access, item, content);
  // What lies nowhere is written with what is had everywhere.
  const spot = place ?? { path: [], layout: '', state: 'draft', author: null };
  await mustHaveTools(access, form, { ...spot, layout: read.layout.id }, begun, content);
  return { content, unfinished, faults: faultsInSight(read.layout, faults), path };
}

/** With a page's address those of the pages below it change: they must be theirs, too. */
async function mustMayReaddress(tx: Tx, access: Access, item: ItemRow, content: PageContent): Promise<void> {
  if (item.type !== 'page' || content['page.slug'] === undefined) return;
  const { slug, ownAddress } = settingsOf(content);
  if (slug === item.slug && ownAddress === item.ownAddress) return;
  const below = (await findForbiddenBelow(tx, access, 'page.edit', [item.id])).get(item.id);
  if (below === undefined || below === item.id) return;
  const place = await findPlace(tx, access.site.id, below);
  const isSeen = place !== undefined && mayNow(access, 'page.view', { place }).allowed;
  const page = isSeen ? `“${await titleOf(tx, below)}”` : 'a page below that you do not see';
  throw problemAt('page.slug', 'below-not-yours', { page });
}

/** A page below another has a last part of its address; the first page has none, and needs none. */
const lastPartGone = (item: ItemRow, content: PageContent): ContentFault[] =>
  content['page.slug'] === '' && item.parentId !== null
    ? [{ field: 'page.slug', message: 'The last part of the address is needed: by it the page is found.' }]
    : [];

/** The fields whose pictures are not there any more. */
async function picturesGone(tx: Tx, access: Access, form: Form, content: PageContent): Promise<ContentFault[]> {
  const wanted = picturesOf(form, content);
  const there = await findPictures(
    tx,
    access.site.id,
    wanted.map(({ id }) => id),
  );
  return [
    ...new Map(
      wanted
        .filter(({ id }) => !there.has(id))
        .map(({ field }) => [
          field.id,
          { field: field.id, message: `${field.name}: the picture chosen is not there any more. Choose another.` },
        ]),
    ).values(),
  ];
}
