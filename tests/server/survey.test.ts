import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Ajv2020 from 'ajv/dist/2020';
import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { decide, openBundle, VISIT } from '@/core/access';
import { policyOf, type Plan } from '@/core/plan';
import { GET as mapCsv } from '@/pages/api/access/map';
import { GET as why } from '@/pages/api/access/why';
import { PUT as audience } from '@/pages/api/pages/[id]/audience';
import { GET as exportRoute } from '@/pages/api/workshop/export';
import { POST as history } from '@/pages/api/workshop/history';
import { POST as importRoute } from '@/pages/api/workshop/import';
import { loadSurvey, mapRows, permissionIdsOf, whatCan, whoCan } from '@/server/access/survey';
import { mayVisit } from '@/server/gate/authorize';
import { findPlace, listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { getPlanState } from '@/server/plan/plans';
import { compareRoles } from '@/server/plan/compare';
import { listPeople } from '@/server/people/people';
import { accessOf, call, pageId, signInAs, siteId } from './ask';
import { inventory } from '../inventory';

const survey = async (rows: 'people' | 'roles' = 'people') =>
  loadSurvey(db, await accessOf('Maud'), { plan: 'live', rows, branch: null, on: null });
const exported = async (query: string) => {
  const answer = await call(exportRoute, 'GET', `/api/workshop/export?${query}`, await signInAs('Maud'));
  return { ...answer, text: String(answer.body['text']) };
};

const LONDON = { timeZone: 'Europe/London', language: 'en-GB' };

describe('the access map', () => {
  it('says yes, some or no just as decide() does page by page, for people and roles, on every branch', async () => {
    for (const rows of ['people', 'roles'] as const) {
      const s = await survey(rows);
      for (const branch of [null, String(await pageId('Harbours')), String(await pageId('Jobs'))]) {
        const there = s.pages.filter((p) => branch === null || p.place.path.includes(branch));
        for (const row of mapRows(s, branch))
          row.cells.forEach((cell, i) => {
            const permission = permissionIdsOf(inventory)[i] ?? '';
            const placed = inventory.permissions.get(permission as never)?.placed;
            const ask = (more: object) =>
              decide(s.policy, { person: row.id, permission, atMs: s.atMs, ...more }).allowed;
            const answers = placed ? there.map((p) => ask({ place: p.place })) : [ask({}), ask({ author: row.id })];
            expect(cell, `${row.name}, ${permission}, ${branch}`).toBe(
              answers.every(Boolean) ? 'yes' : answers.some(Boolean) ? 'some' : 'no',
            );
          });
      }
    }
  });
  it('is taken out as CSV with the same words', async () => {
    const answer = await call(mapCsv, 'GET', '/api/access/map?rows=roles', await signInAs('Maud'));
    const [head, ...rows] = parse(String(answer.body['text']), { columns: false });
    expect(head).toEqual(['role', 'id', ...permissionIdsOf(inventory)]);
    expect(rows).toEqual(mapRows(await survey('roles'), null).map((row) => [row.name, row.id, ...row.cells]));
    expect(String(answer.body['text'])).toContain('\r\n');
  });
  it('says why, pages with the same reason together', async () => {
    const maud = await signInAs('Maud');
    const ines = (await listPeople(db, await siteId())).find((p) => p.name.startsWith('Ines'));
    const answer = await call(why, 'GET', `/api/access/why?row=${ines?.id}&permission=page.edit`, maud);
    expect(answer.body['groups']).toMatchObject([
      { allowed: false, words: 'Harbour desk may change pages under Harbours, but this lies elsewhere.', count: 14 },
      { allowed: true, words: 'Harbour desk may change pages, under Harbours.', count: 8 },
    ]);
    expect((await call(why, 'GET', '/api/access/why?row=nobody&permission=page.edit', maud)).status).toBe(404);
  });
});

describe('who can, and what can they', () => {
  it('name just whom decide() allows, by which way and how long', async () => {
    const s = await survey();
    const quay = s.pages.find((p) => p.address === '/harbours/south-quay');
    const { able, unable, everyone } = whoCan(s, 'notice.post', quay?.place, LONDON);
    expect(able.map((a) => a.name)).toEqual(['Ines Varga', 'Maud Ellery', 'Sam Ollis', 'Tomas Reed']);
    expect(able.find((a) => a.name === 'Sam Ollis')).toMatchObject({
      ways: ['Seasonal helper (from “Front line”) may post notices, on the whole site.'],
      until: expect.stringMatching(/^to \d+ \w+/) as string,
    });
    expect([unable.map((one) => one.name), everyone]).toEqual([
      ['Juno Park', 'Lotte Brand', 'Oskar Finch', 'Priya Nand'],
      false,
    ]);
    expect(unable.find((one) => one.name === 'Oskar Finch')?.words).toBe(
      'Café manager may post notices under Café, but this lies elsewhere.',
    );
    expect(whoCan(s, VISIT, quay?.place, LONDON).everyone).toBe(true);
    expect(whoCan(s, VISIT, s.pages.find((p) => p.address === '/about/crew')?.place, LONDON)).toMatchObject({
      everyone: false,
      unable: [],
    });
  });
  it('tell what one person can do in the words of their tasks and permission by permission', async () => {
    const s = await survey();
    const oskar = s.people.find((p) => p.name.startsWith('Oskar'));
    if (!oskar) throw new Error('no Oskar');
    const { tasks, sections } = whatCan(s, oskar);
    expect(tasks.filter((t) => t.verdict.can).map((t) => t.name)).toEqual([
      'Change the café hours or the menu',
      'Tell visitors that the café is closed',
      'End a notice',
    ]);
    const pages = sections.find((x) => x.name === 'Pages')?.rows;
    expect(pages?.find((r) => r.name === 'change pages')).toEqual({
      id: 'page.edit',
      name: 'change pages',
      extent: 'some',
      where: ['under Café'],
    });
    expect(pages?.find((r) => r.name === 'publish pages without a second look')).toMatchObject({
      extent: 'no',
      where: [],
    });
  });
  it('two roles side by side: same words where they agree, rows neither has left out', async () => {
    const s = await survey();
    const groups = compareRoles(inventory, s.plan, 'harbour-desk', 'seasonal-helper', s.people, s.pages);
    const row = (group: string, name: string) =>
      groups.find((g) => g.name === group)?.rows.find((r) => r.name === name);
    expect(row('May, with what it inherits', 'post notices')).toMatchObject({ a: 'everywhere', b: 'everywhere' });
    expect(row('May, with what it inherits', 'change pages')).toMatchObject({ a: 'under Harbours', b: '' });
    expect(row('The role', 'Held by')).toMatchObject({ a: 'Ines Varga, Tomas Reed', b: 'Sam Ollis' });
    expect(row('Toolbar', 'Table')).toBeUndefined();
    for (const group of compareRoles(inventory, s.plan, 'newsroom', 'newsroom', s.people, s.pages))
      for (const r of group.rows) expect(r.a).toBe(r.b);
  });
});

describe('the plan as a file', () => {
  it('as JSON comes back as it went out, and fits its published schema (ajv, JSON Schema 2020-12)', async () => {
    const plan = await exported('as=json');
    expect(plan.headers.get('content-disposition')).toBe('attachment; filename="plan.json"');
    const validate = new Ajv2020({ strict: false }).compile(JSON.parse((await exported('as=schema')).text) as object);
    expect(validate(JSON.parse(plan.text))).toBe(true);
    const answer = await call(importRoute, 'POST', '/x', { ...(await signInAs('Maud')), body: { text: plan.text } });
    expect(answer.body).toMatchObject({ differences: [] });
  });
  it('shows the differences first and changes nothing until confirmed; then one undo takes it back', async () => {
    const maud = await signInAs('Maud');
    const before = await getPlanState(db, inventory, await siteId(), { personId: 0, role: null });
    const changed = {
      ...before.plan,
      roles: before.plan.roles
        .filter((r) => r.id !== 'seasonal-helper')
        .map((r) => (r.id === 'newsroom' ? { ...r, name: 'Press room' } : r)),
    };
    const told = await call(importRoute, 'POST', '/x', { ...maud, body: { text: JSON.stringify(changed) } });
    expect(told.body['differences']).toMatchObject([
      { role: 'newsroom', lines: ['The role is now called “Press room”.'] },
      {
        role: 'seasonal-helper',
        lines: ['This role is gone.', 'Still held by Sam Ollis: once this goes live it gives this person nothing.'],
      },
    ]);
    expect((await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).revision).toBe(
      before.revision,
    );
    expect(
      (
        await call(importRoute, 'POST', '/x', {
          ...maud,
          body: { text: JSON.stringify(changed), confirm: before.revision - 1 },
        })
      ).status,
    ).toBe(409);
    expect(
      (
        await call(importRoute, 'POST', '/x', {
          ...maud,
          body: { text: JSON.stringify(changed), confirm: before.revision },
        })
      ).body,
    ).toMatchObject({ done: true });
    expect(
      (await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).plan.roles.some(
        (r) => r.name === 'Press room',
      ),
    ).toBe(true);
    await call(history, 'POST', '/x', { ...maud, body: { direction: 'undo', role: null } });
    expect((await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).plan).toEqual(before.plan);
  });
  it('names pages by their addresses, and takes them so, or by number', async () => {
    const maud = await signInAs('Maud');
    const text = (await exported('as=json')).text;
    const harbours = await pageId('Harbours');
    expect(text).toContain('"branch": "/harbours"');
    expect(text).not.toMatch(/"branch": "\d/);
    expect((await exported('as=csv')).text).toContain('harbour-desk,page.edit,/harbours,allow');
    // The same by number says the same; another page by its address is another rule.
    expect(
      (
        await call(importRoute, 'POST', '/x', {
          ...maud,
          body: { text: text.replaceAll('"branch": "/harbours"', `"branch": "${harbours}"`) },
        })
      ).body,
    ).toMatchObject({ differences: [] });
    expect(
      JSON.stringify(
        (
          await call(importRoute, 'POST', '/x', {
            ...maud,
            body: { text: text.replaceAll('"branch": "/harbours"', '"branch": "/fares", "only": true') },
          })
        ).body,
      ),
    ).toContain('on Fares alone');
  });
  it('tells everything that is wrong at once, each with its place: its form, what it names of itself, what this website does not have', async () => {
    const maud = await signInAs('Maud');
    const faultsFor = async (text: string) =>
      (
        (await call(importRoute, 'POST', '/x', { ...maud, body: { text } })).body['faults'] as {
          field: string;
          message: string;
        }[]
      ).map((f) => `${f.field} ${f.message}`);
    const plan = JSON.parse((await exported('as=json')).text) as {
      roles: { id: string; extends: string[]; grants: object[]; tasks: object[]; doors: object[] }[];
    };
    const [, first, second] = plan.roles;
    if (!first || !second) throw new Error('too few roles');
    first.grants.push(
      { id: 'odd', effect: 'perhaps', permission: 'page.fly', scope: { branch: '/nowhere' } },
      { id: 'alone', effect: 'allow', permission: 'page.edit', scope: { only: true } },
    );
    first.extends = ['ghost'];
    second.tasks.push({ task: 'moon.walk' });
    second.doors.push(second.doors[0] as object);
    const at = (n: number) => `$.roles[1].grants[${first.grants.length - n}]`;
    expect((await faultsFor(JSON.stringify(plan))).sort()).toEqual(
      [
        `${at(1)}.scope.only needs the page as branch`,
        `${at(2)}.effect this should be one of "allow", "deny"`,
        `${at(2)}.permission the back office knows no permission "page.fly"`,
        `${at(2)}.scope.branch there is no page "/nowhere" on this website`,
        '$.roles[1].extends no role "ghost"',
        '$.roles[2].doors an entry stands there twice',
        `$.roles[2].tasks[${second.tasks.length - 1}].task the back office knows no task "moon.walk"`,
      ].sort(),
    );
    expect(
      (
        await faultsFor(
          'role,permission,branch,effect,layouts\npirate,page.view,,allow,\nnewsroom,page.view,/nowhere,allow,sail\nnewsroom,page.fly,,never,',
        )
      ).sort(),
    ).toEqual([
      'line 2 role there is no role "pirate"',
      'line 3 branch there is no page "/nowhere" on this website',
      'line 3 layouts[0] there is no layout "sail"',
      'line 4 effect this should be one of "allow", "deny"',
      'line 4 permission the back office knows no permission "page.fly"',
    ]);
  });
  it('as a matrix (RFC 4180) replaces the rules of the roles it names, and no others', async () => {
    const maud = await signInAs('Maud');
    const csv = (await exported('as=csv')).text;
    expect(csv.split('\r\n')[0]).toBe('role,permission,branch,effect,own,layouts,states,only,fields');
    expect((await call(importRoute, 'POST', '/x', { ...maud, body: { text: csv } })).body).toMatchObject({
      differences: [],
    });
    const cafe = await pageId('The Slipway Café');
    const less = `role,permission,branch,effect,own,layouts,states\r\nnewsroom,page.view,,allow,,,\r\nnewsroom,page.edit,${cafe},deny,yes,plain banner,draft\r\n`;
    const told = await call(importRoute, 'POST', '/x', { ...maud, body: { text: less } });
    expect((told.body['differences'] as { role: string }[]).map((d) => d.role)).toEqual(['newsroom']);
    expect(JSON.stringify(told.body)).toContain(
      'They must no longer change pages that are drafts, with layout “Plain page” or “Page with banner”, under The Slipway Café, only their own work.',
    );
  });
  it.each([
    ['JSON that is none', '{"format"', '$', 'not JSON'],
    [
      'a layout nobody knows, the second of two',
      (plan: Plan) => {
        const r = plan.roles[1];
        if (r?.grants[0]) r.grants[0].scope = { layouts: ['harbour', 'harbuor'] };
        return JSON.stringify(plan);
      },
      '$.roles[1].grants[0].scope.layouts[1]',
      'no layout "harbuor"',
    ],
    [
      'a permission nobody knows',
      (plan: Plan) => {
        const r = plan.roles[1];
        if (r?.grants[0]) r.grants[0].permission = 'page.fly';
        return JSON.stringify(plan);
      },
      '$.roles[1].grants[0].permission',
      'knows no permission "page.fly"',
    ],
    [
      'a page that is not here',
      (plan: Plan) => {
        const r = plan.roles[1];
        if (r?.grants[0]) r.grants[0].scope = { branch: '9999' };
        return JSON.stringify(plan);
      },
      '$.roles[1].grants[0].scope.branch',
      'no page "9999"',
    ],
    [
      'no keyholder',
      (plan: Plan) => JSON.stringify({ ...plan, roles: plan.roles.slice(1) }),
      '$.roles',
      'the keyholder role must be there',
    ],
    [
      'a matrix with a role there is not',
      'role,permission,effect\npirate,page.view,allow',
      'line 2 role',
      'there is no role "pirate"',
    ],
    [
      'a matrix that takes the keys away',
      'role,permission,effect\nkeyholder,page.view,allow',
      '$.roles',
      'the keyholder role must be there',
    ],
  ] as [string, string | ((plan: Plan) => string), string, string][])(
    'with %s is refused, with the place',
    async (_, make, path, says) => {
      const text =
        typeof make === 'string'
          ? make
          : make(
              structuredClone((await getPlanState(db, inventory, await siteId(), { personId: 0, role: null })).plan),
            );
      const answer = await call(importRoute, 'POST', '/x', { ...(await signInAs('Maud')), body: { text } });
      expect(answer.status).toBe(422);
      const faults = answer.body['faults'] as { field: string; message: string }[];
      expect(
        faults.some((f) => f.field === path && f.message.includes(says)),
        JSON.stringify(faults),
      ).toBe(true);
    },
  );
  it('for deciding elsewhere answers like the site itself: every person, permission and page, through the command', async () => {
    const { text } = await exported('as=bundle&live');
    expect(openBundle(JSON.parse(text)).ok).toBe(true);
    const s = await survey();
    const policy = policyOf(inventory, s.plan, s.people);
    const file = join(mkdtempSync(join(tmpdir(), 'safe-room-bundle-')), 'bundle.json');
    writeFileSync(file, text);
    const at = '2026-12-01T12:00:00Z';
    const questions = s.people.flatMap((p) =>
      permissionIdsOf(inventory).flatMap((permission) => [
        ...s.pages.slice(0, 12).map((page) => ({ person: p.id, permission, page: page.id, at })),
        { person: p.id, permission, thing: { kind: 'thing', author: p.id }, at },
      ]),
    );
    const run = (input: string) =>
      spawnSync(process.execPath, ['--import', 'tsx', 'scripts/cli.ts', 'decide', '--bundle', file], {
        input,
        encoding: 'utf8',
        maxBuffer: 1e8,
        env: { PATH: process.env['PATH'] },
      });
    const done = run(questions.map((q) => JSON.stringify(q)).join('\n'));
    expect([done.status, done.stderr]).toEqual([0, '']);
    const answers = done.stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { allowed: boolean; decidedBy: object | null; because: object[] });
    expect(answers).toHaveLength(questions.length);
    answers.forEach((answer, i) => {
      const q = questions[i] as { person: string; permission: string; page?: string };
      const place = s.pages.find((p) => p.id === q.page)?.place;
      expect(answer.allowed, JSON.stringify(q)).toBe(
        decide(policy, { person: q.person, permission: q.permission, place, author: q.person, atMs: Date.parse(at) })
          .allowed,
      );
      expect(answer.decidedBy === null || answer.because.length > 0).toBe(true);
    });
    const bad = run('{"person":"nobody","permission":"page.edit","at":"2026-12-01T12:00:00Z"}\n{"person":\n');
    expect([bad.status, bad.stdout]).toEqual([2, '']);
    expect(
      bad.stderr
        .trim()
        .split('\n')
        .map((line) => line.slice(0, 40)),
    ).toEqual(['line 1, $.person: there is no person "no', expect.stringContaining('line 2, $: not JSON')]);
  });
});

describe('who may visit a page', () => {
  it('holds on the website for the page and all below, is resolved by decide(), and is set by who may publish it', async () => {
    const about = await pageId('About us');
    const jobs = await pageId('Jobs');
    const site = await siteId();
    const place = async (id: number) => {
      const found = await findPlace(db, site, id);
      if (!found) throw new Error('no page');
      return found;
    };
    const set = async (by: string, id: number, value: unknown) =>
      call(audience, 'PUT', '/x', { ...(await signInAs(by)), params: { id: String(id) }, body: { audience: value } });
    expect((await set('Ines', await pageId('South Quay'), { kind: 'members' })).status).toBe(403);
    expect((await set('Juno', about, { kind: 'roles', roles: ['front-line'] })).status).toBe(200);
    const sees = async (first: string | null, id: number) =>
      mayVisit(first === null ? undefined : await accessOf(first), await place(id));
    // Harbour desk extends front line; the café manager does not; the page below says nothing of its own.
    expect([
      await sees(null, jobs),
      await sees('Ines', jobs),
      await sees('Oskar', jobs),
      await sees('Maud', jobs),
    ]).toEqual([false, true, false, true]);
    // Members only stays members only below.
    expect([await sees('Oskar', await pageId('For the crew')), await sees(null, await pageId('For the crew'))]).toEqual(
      [true, false],
    );
    expect((await set('Juno', jobs, { kind: 'everyone' })).status).toBe(200);
    expect(await sees(null, jobs)).toBe(true);
    expect((await set('Juno', jobs, { kind: 'roles', roles: ['pirate'] })).status).toBe(422);
    expect((await set('Juno', about, null)).status).toBe(200);
    expect(await sees(null, await pageId('Our history'))).toBe(true);
    expect((await listPages(db, site)).find((p) => p.address === '/about/jobs')?.audience).toEqual({
      kind: 'everyone',
    });
  });
});
