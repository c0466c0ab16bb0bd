import { and, eq, gt, isNull } from 'drizzle-orm';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { pages, previewLinks } from '../db/schema';
import type { Access } from '../gate/access';
import { hashToken, newToken } from '../gate/sessions';
import { titleOf } from './publishing';

/** A link under which the newest draft of a page can be looked at without an account; only its hash is kept. Runs in a transaction. */
export async function makePreviewLink(tx: Tx, access: Access, pageId: number, days: number, origin: string): Promise<{ url: string; expiresAt: string }> {
  const token = newToken();
  const expiresAt = new Date(now().getTime() + days * 86_400_000);
  await tx.insert(previewLinks).values({ tokenHash: hashToken(token), siteId: access.site.id, pageId, madeBy: access.signedInId, expiresAt });
  await record(tx, access, 'made a preview link for', await titleOf(tx, pageId), { href: `/room/pages/${pageId}`, detail: `For ${days} ${days === 1 ? 'day' : 'days'}` });
  return { url: `${origin}/preview/${token}`, expiresAt: expiresAt.toISOString() };
}

/** The page a preview link shows; undefined when it has ended, or the page is gone. */
export async function findPreview(tx: Tx, token: string): Promise<{ siteId: number; pageId: number; expiresAt: Date } | undefined> {
  const [row] = await tx.select({ siteId: previewLinks.siteId, pageId: previewLinks.pageId, expiresAt: previewLinks.expiresAt }).from(previewLinks).innerJoin(pages, and(eq(pages.id, previewLinks.pageId), isNull(pages.deletedAt))).where(and(eq(previewLinks.tokenHash, hashToken(token)), gt(previewLinks.expiresAt, now())));
  return row;
}
