import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { getRole, toolsEverywhere, type Operation } from '@/core/plan';
import { POST as history } from '@/pages/api/workshop/history';
import { POST as change } from '@/pages/api/workshop/plan';
import { POST as release } from '@/pages/api/workshop/release';
import { POST as goBack } from '@/pages/api/workshop/return';
import { POST as stepInRoute } from '@/pages/api/workshop/step-in';
import { POST as stepOutRoute } from '@/pages/api/workshop/step-out';
import { POST as postNotice } from '@/pages/api/notices/index';
import { PUT as tourProgress } from '@/pages/api/tours/[task]';
import { findAccess } from '@/server/gate/access';
import { db, pgCode } from '@/server/db/client';
import { assignments, people, releases } from '@/server/db/schema';
import { beginSession } from '@/server/gate/sessions';
import { POST as preparing } from '@/pages/api/workshop/presence';
import { listNotices } from '@/server/notices/notices';
import { listReleases, getPlanState } from '@/server/plan/plans';
import { loadRoom } from '@/server/room';
import { findProgress } from '@/server/tours/progress';
import { accessOf, call, signInAs, siteId } from './ask';
import { addPerson } from '@/server/people/accounts';
import { inventory } from '../inventory';

const state = async () => getPlanState(db, inventory, await siteId(), { personId: 0, role: null });
const close: Operation = { do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'closed' };
/** Another keyholder, made when first asked for. */
async function secondKeyholder(): Promise<{ cookie: string; id: number }> {
  const site = await siteId();
  const [there] = await db.select().from(people).where(eq(people.email, 'nell@larkhaven.example'));
  const id = there?.id ?? (await addPerson(db, { siteId: site, name: 'Nell Strand', email: 'nell@larkhaven.example' }));
  if (!there) await db.insert(assignments).values({ siteId: site, personId: id, roleId: 'keyholder' });
  return { cookie: `safe_room_session=${await beginSession(db, site, id)}`, id };
}
const doorOf = async () =>
  getRole((await state()).plan, 'harbour-desk').doors.find((d) => d.section === 'notices')?.state;

