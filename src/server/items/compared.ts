import { and, eq, sql } from 'drizzle-orm';
import { among } from '../db/among';
import { emptyDocument, referencesOf, textOf, type Field, type FieldChange, type PageContent } from '@/core/content';
import { publishingOf } from '@/core/plan';
import type { ComingOut } from '@/core/wire';
import type { Tx } from '../db/client';
import { inNameOrder } from '../db/order';
import { items, people, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound, Problem } from '../gate/problems';
import { findPictures } from '../pictures/pictures';
import { maySee } from '../tree/naming';
import { findPlace } from '../tree/tree';
import { compareApart, type KnownNames } from '../work/compare';
import { screensFor } from './allowed';
import { formOf, layoutOf, type ItemRow } from './forms';
import { contentOf, findDraft, mustFindItem, mustFindVersion, thisOf } from './items';
import { withAddresses } from './links';
import { checkContent } from './publishing';
import type { Inventory } from '@/core/inventory';

const asked = sql<string | null>`(select a.name from ${people} a where a.id = ${reviews.askedOf})`;

export interface ReviewView {
  id: number;
  itemId: string;
  title: string;
  sentBy: string;
  /** Names of everybody who wrote in it. */ writtenBy: string[];
  sentById: string;
  askedOf: string | null;
  sentAt: Date;
  note: string;
  outcome: string | null;
  decidedBy: string | null;
  word: string;
  changes: FieldChange[];
}

/** What ids in some contents are called. */
async function loadNames(
  tx: Tx,
  siteId: number,
  fields: ReadonlyMap<string, Field>,
  contents: readonly PageContent[],
): Promise<KnownNames> {
  const needed = contents.flatMap((content) => referencesOf(fields.values(), content));
  const idsOf = (kind: string) => needed.flatMap((one) => (one.kind === kind ? [one.target] : []));
  const pictures = await findPictures(tx, siteId, idsOf('picture'));
  const known = idsOf('person').filter((id) => /^\d{1,9}$/.test(id));
  const named =
    known.length === 0
      ? []
      : await tx
          .select({ id: people.id, name: people.name })
          .from(people)
          .where(and(eq(people.siteId, siteId), among(people.id, known.map(Number))));
  return {
    pictures: [...pictures].map(([id, { name }]) => [id, name]),
    people: named.map(({ id, name }) => [String(id), name]),
  };
}

const NOTHING: PageContent = { title: '', body: emptyDocument() };

/**
 * Two contents of an item compared: everything stored, field by field and setting by setting, against what the earlier
 * one showed.
 */
async function compareOn(
  tx: Tx,
  inventory: Inventory,
  siteId: number,
  item: ItemRow,
  before: PageContent | undefined,
  after: PageContent,
): Promise<FieldChange[]> {
  const [earlier, later] = await withAddresses(tx, siteId, [before ?? NOTHING, after]);
  return compareApart(
    inventory,
    item.type,
    [layoutOf(inventory, earlier, item).id, earlier],
    [layoutOf(inventory, after, item).id, later],
    await loadNames(tx, siteId, formOf(inventory, item).byId, [earlier, later]),
  );
}

/** A draft that was sent, compared with what visitors see. */
export async function getReviewView(tx: Tx, inventory: Inventory, siteId: number, id: number): Promise<ReviewView> {
  const [row] = await tx
    .select({
      review: reviews,
      content: revisions.content,
      writers: revisions.writers,
      item: items,
      name: people.name,
      asked,
    })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .innerJoin(items, eq(items.id, reviews.itemId))
    .leftJoin(people, eq(people.id, reviews.sentBy))
    .where(and(eq(reviews.siteId, siteId), eq(reviews.id, id)));
  if (!row) throw notFound('This draft');
  const { review, content, item, name } = row;
  const decider =
    review.decidedBy === null
      ? undefined
      : (await tx.select({ name: people.name }).from(people).where(eq(people.id, review.decidedBy)))[0];
  const wrote = await tx
    .select({ name: people.name })
    .from(people)
    .where(among(people.id, [...new Set([...row.writers, review.sentBy])]))
    .orderBy(inNameOrder(people.name));
  return {
    id,
    itemId: String(review.itemId),
    title: textOf(content, 'title'),
    sentBy: name ?? 'Somebody',
    writtenBy: wrote.map((person) => person.name),
    sentById: String(review.sentBy),
    askedOf: row.asked,
    sentAt: review.sentAt,
    note: review.note,
    outcome: review.outcome,
    decidedBy: decider?.name ?? null,
    word: review.word,
    changes: await compareOn(tx, inventory, siteId, item, await contentOf(tx, item.liveRevisionId), content),
  };
}

/**
 * Two versions of an item compared, with what the older says, so that it can be written on from it. Without a second it
 * is what visitors see now.
 */
export async function compareVersions(
  tx: Tx,
  inventory: Inventory,
  siteId: number,
  itemId: number,
  revisionId: number,
  withId: number | null,
): Promise<{ changes: FieldChange[]; content: PageContent }> {
  const item = await mustFindItem(tx, siteId, itemId);
  const content = await mustFindVersion(tx, item, revisionId);
  const other =
    withId === null ? ((await contentOf(tx, item.liveRevisionId)) ?? content) : await mustFindVersion(tx, item, withId);
  return {
    changes: await compareOn(tx, inventory, siteId, item, content, other),
    content: await withAddresses(tx, siteId, content),
  };
}

/**
 * What visitors would see anew if the draft of an item went out now, with all that publishing it needs: for whoever
 * publishes it without its edit screen.
 */
export async function getComingOut(tx: Tx, access: Access, itemId: number): Promise<ComingOut> {
  const siteId = access.site.id;
  const item = await mustFindItem(tx, siteId, itemId);
  const draft = await findDraft(tx, itemId);
  if (!draft) throw new Problem('no-draft', { thing: thisOf(access.inventory, item).toLowerCase() });
  const place = await findPlace(tx, siteId, itemId);
  const { show, label, hint, required } = place
    ? screensFor(access).of(item.type, place, `${formOf(access.inventory, item).type.screen}.note`)
    : {};
  return {
    changes: await compareOn(
      tx,
      access.inventory,
      siteId,
      item,
      await contentOf(tx, item.liveRevisionId),
      draft.content,
    ),
    content: await withAddresses(tx, siteId, draft.content),
    version: draft.version,
    isUnfinished: Object.keys(draft.unfinished).length > 0,
    findings: await checkContent(tx, access, itemId, draft.content, maySee(access)),
    note:
      show === 'hidden'
        ? null
        : {
            label: label ?? null,
            hint: hint ?? null,
            required: required === true || publishingOf(access.plan).noteRequired,
          },
  };
}
