import { inArray, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import type { Audience } from '@/core/access';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { pages } from '../db/schema';
import { tryOut } from '../db/tryOut';
import type { Access } from '../gate/access';
import { mayNow, mayOn } from '../gate/authorize';
import { idSchema } from '../gate/endpoint';
import { Problem } from '../gate/problems';
import { setAudience } from './audience';
import { findPage } from './drafts';
import { titleOf } from './publishing';
import { deletePage, takePageDown } from './retire';
import { movePage } from './structure';
import { findPagePlace } from './tree';

/** What can be done with many pages at once. */
export const bulkSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('navigation'), shown: z.boolean() }),
  z.strictObject({ do: z.literal('audience'), audience: z.enum(['everyone', 'members', 'as-above']) }),
  z.strictObject({ do: z.literal('move'), parent: idSchema, redirect: z.boolean() }),
  z.strictObject({ do: z.literal('take-down') }),
  z.strictObject({ do: z.literal('delete') }),
]);
export type Bulk = z.infer<typeof bulkSchema>;

const NEEDS: Record<Bulk['do'], string> = { navigation: 'page.publish', audience: 'page.publish', move: 'page.arrange', 'take-down': 'page.retire', delete: 'page.retire' };

export interface BulkRow { id: string; title: string; /** What becomes of it, or why nothing does. */ words: string; refused: boolean }

const AUDIENCE = { everyone: 'Everyone may visit it', members: 'Members only may visit it', 'as-above': 'Visitors as of the page above' };

/** Does it with one page and says what became of it; a Problem says why not. */
async function doOne(tx: Tx, access: Access, id: number, bulk: Bulk): Promise<string> {
  switch (bulk.do) {
    case 'navigation': {
      const page = await findPage(tx, access.site.id, id, true);
      if (page.inNavigation === bulk.shown) throw new Problem('already-done', `It is ${bulk.shown ? 'shown' : 'left out'} already.`);
      await tx.update(pages).set({ inNavigation: bulk.shown }).where(eq(pages.id, id));
      // A draft begun before says the same, or publishing it would take this back.
      await tx.execute(sql`update drafts set content = jsonb_set(content, '{page.inNavigation}', to_jsonb(${bulk.shown}::boolean)) where page_id = ${id} and content ? 'page.inNavigation'`);
      return bulk.shown ? 'Shown in navigation' : 'Left out of navigation';
    }
    case 'audience': {
      await setAudience(tx, access, id, bulk.audience === 'as-above' ? null : ({ kind: bulk.audience } satisfies Audience));
      return AUDIENCE[bulk.audience];
    }
    case 'move': {
      await movePage(tx, access, { page: id, parent: bulk.parent, index: 100_000, redirect: bulk.redirect });
      return `Below ${await titleOf(tx, bulk.parent)}`;
    }
    case 'take-down': {
      const { pages: many } = await takePageDown(tx, access, id);
      return many > 1 ? `Taken down, with ${many - 1} below` : 'Taken down';
    }
    case 'delete': {
      const { pages: many } = await deletePage(tx, access, id);
      return many > 1 ? `Deleted, with ${many - 1} below` : 'Deleted';
    }
  }
}

/** The pages with the ids of those above them, the highest first: where a whole branch goes, what lies below has gone already. */
async function withAbove(tx: Tx, ids: readonly number[]): Promise<{ id: number; above: number[] }[]> {
  const rows = await tx.select({ id: pages.id, path: sql<string>`${pages.path}::text` }).from(pages).where(inArray(pages.id, [...ids]));
  const above = new Map(rows.map((row) => [row.id, row.path.split('.').slice(0, -1).map(Number)]));
  return ids.map((id) => ({ id, above: above.get(id) ?? [] })).sort((a, b) => a.above.length - b.above.length);
}

/**
 * Does the same with many pages, in one transaction: what cannot be done with one of them is told and leaves the rest alone (a
 * savepoint each). `progress` is called after each. Runs in a transaction.
 */
export async function doWithMany(tx: Tx, access: Access, ids: readonly number[], bulk: Bulk, progress: (done: number) => void = () => undefined): Promise<{ rows: BulkRow[] }> {
  const whole = bulk.do === 'move' || bulk.do === 'take-down' || bulk.do === 'delete';
  const gone = new Set<number>();
  const mayView = mayOn(access, 'page.view');
  const rows: BulkRow[] = [];
  for (const [i, { id, above }] of (await withAbove(tx, ids)).entries()) {
    const place = await findPagePlace(tx, access.site.id, id);
    const isSeen = place !== undefined && mayView(place);
    const title = isSeen ? await titleOf(tx, id) : 'A page you do not see';
    const row = (words: string, refused: boolean) => void rows.push({ id: String(id), title, words, refused });
    const goes = whole && above.some((other) => gone.has(other));
    const no = goes ? null : !isSeen ? 'It is not there, or not in your part of the site.' : mayNow(access, NEEDS[bulk.do], { place }).allowed ? null : 'It is not yours to change in this way.';
    if (goes) row('Goes with the page above it', false);
    else if (no) row(no, true);
    else {
      try {
        row(await tx.transaction((inner) => doOne(inner, access, id, bulk)), false);
        gone.add(id);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        row(error.detail, true);
      }
    }
    progress(i + 1);
  }
  const done = rows.filter((row) => !row.refused).length;
  if (done > 0) await record(tx, access, 'changed many pages', `${done} ${done === 1 ? 'page' : 'pages'}`, { href: '/room/pages', detail: rows.find((row) => !row.refused)?.words ?? '' });
  return { rows };
}

/** What would become of each page: the very same, rolled back. Changes nothing. */
export const tryWithMany = (tx: Tx, access: Access, ids: readonly number[], bulk: Bulk): Promise<{ rows: BulkRow[] }> => tryOut(tx, (inner) => doWithMany(inner, access, ids, bulk));
