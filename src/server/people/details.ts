import { eq } from 'drizzle-orm';
import { assignmentFaults } from '@/core/plan';
import { record } from '../activity/activity';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, sessions } from '../db/schema';
import type { Access } from '../gate/access';
import { loadBounds } from '../gate/bounds';
import { problemAt, Problem } from '../gate/problems';
import { endLinks } from '../gate/set-up';
import { lockPeople, mustFindPerson, assignmentFaultInWords } from './assign';
import { sendMail } from './mails';
import type { Person } from './people';

/** Refuses a mail address that somebody else has, in whatever capitals. */
export function mustBeFree(everybody: readonly Person[], email: string, mine?: Person): void {
  const taken = everybody.find((p) => p !== mine && p.email.toLowerCase() === email.toLowerCase());
  if (taken) throw problemAt('email', 'mail-taken', { person: taken.name });
}

/**
 * Gives somebody another name or mail address, with which they sign in from then on. Both addresses are written to, so
 * that nobody is renamed unawares, and a link not used yet ends, since it may have gone to the old one. Runs in a
 * transaction.
 */
export async function setDetails(
  tx: Tx,
  access: Access,
  personId: number,
  given: { before: { name: string; email: string }; name: string; email: string },
): Promise<void> {
  await lockPeople(tx, access);
  const { person, everybody } = await mustFindPerson(tx, access, personId);
  const bounds = await loadBounds(tx, access);
  if (personId !== access.signedInId) {
    bounds.mustTouch(person);
    await bounds.mustReach(person);
  }
  if (person.name !== given.before.name || person.email !== given.before.email)
    throw new Problem('person-moved', { person: person.name });
  mustBeFree(everybody, given.email, person);
  const moved = person.email !== given.email;
  await tx.update(people).set({ name: given.name, email: given.email }).where(eq(people.id, personId));
  if (moved) {
    await endLinks(tx, [personId]);
    for (const to of [person.email, given.email])
      await sendMail(tx, access.site.id, {
        to,
        subject: `Your mail address at ${access.site.name} was changed`,
        text: `Hello ${given.name},\n\n${access.who.name} changed the mail address you sign in with from ${person.email} to ${given.email}. Your password stays the same. If this is not right, tell them.`,
      });
  }
  await record(tx, access, 'changed a person', given.name, {
    href: '/room/people',
    detail: [
      person.name !== given.name && `Was called ${person.name}.`,
      moved && `${person.email} became ${given.email}.`,
    ]
      .filter(Boolean)
      .join(' '),
  });
}

/** Pauses an account, or lets it work again. A paused one is signed out at once. Runs in a transaction. */
export async function setSuspended(tx: Tx, access: Access, personId: number, suspended: boolean): Promise<void> {
  await lockPeople(tx, access);
  const { person, everybody } = await mustFindPerson(tx, access, personId);
  const bounds = await loadBounds(tx, access);
  bounds.mustTouch(person);
  if (!suspended) await bounds.mustReach(person);
  if (personId === access.signedInId) throw new Problem('pause-self');
  if (suspended === Boolean(person.suspended))
    throw new Problem(suspended ? 'paused-already' : 'not-paused', { person: person.name });
  const gap = assignmentFaults(
    access.inventory,
    access.plan,
    everybody.map((p) => (p === person ? { ...p, suspended } : p)),
    '',
    now().getTime(),
  )[0];
  if (suspended && gap)
    throw new Problem('roles-faulty', { faults: assignmentFaultInWords(gap, access.plan, person, access.calendar) });
  await tx
    .update(people)
    .set({ suspendedAt: suspended ? now() : null })
    .where(eq(people.id, personId));
  if (suspended) {
    await tx.delete(sessions).where(eq(sessions.personId, personId));
    await endLinks(tx, [personId]);
  }
  await record(tx, access, suspended ? 'paused' : 'let work again', person.name, { href: '/room/people' });
}
