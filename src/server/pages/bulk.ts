import { inArray, sql } from 'drizzle-orm';
import type { Audience } from '@/core/access';
import { audienceSchema, type Bulk, type BulkRow, type StepBack } from '@/core/wire';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import { tryOut } from '../db/tryOut';
import type { Access } from '../gate/access';
import { authorize, mayNow, mayOn } from '../gate/authorize';
import { Problem } from '../gate/problems';
import { adjust } from './adjust';
import { setAudience } from './audience';
import { findAddresses } from '../tree/addresses';
import { findLinks } from '../items/references';
import { mustLeave } from '../items/allowed';
import { mustFindPage } from '../items/items';
import { titleOf } from '../items/publishing';
import { bringBack, deleteItem, previewRetire, putBack, takeItemDown, type SiteLinks } from './retire';
import { movePage, previewMove } from './move';
import { findPlace, listPages } from '../tree/tree';

/** What doing it with a page needs, and taking it back. */
const NEEDS: Record<Bulk['do'] | StepBack['do'], string> = {
  navigation: 'page.publish',
  audience: 'page.publish',
  move: 'page.arrange',
  'take-down': 'page.retire',
  'put-back': 'page.retire',
  delete: 'page.retire',
  'bring-back': 'page.retire',
};

const AUDIENCE = {
  everyone: 'Everyone may visit it',
  members: 'Members only may visit it',
  'as-above': 'Visitors as of the page above',
};

const shownInWords = (shown: boolean) => (shown ? 'Shown in navigation' : 'Left out of navigation');

async function showInNavigation(tx: Tx, access: Access, id: number, shown: boolean): Promise<void> {
  const place = await findPlace(tx, access.site.id, id);
  if (place) mustLeave(access, place, 'page.inNavigation');
  const page = await mustFindPage(tx, access.site.id, id, true);
  if (page.inNavigation === shown) throw new Problem(shown ? 'shown-already' : 'left-out-already');
  await adjust(tx, access, page, { inNavigation: shown }, shownInWords(shown));
}

/** Some things by name: the first of them, and how many more there are. */
const few = (names: readonly string[]): string =>
  names.length <= 3 ? names.join(', ') : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;

const linksInWords = (links: readonly { title: string }[], what: string): string[] =>
  links.length === 0 ? [] : [`${what} ${few([...new Set(links.map((link) => `“${link.title}”`))])}.`];

/** What comes with a move, as a single one tells it. */
async function notesOfMove(
  tx: Tx,
  access: Access,
  move: { page: number; parent: number; index: number },
  known: SiteLinks,
): Promise<string[]> {
  const { addresses, below, visitors, links, lists } = await previewMove(tx, access, move, known.links);
  // That of the page itself is the shortest.
  const [first] = addresses.toSorted((a, b) => a.from.length - b.from.length);
  return [
    ...(below > 0 ? [`With ${below} below.`] : []),
    ...(first
      ? [
          `${addresses.length === 1 ? 'Its address changes' : `${addresses.length} addresses change`}: ${first.from} → ${first.to}${addresses.length > 1 ? ' …' : ''}; the old ${addresses.length === 1 ? 'one leads' : 'ones lead'} there.`,
        ]
      : []),
    ...lists,
    ...(visitors ? [visitors] : []),
    ...linksInWords(links, 'Links that follow by themselves stand on'),
  ];
}

/** What comes with taking a page away, as a single time tells it. */
async function notesOfRetiring(tx: Tx, access: Access, id: number, known: SiteLinks): Promise<string[]> {
  const { below, also, drafts, links } = await previewRetire(tx, access, id, known);
  return [
    ...(below > 0 ? [`With ${below} below.`] : []),
    ...also.map((what) => `${what} goes along.`),
    ...(drafts > 0 ? [`${drafts === 1 ? 'One draft is' : `${drafts} drafts are`} not published yet.`] : []),
    ...linksInWords(links, 'Links will lead nowhere on'),
  ];
}

interface Done {
  words: string;
  notes: string[];
  back: StepBack;
}

/**
 * Does it with one page and says what became of it, and what takes it back; a Problem says why not. With `tell` also
 * what comes with it.
 */
async function doOne(tx: Tx, access: Access, id: number, bulk: Bulk, tell: SiteLinks | null): Promise<Done> {
  switch (bulk.do) {
    case 'navigation': {
      await showInNavigation(tx, access, id, bulk.shown);
      return { words: shownInWords(bulk.shown), notes: [], back: { do: 'navigation', page: id, shown: !bulk.shown } };
    }
    case 'audience': {
      const { audience } = await mustFindPage(tx, access.site.id, id, true);
      await setAudience(
        tx,
        access,
        id,
        bulk.audience === 'as-above' ? null : ({ kind: bulk.audience } satisfies Audience),
      );
      return {
        words: AUDIENCE[bulk.audience],
        notes: [],
        back: { do: 'audience', page: id, audience: audienceSchema.nullable().parse(audience) },
      };
    }
    case 'move': {
      const move = { page: id, parent: bulk.parent, index: 100_000 };
      const notes = tell ? await notesOfMove(tx, access, move, tell) : [];
      const { back } = await movePage(tx, access, { ...move, redirect: bulk.redirect });
      return { words: `Below ${await titleOf(tx, bulk.parent)}`, notes, back: { do: 'move', ...back } };
    }
    case 'take-down': {
      const notes = tell ? await notesOfRetiring(tx, access, id, tell) : [];
      await takeItemDown(tx, access, id);
      return { words: 'Taken down', notes, back: { do: 'put-back', page: id } };
    }
    case 'delete': {
      const notes = tell ? await notesOfRetiring(tx, access, id, tell) : [];
      await deleteItem(tx, access, id);
      return { words: 'Deleted', notes, back: { do: 'bring-back', page: id } };
    }
  }
}

