import { and, asc, count, eq, isNull } from 'drizzle-orm';
import type { Remark } from '@/core/wire';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, remarks, reviews, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { authorize, mayNow, type Thing } from '../gate/authorize';
import { notFound, Problem } from '../gate/problems';
import { hrefFor } from './items';
import { titleOf } from './publishing';

/** The remarks of a second look, in the order they were made. */
export async function listRemarks(tx: Tx, siteId: number, reviewId: number): Promise<Remark[]> {
  const rows = await tx
    .select({ remark: remarks, name: people.name })
    .from(remarks)
    .leftJoin(people, eq(people.id, remarks.madeBy))
    .where(and(eq(remarks.siteId, siteId), eq(remarks.reviewId, reviewId)))
    .orderBy(asc(remarks.id));
  return rows.map(({ remark, name }) => ({
    id: remark.id,
    answers: remark.answers,
    field: remark.field,
    quote: remark.quote,
    text: remark.text,
    by: name ?? 'Somebody',
    byId: String(remark.madeBy),
    at: remark.madeAt.toISOString(),
    settled: remark.settledAt?.toISOString() ?? null,
  }));
}

/**
 * The remarks of the newest second look of an item that are not settled: what its writer still has to answer. Null also
 * for whom they are not for.
 */
export async function listItemRemarks(
  tx: Tx,
  access: Access,
  itemId: number,
  thing: Thing,
): Promise<{ review: number; remarks: Remark[] } | null> {
  const rows = await tx
    .select({ id: reviews.id, sentBy: reviews.sentBy, writers: revisions.writers })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .where(and(eq(reviews.siteId, access.site.id), eq(reviews.itemId, itemId)))
    .orderBy(asc(reviews.id));
  const last = rows.at(-1);
  const list =
    last && mayRemark(access, { ...thing, writtenBy: [...last.writers, last.sentBy].map(String) })
      ? await listRemarks(tx, access.site.id, last.id)
      : [];
  return last && list.some((remark) => remark.answers === null && remark.settled === null)
    ? { review: last.id, remarks: list }
    : null;
}

/** How many remarks of a second look wait to be settled. */
export async function countOpenRemarks(tx: Tx, reviewId: number): Promise<number> {
  const [row] = await tx
    .select({ open: count() })
    .from(remarks)
    .where(and(eq(remarks.reviewId, reviewId), isNull(remarks.answers), isNull(remarks.settledAt)));
  return row?.open ?? 0;
}

/**
 * Remarks are between whoever reads a draft and whoever wrote it: those who may see second looks there, and its writers
 * while they may change the page.
 */
export const mayRemark = (access: Access, thing: Thing): boolean =>
  mayNow(access, 'review.view', { place: thing.place }).allowed ||
  (thing.writtenBy?.includes(access.who.id) === true &&
    mayNow(access, 'item.edit', { place: thing.place, type: thing.type }).allowed);

async function mustFindReview(tx: Tx, access: Access, reviewId: number, thing: Thing) {
  const [review] = await tx
    .select()
    .from(reviews)
    .where(and(eq(reviews.siteId, access.site.id), eq(reviews.id, reviewId)));
  if (!review) throw notFound('This draft');
  if (!mayRemark(access, thing)) await authorize(tx, access, 'review.view', { place: thing.place });
  return review;
}

/** Makes a remark, or answers one. Runs in a transaction. */
export async function remark(
  tx: Tx,
  access: Access,
  reviewId: number,
  thing: Thing,
  given: { field: string; quote: string; text: string; answers: number | null },
): Promise<{ remarks: Remark[] }> {
  const review = await mustFindReview(tx, access, reviewId, thing);
  if (given.answers !== null) {
    const [first] = await tx
      .select()
      .from(remarks)
      .where(and(eq(remarks.reviewId, reviewId), eq(remarks.id, given.answers), isNull(remarks.answers)));
    if (!first) throw new Problem('remark-gone');
  }
  await tx.insert(remarks).values({ siteId: access.site.id, reviewId, ...given, madeBy: access.signedInId });
  await record(
    tx,
    access,
    given.answers === null ? 'remarked on' : 'answered a remark on',
    await titleOf(tx, review.itemId),
    { href: await hrefFor(tx, access.inventory, review.itemId), detail: given.text },
  );
  return { remarks: await listRemarks(tx, access.site.id, reviewId) };
}

/** Says that a remark is dealt with, or that it is not after all. Runs in a transaction. */
export async function settleRemark(
  tx: Tx,
  access: Access,
  reviewId: number,
  thing: Thing,
  id: number,
  settled: boolean,
): Promise<{ remarks: Remark[] }> {
  const review = await mustFindReview(tx, access, reviewId, thing);
  const [row] = await tx
    .update(remarks)
    .set({ settledAt: settled ? now() : null, settledBy: settled ? access.signedInId : null })
    .where(
      and(
        eq(remarks.siteId, access.site.id),
        eq(remarks.reviewId, reviewId),
        eq(remarks.id, id),
        isNull(remarks.answers),
      ),
    )
    .returning();
  if (!row) throw notFound('This remark');
  await record(
    tx,
    access,
    settled ? 'settled a remark on' : 'took up a remark again on',
    await titleOf(tx, review.itemId),
    { href: await hrefFor(tx, access.inventory, review.itemId), detail: row.text },
  );
  return { remarks: await listRemarks(tx, access.site.id, reviewId) };
}
