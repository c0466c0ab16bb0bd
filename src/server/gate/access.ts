import { and, asc, eq, gt, isNull, or } from 'drizzle-orm';
import { decide, isInForce, sampleOf, type Beyond, type Names, type Policy, type PolicyPerson } from '@/core/access';
import { fieldName, type Inventory } from '@/core/inventory';
import { beyondMeInTrial, KEYHOLDER, policyOf, type Plan } from '@/core/plan';
import { inventoryOf } from '@/office';
import type { Calendar } from '@/core/words';
import { ownCalendar, siteCalendar } from '../calendar';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { given, prepared } from '../db/prepared';
import { ownRooms, sessions, sites } from '../db/schema';
import { findKeyholderName, findPolicyPerson, listPeople } from '../people/people';
import { findPageNames } from '../tree/tree';
import { getLivePlan, getPreparedPlan } from '../plan/plans';
import { loadGround } from './ground';
import { hashToken } from './sessions';

export type Site = typeof sites.$inferSelect;

/** Who asks, with which plan: what the gate decides by and the room is made from. */
export interface Access {
  site: Site;
  tokenHash: string;
  /** Whose room it is: the person signed in, or the one a keyholder stepped in as. */
  who: PolicyPerson;
  /** The person really signed in. */
  signedInId: number;
  /** Set while a keyholder tries a room: nothing is kept then. */
  trial: { back: string } | null;
  /** What there is on the site. */
  inventory: Inventory;
  plan: Plan;
  policy: Policy;
  /** How dates are told to whoever reads. */
  calendar: Calendar;
}

/** The site that is asked by a name; by any other name the first that has none of its own. */
export async function findSite(tx: Tx, host = ''): Promise<Site | undefined> {
  const [site] = await tx
    .select()
    .from(sites)
    .where(or(eq(sites.host, host), isNull(sites.host)))
    .orderBy(asc(isNull(sites.host)), asc(sites.id))
    .limit(1);
  return site;
}

const askSession = prepared('session', (tx) =>
  tx
    .select({ session: sessions, site: sites, preferences: ownRooms.preferences })
    .from(sessions)
    .innerJoin(sites, eq(sites.id, sessions.siteId))
    .leftJoin(ownRooms, eq(ownRooms.personId, sessions.personId))
    .where(and(eq(sessions.tokenHash, given('tokenHash')), gt(sessions.expiresAt, given('at')))),
);

/** The access behind a session cookie; undefined when there is none or it is over. */
export async function findAccess(tx: Tx, token: string | undefined): Promise<Access | undefined> {
  if (!token) return undefined;
  const tokenHash = hashToken(token);
  const [row] = await askSession(tx, { tokenHash, at: now() });
  if (!row) return undefined;
  const { session, site } = row;
  const signedIn = await findPolicyPerson(tx, session.personId);
  if (!signedIn || signedIn.suspended) return undefined;
  const live = await getLivePlan(tx, site);
  const calendar = ownCalendar(site, live, row.preferences);
  const inventory = inventoryOf(site);
  const own = { site, inventory, tokenHash, signedInId: session.personId, calendar };
  const asked = session.stepInAs
    ? await findPolicyPerson(tx, session.stepInAs)
    : session.stepInRole
      ? sampleOf(session.stepInRole)
      : undefined;
  // The right to it is asked anew each time: a trial lasts no longer than what allowed it.
  const prepared = asked && (await getPreparedPlan(tx, site.id)).plan;
  if (
    asked &&
    prepared &&
    mayStepIn(inventory, live, signedIn) &&
    !(await findBeyondTrial(tx, inventory, site.id, { live, prepared, me: signedIn, target: asked }))
  )
    return {
      ...own,
      who: asked,
      trial: { back: session.stepInFrom ?? '/workshop' },
      plan: prepared,
      policy: policyOf(inventory, prepared, [asked]),
    };
  return { ...own, who: signedIn, trial: null, plan: live, policy: policyOf(inventory, live, [signedIn]) };
}

/** Whether somebody may prepare rooms, and so try one. */
const mayStepIn = (inventory: Inventory, live: Plan, me: PolicyPerson) =>
  decide(policyOf(inventory, live, [me]), { person: me.id, permission: 'plan.edit', atMs: now().getTime() }).allowed;

/** What a room somebody would try may do that they may not. */
export async function findBeyondTrial(
  tx: Tx,
  inventory: Inventory,
  siteId: number,
  { live, prepared, me, target }: { live: Plan; prepared: Plan; me: PolicyPerson; target: PolicyPerson },
): Promise<Beyond | undefined> {
  return beyondMeInTrial(await loadGround(tx, inventory, siteId), live, prepared, me, target);
}

/** The access of the first active keyholder: whose name stands by what is done on the machine itself. */
export async function mustFindKeyholderAccess(tx: Tx, site: Site): Promise<Access> {
  const who = (await listPeople(tx, site.id)).find((person) => !person.suspended && isKeyholder(person));
  if (!who) throw new Error('there is no keyholder yet');
  const plan = await getLivePlan(tx, site);
  const inventory = inventoryOf(site);
  return {
    site,
    inventory,
    tokenHash: '',
    who,
    signedInId: Number(who.id),
    trial: null,
    plan,
    policy: policyOf(inventory, plan, [who]),
    calendar: siteCalendar(site),
  };
}

export const isKeyholder = (person: PolicyPerson) =>
  person.assignments.some((a) => a.role === KEYHOLDER && a.branch === undefined && isInForce(a, now().getTime()));

/** What sentences about access call things. */
export async function namesFor(tx: Tx, access: Pick<Access, 'site' | 'plan' | 'inventory'>): Promise<Names> {
  // One after the other: a transaction has one connection, which takes one query at a time.
  const pageNames = await findPageNames(tx, access.site.id);
  const keyholder = await findKeyholderName(tx, access.site.id);
  return {
    role: (id) => access.plan.roles.find((role) => role.id === id)?.name ?? id,
    page: (id) => pageNames.get(id) ?? 'a page that is gone',
    layout: (id) => access.inventory.layouts.get(id)?.name ?? id,
    field: (id) => fieldName(access.inventory, id) ?? id,
    doing: (permission) => access.inventory.permissions.get(permission as never)?.name ?? permission,
    keyholder: keyholder ?? 'the keyholder',
  };
}
