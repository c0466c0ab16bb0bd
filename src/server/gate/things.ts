import type { Tx } from '../db/client';
import { findNotice } from '../notices/notices';
import { findPagePlace, rootPageId } from '../content/tree';
import { findReview } from '../content/reviews';
import type { Access } from './access';
import type { Thing } from './authorize';

/** Finds what a request is about; null when it is not there. The body is as it came, not checked yet. */
export type FindThing = (
  tx: Tx,
  access: Access,
  asked: { id?: string | undefined; body: unknown },
) => Promise<Thing | null>;

const number = (id: unknown): number | null => (typeof id === 'string' && /^\d{1,9}$/.test(id) ? Number(id) : null);

async function placeOf(tx: Tx, access: Access, pageId: number | null, deleted = false): Promise<Thing | null> {
  const place = pageId === null ? undefined : await findPagePlace(tx, access.site.id, pageId, deleted);
  return place ? { place } : null;
}

/** A thing that lies on a page and is somebody's, not its page's author's. */
const by = (personId: number | null, thing: Thing | null): Thing | null =>
  thing?.place ? { ...thing, place: { ...thing.place, author: personId === null ? null : String(personId) } } : thing;

export const THINGS = {
  /** The page named in the address. */
  page: (tx, access, { id }) => placeOf(tx, access, number(id)),
  /** The page named in the address, which was deleted. */
  deletedPage: (tx, access, { id }) => placeOf(tx, access, number(id), true),
  /** The page below which something new shall lie. */
  pageAbove: (tx, access, { body }) => {
    const parent: unknown = typeof body === 'object' && body !== null && 'parent' in body ? body.parent : undefined;
    return placeOf(tx, access, number(String(parent)));
  },
  /** The review named in the address: its page, and who wrote what was sent. */
  review: async (tx, access, { id }) => {
    const reviewId = number(id);
    const found = reviewId === null ? undefined : await findReview(tx, access.site.id, reviewId);
    const thing = found && (await placeOf(tx, access, found.itemId));
    return thing && found ? { ...thing, writtenBy: found.writers.map(String) } : null;
  },
  /** The notice named in the address: the page it shows on, and whose it is. */
  notice: async (tx, access, { id }) => {
    const noticeId = number(id);
    const found = noticeId === null ? undefined : await findNotice(tx, access.site.id, noticeId);
    return found ? by(found.postedBy, await placeOf(tx, access, found.pageId)) : null;
  },
  /** The page a new notice shall show on, as its maker's own; the root stands for the whole website. */
  noticePlace: async (tx, access, { body }) => {
    const page: unknown = typeof body === 'object' && body !== null && 'page' in body ? body.page : undefined;
    return by(
      access.signedInId,
      await placeOf(tx, access, page === undefined ? await rootPageId(tx, access.site.id) : number(page)),
    );
  },
} satisfies Record<string, FindThing>;
export type ThingKind = keyof typeof THINGS;
