import { findAccount, setPassword } from '@/server/people/accounts';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { APIRoute } from 'astro';
import { beforeAll, describe, expect, it } from 'vitest';
import { decide } from '@/core/access';
import { policyOf } from '@/core/plan';
import { eq, inArray } from 'drizzle-orm';
import { DEMO_PEOPLE } from '@/demo/people';
import { ROUTES } from '@/core/wire';
import { findPlaced } from '@/server/tree/tree';
import { listWaiting } from '@/server/items/reviews';
import { db } from '@/server/db/client';
import { items } from '@/server/db/schema';
import { hashPassword } from '@/server/gate/password';
import { thingsOf } from '@/server/gate/things';
import type { Declared } from '@/server/gate/endpoint';
import { findSite } from '@/server/gate/access';
import { listNotices } from '@/server/notices/notices';
import { listPeople } from '@/server/people/people';
import { getLivePlan } from '@/server/plan/plans';
import { isReading } from '@/core/inventory';
import { call, inForce, pageId, role, siteId, signInAs, somebody } from './ask';
import { inventory } from '../inventory';

const ROOT = join(import.meta.dirname, '../../src/pages/api');
const files = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts'))
  .sort();
/** Open to everybody, by their nature. */
const OPEN = ['sign-in.ts', 'sign-out.ts', 'set-up.ts'];
/** Somebody who may look at everything and do nothing: what asks for less than it should is open to them. */
const LOOKER = 'Looker';
async function makeLooker() {
  await inForce(...role('looker', ...[...inventory.permissions.keys()].filter(isReading)));
  const looker = await somebody(LOOKER, { role: 'looker' });
  const found = await findAccount(db, looker.id);
  await setPassword(db, found?.account.id ?? 0, await hashPassword('nine-quiet-ferries'));
  return looker;
}
const first = (name: string) => name.split(' ')[0] ?? name;

