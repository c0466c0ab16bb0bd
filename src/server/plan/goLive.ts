import { and, desc, eq } from 'drizzle-orm';
import { growsBetween, patchOf, planSchema, releaseBeyond, samePlan, withRolesOf, type Plan } from '@/core/plan';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { planSteps, releases, sites } from '../db/schema';
import type { Access } from '../gate/access';
import { beyondInWords } from '../gate/bounds';
import { loadGround } from '../gate/ground';
import { Problem } from '../gate/problems';
import { endLinks } from '../gate/set-up';
import { listPeople } from '../people/people';
import { readRelease } from './plans';

import { getLiveNow, lockPlanAt, refuseHeld, refuseLockOut, storePlan } from './prepared';

async function addRelease(
  tx: Tx,
  access: Pick<Access, 'site' | 'signedInId'>,
  plan: Plan,
  more: { note: string; returnsTo?: number },
): Promise<number> {
  const [last] = await tx
    .select({ number: releases.number })
    .from(releases)
    .where(eq(releases.siteId, access.site.id))
    .orderBy(desc(releases.number))
    .limit(1);
  const number = (last?.number ?? 0) + 1;
  const [release] = await tx
    .insert(releases)
    .values({
      siteId: access.site.id,
      number,
      plan,
      madeBy: access.signedInId,
      note: more.note,
      returnsTo: more.returnsTo ?? null,
    })
    .returning({ id: releases.id });
  await tx
    .update(sites)
    .set({ liveReleaseId: release?.id ?? null })
    .where(eq(sites.id, access.site.id));
  return number;
}

/**
 * Refuses a plan that somebody's hands are not clean for: who holds what it takes away, a time without anybody to look
 * after the website, more for anybody than whoever does this has.
 */
async function refuseRelease(tx: Tx, access: Access, before: Plan, after: Plan): Promise<void> {
  const everybody = await listPeople(tx, access.site.id);
  refuseHeld(after, everybody);
  refuseLockOut(access, before, after, everybody);
  const ground = await loadGround(tx, access.inventory, access.site.id);
  const gain = releaseBeyond(ground, before, after, everybody, access.who);
  if (gain)
    throw new Problem('release-gives-more', {
      person: gain.person.name,
      what: await beyondInWords(tx, { ...access, plan: after }, gain.beyond),
    });
  // A link not used yet was made for somebody who could do less.
  await endLinks(
    tx,
    everybody
      .filter((person) => growsBetween(ground, { plan: before, person }, { plan: after, person }))
      .map((person) => Number(person.id)),
  );
}

/**
 * The plan there would be if what is prepared of some roles went live; everything that is prepared where none are
 * named.
 */
export function planToBe(live: Plan, prepared: Plan, roles: readonly (string | null)[] | null): Plan {
  if (roles === null) return prepared;
  const checked = planSchema.safeParse(withRolesOf(live, prepared, roles));
  if (!checked.success) throw new Problem('needs-others', { why: checked.error.issues[0]?.message ?? '' });
  return checked.data;
}

/** Makes what is prepared the plan in force, all of it or some roles. Runs in a transaction. */
export async function goLive(
  tx: Tx,
  access: Access,
  revision: number,
  given: { note: string; roles: readonly (string | null)[] | null },
): Promise<{ number: number }> {
  const prepared = await lockPlanAt(tx, access, revision);
  const live = await getLiveNow(tx, access);
  const plan = planToBe(live.plan, prepared, given.roles);
  if (samePlan(access.inventory, plan, live.plan)) throw new Problem('nothing-waits');
  await refuseRelease(tx, access, live.plan, plan);
  const number = await addRelease(tx, access, plan, { note: given.note });
  const part =
    given.roles === null
      ? ''
      : `Only ${given.roles.map((id) => (id === null ? 'what is asked for before publishing' : (plan.roles.find((role) => role.id === id)?.name ?? id))).join(', ')}.`;
  await record(tx, access, 'made a plan go live', `Release ${number}`, {
    href: '/workshop/releases',
    detail: [given.note, part].filter(Boolean).join(' '),
  });
  return { number };
}

/**
 * Puts an earlier release in force again, as a new release; the prepared plan becomes the same, so that the next
 * release does not bring back what was just taken back. What was prepared and not live is put aside by that, and one
 * undo brings it back. Runs in a transaction.
 */
export async function returnToRelease(
  tx: Tx,
  access: Access,
  revision: number,
  to: number,
): Promise<{ number: number }> {
  const prepared = await lockPlanAt(tx, access, revision);
  const [release] = await tx
    .select()
    .from(releases)
    .where(and(eq(releases.siteId, access.site.id), eq(releases.number, to)));
  if (!release) throw new Problem('no-release', { number: to });
  const plan = readRelease(release);
  const live = await getLiveNow(tx, access);
  if (release.id === live.releaseId || samePlan(access.inventory, plan, live.plan))
    throw new Problem('release-in-force', { number: to });
  await refuseRelease(tx, access, live.plan, plan);
  const number = await addRelease(tx, access, plan, { note: `Back to release ${to}`, returnsTo: to });
  await tx.update(planSteps).set({ state: 'gone' }).where(eq(planSteps.siteId, access.site.id));
  if (!samePlan(access.inventory, prepared, live.plan))
    await tx
      .insert(planSteps)
      .values({
        siteId: access.site.id,
        operation: { do: 'replace-plan', plan, why: 'return' },
        before: patchOf(prepared, plan),
        after: patchOf(plan, prepared),
        madeBy: access.signedInId,
      });
  await storePlan(tx, access, prepared, plan);
  await record(tx, access, 'went back', `to release ${to}`, {
    href: '/workshop/releases',
    detail: `It is in force as release ${number}.`,
  });
  return { number };
}
