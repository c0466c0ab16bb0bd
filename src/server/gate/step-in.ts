import { eq } from 'drizzle-orm';
import { sampleOf } from '@/core/access';
import { policyOf } from '@/core/plan';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { sessions } from '../db/schema';
import { findPolicyPerson } from '../people/people';
import { getPreparedPlan } from '../plan/plans';
import { findBeyondTrial, type Access } from './access';
import { beyondInWords } from './bounds';
import { notFound, Problem } from './problems';

interface Asked {
  role: string;
  person?: string | undefined;
}

/**
 * The access of a room as its editor has it by the prepared plan. Refuses one in which more may be done than whoever
 * asks may do themselves.
 */
export async function mustFindTrial(tx: Tx, access: Access, asked: Asked): Promise<Access> {
  const { plan } = await getPreparedPlan(tx, access.site.id);
  const role = plan.roles.find((r) => r.id === asked.role);
  if (!role) throw notFound('This role');
  const person = asked.person ? await findPolicyPerson(tx, Number(asked.person)) : undefined;
  if (asked.person) {
    if (!person) throw notFound('This person');
    if (!person.assignments.some((a) => a.role === asked.role))
      throw new Problem('role-not-held', { person: person.name, role: role.name });
  }
  const beyond = await findBeyondTrial(tx, access.inventory, access.site.id, {
    live: access.plan,
    prepared: plan,
    me: access.who,
    target: person ?? sampleOf(role.id),
  });
  if (beyond) throw new Problem('room-beyond', { what: await beyondInWords(tx, access, beyond) });
  const who = person ?? sampleOf(role.id);
  return { ...access, who, trial: { back: '/workshop' }, plan, policy: policyOf(access.inventory, plan, [who]) };
}

/** Lets whoever prepares rooms see one as its editor does. Runs in a transaction. */
export async function stepIn(tx: Tx, access: Access, asked: Asked & { from: string }): Promise<{ to: string }> {
  const { plan } = await mustFindTrial(tx, access, asked);
  const name = plan.roles.find((role) => role.id === asked.role)?.name ?? asked.role;
  await tx
    .update(sessions)
    .set({
      stepInAs: asked.person ? Number(asked.person) : null,
      stepInRole: asked.person ? null : asked.role,
      stepInFrom: asked.from,
    })
    .where(eq(sessions.tokenHash, access.tokenHash));
  await record(tx, access, 'stepped in', name, { href: asked.from });
  return { to: '/room' };
}

/** Ends the trial; the keyholder is back where they came from. Runs in a transaction. */
export async function stepOut(tx: Tx, access: Access): Promise<{ to: string }> {
  await tx
    .update(sessions)
    .set({ stepInAs: null, stepInRole: null, stepInFrom: null })
    .where(eq(sessions.tokenHash, access.tokenHash));
  return { to: access.trial?.back ?? '/workshop' };
}
