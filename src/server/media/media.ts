import { createHash } from 'node:crypto';
import { and, asc, eq, sql } from 'drizzle-orm';
import { record } from '../activity/activity';
import { inventory } from '@/office';
import type { Tx } from '../db/client';
import { blobs, media } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { hrefOf } from '../items/items';

export interface Picture {
  id: string;
  name: string;
  description: string;
  url: string;
}

const pictureUrl = (hash: string): string => `/media/${hash}`;

/** Every picture by name. */
export async function listPictures(tx: Tx, siteId: number): Promise<Picture[]> {
  const rows = await tx.select().from(media).where(eq(media.siteId, siteId)).orderBy(asc(media.name));
  return rows.map(({ id, name, description, hash }) => ({ id: String(id), name, description, url: pictureUrl(hash) }));
}

/** Fields of items that hold a picture. */
const FIELDS = [
  ...new Set(
    [...inventory.items.values()].flatMap(({ layouts }) =>
      layouts.flatMap(({ fields }) => fields.filter(({ kind }) => kind === 'picture').map(({ id }) => id)),
    ),
  ),
];

/** An item that shows a picture. */
export interface PictureUse {
  /** The page it is, or lies on. */
  page: string;
  title: string;
  href: string;
}

/** The items whose live version shows each picture, by its id: as banner, in a text or in a piece. */
export async function findPictureUse(tx: Tx, siteId: number): Promise<Map<string, PictureUse[]>> {
  const { rows } = await tx.execute<{
    id: number;
    type: string;
    page: number;
    title: string | null;
    pictures: unknown[];
  }>(sql`
    select p.id, p.type, case when p.type = 'page' then p.id else p.parent_id end as page, coalesce(p.short_name, r.content->>'title') as title,
      jsonb_path_query_array(r.content, 'strict $.**?(@.type == "picture").attrs.id') || jsonb_path_query_array(r.content, 'strict $.**.picture') || jsonb_build_array(${sql.join(
        FIELDS.map((field) => sql`r.content->${field}::text`),
        sql`, `,
      )}) as pictures
    from items p join revisions r on r.id = p.live_revision_id where p.site_id = ${siteId} and p.deleted_at is null order by p.id`);
  const use = new Map<string, PictureUse[]>();
  for (const { id, type, page, title, pictures } of rows)
    for (const picture of new Set(pictures.filter((one) => typeof one === 'string' && one !== '').map(String)))
      use.set(picture, [
        ...(use.get(picture) ?? []),
        { page: String(page), title: title ?? 'Untitled', href: hrefOf({ id, type }) },
      ]);
  return use;
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
