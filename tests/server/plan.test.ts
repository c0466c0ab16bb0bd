import { describe, expect, it } from 'vitest';
import { getRole, type Operation } from '@/core/plan';
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
import { releases } from '@/server/db/schema';
import { listNotices } from '@/server/notices/notices';
import { listReleases, getPlanState } from '@/server/plan/plans';
import { loadRoom } from '@/server/room';
import { findProgress } from '@/server/tours/progress';
import { accessOf, call, signInAs, siteId } from './ask';

const state = async () => getPlanState(db, await siteId());
const close: Operation = { do: 'set-door', role: 'harbour-desk', section: 'notices', state: 'closed' };
const doorOf = async () => getRole((await state()).plan, 'harbour-desk').doors.find((d) => d.section === 'notices')?.state;

describe('preparing a plan', () => {
  it('is undone and redone step by step, told by name, and the way forward ends when something else is done', async () => {
    const maud = await signInAs('Maud');
    const { revision } = await state();
    const done = await call(change, 'POST', '/x', { ...maud, body: { revision, operations: [close, { do: 'set-tool', role: 'harbour-desk', tool: 'link', on: false }] } });
    expect(done).toMatchObject({ status: 200, body: { revision: revision + 1, undo: { words: 'Take away tool “Link”', by: 'Maud Ellery' }, redo: null } });
    const undone = await call(history, 'POST', '/x', { ...maud, body: { revision: revision + 1, direction: 'undo' } });
    expect(undone.body).toMatchObject({ undo: { words: 'Door “Notices”: closed' }, redo: { words: 'Take away tool “Link”' } });
    await call(history, 'POST', '/x', { ...maud, body: { revision: revision + 2, direction: 'undo' } });
    expect(await doorOf()).toBe('open');
    await call(history, 'POST', '/x', { ...maud, body: { revision: revision + 3, direction: 'redo' } });
    expect(await doorOf()).toBe('closed');
    await call(change, 'POST', '/x', { ...maud, body: { revision: revision + 4, operations: [{ do: 'set-tool', role: 'harbour-desk', tool: 'quote', on: true }] } });
    expect(await call(history, 'POST', '/x', { ...maud, body: { revision: revision + 5, direction: 'redo' } })).toMatchObject({ status: 409, body: { code: 'already-done' } });
  });

  it('is not overwritten by a second keyholder, who is shown the newest plan', async () => {
    const maud = await signInAs('Maud');
    const { revision } = await state();
    const answers = await Promise.all(['bold', 'italic'].map((tool) => call(change, 'POST', '/x', { ...maud, body: { revision, operations: [{ do: 'set-tool', role: 'harbour-desk', tool, on: false }] } })));
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
    const lost = answers.find((a) => a.status === 409);
    expect(lost?.body.detail).toMatch(/^The plan has moved on since you opened it, so nothing was overwritten\. The last change is “Take away tool “(Bold|Italic)”” by Maud Ellery\./);
    expect(lost?.body['state']).toMatchObject({ revision: revision + 1 });
  });

  it('takes all operations or none', async () => {
    const maud = await signInAs('Maud');
    const before = await state();
    const answer = await call(change, 'POST', '/x', { ...maud, body: { revision: before.revision, operations: [{ do: 'set-tool', role: 'harbour-desk', tool: 'table', on: true }, { do: 'set-door', role: 'keyholder', section: 'pages', state: 'closed' }] } });
    expect(answer).toMatchObject({ status: 422, body: { detail: 'The keyholder role can always do everything; this cannot be taken from it.' } });
    expect(await state()).toEqual(before);
  });
});

