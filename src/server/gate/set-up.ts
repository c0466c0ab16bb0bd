import { and, eq, gt, isNotNull, isNull } from 'drizzle-orm';
import { KEYHOLDER } from '@/core/plan';
import { now } from '../clock';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { assignments, people, sessions, setupLinks, sites } from '../db/schema';
import { findKeyholderName } from '../people/people';
import { hashPassword } from './password';
import { Problem } from './problems';
import { beginSession, hashToken, newToken } from './sessions';

const LINK_LASTS_MS = { keyholder: 24 * 3600_000, person: 72 * 3600_000 };

/** A one-time token that makes the first keyholder. */
export async function makeSetupToken(tx: Tx, siteId: number): Promise<string> {
  const token = newToken();
  await tx.insert(setupLinks).values({ tokenHash: hashToken(token), siteId, expiresAt: new Date(now().getTime() + LINK_LASTS_MS.keyholder) });
  return token;
}

/** A one-time token with which a person chooses a password, for three days; older ones of theirs stop working. Runs in a transaction. */
export async function makePasswordToken(tx: Tx, siteId: number, personId: number): Promise<string> {
  const token = newToken();
  await tx.update(setupLinks).set({ usedAt: now() }).where(and(eq(setupLinks.personId, personId), isNull(setupLinks.usedAt)));
  await tx.insert(setupLinks).values({ tokenHash: hashToken(token), siteId, personId, expiresAt: new Date(now().getTime() + LINK_LASTS_MS.person) });
  return token;
}

export const isKeyholderThere = async (tx: Tx, siteId: number): Promise<boolean> => (await findKeyholderName(tx, siteId)) !== undefined;

const usable = (token: string) => and(eq(setupLinks.tokenHash, hashToken(token)), isNull(setupLinks.usedAt), gt(setupLinks.expiresAt, now()));

/** What a link is for: the first keyholder, or a person by name; undefined when it does not work any more. */
export async function findSetup(tx: Tx, token: string): Promise<{ person: string | null } | undefined> {
  const [link] = await tx.select({ person: people.name }).from(setupLinks).leftJoin(people, eq(people.id, setupLinks.personId)).where(usable(token));
  return link;
}

const USED = 'This link was used already or is too old. Ask the keyholder for a new one.';

/** Uses the link up and gives its person the password they chose; sessions they had end. Runs in a transaction. */
export async function choosePassword(tx: Tx, given: { token: string; password: string }): Promise<string> {
  const [link] = await tx.update(setupLinks).set({ usedAt: now() }).where(and(usable(given.token), isNotNull(setupLinks.personId))).returning();
  const [site] = link ? await tx.select().from(sites).where(eq(sites.id, link.siteId)) : [];
  if (!link?.personId || !site) throw new Problem('refused', USED);
  const [person] = await tx.update(people).set({ passwordHash: await hashPassword(given.password) }).where(and(eq(people.id, link.personId), isNull(people.suspendedAt))).returning();
  if (!person) throw new Problem('refused', 'This account is paused. Ask the keyholder about it.');
  await tx.delete(sessions).where(eq(sessions.personId, person.id));
  await record(tx, { site, signedInId: person.id }, 'chose a password', person.name, {});
  return beginSession(tx, link.siteId, person.id);
}

/** Uses the link up, makes the keyholder and signs them in. Runs in a transaction. */
export async function setUpKeyholder(tx: Tx, given: { token: string; name: string; email: string; password: string }): Promise<string> {
  const [link] = await tx.update(setupLinks).set({ usedAt: now() }).where(and(usable(given.token), isNull(setupLinks.personId))).returning();
  if (!link) throw new Problem('refused', 'This link was used already or is too old. Start Safe Room again for a new one.');
  const [site] = await tx.select().from(sites).where(eq(sites.id, link.siteId));
  const [person] = await tx.insert(people).values({ siteId: link.siteId, name: given.name, email: given.email, passwordHash: await hashPassword(given.password) }).returning({ id: people.id });
  if (!person || !site) throw new Error('the keyholder was not written');
  await tx.insert(assignments).values({ siteId: link.siteId, personId: person.id, roleId: KEYHOLDER });
  await record(tx, { site, signedInId: person.id }, 'set up', given.name, { detail: 'First keyholder' });
  return beginSession(tx, link.siteId, person.id);
}
