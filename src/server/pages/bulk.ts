import { sql } from 'drizzle-orm';
import { among } from '../db/among';
import type { Audience } from '@/core/access';
import { canonical } from '@/core/json';
import { audienceSchema, type Bulk, type BulkRow, type RetirePreview, type StepBack } from '@/core/wire';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { items } from '../db/schema';
import { tryOut } from '../db/tryOut';
import type { Access } from '../gate/access';
import { authorize, mayNow, mayOn } from '../gate/authorize';
import { notFound, Problem } from '../gate/problems';
import { adjust } from './adjust';
import { setAudience } from './audience';
import { findAddresses } from '../tree/addresses';
import { findLinks } from '../items/references';
import { mustLeave } from '../items/allowed';
import { lockItems } from '../items/items';
import { titleOf } from '../items/publishing';
import { mustBeDone, sortOut, type Refused } from '../items/together';
import { previewRetiring, putBack, takeItemsDown, type SiteLinks } from './retire';
import { bringBack, deleteItems } from './deleted';
import { movePage } from './move';
import { findAllPlaced, listPages } from '../tree/tree';
import { shownInWords, notesOfRetiring, notesOfMove } from './bulkWords';

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

async function showInNavigation(tx: Tx, access: Access, ids: readonly number[], shown: boolean): Promise<Refused> {
  const found = await lockItems(tx, access.site.id, ids);
  const places = await findAllPlaced(tx, access.site.id, ids);
  const { can, refused } = sortOut(ids, (id) => {
    const page = found.get(id);
    const placed = places.get(id);
    if (page?.type !== 'page' || !placed) throw notFound('The page');
    mustLeave(access, placed.place, 'page.inNavigation');
    if (page.inNavigation === shown) throw new Problem(shown ? 'shown-already' : 'left-out-already');
    return page;
  });
  await adjust(tx, access, [...can.values()], { inNavigation: shown }, shownInWords(shown));
  return refused;
}

interface Done {
  words: string;
  notes: string[];
  back: StepBack;
}

/**
 * Does it with some pages, none of which lies below another, and says what became of each, and what takes it back; a
 * Problem says why not. With `tell` also what comes with it.
 */
async function doTogether(
  tx: Tx,
  access: Access,
  ids: readonly number[],
  bulk: Bulk,
  tell: SiteLinks | null,
): Promise<ReadonlyMap<number, Done | Problem>> {
  const outcome = (refused: Refused, done: (id: number) => Done) =>
    new Map(ids.map((id) => [id, refused.get(id) ?? done(id)]));
  switch (bulk.do) {
    case 'navigation':
      return outcome(await showInNavigation(tx, access, ids, bulk.shown), (page) => ({
        words: shownInWords(bulk.shown),
        notes: [],
        back: { do: 'navigation', page, shown: !bulk.shown },
      }));
    case 'audience': {
      const before = await lockItems(tx, access.site.id, ids);
      const audience = bulk.audience === 'as-above' ? null : ({ kind: bulk.audience } satisfies Audience);
      return outcome(await setAudience(tx, access, ids, audience), (page) => ({
        words: AUDIENCE[bulk.audience],
        notes: [],
        back: { do: 'audience', page, audience: audienceSchema.nullable().parse(before.get(page)?.audience ?? null) },
      }));
    }
    case 'take-down':
    case 'delete': {
      const goesWith = tell ? await previewRetiring(tx, access, ids, tell) : new Map<number, RetirePreview>();
      const isTaken = bulk.do === 'take-down';
      const { refused } = await (isTaken ? takeItemsDown : deleteItems)(tx, access, ids);
      return outcome(refused, (page) => {
        const told = goesWith.get(page);
        return {
          words: isTaken ? 'Taken down' : 'Deleted',
          notes: told ? notesOfRetiring(told) : [],
          back: { do: isTaken ? 'put-back' : 'bring-back', page },
        };
      });
    }
    case 'move': {
      const below = `Below ${await titleOf(tx, bulk.parent)}`;
      const outcomes = new Map<number, Done | Problem>();
      for (const page of ids) {
        const move = { page, parent: bulk.parent, index: 100_000 };
        try {
          // One after another, since each changes what the next one meets; what fails leaves the others alone.
          const done = await tx.transaction(async (inner): Promise<Done> => {
            const notes = tell ? await notesOfMove(inner, access, move, tell) : [];
            const { back } = await movePage(inner, access, { ...move, redirect: bulk.redirect });
            return { words: below, notes, back: { do: 'move', ...back } };
          });
          outcomes.set(page, done);
        } catch (error) {
          if (!(error instanceof Problem)) throw error;
          outcomes.set(page, error);
        }
      }
      return outcomes;
    }
  }
}

