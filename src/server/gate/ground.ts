import { and, eq, isNotNull, sql } from 'drizzle-orm';
import { worldOf, type Ground } from '@/core/plan';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { items } from '../db/schema';
import { listPages } from '../tree/tree';
import type { Inventory } from '@/core/inventory';

const askDeleted = prepared('places of deleted pages', (tx) =>
  tx
    .select({ path: sql<string>`${items.path}::text` })
    .from(items)
    .where(and(eq(items.siteId, given('site')), eq(items.type, 'page'), isNotNull(items.deletedAt))),
);

/**
 * All that "no more than you" is asked about: what can be done, and every place in the page tree of a site, the root
 * first; deleted pages last, which may come back.
 */
export async function loadGround(tx: Tx, inventory: Inventory, siteId: number): Promise<Ground> {
  const pages = await listPages(tx, siteId);
  const deleted = await askDeleted(tx, { site: siteId });
  const paths = [...pages.map(({ place }) => place.path), ...deleted.map(({ path }) => path.split('.'))];
  return { inventory, world: worldOf(inventory, paths), nowMs: now().getTime() };
}
