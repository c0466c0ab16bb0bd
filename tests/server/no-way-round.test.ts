import { and, eq, isNull, like } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { h2, p, quote } from '@/demo/write';
import type { Operation } from '@/core/plan';
import type { Document, DocumentNode } from '@/core/content';
import { POST as ask } from '@/pages/api/ask';
import { POST as turn } from '@/pages/api/duties/[id]/turn';
import { POST as give } from '@/pages/api/duties/index';
import { POST as aside } from '@/pages/api/items/[id]/aside';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { GET as version } from '@/pages/api/items/[id]/versions/[revision]';
import { PUT as ownPassword } from '@/pages/api/own-password';
import { GET as address } from '@/pages/api/pages/[id]/address';
import { POST as move } from '@/pages/api/pages/[id]/move';
import { POST as many } from '@/pages/api/pages/bulk';
import { POST as takeBack } from '@/pages/api/pages/take-back';
import { POST as setUp } from '@/pages/api/set-up';
import { POST as signIn } from '@/pages/api/sign-in';
import { PUT as tour } from '@/pages/api/tours/[task]';
import { POST as stepIn } from '@/pages/api/workshop/step-in';
import { db } from '@/server/db/client';
import { media, references, revisions } from '@/server/db/schema';
import { inTurn, Lane } from '@/server/gate/lanes';
import { Problem } from '@/server/gate/problems';
import { assertStrong } from '@/server/gate/password';
import { getEditable } from '@/server/items/editable';
import { call, inForce, pageId, role, signInAs, siteId, somebody, type Who } from './ask';
import { inventory } from '../inventory';

const open = async (id: number) => getEditable(db, inventory, await siteId(), id);
/** Keeps what becomes of a page's text, and of its other fields. */
async function keep(as: Who, title: string, change: (blocks: DocumentNode[]) => DocumentNode[], more: object = {}) {
  const id = await pageId(title);
  const { content, draft } = await open(id);
  const body = { type: 'doc', content: change([...((content['body'] as unknown as Document | null)?.content ?? [])]) };
  return call(putDraft, 'PUT', '/x', {
    ...as,
    params: { id: String(id) },
    body: { content: { ...content, ...more, body }, version: draft?.version ?? 0 },
  });
}
const grant = (id: string, permission: string, scope: object, effect: 'allow' | 'deny' = 'allow') =>
  ({ do: 'add-grant', role: 'mover', grant: { id, effect, permission, scope } }) as Operation;
const MOVER: Operation[] = [...role('mover', 'page.view', 'page.arrange').filter((one) => one.do !== 'add-grant')];

