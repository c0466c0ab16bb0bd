import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { and, eq, ne, sql } from 'drizzle-orm';
import { record } from '../activity/activity';
import { now } from '../clock';
import { config } from '../config';
import type { Db, Tx } from '../db/client';
import { accounts, knownBrowsers, sessions } from '../db/schema';
import { findAccount, findByEmail, setPassword } from '../people/accounts';
import { getLivePlan } from '../plan/plans';
import { findPolicyPerson } from '../people/people';
import { findSite, isKeyholder, type Access } from './access';
import { assertStrong, checkPassword, hashPassword } from './password';
import { Problem, problemAt } from './problems';
import { beginSession, endSession, hashToken } from './sessions';
import { endLinks } from './set-up';

/**
 * Wrong tries within a quarter of an hour. From one network address no more than 60; of one's own password no more than
 * 8. For one mail address there is no end, or strangers could shut somebody out: after 8 each answer takes longer. A
 * browser somebody has signed in from before is counted by itself, so that what strangers try does not touch it (OWASP,
 * "Slow Down Online Guessing Attacks with Device Cookies"; value from memory).
 */
const LIMITS = { free: 8, address: 60, own: 8, durationS: 900 };
const FIRST_WAIT_MS = 250;
const LONGEST_WAIT_MS = 4000;
/** Connections of their own: whoever waits to be counted may hold one of the others already. */
const counters = new pg.Pool({ connectionString: config.DATABASE_URL, max: 2, idleTimeoutMillis: 30_000 });
counters.on('error', () => undefined);
const limiter = (keyPrefix: string, points: number) =>
  new RateLimiterPostgres({
    storeClient: counters,
    tableName: 'rate_limits',
    tableCreated: true,
    keyPrefix,
    points,
    duration: LIMITS.durationS,
    clearExpiredByTimeout: false,
  });
const byTarget = limiter('sign-in-target', 1_000_000);
const byAddress = limiter('sign-in-address', LIMITS.address);
const byOwner = limiter('own-password', LIMITS.own);

async function count(which: RateLimiterPostgres, key: string): Promise<number> {
  try {
    return (await which.consume(key)).consumedPoints;
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    const minutes = Math.max(1, Math.ceil(refused.msBeforeNext / 60_000));
    throw new Problem('tried-too-often', { minutes: minutes === 1 ? '1 minute' : `${minutes} minutes` });
  }
}

/** How long an answer waits after so many tries, in ms. */
export const slownessMs = (tries: number): number =>
  tries <= LIMITS.free ? 0 : Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (tries - LIMITS.free - 1));

/** Only addresses of our own, so that a link cannot lead away after signing in. */
const safeNext = (next: string | undefined): string | undefined =>
  next && /^\/(?!\/)[\w./-]*(\?[\w=&.-]*)?$/.test(next) ? next : undefined;

export interface AskingFrom {
  /** The network address it comes from. */
  address: string;
  /** The name the site is asked by. */
  host?: string;
  /** The browser's own token, if it ever signed in. */
  browser: string | undefined;
  /** A session it has already: it ends with the new one. */
  session: string | undefined;
}

const browserHash = (browser: string, personId: number) => hashToken(`${browser} ${personId}`);

/**
 * Begins a session for the right mail address and password. Every refusal has the same words and takes the same time.
 */
export async function signIn(
  db: Db,
  given: { email: string; password: string; next?: string | undefined },
  asking: AskingFrom & { newBrowser: string },
): Promise<{ token: string; to: string }> {
  const email = given.email.toLowerCase();
  const site = await findSite(db, asking.host);
  const found = site && (await findByEmail(db, site.id, email));
  const person = found?.person;
  const known =
    person && asking.browser
      ? (
          await db
            .select({ one: sql`1` })
            .from(knownBrowsers)
            .where(eq(knownBrowsers.tokenHash, browserHash(asking.browser, person.id)))
        ).length > 0
      : false;
  const target = known ? `browser ${hashToken(asking.browser ?? '')}` : `mail ${hashToken(email)}`;
  if (!known) await count(byAddress, asking.address);
  await wait(slownessMs(await count(byTarget, target)));
  const right = await checkPassword(found?.account.passwordHash, given.password);
  if (!site || !person || !right || person.suspendedAt) {
    if (found && !right)
      await db
        .update(accounts)
        .set({
          wrongTries: sql`${accounts.wrongTries} + 1`,
          wrongSince: sql`coalesce(${accounts.wrongSince}, ${now()})`,
        })
        .where(eq(accounts.id, found.account.id));
    throw new Problem('mail-or-password');
  }
  await byTarget.delete(target);
  if (!known) await byAddress.reward(asking.address, 1);
  const token = await db.transaction(async (tx) => {
    if (asking.session) await endSession(tx, hashToken(asking.session));
    await tx
      .insert(knownBrowsers)
      .values({ tokenHash: browserHash(asking.newBrowser, person.id), siteId: site.id, personId: person.id })
      .onConflictDoUpdate({ target: knownBrowsers.tokenHash, set: { seenAt: now() } });
    return beginSession(tx, site.id, person.id);
  });
  const policy = await findPolicyPerson(db, person.id);
  const held = new Set(policy?.assignments.map(({ role }) => role));
  const plan = site.liveReleaseId === null ? null : await getLivePlan(db, site);
  const hasFirst = plan?.roles.some(({ id, menu }) => held.has(id) && menu.first !== undefined);
  // Which screen that is, is known once the room is.
  const begin = hasFirst ? '/room?begin' : '/room';
  return { token, to: safeNext(given.next) ?? (policy && isKeyholder(policy) ? '/workshop' : begin) };
}

/** Wrong tries with somebody's mail address that they have not been told of yet; undefined while there are few. */
export async function findWrongTries(tx: Tx, access: Access): Promise<{ times: number; since: Date } | undefined> {
  const FEW = 3;
  const mine = access.trial ? undefined : (await findAccount(tx, access.signedInId))?.account;
  return mine?.wrongSince && mine.wrongTries > FEW ? { times: mine.wrongTries, since: mine.wrongSince } : undefined;
}

/** Somebody was told of wrong tries; they are counted anew from here. Runs in a transaction. */
export async function forgetWrongTries(tx: Tx, access: Access): Promise<void> {
  const mine = await findAccount(tx, access.signedInId);
  if (mine) await tx.update(accounts).set({ wrongTries: 0, wrongSince: null }).where(eq(accounts.id, mine.account.id));
}

/**
 * Changes one's own password; whoever else is signed in with the old one is so no longer, and a link for a new one
 * ends. Runs in a transaction.
 */
export async function changePassword(
  tx: Tx,
  access: Access,
  given: { current: string; password: string },
  token: string | undefined,
): Promise<void> {
  const found = await findAccount(tx, access.signedInId);
  if (!found) throw new Error(`nobody has the number ${access.signedInId}`);
  const { person: me, account } = found;
  await count(byOwner, String(me.id));
  if (!(await checkPassword(account.passwordHash, given.current))) throw problemAt('current', 'password-wrong');
  await byOwner.delete(String(me.id));
  if (given.current === given.password) throw problemAt('password', 'password-same');
  assertStrong(given.password, me);
  await setPassword(tx, account.id, await hashPassword(given.password));
  await endLinks(tx, [me.id]);
  await tx.delete(sessions).where(and(eq(sessions.personId, me.id), ne(sessions.tokenHash, hashToken(token ?? ''))));
  await record(tx, access, 'changed their password', me.name);
}
