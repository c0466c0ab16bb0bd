import { and, eq, gt, ne } from 'drizzle-orm';
import type { Preparing } from '@/core/wire';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { inNameOrder } from '../db/order';
import { people, planPresence } from '../db/schema';
import type { Access } from '../gate/access';

const GONE_AFTER_MS = 45_000;

/** Notes which role somebody prepares, and says who else prepares what. Runs in a transaction. */
export async function tellPreparing(tx: Tx, access: Access, role: string | null): Promise<{ others: Preparing[] }> {
  await tx
    .insert(planPresence)
    .values({ siteId: access.site.id, personId: access.signedInId, role, seenAt: now() })
    .onConflictDoUpdate({ target: [planPresence.siteId, planPresence.personId], set: { role, seenAt: now() } });
  const others = await tx
    .select({ name: people.name, role: planPresence.role })
    .from(planPresence)
    .innerJoin(people, eq(people.id, planPresence.personId))
    .where(
      and(
        eq(planPresence.siteId, access.site.id),
        ne(planPresence.personId, access.signedInId),
        gt(planPresence.seenAt, new Date(now().getTime() - GONE_AFTER_MS)),
      ),
    )
    .orderBy(inNameOrder(people.name));
  return { others };
}
