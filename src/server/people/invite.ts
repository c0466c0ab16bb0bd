import { canonical } from '@/core/json';
import type { PolicyPerson } from '@/core/access';
import { record } from '../activity/activity';
import { readCsv } from '../csv';
import {
  emailSchema,
  type GivenAssignment,
  personNameSchema,
  type ImportedLink,
  type ImportRow,
  type MadeLink,
} from '@/core/wire';
import { sayDay, sayTime } from '@/core/words';
import { now } from '../clock';
import { listPages } from '../tree/tree';
import type { Tx } from '../db/client';
import type { Access } from '../gate/access';
import { loadBounds } from '../gate/bounds';
import { addPerson } from './accounts';
import { Problem } from '../gate/problems';
import { makePasswordToken } from '../gate/set-up';
import {
  assignmentsInWords,
  checkAssignments,
  mustFindPerson,
  loadAssignable,
  lockPeople,
  toGiven,
  writeAssignments,
} from './assign';
import { mustBeFree } from './details';
import { sendMail } from './mails';
import { listPeople, type Person } from './people';

/**
 * Makes a one-time link with which somebody chooses a password, and puts the mail that tells of it in the outbox. The
 * link itself is given once, to whoever asked; nobody can read it anywhere afterwards. Runs in a transaction.
 */
async function makeLink(
  tx: Tx,
  access: Access,
  person: { id: number; name: string; email: string; assignments: PolicyPerson['assignments'] },
  origin: string,
): Promise<MadeLink> {
  const begins = person.assignments.map((a) => a.fromMs ?? 0);
  const { token, expiresAt } = await makePasswordToken(
    tx,
    access.site.id,
    { id: person.id, ...(begins.length > 0 && { beginsMs: Math.min(...begins) }) },
    access.signedInId,
  );
  const until = sayTime(expiresAt, access.calendar, now());
  await sendMail(tx, access.site.id, {
    to: person.email,
    subject: `Your way into the back office of ${access.site.name}`,
    text: `Hello ${person.name},\n\nchoose a password with this link, and you are in:\n(the link is shown once, to whoever made it)\n\nIt works once, until ${until}.`,
  });
  return { link: `${origin}/set-up?token=${token}`, until };
}

/** Makes an account without a password, gives it roles, and a link to choose one. Runs in a transaction. */
export async function invite(
  tx: Tx,
  access: Access,
  given: { name: string; email: string; assignments: readonly GivenAssignment[] },
  origin: string,
): Promise<MadeLink & { id: number }> {
  await lockPeople(tx, access);
  const everybody = await listPeople(tx, access.site.id);
  mustBeFree(everybody, given.email);
  const list = checkAssignments(
    access.inventory,
    await loadAssignable(tx, access),
    everybody,
    { id: 'new', name: given.name, assignments: [] },
    given.assignments,
    'assignments',
  );
  const person: PolicyPerson = { id: 'new', name: given.name, assignments: list };
  await (await loadBounds(tx, access)).mustGive(null, person);
  const id = await addPerson(tx, { siteId: access.site.id, name: given.name, email: given.email });
  await writeAssignments(tx, access, person, id, list);
  await record(tx, access, 'invited', given.name, {
    href: '/room/people',
    detail: `${given.email}. ${(await assignmentsInWords(tx, access, list)).join('; ') || 'No role'}.`,
  });
  return {
    id,
    ...(await makeLink(tx, access, { id, name: given.name, email: given.email, assignments: list }, origin)),
  };
}

/** A new one-time link for somebody who lost the first, or their password. Runs in a transaction. */
export async function renewLink(tx: Tx, access: Access, personId: number, origin: string): Promise<MadeLink> {
  const { person } = await mustFindPerson(tx, access, personId);
  const bounds = await loadBounds(tx, access);
  bounds.mustTouch(person);
  await bounds.mustReach(person);
  if (person.suspended) throw new Problem('invite-paused', { person: person.name });
  await record(tx, access, 'made a sign-in link', person.name, { href: '/room/people' });
  return makeLink(tx, access, { id: personId, name: person.name, email: person.email, assignments: [] }, origin);
}

const PEOPLE_HEAD = ['name', 'email', 'role', 'branch', 'from', 'until'] as const;

/**
 * Reads people from CSV: one line an assignment, a mail address once for each person or several times for several
 * roles; the branch by its address on the website. Tells for every line what it would do, and does it all together when
 * `confirm` is set and no line has a fault. Runs in a transaction.
 */
