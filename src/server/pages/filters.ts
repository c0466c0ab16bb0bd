import { and, eq } from 'drizzle-orm';
import { filterSchema, type PageFilter, type SavedFilter } from '@/core/lists';
import type { Tx } from '../db/client';
import { inNameOrder } from '../db/order';
import { savedFilters } from '../db/schema';
import type { Access } from '../gate/access';

/** The filters somebody has given a name, by name. What no longer fits is left out. */
export async function listFilters(tx: Tx, access: Access): Promise<SavedFilter[]> {
  const rows = await tx
    .select()
    .from(savedFilters)
    .where(eq(savedFilters.personId, access.signedInId))
    .orderBy(inNameOrder(savedFilters.name));
  return rows.flatMap((row) => {
    const parsed = filterSchema.safeParse(JSON.parse(row.query));
    return parsed.success ? [{ name: row.name, filter: parsed.data }] : [];
  });
}

/** Keeps a filter under a name; one of the same name is replaced. Runs in a transaction. */
export async function saveFilter(
  tx: Tx,
  access: Access,
  name: string,
  filter: PageFilter,
): Promise<{ filters: SavedFilter[] }> {
  const query = JSON.stringify(filter);
  await tx
    .insert(savedFilters)
    .values({ siteId: access.site.id, personId: access.signedInId, name, query })
    .onConflictDoUpdate({ target: [savedFilters.personId, savedFilters.name], set: { query } });
  return { filters: await listFilters(tx, access) };
}

export async function removeFilter(tx: Tx, access: Access, name: string): Promise<{ filters: SavedFilter[] }> {
  await tx.delete(savedFilters).where(and(eq(savedFilters.personId, access.signedInId), eq(savedFilters.name, name)));
  return { filters: await listFilters(tx, access) };
}
