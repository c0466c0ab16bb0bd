import { and, isNull, lte, asc, eq } from 'drizzle-orm';
import { textOf } from '@/core/content';
import { policyOf } from '@/core/plan';
import { sayTime } from '@/core/words';
import { record } from '../activity/activity';
import { siteCalendar } from '../calendar';
import { now } from '../clock';
import { type Tx, isDatabaseAway } from '../db/client';
import { schedules, sites, items, revisions } from '../db/schema';
import type { Access } from '../gate/access';
import { mayNow } from '../gate/authorize';
import { Problem } from '../gate/problems';
import { findPolicyPerson } from '../people/people';
import { getLivePlan } from '../plan/plans';
import { findPlace } from '../tree/tree';
import { findBranch, findForbiddenBelow } from './branches';
import type { ItemRow } from './forms';
import { hrefOf, needOf, hrefFor } from './items';
import { type Actor, putOnline, takeDown, titleOf } from './publishing';
import { inventoryOf } from '@/office';

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
  const inventory = inventoryOf(site);
  const actor: Actor = { site, inventory, signedInId: entry.madeBy ?? 0, plan: await getLivePlan(tx, site) };
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
      href: hrefOf(inventory, item),
      detail: sayTime(entry.dueAt, siteCalendar(site), now()),
    });
  } else {
    const branch = await findBranch(tx, site.id, entry.itemId);
    await takeDown(
      tx,
      branch.map((page) => page.id),
    );
    await record(tx, actor, 'taken down, as planned', await titleOf(tx, entry.itemId), {
      href: hrefOf(inventory, item),
    });
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
    policy: policyOf(actor.inventory, actor.plan, [maker]),
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
      { href: await hrefFor(tx, inventoryOf(site), entry.itemId), detail: failed },
    );
}