interface Row {
  /**
   * Every permission that is needed; none where being signed in is enough. Written down from what each endpoint is for,
   * not from its code.
   */
  needs: string[];
  /** A kind of thing, as `THINGS` has it. */
  on?: string;
  /** Fits, and does as little as can be: mostly it meets something that is not so any more. */
  body?: object;
  query?: string;
  /** Status for whoever may; 200 when left out. */
  answers?: number | number[];
  /** What whoever wrote what is looked at needs instead. */
  writer?: string;
  /** The answer tells of a fault in a field. */
  faults?: true;
}
const page = (needs: string[], body?: object, answers?: number | number[], more: Partial<Row> = {}): Row => ({
  needs,
  on: 'page',
  ...(body && { body }),
  ...(answers && { answers }),
  ...more,
});
/** What is needed of an item is the permission of its type. */
const ofType = (need: string, type: string) => need.replace(/^item\./, `${type}.`);
/** Of any item: what is needed is the permission of its type. */
const item = (needs: string[], body?: object, answers?: number | number[], more: Partial<Row> = {}): Row => ({
  ...page(needs, body, answers, more),
  on: 'item',
});
const far = 999_999;
const TABLE: Record<string, Row> = {
  'GET access/map.ts': { needs: ['plan.view'] },
  'GET access/why.ts': { needs: ['plan.view'], query: '?row=1&permission=page.edit' },
  'GET activity.ts': { needs: ['activity.view'] },
  'POST duties/index.ts': {
    needs: ['duty.manage'],
    body: { text: 'x', whose: '1', due: null, every: 'week' },
    answers: 422,
    faults: true,
  },
  'PUT duties/[id]/index.ts': {
    needs: ['duty.manage'],
    body: { version: far, duty: { text: 'x', whose: '1', due: null, every: null } },
    answers: [409, 404],
  },
  'POST duties/[id]/remove.ts': { needs: ['duty.manage'], answers: [200, 404] },
  // Whose turn it is, or who gave it, may: `duties.test.ts`.
  'POST duties/[id]/turn.ts': { needs: [], body: { do: 'tick', version: far }, answers: [409, 404, 403] },
  'POST notices/[id]/correct.ts': {
    needs: ['notice.post'],
    on: 'notice',
    body: { text: ' ', kind: 'warning', was: '' },
    answers: 422,
    faults: true,
  },
  'POST notices/[id]/end.ts': { needs: ['notice.end'], on: 'notice', answers: [200, 409] },
  'POST notices/index.ts': {
    needs: ['notice.post'],
    on: 'placeForNew',
    body: { text: 'x', kind: 'warning', until: '2001-01-01T10:00' },
    answers: 422,
    faults: true,
  },
  'PUT own-password.ts': {
    needs: [],
    body: { current: 'not this one', password: 'four-grey-gulls-dancing' },
    answers: 422,
    faults: true,
  },
  'PUT own-menu.ts': { needs: [], body: { do: 'narrow', on: true } },
  'PUT own-preferences.ts': { needs: [], body: { text: 125 } },
  'PUT own-today.ts': { needs: [], body: { do: 'as-prepared' } },
  'PUT own-tries.ts': { needs: [] },
  'GET pages/[id]/address.ts': page(['page.edit']),
  'POST items/[id]/aside.ts': item(['item.edit'], { content: null }, 422, { faults: true }),
  'PUT pages/[id]/audience.ts': page(['page.publish'], { audience: null }),
  'POST items/[id]/bring-back.ts': { needs: ['item.retire'], on: 'deletedItem' },
  'POST items/[id]/check.ts': item(['item.edit'], { content: { title: 'x' } }),
  'GET items/[id]/changes.ts': item(['item.publish', 'item.edit'], undefined, [200, 409]),
  'GET items/[id]/content.ts': { ...item(['item.view']), faults: true },
  'POST pages/[id]/copy.ts': page(['page.view', 'page.create'], { withBelow: false }),
  'PUT items/[id]/draft.ts': item(['item.edit'], { content: {}, version: far }, 409),
  'POST items/[id]/drop.ts': item(['item.edit'], { version: far }, [409, 422]),
  'POST pages/[id]/move.ts': page(['page.arrange'], { parent: far, index: 0, dry: true }, 404),
  'POST items/[id]/notes.ts': item(['item.edit'], { settle: far, settled: true }, 404),
  'POST items/[id]/schedule.ts': item(['item.retire'], { at: '2001-01-01T10:00' }, 422, { faults: true }),
  'POST items/[id]/presence.ts': item(['item.view'], { typing: false, leaving: true }),
  'POST pages/[id]/preview-link.ts': page(['page.edit'], { end: far }, 404),
  'POST items/[id]/publish.ts': item(['item.publish', 'item.edit'], { content: {}, version: far, note: '' }, 409),
  'POST items/[id]/retire.ts': item(['item.retire'], { do: 'look' }),
  'POST items/[id]/send.ts': item(['item.send', 'item.edit'], { content: {}, version: far, note: '' }, 409),
  'GET items/[id]/versions/[revision].ts': item(['item.view'], undefined, 404),
  'POST pages/bulk.ts': { needs: [], body: { ids: [far], bulk: { do: 'delete' }, dry: true } },
  'POST pages/take-back.ts': { needs: [], body: { steps: [] }, answers: 422, faults: true },
  'POST pages/filters.ts': { needs: [], body: { name: 'x', filter: null } },
  'POST pages/index.ts': {
    needs: ['page.create', 'page.edit'],
    on: 'pageAbove',
    body: { layout: 'plain', outline: '   ' },
    answers: 422,
    faults: true,
  },
  'GET pages/list.ts': { needs: [] },
  'GET pages/pick.ts': { needs: [] },
  'GET workshop/pages.ts': { needs: ['plan.view'] },
  'GET workshop/held.ts': { needs: ['plan.view'] },
  'GET workshop/used.ts': { needs: ['plan.view'] },
  'GET pages/targets.ts': { needs: [] },
  'GET pages/tree.ts': { needs: [] },
  'PUT people/[id]/assignments.ts': { needs: ['person.manage'], body: { before: [], after: [] }, answers: 404 },
  'PUT people/[id]/details.ts': {
    needs: ['person.manage'],
    body: { before: { name: '', email: '' }, name: 'X', email: 'x@larkhaven.example' },
    answers: 404,
  },
  'GET ask.ts': { needs: [] },
  'POST ask.ts': { needs: [], body: { asked: 'late boat', chosen: null } },
  'POST people/[id]/link.ts': { needs: ['person.manage'], answers: 404 },
  'POST people/[id]/pause.ts': { needs: ['person.manage'], body: { paused: true }, answers: 404 },
  'POST people/import.ts': {
    needs: ['person.manage'],
    body: { csv: 'nothing', confirm: false },
    answers: 422,
    faults: true,
  },
  'POST people/index.ts': {
    needs: ['person.manage'],
    body: { name: 'X', email: 'maud@larkhaven.example', assignments: [] },
    answers: 422,
    faults: true,
  },
  'POST people/many.ts': {
    needs: ['person.manage'],
    body: { people: [999_999], change: { do: 'pause' }, confirm: false },
    answers: 404,
  },
  'POST people/move.ts': { needs: ['person.manage'], body: { from: 'nobody-holds-this', to: 'keyholder' } },
  'POST pictures/[id]/describe.ts': { needs: ['media.describe'], body: { description: 'x' }, answers: 404 },
  'POST review/[id]/decide.ts': {
    needs: ['review.decide'],
    on: 'review',
    body: { outcome: 'sent-back', word: '' },
    answers: 422,
    faults: true,
  },
  'GET review/[id]/look.ts': { needs: ['review.view'], on: 'review' },
  'POST review/[id]/remarks.ts': {
    needs: ['review.view'],
    writer: 'page.edit',
    on: 'review',
    body: { settle: far, settled: true },
    answers: 404,
  },
  'PUT tours/[task].ts': { needs: [], body: { stop: 0, done: false } },
  'POST vacancies/index.ts': {
    needs: ['vacancy.create'],
    on: 'placeForNew',
    body: { title: ' ' },
    answers: 422,
    faults: true,
  },
  'POST workshop/drop.ts': { needs: ['plan.edit'], body: { revision: far, roles: null }, answers: 409 },
  'GET workshop/export.ts': { needs: ['plan.view'] },
  'POST workshop/history.ts': { needs: ['plan.edit'], body: { direction: 'undo', role: 'no-such-role' }, answers: 409 },
  'POST workshop/import.ts': { needs: ['plan.edit'], body: { text: '{' }, answers: 422, faults: true },
  'POST workshop/plan.ts': {
    needs: ['plan.edit'],
    body: { revision: far, operations: [{ do: 'set-tool', role: 'newsroom', tool: 'bold', on: false }] },
    answers: 409,
  },
  'POST workshop/presence.ts': { needs: ['plan.view'], body: { role: null } },
  'POST workshop/release.ts': { needs: ['plan.release'], body: { revision: far, note: '' }, answers: 409 },
  'POST workshop/return.ts': { needs: ['plan.release'], body: { revision: far, to: 1 }, answers: 409 },
  'POST workshop/step-in.ts': { needs: ['plan.edit'], body: { role: 'no-such-role', from: '/workshop' }, answers: 404 },
  'POST workshop/step-out.ts': { needs: [] },
};

