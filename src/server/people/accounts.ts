import { and, eq } from 'drizzle-orm';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { accounts, people } from '../db/schema';

/** Makes somebody of a website, with an account of their own; without a password they are invited. Gives their id. */
export async function addPerson(
  tx: Tx,
  { passwordHash = null, ...given }: Omit<typeof people.$inferInsert, 'accountId'> & { passwordHash?: string | null },
): Promise<number> {
  const [account] = await tx.insert(accounts).values({ passwordHash }).returning({ id: accounts.id });
  const [person] = account
    ? await tx
        .insert(people)
        .values({ ...given, accountId: account.id })
        .returning({ id: people.id })
    : [];
  if (!person) throw new Error('the person was not written');
  return person.id;
}

/** Somebody of a website by their mail address, with what they sign in with. */
export async function findByEmail(tx: Tx, siteId: number, email: string) {
  const [found] = await tx
    .select({ person: people, account: accounts })
    .from(people)
    .innerJoin(accounts, eq(accounts.id, people.accountId))
    .where(and(eq(people.siteId, siteId), eq(people.email, email)));
  return found;
}

const askAccount = prepared('account', (tx) =>
  tx
    .select({ person: people, account: accounts })
    .from(people)
    .innerJoin(accounts, eq(accounts.id, people.accountId))
    .where(eq(people.id, given('person'))),
);
/** What somebody signs in with; undefined when there is no such person. */
export const findAccount = async (tx: Tx, personId: number) => (await askAccount(tx, { person: personId }))[0];

/** Gives an account another password; wrong tries are counted anew from here. */
export async function setPassword(tx: Tx, id: number, passwordHash: string): Promise<void> {
  await tx.update(accounts).set({ passwordHash, wrongTries: 0, wrongSince: null }).where(eq(accounts.id, id));
}