describe('preparing a plan', () => {
  const tool = (id: string, on: boolean, role = 'harbour-desk'): Operation => ({ do: 'set-tool', role, tool: id, on });
  const prepare = (who: { cookie: string }, revision: number, operations: Operation[], role = 'harbour-desk') =>
    call(change, 'POST', '/x', { ...who, body: { revision, role, operations } });
  const go = (who: { cookie: string }, direction: 'undo' | 'redo', more: object = {}) =>
    call(history, 'POST', '/x', { ...who, body: { direction, role: 'harbour-desk', ...more } });
  const toolsOf = async (role: string) => {
    const { plan } = await state();
    return toolsEverywhere(inventory.tools.keys(), plan.toolbars, plan.roles, role);
  };

  it('is undone and redone step by step, told by name, and the way forward ends when the same is changed again', async () => {
    const maud = await signInAs('Maud');
    const { revision } = await state();
    await prepare(maud, revision, [close]);
    const done = await prepare(maud, revision + 1, [tool('link.page', false)]);
    expect(done).toMatchObject({
      status: 200,
      body: {
        revision: revision + 2,
        undo: { words: 'Take away tool “Link to a page”', by: 'Maud Ellery', also: [] },
        redo: null,
      },
    });
    expect((await go(maud, 'undo')).body).toMatchObject({
      undo: { words: 'Door “Notices”: closed' },
      redo: { words: 'Take away tool “Link to a page”' },
    });
    await go(maud, 'undo');
    expect(await doorOf()).toBe('open');
    await go(maud, 'redo');
    expect(await doorOf()).toBe('closed');
    await prepare(maud, revision + 5, [tool('link.mail', false)]);
    expect(await go(maud, 'redo')).toMatchObject({ status: 409, body: { kind: 'already-done' } });
  });

  it('with one press is taken back and made again with one, of however many operations', async () => {
    const maud = await signInAs('Maud');
    const was = [await doorOf(), await toolsOf('harbour-desk')];
    const { revision } = await state();
    const open = { ...close, state: was[0] === 'open' ? 'look' : 'open' } as typeof close;
    const done = await prepare(maud, revision, [open, tool('bold', false), tool('italic', false)]);
    expect(done.body['undo']).toMatchObject({
      words: expect.stringMatching(/^Door “Notices”.*, and 2 more with it$/) as string,
    });
    const now = [await doorOf(), await toolsOf('harbour-desk')];
    expect(now).not.toEqual(was);
    expect((await go(maud, 'undo')).status).toBe(200);
    expect([await doorOf(), await toolsOf('harbour-desk')]).toEqual(was);
    expect((await go(maud, 'redo')).status).toBe(200);
    expect([await doorOf(), await toolsOf('harbour-desk')]).toEqual(now);
    expect((await go(maud, 'undo')).status).toBe(200);
  });

  it('is one’s own and of one role to undo; what others changed in the same place is named before it goes along', async () => {
    const [maud, nell] = [await signInAs('Maud'), await secondKeyholder()];
    const now = async () => (await state()).revision;
    await prepare(maud, await now(), [tool('numbers', true)]);
    await prepare(nell, await now(), [tool('table', true, 'newsroom')], 'newsroom');
    await prepare(nell, await now(), [tool('numbers', true, 'cafe-manager')], 'cafe-manager');
    // Nell has changed nothing of the harbour desk: there is nothing for her to take back there.
    expect((await go(nell, 'undo')).body.kind).toBe('already-done');
    expect((await go(maud, 'undo')).status).toBe(200);
    expect(await toolsOf('harbour-desk')).not.toContain('numbers');
    expect(await toolsOf('cafe-manager')).toContain('numbers');
    // Now both on one role: what is another thing stays, however it lies beside the first.
    await prepare(maud, await now(), [tool('picture', true)]);
    await prepare(maud, await now(), [tool('numbers', true)]);
    await prepare(nell, await now(), [tool('highlight', true)]);
    expect((await go(maud, 'undo')).status).toBe(200);
    expect(await toolsOf('harbour-desk')).toContain('highlight');
    expect(await toolsOf('harbour-desk')).not.toContain('numbers');
    // And on the same thing.
    await prepare(maud, await now(), [tool('numbers', true)]);
    await prepare(nell, await now(), [tool('numbers', false)]);
    const hers = await prepare(nell, await now(), [tool('numbers', true)]);
    const refused = await go(maud, 'undo');
    expect(refused).toMatchObject({
      status: 409,
      body: {
        kind: 'conflict',
        detail:
          'This was changed again since: “Give tool “Numbered list”” by Nell Strand, “Take away tool “Numbered list”” by Nell Strand. Taking yours back would take that back, too. Nothing was changed.',
      },
    });
    expect(await toolsOf('harbour-desk')).toEqual(expect.arrayContaining(['numbers', 'highlight']));
    const { id } = hers.body['undo'] as { id: number };
    const also = [id, id - 1];
    expect((await go(maud, 'undo', { also: [...also, 999_999] })).status).toBe(409);
    expect((await go(maud, 'undo', { also })).status).toBe(200);
    expect(await toolsOf('harbour-desk')).not.toContain('numbers');
    expect(await toolsOf('harbour-desk')).toContain('highlight');
  });

  it('is not overwritten by a second keyholder on the same thing, who is shown the newest plan; different things do not collide', async () => {
    const maud = await signInAs('Maud');
    await prepare(maud, (await state())['revision'], [tool('heading.3', false)]);
    const { revision } = await state();
    const both = await Promise.all(['bold', 'italic'].map((id) => prepare(maud, revision, [tool(id, false)])));
    expect(both.map((a) => a.status)).toEqual([200, 200]);
    // The same again is there already: nothing to be told of.
    expect((await prepare(maud, revision, [tool('bold', false)])).status).toBe(200);
    const named = (name: string): Operation => ({ do: 'name-role', role: 'harbour-desk', name, purpose: '' });
    const answers = await Promise.all(['Pier', 'Quay'].map((name) => prepare(maud, revision, [named(name)])));
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
    const lost = answers.find((a) => a.status === 409);
    expect(lost?.body.detail).toMatch(
      /^The plan has moved on since you opened it, so nothing was overwritten\. The last change is “.*(Pier|Quay).*” by Maud Ellery\./,
    );
    expect(lost?.body['state']).toMatchObject({ revision: revision + 3 });
    const others = await Promise.all([
      prepare(maud, revision, [tool('quote', false, 'newsroom')], 'newsroom'),
      prepare(maud, revision, [tool('link.page', true, 'cafe-manager')], 'cafe-manager'),
    ]);
    expect(others.map((a) => a.status)).toEqual([200, 200]);
    expect([
      (await toolsOf('newsroom')).includes('quote'),
      (await toolsOf('cafe-manager')).includes('link.page'),
    ]).toEqual([false, true]);
    expect((await prepare(maud, revision + 999, [tool('find', true)])).status).toBe(409);
  });

  it('says who else prepares what', async () => {
    const [maud, nell] = [await signInAs('Maud'), await secondKeyholder()];
    const tell = async (who: { cookie: string }, role: string | null) =>
      (await call(preparing, 'POST', '/x', { ...who, body: { role } })).body['others'];
    expect(await tell(maud, 'newsroom')).toEqual([]);
    expect(await tell(nell, 'harbour-desk')).toEqual([{ name: 'Maud Ellery', role: 'newsroom' }]);
    expect(await tell(maud, null)).toEqual([{ name: 'Nell Strand', role: 'harbour-desk' }]);
  });

  it('never holds what a file with it would be refused for: sizes, layouts, fields, pages and tools that are not there', async () => {
    const maud = await signInAs('Maud');
    const { plan, revision } = await state();
    const board = plan.roles.find(({ id }) => id === 'harbour-desk')?.dashboard.widgets ?? [];
    const narrow = board.find(({ widget }) => !inventory.widgets.get(widget)?.sizes?.includes('full'));
    if (!narrow) throw new Error('every widget can be full');
    const grant = { id: 'x', effect: 'allow' as const, permission: 'page.edit' };
    const rule = { id: 'x', when: { roles: ['harbour-desk'] }, then: { add: ['bold'] } };
    const wrong: [Operation, string][] = [
      [
        { do: 'set-widget', role: 'harbour-desk', entry: narrow.id, widget: narrow.widget, hold: 'move', size: 'full' },
        'cannot be full',
      ],
      [{ do: 'add-grant', role: 'harbour-desk', grant: { ...grant, scope: { layouts: ['nil'] } } }, 'no layout "nil"'],
      [{ do: 'add-grant', role: 'harbour-desk', grant: { ...grant, scope: { fields: ['nil'] } } }, 'a field "nil"'],
      [{ do: 'add-grant', role: 'harbour-desk', grant: { ...grant, scope: { branch: '999999' } } }, 'no page "999999"'],
      [{ do: 'put-tool-rule', role: 'harbour-desk', rule: { ...rule, then: { add: ['nil'] } } }, 'no tool "nil"'],
      [
        { do: 'put-tool-rule', role: 'harbour-desk', rule: { ...rule, when: { ...rule.when, states: ['nil'] } } },
        'no state "nil"',
      ],
    ];
    for (const [operation, says] of wrong) {
      const answer = await prepare(maud, revision, [operation]);
      expect([answer.body.code, answer.body.detail], says).toEqual([
        'operation-impossible',
        expect.stringContaining(says) as string,
      ]);
    }
    expect((await state()).plan).toEqual(plan);
  });
  it('takes all operations or none', async () => {
    const maud = await signInAs('Maud');
    const before = await state();
    const answer = await call(change, 'POST', '/x', {
      ...maud,
      body: {
        revision: before.revision,
        operations: [
          { do: 'set-tool', role: 'harbour-desk', tool: 'table', on: true },
          { do: 'set-door', role: 'keyholder', section: 'pages', state: 'closed' },
        ],
      },
    });
    expect(answer).toMatchObject({
      status: 422,
      body: { detail: 'The keyholder role can always do everything; this cannot be taken from it.' },
    });
    expect(await state()).toEqual(before);
  });
});

