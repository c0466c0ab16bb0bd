import { and, asc, eq, inArray, isNotNull, isNull, lte, sql } from 'drizzle-orm';
import { checkPage, hrefsIn, ownPath, textOf, type PageContent } from '@/core/content';
import { policyOf, publishingOf, type Plan } from '@/core/plan';
import type { JudgedFinding } from '@/core/wire';
import { sayTime } from '@/core/words';
import { inventory } from '@/office';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import { isDatabaseAway, type Tx } from '../db/client';
import { drafts, media, items, publications, reviews, revisions, schedules, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { Problem, problemAt } from '../gate/problems';
import { instantOf } from '../typedHour';
import { findPolicyPerson } from '../people/people';
import { getLivePlan } from '../plan/plans';
import { formOf, layoutOf, type ItemRow } from './forms';
import { mustFindItem, hrefFor, hrefOf, needOf } from './items';
import { beginDraft } from './begin';
import { findBranch, findForbiddenBelow } from './branches';
import { withAddresses } from './links';
import { answers } from './references';
import { applySettings } from '../tree/addresses';
import { findPlace, type PageFacts } from '../tree/tree';

/** Who does something: a person, or Safe Room itself when its time has come. */
export type Actor = Pick<Access, 'site'> & { signedInId: number; plan: Plan };

/**
 * What may be wrong with contents, as the site wants it judged, one after another. A page that `sees` says no to is not
 * there: nobody learns of it by linking to it.
 */
async function checkContents(
  tx: Tx,
  actor: Pick<Actor, 'site' | 'plan'>,
  given: readonly { item: ItemRow; content: PageContent }[],
  sees?: (page: PageFacts) => boolean,
): Promise<JudgedFinding[][]> {
  const contents = given.map(({ content }) => content);
  const addressed = await withAddresses(tx, actor.site.id, contents);
  const described = new Map(
    (
      await tx
        .select({ id: media.id, description: media.description })
        .from(media)
        .where(eq(media.siteId, actor.site.id))
    ).map((row) => [String(row.id), row.description]),
  );
  // What is named is there; other addresses are looked for, and all of them where not everything may be known.
  const isThere =
    sees || hrefsIn(contents).some((href) => ownPath(href) !== undefined)
      ? await answers(tx, actor.site.id, sees ?? (() => true))
      : () => true;
  const { checks } = publishingOf(actor.plan);
  return given.map(({ item }, i) => {
    const content = addressed[i] ?? {};
    const found = checkPage(layoutOf(content, item), content, { isThere, describe: (id) => described.get(id) });
    return found.flatMap((finding): JudgedFinding[] => {
      const rule = checks[finding.check];
      return rule === 'off' ? [] : [{ ...finding, rule }];
    });
  });
}

/** The same of one content. */
export async function checkContent(
  tx: Tx,
  actor: Pick<Actor, 'site' | 'plan'>,
  itemId: number,
  content: PageContent,
  sees?: (page: PageFacts) => boolean,
): Promise<JudgedFinding[]> {
  const item = await mustFindItem(tx, actor.site.id, itemId);
  return (await checkContents(tx, actor, [{ item, content }], sees)).flat();
}

/** Refuses what the site does not let through. */
function mustLetThrough(found: readonly JudgedFinding[]): void {
  const stops = found.filter((finding) => finding.rule === 'block');
  if (stops.length > 0)
    throw new Problem('checks-stop', { findings: stops.map((stop) => stop.message).join(' ') }, { findings: stops });
}

export const mustPass = async (tx: Tx, actor: Actor, itemId: number, content: PageContent): Promise<void> =>
  mustLetThrough(await checkContent(tx, actor, itemId, content));

/** A version of an item that visitors shall see. */
interface Coming {
  item: ItemRow;
  revisionId: number;
  content: PageContent;
}

/**
 * Puts versions on the website, with what they say of their pages' settings; `isFree` as in `applySettings`. The items
 * are locked. Runs in a transaction.
 */
export async function putAllOnline(
  tx: Tx,
  actor: Actor,
  coming: readonly Coming[],
  { at, isFree }: { at?: Date; isFree?: boolean } = {},
): Promise<void> {
  if (coming.length === 0) return;
  const found = await checkContents(tx, actor, coming);
  found.forEach(mustLetThrough);
  for (const [i, { item, revisionId, content }] of coming.entries()) {
    if (formOf(item).type.settings.length > 0)
      await applySettings(tx, actor.site.id, item, content, actor.signedInId, isFree);
    const findings = [...new Set(found[i]?.map(({ check }) => check))];
    await tx
      .update(items)
      .set({ liveRevisionId: revisionId, downRevisionId: null, downAt: null, findings })
      .where(eq(items.id, item.id));
  }
  await tx
    .insert(publications)
    .values(
      coming.map(({ item, revisionId }) => ({
        siteId: actor.site.id,
        itemId: item.id,
        revisionId,
        publishedBy: actor.signedInId,
        ...(at && { publishedAt: at }),
      })),
    );
}

/** The same with one item. */
export async function putOnline(
  tx: Tx,
  actor: Actor,
  itemId: number,
  revisionId: number,
  content: PageContent,
  at?: Date,
): Promise<void> {
  const item = await mustFindItem(tx, actor.site.id, itemId, true);
  await putAllOnline(tx, actor, [{ item, revisionId, content }], at && { at });
}

/** What waits is answered by something newer. Runs in a transaction. */
export const replaceWaiting = (tx: Tx, itemId: number, by: number) =>
  tx
    .update(reviews)
    .set({ outcome: 'replaced', decidedAt: now(), decidedBy: by })
    .where(and(eq(reviews.itemId, itemId), isNull(reviews.outcome)));

/** An hour as typed on the site's clock, which must lie ahead. */
export function comingInstant(actor: Pick<Actor, 'site'>, local: string): Date {
  const instant = instantOf(local, actor.site.timeZone, 'at');
  if (instant <= now()) throw problemAt('at', 'hour-past');
  return instant;
}

/**
 * Plans what shall happen to a page by itself; what was planned before of the same kind is replaced. Runs in a
 * transaction.
 */
export async function scheduleFor(
  tx: Tx,
  actor: Actor,
  itemId: number,
  given: { what: 'publish' | 'take-down'; dueAt: Date; revisionId?: number },
): Promise<void> {
  await tx.delete(schedules).where(openPlan(itemId, given.what));
  await tx
    .insert(schedules)
    .values({
      siteId: actor.site.id,
      itemId,
      what: given.what,
      dueAt: given.dueAt,
      revisionId: given.revisionId ?? null,
      madeBy: actor.signedInId,
    });
}
const openPlan = (itemId: number, what: 'publish' | 'take-down') =>
  and(eq(schedules.itemId, itemId), eq(schedules.what, what), isNull(schedules.doneAt));

/**
 * Calls off what was planned. What was to be published becomes a draft again, unless there is a newer one. Runs in a
 * transaction.
 */
export async function callOff(tx: Tx, actor: Actor, itemId: number, what: 'publish' | 'take-down'): Promise<void> {
  const [gone] = await tx.delete(schedules).where(openPlan(itemId, what)).returning({ revision: schedules.revisionId });
  if (!gone) throw new Problem('nothing-planned');
  const [revision] =
    gone.revision === null ? [] : await tx.select().from(revisions).where(eq(revisions.id, gone.revision));
  // A newer draft stays as it is; whoever wrote what was planned is known by its revision.
  if (revision)
    await beginDraft(tx, await mustFindItem(tx, actor.site.id, itemId), {
      content: revision.content,
      by: revision.madeBy,
      updatedBy: actor.signedInId,
      writers: revision.writers,
    });
  await record(
    tx,
    actor,
    what === 'publish' ? 'called off publishing' : 'called off taking down',
    await titleOf(tx, itemId),
    { href: await hrefFor(tx, itemId) },
  );
}

/**
 * Takes pages off the website; what they said is kept, and stands there again when they are put back. Runs in a
 * transaction.
 */
export async function takeDown(tx: Tx, itemIds: readonly number[]): Promise<void> {
  await tx
    .update(items)
    .set({ downRevisionId: sql`${items.liveRevisionId}`, downAt: now(), liveRevisionId: null })
    .where(and(inArray(items.id, [...itemIds]), isNotNull(items.liveRevisionId)));
}

let lookedAt = 0;
const LOOK_EVERY_MS = 5000;

/**
 * Does what has come due. Asked before every answer of the website and the back office, so that nobody ever sees a page
 * later than its time; several processes share the work by row locks. Each thing is a transaction of its own, and one
 * that fails is told on the page and in the activity instead of being tried for ever.
 */
export async function settleDue(tx: Tx, force = false): Promise<number> {
  const at = now();
  if (!force && at.getTime() - lookedAt < LOOK_EVERY_MS) return 0;
  lookedAt = at.getTime();
  const due = await tx
    .select({ id: schedules.id })
    .from(schedules)
    .where(and(isNull(schedules.doneAt), lte(schedules.dueAt, at)))
    .orderBy(asc(schedules.dueAt), asc(schedules.id));
  let done = 0;
  for (const { id } of due) {
    try {
      if (await tx.transaction((inner) => settleOne(inner, id))) done++;
    } catch (error) {
      // A database that is away is no reason: it is tried again with the next answer.
      if (isDatabaseAway(error)) throw error;
      const failed = error instanceof Problem ? error.detail : 'Something went wrong.';
      await tx.transaction((inner) => giveUp(inner, id, failed));
    }
  }
  return done;
}

async function settleOne(tx: Tx, id: number): Promise<boolean> {
  const [entry] = await tx
    .select()
    .from(schedules)
    .where(and(eq(schedules.id, id), isNull(schedules.doneAt)))
    .for('update', { skipLocked: true });
  if (!entry) return false;
  const [site] = await tx.select().from(sites).where(eq(sites.id, entry.siteId));
  if (!site) return false;
  const actor: Actor = { site, signedInId: entry.madeBy ?? 0, plan: await getLivePlan(tx, site) };
  const [item] = await tx.select().from(items).where(eq(items.id, entry.itemId));
  if (!item || item.deletedAt) throw new Problem('deleted-before');
  await mustStillMay(tx, actor, entry, item);
  if (entry.what === 'publish') {
    const [revision] = await tx
      .select()
      .from(revisions)
      .where(eq(revisions.id, entry.revisionId ?? 0));
    if (!revision) throw new Problem('version-gone');
    await putOnline(tx, actor, entry.itemId, revision.id, revision.content, entry.dueAt);
    await record(tx, actor, 'published, as planned', textOf(revision.content, 'title'), {
      href: hrefOf(item),
      detail: sayTime(entry.dueAt, siteCalendar(site), now()),
    });
  } else {
    const branch = await findBranch(tx, site.id, entry.itemId);
    await takeDown(
      tx,
      branch.map((page) => page.id),
    );
    await record(tx, actor, 'taken down, as planned', await titleOf(tx, entry.itemId), { href: hrefOf(item) });
  }
  await tx.update(schedules).set({ doneAt: now() }).where(eq(schedules.id, id));
  return true;
}

/** What is planned is done in the name of whoever planned it, so they must be able to do it when its time comes. */
async function mustStillMay(tx: Tx, actor: Actor, entry: typeof schedules.$inferSelect, item: ItemRow): Promise<void> {
  const maker = entry.madeBy === null ? undefined : await findPolicyPerson(tx, entry.madeBy);
  if (!maker) throw new Problem('planner-gone');
  if (maker.suspended) throw new Problem('planner-paused', { person: maker.name });
  const access: Access = {
    ...actor,
    tokenHash: '',
    who: maker,
    trial: null,
    policy: policyOf(inventory, actor.plan, [maker]),
    calendar: siteCalendar(actor.site),
  };
  const place = await findPlace(tx, actor.site.id, entry.itemId);
  const may = (permission: string) => mayNow(access, permission, { place }).allowed;
  if (entry.what === 'publish') {
    if (!may(needOf(item, 'publish')) && !may('review.decide'))
      throw new Problem('planner-may-not-publish', { person: maker.name });
  } else if (
    !may(needOf(item, 'retire')) ||
    (await findForbiddenBelow(tx, access, 'page.retire', [entry.itemId])).size > 0
  )
    throw new Problem('planner-may-not-retire', { person: maker.name });
}

/** Ends a plan that cannot be done, and says so where somebody will look. */
async function giveUp(tx: Tx, id: number, failed: string): Promise<void> {
  const [entry] = await tx
    .update(schedules)
    .set({ doneAt: now(), failed })
    .where(and(eq(schedules.id, id), isNull(schedules.doneAt)))
    .returning();
  const [site] = entry ? await tx.select().from(sites).where(eq(sites.id, entry.siteId)) : [];
  if (entry && site && entry.madeBy !== null)
    await record(
      tx,
      { site, signedInId: entry.madeBy },
      entry.what === 'publish'
        ? 'planned to publish, and it could not be done'
        : 'planned to take down, and it could not be done',
      await titleOf(tx, entry.itemId),
      { href: await hrefFor(tx, entry.itemId), detail: failed },
    );
}

/** What items are called in the back office, by their numbers. */
export async function titlesOf(tx: Tx, itemIds: readonly number[]): Promise<ReadonlyMap<number, string>> {
  const rows = await tx
    .select({
      id: items.id,
      title: sql<string>`coalesce(${items.shortName}, ${drafts.content}->>'title', ${revisions.content}->>'title', 'Untitled')`,
    })
    .from(items)
    .leftJoin(revisions, eq(revisions.id, sql`coalesce(${items.liveRevisionId}, ${items.downRevisionId})`))
    .leftJoin(drafts, eq(drafts.itemId, items.id))
    .where(inArray(items.id, [...itemIds]));
  return new Map(rows.map((row) => [row.id, row.title]));
}

export const titleOf = async (tx: Tx, itemId: number): Promise<string> =>
  (await titlesOf(tx, [itemId])).get(itemId) ?? 'Untitled';
