import { and, desc, eq, gt, isNull } from 'drizzle-orm';
import { policyOf } from '@/core/plan';
import { canonical } from '@/core/json';
import type { PreviewEntry } from '@/core/wire';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { items, people, previewLinks } from '../db/schema';
import type { Access, Site } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { notFound } from '../gate/problems';
import { hashToken, newToken } from '../gate/sessions';
import { findPolicyPerson } from '../people/people';
import { getLivePlan } from '../plan/plans';
import { hrefFor } from './items';
import { titleOf } from './publishing';
import { findPlace, findPlaced } from '../tree/tree';
import { inventoryOf } from '@/office';

/**
 * A link under which the newest draft of a page can be looked at without an account; only its hash is kept. Runs in a
 * transaction.
 */
export async function makePreviewLink(
  tx: Tx,
  access: Access,
  itemId: number,
  days: number,
  origin: string,
): Promise<{ url: string; expiresAt: string }> {
  const token = newToken();
  const expiresAt = new Date(now().getTime() + days * 86_400_000);
  const place = await findPlace(tx, access.site.id, itemId);
  await tx
    .insert(previewLinks)
    .values({
      tokenHash: hashToken(token),
      siteId: access.site.id,
      itemId,
      madeBy: access.signedInId,
      expiresAt,
      audience: place?.audience ?? null,
    });
  await record(tx, access, 'made a preview link for', await titleOf(tx, itemId), {
    href: await hrefFor(tx, access.inventory, itemId),
    detail: `For ${days} ${days === 1 ? 'day' : 'days'}`,
  });
  return { url: `${origin}/preview/${token}`, expiresAt: expiresAt.toISOString() };
}

/**
 * The preview links of a page that still work, newest first. The links themselves are known to nobody but whoever has
 * one.
 */
export async function listPreviewLinks(tx: Tx, site: Site, itemId: number): Promise<PreviewEntry[]> {
  const rows = await tx
    .select({ link: previewLinks, name: people.name })
    .from(previewLinks)
    .leftJoin(people, eq(people.id, previewLinks.madeBy))
    .where(
      and(
        eq(previewLinks.siteId, site.id),
        eq(previewLinks.itemId, itemId),
        isNull(previewLinks.endedAt),
        gt(previewLinks.expiresAt, now()),
      ),
    )
    .orderBy(desc(previewLinks.madeAt));
  const works = await Promise.all(rows.map(({ link }) => stillWorks(tx, site, link)));
  return rows
    .filter((_, i) => works[i])
    .map(({ link, name }) => ({
      id: link.id,
      by: name ?? 'Somebody',
      madeAt: link.madeAt.toISOString(),
      expiresAt: link.expiresAt.toISOString(),
    }));
}

/** Ends a preview link before its time. Runs in a transaction. */
export async function endPreviewLink(
  tx: Tx,
  access: Access,
  itemId: number,
  id: number,
): Promise<{ links: PreviewEntry[] }> {
  const [row] = await tx
    .update(previewLinks)
    .set({ endedAt: now() })
    .where(
      and(
        eq(previewLinks.siteId, access.site.id),
        eq(previewLinks.itemId, itemId),
        eq(previewLinks.id, id),
        isNull(previewLinks.endedAt),
      ),
    )
    .returning({ id: previewLinks.id });
  if (!row) throw notFound('This link');
  await record(tx, access, 'ended a preview link for', await titleOf(tx, itemId), {
    href: await hrefFor(tx, access.inventory, itemId),
  });
  return { links: await listPreviewLinks(tx, access.site, itemId) };
}

/**
 * A link ends by itself when its maker may no longer change the page, and when fewer people may visit it than when it
 * was made.
 */
async function stillWorks(tx: Tx, site: Site, link: typeof previewLinks.$inferSelect): Promise<boolean> {
  const maker = link.madeBy === null ? undefined : await findPolicyPerson(tx, link.madeBy);
  const placed = await findPlaced(tx, site.id, link.itemId);
  if (!maker || !placed) return false;
  const { place } = placed;
  const plan = await getLivePlan(tx, site);
  const inventory = inventoryOf(site);
  if (
    !mayNow(
      {
        site,
        tokenHash: '',
        who: maker,
        signedInId: Number(maker.id),
        trial: null,
        plan,
        inventory,
        policy: policyOf(inventory, plan, [maker]),
        calendar: siteCalendar(site),
      },
      'item.edit',
      placed,
    ).allowed
  )
    return false;
  return (place.audience?.kind ?? 'everyone') === 'everyone' || canonical(place.audience) === canonical(link.audience);
}

/** The page a preview link shows; undefined when it has ended, or the page is gone. */
export async function findPreview(
  tx: Tx,
  site: Site,
  token: string,
): Promise<{ itemId: number; expiresAt: Date } | undefined> {
  const [row] = await tx
    .select({ link: previewLinks })
    .from(previewLinks)
    .innerJoin(items, and(eq(items.id, previewLinks.itemId), isNull(items.deletedAt)))
    .where(
      and(
        eq(previewLinks.siteId, site.id),
        eq(previewLinks.tokenHash, hashToken(token)),
        isNull(previewLinks.endedAt),
        gt(previewLinks.expiresAt, now()),
      ),
    );
  return row && (await stillWorks(tx, site, row.link)) ? row.link : undefined;
}