describe('stepping in', () => {
  it('shows the prepared room, keeps nothing, and has one way back', async () => {
    const maud = await signInAs('Maud');
    const ines = await signInAs('Ines');
    const role = 'seasonal-helper';
    const sam = await signInAs('Sam');
    expect(await call(stepInRoute, 'POST', '/x', { ...maud, body: { role, person: String(sam.id), from: '/workshop/roles/seasonal-helper/walk' } })).toMatchObject({ status: 200, body: { to: '/room' } });
    const access = await findAccess(db, maud.token);
    expect(access).toMatchObject({ trial: { back: '/workshop/roles/seasonal-helper/walk' }, who: { name: 'Sam Ollis' } });
    const before = (await listNotices(db, await siteId())).length;
    const posted = await call(postNotice, 'POST', '/x', { ...maud, body: { text: 'A trial', kind: 'warning' } });
    expect(posted).toMatchObject({ status: 200, body: { trial: true } });
    expect(await listNotices(db, await siteId())).toHaveLength(before);
    await call(tourProgress, 'PUT', '/x', { ...maud, params: { task: 'notices.post' }, body: { stop: 2, done: true } });
    expect(await findProgress(db, await accessOf('Sam'))).toEqual({});
    expect((await call(change, 'POST', '/x', { ...maud, body: { revision: 1, operations: [close] } })).status).toBe(403);
    expect(await call(stepOutRoute, 'POST', '/x', maud)).toMatchObject({ status: 200, body: { to: '/workshop/roles/seasonal-helper/walk' } });
    expect((await findAccess(db, maud.token))?.trial).toBeNull();
    expect((await call(stepInRoute, 'POST', '/x', { ...ines, body: { role, from: '/workshop' } })).status).toBe(403);
  });
  it('works for a role nobody holds yet, and refuses a person who does not hold it', async () => {
    const maud = await signInAs('Maud');
    expect((await call(stepInRoute, 'POST', '/x', { ...maud, body: { role: 'front-line', from: '/workshop' } })).status).toBe(200);
    const access = await findAccess(db, maud.token);
    expect(access && (await loadRoom(db, access)).room.roles).toEqual([{ id: 'front-line', name: 'Front line' }]);
    await call(stepOutRoute, 'POST', '/x', maud);
    expect((await call(stepInRoute, 'POST', '/x', { ...maud, body: { role: 'front-line', person: String(maud.id), from: '/workshop' } })).status).toBe(422);
    expect((await call(stepInRoute, 'POST', '/x', { ...maud, body: { role: 'front-line', from: 'https://evil.example' } })).status).toBe(422);
  });
});

describe('going live', () => {
  it('changes rooms only then, makes a release that stays, and can be gone back from', async () => {
    const maud = await signInAs('Maud');
    const roomOf = async () => (await loadRoom(db, await accessOf('Ines'))).room.doors.map((d) => d.section);
    expect(await doorOf()).toBe('closed');
    expect(await roomOf()).toContain('notices');
    const { revision } = await state();
    expect(await call(release, 'POST', '/x', { ...maud, body: { revision: revision - 1, note: '' } })).toMatchObject({ status: 409 });
    expect(await call(goBack, 'POST', '/x', { ...maud, body: { revision, to: 1 } })).toMatchObject({ status: 409, body: { code: 'already-done' } });
    expect(await call(release, 'POST', '/x', { ...maud, body: { revision, note: 'No notices' } })).toMatchObject({ status: 200, body: { number: 2 } });
    expect(await roomOf()).not.toContain('notices');
    expect(await call(postNotice, 'POST', '/x', { ...(await signInAs('Ines')), body: { text: 'x', kind: 'warning' } })).toMatchObject({ status: 403 });
    expect(await call(release, 'POST', '/x', { ...maud, body: { revision, note: '' } })).toMatchObject({ status: 409, body: { code: 'already-done' } });
    expect(await call(goBack, 'POST', '/x', { ...maud, body: { revision, to: 1 } })).toMatchObject({ status: 200, body: { number: 3 } });
    expect(await roomOf()).toContain('notices');
    expect(await doorOf()).toBe('open');
    expect((await listReleases(db, await siteId())).map((r) => [r.number, r.note, r.returnsTo])).toEqual([[3, 'Back to release 1', 1], [2, 'No notices', null], [1, 'As set up', null]]);
    expect(await db.update(releases).set({ note: 'x' }).then(() => 'done', (error: unknown) => pgCode(error))).toBe('42501');
  });
});
