import { and, desc, eq, gt, isNull, or, sql } from 'drizzle-orm';
import type { Place } from '@/core/access';
import {
  allFields,
  documentOf,
  emptyDocument,
  faultsInSight,
  piecesOf,
  readContent,
  sameContent,
  SETTINGS,
  settingsAsContent,
  textOf,
  withSettings,
  type ContentFault,
  type Document,
  type DocumentNode,
  type Field,
  type Layout,
  type PageContent,
} from '@/core/content';
import {
  CODE_VIEW,
  constructsOf,
  losesProtected,
  mergeConstructs,
  missingTools,
  type Constructs,
} from '@/core/toolbar';
import { canonical } from '@/core/json';
import { sayList } from '@/core/words';
import { policyOf } from '@/core/plan';
import { room } from '@/core/room';
import { getLayout, inventory, layouts } from '@/office';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { drafts, media, items, people, publications, reviews, revisions, schedules } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { notFound, Problem } from '../gate/problems';
import { findPolicyPerson } from '../people/people';
import { findPagePlace } from './tree';

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

/** A page as its edit screen needs it. */
export interface EditablePage {
  id: string;
  layout: Layout;
  /** The draft, or what waits, or what visitors see or saw. Says also the page's settings. */
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

type PageRow = typeof items.$inferSelect;

export const findPage = async (tx: Tx, siteId: number, itemId: number, lock = false) => {
  const query = tx
    .select()
    .from(items)
    .where(and(eq(items.siteId, siteId), eq(items.id, itemId), isNull(items.deletedAt)));
  const [page] = await (lock ? query.for('update') : query);
  if (!page) throw notFound('The page');
  return page;
};

const updater = { draft: drafts, name: people.name };
async function findDraft(tx: Tx, itemId: number) {
  const [row] = await tx
    .select(updater)
    .from(drafts)
    .leftJoin(people, eq(people.id, drafts.updatedBy))
    .where(eq(drafts.itemId, itemId));
  return row && { ...row.draft, updatedByName: row.name ?? 'Somebody' };
}

async function findWaiting(tx: Tx, itemId: number) {
  const asked = sql<string | null>`(select a.name from ${people} a where a.id = ${reviews.askedOf})`;
  const [row] = await tx
    .select({ review: reviews, content: revisions.content, name: people.name, asked })
    .from(reviews)
    .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
    .leftJoin(people, eq(people.id, reviews.sentBy))
    .where(and(eq(reviews.itemId, itemId), isNull(reviews.outcome)));
  return row;
}

const draftInfo = (draft: NonNullable<Awaited<ReturnType<typeof findDraft>>>): DraftInfo => ({
  version: draft.version,
  updatedBy: draft.updatedByName,
  updatedById: draft.updatedBy === null ? null : String(draft.updatedBy),
  updatedAt: draft.updatedAt.toISOString(),
  sentBackWord: draft.sentBackWord,
});

/** What a page's row says of its settings. */
const rowSettings = (page: PageRow) => ({
  layout: page.layout,
  slug: page.slug,
  ownAddress: page.ownAddress,
  shortName: page.shortName,
  inNavigation: page.inNavigation,
  author: page.authorId === null ? null : String(page.authorId),
  day: page.day,
  language: page.language,
});

/** Words that wait, with the settings of their page where they say nothing of them themselves. */
export const whole = (content: PageContent, page: PageRow): PageContent => withSettings(content, rowSettings(page));

/** Words that visitors see or saw, with the settings as they are now: some are changed for many pages at once, beside any words. */
export const asShown = (content: PageContent, page: PageRow): PageContent => ({
  ...whole(content, page),
  ...settingsAsContent(rowSettings(page)),
});

const contentOf = async (tx: Tx, revisionId: number | null): Promise<PageContent | undefined> =>
  revisionId === null
    ? undefined
    : (await tx.select({ content: revisions.content }).from(revisions).where(eq(revisions.id, revisionId)))[0]?.content;

/** What stands newest on a page before the draft: what waits, what visitors see, or what they saw. */
async function standing(tx: Tx, page: PageRow): Promise<PageContent | undefined> {
  const waits = (await findWaiting(tx, page.id))?.content ?? (await findPlannedContent(tx, page.id));
  const shown = waits ? undefined : await contentOf(tx, page.liveRevisionId ?? page.downRevisionId);
  return waits ?? (shown && asShown(shown, page));
}

/** What shall go online by itself. */
async function findPlannedContent(tx: Tx, itemId: number): Promise<PageContent | undefined> {
  const [row] = await tx
    .select({ content: revisions.content })
    .from(schedules)
    .innerJoin(revisions, eq(revisions.id, schedules.revisionId))
    .where(and(eq(schedules.itemId, itemId), eq(schedules.what, 'publish'), isNull(schedules.doneAt)));
  return row?.content;
}

/** What a page says newest: its draft, what waits, what visitors see, or what they saw. */
export const findNewest = async (tx: Tx, page: PageRow): Promise<PageContent> =>
  (await findDraft(tx, page.id))?.content ?? (await standing(tx, page)) ?? { title: '', body: emptyDocument() };

/** The layout that content names, or its page's. */
export const layoutOf = (content: PageContent, page: Pick<PageRow, 'layout'>): Layout =>
  layouts.get(textOf(content, 'page.layout')) ?? getLayout(page.layout);

/** What is not right yet, with what is wrong with it now. */
function unfinishedOf(
  content: PageContent,
  unfinished: Record<string, unknown>,
): Pick<EditablePage, 'unfinished' | 'faults'> {
  const read =
    Object.keys(unfinished).length > 0
      ? readContent(layouts, textOf(content, 'page.layout'), { ...content, ...unfinished })
      : null;
  return { unfinished, faults: read ? faultsInSight(read.layout, read.faults) : [] };
}

/** Everything the edit screen shows. Reads only. */
export async function getEditablePage(tx: Tx, siteId: number, itemId: number): Promise<EditablePage> {
  const page = await findPage(tx, siteId, itemId);
  const draft = await findDraft(tx, itemId);
  const waiting = await findWaiting(tx, itemId);
  const live = await contentOf(tx, page.liveRevisionId);
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
      live: entry.id === out[0]?.entry.id && page.liveRevisionId === entry.revisionId,
    })),
    ...others
      .filter(({ revision }) => !published.has(revision.id))
      .map(({ revision, name }) => ({
        revisionId: revision.id,
        by: name ?? 'Somebody',
        at: revision.madeAt.toISOString(),
        kind: revision.kind,
        note: revision.note,
        live: false,
      })),
  ].sort((a, b) => b.at.localeCompare(a.at));
  const content = whole(await findNewest(tx, page), page);
  return {
    id: String(itemId),
    layout: layoutOf(content, page),
    live: live ? asShown(live, page) : null,
    down: page.downRevisionId !== null,
    versions,
    content,
    ...unfinishedOf(content, draft?.unfinished ?? {}),
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

/** The blocks of a field, whichever pieces they lie in. */
const blocksOf = (field: Field, content: PageContent): Document =>
  field.kind === 'pieces'
    ? { type: 'doc', content: piecesOf(content, field.id).flatMap((piece): DocumentNode[] => piece.text.content) }
    : documentOf(content, field.id);
const isRich = (field: Field) => field.kind === 'rich' || field.kind === 'pieces';

const FIELDS = [...allFields(layouts).values()];
const RICH = FIELDS.filter(isRich);
const TOOLS = [...inventory.tools.values()];
const FIELD_BY_ID = new Map<string, Field>([...FIELDS, ...SETTINGS].map((field) => [field.id, field]));
/** Longest text that waits in a field until it is right, in characters. */
const LONGEST_WAITING = 20_000;
const isShortText = (value: unknown): boolean => typeof value === 'string' && value.length <= LONGEST_WAITING;

/**
 * Whether a value that is not right can be kept as it was typed: only what an editor's fields can hold. A text that does not fit the
 * schema, or a choice there is not, was not typed by anybody.
 */
function canWait(field: Field | undefined, value: unknown): boolean {
  switch (field?.kind) {
    case 'short':
      return field.id !== 'page.layout' && isShortText(value);
    case 'long':
    case 'day':
    case 'moment':
    case 'picture':
      return isShortText(value);
    case 'number':
      return typeof value === 'number' || isShortText(value);
    case 'link':
      return (
        typeof value === 'object' &&
        value !== null &&
        Object.keys(value).every((key) => key === 'href' || key === 'words') &&
        Object.values(value).every(isShortText)
      );
    case 'list':
      return (
        Array.isArray(value) &&
        value.length <= 2 * field.most &&
        value.every(
          (entry) => typeof entry === 'object' && entry !== null && Object.values(entry as object).every(isShortText),
        )
      );
    default:
      return false;
  }
}

/** What all rich fields, shown by the layout or not, hold of things that tools make. */
const held = (content: PageContent | undefined): Record<string, Constructs> =>
  content
    ? Object.fromEntries(
        RICH.filter((field) => content[field.id] !== undefined).map((field) => [
          field.id,
          constructsOf(blocksOf(field, content)),
        ]),
      )
    : {};

const merge = (a: Record<string, Constructs>, b: Record<string, Constructs>) =>
  Object.fromEntries(
    [...new Set([...Object.keys(a), ...Object.keys(b)])].map((field) => [
      field,
      mergeConstructs(a[field] ?? {}, b[field] ?? {}),
    ]),
  );

/** The tools a person may make things with: all of them where the code view is theirs. */
export function toolsOf(access: Access): ReadonlySet<string> {
  const { toolbar } = room({ inventory, plan: access.plan, person: access.who, places: [], nowMs: now().getTime() });
  return new Set(toolbar.modes.includes('code') ? [...inventory.tools.keys(), CODE_VIEW] : toolbar.tools);
}

/**
 * Reads what somebody sent as the content of a page, whichever way it came. A field left out stays as it was. Everything stored is
 * looked at, shown or not: pictures and people must be there, the layout theirs to use, tools theirs for what is new, and
 * what they could not make again must stay. A field that is not right yet takes nothing from the others: it is given back in
 * `unfinished`, as typed, with its fault where its layout shows it.
 */
async function readWritten(
  tx: Tx,
  access: Access,
  page: PageRow,
  given: unknown,
  old: {
    shown: PageContent | undefined;
    unfinished: Record<string, unknown>;
    once: readonly (PageContent | undefined)[];
    allowance: Record<string, Constructs>;
  },
): Promise<{
  content: PageContent;
  allowance: Record<string, Constructs>;
  unfinished: Record<string, unknown>;
  faults: ContentFault[];
}> {
  const raw =
    typeof given === 'object' && given !== null && !Array.isArray(given)
      ? { ...old.shown, ...(given as Record<string, unknown>) }
      : given;
  const read = readContent(layouts, page.layout, raw);
  if (!read)
    throw new Problem('bad-input', 'Nothing was sent.', { faults: [{ field: '', message: 'Nothing was sent.' }] });
  const faults = [...read.faults, ...(await picturesGone(tx, access, read.content))];
  const strange = faults.filter(
    ({ field }) => !canWait(FIELD_BY_ID.get(field), (raw as Record<string, unknown>)[field]),
  );
  if (strange.length > 0) throw new Problem('bad-input', strange.map((f) => f.message).join(' '), { faults: strange });
  // What is not right yet stays beside the draft as it was typed; the draft goes on saying of it what it said.
  const unfinished = Object.fromEntries(
    faults.map(({ field }) => [field, (raw as Record<string, unknown>)[field] ?? null]),
  );
  const before = old.shown === undefined ? {} : whole(old.shown, page);
  const content = whole(
    { ...read.content, ...Object.fromEntries(Object.keys(unfinished).map((field) => [field, before[field] ?? null])) },
    page,
  );
  await mayWrite(tx, access, page, [whole(before, page), old.unfinished], [content, unfinished]);
  await mayUse(tx, access, page, read.layout, content, old.shown);
  const allowance = [...old.once, old.shown].map(held).reduce(merge, old.allowance);
  const tools = toolsOf(access);
  for (const field of RICH) {
    const blocks = blocksOf(field, content);
    const missing = missingTools(tools, TOOLS, allowance[field.id] ?? {}, blocks);
    if (missing.length)
      throw new Problem(
        'tool-missing',
        `This text was changed in a way that needs ${missing.map((t) => `“${t.name}”`).join(' and ')}, which your toolbar does not have. What was there before is kept as it is; ask the keyholder if you need the tool.`,
        { tools: missing.map((t) => t.id), field: field.id },
      );
    if (old.shown && losesProtected(tools, TOOLS, blocksOf(field, old.shown), blocks))
      throw new Problem(
        'tool-missing',
        'This would take a table or a picture away that your toolbar cannot make again, so it was not saved. Load the page again to get it back.',
        { field: field.id },
      );
  }
  return {
    content,
    allowance: merge(allowance, held(content)),
    unfinished,
    faults: faultsInSight(read.layout, faults),
  };
}

const conflict = (draft: NonNullable<Awaited<ReturnType<typeof findDraft>>>, page: PageRow) =>
  new Problem(
    'conflict',
    `${draft.updatedByName} changed this page while you had it open. Nothing was overwritten: both versions are shown, and you choose.`,
    { theirs: { content: { ...whole(draft.content, page), ...draft.unfinished }, draft: draftInfo(draft) } },
  );

/** Everybody who wrote words of a page that were never published: in versions made since it last went out. */
async function findWriters(tx: Tx, page: PageRow): Promise<number[]> {
  const last = page.liveRevisionId ?? page.downRevisionId ?? 0;
  const rows = await tx
    .select({ writers: revisions.writers, madeBy: revisions.madeBy })
    .from(revisions)
    .where(and(eq(revisions.itemId, page.id), gt(revisions.id, last)));
  return rows.flatMap((row) => (row.writers.length > 0 ? row.writers : row.madeBy === null ? [] : [row.madeBy]));
}

/** Who has written in a page since it was last published: nobody of them gives it its second look. */
export async function listWriters(tx: Tx, siteId: number, itemId: number): Promise<number[]> {
  const page = await findPage(tx, siteId, itemId);
  return [...new Set([...((await findDraft(tx, itemId))?.writers ?? []), ...(await findWriters(tx, page))])];
}

/**
 * Keeps a draft, field by field: what is not right yet is kept beside it as typed, and its faults are given back. `version` is the one it was made on: 0 when there was none. Where somebody else was faster it is
 * a conflict and nothing is written; `over` names the version that is knowingly replaced, and that one is put
 * aside as a revision first. Runs in a transaction.
 */
export async function saveDraft(
  tx: Tx,
  access: Access,
  itemId: number,
  given: { content: unknown; version: number; over?: boolean | undefined },
): Promise<{ version: number; updatedAt: string; faults: ContentFault[] }> {
  const page = await findPage(tx, access.site.id, itemId, true);
  const draft = await findDraft(tx, itemId);
  const before = await standing(tx, page);
  if ((draft?.version ?? 0) !== given.version) {
    if (draft) throw conflict(draft, page);
    throw new Problem(
      'conflict',
      'This page was sent or published by somebody else while you had it open. Nothing was overwritten: both versions are shown, and you choose.',
      { theirs: { content: before && whole(before, page), draft: null } },
    );
  }
  const { content, allowance, unfinished, faults } = await readWritten(tx, access, page, given.content, {
    shown: draft?.content ?? before,
    unfinished: draft?.unfinished ?? {},
    once: [await contentOf(tx, page.liveRevisionId), before],
    allowance: draft?.allowance ?? {},
  });
  if (given.over && draft && draft.updatedBy !== access.signedInId)
    await addRevision(
      tx,
      access,
      itemId,
      draft.content,
      'kept',
      `Put aside when ${access.who.name} kept another version`,
      { madeBy: draft.updatedBy, writers: draft.writers },
    );
  const writers = [...new Set([...(draft?.writers ?? (await findWriters(tx, page))), access.signedInId])];
  const values = {
    content,
    unfinished,
    version: given.version + 1,
    allowance,
    writers,
    updatedBy: access.signedInId,
    updatedAt: now(),
  };
  await tx
    .insert(drafts)
    .values({ ...values, itemId, siteId: access.site.id, startedBy: access.signedInId })
    .onConflictDoUpdate({ target: drafts.itemId, set: values });
  return { version: values.version, updatedAt: values.updatedAt.toISOString(), faults };
}

const PLACED = [...inventory.permissions.values()]
  .filter((permission) => permission.placed)
  .map((permission) => permission.id);
const picturesIn = (nodes: readonly DocumentNode[]): string[] =>
  nodes.flatMap((node) =>
    node.type === 'picture'
      ? [String(node.attrs?.['id'])]
      : 'content' in node && node.content
        ? picturesIn(node.content)
        : [],
  );

/** Every picture a page's content shows or keeps, with the field it stands in. */
export const picturesOf = (content: PageContent) =>
  FIELDS.flatMap((field) => {
    const inText = isRich(field) ? picturesIn(blocksOf(field, content).content) : [];
    const own =
      field.kind === 'picture'
        ? [content[field.id]]
        : field.kind === 'pieces'
          ? piecesOf(content, field.id).map((piece) => piece.picture)
          : [];
    return [...inText, ...own].filter((id): id is string => typeof id === 'string').map((id) => ({ field, id }));
  });

/** The fields whose pictures are not there any more. */
async function picturesGone(tx: Tx, access: Access, content: PageContent): Promise<ContentFault[]> {
  const wanted = picturesOf(content);
  if (wanted.length === 0) return [];
  const there = new Set(
    (await tx.select({ id: media.id }).from(media).where(eq(media.siteId, access.site.id))).map((row) =>
      String(row.id),
    ),
  );
  return [
    ...new Map(
      wanted
        .filter(({ id }) => !there.has(id))
        .map(({ field }) => [
          field.id,
          { field: field.id, message: `${field.name}: the picture chosen is not there any more. Choose another.` },
        ]),
    ).values(),
  ];
}

/** A permission somebody would have of a page as it would be, and has not as it is: rules can hang on the layout and the author. */
const gained = (access: Access, place: Place, changed: Place) =>
  PLACED.find(
    (permission) =>
      mayNow(access, permission, { place: changed }).allowed && !mayNow(access, permission, { place }).allowed,
  );

/** Whether somebody may give a page a layout: they may change pages with it here, and could do no more with this one by it. */
const mayGiveLayout = (access: Access, place: Place, layout: string) =>
  mayNow(access, 'page.edit', { place: { ...place, layout } }).allowed && !gained(access, place, { ...place, layout });

/** The layouts somebody may give a page, and the one it has. */
export const layoutsFor = (access: Access, place: Place): string[] =>
  [...layouts.keys()].filter((id) => id === place.layout || mayGiveLayout(access, place, id));

/** The fields of a page that somebody may change here; null for all of them. */
export function fieldsFor(access: Access, place: Place): string[] | null {
  const theirs = [...FIELD_BY_ID.keys()].filter((field) => mayNow(access, 'page.edit', { place, field }).allowed);
  return theirs.length === FIELD_BY_ID.size ? null : theirs;
}

/** As many fields as a refusal names. */
const FEW_FIELDS = 6;

/** Refuses what changes a field somebody may not change, whether it is right already or waits to be; each of `before` and `after` is what the page says and what is unfinished of it. */
async function mayWrite(
  tx: Tx,
  access: Access,
  page: PageRow,
  before: readonly Record<string, unknown>[],
  after: readonly Record<string, unknown>[],
): Promise<void> {
  const place = await findPagePlace(tx, access.site.id, page.id);
  const theirs = place && fieldsFor(access, place);
  if (!theirs) return;
  const ids = new Set([...before, ...after].flatMap((part) => Object.keys(part)));
  const changed = [...ids].filter(
    (id) =>
      !theirs.includes(id) &&
      after.some((part, i) => canonical(part[id] ?? null) !== canonical(before[i]?.[id] ?? null)),
  );
  if (changed.length === 0) return;
  const name = (id: string) => `“${FIELD_BY_ID.get(id)?.name ?? id}”`;
  const rest = theirs.length <= FEW_FIELDS ? ` You may change ${sayList(theirs.map(name))}.` : '';
  throw new Problem(
    'refused',
    `${sayList(changed.map(name))} ${changed.length === 1 ? 'is' : 'are'} not yours to change here.${rest} Ask the keyholder if you need to.`,
    { permission: 'page.edit', page: String(page.id), fields: changed },
  );
}

/** Whether a draft names only what there is and what its writer may: pictures and people of the site, a layout and an author that give nobody more than the writer has. */
async function mayUse(
  tx: Tx,
  access: Access,
  page: PageRow,
  layout: Layout,
  content: PageContent,
  shown: PageContent | undefined,
): Promise<void> {
  const refuse = (field: string, message: string, detail = message) =>
    new Problem('bad-input', detail, { faults: [{ field, message }] });
  const wanted = picturesOf(content);
  if (wanted.length > 0) {
    // Whoever may not see all pictures has those the page ever had.
    const known = new Set(picturesOf(shown ?? {}).map(({ id }) => id));
    if (!mayNow(access, 'media.view').allowed && wanted.some(({ id }) => !known.has(id))) {
      for (const { content: earlier } of await tx
        .select({ content: revisions.content })
        .from(revisions)
        .where(eq(revisions.itemId, page.id)))
        for (const { id } of picturesOf(earlier)) known.add(id);
      const chosen = wanted.find(({ id }) => !known.has(id));
      if (chosen)
        throw refuse(
          chosen.field.id,
          'Choose a picture this page had before.',
          `${chosen.field.name}: you may not choose among all pictures, only those this page had before. Ask the keyholder if you need another.`,
        );
    }
  }
  const author = textOf(content, 'page.author');
  if (
    author &&
    author !== String(page.authorId) &&
    !(
      /^\d{1,9}$/.test(author) &&
      (
        await tx
          .select({ id: people.id })
          .from(people)
          .where(and(eq(people.siteId, access.site.id), eq(people.id, Number(author))))
      ).length
    )
  )
    throw refuse('page.author', 'This author is nobody of this website.');
  const place = await findPagePlace(tx, access.site.id, page.id);
  if (!place) return;
  if (layout.id !== page.layout && !mayNow(access, 'page.edit', { place: { ...place, layout: layout.id } }).allowed)
    throw refuse('page.layout', `You may not use the layout “${layout.name}” here.`);
  const isNew = (field: string, value: string) => value !== '' && value !== textOf(shown ?? {}, field);
  if (
    layout.id !== page.layout &&
    isNew('page.layout', layout.id) &&
    gained(access, place, { ...place, layout: layout.id })
  )
    throw refuse(
      'page.layout',
      `With the layout “${layout.name}” you could do more with this page than now. Somebody else has to change it.`,
    );
  if (author && author !== String(page.authorId) && isNew('page.author', author)) {
    const changed = { ...place, author };
    if (author === access.who.id) {
      if (gained(access, place, changed))
        throw refuse(
          'page.author',
          'As its author you could do more with this page than now. Somebody else has to change it.',
        );
    } else {
      const person = await findPolicyPerson(tx, Number(author));
      const theirs = person && { ...access, who: person, policy: policyOf(inventory, access.plan, [person]) };
      const more =
        theirs &&
        PLACED.find(
          (permission) =>
            mayNow(theirs, permission, { place: changed }).allowed &&
            !mayNow(theirs, permission, { place }).allowed &&
            !mayNow(access, permission, { place }).allowed,
        );
      if (more)
        throw refuse(
          'page.author',
          'As its author they could do more with this page than you. Somebody else has to change it.',
        );
    }
  }
}

export async function addRevision(
  tx: Tx,
  access: Pick<Access, 'site' | 'signedInId'>,
  itemId: number,
  content: PageContent,
  kind: 'sent' | 'published' | 'kept',
  note: string,
  by: { madeBy?: number | null; writers: readonly number[] },
): Promise<number> {
  const [last] = await tx
    .select({ number: sql<number>`coalesce(max(${revisions.number}), 0)` })
    .from(revisions)
    .where(eq(revisions.itemId, itemId));
  const [row] = await tx
    .insert(revisions)
    .values({
      siteId: access.site.id,
      itemId,
      number: Number(last?.number ?? 0) + 1,
      content,
      kind,
      note,
      madeBy: by.madeBy === undefined ? access.signedInId : by.madeBy,
      writers: [...by.writers],
    })
    .returning({ id: revisions.id });
  if (!row) throw new Error('a revision was not written');
  return row.id;
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
): Promise<Taken> {
  const { version, faults } = await saveDraft(tx, access, itemId, given);
  if (faults.length > 0) throw new Problem('bad-input', faults.map((f) => f.message).join(' '), { faults });
  const taken = await takeDraft(tx, access, itemId, version);
  const page = await findPage(tx, access.site.id, itemId);
  const live = await contentOf(tx, page.liveRevisionId);
  if (live && sameContent(taken.content, asShown(live, page)))
    throw new Problem('already-done', 'Nothing differs from what visitors see, so there is nothing to send.');
  return taken;
}

/** What was a draft, and everybody who wrote any of it. */
interface Taken {
  content: PageContent;
  writers: number[];
}

/** Takes the draft for sending or publishing it, and ends it. The version must be the one on the screen. */
async function takeDraft(tx: Tx, access: Access, itemId: number, version: number): Promise<Taken> {
  const page = await findPage(tx, access.site.id, itemId, true);
  const draft = await findDraft(tx, itemId);
  if (!draft)
    throw new Problem(
      'already-done',
      'There is no draft of this page: nothing has changed since the last version, or it was sent already.',
    );
  if (draft.version !== version) throw conflict(draft, page);
  await tx.delete(drafts).where(eq(drafts.itemId, itemId));
  return { content: whole(draft.content, page), writers: draft.writers };
}

/** Keeps a version that was not chosen when two people wrote at once. Runs in a transaction. */
export async function putAside(tx: Tx, access: Access, itemId: number, content: unknown): Promise<void> {
  const page = await findPage(tx, access.site.id, itemId);
  const draft = await findDraft(tx, itemId);
  const before = await standing(tx, page);
  const place = await findPagePlace(tx, access.site.id, page.id);
  const theirs = place && fieldsFor(access, place);
  // What is not theirs to write is not theirs to put aside: it stays as it stands.
  const given =
    theirs && typeof content === 'object'
      ? Object.fromEntries(Object.entries(content ?? {}).filter(([id]) => theirs.includes(id)))
      : content;
  const written = await readWritten(tx, access, page, given, {
    shown: draft?.content ?? before,
    unfinished: {},
    once: [await contentOf(tx, page.liveRevisionId), before],
    allowance: draft?.allowance ?? {},
  });
  await addRevision(tx, access, itemId, written.content, 'kept', 'Put aside for another version', {
    writers: [...new Set([...(draft?.writers ?? []), access.signedInId])],
  });
}

/** Drops the draft; the page says again what visitors see. The draft dropped is kept as a revision. Runs in a transaction. */
export async function dropDraft(tx: Tx, access: Access, itemId: number, version: number): Promise<void> {
  const page = await findPage(tx, access.site.id, itemId);
  const stood = await standing(tx, page);
  if (!stood)
    throw new Problem(
      'bad-input',
      'This page was never anything but this draft, so there is nothing to go back to. Delete the page if it is not needed.',
    );
  const unfinished = (await findDraft(tx, itemId))?.unfinished ?? {};
  const { content, writers } = await takeDraft(tx, access, itemId, version);
  await mayWrite(tx, access, page, [content, unfinished], [whole(stood, page), {}]);
  await addRevision(tx, access, itemId, content, 'kept', 'Draft put aside', { writers });
}

export interface UnfinishedEntry {
  itemId: string;
  title: string;
  state: 'draft' | 'sent-back' | 'waiting';
  at: Date;
  word: string | null;
  publishedAt: Date | null;
}

/** A person's drafts, what they sent and nobody has looked at, and what came back; newest first. */
export async function listUnfinished(tx: Tx, access: Access): Promise<UnfinishedEntry[]> {
  const me = Number(access.who.id);
  const lastOut = sql<string | null>`(select max(published_at) from publications where item_id = ${items.id})`;
  const [mine, sent] = await Promise.all([
    tx
      .select({ draft: drafts, out: lastOut })
      .from(drafts)
      .innerJoin(items, and(eq(items.id, drafts.itemId), isNull(items.deletedAt)))
      .where(and(eq(drafts.siteId, access.site.id), sql`${me} in (${drafts.startedBy}, ${drafts.updatedBy})`)),
    tx
      .select({ review: reviews, content: revisions.content, out: lastOut })
      .from(reviews)
      .innerJoin(revisions, eq(revisions.id, reviews.revisionId))
      .innerJoin(items, and(eq(items.id, reviews.itemId), isNull(items.deletedAt)))
      .where(and(eq(reviews.siteId, access.site.id), eq(reviews.sentBy, me), isNull(reviews.outcome))),
  ]);
  const date = (text: string | null) => (text === null ? null : new Date(text));
  return [
    ...mine.map(({ draft, out }) => ({
      itemId: String(draft.itemId),
      title: textOf(draft.content, 'title'),
      state: draft.sentBackWord === null ? ('draft' as const) : ('sent-back' as const),
      at: draft.updatedAt,
      word: draft.sentBackWord,
      publishedAt: date(out),
    })),
    ...sent.map(({ review, content, out }) => ({
      itemId: String(review.itemId),
      title: textOf(content, 'title'),
      state: 'waiting' as const,
      at: review.sentAt,
      word: null,
      publishedAt: date(out),
    })),
  ].sort((a, b) => b.at.getTime() - a.at.getTime());
}