/**
 * Takes back what was done with many pages, the last first; all of it or, where something stands in the way by now,
 * nothing. Runs in a transaction.
 */
export async function takeBack(
  tx: Tx,
  access: Access,
  steps: readonly StepBack[],
  progress: (done: number) => void,
): Promise<{ pages: number }> {
  for (const [i, step] of steps.toReversed().entries()) {
    await authorize(tx, access, NEEDS[step.do], {
      place: await findPlace(tx, access.site.id, step.page, step.do === 'bring-back'),
    });
    switch (step.do) {
      case 'navigation':
        await showInNavigation(tx, access, step.page, step.shown);
        break;
      case 'audience':
        await setAudience(tx, access, step.page, step.audience);
        break;
      case 'move':
        await movePage(tx, access, { page: step.page, parent: step.parent, index: step.index, redirect: false });
        break;
      case 'put-back':
        await putBack(tx, access, step.page);
        break;
      case 'bring-back':
        await bringBack(tx, access, step.page);
        break;
    }
    progress(i + 1);
  }
  return { pages: steps.length };
}

/**
 * The pages with the ids of those above them, the highest first: where a whole branch goes, what lies below has gone
 * already.
 */
async function withAbove(tx: Tx, ids: readonly number[]): Promise<{ id: number; above: number[] }[]> {
  const rows = await tx
    .select({ id: items.id, path: sql<string>`${items.path}::text` })
    .from(items)
    .where(inArray(items.id, [...ids]));
  const above = new Map(rows.map((row) => [row.id, row.path.split('.').slice(0, -1).map(Number)]));
  return ids.map((id) => ({ id, above: above.get(id) ?? [] })).sort((a, b) => a.above.length - b.above.length);
}

/**
 * Does the same with many pages, in one transaction: what cannot be done with one of them is told and leaves the rest
 * alone (a savepoint each). `progress` is called after each; with `tell` it is also said what comes with each. Gives
 * what takes it back. Runs in a transaction.
 */
export async function doWithMany(
  tx: Tx,
  access: Access,
  ids: readonly number[],
  bulk: Bulk,
  progress: (done: number) => void = () => undefined,
  tell = false,
): Promise<{ rows: BulkRow[]; back: StepBack[] }> {
  const whole = bulk.do === 'move' || bulk.do === 'take-down' || bulk.do === 'delete';
  const gone = new Set<number>();
  const mayView = mayOn(access, 'page.view');
  const rows: BulkRow[] = [];
  const back: StepBack[] = [];
  // As they are before anything is done: what is done to one page changes nothing here for another, but those below it,
  // which go along.
  const facts = new Map((await listPages(tx, access.site.id)).map((page) => [Number(page.id), page]));
  const known =
    tell && whole
      ? { addresses: await findAddresses(tx, access.site.id), links: await findLinks(tx, access.site.id) }
      : null;
  for (const [i, { id, above }] of (await withAbove(tx, ids)).entries()) {
    const page = facts.get(id);
    const place = page?.place;
    const isSeen = place !== undefined && mayView(place);
    const title = isSeen ? (page?.shortName ?? page?.title ?? '') : 'A page you do not see';
    const row = (words: string, refused: boolean, notes: string[] = []) =>
      void rows.push({ id: String(id), title, words, notes, refused });
    const goes = whole && above.some((other) => gone.has(other));
    const no = goes
      ? null
      : !isSeen
        ? 'It is not there, or not in your part of the site.'
        : mayNow(access, NEEDS[bulk.do], { place }).allowed
          ? null
          : 'It is not yours to change in this way.';
    if (goes) row('Goes with the page above it', false);
    else if (no) row(no, true);
    else {
      try {
        const done = await tx.transaction((inner) => doOne(inner, access, id, bulk, known));
        row(done.words, false, done.notes);
        back.push(done.back);
        gone.add(id);
      } catch (error) {
        if (!(error instanceof Problem)) throw error;
        row(error.detail, true);
      }
    }
    progress(i + 1);
  }
  const done = rows.filter((row) => !row.refused).length;
  if (done > 0)
    await record(tx, access, 'changed many pages', `${done} ${done === 1 ? 'page' : 'pages'}`, {
      href: '/room/pages',
      detail: rows.find((row) => !row.refused)?.words ?? '',
    });
  return { rows, back };
}

/** What would become of each page: the very same, rolled back. Changes nothing. */
export const tryWithMany = async (
  tx: Tx,
  access: Access,
  ids: readonly number[],
  bulk: Bulk,
): Promise<{ rows: BulkRow[] }> => ({
  rows: (await tryOut(tx, (inner) => doWithMany(inner, access, ids, bulk, undefined, true))).rows,
});
