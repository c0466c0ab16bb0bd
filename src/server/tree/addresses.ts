import { and, eq, isNull, sql } from 'drizzle-orm';
import { among } from '../db/among';
import {
  addressChanges,
  addressOf,
  isReserved,
  RESERVED,
  settingsOf,
  type Addressed,
  type PageContent,
} from '@/core/content';
import type { Tx } from '../db/client';
import { items, redirects } from '../db/schema';
import { problemAt } from '../gate/problems';

export type AddressMap = Map<string, Addressed>;

/** Holds the page tree of a site until the transaction ends: whoever else would change it waits. */
export const lockTree = (tx: Tx, siteId: number) =>
  tx.execute(sql`select pg_advisory_xact_lock(hashtext('page tree'), ${siteId})`);

/**
 * Every page of a site that is not deleted, as far as its address is concerned; or with `ids` only those and the ones
 * above them.
 */
export async function findAddresses(tx: Tx, siteId: number, ids?: readonly number[]): Promise<AddressMap> {
  if (ids?.length === 0) return new Map();
  // Their numbers first, as paths hold them: in one query the planner may go through every page.
  const paths =
    ids &&
    (await tx
      .select({ path: sql<string>`${items.path}::text` })
      .from(items)
      .where(and(eq(items.siteId, siteId), among(items.id, ids))));
  const wanted = paths && [...new Set(paths.flatMap(({ path }) => path.split('.').map(Number)))];
  const rows = await tx
    .select({ id: items.id, parent: items.parentId, slug: items.slug, ownAddress: items.ownAddress })
    .from(items)
    .where(
      and(eq(items.siteId, siteId), eq(items.type, 'page'), isNull(items.deletedAt), wanted && among(items.id, wanted)),
    );
  return new Map(
    rows.map((row) => [
      String(row.id),
      {
        id: String(row.id),
        parent: row.parent === null ? null : String(row.parent),
        slug: row.slug,
        ownAddress: row.ownAddress,
      },
    ]),
  );
}

/**
 * Why some pages cannot have the addresses they would get, if so: page and sentence. Among `changed`, or against any
 * other page.
 */
export function addressFaults(
  after: AddressMap,
  changed: Iterable<string>,
): { page: string; address: string; message: string; by: string | null }[] {
  const owners = new Map<string, string[]>();
  for (const id of after.keys()) {
    const address = addressOf(after, id);
    owners.set(address, [...(owners.get(address) ?? []), id]);
  }
  return [...changed].flatMap((page) => {
    const address = addressOf(after, page);
    const other = owners.get(address)?.find((id) => id !== page) ?? null;
    const message = isReserved(address)
      ? `The address ${address} is taken. Choose another.`
      : other !== null
        ? `The address ${address} is taken. Choose another.`
        : '';
    return message ? [{ page, address, message, by: other }] : [];
  });
}

/**
 * Remembers where pages were. Where that is asked for and visitors knew them the old addresses go on leading there;
 * otherwise they are only understood in texts that were open meanwhile. Runs in a transaction.
 */
export async function keepOldAddresses(
  tx: Tx,
  siteId: number,
  by: number | null,
  changes: readonly { page: string; from: string }[],
  redirect: boolean,
): Promise<void> {
  if (changes.length === 0) return;
  const known = await tx
    .select({ id: items.id })
    .from(items)
    .where(
      and(
        among(
          items.id,
          changes.map((change) => Number(change.page)),
        ),
        sql`(${items.liveRevisionId} is not null or ${items.downRevisionId} is not null)`,
      ),
    );
  const visited = new Set(known.map((row) => String(row.id)));
  await tx
    .insert(redirects)
    .values(
      changes.map(({ page, from }) => ({
        siteId,
        address: from,
        pageId: Number(page),
        madeBy: by,
        leads: redirect && visited.has(page),
      })),
    )
    .onConflictDoUpdate({
      target: [redirects.siteId, redirects.address],
      set: { pageId: sql`excluded.page_id`, leads: sql`excluded.leads`, madeBy: by, madeAt: sql`now()` },
      // What leads visitors somewhere is not given up for what does not.
      setWhere: sql`excluded.leads or not ${redirects.leads}`,
    });
}

