import { and, eq, gt, isNotNull, isNull } from 'drizzle-orm';
import { among } from '../db/among';
import { decide } from '@/core/access';
import { beyondMe, KEYHOLDER, policyOf } from '@/core/plan';
import { now } from '../clock';
import { record } from '../activity/activity';
import type { Tx } from '../db/client';
import { assignments, people, sessions, setupLinks, sites } from '../db/schema';
import { addPerson, setPassword } from '../people/accounts';
import { findKeyholderName, findPolicyPerson } from '../people/people';
import { getLivePlan } from '../plan/plans';
import type { Site } from './access';
import { loadGround } from './ground';
import { assertStrong, hashPassword } from './password';
import { Problem } from './problems';
import { beginSession, hashToken, newToken } from './sessions';
import { inventoryOf } from '@/office';

const LINK_LASTS_MS = { keyholder: 24 * 3600_000, person: 72 * 3600_000 };

/** A one-time token that makes the first keyholder; older ones stop working. Runs in a transaction. */
export async function makeSetupToken(tx: Tx, siteId: number): Promise<string> {
  const token = newToken();
  await endFirstLinks(tx, siteId);
  await tx
    .insert(setupLinks)
    .values({ tokenHash: hashToken(token), siteId, expiresAt: new Date(now().getTime() + LINK_LASTS_MS.keyholder) });
  return token;
}

const endFirstLinks = (tx: Tx, siteId: number) =>
  tx
    .update(setupLinks)
    .set({ usedAt: now() })
    .where(and(eq(setupLinks.siteId, siteId), isNull(setupLinks.personId), isNull(setupLinks.usedAt)));

/** Ends the links some people have not used yet. */
export const endLinks = (tx: Tx, personIds: readonly number[]) =>
  tx
    .update(setupLinks)
    .set({ usedAt: now() })
    .where(and(among(setupLinks.personId, personIds), isNull(setupLinks.usedAt)));

/**
 * A one-time token with which a person chooses a password, for three days, or three days longer than until what they
 * are invited for begins; older ones of theirs stop working. Runs in a transaction.
 */
export async function makePasswordToken(
  tx: Tx,
  siteId: number,
  person: { id: number; beginsMs?: number },
  madeBy: number,
): Promise<{ token: string; expiresAt: Date }> {
  const token = newToken();
  const expiresAt = new Date(Math.max(now().getTime(), person.beginsMs ?? 0) + LINK_LASTS_MS.person);
  await endLinks(tx, [person.id]);
  await tx.insert(setupLinks).values({ tokenHash: hashToken(token), siteId, personId: person.id, madeBy, expiresAt });
  return { token, expiresAt };
}

/**
 * Whether whoever made a link could still make it: active, looking after people, and nobody's servant with more than
 * they have.
 */
async function mayStillGive(tx: Tx, site: Site, makerId: number, personId: number): Promise<boolean> {
  const [maker, target] = [await findPolicyPerson(tx, makerId), await findPolicyPerson(tx, personId)];
  if (!maker || !target) return false;
  const plan = await getLivePlan(tx, site);
  const ground = await loadGround(tx, inventoryOf(site), site.id);
  return (
    decide(policyOf(inventoryOf(site), plan, [maker]), {
      person: maker.id,
      permission: 'person.manage',
      atMs: ground.nowMs,
    }).allowed && beyondMe(ground, plan, maker, target) === undefined
  );
}

export const isKeyholderThere = async (tx: Tx, siteId: number): Promise<boolean> =>
  (await findKeyholderName(tx, siteId)) !== undefined;

const usable = (token: string) =>
  and(eq(setupLinks.tokenHash, hashToken(token)), isNull(setupLinks.usedAt), gt(setupLinks.expiresAt, now()));

/** What a link is for: the first keyholder, or a person by name; undefined when it does not work any more. */
export async function findSetup(tx: Tx, token: string): Promise<{ person: string | null } | undefined> {
  const [link] = await tx
    .select({ person: people.name })
    .from(setupLinks)
    .leftJoin(people, eq(people.id, setupLinks.personId))
    .where(usable(token));
  return link;
}

/** Uses the link up and gives its person the password they chose; sessions they had end. Runs in a transaction. */
export async function choosePassword(tx: Tx, given: { token: string; password: string }): Promise<string> {
  const [link] = await tx
    .update(setupLinks)
    .set({ usedAt: now() })
    .where(and(usable(given.token), isNotNull(setupLinks.personId)))
    .returning();
  const [site] = link ? await tx.select().from(sites).where(eq(sites.id, link.siteId)) : [];
  if (!link?.personId || !site) throw new Problem('link-used');
  if (link.madeBy !== null && !(await mayStillGive(tx, site, link.madeBy, link.personId)))
    throw new Problem('link-used');
  // Held, so that nobody is paused meanwhile.
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.id, link.personId), isNull(people.suspendedAt)))
    .for('update');
  if (!person) throw new Problem('account-paused');
  assertStrong(given.password, person);
  await setPassword(tx, person.accountId, await hashPassword(given.password));
  await tx.delete(sessions).where(eq(sessions.personId, person.id));
  await record(tx, { site, signedInId: person.id }, 'chose a password', person.name, {});
  return beginSession(tx, link.siteId, person.id);
}

/** Uses the link up, makes the keyholder and signs them in. Runs in a transaction. */
export async function setUpKeyholder(
  tx: Tx,
  given: { token: string; name: string; email: string; password: string },
): Promise<string> {
  const [link] = await tx
    .update(setupLinks)
    .set({ usedAt: now() })
    .where(and(usable(given.token), isNull(setupLinks.personId)))
    .returning();
  if (!link) throw new Problem('first-link-used');
  const [site] = await tx.select().from(sites).where(eq(sites.id, link.siteId)).for('update');
  if (await isKeyholderThere(tx, link.siteId)) throw new Problem('keyholder-there');
  await endFirstLinks(tx, link.siteId);
  assertStrong(given.password, given);
  if (!site) throw new Error('there is no website');
  const personId = await addPerson(tx, {
    siteId: link.siteId,
    name: given.name,
    email: given.email,
    passwordHash: await hashPassword(given.password),
  });
  await tx.insert(assignments).values({ siteId: link.siteId, personId, roleId: KEYHOLDER });
  await record(tx, { site, signedInId: personId }, 'set up', given.name, { detail: 'First keyholder' });
  return beginSession(tx, link.siteId, personId);
}
