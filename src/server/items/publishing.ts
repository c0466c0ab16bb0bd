import { and, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { among } from '../db/among';
import { checkPage, hrefsIn, ownPath, type Finding, type PageContent } from '@/core/content';
import { publishingOf, type Plan } from '@/core/plan';
import type { JudgedFinding } from '@/core/wire';
import { record } from '../activity/activity';
import { now } from '../clock';
import { type Tx } from '../db/client';
import { drafts, items, publications, reviews, revisions, schedules } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem, problemAt } from '../gate/problems';
import { instantOf } from '../typedHour';
import { findPictures } from '../pictures/pictures';
import { formOf, layoutOf, picturesOf, type ItemRow } from './forms';
import { mustFindItem, hrefFor } from './items';
import { beginDraft } from './begin';
import { withAddresses } from './links';
import { answers } from './references';
import { applySettings } from '../tree/addresses';
import { type PageFacts } from '../tree/tree';

/** Who does something: a person, or Safe Room itself when its time has come. */
export type Actor = Pick<Access, 'site' | 'inventory'> & { signedInId: number; plan: Plan };

type Judged = Finding & JudgedFinding;

/**
 * What may be wrong with contents, as the site wants it judged, one after another. A page that `sees` says no to is not
 * there: nobody learns of it by linking to it.
 */
async function checkContents(
  tx: Tx,
  actor: Pick<Actor, 'site' | 'inventory' | 'plan'>,
  given: readonly { item: ItemRow; content: PageContent }[],
  sees?: (page: PageFacts) => boolean,
): Promise<Judged[][]> {
  const contents = given.map(({ content }) => content);
  const addressed = await withAddresses(tx, actor.site.id, contents);
  const pictures = await findPictures(
    tx,
    actor.site.id,
    given.flatMap(({ item, content }) => picturesOf(formOf(actor.inventory, item), content).map(({ id }) => id)),
  );
  // What is named is there; other addresses are looked for, and all of them where not everything may be known.
  const isThere =
    sees || hrefsIn(contents).some((href) => ownPath(href) !== undefined)
      ? await answers(tx, actor.site.id, sees ?? (() => true))
      : () => true;
  const { checks } = publishingOf(actor.plan);
  return given.map(({ item }, i) => {
    const content = addressed[i] ?? {};
    const found = checkPage(layoutOf(actor.inventory, content, item), content, {
      isThere,
      describe: (id) => pictures.get(id)?.description,
    });
    return found.flatMap((finding): Judged[] => {
      const rule = checks[finding.check];
      return rule === 'off' ? [] : [{ ...finding, rule }];
    });
  });
}

/** The same of one content. */
export async function checkContent(
  tx: Tx,
  actor: Pick<Actor, 'site' | 'inventory' | 'plan'>,
  itemId: number,
  content: PageContent,
  sees?: (page: PageFacts) => boolean,
): Promise<Judged[]> {
  const item = await mustFindItem(tx, actor.site.id, itemId);
  return (await checkContents(tx, actor, [{ item, content }], sees)).flat();
}

/** Refuses what the site does not let through. */
function mustLetThrough(found: readonly Judged[]): void {
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
    if (formOf(actor.inventory, item).type.settings.length > 0)
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
    await beginDraft(tx, actor.inventory, await mustFindItem(tx, actor.site.id, itemId), {
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
    { href: await hrefFor(tx, actor.inventory, itemId) },
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
    .where(and(among(items.id, itemIds), isNotNull(items.liveRevisionId)));
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
    .where(among(items.id, itemIds));
  return new Map(rows.map((row) => [row.id, row.title]));
}

export const titleOf = async (tx: Tx, itemId: number): Promise<string> =>
  (await titlesOf(tx, [itemId])).get(itemId) ?? 'Untitled';
