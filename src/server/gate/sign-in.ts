import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { pool, type Db } from '../db/client';
import { findByEmail, findPolicyPerson } from '../people/people';
import { findSite, isKeyholder } from './access';
import { checkPassword } from './password';
import { Problem } from './problems';
import { beginSession } from './sessions';

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
