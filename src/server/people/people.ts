import { and, asc, eq, isNull, sql, getTableColumns } from 'drizzle-orm';
import type { PolicyPerson } from '@/core/access';
import { KEYHOLDER } from '@/core/plan';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { inNameOrder } from '../db/order';
import { given, prepared } from '../db/prepared';
import { accounts, assignments, people } from '../db/schema';

type PersonRow = typeof people.$inferSelect;
type AssignmentRow = typeof assignments.$inferSelect;

const toPolicy = (
  person: Pick<PersonRow, 'id' | 'name' | 'suspendedAt'>,
  rows: readonly AssignmentRow[],
): PolicyPerson => ({
  id: String(person.id),
  name: person.name,
  suspended: person.suspendedAt !== null,
  assignments: rows.map((a) => ({
    role: a.roleId,
    ...(a.branchId !== null && { branch: String(a.branchId) }),
    ...(a.fromAt && { fromMs: a.fromAt.getTime() }),
    ...(a.untilAt && { untilMs: a.untilAt.getTime() }),
  })),
});

const askPerson = prepared('person with assignments', (tx) =>
  tx
    .select({ person: people, assignment: assignments })
    .from(people)
    .leftJoin(assignments, eq(assignments.personId, people.id))
    .where(eq(people.id, given('person')))
    .orderBy(asc(assignments.id)),
);
export async function findPolicyPerson(tx: Tx, personId: number): Promise<PolicyPerson | undefined> {
  const rows = await askPerson(tx, { person: personId });
  const person = rows[0]?.person;
  return (
    person &&
    toPolicy(
      person,
      rows.map((row) => row.assignment).filter((a) => a !== null),
    )
  );
}

export interface Person extends PolicyPerson {
  email: string;
  lastSeenAt: Date | null;
  /** Has not chosen a password yet. */
  invited: boolean;
}

const askPeople = prepared('people', (tx) =>
  tx
    .select({ ...getTableColumns(people), passwordHash: accounts.passwordHash })
    .from(people)
    .innerJoin(accounts, eq(accounts.id, people.accountId))
    .where(eq(people.siteId, given('site')))
    .orderBy(inNameOrder(people.name)),
);
const askAssignments = prepared('assignments', (tx) =>
  tx
    .select()
    .from(assignments)
    .where(eq(assignments.siteId, given('site')))
    .orderBy(asc(assignments.id)),
);
/** Everybody of a site by name, with their assignments. */
export async function listPeople(tx: Tx, siteId: number): Promise<Person[]> {
  const rows = await askPeople(tx, { site: siteId });
  const held = new Map<number, AssignmentRow[]>();
  for (const a of await askAssignments(tx, { site: siteId }))
    held.set(a.personId, [...(held.get(a.personId) ?? []), a]);
  return rows.map((row) => ({
    ...toPolicy(row, held.get(row.id) ?? []),
    email: row.email,
    lastSeenAt: row.lastSeenAt,
    invited: row.passwordHash === null,
  }));
}

/** The name of somebody who can change what others may do. */
const askKeyholder = prepared('name of the keyholder', (tx) =>
  tx
    .select({ name: people.name })
    .from(people)
    .innerJoin(assignments, eq(assignments.personId, people.id))
    .where(
      and(
        eq(people.siteId, given('site')),
        eq(assignments.roleId, KEYHOLDER),
        isNull(people.suspendedAt),
        isNull(assignments.branchId),
        sql`coalesce(${assignments.untilAt}, 'infinity') > ${given('at')}`,
        sql`coalesce(${assignments.fromAt}, '-infinity') <= ${given('at')}`,
      ),
    )
    .orderBy(asc(people.id))
    .limit(1),
);
export const findKeyholderName = async (tx: Tx, siteId: number): Promise<string | undefined> =>
  (await askKeyholder(tx, { site: siteId, at: now() }))[0]?.name;
