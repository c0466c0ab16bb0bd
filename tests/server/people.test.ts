import { and, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { POST as invite } from '@/pages/api/people/index';
import { POST as importPeople } from '@/pages/api/people/import';
import { POST as many } from '@/pages/api/people/many';
import { POST as move } from '@/pages/api/people/move';
import { PUT as details } from '@/pages/api/people/[id]/details';
import { PUT as assign } from '@/pages/api/people/[id]/assignments';
import { POST as newLink } from '@/pages/api/people/[id]/link';
import { POST as pause } from '@/pages/api/people/[id]/pause';
import { POST as change } from '@/pages/api/workshop/plan';
import { POST as goLive } from '@/pages/api/workshop/release';
import { POST as setUp } from '@/pages/api/set-up';
import { dayKey } from '@/core/words';
import { findDayStart } from '@/server/clock';
import { db } from '@/server/db/client';
import { assignments as assignmentsTable, people as peopleTable, setupLinks } from '@/server/db/schema';
import { findAccess } from '@/server/gate/access';
import { signIn } from '@/server/gate/sign-in';
import { busyKeyholders } from '@/server/people/hints';
import { listMails } from '@/server/people/mails';
import { findKeyholderName, listPeople } from '@/server/people/people';
import { getPlanState } from '@/server/plan/plans';
import { accessOf, call, pageId, signInAs, siteId } from './ask';
import { addPerson } from '@/server/people/accounts';
import { inventory } from '../inventory';

const TZ = 'Europe/London';
const everybody = async () => listPeople(db, await siteId());
const byName = async (first: string) => {
  const person = (await everybody()).find((p) => p.name.startsWith(first));
  if (!person) throw new Error(`nobody is called ${first}`);
  return person;
};
const given = async (first: string) =>
  (await byName(first)).assignments.map((a) => ({
    role: a.role,
    ...(a.branch && { branch: a.branch }),
    ...(a.fromMs && { from: dayKey(new Date(a.fromMs), TZ) }),
    ...(a.untilMs && { until: dayKey(new Date(a.untilMs - 1), TZ) }),
  }));
const put = async (by: { cookie: string }, first: string, after: object[], before?: object[]) =>
  call(assign, 'PUT', '/x', {
    ...by,
    params: { id: (await byName(first)).id },
    body: { before: before ?? (await given(first)), after },
  });
const inDays = (days: number) => dayKey(new Date(Date.now() + days * 86_400_000), TZ);

/** A browser at a network address that never signed in before. */
const from = (address: string) => ({
  address,
  browser: undefined,
  session: undefined,
  newBrowser: `browser at ${address}`,
});

describe('inviting somebody', () => {
  it('makes an account without a password, a one-time link and a mail in the outbox; the link gives the password and signs in, once', async () => {
    const maud = await signInAs('Maud');
    const harbours = String(await pageId('Harbours'));
    const answer = await call(invite, 'POST', '/x', {
      ...maud,
      body: {
        name: 'Edda Lind',
        email: 'edda@larkhaven.example',
        assignments: [{ role: 'seasonal-helper', branch: harbours, until: inDays(40) }],
      },
    });
    expect(answer.status).toBe(200);
    const link = String(answer.body['link']);
    const token = new URL(link).searchParams.get('token') ?? '';
    expect(link).toMatch(/\/set-up\?token=[\w-]{43}$/);
    expect((await listMails(db, await accessOf('Maud')))[0]).toMatchObject({
      to: 'edda@larkhaven.example',
      text: expect.not.stringContaining(token) as string,
    });
    expect(await byName('Edda')).toMatchObject({
      invited: true,
      assignments: [{ role: 'seasonal-helper', branch: harbours, untilMs: findDayStart(inDays(40), TZ, 1)?.getTime() }],
    });
    await expect(signIn(db, { email: 'edda@larkhaven.example', password: '' }, from('10.0.0.1'))).rejects.toThrow(
      'Mail address and password do not fit together',
    );

    expect((await call(setUp, 'POST', '/x', { body: { token, password: 'short' } })).body.detail).toContain(
      'at least 10 characters',
    );
    const chosen = await call(setUp, 'POST', '/x', { body: { token, password: 'boats-and-more-boats' } });
    expect(chosen).toMatchObject({ status: 200, body: { to: '/room' } });
    expect(chosen.headers.get('set-cookie')).toContain('safe_room_session=');
    expect(await call(setUp, 'POST', '/x', { body: { token, password: 'boats-and-more-boats' } })).toMatchObject({
      status: 403,
      body: { detail: 'This link was used already or is too old. Ask the keyholder for a new one.' },
    });
    expect(
      (await signIn(db, { email: 'edda@larkhaven.example', password: 'boats-and-more-boats' }, from('10.0.0.1'))).to,
    ).toBe('/room');
    expect(await byName('Edda')).toMatchObject({ invited: false });
    // A token is kept only as its hash.
    expect((await db.select().from(setupLinks)).some((row) => row.tokenHash === token)).toBe(false);
  });

  it('gives a link that works as long after the first day of the earliest role as a link of somebody who begins that day', async () => {
    const until = async (name: string, ...days: number[]) => {
      const made = await call(invite, 'POST', '/x', {
        ...(await signInAs('Maud')),
        body: {
          name,
          email: `${name.toLowerCase()}@larkhaven.example`,
          assignments: days.map((day, i) => ({ role: ['newsroom', 'seasonal-helper'][i], from: inDays(day) })),
        },
      });
      expect(made.status, JSON.stringify(made.body)).toBe(200);
      return made.body['until'];
    };
    const [early, late] = [await until('Early', 30), await until('Late', 60)];
    expect(early).not.toBe(late);
    expect(await until('Both', 60, 30)).toBe(early);
    expect(await until('Other', 30, 60)).toBe(early);
  });

  it('refuses a mail address that is taken, a role there is not, a page that is gone and a day that is none, each on its field', async () => {
    const maud = await signInAs('Maud');
    const ask = (more: object) =>
      call(invite, 'POST', '/x', {
        ...maud,
        body: { name: 'X', email: 'x@larkhaven.example', assignments: [], ...more },
      });
    const fault = async (more: object) => {
      const { status, body } = await ask(more);
      return [status, (body['faults'] as { field: string }[] | undefined)?.[0]?.field, body.detail];
    };
    expect(await fault({ email: 'INES@larkhaven.example' })).toEqual([
      422,
      'email',
      'Ines Varga has this mail address already.',
    ]);
    expect(await fault({ assignments: [{ role: 'pirate' }] })).toEqual([
      422,
      'assignments.0',
      'There is no role “pirate” in force.',
    ]);
    expect(await fault({ assignments: [{ role: 'newsroom', branch: '99999' }] })).toEqual([
      422,
      'assignments.0.branch',
      'This page is not there any more. Choose another.',
    ]);
    expect(await fault({ assignments: [{ role: 'newsroom', until: '2027-02-30' }] })).toEqual([
      422,
      'after.0.until',
      '“2027-02-30” is not a day. Write it like 2026-11-25.',
    ]);
    expect(await fault({ assignments: [{ role: 'newsroom', from: '2027-03-02', until: '2027-03-01' }] })).toEqual([
      422,
      'assignments.0',
      '“Newsroom” would end before it begins.',
    ]);
    expect((await everybody()).some((p) => p.email === 'x@larkhaven.example')).toBe(false);
  });

  it('makes a new link when the first is lost; the lost one stops working, and so do old sessions when it is used', async () => {
    const maud = await signInAs('Maud');
    const lotte = await signInAs('Lotte');
    const id = String(lotte.id);
    const tokenOf = async () =>
      new URL(String((await call(newLink, 'POST', '/x', { ...maud, params: { id } })).body['link'])).searchParams.get(
        'token',
      ) ?? '';
    const [first, second] = [await tokenOf(), await tokenOf()];
    expect((await call(setUp, 'POST', '/x', { body: { token: first, password: 'something-else-1' } })).status).toBe(
      403,
    );
    expect((await call(setUp, 'POST', '/x', { body: { token: second, password: 'something-else-2' } })).status).toBe(
      200,
    );
    expect(await findAccess(db, lotte.token)).toBeUndefined();
  });
  it('lets nobody in after its time, nor while the account is paused', async () => {
    const maud = await signInAs('Maud');
    const oskar = await byName('Oskar');
    const tokenOf = async () =>
      new URL(
        String((await call(newLink, 'POST', '/x', { ...maud, params: { id: oskar.id } })).body['link']),
      ).searchParams.get('token') ?? '';
    const use = async (token: string) => call(setUp, 'POST', '/x', { body: { token, password: 'something-else-3' } });
    const late = await tokenOf();
    await db
      .update(setupLinks)
      .set({ expiresAt: new Date(Date.now() - 1) })
      .where(eq(setupLinks.personId, Number(oskar.id)));
    expect((await use(late)).body.detail).toBe(
      'This link was used already or is too old. Ask the keyholder for a new one.',
    );
    // Paused in whatever way, also one that left the link as it is.
    const token = await tokenOf();
    await db
      .update(peopleTable)
      .set({ suspendedAt: new Date() })
      .where(eq(peopleTable.id, Number(oskar.id)));
    expect((await use(token)).status).toBe(403);
    await db
      .update(peopleTable)
      .set({ suspendedAt: null })
      .where(eq(peopleTable.id, Number(oskar.id)));
    expect((await signIn(db, { email: oskar.email, password: 'soup-of-the-day' }, from('10.0.7.7'))).to).toBe('/room');
  });
  it('a session from before a pause does not live again after it', async () => {
    const maud = await signInAs('Maud');
    const oskar = await signInAs('Oskar');
    const set = (paused: boolean) =>
      call(pause, 'POST', '/x', { ...maud, params: { id: String(oskar.id) }, body: { paused } });
    expect((await set(true)).status).toBe(200);
    expect((await set(false)).status).toBe(200);
    expect(await findAccess(db, oskar.token)).toBeUndefined();
  });
});

describe('giving people roles', () => {
  it('counts from the first instant of the first day to the last of the last, on the site’s clock, also on summer time', async () => {
    const maud = await signInAs('Maud');
    expect((await put(maud, 'Juno', [{ role: 'newsroom', from: '2027-03-28', until: '2027-10-31' }])).status).toBe(200);
    // In London summer time begins 28 March 2027 and ends 31 October 2027, at 01:00 UTC (the tz database,
    // Europe/London; The Summer Time Order 2002; value from memory).
    expect((await byName('Juno')).assignments[0]).toMatchObject({
      fromMs: Date.UTC(2027, 2, 28, 0),
      untilMs: Date.UTC(2027, 10, 1, 0),
    });
    expect((await put(maud, 'Juno', [{ role: 'newsroom', from: '2027-06-01' }])).status).toBe(200);
    expect((await byName('Juno')).assignments[0]).toMatchObject({ fromMs: Date.UTC(2027, 4, 31, 23) });
    expect((await put(maud, 'Juno', [{ role: 'newsroom' }])).status).toBe(200);
  });
  it('keeps the very instants of what was not changed', async () => {
    const maud = await signInAs('Maud');
    const before = (await byName('Sam')).assignments[0]?.untilMs;
    expect((await put(maud, 'Sam', [...(await given('Sam')), { role: 'picture-keeper' }])).status).toBe(200);
    expect((await byName('Sam')).assignments.map((a) => a.untilMs)).toEqual([before, undefined]);
  });
  it('refuses roles kept apart, at whatever dates, and names the rule', async () => {
    const answer = await put(await signInAs('Maud'), 'Priya', [
      { role: 'second-look', until: '2060-01-01' },
      { role: 'newsroom', from: '2040-01-01' },
    ]);
    expect(answer).toMatchObject({
      status: 422,
      body: { detail: '“Second look” and “Newsroom” are kept apart: nobody may hold both, whatever the dates.' },
    });
    expect((await byName('Priya')).assignments).toHaveLength(1);
  });
  it('is not overwritten by somebody who looked earlier', async () => {
    const answer = await put(await signInAs('Maud'), 'Tomas', [], [{ role: 'cafe-manager' }]);
    expect(answer).toMatchObject({ status: 409, body: { kind: 'conflict' } });
    expect((await byName('Tomas')).assignments).toHaveLength(1);
  });
  it('never leaves a moment from now on without an active keyholder', async () => {
    const maud = await signInAs('Maud');
    expect((await put(maud, 'Maud', [])).body.detail).toBe(
      'Then nobody could look after the website: there must always be an active keyholder.',
    );
    expect((await put(maud, 'Maud', [{ role: 'keyholder', until: inDays(30) }])).body.detail).toMatch(
      /^Then there would be no keyholder from /,
    );
    expect((await put(maud, 'Maud', [{ role: 'keyholder', branch: String(await pageId('Harbours')) }])).status).toBe(
      422,
    );
    // Handed over without a gap it may end; with one it may not.
    expect(
      (await put(maud, 'Tomas', [...(await given('Tomas')), { role: 'keyholder', from: inDays(31) }])).status,
    ).toBe(200);
    expect((await put(maud, 'Maud', [{ role: 'keyholder', until: inDays(29) }])).body.detail).toMatch(
      /^Then there would be no keyholder from .+ to .+\. There must always be an active one\.$/,
    );
    expect((await put(maud, 'Maud', [{ role: 'keyholder', until: inDays(30) }])).status).toBe(200);
    expect((await put(maud, 'Tomas', [{ role: 'harbour-desk' }])).status).toBe(422);
    expect(
      (await call(pause, 'POST', '/x', { ...maud, params: { id: (await byName('Tomas')).id }, body: { paused: true } }))
        .body.detail,
    ).toMatch(/^Then there would be no keyholder from /);
    expect((await put(maud, 'Maud', [{ role: 'keyholder' }])).status).toBe(200);
    expect((await put(maud, 'Tomas', [{ role: 'harbour-desk' }])).status).toBe(200);
  });
  it('at once by two people takes one lock: the last two keyholders cannot take the keys from each other', async () => {
    const maud = await signInAs('Maud');
    expect((await put(maud, 'Oskar', [...(await given('Oskar')), { role: 'keyholder' }])).status).toBe(200);
    const oskar = await signInAs('Oskar');
    const cafe = (await given('Oskar')).filter((a) => a.role !== 'keyholder');
    const answers = await Promise.all([put(maud, 'Oskar', cafe), put(oskar, 'Maud', [])]);
    expect(answers.map((a) => a.status).filter((s) => s === 200)).toHaveLength(1);
    expect((await everybody()).filter((p) => p.assignments.some((a) => a.role === 'keyholder'))).toHaveLength(1);
    const [key] = (await everybody()).filter((p) => p.assignments.some((a) => a.role === 'keyholder'));
    if (key?.name.startsWith('Oskar')) expect((await put(oskar, 'Maud', [{ role: 'keyholder' }])).status).toBe(200);
    if (key?.name.startsWith('Oskar')) expect((await put(await signInAs('Maud'), 'Oskar', cafe)).status).toBe(200);
  });
});

describe('pausing an account', () => {
  it('ends its sessions at once; letting it work again brings nothing back but the way in', async () => {
    const [maud, tomas] = [await signInAs('Maud'), await signInAs('Tomas')];
    const set = (paused: boolean) =>
      call(pause, 'POST', '/x', { ...maud, params: { id: String(tomas.id) }, body: { paused } });
    expect((await set(true)).status).toBe(200);
    expect(await findAccess(db, tomas.token)).toBeUndefined();
    await expect(
      signIn(db, { email: 'tomas@larkhaven.example', password: 'ropes-and-ramps' }, from('10.0.0.2')),
    ).rejects.toThrow();
    expect((await set(true)).status).toBe(409);
    expect((await set(false)).status).toBe(200);
    expect(
      (await signIn(db, { email: 'tomas@larkhaven.example', password: 'ropes-and-ramps' }, from('10.0.0.2'))).to,
    ).toBe('/room');
    expect(
      (await call(pause, 'POST', '/x', { ...maud, params: { id: String(maud.id) }, body: { paused: true } })).status,
    ).toBe(403);
  });
});

describe('somebody who may invite but holds no keys', () => {
  it('gives roles to others, but cannot make or touch a keyholder, nor change what they may do themselves', async () => {
    const maud = await signInAs('Maud');
    const state = await getPlanState(db, inventory, await siteId(), { personId: 0, role: null });
    const added = await call(change, 'POST', '/x', {
      ...maud,
      body: {
        revision: state.revision,
        operations: [
          { do: 'add-role', role: 'staff', name: 'Staff', purpose: '' },
          { do: 'add-grant', role: 'staff', grant: { id: 'p', effect: 'allow', permission: 'person.*', scope: {} } },
          { do: 'set-door', role: 'staff', section: 'people', state: 'open' },
        ],
      },
    });
    expect(added.status).toBe(200);
    expect(
      (await call(goLive, 'POST', '/x', { ...maud, body: { revision: added.body['revision'], note: '' } })).status,
    ).toBe(200);
    expect((await put(maud, 'Lotte', [...(await given('Lotte')), { role: 'staff' }])).status).toBe(200);
    const lotte = await signInAs('Lotte');
    // What Sam had they may keep or lose; what Lotte has not herself she cannot give.
    expect((await put(lotte, 'Sam', [{ role: 'picture-keeper' }])).status).toBe(200);
    expect((await put(lotte, 'Sam', [{ role: 'front-line' }])).body.detail).toBe(
      'This would hand out more than you have yourself: see all notices. Ask a keyholder.',
    );
    expect((await put(lotte, 'Sam', [{ role: 'keyholder' }])).status).toBe(403);
    expect((await put(lotte, 'Maud', [])).status).toBe(403);
    expect((await put(lotte, 'Lotte', [{ role: 'newsroom' }])).body.detail).toBe(
      'You cannot change what you may do yourself. Ask a keyholder.',
    );
    expect((await call(newLink, 'POST', '/x', { ...lotte, params: { id: String(maud.id) } })).status).toBe(403);
    expect(
      (await call(newLink, 'POST', '/x', { ...lotte, params: { id: String((await byName('Ines'))?.id) } })).body.detail,
    ).toMatch(/^Ines Varga may do more than you: /);
    // Secrets are shown once, to whoever made them; nobody finds them in the outbox.
    const token =
      new URL(
        String((await call(newLink, 'POST', '/x', { ...maud, params: { id: String(maud.id) } })).body['link']),
      ).searchParams.get('token') ?? '';
    expect(token).toHaveLength(43);
    expect(JSON.stringify(await listMails(db, await accessOf('Maud')))).not.toContain(token);
    expect((await listMails(db, await accessOf('Lotte'))).length).toBeGreaterThan(0);
    expect(
      (
        await call(invite, 'POST', '/x', {
          ...lotte,
          body: { name: 'Y', email: 'y@larkhaven.example', assignments: [{ role: 'keyholder' }] },
        })
      ).status,
    ).toBe(403);
    expect(
      (
        await call(importPeople, 'POST', '/x', {
          ...lotte,
          body: { csv: 'name,email,role\nZ,z@larkhaven.example,keyholder', confirm: false },
        })
      ).body['rows'],
    ).toMatchObject([{ outcome: 'fault' }]);
  });
});

describe('reading people from a file', () => {
  const csv =
    'Email,Name,Role,Branch,From,Until\r\nnils@larkhaven.example,"Berg, Nils",Seasonal helper,/harbours,2027-05-01,2027-09-30\r\nnils@larkhaven.example,,picture-keeper,,,\r\nines@larkhaven.example,Ines Varga,harbour-desk,,,\r\njuno@larkhaven.example,Juno Park,picture-keeper,,,\r\n';
  it('first tells what would happen, line by line, and does nothing', async () => {
    const before = (await everybody()).length;
    const answer = await call(importPeople, 'POST', '/x', {
      ...(await signInAs('Maud')),
      body: { csv, confirm: false },
    });
    expect(answer.body['rows']).toMatchObject([
      {
        line: 2,
        name: 'Berg, Nils',
        outcome: 'new',
        says: 'Invited as Seasonal helper, under Harbours, from 1 May 2027 to 30 September 2027.',
      },
      { line: 3, outcome: 'more', says: 'Gets the role Picture keeper.' },
      { line: 4, outcome: 'same' },
      { line: 5, outcome: 'more' },
    ]);
    expect((await everybody()).length).toBe(before);
  });
  it('tells everything that is wrong with a line at once', async () => {
    const answer = await call(importPeople, 'POST', '/x', {
      ...(await signInAs('Maud')),
      body: {
        csv: 'name,email,role,branch,from,until\nKit,kit@,nobody-here,/nowhere,2027-13-01,\nInez Vargas,ines@larkhaven.example,,,,',
        confirm: false,
      },
    });
    const [first, second] = (answer.body['rows'] as { outcome: string; says: string }[]).map(({ outcome, says }) =>
      outcome === 'fault' ? says : '',
    );
    for (const words of ['Write a mail address', 'There is no page at “/nowhere”.', '2027-13-01'])
      expect(first).toContain(words);
    for (const words of ['No role is named.', 'belongs to Ines Varga']) expect(second).toContain(words);
  });
  it('then does it all together, or nothing while a line has a fault', async () => {
    const maud = await signInAs('Maud');
    const bad = await call(importPeople, 'POST', '/x', {
      ...maud,
      body: { csv: `${csv}who,Nobody,newsroom,/nowhere,,\r\n`, confirm: true },
    });
    expect(bad).toMatchObject({ status: 422, body: { detail: '1 line has a fault, so nobody was added.' } });
    expect((await everybody()).some((p) => p.email === 'nils@larkhaven.example')).toBe(false);
    expect((await call(importPeople, 'POST', '/x', { ...maud, body: { csv, confirm: true } })).status).toBe(200);
    expect(await byName('Berg')).toMatchObject({
      invited: true,
      assignments: [{ role: 'seasonal-helper', branch: String(await pageId('Harbours')) }, { role: 'picture-keeper' }],
    });
    expect((await byName('Juno')).assignments.map((a) => a.role)).toEqual(['newsroom', 'picture-keeper']);
    // Two lines for somebody who is there already: the second adds to the first.
    const twice = `name,email,role\n,tomas@larkhaven.example,Newsroom\n,tomas@larkhaven.example,Seasonal helper\n`;
    const held = (await byName('Tomas')).assignments.map((a) => a.role);
    expect((await call(importPeople, 'POST', '/x', { ...maud, body: { csv: twice, confirm: true } })).status).toBe(200);
    expect((await byName('Tomas')).assignments.map((a) => a.role)).toEqual([...held, 'newsroom', 'seasonal-helper']);
    expect((await listMails(db, await accessOf('Maud'))).filter((m) => m.to === 'nils@larkhaven.example')).toHaveLength(
      1,
    );
  });
  it.each([
    ['no head', 'nils@larkhaven.example,Nils', 'The first line must name the columns'],
    ['quotes that do not close', 'name,email,role\n"Nils,n@x.example,newsroom', 'This is not a CSV file'],
    ['nobody', 'name,email,role\n', 'There is nobody in this file'],
  ])('says what is wrong with a file that has %s', async (_, text, says) => {
    expect(
      (await call(importPeople, 'POST', '/x', { ...(await signInAs('Maud')), body: { csv: text, confirm: false } }))
        .body.detail,
    ).toContain(says);
  });
});

describe('another name or mail address', () => {
  const put = async (by: { cookie: string }, first: string, after: object, before?: object) => {
    const { id, name, email } = await byName(first);
    return call(details, 'PUT', '/x', {
      ...by,
      params: { id },
      body: { before: before ?? { name, email }, name, email, ...after },
    });
  };
  it('is signed in with from then on; both addresses are written to, a link not used yet ends, and the activity tells it', async () => {
    const maud = await signInAs('Maud');
    const tomas = await byName('Tomas');
    const made = await call(newLink, 'POST', '/x', { ...maud, params: { id: tomas.id } });
    const token = new URL(String(made.body['link'])).searchParams.get('token') ?? '';
    expect(
      (await put(maud, 'Tomas', { name: 'Tomas Reed-Iversen', email: 'tomas.iversen@larkhaven.example' })).status,
    ).toBe(200);
    expect(
      (await listMails(db, await accessOf('Maud')))
        .slice(0, 2)
        .map((m) => m.to)
        .sort(),
    ).toEqual(['tomas.iversen@larkhaven.example', 'tomas@larkhaven.example']);
    expect((await call(setUp, 'POST', '/x', { body: { token, password: 'says-what-it-shows-2' } })).status).toBe(403);
    const sign = (email: string) => signIn(db, { email, password: 'ropes-and-ramps' }, from('10.0.9.9'));
    await expect(sign('tomas@larkhaven.example')).rejects.toThrow('do not fit together');
    expect((await sign('Tomas.Iversen@larkhaven.example')).to).toBe('/room');
    // A name alone writes to nobody.
    const mails = (await listMails(db, await accessOf('Maud'))).length;
    expect((await put(maud, 'Tomas', { name: 'Tomas Reed' })).status).toBe(200);
    expect((await put(maud, 'Tomas', { email: 'tomas@larkhaven.example' })).status).toBe(200);
    expect((await listMails(db, await accessOf('Maud'))).length).toBe(mails + 2);
  });
  it('is refused where somebody has it, where they were changed meanwhile, and by who may do less than they', async () => {
    const maud = await signInAs('Maud');
    expect((await put(maud, 'Lotte', { email: 'JUNO@larkhaven.example' })).body).toMatchObject({
      faults: [{ field: 'email', message: 'Juno Park has this mail address already.' }],
    });
    expect(
      (await put(maud, 'Lotte', { email: 'x@larkhaven.example' }, { name: 'Lotte', email: 'lotte@larkhaven.example' }))
        .status,
    ).toBe(409);
    await db.transaction(async (tx) => {
      const { setDetails } = await import('@/server/people/details');
      const ines = await accessOf('Ines');
      const [m, l] = [await byName('Maud'), await byName('Lotte')];
      await expect(
        setDetails(tx, ines, Number(m.id), { before: m, name: 'Mine', email: 'mine@larkhaven.example' }),
      ).rejects.toThrow('Only a keyholder can change a keyholder.');
      await expect(
        setDetails(tx, ines, Number(l.id), { before: l, name: 'Mine', email: 'mine@larkhaven.example' }),
      ).rejects.toThrow('Lotte Brand may do more than you');
    });
    expect(await byName('Lotte')).toMatchObject({ name: 'Lotte Brand', email: 'lotte@larkhaven.example' });
  });
});

describe('the same for several people', () => {
  const ask = async (by: { cookie: string }, names: string[], change: object, confirm: boolean) =>
    call(many, 'POST', '/x', {
      ...by,
      body: { people: await Promise.all(names.map(async (name) => Number((await byName(name)).id))), change, confirm },
    });
  it('is told for each beforehand and changes nothing until confirmed; then who may not is left out, and the others are done', async () => {
    const maud = await signInAs('Maud');
    const before = JSON.stringify(await everybody());
    const give = {
      do: 'give',
      assignment: { role: 'picture-keeper', branch: String(await pageId('Harbours')), until: inDays(9) },
    };
    const told = await ask(maud, ['Tomas', 'Ines'], give, false);
    expect(told.body).toMatchObject({
      done: false,
      rows: [
        {
          name: 'Tomas Reed',
          outcome: 'done',
          says: expect.stringContaining('Given: Picture keeper, under Harbours, to ') as string,
        },
        { name: 'Ines Varga', outcome: 'done' },
      ],
    });
    expect(JSON.stringify(await everybody())).toBe(before);
    expect((await ask(maud, ['Tomas', 'Ines'], give, true)).body['rows']).toEqual(told.body['rows']);
    expect((await byName('Ines')).assignments).toHaveLength(2);
    expect((await ask(maud, ['Ines', 'Juno'], give, false)).body).toMatchObject({
      rows: [{ outcome: 'same', says: 'Holds this already.' }, { outcome: 'done' }],
    });
    expect(
      (await ask(maud, ['Tomas', 'Ines', 'Juno'], { do: 'take', role: 'picture-keeper' }, true)).body,
    ).toMatchObject({ rows: [{ outcome: 'done' }, { outcome: 'done' }, { name: 'Juno Park' }] });
    expect((await byName('Ines')).assignments).toHaveLength(1);
    // Two who are all the keyholders there are: never both.
    await put(maud, 'Priya', [{ role: 'keyholder' }]);
    const priya = await signInAs('Priya');
    expect((await ask(priya, ['Maud', 'Priya', 'Tomas'], { do: 'pause' }, true)).body).toMatchObject({
      rows: [
        { name: 'Maud Ellery', outcome: 'done' },
        { name: 'Priya Nand', outcome: 'fault', says: 'You cannot pause your own account: you would be locked out.' },
        { outcome: 'done' },
      ],
    });
    expect((await byName('Maud')).suspended).toBe(true);
    expect((await ask(priya, ['Maud', 'Tomas', 'Ines'], { do: 'resume' }, true)).body).toMatchObject({
      rows: [{ outcome: 'done' }, { outcome: 'done' }, { name: 'Ines Varga', outcome: 'same', says: 'Is not paused.' }],
    });
    await put(await signInAs('Maud'), 'Priya', [{ role: 'second-look' }]);
  });
  it('gives nobody what whoever asks does not have, nor themselves anything', async () => {
    const maud = await accessOf('Maud');
    const { changeMany } = await import('@/server/people/many');
    const oskar = await accessOf('Oskar');
    const ids = async (...names: string[]) => Promise.all(names.map(async (name) => Number((await byName(name)).id)));
    const give = (role: string) => ({ do: 'give' as const, assignment: { role } });
    expect(
      (
        await changeMany(db, oskar, { people: await ids('Oskar', 'Juno'), change: give('keyholder'), confirm: true })
      ).rows.map((row) => row.says),
    ).toEqual([
      'You cannot change what you may do yourself. Ask a keyholder.',
      expect.stringContaining('This would hand out more than you have yourself'),
    ]);
    expect(
      (await changeMany(db, oskar, { people: await ids('Maud'), change: give('newsroom'), confirm: true })).rows.map(
        (row) => row.says,
      ),
    ).toEqual(['Only a keyholder can change a keyholder.']);
    expect(
      (
        await changeMany(db, maud, {
          people: await ids('Maud'),
          change: { do: 'take', role: 'keyholder' },
          confirm: true,
        })
      ).rows,
    ).toMatchObject([
      { outcome: 'fault', says: expect.stringContaining('there must always be an active keyholder') as string },
    ]);
  });
});

describe('archiving a role', () => {
  it('is refused while somebody holds it, offered after they are moved, and nobody can be given it then', async () => {
    const maud = await signInAs('Maud');
    const archive = async () =>
      call(change, 'POST', '/x', {
        ...maud,
        body: {
          revision: (await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).revision,
          operations: [{ do: 'archive-role', role: 'cafe-manager', archived: true }],
        },
      });
    expect(await archive()).toMatchObject({
      status: 422,
      body: { detail: 'Oskar Finch still holds “Café manager”. Give them other roles first.' },
    });
    expect(
      (await call(move, 'POST', '/x', { ...maud, body: { from: 'cafe-manager', to: 'picture-keeper' } })).body,
    ).toMatchObject({ moved: 1 });
    expect((await byName('Oskar')).assignments).toMatchObject([
      { role: 'picture-keeper', branch: String(await pageId('The Slipway Café')) },
    ]);
    expect((await archive()).status).toBe(200);
    expect((await put(maud, 'Oskar', [{ role: 'cafe-manager' }])).body.detail).toBe(
      'The role “Café manager” is archived; nobody can be given it.',
    );
    expect(
      (await call(move, 'POST', '/x', { ...maud, body: { from: 'picture-keeper', to: 'cafe-manager' } })).status,
    ).toBe(422);
  });
  it('is refused for a role that others build on', async () => {
    const answer = await call(change, 'POST', '/x', {
      ...(await signInAs('Maud')),
      body: {
        revision: (await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).revision,
        operations: [{ do: 'archive-role', role: 'front-line', archived: true }],
      },
    });
    expect(answer.body.detail).toBe('Other roles build on this one. Let them stand on their own first.');
  });
  it('going live is refused while somebody holds what the plan keeps apart', async () => {
    const maud = await signInAs('Maud');
    expect((await put(maud, 'Juno', [{ role: 'newsroom' }, { role: 'picture-keeper' }])).status).toBe(200);
    const { revision } = await getPlanState(db, inventory, await siteId(), { personId: 0, role: null });
    expect(
      (
        await call(change, 'POST', '/x', {
          ...maud,
          body: {
            revision,
            operations: [{ do: 'keep-apart', role: 'newsroom', other: 'picture-keeper', apart: true }],
          },
        })
      ).status,
    ).toBe(200);
    expect(
      (await call(goLive, 'POST', '/x', { ...maud, body: { revision: revision + 1, note: '' } })).body.detail,
    ).toBe('Juno Park holds “Newsroom” and “Picture keeper”, which shall be kept apart. Give them other roles first.');
  });
});

describe('whom to ask', () => {
  it('is a keyholder who is one now: not one whose time is over, has not begun, or who is paused', async () => {
    const site = await siteId();
    const maud = Number((await byName('Maud')).id);
    const set = (values: object) =>
      db
        .update(assignmentsTable)
        .set(values)
        .where(and(eq(assignmentsTable.personId, maud), eq(assignmentsTable.roleId, 'keyholder')));
    const second = await addPerson(db, { siteId: site, name: 'Zoe Last', email: 'zoe@larkhaven.example' });
    await db.insert(assignmentsTable).values({ siteId: site, personId: second, roleId: 'keyholder' });
    const day = 86_400_000;
    expect(await findKeyholderName(db, site)).toBe('Maud Ellery');
    for (const values of [
      { untilAt: new Date(Date.now() - day) },
      { untilAt: null, fromAt: new Date(Date.now() + day) },
    ]) {
      await set(values);
      expect(await findKeyholderName(db, site)).toBe('Zoe Last');
    }
    await set({ fromAt: null, untilAt: null });
    await db.update(peopleTable).set({ suspendedAt: new Date() }).where(eq(peopleTable.id, maud));
    expect(await findKeyholderName(db, site)).toBe('Zoe Last');
    await db.update(peopleTable).set({ suspendedAt: null }).where(eq(peopleTable.id, maud));
    await db.delete(assignmentsTable).where(eq(assignmentsTable.personId, second));
  });
});

describe('hints', () => {
  it('tell of a keyholder who does editors’ work day by day, and of nobody else', async () => {
    const site = await siteId();
    expect(await busyKeyholders(db, site, await everybody())).toEqual([{ name: 'Maud Ellery', times: 4 }]);
    await db.update(peopleTable).set({ suspendedAt: new Date() }).where(eq(peopleTable.name, 'Maud Ellery'));
    expect(await busyKeyholders(db, site, await everybody())).toEqual([]);
    await db.update(peopleTable).set({ suspendedAt: null }).where(eq(peopleTable.name, 'Maud Ellery'));
    expect((await accessOf('Maud')).who.name).toBe('Maud Ellery');
  });
});
