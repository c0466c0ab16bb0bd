import { and, desc, eq, isNotNull, isNull, or, sql, type SQL } from 'drizzle-orm';
import { addressOf } from '@/core/content';
import type { Target } from '@/core/wire';
import { fold } from '@/core/words';
import type { Tx } from '../db/client';
import { items, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { knownPages } from '../gate/filter';
import { findAddresses } from './addresses';
import type { PageFacts } from './tree';

export interface Found {
  page: PageFacts;
  /** A few words around what was asked; every second part is one that was asked for. */
  excerpt: string[];
}

/**
 * What was asked as PostgreSQL's search can be given it: a minus only before a word, since each of hundreds in a row
 * would be a "not" of its own.
 */
export const plainQuestion = (asked: string): string =>
  asked
    .trim()
    .slice(0, 200)
    .replaceAll(/-+(?![\p{L}\p{N}"])/gu, ' ')
    .replaceAll(/-{2,}/g, '-')
    .trim();

/** Whether a title holds what is typed, with or without its accents. */
export const titleHolds = (title: SQL, q: string): SQL =>
  sql`regexp_replace(normalize(${title}, NFD), '[\\u0300-\\u036f]', '', 'g') ilike ${`%${fold(q).replaceAll(/[\\%_]/g, '\\$&')}%`}`;

const MOST = 20;
/** Marks around what was found, from Unicode's private use area: no text holds them. */
const [BEGIN, END] = ['\uE000', '\uE001'];
/**
 * All the words of what visitors see of a page, in their order (strict: the lax mode of SQL/JSON paths gives what lies
 * in lists twice).
 */
const text = sql<string>`concat_ws(' ', ${revisions.content}->>'summary', (select string_agg(t.words #>> '{}', ' ' order by t.at) from jsonb_path_query(${revisions.content}, 'strict $.** ? (exists (@.text)).text') with ordinality as t(words, at)))`;

/**
 * Pages whose published words fit what was asked, best first: PostgreSQL's full text search, and where it finds
 * nothing, titles and summaries that are spelled alike (trigram word similarity). Only among the pages given.
 */
export async function searchPages(tx: Tx, among: readonly PageFacts[], asked: string): Promise<Found[]> {
  const words = plainQuestion(asked);
  if (words === '' || among.length === 0) return [];
  // Each page is asked in its own language: by its stems, and without its small words.
  const language = sql`search_language(${items.language})`;
  const query = sql`websearch_to_tsquery(${language}, ${words})`;
  const fits = or(
    ...[...new Set(among.map((page) => page.language))].map((tag) =>
      and(eq(items.language, tag), sql`${revisions.words} @@ websearch_to_tsquery(search_language(${tag}), ${words})`),
    ),
  );
  // One list, however many there are: each would be a parameter of its own otherwise.
  const there = sql`${items.id} = any(${sql.param(among.map((page) => Number(page.id)))}::int[])`;
  const live = () =>
    tx
      .select({
        id: items.id,
        excerpt: sql<string>`ts_headline(${language}, ${text}, ${query}, ${`StartSel=${BEGIN}, StopSel=${END}, MaxWords=28, MinWords=14, MaxFragments=1`})`,
      })
      .from(items)
      .innerJoin(revisions, eq(revisions.id, items.liveRevisionId))
      .$dynamic();
  let rows = await live()
    .where(and(there, fits))
    .orderBy(desc(sql`ts_rank(${revisions.words}, ${query})`), items.id)
    .limit(MOST);
  // Who writes quotes or a minus means it to the letter.
  if (rows.length === 0 && !/"|(^|\s)-/.test(words)) {
    const alike = sql<number>`word_similarity(${words}, concat_ws(' ', ${revisions.content}->>'title', ${revisions.content}->>'summary'))`;
    rows = await live()
      .where(and(there, sql`${alike} > 0.4`))
      .orderBy(desc(alike), items.id)
      .limit(5);
  }
  const byId = new Map(among.map((page) => [page.id, page]));
  return rows.flatMap((row) => {
    const page = byId.get(String(row.id));
    return page ? [{ page, excerpt: row.excerpt.split(new RegExp(`[${BEGIN}${END}]`)) }] : [];
  });
}

const targetTitle = sql<string>`coalesce(${items.shortName}, ${revisions.content}->>'title')`;
const liveBelow = sql<boolean>`exists (select 1 from items b where b.path <@ ${items.path} and b.id <> ${items.id} and b.type = 'page' and b.live_revision_id is not null and b.deleted_at is null)`;

async function targetsOf(
  tx: Tx,
  siteId: number,
  rows: readonly { id: number; title: string; live: number | null; below: boolean }[],
): Promise<Target[]> {
  const addressed = await findAddresses(
    tx,
    siteId,
    rows.map((row) => row.id),
  );
  return rows.map((row) => ({
    id: String(row.id),
    title: row.title,
    address: row.live === null ? null : addressOf(addressed, String(row.id)),
    below: row.below,
  }));
}

const targetRows = (tx: Tx) =>
  tx.select({ id: items.id, title: targetTitle, live: items.liveRevisionId, below: liveBelow }).from(items).$dynamic();

/**
 * Pages of the website a link can lead to, of those somebody may know of, newest change first, `most` at most; those
 * whose title fits some words, if there are any.
 */
export async function findTargets(tx: Tx, access: Access, q: string, most: number): Promise<Target[]> {
  const fits =
    q === ''
      ? undefined
      : sql`(${titleHolds(targetTitle, q)} or word_similarity(${q}, concat_ws(' ', ${targetTitle}, ${revisions.content}->>'title')) > 0.5)`;
  const newest = sql`(select max(p.published_at) from publications p where p.item_id = ${items.id})`;
  const rows = await targetRows(tx)
    .innerJoin(revisions, eq(revisions.id, items.liveRevisionId))
    .where(and(eq(items.siteId, access.site.id), knownPages(access), fits))
    .orderBy(desc(newest), items.id)
    .limit(most);
  return targetsOf(tx, access.site.id, rows);
}

/** The pages right below one, or at the top, that a link can lead to, or that have such below them; in their order. */
export async function findTargetsBelow(tx: Tx, access: Access, parent: number | null): Promise<Target[]> {
  const rows = await targetRows(tx)
    .innerJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .where(
      and(
        eq(items.siteId, access.site.id),
        knownPages(access),
        parent === null ? isNull(items.parentId) : eq(items.parentId, parent),
        or(isNotNull(items.liveRevisionId), liveBelow),
      ),
    )
    .orderBy(items.position, items.id);
  return targetsOf(tx, access.site.id, rows);
}