describe('what goes elsewhere', () => {
  it('is never more to somebody there than where it was: moved alone, with many, and taken back', async () => {
    const about = await pageId('About us');
    const menu = await pageId('What there is to eat');
    const cafe = await pageId('The Slipway Café');
    await inForce(
      ...MOVER,
      grant('view', 'page.view', {}),
      grant('arrange', 'page.arrange', {}),
      grant('edit', 'page.edit', { branch: String(about) }),
    );
    const mo = await somebody('Mo', { role: 'mover' });
    const go = (page: number, parent: number, dry: boolean) =>
      call(move, 'POST', '/x', {
        ...mo,
        params: { id: String(page) },
        body: { parent, index: 0, redirect: true, dry },
      });
    for (const dry of [true, false])
      expect((await go(menu, about, dry)).body).toMatchObject({
        code: 'move-gives-more',
        detail: expect.stringContaining('change pages') as string,
      });
    // With what lies below it, too.
    expect((await go(cafe, about, false)).body.code).toBe('move-gives-more');
    const bulk = await call(many, 'POST', '/x', {
      ...mo,
      body: { ids: [menu], bulk: { do: 'move', parent: about, redirect: true } },
    });
    expect(bulk.body).toMatchObject({ rows: [{ refused: true }], back: [] });
    const back = await call(takeBack, 'POST', '/x', {
      ...mo,
      body: { steps: [{ do: 'move', page: menu, parent: about, index: 0 }] },
    });
    expect(back.body.code).toBe('move-gives-more');
    // What one loses by a move is told before: there is no way back by oneself.
    const history = await pageId('Our history');
    expect((await go(history, cafe, true)).body).toMatchObject({ lost: ['change pages'] });
    expect((await go(history, about, true)).body).toMatchObject({ lost: [] });
    const asked = { ids: [history], bulk: { do: 'move', parent: cafe, redirect: true }, dry: true };
    expect(JSON.stringify((await call(many, 'POST', '/x', { ...mo, body: asked })).body)).toContain(
      'There you may no longer change pages.',
    );
    // Away from there, sorted, and by somebody who may in both places it goes.
    expect((await go(await pageId('Our history'), about, false)).status).toBe(200);
    const maud = await signInAs('Maud');
    expect(
      (
        await call(move, 'POST', '/x', {
          ...maud,
          params: { id: String(menu) },
          body: { parent: about, index: 0, redirect: true, dry: false },
        })
      ).status,
    ).toBe(200);
    await call(move, 'POST', '/x', {
      ...maud,
      params: { id: String(menu) },
      body: { parent: cafe, index: 0, redirect: false, dry: false },
    });
  });

  it('has no address changed from above by somebody who may not change it', async () => {
    const harbours = String(await pageId('Harbours'));
    const ennis = String(await pageId('Port Ennis'));
    await inForce(
      { ...(MOVER[0] as Operation & { do: 'add-role' }), role: 'renamer', name: 'renamer' },
      ...['page.view', 'page.edit'].map((permission): Operation => ({
        do: 'add-grant',
        role: 'renamer',
        grant: { id: permission, effect: 'allow', permission, scope: { branch: harbours } },
      })),
      {
        do: 'add-grant',
        role: 'renamer',
        grant: { id: 'not', effect: 'deny', permission: 'page.edit', scope: { branch: ennis } },
      },
      { do: 'set-door', role: 'renamer', section: 'pages', state: 'open' },
    );
    const rena = await somebody('Rena', { role: 'renamer' });
    const same = (blocks: DocumentNode[]) => blocks;
    const refused = await keep(rena, 'Harbours', same, { 'page.slug': 'ports' });
    expect(refused.body).toMatchObject({ code: 'below-not-yours' });
    expect(refused.body.detail).toContain('Port Ennis');
    expect((await keep(rena, 'Harbours', same, { title: 'Ports' })).status).toBe(200);
    expect((await keep(rena, 'South Quay', same, { 'page.slug': 'quay' })).status).toBe(200);
  });
});

describe('tools of one layout alone', () => {
  it('make nothing that stays on another: there and back, put aside and gone back to', async () => {
    await inForce({
      do: 'put-tool-rule',
      role: 'newsroom',
      rule: { id: 'plain', when: { roles: ['newsroom'], layouts: ['plain'] }, then: { take: ['quote', 'heading.2'] } },
    });
    const juno = await signInAs('Juno');
    const more = (blocks: DocumentNode[]) => [...blocks, quote('So she said.')];
    const same = (blocks: DocumentNode[]) => blocks;
    expect((await keep(juno, 'Contact', more)).body.kind).toBe('tool-missing');
    expect((await keep(juno, 'Contact', more, { 'page.layout': 'banner' })).status).toBe(200);
    expect((await keep(juno, 'Contact', same, { 'page.layout': 'banner' })).status).toBe(200);
    expect((await keep(juno, 'Contact', same, { 'page.layout': 'plain' })).body.kind).toBe('tool-missing');
    // By way of a version of one's own.
    const id = await pageId('Contact');
    const { content } = await open(id);
    expect((await call(aside, 'POST', '/x', { ...juno, params: { id: String(id) }, body: { content } })).status).toBe(
      200,
    );
    const [kept] = await db
      .select({ id: revisions.id })
      .from(revisions)
      .where(eq(revisions.itemId, id))
      .then((rows) => rows.toSorted((a, b) => b.id - a.id));
    const { draft } = await open(id);
    const back = await call(putDraft, 'PUT', '/x', {
      ...juno,
      params: { id: String(id) },
      body: { content: { ...content, 'page.layout': 'plain' }, version: draft?.version ?? 0, from: kept?.id },
    });
    expect(back.body.kind).toBe('tool-missing');
    expect((await keep(juno, 'Contact', () => [p('Plain.')], { 'page.layout': 'plain' })).status).toBe(200);
    // What somebody else left there is kept whatever the layout.
    const maud = await signInAs('Maud');
    expect((await keep(maud, 'Jobs', (blocks) => [...blocks, h2('Now')])).status).toBe(200);
    expect((await keep(juno, 'Jobs', same, { 'page.layout': 'banner' })).status).toBe(200);
    expect((await keep(juno, 'Jobs', same, { 'page.layout': 'plain' })).status).toBe(200);
  });

  it('let no picture in that another layout would not', async () => {
    const when = { roles: ['newsroom'], layouts: ['plain'] };
    await inForce(
      {
        do: 'put-tool-rule',
        role: 'newsroom',
        rule: { id: 'any', when: { roles: ['newsroom'] }, then: { add: ['picture', 'picture.all', 'picture.own'] } },
      },
      {
        do: 'put-tool-rule',
        role: 'newsroom',
        rule: { id: 'own', when, then: { take: ['picture.all', 'picture.folder'] } },
      },
    );
    const juno = await signInAs('Juno');
    const [picture] = await db.select({ id: media.id }).from(media).orderBy(media.id).limit(1);
    const shown = {
      type: 'picture',
      attrs: { id: String(picture?.id), description: 'A boat', width: 'full' },
    } as DocumentNode;
    const more = (blocks: DocumentNode[]) => [...blocks, shown];
    expect((await keep(juno, 'Contact', more)).body.code).toBe('picture-not-yours');
    const elsewhere = await keep(juno, 'Contact', more, { 'page.layout': 'banner' });
    expect(elsewhere.status).toBe(200);
    expect((await keep(juno, 'Contact', (blocks) => blocks, { 'page.layout': 'plain' })).body.code).toBe(
      'picture-not-yours',
    );
  });
});

