import { createHash } from 'node:crypto';
import { and, eq } from 'drizzle-orm';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { among } from '../db/among';
import { inNameOrder } from '../db/order';
import { given, prepared } from '../db/prepared';
import { blobs, media } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { findPlace } from '../tree/tree';

export interface Picture {
  id: string;
  name: string;
  description: string;
  url: string;
  /** The page whose part of the website it belongs to; null: to none. */
  part: string | null;
}

const pictureUrl = (hash: string): string => `/media/${hash}`;

const askPictures = prepared('pictures', (tx) =>
  tx
    .select()
    .from(media)
    .where(eq(media.siteId, given('site')))
    .orderBy(inNameOrder(media.name)),
);
const asPicture = ({ id, name, description, hash, pageId }: typeof media.$inferSelect): Picture => ({
  id: String(id),
  name,
  description,
  url: pictureUrl(hash),
  part: pageId === null ? null : String(pageId),
});
/** Every picture by name. */
export const listPictures = async (tx: Tx, siteId: number): Promise<Picture[]> =>
  (await askPictures(tx, { site: siteId })).map(asPicture);

/**
 * Those of some pictures that are there, by their ids, whatever was said to be one. One question; none where nothing can
 * be there.
 */
export async function findPictures(tx: Tx, siteId: number, ids: Iterable<string>): Promise<Map<string, Picture>> {
  const wanted = [...new Set(ids)].filter((id) => /^\d{1,9}$/.test(id)).map(Number);
  if (wanted.length === 0) return new Map();
  const rows = await tx
    .select()
    .from(media)
    .where(and(eq(media.siteId, siteId), among(media.id, wanted)));
  return new Map(rows.map((row) => [String(row.id), asPicture(row)]));
}

export async function findBlob(tx: Tx, hash: string) {
  return (await tx.select().from(blobs).where(eq(blobs.hash, hash)))[0];
}

/** Keeps bytes under their SHA-256, once. Runs in a transaction. */
export async function keepBlob(tx: Tx, mime: string, bytes: Buffer): Promise<string> {
  const hash = createHash('sha256').update(bytes).digest('hex');
  await tx.insert(blobs).values({ hash, mime, bytes }).onConflictDoNothing();
  return hash;
}

/**
 * Changes what a picture is said to show, and where it is said to which part of the website it belongs. Runs in a
 * transaction.
 */
export async function describePicture(
  tx: Tx,
  access: Access,
  id: number,
  { description, part }: { description: string; part?: string | null | undefined },
): Promise<void> {
  if (part !== undefined && part !== null) {
    const place = await findPlace(tx, access.site.id, Number(part));
    if (!place || !mayNow(access, 'page.view', { place }).allowed) throw problemAt('part', 'part-unknown');
  }
  const [row] = await tx
    .update(media)
    .set({ description, ...(part !== undefined && { pageId: part === null ? null : Number(part) }) })
    .where(and(eq(media.id, id), eq(media.siteId, access.site.id)))
    .returning({ name: media.name });
  if (!row) throw new Problem('picture-gone');
  await record(tx, access, 'described a picture', row.name, { href: '/room/pictures', detail: description });
}