interface Target {
  id?: string;
  body: object;
  page: number | null;
  author?: string | null;
  writtenBy?: string[];
  gone?: boolean;
}

interface Endpoint {
  file: string;
  method: string;
  route: APIRoute & { declared?: Declared & { route: string } };
}
const endpoints: Endpoint[] = [];
beforeAll(async () => {
  for (const file of files) {
    const exported = (await import(join(ROOT, file))) as Record<string, APIRoute>;
    for (const [method, route] of Object.entries(exported)) endpoints.push({ file, method, route });
  }
});

describe('every endpoint', () => {
  it('is declared with what it needs, or is one of the three that are open', () => {
    expect(endpoints.length).toBeGreaterThan(14);
    for (const { file, route } of endpoints) expect(route.declared !== undefined, file).toBe(!OPEN.includes(file));
    // Each answers at the route whose contract it keeps, and every contract is kept by one.
    const at = ({ file, method }: { file: string; method: string }) =>
      `${method} /api/${file.replace(/\.ts$/, '')}`.replace(/\/index$/, '');
    for (const one of endpoints) if (one.route.declared) expect(one.route.declared.route).toBe(at(one));
    const things = [undefined, ...thingsOf(inventory).keys()];
    for (const { file, route } of endpoints) expect(things, file).toContain(route.declared?.on);
    expect(endpoints.map(at).sort()).toEqual(Object.keys(ROUTES).sort());
    for (const { file, route } of endpoints)
      if (route.declared && route.declared.needs !== 'signed-in')
        expect(inventory.permissions.has(ofType(route.declared.needs, 'page') as never), file).toBe(true);
  });
  it('refuses who is not signed in', async () => {
    for (const { file, method, route } of endpoints)
      if (!OPEN.includes(file))
        expect((await call(route, method, '/x', { params: { id: '1' } })).status, `${method} ${file}`).toBe(401);
  });
  it('refuses what comes from another site, and sends nothing through', async () => {
    const { cookie } = await signInAs('Maud');
    for (const { file, method, route } of endpoints) {
      if (method === 'GET') continue;
      const foreign: Record<string, string>[] = [
        { origin: 'https://evil.example' },
        { origin: 'http://127.0.0.1:9999' },
        { origin: 'null' },
        { origin: '', 'sec-fetch-site': 'cross-site' },
      ];
      for (const headers of foreign) {
        const answer = await call(route, method, '/x', { cookie, params: { id: '1' }, headers });
        expect([answer.status, answer.body.kind], `${method} ${file} ${JSON.stringify(headers)}`).toEqual([
          403,
          'foreign-request',
        ]);
      }
    }
  });
  it('takes JSON only, in pieces it can carry', async () => {
    const { cookie } = await signInAs('Maud');
    const send = endpoints.find((e) => e.file === 'notices/index.ts');
    if (!send) throw new Error('no such endpoint');
    expect((await call(send.route, 'POST', '/x', { cookie, headers: { 'content-type': 'text/plain' } })).status).toBe(
      422,
    );
    expect((await call(send.route, 'POST', '/x', { cookie, body: '{"text"' })).body.detail).toBe(
      'The request is not valid JSON.',
    );
    expect(
      (await call(send.route, 'POST', '/x', { cookie, body: JSON.stringify({ text: 'x'.repeat(2_000_001) }) })).status,
    ).toBe(413);
  });

  // The gate against `decide()`, asked beside it with the permissions of the table: each endpoint, each person of the
  // demo, on their branch
  // and off it, with a body that fits, so that whatever else is asked on the way is asked, too.
  it('stands in the table below, whole', () => {
    expect(Object.keys(TABLE).sort()).toEqual(
      endpoints
        .filter(({ file }) => !OPEN.includes(file))
        .map(({ file, method }) => `${method} ${file}`)
        .sort(),
    );
  });
  it.each([...DEMO_PEOPLE.map((person) => person.name), LOOKER])(
    'lets %s through just where the table and decide() allow it',
    async (name) => {
      const { cookie, id } = await (name === LOOKER ? makeLooker() : signInAs(first(name)));
      const site = await findSite(db);
      if (!site) throw new Error('no site');
      const policy = policyOf(inventory, await getLivePlan(db, site), await listPeople(db, site.id));
      const places = [await pageId('South Quay'), await pageId('The Slipway Café'), await pageId('Jobs')];
      const waiting = (await listWaiting(db, site.id)).slice(0, 1);
      const notices = await listNotices(db, site.id);
      // Deleted, one in Juno's part of the site and one outside it. What brings them back has nothing that could go
      // wrong, so they are deleted again.
      const deleted = [await pageId('Our history'), await pageId('Lost and found')];
      const remove = () =>
        db.update(items).set({ deletedAt: new Date(), deletedBy: null }).where(inArray(items.id, deleted));
      await remove();
      const pagesOf = (row: Row): Target[] => places.map((p) => ({ id: String(p), body: row.body ?? {}, page: p }));
      const lying = await db.select({ id: items.id }).from(items).where(eq(items.type, 'vacancy'));
      const vacanciesOf = (row: Row): Target[] =>
        lying.map((one) => ({ id: String(one.id), body: row.body ?? {}, page: one.id }));
      /** Things of each kind, some theirs and some not. */
      const targetsOf: Record<string, (row: Row) => Target[]> = {
        page: pagesOf,
        item: (row) => [...pagesOf(row), ...vacanciesOf(row)],
        vacancy: (row) => vacanciesOf(row),
        deletedItem: () => deleted.map((p) => ({ id: String(p), body: {}, page: p, gone: true })),
        pageAbove: (row) => places.map((p) => ({ body: { ...row.body, parent: p }, page: p })),
        placeForNew: (row) =>
          places.map((p) => ({ body: { ...row.body, page: String(p) }, page: p, author: String(id) })),
        review: (row) =>
          waiting.map((one) => ({
            id: String(one.id),
            body: row.body ?? {},
            page: Number(one.itemId),
            writtenBy: one.writers,
          })),
        notice: (row) =>
          notices.map((n) => ({ id: String(n.id), body: row.body ?? {}, page: Number(n.pageId), author: n.byId })),
      };
      expect(Object.keys(targetsOf).sort()).toEqual([...thingsOf(inventory).keys()].sort());
      let asked = 0;
      for (const { file, method, route } of endpoints) {
        const row = TABLE[`${method} ${file}`];
        if (!row) continue;
        const targets: Target[] = row.on
          ? (targetsOf[row.on]?.(row) ?? [])
          : [{ body: row.body ?? {}, page: null, id: '999999' }];
        expect(targets.length, `things for ${file}`).toBeGreaterThan(0);
        for (const target of targets) {
          const found = target.page === null ? undefined : await findPlaced(db, site.id, target.page, target.gone);
          const place = found && target.author !== undefined ? { ...found.place, author: target.author } : found?.place;
          const needs = row.writer && target.writtenBy?.includes(String(id)) ? [row.writer] : row.needs;
          const allowed = needs.every(
            (need) =>
              decide(policy, {
                person: String(id),
                permission: ofType(need, found?.type ?? ''),
                place: inventory.permissions.get(ofType(need, found?.type ?? '') as never)?.placed ? place : undefined,
                writtenBy: target.writtenBy,
                atMs: Date.now(),
              }).allowed,
          );
          const answer = await call(route, method, `/x${row.query ?? ''}`, {
            cookie,
            body: target.body,
            params: { ...(target.id && { id: target.id }), revision: '0', task: 'pages.find' },
          });
          if (target.gone) await remove();
          const refused = answer.status === 403 && answer.body.kind === 'refused';
          expect(
            refused,
            `${method} ${file} by ${name} on ${target.page}: ${answer.status} ${answer.body.detail}`,
          ).toBe(!allowed);
          // Nothing is refused for a body that does not fit: what comes behind the gate was reached.
          if (allowed)
            expect(
              [
                [row.answers ?? 200].flat().includes(answer.status),
                answer.body['faults'] === undefined || row.faults === true,
              ],
              `${method} ${file}: ${answer.status} ${answer.body.detail}`,
            ).toEqual([true, true]);
          asked++;
        }
      }
      await db.update(items).set({ deletedAt: null }).where(inArray(items.id, deleted));
      expect(asked).toBeGreaterThan(60);
    },
  );
  it('tells who is refused why, and whom to ask', async () => {
    const { POST } = await import('@/pages/api/items/[id]/send');
    const { cookie } = await signInAs('Ines');
    const cafe = await pageId('The Slipway Café');
    const answer = await call(POST, 'POST', '/x', {
      cookie,
      params: { id: String(cafe) },
      body: { content: {}, version: 0, note: '' },
    });
    expect(answer.status).toBe(403);
    expect(answer.body.detail).toBe(
      'You may send pages for a second look under Harbours, but this lies elsewhere. Ask Maud Ellery if you need to.',
    );
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(answer.body).toMatchObject({ type: '/problems/not-yours', title: 'Not in your room', status: 403 });
  });
  it('knows nothing of things that are not there', async () => {
    const { POST } = await import('@/pages/api/notices/[id]/end');
    for (const id of ['999999', 'x', '-1', '1e3', "1'--"])
      expect((await call(POST, 'POST', '/x', { cookie: (await signInAs('Maud')).cookie, params: { id } })).status).toBe(
        404,
      );
    expect(await siteId()).toBeGreaterThan(0);
  });
});
