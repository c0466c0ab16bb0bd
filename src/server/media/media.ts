import { createHash } from 'node:crypto';
import { and, asc, eq } from 'drizzle-orm';
import { textOf } from '@/core/content';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { blobs, media, pages, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';

export interface Picture {
  id: string;
  name: string;
  description: string;
  url: string;
  usedOn: { id: string; title: string }[];
}

const pictureUrl = (hash: string): string => `/media/${hash}`;

/** Every picture by name, with the pages whose live version shows it. */
export async function listPictures(tx: Tx, siteId: number): Promise<Picture[]> {
  const [rows, used] = await Promise.all([
    tx.select().from(media).where(eq(media.siteId, siteId)).orderBy(asc(media.name)),
    tx
      .select({ id: pages.id, content: revisions.content })
      .from(pages)
      .innerJoin(revisions, eq(revisions.id, pages.liveRevisionId))
      .where(eq(pages.siteId, siteId)),
  ]);
  return rows.map((row) => ({
    id: String(row.id),
    name: row.name,
    description: row.description,
    url: pictureUrl(row.hash),
    usedOn: used
      .filter((page) => page.content['banner'] === String(row.id))
      .map((page) => ({ id: String(page.id), title: textOf(page.content, 'title') })),
  }));
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

/** Changes what a picture is said to show. Runs in a transaction. */
export async function describePicture(tx: Tx, access: Access, id: number, description: string): Promise<void> {
  const [row] = await tx
    .update(media)
    .set({ description })
    .where(and(eq(media.id, id), eq(media.siteId, access.site.id)))
    .returning({ name: media.name });
  if (!row) throw new Problem('not-found', 'This picture is not there any more.');
  await record(tx, access, 'described a picture', row.name, { href: '/room/pictures', detail: description });
}