describe('stepping in', () => {
  it('shows the prepared room, keeps nothing, and has one way back', async () => {
    const maud = await signInAs('Maud');
    const ines = await signInAs('Ines');
    const role = 'seasonal-helper';
    const sam = await signInAs('Sam');
    expect(
      await call(stepInRoute, 'POST', '/x', {
        ...maud,
        body: { role, person: String(sam.id), from: '/workshop/roles/seasonal-helper/walk' },
      }),
    ).toMatchObject({ status: 200, body: { to: '/room' } });
    const access = await findAccess(db, maud.token);
    expect(access).toMatchObject({
      trial: { back: '/workshop/roles/seasonal-helper/walk' },
      who: { name: 'Sam Ollis' },
    });
    const before = (await listNotices(db, await siteId())).length;
    const posted = await call(postNotice, 'POST', '/x', { ...maud, body: { text: 'A trial', kind: 'warning' } });
    expect(posted).toMatchObject({ status: 200, body: { trial: true } });
    expect(await listNotices(db, await siteId())).toHaveLength(before);
    await call(tourProgress, 'PUT', '/x', { ...maud, params: { task: 'notices.post' }, body: { stop: 2, done: true } });
    expect(await findProgress(db, await accessOf('Sam'))).toEqual({});
    expect((await call(change, 'POST', '/x', { ...maud, body: { revision: 1, operations: [close] } })).status).toBe(
      403,
    );
    expect(await call(stepOutRoute, 'POST', '/x', maud)).toMatchObject({
      status: 200,
      body: { to: '/workshop/roles/seasonal-helper/walk' },
    });
    expect((await findAccess(db, maud.token))?.trial).toBeNull();
    expect((await call(stepInRoute, 'POST', '/x', { ...ines, body: { role, from: '/workshop' } })).status).toBe(403);
  });
  it('a tour once taken to its end stays taken, also when it is begun again', async () => {
    const oskar = await signInAs('Oskar');
    const keep = (stop: number, done: boolean, seen = done) =>
      call(tourProgress, 'PUT', '/x', { ...oskar, params: { task: 'notices.post' }, body: { stop, done, seen } });
    for (const [stop, done, is] of [
      [1, false, false],
      [5, true, true],
      [0, false, true],
    ] as const) {
      expect((await keep(stop, done)).status).toBe(200);
      expect((await findProgress(db, await accessOf('Oskar')))['notices.post']).toMatchObject({
        stop,
        done: is,
        seen: is,
      });
    }
    // Looked at to its end by pressing Next: seen, not taken.
    const other = (stop: number, seen: boolean) =>
      call(tourProgress, 'PUT', '/x', { ...oskar, params: { task: 'notices.end' }, body: { stop, done: false, seen } });
    await other(2, true);
    await other(0, false);
    expect((await findProgress(db, await accessOf('Oskar')))['notices.end']).toMatchObject({
      stop: 0,
      done: false,
      seen: true,
    });
    // What was done of it goes on counting when it is taken up again; what it does not wait for does not.
    const told = ['POST /api/notices/[id]/end', 'POST /api/people'];
    const left = { stop: 1, done: false, did: told };
    await call(tourProgress, 'PUT', '/x', { ...oskar, params: { task: 'notices.end' }, body: left });
    expect((await findProgress(db, await accessOf('Oskar')))['notices.end']?.did).toEqual([told[0]]);
  });
  it('works for a role nobody holds yet, and refuses a person who does not hold it', async () => {
    const maud = await signInAs('Maud');
    expect(
      (await call(stepInRoute, 'POST', '/x', { ...maud, body: { role: 'front-line', from: '/workshop' } })).status,
    ).toBe(200);
    const access = await findAccess(db, maud.token);
    expect(access && (await loadRoom(db, access)).room.roles).toEqual([{ id: 'front-line', name: 'Front line' }]);
    await call(stepOutRoute, 'POST', '/x', maud);
    expect(
      (
        await call(stepInRoute, 'POST', '/x', {
          ...maud,
          body: { role: 'front-line', person: String(maud.id), from: '/workshop' },
        })
      ).status,
    ).toBe(422);
    expect(
      (await call(stepInRoute, 'POST', '/x', { ...maud, body: { role: 'front-line', from: 'https://evil.example' } }))
        .status,
    ).toBe(422);
  });
});

