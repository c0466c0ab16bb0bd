import { eq, sql } from 'drizzle-orm';
import { among } from '../db/among';
import { sameContent, type ContentFault, type PageContent } from '@/core/content';
import { now } from '../clock';
import { findPlace } from '../tree/tree';
import type { Tx } from '../db/client';
import { drafts, publications, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { fieldsFor, mustMayWrite, unfilled } from './allowed';
import { draftInfo } from './editable';
import { formOf, layoutOf, type ItemRow } from './forms';
import { richOf } from './tools';
import { contentOf, findDraft, findWriters, mustFindItem, mustFindVersion, standing, thisOf } from './items';
import { withAddresses } from './links';
import { dropReferences, keepReferences, type SaidVersion } from './references';
import { readWritten } from './written';
import type { Inventory } from '@/core/inventory';

const conflict = async (
  tx: Tx,
  inventory: Inventory,
  draft: NonNullable<Awaited<ReturnType<typeof findDraft>>>,
  item: ItemRow,
) =>
  new Problem(
    'changed-by',
    { person: draft.updatedByName, thing: thisOf(inventory, item).toLowerCase() },
    {
      theirs: {
        content: await withAddresses(tx, item.siteId, { ...draft.content, ...draft.unfinished }),
        draft: draftInfo(draft),
      },
    },
  );

/**
 * A version somebody went back to, as a text their own may hold things from: one that visitors saw, or that was written
 * on the layout they write on. What was only put aside was made with the tools of its layout.
 */
async function takenUp(
  tx: Tx,
  inventory: Inventory,
  item: ItemRow,
  content: unknown,
  from: number,
): Promise<PageContent[]> {
  const version = await mustFindVersion(tx, item, from);
  const chosen =
    typeof content === 'object' && content !== null && 'page.layout' in content ? content['page.layout'] : undefined;
  const isSame = layoutOf(inventory, version, item).id === (typeof chosen === 'string' ? chosen : item.layout);
  const isPublic = async () =>
    (await tx.select({ id: publications.id }).from(publications).where(eq(publications.revisionId, from)).limit(1))
      .length > 0;
  return isSame || (await isPublic()) ? [richOf(formOf(inventory, item), version)] : [];
}

/** How many texts a draft may take things from; the oldest go. */
const MOST_BASES = 4;

/**
 * Keeps a draft, field by field: what is not right yet is kept beside it as typed, and its faults are given back.
 * `version` is the one it was made on: 0 when there was none. Where somebody else was faster it is a conflict and
 * nothing is written; `over` names the version that is knowingly replaced, and that one is put aside as a revision
 * first. Runs in a transaction.
 */
export async function saveDraft(
  tx: Tx,
  access: Access,
  itemId: number,
  given: { content: unknown; version: number; over?: boolean | undefined; from?: number | undefined },
): Promise<{ version: number; updatedAt: string; faults: ContentFault[] }> {
  const item = await mustFindItem(tx, access.site.id, itemId, true);
  const draft = await findDraft(tx, itemId);
  const before = await standing(tx, item);
  if ((draft?.version ?? 0) !== given.version) {
    if (draft) throw await conflict(tx, access.inventory, draft, item);
    throw new Problem(
      'sent-meanwhile',
      { thing: thisOf(access.inventory, item) },
      { theirs: { content: before && (await withAddresses(tx, item.siteId, before)), draft: null } },
    );
  }
  const isOwn = draft?.updatedBy === access.signedInId;
  const bases = [
    ...(draft ? (isOwn ? draft.bases : [richOf(formOf(access.inventory, item), draft.content)]) : []),
    ...(given.from === undefined ? [] : await takenUp(tx, access.inventory, item, given.content, given.from)),
  ].slice(-MOST_BASES);
  const { content, unfinished, faults, path } = await readWritten(tx, access, item, given.content, {
    shown: draft?.content ?? before,
    writtenOn:
      draft && isOwn
        ? { layout: layoutOf(access.inventory, draft.content, item).id, path: draft.writtenAt }
        : undefined,
    unfinished: draft?.unfinished ?? {},
    once: [await contentOf(tx, item.liveRevisionId), before],
    bases,
  });
  if (given.over && draft && draft.updatedBy !== access.signedInId)
    await addRevision(
      tx,
      access,
      item,
      draft.content,
      'kept',
      `Put aside when ${access.who.name} kept another version`,
      { madeBy: draft.updatedBy, writers: draft.writers },
    );
  const writers = [...new Set([...(draft?.writers ?? (await findWriters(tx, item))), access.signedInId])];
  const values = {
    content,
    unfinished,
    version: given.version + 1,
    bases,
    writtenAt: path,
    writers,
    updatedBy: access.signedInId,
    updatedAt: now(),
  };
  await tx
    .insert(drafts)
    .values({ ...values, itemId, siteId: access.site.id, startedBy: access.signedInId })
    .onConflictDoUpdate({ target: drafts.itemId, set: values });
  await keepReferences(tx, access.inventory, { item, content, revisionId: null });
  return { version: values.version, updatedAt: values.updatedAt.toISOString(), faults };
}

type RevisionKind = (typeof revisions.$inferSelect)['kind'];

/** Writes a version of each of some items, all of one kind and with one note; gives their numbers by item. */
export async function addRevisions(
  tx: Tx,
  inventory: Inventory,
  of: readonly { item: SaidVersion['item']; content: PageContent; madeBy: number | null; writers: readonly number[] }[],
  kind: RevisionKind,
  note: string,
): Promise<ReadonlyMap<number, number>> {
  if (of.length === 0) return new Map();
  const ids = of.map(({ item }) => item.id);
  const last = await tx
    .select({ itemId: revisions.itemId, number: sql<number>`max(${revisions.number})::int` })
    .from(revisions)
    .where(among(revisions.itemId, ids))
    .groupBy(revisions.itemId);
  const numbers = new Map(last.map((row) => [row.itemId, row.number]));
  const rows = await tx
    .insert(revisions)
    .values(
      of.map(({ item, content, madeBy, writers }) => ({
        siteId: item.siteId,
        itemId: item.id,
        number: (numbers.get(item.id) ?? 0) + 1,
        content,
        kind,
        note,
        madeBy,
        writers: [...writers],
      })),
    )
    .returning({ id: revisions.id, itemId: revisions.itemId });
  const made = new Map(rows.map((row) => [row.itemId, row.id]));
  await keepReferences(
    tx,
    inventory,
    ...of.map(({ item, content }) => ({ item, content, revisionId: made.get(item.id) ?? null })),
  );
  return made;
}

/** Writes a version of one item; gives its number. */
export async function addRevision(
  tx: Tx,
  access: Pick<Access, 'signedInId' | 'inventory'>,
  item: SaidVersion['item'],
  content: PageContent,
  kind: RevisionKind,
  note: string,
  by: { madeBy?: number | null; writers: readonly number[] },
): Promise<number> {
  const one = { item, content, madeBy: access.signedInId, ...by };
  const revisionId = (await addRevisions(tx, access.inventory, [one], kind, note)).get(item.id);
  if (revisionId === undefined) throw new Error('a revision was not written');
  return revisionId;
}

/**
 * Keeps what is on the screen and takes it at once, for sending or publishing. Where nothing differs from what
 * visitors see there is nothing to take. Runs in a transaction.
 */
export async function saveAndTake(
  tx: Tx,
  access: Access,
  itemId: number,
  given: { content: unknown; version: number },
): Promise<Taken & { item: ItemRow }> {
  const { version, faults: kept } = await saveDraft(tx, access, itemId, given);
  const written = await findDraft(tx, itemId);
  const place = await findPlace(tx, access.site.id, itemId);
  const faults = [
    ...kept,
    ...(written ? unfilled(access, await mustFindItem(tx, access.site.id, itemId), place, written.content) : []),
  ];
  if (faults.length > 0)
    throw new Problem('content-faulty', { faults: faults.map((f) => f.message).join(' ') }, { faults });
  const taken = await takeDraft(tx, access, itemId, version);
  const item = await mustFindItem(tx, access.site.id, itemId);
  const live = await contentOf(tx, item.liveRevisionId);
  if (live && sameContent(taken.content, live)) throw new Problem('nothing-differs');
  return { ...taken, item };
}

/** What was a draft, and everybody who wrote any of it. */
interface Taken {
  content: PageContent;
  writers: number[];
}

/** Takes the draft for sending or publishing it, and ends it. The version must be the one on the screen. */
async function takeDraft(tx: Tx, access: Access, itemId: number, version: number): Promise<Taken> {
  const item = await mustFindItem(tx, access.site.id, itemId, true);
  const draft = await findDraft(tx, itemId);
  if (!draft) throw new Problem('no-draft', { thing: thisOf(access.inventory, item).toLowerCase() });
  if (draft.version !== version) throw await conflict(tx, access.inventory, draft, item);
  await tx.delete(drafts).where(eq(drafts.itemId, itemId));
  await dropReferences(tx, itemId);
  return { content: draft.content, writers: draft.writers };
}

/** Keeps a version that was not chosen when two people wrote at once. Runs in a transaction. */
export async function putAside(tx: Tx, access: Access, itemId: number, content: unknown): Promise<void> {
  const item = await mustFindItem(tx, access.site.id, itemId);
  const draft = await findDraft(tx, itemId);
  const before = await standing(tx, item);
  const place = await findPlace(tx, access.site.id, item.id);
  const theirs = place && fieldsFor(access, item.type, place);
  // What is not theirs to write is not theirs to put aside: it stays as it stands.
  const given =
    theirs && typeof content === 'object' && content !== null
      ? Object.fromEntries(Object.entries(content).filter(([id]) => theirs.includes(id)))
      : content;
  const written = await readWritten(tx, access, item, given, {
    shown: draft?.content ?? before,
    unfinished: {},
    once: [await contentOf(tx, item.liveRevisionId), before],
    bases: draft?.bases ?? [],
  });
  await addRevision(tx, access, item, written.content, 'kept', 'Put aside for another version', {
    writers: [...new Set([...(draft?.writers ?? []), access.signedInId])],
  });
}

/**
 * Drops the draft; the page says again what visitors see. The draft dropped is kept as a revision. Runs in a
 * transaction.
 */
export async function dropDraft(tx: Tx, access: Access, itemId: number, version: number): Promise<void> {
  const item = await mustFindItem(tx, access.site.id, itemId);
  const stood = await standing(tx, item);
  if (!stood) throw new Problem('only-a-draft', { thing: thisOf(access.inventory, item) });
  const unfinished = (await findDraft(tx, itemId))?.unfinished ?? {};
  const { content, writers } = await takeDraft(tx, access, itemId, version);
  const place = await findPlace(tx, access.site.id, item.id);
  mustMayWrite(access, item, place, [content, unfinished], [stood, {}], [stood]);
  await addRevision(tx, access, item, content, 'kept', 'Draft put aside', { writers });
}
