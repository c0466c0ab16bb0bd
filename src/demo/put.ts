import { eq } from 'drizzle-orm';
import { type PageContent, startSettings, parseContent } from '@/core/content';
import type { Tx } from '@/server/db/client';
import { items, revisions, publications } from '@/server/db/schema';
import type { ItemRow } from '@/server/items/forms';
import { beginDraft } from '@/server/items/begin';
import { keepReferences } from '@/server/items/references';
import type { DemoPage } from './page';
import type { DemoVacancy } from './vacancies';
import type { Inventory } from '@/core/inventory';

export const DAY_MS = 86400000;
interface At {
  parent: ItemRow | null;
  position: number;
  authorId: number | null;
  day: Date;
}
/** A page that says nothing yet. */
export async function addPage(
  tx: Tx,
  siteId: number,
  at: At,
  page: Pick<DemoPage, 'slug' | 'layout' | 'shortName' | 'inNavigation' | 'members'>,
): Promise<ItemRow> {
  const [row] = await tx
    .insert(items)
    .values({
      siteId,
      parentId: at.parent?.id ?? null,
      path: 'new',
      slug: page.slug,
      position: at.position,
      layout: page.layout,
      shortName: page.shortName ?? null,
      inNavigation: page.inNavigation ?? true,
      audience: page.members ? { kind: 'members' as const } : null,
      authorId: at.authorId,
      createdAt: at.day,
    })
    .returning();
  if (!row) throw new Error('a page was not written');
  const path = at.parent ? `${at.parent.path}.${row.id}` : String(row.id);
  await tx.update(items).set({ path }).where(eq(items.id, row.id));
  return { ...row, path };
}
/** A version of an item, with what it needs. */
export async function addDemoRevision(
  tx: Tx,
  inventory: Inventory,
  item: ItemRow,
  given: Pick<typeof revisions.$inferInsert, 'number' | 'content' | 'kind' | 'madeBy' | 'madeAt' | 'note'>,
): Promise<number> {
  const [row] = await tx
    .insert(revisions)
    .values({ ...given, siteId: item.siteId, itemId: item.id })
    .returning({ id: revisions.id });
  if (!row) throw new Error('a revision was not written');
  await keepReferences(tx, inventory, { item, content: given.content, revisionId: row.id });
  return row.id;
}
/** Puts the first version of an item on the website. */
export async function publish(tx: Tx, inventory: Inventory, item: ItemRow, content: PageContent): Promise<void> {
  const { siteId, id: itemId, authorId: by, createdAt: at } = item;
  const revisionId = await addDemoRevision(tx, inventory, item, {
    number: 1,
    content,
    kind: 'published',
    madeBy: by,
    madeAt: at,
    note: 'First version',
  });
  await tx.update(items).set({ liveRevisionId: revisionId }).where(eq(items.id, itemId));
  await tx.insert(publications).values({ siteId, itemId, revisionId, publishedBy: by, publishedAt: at });
}
/** What a page says, as its layout has it, with its settings. */
export function demoContent(inventory: Inventory, page: ItemRow, said: PageContent): PageContent {
  const author = page.authorId === null ? null : String(page.authorId);
  const { layout, slug, shortName, inNavigation, language } = page;
  const settings = startSettings({ layout, slug, shortName, inNavigation, language, author });
  const checked = parseContent(inventory.layouts, page.layout, { ...settings, ...said });
  if (!checked.ok) throw new Error(`page "${page.slug}": ${checked.faults.map((f) => f.message).join(' ')}`);
  return checked.content;
}
/** A vacancy on a page: published, or a draft. */
export async function addVacancy(
  tx: Tx,
  inventory: Inventory,
  page: ItemRow,
  authorId: number,
  { content, live }: DemoVacancy,
  day: Date,
): Promise<void> {
  const { siteId, id: parentId } = page;
  const [row] = await tx
    .insert(items)
    .values({ siteId, type: 'vacancy', parentId, path: 'new', layout: 'vacancy', authorId, createdAt: day })
    .returning();
  if (!row) throw new Error('a vacancy was not written');
  await tx
    .update(items)
    .set({ path: `${page.path}.${row.id}` })
    .where(eq(items.id, row.id));
  if (live) await publish(tx, inventory, row, content);
  else await beginDraft(tx, inventory, row, { content, by: authorId, at: day });
}
