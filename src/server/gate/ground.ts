import { sql } from 'drizzle-orm';
import { worldOf, type Ground } from '@/core/plan';
import { inventory } from '@/office';
import { now } from '../clock';
import type { Tx } from '../db/client';

/**
 * All that "no more than you" is asked about: what can be done, and every place in the page tree of a site, the root
 * first.
 */
export async function loadGround(tx: Tx, siteId: number): Promise<Ground> {
  const { rows } = await tx.execute<{ path: string }>(
    sql`select path::text as path from items where site_id = ${siteId} and type = 'page' order by nlevel(path)`,
  );
  return {
    inventory,
    world: worldOf(
      inventory,
      rows.map((row) => row.path.split('.')),
    ),
    nowMs: now().getTime(),
  };
}
