import { z } from 'zod';
import { canonical } from '@/core/json';
import type { PolicyPerson } from '@/core/access';
import { record } from '../activity/activity';
import { readCsv } from '../csv';
import { listPages } from '../content/tree';
import type { Tx } from '../db/client';
import { people } from '../db/schema';
import type { Access } from '../gate/access';
import { Problem } from '../gate/problems';
import { makePasswordToken } from '../gate/set-up';
import { checkAssignments, findPerson, loadAssignable, lockPeople, refuseBeyond, toGiven, writeAssignments, type GivenAssignment } from './assign';
import { sendMail } from './mails';
import { listPeople, type Person } from './people';

export const nameSchema = z.string().trim().min(1, 'Say who it is.').max(300);
export const emailSchema = z.email('Write a mail address, like ines@example.org.').max(300);

/** Makes a one-time link with which somebody chooses a password, and puts the mail that tells of it in the outbox. Runs in a transaction. */
async function makeLink(tx: Tx, access: Access, person: { id: number; name: string; email: string }, origin: string): Promise<string> {
  const link = `${origin}/set-up?token=${await makePasswordToken(tx, access.site.id, person.id)}`;
  await sendMail(tx, access.site.id, { to: person.email, subject: `Your way into the back office of ${access.site.name}`, text: `Hello ${person.name},\n\nchoose a password with this link, and you are in:\n${link}\n\nIt works once, for three days.` });
  return link;
}

/** Makes an account without a password, gives it roles, and a link to choose one. Runs in a transaction. */
export async function invite(tx: Tx, access: Access, given: { name: string; email: string; assignments: readonly GivenAssignment[] }, origin: string): Promise<{ id: number; link: string }> {
  await lockPeople(tx, access);
  const everybody = await listPeople(tx, access.site.id);
  refuseBeyond(access, null, given.assignments.map((a) => a.role));
  const taken = everybody.find((p) => p.email.toLowerCase() === given.email.toLowerCase());
  if (taken) throw new Problem('bad-input', `${taken.name} has this mail address already.`, { faults: [{ field: 'email', message: `${taken.name} has this mail address already.` }] });
  const list = checkAssignments(await loadAssignable(tx, access), everybody, { id: 'new', name: given.name, assignments: [] }, given.assignments, 'assignments');
  const [row] = await tx.insert(people).values({ siteId: access.site.id, name: given.name, email: given.email, passwordHash: null }).returning({ id: people.id });
  if (!row) throw new Error('the person was not written');
  await writeAssignments(tx, access.site.id, row.id, list);
  await record(tx, access, 'invited', given.name, { href: '/room/people', detail: given.email });
  return { id: row.id, link: await makeLink(tx, access, { id: row.id, name: given.name, email: given.email }, origin) };
}

/** A new one-time link for somebody who lost the first, or their password. Runs in a transaction. */
export async function renewLink(tx: Tx, access: Access, personId: number, origin: string): Promise<{ link: string }> {
  const { person } = await findPerson(tx, access, personId);
  refuseBeyond(access, person, []);
  if (person.suspended) throw new Problem('bad-input', `${person.name} is paused. Let them work again first.`);
  await record(tx, access, 'made a sign-in link', person.name, { href: '/room/people' });
  return { link: await makeLink(tx, access, { id: personId, name: person.name, email: person.email }, origin) };
}

const PEOPLE_HEAD = ['name', 'email', 'role', 'branch', 'from', 'until'] as const;
export interface ImportRow { line: number; name: string; email: string; says: string; outcome: 'new' | 'more' | 'same' | 'fault' }

/**
 * Reads people from CSV: one line an assignment, a mail address once for each person or several times for several roles; the branch by its address on the
 * website. Tells for every line what it would do, and does it all together when `confirm` is set and no line has a fault. Runs in a transaction.
 */
export async function importPeople(tx: Tx, access: Access, csv: string, confirm: boolean, origin: string): Promise<{ rows: ImportRow[]; done: boolean }> {
  await lockPeople(tx, access);
  const lines = readCsv(csv, PEOPLE_HEAD, ['branch', 'from', 'until']);
  if (lines.length === 0) throw new Problem('bad-input', 'There is nobody in this file below the first line.');
  if (lines.length > 2000) throw new Problem('bad-input', `These are ${lines.length} lines; at most 2000 go in one file.`);
  const pages = await listPages(tx, access.site.id);
  const assignable = await loadAssignable(tx, access);
  const rows: ImportRow[] = [];
  const links: { id: number; name: string; email: string }[] = [];
  const roleName = (id: string) => access.plan.roles.find((r) => r.id === id)?.name ?? id;
  let everybody: (Person | (PolicyPerson & { email: string }))[] = await listPeople(tx, access.site.id);
  for (const { line, cells } of lines) {
    const [name = '', email = '', role = '', branch = '', from = '', until = ''] = cells;
    const row = (outcome: ImportRow['outcome'], says: string) => rows.push({ line, name, email, outcome, says });
    const known = everybody.find((p) => p.email.toLowerCase() === email.toLowerCase());
    const bad = [nameSchema.safeParse(name || known?.name || ''), emailSchema.safeParse(email)].find((r) => !r.success);
    const page = branch === '' || branch === '/' ? undefined : pages.find((p) => p.address === (branch.startsWith('/') ? branch : `/${branch}`));
    if (bad && !bad.success) { row('fault', bad.error.issues[0]?.message ?? 'Something does not fit.'); continue; }
    if (branch !== '' && branch !== '/' && !page) { row('fault', `There is no page at “${branch}”.`); continue; }
    if (role === '') { row('fault', 'No role is named.'); continue; }
    const given: GivenAssignment = { role: access.plan.roles.find((r) => r.name.toLowerCase() === role.toLowerCase())?.id ?? role, ...(page && { branch: page.id }), ...(from && { from }), ...(until && { until }) };
    const person = known ?? { id: `line ${line}`, name, email, assignments: [] };
    const held = person.assignments.map((a) => toGiven(a, access.site.timeZone));
    if (held.some((a) => canonical(a) === canonical(given))) { row('same', 'Holds this already.'); continue; }
    try {
      refuseBeyond(access, known ?? null, [given.role]);
      const list = checkAssignments(assignable, everybody, person, [...held, given], 'line');
      let id = person.id;
      if (confirm && !known) {
        const [made] = await tx.insert(people).values({ siteId: access.site.id, name, email, passwordHash: null }).returning({ id: people.id });
        id = String(made?.id);
        links.push({ id: Number(id), name, email });
      }
      if (confirm) await writeAssignments(tx, access.site.id, Number(id), list);
      everybody = known ? everybody.map((p) => (p === known ? { ...p, assignments: list } : p)) : [...everybody, { id, name, email, assignments: list }];
      row(known ? 'more' : 'new', `${known ? 'Gets the role' : 'Invited as'} ${roleName(given.role)}${page ? `, under ${page.liveTitle}` : ''}.`);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      row('fault', error.detail);
    }
  }
  const faults = rows.filter((r) => r.outcome === 'fault').length;
  if (confirm && faults > 0) throw new Problem('bad-input', `${faults} ${faults === 1 ? 'line has a fault' : 'lines have faults'}, so nobody was added.`);
  if (confirm) {
    for (const person of links) await makeLink(tx, access, person, origin);
    await record(tx, access, 'read people from a file', `${rows.length} lines`, { href: '/room/people', detail: `${links.length} invited` });
  }
  return { rows, done: confirm };
}
