import { desc, and, eq, isNull, or, sql } from 'drizzle-orm';
import { faultsInSight, readContent, textOf, type ContentFault, type Layout, type PageContent } from '@/core/content';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, publications, revisions, schedules } from '../db/schema';
import { formOf, layoutOf, type Form } from './forms';
import { withAddresses } from './links';
import { contentOf, findDraft, mustFindItem, newestOf, findWaiting } from './items';
import type { Inventory } from '@/core/inventory';

export interface DraftInfo {
  version: number;
  updatedBy: string;
  updatedById: string | null;
  updatedAt: string;
  sentBackWord: string | null;
}
export interface WaitingInfo {
  id: number;
  sentBy: string;
  sentById: string;
  sentAt: string;
  note: string;
  askedOf: string | null;
}
export interface VersionEntry {
  revisionId: number;
  by: string;
  at: string;
  kind: 'published' | 'kept' | 'sent';
  note: string;
  live: boolean;
}
export interface Planned {
  what: 'publish' | 'take-down';
  dueAt: string;
  by: string;
  failed: string | null;
}

/** An item as its edit screen needs it. */
export interface Editable {
  id: string;
  layout: Layout;
  /** The draft, or what waits, or what visitors see or saw. Says also a page's settings. */
  content: PageContent;
  /** What was typed into fields and is not right yet, by field: the draft says what it said before. */
  unfinished: Record<string, unknown>;
  /** What is wrong with it. */
  faults: ContentFault[];
  live: PageContent | null;
  down: boolean;
  draft: DraftInfo | null;
  waiting: WaitingInfo | null;
  versions: VersionEntry[];
  planned: Planned[];
}

export const draftInfo = (draft: NonNullable<Awaited<ReturnType<typeof findDraft>>>): DraftInfo => ({
  version: draft.version,
  updatedBy: draft.updatedByName,
  updatedById: draft.updatedBy === null ? null : String(draft.updatedBy),
  updatedAt: draft.updatedAt.toISOString(),
  sentBackWord: draft.sentBackWord,
});

/** What is not right yet, with what is wrong with it now. */
function unfinishedOf(
  form: Form,
  content: PageContent,
  unfinished: Record<string, unknown>,
): Pick<Editable, 'unfinished' | 'faults'> {
  const read =
    Object.keys(unfinished).length > 0
      ? readContent(form.layouts, textOf(content, 'item.layout'), { ...content, ...unfinished }, form.type.settings)
      : null;
  return { unfinished, faults: read ? faultsInSight(read.layout, read.faults) : [] };
}

/** Everything the edit screen shows. Reads only. */
export async function getEditable(tx: Tx, inventory: Inventory, siteId: number, itemId: number): Promise<Editable> {
  const item = await mustFindItem(tx, siteId, itemId);
  const draft = await findDraft(tx, itemId);
  const waiting = await findWaiting(tx, itemId);
  const live = await contentOf(tx, item.liveRevisionId);
  const out = await tx
    .select({ entry: publications, note: revisions.note, name: people.name })
    .from(publications)
    .innerJoin(revisions, eq(revisions.id, publications.revisionId))
    .leftJoin(people, eq(people.id, revisions.madeBy))
    .where(eq(publications.itemId, itemId))
    .orderBy(desc(publications.id))
    .limit(50);
  const others = await tx
    .select({ revision: revisions, name: people.name })
    .from(revisions)
    .leftJoin(people, eq(people.id, revisions.madeBy))
    .where(and(eq(revisions.itemId, itemId), or(eq(revisions.kind, 'kept'), eq(revisions.kind, 'sent'))))
    .orderBy(desc(revisions.id))
    .limit(30);
  const planned = await tx
    .select({ entry: schedules, name: people.name })
    .from(schedules)
    .leftJoin(people, eq(people.id, schedules.madeBy))
    .where(
      and(
        eq(schedules.itemId, itemId),
        or(
          isNull(schedules.doneAt),
          sql`${schedules.failed} is not null and ${schedules.doneAt} > ${new Date(now().getTime() - 7 * 86_400_000)}`,
        ),
      ),
    )
    .orderBy(schedules.dueAt);
  const published = new Set(out.map(({ entry }) => entry.revisionId));
  const versions: VersionEntry[] = [
    ...out.map(({ entry, note, name }) => ({
      revisionId: entry.revisionId,
      by: name ?? 'Set-up',
      at: entry.publishedAt.toISOString(),
      kind: 'published' as const,
      note,
      live: entry.id === out[0]?.entry.id && item.liveRevisionId === entry.revisionId,
    })),
    ...others
      .filter(({ revision }) => !published.has(revision.id))
      .map(({ revision, name }) => ({
        revisionId: revision.id,
        by: name ?? 'Somebody',
        at: revision.madeAt.toISOString(),
        kind: revision.kind === 'sent' ? ('sent' as const) : ('kept' as const),
        note: revision.note,
        live: false,
      })),
  ].sort((a, b) => b.at.localeCompare(a.at));
  const { content, unfinished, shown } = await withAddresses(tx, siteId, {
    content: await newestOf(tx, item, draft, waiting),
    unfinished: draft?.unfinished ?? {},
    shown: live ?? null,
  });
  return {
    id: String(itemId),
    layout: layoutOf(inventory, content, item),
    live: shown,
    down: item.downRevisionId !== null,
    versions,
    content,
    ...unfinishedOf(formOf(inventory, item), content, unfinished),
    draft: draft ? draftInfo(draft) : null,
    waiting: waiting
      ? {
          id: waiting.review.id,
          sentBy: waiting.name ?? 'Somebody',
          sentById: String(waiting.review.sentBy),
          sentAt: waiting.review.sentAt.toISOString(),
          note: waiting.review.note,
          askedOf: waiting.asked,
        }
      : null,
    planned: planned.map(({ entry, name }) => ({
      what: entry.what,
      dueAt: entry.dueAt.toISOString(),
      by: name ?? 'Somebody',
      failed: entry.failed,
    })),
  };
}