describe('going live', () => {
  it('changes rooms only then, makes a release that stays, and can be gone back from', async () => {
    const maud = await signInAs('Maud');
    const roomOf = async () => (await loadRoom(db, await accessOf('Ines'))).room.doors.map((d) => d.section);
    expect(await doorOf()).toBe('closed');
    expect(await roomOf()).toContain('notices');
    const { revision } = await state();
    expect(await call(release, 'POST', '/x', { ...maud, body: { revision: revision - 1, note: '' } })).toMatchObject({
      status: 409,
    });
    expect(await call(goBack, 'POST', '/x', { ...maud, body: { revision, to: 1 } })).toMatchObject({
      status: 409,
      body: { kind: 'already-done' },
    });
    expect(await call(release, 'POST', '/x', { ...maud, body: { revision, note: 'No notices' } })).toMatchObject({
      status: 200,
      body: { number: 2 },
    });
    expect(await roomOf()).not.toContain('notices');
    expect(
      await call(postNotice, 'POST', '/x', { ...(await signInAs('Ines')), body: { text: 'x', kind: 'warning' } }),
    ).toMatchObject({ status: 403 });
    expect(await call(release, 'POST', '/x', { ...maud, body: { revision, note: '' } })).toMatchObject({
      status: 409,
      body: { kind: 'already-done' },
    });
    expect(await call(goBack, 'POST', '/x', { ...maud, body: { revision, to: 1 } })).toMatchObject({
      status: 200,
      body: { number: 3 },
    });
    expect(await roomOf()).toContain('notices');
    expect(await doorOf()).toBe('open');
    expect((await listReleases(db, await siteId())).map((r) => [r.number, r.note, r.returnsTo])).toEqual([
      [3, 'Back to release 1', 1],
      [2, 'No notices', null],
      [1, 'As set up', null],
    ]);
    expect(
      await db
        .update(releases)
        .set({ note: 'x' })
        .then(
          () => 'done',
          (error: unknown) => pgCode(error),
        ),
    ).toBe('42501');
  });
});
