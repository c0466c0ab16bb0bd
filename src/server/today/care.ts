import { byName } from '@/core/words';
import { and, eq, isNotNull, isNull } from 'drizzle-orm';
import { CHECKS, type CheckId } from '@/core/content';
import type { Tx } from '../db/client';
import { items, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { mayOn } from '../gate/authorize';
import { contentOf } from '../items/items';
import { checkContent } from '../items/publishing';
import { findBroken } from '../items/references';
import { getLivePlan } from '../plan/plans';
import type { PageFacts } from '../tree/tree';
import { inventoryOf } from '@/office';

/** A live page on which something is not right. */
export interface CareEntry {
  id: string;
  title: string;
  /** What is not right, by the names of the checks, the worst first. */
  found: string[];
}

/** From worst to least: what stops visitors, what keeps some of them out, what only looks careless. */
const GRAVITY: readonly CheckId[] = ['links', 'required', 'descriptions', 'sample', 'empty', 'headings', 'sentences'];
const rank = (id: string) => GRAVITY.findIndex((one) => one === id);

/**
 * Live pages somebody may change on which checks found something when they were published, or a link is broken by now;
 * worst first. Two questions.
 */
export async function listCare(
  tx: Tx,
  access: Access,
  pages: readonly PageFacts[],
  { branch }: { branch?: string | undefined },
): Promise<CareEntry[]> {
  const mayEdit = mayOn(access, 'page.edit');
  const broken = await findBroken(tx, access.site.id, pages);
  return (
    pages
      // Of most nothing is found: whether they may be changed need not be asked.
      .filter(({ id, live, findings }) => live && (findings.length > 0 || broken.has(Number(id))))
      .filter(({ place }) => (!branch || place.path.includes(branch)) && mayEdit(place))
      .flatMap(({ id, title, findings }) => {
        // What links lead to changes: whether one is broken is asked now, not when it was published.
        const found = [
          ...(broken.has(Number(id)) ? ['links'] : []),
          ...findings.filter((check) => check !== 'links').sort((a, b) => rank(a) - rank(b)),
        ];
        return found.length === 0 ? [] : [{ id, title, worst: rank(found[0] ?? ''), found }];
      })
      .sort(
        (a, b) =>
          a.worst - b.worst || b.found.length - a.found.length || byName(a.title, b.title, access.calendar.language),
      )
      .map(({ id, title, found }) => ({
        id,
        title,
        found: found.map((check) => CHECKS.find((one) => one.id === check)?.name ?? check),
      }))
  );
}

const MOST_AT_ONCE = 100;
let isLooking = false;
/** Looks at live pages that were published before findings were written down, a few at a time, until there are none. */
export async function settleFindings(tx: Tx): Promise<void> {
  if (isLooking) return;
  isLooking = true;
  try {
    const rows = await tx
      .select({ item: items, site: sites })
      .from(items)
      .innerJoin(sites, eq(sites.id, items.siteId))
      .where(and(isNull(items.findings), isNotNull(items.liveRevisionId), isNull(items.deletedAt)))
      .limit(MOST_AT_ONCE);
    for (const { item, site } of rows) {
      const content = await contentOf(tx, item.liveRevisionId);
      const found = content
        ? await checkContent(
            tx,
            { site, inventory: inventoryOf(site), plan: await getLivePlan(tx, site) },
            item.id,
            content,
          )
        : [];
      await tx
        .update(items)
        .set({ findings: [...new Set(found.map(({ check }) => check))] })
        .where(and(eq(items.id, item.id), isNull(items.findings)));
    }
    // Whatever is published from here on is looked at then.
    if (rows.length === MOST_AT_ONCE) isLooking = false;
  } catch (error) {
    isLooking = false;
    throw error;
  }
}