describe('no value breaks an answer', () => {
  it('names that objects have of their own are nothing that was asked for', async () => {
    const ines = await signInAs('Ines');
    for (const chosen of ['__proto__ x', 'constructor name', 'toString length', 'hasOwnProperty x', '__proto__'])
      expect((await call(ask, 'POST', '/x', { ...ines, body: { asked: 'boats', chosen } })).status, chosen).toBe(404);
  });
  it('a duty that is due in the last year there is does not come again', async () => {
    const maud = await signInAs('Maud');
    const duty = {
      text: 'Look after it',
      whose: String(maud.id),
      due: '9999-12-20',
      every: 'month',
      link: null,
      about: null,
    };
    const made = await call(give, 'POST', '/x', {
      ...maud,
      body: { text: duty.text, whose: duty.whose, due: duty.due, every: duty.every },
    });
    expect(made.status, JSON.stringify(made.body)).toBe(200);
    const { id, version: at } = (made.body['duty'] ?? made.body) as { id: number; version: number };
    const done = await call(turn, 'POST', '/x', {
      ...maud,
      params: { id: String(id) },
      body: { do: 'tick', version: at },
    });
    expect(done.status, JSON.stringify(done.body)).toBe(200);
  });
  it('a tour in a room that is tried as nobody in particular is simply not remembered', async () => {
    const maud = await signInAs('Maud');
    expect(
      (await call(stepIn, 'POST', '/x', { ...maud, body: { role: 'harbour-desk', from: '/workshop' } })).status,
    ).toBe(200);
    const kept = await call(tour, 'PUT', '/x', {
      ...maud,
      params: { task: 'page.change' },
      body: { stop: 1, done: false, seen: false },
    });
    expect([200, 404]).toContain(kept.status);
  });
  it('a hidden panel answers nothing', async () => {
    await inForce(
      { do: 'set-element', role: 'harbour-desk', element: 'pages.edit.address', place: {}, said: { show: 'hidden' } },
      { do: 'set-element', role: 'harbour-desk', element: 'pages.edit.versions', place: {}, said: { show: 'hidden' } },
    );
    const ines = await signInAs('Ines');
    const params = { id: String(await pageId('South Quay')) };
    expect((await call(address, 'GET', '/x?slug=quay', { ...ines, params })).body.code).toBe('panel-hidden');
    expect((await call(version, 'GET', '/x', { ...ines, params: { ...params, revision: '1' } })).body.code).toBe(
      'panel-hidden',
    );
  });
});

