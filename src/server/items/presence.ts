import { and, eq, gt, ne } from 'drizzle-orm';
import type { Present } from '@/core/wire';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { inNameOrder } from '../db/order';
import { drafts, people, presence } from '../db/schema';
import type { Access } from '../gate/access';

/** After this long without a word somebody is taken to have left: three times as long as between two words. */
const GONE_AFTER_MS = 45_000;

/**
 * Notes that somebody has a page open and says who else has it, and which version of its draft there is. A keyholder who
 * tries a room is seen by nobody. Runs in a transaction.
 */
export async function tellPresence(
  tx: Tx,
  access: Access,
  itemId: number,
  given: { typing: boolean; leaving: boolean },
): Promise<{ others: Present[]; version: number }> {
  const me = Number(access.who.id);
  const mine = and(eq(presence.itemId, itemId), eq(presence.personId, me));
  if (given.leaving) await tx.delete(presence).where(mine);
  else if (!access.trial)
    await tx
      .insert(presence)
      .values({ itemId, personId: me, siteId: access.site.id, seenAt: now(), typing: given.typing })
      .onConflictDoUpdate({
        target: [presence.itemId, presence.personId],
        set: { seenAt: now(), typing: given.typing },
      });
  const rows = await tx
    .select({ id: people.id, name: people.name, typing: presence.typing })
    .from(presence)
    .innerJoin(people, eq(people.id, presence.personId))
    .where(
      and(
        eq(presence.itemId, itemId),
        ne(presence.personId, me),
        gt(presence.seenAt, new Date(now().getTime() - GONE_AFTER_MS)),
      ),
    )
    .orderBy(inNameOrder(people.name));
  const [draft] = await tx.select({ version: drafts.version }).from(drafts).where(eq(drafts.itemId, itemId));
  return { others: rows.map((row) => ({ ...row, id: String(row.id) })), version: draft?.version ?? 0 };
}