/**
 * Slugs no page directly below a page can have: its children's, those that another page's own address stands for, and
 * at the top what Safe Room answers itself.
 */
export async function takenSlugs(tx: Tx, siteId: number, parentId: number): Promise<Set<string>> {
  const all = await findAddresses(tx, siteId);
  const prefix = `${addressOf(all, String(parentId))}/`.replace('//', '/');
  const there = [...all.keys()]
    .map((id) => addressOf(all, id))
    .filter((address) => address.startsWith(prefix))
    .map((address) => address.slice(prefix.length));
  const children = [...all.values()].filter((page) => page.parent === String(parentId)).map((page) => page.slug);
  return new Set([
    ...children,
    ...there.filter((rest) => rest !== '' && !rest.includes('/')),
    ...(prefix === '/' ? RESERVED : []),
  ]);
}

/** The page an old address leads to. */
export async function findRedirect(tx: Tx, siteId: number, address: string): Promise<string | undefined> {
  const [row] = await tx
    .select({ page: redirects.pageId })
    .from(redirects)
    .where(and(eq(redirects.siteId, siteId), eq(redirects.address, address), redirects.leads));
  return row && String(row.page);
}

/** What the settings of a content would make of its page's address, and why not. */
export async function tryAddress(
  tx: Tx,
  siteId: number,
  pageId: number,
  given: { slug: string; ownAddress: string | null },
): Promise<{ address: string; fault: string | null; changes: number }> {
  const before = await findAddresses(tx, siteId);
  const page = before.get(String(pageId));
  if (!page) return { address: '/', fault: null, changes: 0 };
  const after: AddressMap = new Map(before).set(page.id, { ...page, ...(page.parent !== null && given) });
  const changes = addressChanges(before, after);
  const [fault] = addressFaults(after, [page.id, ...changes.map((change) => change.page)]);
  return { address: addressOf(after, page.id), fault: fault?.message ?? null, changes: changes.length };
}

/** What a page's row holds of its content, for what is looked for by columns: written with every version that is in force. */
export function settingColumns(content: PageContent) {
  const { redirect: _, author, ...columns } = settingsOf(content);
  return { ...columns, authorId: author === null ? null : Number(author) };
}

/**
 * Makes what a content says of its page's settings true: layout, address, navigation, author, date. Old addresses go on
 * leading here if the content says so. `isFree`: that nobody else has its address was looked at. Runs in a transaction.
 */
export async function applySettings(
  tx: Tx,
  siteId: number,
  page: typeof items.$inferSelect,
  content: PageContent,
  by: number | null,
  isFree = false,
): Promise<void> {
  const columns = settingColumns(content);
  const { slug, ownAddress } = columns;
  // Also when visitors are to find it there for the first time: meanwhile the address may have been given away.
  if (slug !== page.slug || ownAddress !== page.ownAddress || (page.liveRevisionId === null && !isFree)) {
    await lockTree(tx, siteId);
    const before = await findAddresses(tx, siteId);
    const own = before.get(String(page.id));
    if (!own) throw new Error(`page ${page.id} has no address`);
    const after: AddressMap = new Map(before).set(own.id, { ...own, slug, ownAddress });
    const changes = addressChanges(before, after);
    const [fault] = addressFaults(after, [own.id, ...changes.map((change) => change.page)]);
    if (fault) throw problemAt(ownAddress ? 'page.ownAddress' : 'page.slug', 'address-taken', { why: fault.message });
    await keepOldAddresses(tx, siteId, by, changes, settingsOf(content).redirect);
  }
  await tx.update(items).set(columns).where(eq(items.id, page.id));
}
