import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { Place } from '@/core/access';
import { textOf, type PageContent } from '@/core/content';
import { publishingOf } from '@/core/plan';
import { sayTime } from '@/core/words';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { drafts, items, people, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound, Problem, problemAt } from '../gate/problems';
import { listPeople } from '../people/people';
import { beginDraft } from './begin';
import { addRevision, saveAndTake } from './drafts';
import { screensFor } from './allowed';
import { formOf } from './forms';
import { hrefFor, mustFindItem } from './items';
import { comingInstant, mustPass, scheduleFor, putOnline, replaceWaiting } from './publishing';
import { countOpenRemarks } from './remarks';
import { reviewersOf } from './reviewers';
import { findAllPlaced, findPlace } from '../tree/tree';

/** A review by its number, with everybody who wrote what was sent since it was last published. */
export async function findReview(tx: Tx, siteId: number, id: number) {
  const [row] = await tx
    .select({ review: reviews, writers: revisions.writers })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .where(and(eq(reviews.siteId, siteId), eq(reviews.id, id)));
  return row && { ...row.review, writers: [...new Set([...row.writers, row.review.sentBy])] };
}

/** Everybody who wrote what waits for a second look of an item; nobody where nothing waits. */
export async function writersOfWaiting(tx: Tx, siteId: number, itemId: number): Promise<string[]> {
  const rows = await tx
    .select({ id: reviews.id })
    .from(reviews)
    .where(and(eq(reviews.siteId, siteId), eq(reviews.itemId, itemId), isNull(reviews.outcome)));
  const found = await Promise.all(rows.map(({ id }) => findReview(tx, siteId, id)));
  return found.flatMap((review) => review?.writers.map(String) ?? []);
}

/** Somebody who was asked by name must be able to give the second look. */
async function mustBeAble(
  tx: Tx,
  access: Access,
  itemId: number,
  writers: readonly number[],
  askedOf: number,
): Promise<void> {
  const place = await findPlace(tx, access.site.id, itemId);
  const able = reviewersOf(access, await listPeople(tx, access.site.id), { place, writtenBy: writers.map(String) });
  if (!able.some(({ id }) => id === String(askedOf))) throw problemAt('askedOf', 'reviewer-cannot');
}

/** Refuses to go on without a word about the change where the website, or the edit screen of whoever asks, wants one. */
async function mustSay(tx: Tx, access: Access, itemId: number, note: string): Promise<void> {
  if (note.trim() !== '') return;
  const { type } = await mustFindItem(tx, access.site.id, itemId);
  const place = await findPlace(tx, access.site.id, itemId);
  const control = `${formOf(access.inventory, { type }).type.screen}.note`;
  if (publishingOf(access.plan).noteRequired || (place && screensFor(access).of(type, place, control).required))
    throw problemAt('note', 'note-wanted');
}

export interface GivenToSend {
  content: unknown;
  version: number;
  note: string;
}

/**
 * Sends the draft to whoever may give the second look, or to one of them by name. What waited before is replaced. Runs
 * in a transaction.
 */
export async function sendForReview(
  tx: Tx,
  access: Access,
  itemId: number,
  given: GivenToSend & { askedOf?: number | null | undefined },
): Promise<{ review: number }> {
  const { note, askedOf = null } = given;
  await mustSay(tx, access, itemId, note);
  const { content, writers, item } = await saveAndTake(tx, access, itemId, given);
  await mustPass(tx, access, itemId, content);
  if (askedOf !== null) await mustBeAble(tx, access, itemId, writers, askedOf);
  await replaceWaiting(tx, itemId, access.signedInId);
  const revisionId = await addRevision(tx, access, item, content, 'sent', note, { writers });
  const [row] = await tx
    .insert(reviews)
    .values({ siteId: access.site.id, itemId, revisionId, sentBy: access.signedInId, askedOf, note })
    .returning({ id: reviews.id });
  await record(tx, access, 'sent for a second look', textOf(content, 'title'), {
    href: await hrefFor(tx, access.inventory, itemId),
    detail: note,
  });
  return { review: row?.id ?? 0 };
}

/**
 * Puts the draft on the website, at once or at an hour to come. A waiting review of the page is replaced. Runs in a
 * transaction.
 */
export async function publishDraft(
  tx: Tx,
  access: Access,
  itemId: number,
  given: GivenToSend & { at?: string | undefined },
): Promise<void> {
  const { note } = given;
  await mustSay(tx, access, itemId, note);
  const { content, writers, item } = await saveAndTake(tx, access, itemId, given);
  await replaceWaiting(tx, itemId, access.signedInId);
  await publishRevision(
    tx,
    access,
    itemId,
    await addRevision(tx, access, item, content, given.at ? 'sent' : 'published', note, { writers }),
    content,
    given.at,
    { now: 'published', later: 'planned to publish' },
    note,
  );
}