/** Steps in their order, those after one another that are the same but for the page together, as many as go at once. */
function alike(steps: readonly StepBack[]): StepBack[][] {
  const runs: StepBack[][] = [];
  const what = (step: StepBack) => canonical({ ...step, page: 0 });
  for (const step of steps) {
    const last = runs.at(-1);
    const [first] = last ?? [];
    const goes = first && step.do !== 'move' && what(first) === what(step);
    const isTwice = last?.some(({ page }) => page === step.page);
    if (last && goes && !isTwice && last.length < TOGETHER) last.push(step);
    else runs.push([step]);
  }
  return runs;
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
  let done = 0;
  for (const run of alike(steps.toReversed())) {
    const [step] = run;
    if (!step) continue;
    const ids = run.map(({ page }) => page);
    const places = await findAllPlaced(tx, access.site.id, ids, step.do === 'bring-back');
    for (const id of ids) await authorize(tx, access, NEEDS[step.do], { place: places.get(id)?.place });
    switch (step.do) {
      case 'navigation':
        mustBeDone(await showInNavigation(tx, access, ids, step.shown));
        break;
      case 'audience':
        mustBeDone(await setAudience(tx, access, ids, step.audience));
        break;
      case 'move':
        await movePage(tx, access, { page: step.page, parent: step.parent, index: step.index, redirect: false });
        break;
      case 'put-back':
        await putBack(tx, access, ids);
        break;
      case 'bring-back':
        await bringBack(tx, access, ids);
        break;
    }
    done += run.length;
    progress(done);
  }
  return { pages: steps.length };
}

/** How many are done together: between them is told how far it is. */
const TOGETHER = 50;

/**
 * The pages in lots of which none lies below another of the same lot, the highest first: where a whole branch goes,
 * what lies below has gone already.
 */
async function inLots(tx: Tx, ids: readonly number[]): Promise<{ id: number; above: number[] }[][]> {
  const rows = await tx
    .select({ id: items.id, path: sql<string>`${items.path}::text` })
    .from(items)
    .where(among(items.id, ids));
  const above = new Map(rows.map((row) => [row.id, row.path.split('.').slice(0, -1).map(Number)]));
  const levels: { id: number; above: number[] }[][] = [];
  for (const id of new Set(ids)) {
    const page = { id, above: above.get(id) ?? [] };
    (levels[page.above.length] ??= []).push(page);
  }
  // Levels without a page are holes, which flatMap passes over.
  return levels.flatMap((level) =>
    Array.from({ length: Math.ceil(level.length / TOGETHER) }, (_, i) => level.slice(i * TOGETHER, (i + 1) * TOGETHER)),
  );
}

/**
 * Does the same with many pages, in one transaction: what cannot be done with one of them is told and leaves the rest
 * alone. `progress` is called after each lot; with `tell` it is also said what comes with each. Gives what takes it
 * back. Runs in a transaction.
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
      ? {
          addresses: await findAddresses(tx, access.site.id),
          links: await findLinks(tx, access.inventory, access.site.id),
        }
      : null;
  for (const lot of await inLots(tx, ids)) {
    /** Why nothing is tried with a page; null where it is. */
    const without = ({ id, above }: { id: number; above: number[] }): { words: string; refused: boolean } | null => {
      if (whole && above.some((other) => gone.has(other)))
        return { words: 'Goes with the page above it', refused: false };
      const place = facts.get(id)?.place;
      if (!place || !mayView(place))
        return { words: 'It is not there, or not in your part of the site.', refused: true };
      return mayNow(access, NEEDS[bulk.do], { place }).allowed
        ? null
        : { words: 'It is not yours to change in this way.', refused: true };
    };
    const untried = new Map(lot.map((page) => [page.id, without(page)]));
    const tried = lot.flatMap(({ id }) => (untried.get(id) ? [] : [id]));
    const outcomes = await doTogether(tx, access, tried, bulk, known);
    for (const { id } of lot) {
      const page = facts.get(id);
      const outcome = outcomes.get(id);
      const isSeen = page !== undefined && mayView(page.place);
      const row = { id: String(id), title: isSeen ? (page.shortName ?? page.title) : 'A page you do not see' };
      if (outcome instanceof Problem) rows.push({ ...row, words: outcome.detail, notes: [], refused: true });
      else if (outcome) {
        rows.push({ ...row, words: outcome.words, notes: outcome.notes, refused: false });
        back.push(outcome.back);
        gone.add(id);
      } else rows.push({ ...row, notes: [], ...(untried.get(id) ?? { words: '', refused: true }) });
    }
    progress(rows.length);
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