export async function importPeople(
  tx: Tx,
  access: Access,
  csv: string,
  confirm: boolean,
  origin: string,
): Promise<{ rows: ImportRow[]; done: boolean; links: ImportedLink[] }> {
  await lockPeople(tx, access);
  const lines = readCsv(csv, PEOPLE_HEAD, ['branch', 'from', 'until']);
  if (lines.length === 0) throw new Problem('nobody-in-file');
  if (lines.length > 2000) throw new Problem('file-too-long', { lines: lines.length });
  const pages = await listPages(tx, access.site.id);
  const assignable = await loadAssignable(tx, access);
  const bounds = await loadBounds(tx, access);
  const rows: ImportRow[] = [];
  const invited = new Map<string, { id: number; name: string; email: string }>();
  const roleName = (id: string) => access.plan.roles.find((r) => r.id === id)?.name ?? id;
  let everybody: (Person | (PolicyPerson & { email: string }))[] = await listPeople(tx, access.site.id);
  for (const { line, cells } of lines) {
    const [name = '', email = '', role = '', branch = '', from = '', until = ''] = cells;
    const row = (outcome: ImportRow['outcome'], says: string) => rows.push({ line, name, email, outcome, says });
    const known = everybody.find((p) => p.email.toLowerCase() === email.toLowerCase());
    const page =
      branch === '' || branch === '/'
        ? undefined
        : pages.find((p) => p.address === (branch.startsWith('/') ? branch : `/${branch}`));
    // Everything that is wrong with a line is told at once.
    const wrong = [personNameSchema.safeParse(name || known?.name || ''), emailSchema.safeParse(email)].flatMap(
      (read) => read.error?.issues[0]?.message ?? [],
    );
    if (branch !== '' && branch !== '/' && !page) wrong.push(`There is no page at “${branch}”.`);
    if (role === '') wrong.push('No role is named.');
    if (known && name !== '' && name.toLowerCase() !== known.name.toLowerCase())
      wrong.push(`This mail address belongs to ${known.name}. Write the same name, or another address.`);
    const given: GivenAssignment = {
      role: access.plan.roles.find((r) => r.name.toLowerCase() === role.toLowerCase())?.id ?? role,
      ...(page && { branch: page.id }),
      ...(from && { from }),
      ...(until && { until }),
    };
    const person = known ?? { id: `line ${line}`, name, email, assignments: [] };
    const held = person.assignments.map((a) => toGiven(a, access.site.timeZone));
    if (wrong.length === 0 && held.some((a) => canonical(a) === canonical(given))) {
      row('same', 'Holds this already.');
      continue;
    }
    try {
      if (known) bounds.mustTouch(known);
      const list =
        role === '' ? [] : checkAssignments(access.inventory, assignable, everybody, person, [...held, given], 'line');
      if (wrong.length > 0) {
        row('fault', wrong.join(' '));
        continue;
      }
      await bounds.mustGive(known ?? null, { ...person, assignments: list });
      let id = person.id;
      if (confirm && !known) {
        id = String(await addPerson(tx, { siteId: access.site.id, name, email }));
        invited.set(id, { id: Number(id), name, email });
      }
      if (confirm) {
        await writeAssignments(tx, access, person, Number(id), list);
        await record(tx, access, known ? 'assigned roles' : 'invited', name || person.name, {
          href: '/room/people',
          detail: `From a file, line ${line}. ${(await assignmentsInWords(tx, access, list)).join('; ')}.`,
        });
      }
      everybody = known
        ? everybody.map((p) => (p === known ? { ...p, assignments: list } : p))
        : [...everybody, { id, name, email, assignments: list }];
      const added = list.at(-1);
      const days = [
        added?.fromMs !== undefined && `from ${sayDay(new Date(added.fromMs), access.calendar, now())}`,
        added?.untilMs !== undefined && `to ${sayDay(new Date(added.untilMs - 1), access.calendar, now())}`,
      ]
        .filter(Boolean)
        .join(' ');
      row(
        known ? 'more' : 'new',
        `${known ? 'Gets the role' : 'Invited as'} ${roleName(given.role)}${page ? `, under ${page.liveTitle}` : ''}${days && `, ${days}`}.`,
      );
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      row('fault', [...wrong, error.detail].join(' '));
    }
  }
  const faults = rows.filter((r) => r.outcome === 'fault').length;
  if (confirm && faults > 0)
    throw new Problem('lines-faulty', { lines: faults === 1 ? '1 line has a fault' : `${faults} lines have faults` });
  const links: ImportedLink[] = [];
  if (confirm) {
    for (const [id, person] of invited)
      links.push({
        name: person.name,
        email: person.email,
        ...(await makeLink(
          tx,
          access,
          { ...person, assignments: everybody.find((p) => p.id === id)?.assignments ?? [] },
          origin,
        )),
      });
    await record(tx, access, 'read people from a file', `${rows.length} ${rows.length === 1 ? 'line' : 'lines'}`, {
      href: '/room/people',
      detail: `${links.length} invited`,
    });
  }
  return { rows, done: confirm, links };
}