/** Publishes a revision now, or plans it for an hour on the site's clock. */
async function publishRevision(
  tx: Tx,
  access: Access,
  itemId: number,
  revisionId: number,
  content: PageContent,
  at: string | undefined,
  actions: { now: string; later: string },
  note: string,
): Promise<void> {
  const more = { href: await hrefFor(tx, access.inventory, itemId), detail: note };
  if (at === undefined) {
    await putOnline(tx, access, itemId, revisionId, content);
    await record(tx, access, actions.now, textOf(content, 'title'), more);
    return;
  }
  const dueAt = comingInstant(access, at);
  await mustPass(tx, access, itemId, content);
  await scheduleFor(tx, access, itemId, { what: 'publish', dueAt, revisionId });
  await record(tx, access, actions.later, textOf(content, 'title'), {
    ...more,
    detail: [`For ${sayTime(dueAt, siteCalendar(access.site), now())}.`, note].filter(Boolean).join(' '),
  });
}

/**
 * Decides on what waits: publishes it, now or later, or gives it back to its writer as a draft with a word. Runs in a
 * transaction.
 */
export async function decideReview(
  tx: Tx,
  access: Access,
  id: number,
  given: { outcome: 'published' | 'sent-back'; word: string; at?: string | undefined },
): Promise<void> {
  const { outcome, word } = given;
  const [review] = await tx
    .select()
    .from(reviews)
    .where(and(eq(reviews.id, id), eq(reviews.siteId, access.site.id)))
    .for('update');
  if (!review) throw notFound('This draft');
  if (review.outcome !== null) throw new Problem(review.outcome === 'replaced' ? 'newer-sent' : 'decided-already');
  const open = outcome === 'sent-back' ? await countOpenRemarks(tx, id) : 0;
  if (outcome === 'sent-back' && word.trim() === '' && open === 0) throw problemAt('word', 'word-wanted');
  const [revision] = await tx.select().from(revisions).where(eq(revisions.id, review.revisionId));
  if (!revision) throw new Error(`review ${id} has no revision`);
  await tx
    .update(reviews)
    .set({ outcome, word, decidedBy: access.signedInId, decidedAt: now() })
    .where(eq(reviews.id, id));
  if (outcome === 'published')
    return publishRevision(
      tx,
      access,
      review.itemId,
      review.revisionId,
      revision.content,
      given.at,
      { now: 'gave the second look and published', later: 'gave the second look and planned to publish' },
      word,
    );
  // Where somebody has begun a new draft meanwhile, theirs stays; the revision sent back is kept anyway.
  const told = word.trim() || `${open} ${open === 1 ? 'remark' : 'remarks'} on the text`;
  await beginDraft(tx, access.inventory, await mustFindItem(tx, access.site.id, review.itemId), {
    content: revision.content,
    by: review.sentBy,
    writers: revision.writers,
  });
  await tx.update(drafts).set({ sentBackWord: told }).where(eq(drafts.itemId, review.itemId));
  await record(tx, access, 'sent back', textOf(revision.content, 'title'), {
    href: await hrefFor(tx, access.inventory, review.itemId),
    detail: told,
  });
  return undefined;
}

export interface WaitingEntry {
  /** Numbers of everybody who wrote in it. */ writers: string[];
  id: number;
  itemId: string;
  place: Place;
  title: string;
  sentBy: string;
  sentById: string;
  askedOf: string | null;
  askedOfId: string | null;
  sentAt: Date;
  note: string;
}

const asked = sql<string | null>`(select a.name from ${people} a where a.id = ${reviews.askedOf})`;

const askWaiting = prepared('what waits for a second look', (tx) =>
  tx
    .select({ review: reviews, content: revisions.content, writers: revisions.writers, name: people.name, asked })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .innerJoin(items, and(eq(items.id, reviews.itemId), isNull(items.deletedAt)))
    .leftJoin(people, eq(people.id, reviews.sentBy))
    .where(and(eq(reviews.siteId, given('site')), isNull(reviews.outcome)))
    .orderBy(asc(reviews.sentAt)),
);

/** What waits for a second look on a site, oldest first. */
export async function listWaiting(tx: Tx, siteId: number): Promise<WaitingEntry[]> {
  const rows = await askWaiting(tx, { site: siteId });
  const placed = await findAllPlaced(
    tx,
    siteId,
    rows.map(({ review }) => review.itemId),
  );
  return rows.flatMap(({ review, content, writers, name, asked: askedOf }) => {
    const place = placed.get(review.itemId)?.place;
    return place
      ? [
          {
            place,
            askedOf,
            writers: [...new Set([...writers, review.sentBy])].map(String),
            askedOfId: review.askedOf === null ? null : String(review.askedOf),
            id: review.id,
            itemId: String(review.itemId),
            title: textOf(content, 'title'),
            sentBy: name ?? 'Somebody',
            sentById: String(review.sentBy),
            sentAt: review.sentAt,
            note: review.note,
          },
        ]
      : [];
  });
}
