import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { and, eq, ne } from 'drizzle-orm';
import { record } from '../activity/activity';
import { pool, type Db, type Tx } from '../db/client';
import { people, sessions } from '../db/schema';
import { findByEmail, findPolicyPerson } from '../people/people';
import { findSite, isKeyholder, type Access } from './access';
import { checkPassword, hashPassword } from './password';
import { Problem } from './problems';
import { beginSession, hashToken } from './sessions';

/** Wrong tries: 8 a quarter of an hour for one mail address, 60 from one network address. */
const LIMITS = { email: 8, address: 60, durationS: 900 };
const limiter = (keyPrefix: string, points: number) => new RateLimiterPostgres({ storeClient: pool, tableName: 'rate_limits', tableCreated: true, keyPrefix, points, duration: LIMITS.durationS, clearExpiredByTimeout: false });
const byEmail = limiter('sign-in-email', LIMITS.email);
const byAddress = limiter('sign-in-address', LIMITS.address);

async function count(which: RateLimiterPostgres, key: string): Promise<void> {
  try {
    await which.consume(key);
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    const minutes = Math.max(1, Math.ceil(refused.msBeforeNext / 60_000));
    throw new Problem('too-many', `That was tried too often. Wait ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}, or ask the keyholder for a new password.`);
  }
}

/** Only addresses of our own, so that a link cannot lead away after signing in. */
const safeNext = (next: string | undefined): string | undefined => (next && /^\/(?!\/)[\w./-]*(\?[\w=&.-]*)?$/.test(next) ? next : undefined);

/** Begins a session for the right mail address and password. Every refusal has the same words and takes the same time. */
export async function signIn(db: Db, given: { email: string; password: string; next?: string | undefined }, address: string): Promise<{ token: string; to: string }> {
  const email = given.email.toLowerCase();
  await count(byAddress, address);
  await count(byEmail, email.slice(0, 200));
  const site = await findSite(db);
  const person = site && (await findByEmail(db, site.id, email));
  const right = await checkPassword(person?.passwordHash, given.password);
  if (!site || !person || !right || person.suspendedAt) throw new Problem('wrong-sign-in', 'Mail address and password do not fit together. Look for a typing error; capitals count in the password.');
  await Promise.all([byEmail.delete(email.slice(0, 200)), byAddress.reward(address, 1)]);
  const token = await db.transaction((tx) => beginSession(tx, site.id, person.id));
  const policy = await findPolicyPerson(db, person.id);
  return { token, to: safeNext(given.next) ?? (policy && isKeyholder(policy) ? '/workshop' : '/room') };
}

/** Changes one's own password; whoever else is signed in with the old one is so no longer. Wrong tries count with those of signing in. Runs in a transaction. */
export async function changePassword(tx: Tx, access: Access, given: { current: string; password: string }, token: string | undefined): Promise<void> {
  const [me] = await tx.select().from(people).where(eq(people.id, access.signedInId));
  if (!me) throw new Error(`nobody has the number ${access.signedInId}`);
  const key = me.email.toLowerCase().slice(0, 200);
  await count(byEmail, key);
  const wrong = (field: string, message: string) => new Problem('bad-input', message, { faults: [{ field, message }] });
  if (!(await checkPassword(me.passwordHash, given.current))) throw wrong('current', 'This is not your password now. Look for a typing error; capitals count.');
  await byEmail.delete(key);
  if (given.current === given.password) throw wrong('password', 'This is the password you have. Choose another.');
  await tx.update(people).set({ passwordHash: await hashPassword(given.password) }).where(eq(people.id, me.id));
  await tx.delete(sessions).where(and(eq(sessions.personId, me.id), ne(sessions.tokenHash, hashToken(token ?? ''))));
  await record(tx, access, 'changed their password', me.name);
}
