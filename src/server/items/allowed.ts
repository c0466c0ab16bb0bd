import { and, eq } from 'drizzle-orm';
import type { Place } from '@/core/access';
import { textOf, type Layout, type PageContent } from '@/core/content';
import { canonical } from '@/core/json';
import { policyOf } from '@/core/plan';
import { writingOf } from '@/core/room';
import { pictureSource } from '@/core/toolbar';
import { sayList } from '@/core/words';
import { inventory } from '@/office';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { media, people, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { findPolicyPerson } from '../people/people';
import { formOf, picturesOf, type ItemRow } from './forms';
import { thisOf } from './items';

const PAGE = formOf({ type: 'page' });
const PLACED = [...inventory.permissions.values()]
  .filter((permission) => permission.placed)
  .map((permission) => permission.id);

/**
 * A permission somebody would have of a page as it would be, and has not as it is: rules can hang on the layout and the
 * author.
 */
const gained = (access: Access, place: Place, changed: Place) =>
  PLACED.find(
    (permission) =>
      mayNow(access, permission, { place: changed }).allowed && !mayNow(access, permission, { place }).allowed,
  );

/**
 * Whether somebody may give a page a layout: they may change pages with it here, and could do no more with this one by
 * it.
 */
const mayGiveLayout = (access: Access, place: Place, layout: string) =>
  mayNow(access, 'page.edit', { place: { ...place, layout } }).allowed && !gained(access, place, { ...place, layout });

/** The layouts somebody may give a page, and the one it has. */
export const layoutsFor = (access: Access, place: Place): string[] =>
  [...inventory.layouts.keys()].filter((id) => id === place.layout || mayGiveLayout(access, place, id));

/** The fields of a page that somebody may change here; null for all of them. */
export function fieldsFor(access: Access, place: Place): string[] | null {
  const theirs = [...PAGE.byId.keys()].filter((field) => mayNow(access, 'page.edit', { place, field }).allowed);
  return theirs.length === PAGE.byId.size ? null : theirs;
}

/** As many fields as a refusal names. */
const FEW_FIELDS = 6;

/**
 * Refuses what changes a field somebody may not change, whether it is right already or waits to be; each of `before`
 * and `after` is what the page says and what is unfinished of it.
 */
export function mustMayWrite(
  access: Access,
  item: ItemRow,
  place: Place | undefined,
  before: readonly Record<string, unknown>[],
  after: readonly Record<string, unknown>[],
): void {
  const theirs = item.type === 'page' && place && fieldsFor(access, place);
  if (!theirs) return;
  const ids = new Set([...before, ...after].flatMap((part) => Object.keys(part)));
  const changed = [...ids].filter(
    (id) =>
      !theirs.includes(id) &&
      after.some((part, i) => canonical(part[id] ?? null) !== canonical(before[i]?.[id] ?? null)),
  );
  if (changed.length === 0) return;
  const name = (id: string) => `“${PAGE.byId.get(id)?.name ?? id}”`;
  const rest = theirs.length <= FEW_FIELDS ? ` You may change ${sayList(theirs.map(name))}.` : '';
  throw new Problem(
    'fields-not-yours',
    { fields: `${sayList(changed.map(name))} ${changed.length === 1 ? 'is' : 'are'}`, rest },
    { permission: 'page.edit', page: String(item.id), fields: changed },
  );
}

/** The pictures that versions of an item ever showed, by their ids. */
export async function findPicturesEver(tx: Tx, item: Pick<ItemRow, 'id' | 'type'>): Promise<Set<string>> {
  const form = formOf(item);
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
  place: Place | undefined,
): Promise<void> {
  const form = formOf(item);
  const wanted = picturesOf(form, content);
  if (wanted.length > 0) {
    // Whoever may not see all pictures, or shall choose from its own, has those the page ever had.
    const known = new Set(picturesOf(form, shown ?? {}).map(({ id }) => id));
    const writing = writingOf(inventory, access.plan, access.who, now().getTime());
    const sourceOf = (field: string) =>
      !mayNow(access, 'media.view').allowed
        ? 'own'
        : place
          ? pictureSource(writing.of(form.type.id, { ...place, layout: layout.id }, field).tools)
          : 'all';
    const limited = wanted.filter(({ field, id }) => !known.has(id) && sourceOf(field.id) !== 'all');
    if (limited.length > 0) {
      for (const id of await findPicturesEver(tx, item)) known.add(id);
      const ofPart = new Set(
        (await tx.select().from(media).where(eq(media.siteId, access.site.id))).flatMap(({ id, pageId }) =>
          pageId !== null && place?.path.includes(String(pageId)) ? [String(id)] : [],
        ),
      );
      const chosen = limited.find(
        ({ field, id }) => !known.has(id) && !(sourceOf(field.id) === 'part' && ofPart.has(id)),
      );
      if (chosen)
        throw problemAt(chosen.field.id, 'picture-not-yours', {
          field: chosen.field.name,
          thing: thisOf(item).toLowerCase(),
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
      const theirs = person && { ...access, who: person, policy: policyOf(inventory, access.plan, [person]) };
      const more =
        theirs &&
        PLACED.find(
          (permission) =>
            mayNow(theirs, permission, { place: changed }).allowed &&
            !mayNow(theirs, permission, { place }).allowed &&
            !mayNow(access, permission, { place }).allowed,
        );
      if (more) throw problemAt('page.author', 'authorship-gives-them-more');
    }
  }
}
