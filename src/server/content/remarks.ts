import { and, asc, count, eq, isNull } from 'drizzle-orm';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, remarks, reviews } from '../db/schema';
import type { Access } from '../gate/access';
import { notFound, Problem } from '../gate/problems';
import { titleOf } from './publishing';

/** A remark on a place in a draft that was sent: the field, and the words it is about. */
export interface Remark { id: number; answers: number | null; field: string; quote: string; text: string; by: string; byId: string; at: string; settled: string | null }

/** The remarks of a second look, in the order they were made. */
export async function listRemarks(tx: Tx, siteId: number, reviewId: number): Promise<Remark[]> {
  const rows = await tx.select({ remark: remarks, name: people.name }).from(remarks).leftJoin(people, eq(people.id, remarks.madeBy)).where(and(eq(remarks.siteId, siteId), eq(remarks.reviewId, reviewId))).orderBy(asc(remarks.id));
  return rows.map(({ remark, name }) => ({ id: remark.id, answers: remark.answers, field: remark.field, quote: remark.quote, text: remark.text, by: name ?? 'Somebody', byId: String(remark.madeBy), at: remark.madeAt.toISOString(), settled: remark.settledAt?.toISOString() ?? null }));
}

/** The remarks of the newest second look of a page that are not settled: what its writer still has to answer. */
export async function listPageRemarks(tx: Tx, siteId: number, pageId: number): Promise<{ review: number; remarks: Remark[] } | null> {
  const rows = await tx.select({ id: reviews.id }).from(reviews).where(and(eq(reviews.siteId, siteId), eq(reviews.pageId, pageId))).orderBy(asc(reviews.id));
  const last = rows.at(-1);
  const list = last ? await listRemarks(tx, siteId, last.id) : [];
  return last && list.some((remark) => remark.answers === null && remark.settled === null) ? { review: last.id, remarks: list } : null;
}

/** How many remarks of a second look wait to be settled. */
export async function countOpenRemarks(tx: Tx, reviewId: number): Promise<number> {
  const [row] = await tx.select({ open: count() }).from(remarks).where(and(eq(remarks.reviewId, reviewId), isNull(remarks.answers), isNull(remarks.settledAt)));
  return row?.open ?? 0;
}

async function findReviewOf(tx: Tx, siteId: number, reviewId: number) {
  const [review] = await tx.select().from(reviews).where(and(eq(reviews.siteId, siteId), eq(reviews.id, reviewId)));
  if (!review) throw notFound('This draft');
  return review;
}

/** Makes a remark, or answers one. Runs in a transaction. */
export async function remark(tx: Tx, access: Access, reviewId: number, given: { field: string; quote: string; text: string; answers: number | null }): Promise<{ remarks: Remark[] }> {
  const review = await findReviewOf(tx, access.site.id, reviewId);
  if (given.answers !== null) {
    const [first] = await tx.select().from(remarks).where(and(eq(remarks.reviewId, reviewId), eq(remarks.id, given.answers), isNull(remarks.answers)));
    if (!first) throw new Problem('not-found', 'The remark you answer is not there any more.');
  }
  await tx.insert(remarks).values({ siteId: access.site.id, reviewId, ...given, madeBy: access.signedInId });
  await record(tx, access, given.answers === null ? 'remarked on' : 'answered a remark on', await titleOf(tx, review.pageId), { href: `/room/pages/${review.pageId}`, detail: given.text });
  return { remarks: await listRemarks(tx, access.site.id, reviewId) };
}

/** Says that a remark is dealt with, or that it is not after all. Runs in a transaction. */
export async function settleRemark(tx: Tx, access: Access, reviewId: number, id: number, settled: boolean): Promise<{ remarks: Remark[] }> {
  const review = await findReviewOf(tx, access.site.id, reviewId);
  const [row] = await tx.update(remarks).set({ settledAt: settled ? now() : null, settledBy: settled ? access.signedInId : null }).where(and(eq(remarks.siteId, access.site.id), eq(remarks.reviewId, reviewId), eq(remarks.id, id), isNull(remarks.answers))).returning();
  if (!row) throw notFound('This remark');
  await record(tx, access, settled ? 'settled a remark on' : 'took up a remark again on', await titleOf(tx, review.pageId), { href: `/room/pages/${review.pageId}`, detail: row.text });
  return { remarks: await listRemarks(tx, access.site.id, reviewId) };
}