describe('much at once', () => {
  it('what nobody needs to send is not read', async () => {
    const ids = `{"ids":[${'1,'.repeat(450_000)}1]}`;
    for (const route of [setUp, signIn]) expect((await call(route, 'POST', '/x', { body: ids })).status).toBe(413);
    const ines = await signInAs('Ines');
    expect((await call(many, 'POST', '/x', { ...ines, body: ids })).status).toBe(413);
  });
  it('one’s own password tried thirty times at once ends in answers, and others are answered meanwhile', async () => {
    const lotte = await signInAs('Lotte');
    const tries = Array.from({ length: 30 }, () =>
      call(ownPassword, 'PUT', '/x', {
        ...lotte,
        body: { current: 'not this one at all', password: 'four-grey-gulls-dancing' },
      }),
    );
    const other = await call(ask, 'POST', '/x', {
      ...(await signInAs('Ines')),
      body: { asked: 'boats', chosen: null },
    });
    expect(other.status).toBe(200);
    const codes = (await Promise.all(tries)).map(({ body }) => body.code);
    expect(new Set(codes)).toEqual(new Set(['password-wrong', 'tried-too-often']));
    expect(codes.filter((code) => code === 'password-wrong').length).toBe(8);
  });
  it('a text of thousands of links by somebody without that tool is refused, and others are answered before', async () => {
    await inForce({
      do: 'put-tool-rule',
      role: 'newsroom',
      rule: { id: 'no-links', when: { roles: ['newsroom'] }, then: { take: ['link.page', 'link.web', 'link.file'] } },
    });
    const [juno, ines] = [await signInAs('Juno'), await signInAs('Ines')];
    const links = Array.from({ length: 400 }, (_, k) => ({
      type: 'paragraph' as const,
      content: Array.from({ length: 12 }, (_, i) => ({
        type: 'text' as const,
        text: `x${k * 12 + i} `,
        marks: [{ type: 'link' as const, attrs: { href: `/p${k * 12 + i}` } }],
      })),
    }));
    const order: string[] = [];
    const big = keep(juno, 'Our history', (blocks) => [...blocks, ...links]).then((answer) => {
      order.push('the text');
      return answer;
    });
    await call(ask, 'POST', '/x', { ...ines, body: { asked: 'boats', chosen: null } });
    order.push('somebody else');
    expect((await big).body.kind).toBe('tool-missing');
    expect(order).toEqual(['somebody else', 'the text']);
    // Plain words of that length are kept.
    const words = Array.from({ length: 1600 }, (_, i) => p(`Line ${i} of a long text.`));
    expect((await keep(juno, 'Our history', (blocks) => [...blocks, ...words])).status).toBe(200);
  });
  it('a text of more links than one question to the database has placeholders is kept; what it goes on needing stays noted', async () => {
    const maud = await signInAs('Maud');
    const id = await pageId('Contact');
    const linked = (count: number, add = 0): DocumentNode[] => [
      {
        type: 'paragraph',
        content: Array.from({ length: count }, (_, i) => ({
          type: 'text' as const,
          text: `${i} `,
          marks: [{ type: 'link' as const, attrs: { href: `/l-${i + add}` } }],
        })),
      },
    ];
    const noted = () =>
      db
        .select({ id: references.id, target: references.target })
        .from(references)
        .where(and(eq(references.itemId, id), isNull(references.revisionId), like(references.target, '/l-%')))
        .orderBy(references.id);
    expect(await keep(maud, 'Contact', () => linked(12_000))).toMatchObject({ status: 200, body: {} });
    const before = await noted();
    expect(before.length).toBe(12_000);
    expect((await keep(maud, 'Contact', () => linked(12_000, 1))).status).toBe(200);
    const after = await noted();
    expect(after.map(({ target }) => target).sort()).toEqual(
      Array.from({ length: 12_000 }, (_, i) => `/l-${i + 1}`).sort(),
    );
    expect(after.slice(0, -1)).toEqual(before.slice(1));
  });
  it('beyond its share each kind of request is told to come again, and the others are not', async () => {
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((go) => (letGo = go));
    const ask = async (path: string, work: () => Promise<unknown>): Promise<unknown> => {
      const request = new Request(`http://x${path}`, { headers: { cookie: 'safe_room_session=ines' } });
      try {
        return await inTurn(request, path, work);
      } catch (error) {
        return error instanceof Problem ? error.code : String(error);
      }
    };
    const answered = () => Promise.resolve('answered');
    const asked = Array.from({ length: 2000 }, () => ask('/room/pages', () => held.then(answered)));
    const found = Array.from({ length: 20 }, () => ask('/search', () => held.then(answered)));
    expect(await ask('/fares', answered)).toBe('answered');
    expect(await ask('/api/sign-in', answered)).toBe('answered');
    letGo();
    const answers = await Promise.all(asked);
    const busy = answers.filter((one) => one === 'busy').length;
    expect(busy).toBeGreaterThan(1000);
    expect(answers.filter((one) => one === 'answered').length).toBe(2000 - busy);
    expect(new Set(await Promise.all(found))).toEqual(new Set(['answered']));
    // Whoever failed has left, too.
    expect(await ask('/room/pages', () => Promise.reject(new Error('no')))).toBe('Error: no');
    expect(await ask('/room/pages', answered)).toBe('answered');
  });
  it('of one person only so many run at once, and nobody else waits for them', async () => {
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((go) => (letGo = go));
    const lane = new Lane({ atOnce: () => 4, ofOne: 2, waiting: 100 });
    const running: string[] = [];
    const work = (name: string) => () => (running.push(name), held);
    const all = Array.from({ length: 10 }, (_, n) => lane.run('ines', work(`ines ${n}`)));
    all.push(lane.run('juno', work('juno')), lane.run('sam', work('sam')), lane.run('maud', work('maud')));
    await Promise.resolve();
    expect(running).toEqual(['ines 0', 'ines 1', 'juno', 'sam']);
    letGo();
    await Promise.all(all);
    expect(running.length).toBe(13);
    // Whoever came first of those who may begin.
    expect(running.indexOf('maud')).toBeLessThan(running.indexOf('ines 5'));
    expect(running.filter((name) => name.startsWith('ines'))).toEqual(
      Array.from({ length: 10 }, (_, n) => `ines ${n}`),
    );
    expect(lane.isBusy).toBe(false);
  });
  it('of long bodies one of a person is taken at a time; nothing short waits for it, nor another person', async () => {
    let letGo: () => void = () => undefined;
    const held = new Promise<void>((go) => (letGo = go));
    const running: string[] = [];
    const keep = (name: string, who: string, length: string | null, work: Promise<void> = held) =>
      inTurn(
        new Request('http://localhost/api/items/1/draft', {
          method: 'PUT',
          headers: { cookie: `safe_room_session=${who}`, ...(length !== null && { 'content-length': length }) },
        }),
        '/api/items/1/draft',
        () => (running.push(name), work),
      );
    const long = [
      keep('long', 'a', '2000000'),
      keep('long after it', 'a', '64001'),
      keep('who does not say how long', 'a', null),
      keep('long of another', 'b', '64001'),
    ];
    await keep('short', 'a', '64000', Promise.resolve());
    expect(running).toEqual(['long', 'long of another', 'short']);
    letGo();
    await Promise.all(long);
    expect(running.slice(3)).toEqual(['long after it', 'who does not say how long']);
  });
  it('while a visitor waits fewer of the back office are let in, and all come in time (random crowds)', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.record({ who: fc.constantFrom('a', 'b', 'c'), turns: fc.nat(6) }), { maxLength: 40 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 5 }),
        async (crowd, atOnce, ofOne) => {
          let most = atOnce;
          const lane = new Lane({ atOnce: () => most, ofOne, waiting: 1000 });
          const running: string[] = [];
          let done = 0;
          const all = crowd.map(({ who, turns }) =>
            lane.run(who, async () => {
              running.push(who);
              expect(running.length).toBeLessThanOrEqual(most);
              expect(running.filter((one) => one === who).length).toBeLessThanOrEqual(ofOne);
              for (let turn = 0; turn < turns; turn++) await Promise.resolve();
              running.splice(running.indexOf(who), 1);
              // More are let in from now on; those who wait have to be told.
              if (++done === Math.floor(crowd.length / 2)) {
                most = atOnce + 3;
                lane.goOn();
              }
            }),
          );
          await Promise.all(all);
          expect([done, lane.isBusy]).toEqual([crowd.length, false]);
        },
      ),
    );
  });
});

it.each([
  ['samollis12', false],
  ['safe-room-1', false],
  ['Sam.Ollis.2026', false],
  ['olliS-ollis-99!', false],
  ['workshop2026', false],
  ['until-the-autumn', true],
  ['sam-likes-purple-boats', true],
])('a password made of what everybody knows is too easy: %s', (password, isFine) => {
  const check = () => assertStrong(password, { name: 'Sam Ollis', email: 'sam@larkhaven.example' });
  if (isFine) expect(check).not.toThrow();
  else expect(check).toThrow('password-weak');
});
