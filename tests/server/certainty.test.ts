import { and, eq, sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Document, PageContent } from '@/core/content';
import type { Operation } from '@/core/plan';
import { doc, list, p, table } from '@/demo/write';
import { POST as makePage } from '@/pages/api/pages/index';
import { POST as makeNotice } from '@/pages/api/notices/index';
import { POST as endNotice } from '@/pages/api/notices/[id]/end';
import { POST as aside } from '@/pages/api/items/[id]/aside';
import { POST as many } from '@/pages/api/pages/bulk';
import { GET as changes } from '@/pages/api/items/[id]/changes';
import { POST as pause } from '@/pages/api/people/[id]/pause';
import { POST as moveHolders } from '@/pages/api/people/move';
import { PUT as audience } from '@/pages/api/pages/[id]/audience';
import { POST as bringBack } from '@/pages/api/items/[id]/bring-back';
import { POST as copy } from '@/pages/api/pages/[id]/copy';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as drop } from '@/pages/api/items/[id]/drop';
import { POST as move } from '@/pages/api/pages/[id]/move';
import { POST as planned } from '@/pages/api/items/[id]/schedule';
import { POST as previewLink } from '@/pages/api/pages/[id]/preview-link';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { POST as send } from '@/pages/api/items/[id]/send';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { POST as remarks } from '@/pages/api/review/[id]/remarks';
import { POST as stepIn } from '@/pages/api/workshop/step-in';
import { POST as goLive } from '@/pages/api/workshop/release';
import { POST as invite } from '@/pages/api/people/index';
import { POST as newLink } from '@/pages/api/people/[id]/link';
import { POST as setUp } from '@/pages/api/set-up';
import { getEditable } from '@/server/items/editable';
import { layoutsFor } from '@/server/items/allowed';
import { findPlace } from '@/server/tree/tree';
import { findPreview } from '@/server/items/previews';
import { settleDue } from '@/server/items/due';
import { getReviewView } from '@/server/items/compared';
import { listWaiting } from '@/server/items/reviews';
import { findLiveContent, listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { assignments, drafts, items, media, notices, people, releases, reviews, schedules } from '@/server/db/schema';
import { findAccess, findSite, type Site } from '@/server/gate/access';
import { mayNow } from '@/server/gate/authorize';
import { getPreparedPlan } from '@/server/plan/plans';
import { changePlan } from '@/server/plan/changes';
import { accessOf, call, inForce, pageId, role, signInAs, somebody, type Who } from './ask';
import { inventory } from '../inventory';

let site: Site;
beforeAll(async () => {
  site = (await findSite(db)) as Site;
});

const open = async (id: number) => {
  const page = await getEditable(db, inventory, site.id, id);
  return { content: page.content, version: page.draft?.version ?? 0, live: page.live };
};
const text = (content: PageContent, body: Document): PageContent => ({ ...content, body });

describe('stepping in', () => {
  it('is no way up for somebody who prepares rooms, and over with the right to it', async () => {
    await inForce(...role('maker', 'plan.view', 'plan.edit'));
    const eve = await somebody('Eve', { role: 'maker' });
    const ask = (body: object) => call(stepIn, 'POST', '/x', { ...eve, body: { from: '/workshop', ...body } });
    expect((await ask({ role: 'keyholder' })).body.detail).toMatch(
      /^In this room more can be done than you may yourself: /,
    );
    expect((await ask({ role: 'keyholder', person: String((await signInAs('Maud')).id) })).status).toBe(403);
    expect((await ask({ role: 'maker' })).status).toBe(200);
    expect((await findAccess(db, eve.token))?.trial).not.toBeNull();
    // What is prepared grows beyond them while they are in it: the trial is over at the next request.
    const { revision } = await getPreparedPlan(db, site.id);
    await db.transaction(async (tx) =>
      changePlan(tx, await accessOf('Maud'), revision, [
        { do: 'add-grant', role: 'maker', grant: { id: 'more', effect: 'allow', permission: 'person.*', scope: {} } },
      ]),
    );
    expect((await findAccess(db, eve.token))?.trial).toBeNull();
    // A keyholder in a trial who is one no longer has nothing of it left.
    const [maud, nell] = [await signInAs('Maud'), await somebody('Nell', { role: 'keyholder' })];
    expect(
      (
        await call(stepIn, 'POST', '/x', {
          ...nell,
          body: { role: 'keyholder', person: String(maud.id), from: '/workshop' },
        })
      ).status,
    ).toBe(200);
    await db.delete(assignments).where(eq(assignments.personId, nell.id));
    expect(await findAccess(db, nell.token)).toMatchObject({ trial: null, who: { name: 'Nell' } });
  });
});

describe('links that let somebody in', () => {
  it('end when roles grow, when another is made, when the maker may no longer, and with a changed password', async () => {
    await inForce(...role('inviter', 'person.*', 'page.view'));
    const [maud, rita] = [await signInAs('Maud'), await somebody('Rita', { role: 'inviter' })];
    const tokenOf = (answer: { body: Record<string, unknown> }) =>
      new URL(String(answer.body['link'])).searchParams.get('token') ?? '';
    const use = async (token: string) =>
      (await call(setUp, 'POST', '/x', { body: { token, password: 'four-grey-gulls-dancing' } })).status;
    const asked = { name: 'Ada', email: 'ada@larkhaven.example', assignments: [{ role: 'inviter' }] };
    const made = await call(invite, 'POST', '/x', { ...rita, body: asked });
    expect(made.status).toBe(200);
    expect(
      (
        await call(invite, 'POST', '/x', {
          ...rita,
          body: { ...asked, email: 'b@larkhaven.example', assignments: [{ role: 'newsroom' }] },
        })
      ).body.detail,
    ).toMatch(/^This would hand out more than you have yourself: /);
    const params = { id: String(made.body['id']) };
    const second = tokenOf(await call(newLink, 'POST', '/x', { ...maud, params }));
    expect(await use(tokenOf(made))).toBe(403);
    // Whoever made it is paused before it is used.
    const third = tokenOf(await call(newLink, 'POST', '/x', { ...rita, params }));
    expect(await use(second)).toBe(403);
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, rita.id));
    expect(await use(third)).toBe(403);
    await db.update(people).set({ suspendedAt: null }).where(eq(people.id, rita.id));
    // Their roles grow meanwhile.
    const fourth = tokenOf(await call(newLink, 'POST', '/x', { ...rita, params }));
    const { PUT: assign } = await import('@/pages/api/people/[id]/assignments');
    expect(
      (
        await call(assign, 'PUT', '/x', {
          ...maud,
          params,
          body: { before: [{ role: 'inviter' }], after: [{ role: 'inviter' }, { role: 'keyholder' }] },
        })
      ).status,
    ).toBe(200);
    expect(await use(fourth)).toBe(403);
    // Rita may not make one for somebody who now may do more than she.
    expect((await call(newLink, 'POST', '/x', { ...rita, params })).status).toBe(403);
    expect(await use(tokenOf(await call(newLink, 'POST', '/x', { ...maud, params })))).toBe(200);
  });
  it('are not made for somebody who is paused', async () => {
    const pam = await somebody('Pam');
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, pam.id));
    const answer = await call(newLink, 'POST', '/x', { ...(await signInAs('Maud')), params: { id: String(pam.id) } });
    expect([answer.status, answer.body.detail]).toEqual([422, 'Pam is paused. Let them work again first.']);
  });
  it('never lead anywhere else, whatever name the site is asked by', async () => {
    const maud = await signInAs('Maud');
    const ask = (headers: Record<string, string>) =>
      call(newLink, 'POST', '/x', { ...maud, params: { id: String(maud.id) }, headers });
    expect((await ask({ host: 'evil.example', origin: 'http://evil.example' })).status).toBe(421);
    expect(
      String((await ask({ 'x-forwarded-proto': 'javascript', 'x-forwarded-host': 'evil.example' })).body['link']),
    ).toMatch(/^http:\/\/127\.0\.0\.1:4400\/set-up\?token=/);
    expect((await ask({ origin: 'https://127.0.0.1:4400' })).status).toBe(403);
  });
});

describe('going live', () => {
  it('gives nobody what whoever does it has not, and happens once', async () => {
    await inForce(...role('releaser', 'plan.*'));
    const [maud, ray] = [await signInAs('Maud'), await somebody('Ray', { role: 'releaser' })];
    const { revision } = await getPreparedPlan(db, site.id);
    const wider: Operation = {
      do: 'add-grant',
      role: 'releaser',
      grant: { id: 'more', effect: 'allow', permission: 'person.manage', scope: {} },
    };
    await db.transaction(async (tx) => changePlan(tx, await accessOf('Maud'), revision, [wider]));
    expect((await call(goLive, 'POST', '/x', { ...ray, body: { revision: revision + 1, note: '' } })).body.detail).toBe(
      'This would give Ray more than you have yourself: invite people, pause them and give them roles. Ask a keyholder to make it go live.',
    );
    const before = await db.$count(releases);
    const answers = await Promise.all(
      Array.from({ length: 8 }, () =>
        call(goLive, 'POST', '/x', { ...maud, body: { revision: revision + 1, note: '' } }),
      ),
    );
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409, 409, 409, 409, 409, 409, 409]);
    expect(await db.$count(releases)).toBe(before + 1);
  });
  it('and preparing never leave an instant without somebody who can look after the website', async () => {
    const maud = await signInAs('Maud');
    const { revision } = await getPreparedPlan(db, site.id);
    const { POST: change } = await import('@/pages/api/workshop/plan');
    const prepare = (...operations: Operation[]) =>
      call(change, 'POST', '/x', { ...maud, body: { revision, operations } });
    expect(
      (
        await prepare({
          do: 'add-grant',
          role: 'keyholder',
          grant: { id: 'no', effect: 'deny', permission: 'plan.*', scope: {} },
        })
      ).body.detail,
    ).toBe('The keyholder role can always do everything; this cannot be taken from it.');
    const { plan } = await getPreparedPlan(db, site.id);
    const { POST: importRoute } = await import('@/pages/api/workshop/import');
    const withDeny = {
      ...plan,
      roles: plan.roles.map((r) =>
        r.id === 'keyholder'
          ? { ...r, grants: [...r.grants, { id: 'no', effect: 'deny', permission: 'person.*', scope: {} }] }
          : r,
      ),
    };
    expect(
      JSON.stringify(
        (await call(importRoute, 'POST', '/x', { ...maud, body: { text: JSON.stringify(withDeny) } })).body,
      ),
    ).toContain('can be forbidden nothing');
    await db
      .delete(assignments)
      .where(sql`${assignments.roleId} = 'keyholder' and ${assignments.personId} <> ${maud.id}`);
    // By the back way: everybody with keys also holds a role that is to forbid it, from a day on.
    await db
      .insert(assignments)
      .values({ siteId: site.id, personId: maud.id, roleId: 'front-line', fromAt: new Date('2066-02-11T00:00:00Z') });
    expect(
      (
        await prepare({
          do: 'add-grant',
          role: 'front-line',
          grant: { id: 'no', effect: 'deny', permission: 'plan.release', scope: {} },
        })
      ).body.detail,
    ).toBe(
      'Then from 11 February 2066 on no keyholder could prepare rooms, step in, go live and look after people. Somebody must always be able to.',
    );
    await db
      .delete(assignments)
      .where(sql`${assignments.personId} = ${maud.id} and ${assignments.roleId} = 'front-line'`);
  });
});

describe('two persons', () => {
  it('means nobody who wrote any of it: not the one who wrote and let another send, not the one who sent it back and wrote on', async () => {
    await inForce(
      { do: 'add-role', role: 'reader', name: 'Reader', purpose: '', like: 'second-look' },
      { do: 'set-door', role: 'reader', section: 'pages', state: 'open' },
      { do: 'add-grant', role: 'reader', grant: { id: 'edit', effect: 'allow', permission: 'page.edit', scope: {} } },
    );
    const quay = await pageId('South Quay');
    const params = { id: String(quay) };
    const [ines, priya, ann] = [
      await signInAs('Ines'),
      await signInAs('Priya'),
      await somebody('Ann', { role: 'reader' }),
    ];
    const first = await open(quay);
    // Ann writes, Ines sends it as it is: Ann does not decide.
    const kept = await call(putDraft, 'PUT', '/x', {
      ...ann,
      params,
      body: { content: { ...first.content, summary: 'Ann wrote this.' }, version: first.version },
    });
    expect(kept.status).toBe(200);
    const again = await open(quay);
    const sent = await call(send, 'POST', '/x', {
      ...ines,
      params,
      body: { content: again.content, version: again.version, note: '' },
    });
    const review = { id: String(sent.body['review']) };
    expect((await getReviewView(db, inventory, site.id, Number(review.id))).writtenBy).toEqual(['Ann', 'Ines Varga']);
    expect(
      (await call(decide, 'POST', '/x', { ...ann, params: review, body: { outcome: 'published', word: '' } })).body
        .detail,
    ).toBe('Nobody gives the second look to their own work. Somebody else will have to look at it.');
    // Priya sends it back; then Ann writes on and Ines sends again; Ann dropped and restored is Ann still.
    expect(
      (await call(decide, 'POST', '/x', { ...priya, params: review, body: { outcome: 'sent-back', word: 'Shorter' } }))
        .status,
    ).toBe(200);
    const back = await open(quay);
    await call(drop, 'POST', '/x', { ...ines, params, body: { version: back.version } });
    const fresh = await open(quay);
    const resent = await call(send, 'POST', '/x', {
      ...ines,
      params,
      body: { content: { ...fresh.content, summary: 'Ann wrote this.' }, version: fresh.version, note: '' },
    });
    expect(
      (
        await call(decide, 'POST', '/x', {
          ...ann,
          params: { id: String(resent.body['review']) },
          body: { outcome: 'published', word: '' },
        })
      ).status,
    ).toBe(403);
    expect(
      (
        await call(decide, 'POST', '/x', {
          ...priya,
          params: { id: String(resent.body['review']) },
          body: { outcome: 'published', word: '' },
        })
      ).status,
    ).toBe(200);
    // Once it is published the next words are somebody else's: Ann may read what Ines alone writes now.
    const next = await open(quay);
    const last = await call(send, 'POST', '/x', {
      ...ines,
      params,
      body: { content: { ...next.content, summary: 'Ines alone.' }, version: next.version, note: '' },
    });
    expect(
      (
        await call(decide, 'POST', '/x', {
          ...ann,
          params: { id: String(last.body['review']) },
          body: { outcome: 'published', word: '' },
        })
      ).status,
    ).toBe(200);
  });
  it('a version one put aside makes one a writer, too', async () => {
    const history = await pageId('Our history');
    const params = { id: String(history) };
    const [juno, maud] = [await signInAs('Juno'), await signInAs('Maud')];
    const page = await open(history);
    await call(aside, 'POST', '/x', {
      ...maud,
      params,
      body: { content: { ...page.content, summary: 'Put aside by Maud.' } },
    });
    const sent = await call(send, 'POST', '/x', {
      ...juno,
      params,
      body: { content: { ...page.content, summary: 'Put aside by Maud.' }, version: page.version, note: '' },
    });
    expect(
      (
        await call(decide, 'POST', '/x', {
          ...maud,
          params: { id: String(sent.body['review']) },
          body: { outcome: 'published', word: '' },
        })
      ).status,
    ).toBe(403);
  });
});

describe('what is published was seen', () => {
  it('also words of a field another layout shows, when the layout brings them up', async () => {
    const ennis = await pageId('Port Ennis');
    const params = { id: String(ennis) };
    const [ines, priya] = [await signInAs('Ines'), await signInAs('Priya')];
    const told = async (review: unknown) =>
      (await getReviewView(db, inventory, site.id, Number(review))).changes
        .filter((change) => change.changed)
        .map((change) => [
          change.field.id,
          change.hidden ?? false,
          change.lines.map((line) => line.pieces.map((piece) => piece.text).join('')).join(' / '),
        ]);
    const page = await open(ennis);
    const hidden = await call(send, 'POST', '/x', {
      ...ines,
      params,
      body: {
        content: {
          ...page.content,
          summary: `${page.content['summary'] as string},`,
          intro: doc(p('Never read by anybody.')),
        },
        version: page.version,
        note: '',
      },
    });
    expect(hidden.status).toBe(200);
    expect(await told(hidden.body['review'])).toContainEqual(['intro', true, 'Never read by anybody.']);
    await call(decide, 'POST', '/x', {
      ...priya,
      params: { id: String(hidden.body['review']) },
      body: { outcome: 'published', word: '' },
    });
    const shown = await open(ennis);
    const brought = await call(send, 'POST', '/x', {
      ...ines,
      params,
      body: {
        content: { ...shown.content, 'page.layout': 'event', when: '2061-01-01T10:00', sort: 'market' },
        version: shown.version,
        note: '',
      },
    });
    expect(brought.status).toBe(200);
    expect(await told(brought.body['review'])).toContainEqual(['intro', false, 'Never read by anybody.']);
    await call(decide, 'POST', '/x', {
      ...priya,
      params: { id: String(brought.body['review']) },
      body: { outcome: 'sent-back', word: 'No.' },
    });
  });
});

describe('tools and protection', () => {
  const forbidden: Document = doc(
    table(['To'], ['Skell']),
    { type: 'blockquote', content: [p('quoted')] },
    { type: 'highlight', content: [p('x')] },
    { type: 'alert', attrs: { until: '2061-01-01' }, content: [p('x')] },
  );
  it('hold for every rich field and piece, shown or not, and by every way in', async () => {
    const skell = await pageId('Skell Island');
    const params = { id: String(skell) };
    const ines = await signInAs('Ines');
    const page = await open(skell);
    const piece = { id: 'a', region: 'main', heading: 'x', text: forbidden, picture: null };
    const tries: [string, object][] = [
      ['a field of another layout', { intro: forbidden }],
      ['pieces of another layout', { pieces: [piece] }],
      ['pieces with the layout that shows them', { 'page.layout': 'pieces', pieces: [piece] }],
      ['what is not known', { body: doc(p('x'), { type: 'unknown', attrs: { json: '{"a":1}' } }) }],
    ];
    for (const [what, more] of tries) {
      expect(
        (
          await call(putDraft, 'PUT', '/x', {
            ...ines,
            params,
            body: { content: { ...page.content, ...more }, version: page.version },
          })
        ).body.kind,
        `draft: ${what}`,
      ).toBe('tool-missing');
      expect(
        (await call(aside, 'POST', '/x', { ...ines, params, body: { content: { ...page.content, ...more } } })).body
          .kind,
        `aside: ${what}`,
      ).toBe('tool-missing');
      expect(
        (
          await call(send, 'POST', '/x', {
            ...ines,
            params,
            body: { content: { ...page.content, ...more }, version: page.version, note: '' },
          })
        ).body.kind,
        `send: ${what}`,
      ).toBe('tool-missing');
    }
  });
  it('keep a table that is left out, and let whoever has the tool change and remove pictures', async () => {
    const maud = await signInAs('Maud');
    const ines = await signInAs('Ines');
    const id = await pageId('Left luggage at Port Ennis').catch(() => pageId('Lost and found'));
    const params = { id: String(id) };
    const page = await open(id);
    const [picture] = await db.select({ id: media.id }).from(media).limit(1);
    const shown: Document = {
      type: 'doc',
      content: [
        p('Before'),
        { type: 'picture', attrs: { id: String(picture?.id), description: 'A boat', width: 'full' } },
        table(['To'], ['Skell']),
        p('After'),
      ],
    };
    const put = async (who: Who, content: object) => {
      const { version } = await open(id);
      return call(putDraft, 'PUT', '/x', { ...who, params, body: { content, version } });
    };
    expect((await put(maud, text(page.content, shown))).status).toBe(200);
    // Maud has the code view; somebody with the tools and without it may change and take out what they put in, too.
    await inForce(
      { do: 'add-role', role: 'writer', name: 'Writer', purpose: '', like: 'newsroom' },
      { do: 'add-grant', role: 'writer', grant: { id: 'all', effect: 'allow', permission: 'page.*', scope: {} } },
    );
    const wim = await somebody('Wim', { role: 'writer' });
    const described: Document = {
      ...shown,
      content: shown.content.map((node) =>
        node.type === 'picture' ? { ...node, attrs: { ...node.attrs, description: 'A red boat' } } : node,
      ),
    };
    expect((await put(wim, text(page.content, described))).status).toBe(200);
    expect((await put(wim, text(page.content, doc(p('Before'), table(['To'], ['Skell']), p('After'))))).status).toBe(
      200,
    );
    // Ines lacks the table tool: directly, by leaving the field out, and by another layout.
    expect((await put(ines, text(page.content, doc(p('Before'))))).body.kind).toBe('tool-missing');
    const { body: _, ...without } = page.content;
    expect((await put(ines, without)).status).toBe(200);
    expect(JSON.stringify((await open(id)).content['body'])).toContain('Skell');
    expect((await put(ines, { ...without, 'page.layout': 'pieces' })).status).toBe(200);
    expect(JSON.stringify((await open(id)).content['body'])).toContain('Skell');
    expect((await put(ines, { ...without, body: doc(list('x')) })).body.kind).toBe('tool-missing');
  });
  it('a picture is chosen among all of them only by who may see them all, the second as the first', async () => {
    await inForce(...role('picture-less', 'page.view', 'page.edit'));
    const pia = await somebody('Quirin', { role: 'picture-less' });
    const maud = await signInAs('Maud');
    const id = await pageId('The Slipway Café');
    const put = async (who: { cookie: string }, change: object) => {
      const page = await open(id);
      return call(putDraft, 'PUT', '/x', {
        ...who,
        params: { id: String(id) },
        body: { content: { ...page.content, ...change }, version: page.version },
      });
    };
    const before = (await open(id)).content;
    const own = before['banner'] as string;
    const [other, third] = (await db.select({ id: media.id }).from(media).orderBy(media.id))
      .map((row) => String(row.id))
      .filter((picture) => picture !== own);
    const pieces = (picture: string | undefined) => [
      { id: 'a', region: 'main', heading: 'x', text: doc(p('x')), picture },
    ];
    const refused = async (change: object) => {
      const answer = await put(pia, change);
      expect([answer.status, answer.body.detail]).toEqual([
        422,
        expect.stringContaining('only those this page had before'),
      ]);
    };
    await refused({ banner: other });
    await refused({ pieces: pieces(other) });
    // A number that stands in a text is no picture the page had.
    expect((await put(pia, { title: other })).status).toBe(200);
    await refused({ banner: other });
    expect((await put(pia, { title: before['title'], banner: null })).status).toBe(200);
    expect((await put(pia, { banner: own })).status).toBe(200);
    // What the page had once may come back; another one beside it may not.
    const page = await open(id);
    expect(
      (
        await call(aside, 'POST', '/x', {
          ...maud,
          params: { id: String(id) },
          body: { content: { ...page.content, banner: other } },
        })
      ).status,
    ).toBe(200);
    await refused({ banner: other, pieces: pieces(third) });
    expect((await put(pia, { banner: other })).status).toBe(200);
  });
  it('an author or a layout that opens more than one had is not for oneself to set', async () => {
    await inForce(
      { do: 'add-role', role: 'own-publisher', name: 'Own publisher', purpose: '' },
      { do: 'set-door', role: 'own-publisher', section: 'pages', state: 'open' },
      ...(['page.view', 'page.edit'] as const).map((permission): Operation => ({
        do: 'add-grant',
        role: 'own-publisher',
        grant: { id: permission, effect: 'allow', permission, scope: {} },
      })),
      {
        do: 'add-grant',
        role: 'own-publisher',
        grant: { id: 'pub', effect: 'allow', permission: 'page.publish', scope: { own: true } },
      },
      {
        do: 'add-grant',
        role: 'own-publisher',
        grant: { id: 'down', effect: 'allow', permission: 'page.retire', scope: { layouts: ['banner'] } },
      },
    );
    const otto = await somebody('Otto', { role: 'own-publisher' });
    const jobs = await pageId('Jobs');
    const page = await open(jobs);
    const put = (more: object) =>
      call(putDraft, 'PUT', '/x', {
        ...otto,
        params: { id: String(jobs) },
        body: { content: { ...page.content, ...more }, version: page.version },
      });
    expect((await put({ 'page.author': String(otto.id) })).body['faults']).toEqual([
      {
        field: 'page.author',
        message: 'As its author you could do more with this page than now. Somebody else has to change it.',
      },
    ]);
    expect((await put({ 'page.layout': 'banner' })).body['faults']).toMatchObject([{ field: 'page.layout' }]);
    // What is offered beforehand is what is taken.
    const access = await findAccess(db, otto.token);
    const place = await findPlace(db, site.id, jobs);
    if (!access || !place) throw new Error('nobody, or nowhere');
    expect(layoutsFor(access, place)).toContain('event');
    expect(layoutsFor(access, place)).not.toContain('banner');
    expect((await put({ summary: 'Only words.' })).status).toBe(200);
  });
});

describe('what is forbidden below', () => {
  it('is not passed by plans, visitors’ rights and bringing back', async () => {
    const [harbours, ennis] = [await pageId('Harbours'), await pageId('Port Ennis')];
    await inForce(
      ...role('most', 'page.*'),
      ...(['page.retire', 'page.publish'] as const).map((permission): Operation => ({
        do: 'add-grant',
        role: 'most',
        grant: { id: `not-${permission}`, effect: 'deny', permission, scope: { branch: String(ennis) } },
      })),
    );
    const mia = await somebody('Mia', { role: 'most' });
    const params = { id: String(harbours) };
    expect((await call(planned, 'POST', '/x', { ...mia, params, body: { at: '2065-01-01T10:00' } })).body.detail).toBe(
      '“Port Ennis” would go along, and that one is not yours to change in this way. Ask the keyholder if you need to.',
    );
    expect(
      (await call(audience, 'PUT', '/x', { ...mia, params, body: { audience: { kind: 'members' } } })).status,
    ).toBe(403);
    await call(retire, 'POST', '/x', { ...(await signInAs('Maud')), params, body: { do: 'delete' } });
    expect((await call(bringBack, 'POST', '/x', { ...mia, params })).status).toBe(403);
    expect((await call(bringBack, 'POST', '/x', { ...(await signInAs('Maud')), params })).status).toBe(200);
    await call(retire, 'POST', '/x', { ...(await signInAs('Maud')), params, body: { do: 'take-down' } });
    const back = { params, body: { do: 'put-back' } };
    expect((await call(retire, 'POST', '/x', { ...mia, ...back })).status).toBe(403);
    expect((await call(retire, 'POST', '/x', { ...(await signInAs('Maud')), ...back })).status).toBe(200);
  });
  it('many pages at once ask of each what one asks: looking at them is not enough', async () => {
    await inForce(...role('onlooker', 'page.view'));
    const rae = await somebody('Rae', { role: 'onlooker' });
    const fares = await pageId('Fares');
    for (const bulk of [
      { do: 'audience', audience: 'members' },
      { do: 'navigation', shown: false },
      { do: 'take-down' },
      { do: 'delete' },
      { do: 'move', parent: await pageId('About us'), redirect: true },
    ]) {
      const answer = await call(many, 'POST', '/x', { ...rae, body: { ids: [fares], bulk, dry: true } });
      expect(answer.body, bulk.do).toMatchObject({
        rows: [{ refused: true, words: 'It is not yours to change in this way.' }],
      });
    }
  });
  it('holders are moved by nobody whose own role it is', async () => {
    await inForce(...role('crew', 'person.view', 'person.manage'), ...role('crew-too', 'person.view', 'person.manage'));
    const cal = await somebody('Cal', { role: 'crew' });
    const answer = await call(moveHolders, 'POST', '/x', { ...cal, body: { from: 'crew', to: 'crew-too' } });
    expect([answer.status, answer.body.detail]).toEqual([
      403,
      'You cannot change what you may do yourself. Ask a keyholder.',
    ]);
  });
  it('holders are moved to no role, and nobody paused let in again, with more than whoever does it has', async () => {
    await inForce(
      ...role('hirer', 'person.view', 'person.manage', 'page.view'),
      ...role('leafer', 'page.view'),
      ...role('printer', 'page.view', 'page.publish'),
      // So that pages for those of that role alone are no more than they have.
      { do: 'set-extends', role: 'hirer', extends: ['leafer'] },
    );
    const dot = await somebody('Dot', { role: 'hirer' });
    const [rex, pru] = [await somebody('Rex', { role: 'leafer' }), await somebody('Pru', { role: 'printer' })];
    const moved = await call(moveHolders, 'POST', '/x', { ...dot, body: { from: 'leafer', to: 'printer' } });
    expect(moved.body).toMatchObject({ status: 403, code: 'gives-more' });
    // Somebody paused holds their roles still: to let them work again is to give them.
    const paused = (id: number, is: boolean) =>
      call(pause, 'POST', '/x', { ...dot, params: { id: String(id) }, body: { paused: is } });
    expect((await paused(pru.id, true)).status).toBe(200);
    expect((await paused(pru.id, false)).body).toMatchObject({ status: 403, code: 'may-do-more' });
    expect((await paused(rex.id, true)).status).toBe(200);
    expect((await paused(rex.id, false)).status).toBe(200);
  });
  it('a draft that would go out is read by nobody who may publish it and not change it', async () => {
    await inForce(...role('presser', 'page.view', 'page.publish'));
    const per = await somebody('Per', { role: 'presser' });
    const [one] = await db
      .select({ id: drafts.itemId })
      .from(drafts)
      .innerJoin(items, and(eq(items.id, drafts.itemId), eq(items.type, 'page')))
      .limit(1);
    const answer = await call(changes, 'GET', '/x', { ...per, params: { id: String(one?.id) } });
    expect(answer.body).toMatchObject({ status: 403, permission: 'page.edit' });
  });
});

describe('one’s own', () => {
  it('notices are their poster’s, whoever made the page', async () => {
    await inForce(
      { do: 'add-role', role: 'poster', name: 'Poster', purpose: '' },
      { do: 'set-door', role: 'poster', section: 'notices', state: 'open' },
      ...(['notice.view', 'notice.post', 'notice.end'] as const).map((permission): Operation => ({
        do: 'add-grant',
        role: 'poster',
        grant: { id: permission, effect: 'allow', permission, scope: { own: true } },
      })),
    );
    const pia = await somebody('Pia', { role: 'poster' });
    const made = await call(makeNotice, 'POST', '/x', { ...pia, body: { text: 'Hers', kind: 'information' } });
    expect(made.status).toBe(200);
    const [other] = await db
      .select()
      .from(notices)
      .where(
        sql`${notices.postedBy} <> ${pia.id} and ${notices.endedAt} is null and (${notices.endsAt} is null or ${notices.endsAt} > now())`,
      )
      .limit(1);
    expect((await call(endNotice, 'POST', '/x', { ...pia, params: { id: String(other?.id) } })).status).toBe(403);
    expect((await call(endNotice, 'POST', '/x', { ...pia, params: { id: String(made.body['id']) } })).status).toBe(200);
  });
  it('remarks are between reader and writer', async () => {
    await inForce(...role('looker', 'page.view'));
    const lea = await somebody('Lea', { role: 'looker' });
    const review = (await listWaiting(db, site.id))[0];
    const ask = (who: Who, body: object) =>
      call(remarks, 'POST', '/x', { ...who, params: { id: String(review?.id) }, body });
    const made = await ask(await signInAs('Priya'), { field: 'summary', quote: '', text: 'A word', answers: null });
    const [remark] = made.body['remarks'] as { id: number }[];
    expect((await ask(lea, { field: 'summary', quote: '', text: 'x', answers: null })).status).toBe(403);
    expect((await ask(lea, { settle: remark?.id, settled: true })).status).toBe(403);
    expect((await ask(await signInAs('Oskar'), { settle: remark?.id, settled: true })).status).toBe(403);
    // Whoever wrote it, while they may change it.
    const writer = await somebody('Wil', { role: 'harbour-desk' });
    await db
      .update(reviews)
      .set({ sentBy: writer.id })
      .where(eq(reviews.id, review?.id ?? 0));
    const settle = () => ask(writer, { settle: remark?.id, settled: true });
    expect((await settle()).status).toBe(200);
    await db.update(assignments).set({ roleId: 'looker' }).where(eq(assignments.personId, writer.id));
    expect((await settle()).status).toBe(403);
  });
});

describe('pages that are for some only', () => {
  const facts = async (id: number) => (await listPages(db, site.id)).find((page) => page.id === String(id));
  it('stay so when they are copied and moved', async () => {
    const maud = await signInAs('Maud');
    const about = await pageId('About us');
    const harbours = await pageId('Harbours');
    await call(audience, 'PUT', '/x', {
      ...maud,
      params: { id: String(about) },
      body: { audience: { kind: 'members' } },
    });
    const jobs = await pageId('Jobs');
    const told = await call(move, 'POST', '/x', {
      ...maud,
      params: { id: String(jobs) },
      body: { parent: harbours, index: 0, dry: true },
    });
    expect(told.body['visitors']).toBe(
      'It stays for members only, as it is now. Who may visit it can be changed on its edit screen.',
    );
    await call(move, 'POST', '/x', { ...maud, params: { id: String(jobs) }, body: { parent: harbours, index: 0 } });
    expect((await facts(jobs))?.place.audience).toEqual({ kind: 'members' });
    const copied = await call(copy, 'POST', '/x', {
      ...maud,
      params: { id: String(jobs) },
      body: { withBelow: false },
    });
    expect((await facts(Number(copied.body['id'])))?.place.audience).toEqual({ kind: 'members' });
    // The other way it is told, too.
    const fares = await pageId('Fares');
    expect(
      (
        await call(move, 'POST', '/x', {
          ...maud,
          params: { id: String(fares) },
          body: { parent: about, index: 0, dry: true },
        })
      ).body['visitors'],
    ).toBe('There it is for members only, as the page above it; now it is for everybody.');
    await call(move, 'POST', '/x', { ...maud, params: { id: String(jobs) }, body: { parent: about, index: 0 } });
    await call(audience, 'PUT', '/x', { ...maud, params: { id: String(about) }, body: { audience: null } });
  });
  it('end preview links made before; so does their maker’s pause, and whoever may change the page', async () => {
    const [maud, ines] = [await signInAs('Maud'), await signInAs('Ines')];
    const id = await pageId('Skell Island');
    const params = { id: String(id) };
    const make = async () => {
      const made = await call(previewLink, 'POST', '/x', { ...ines, params, body: { days: 7 } });
      return {
        token: String(made.body['url']).split('/preview/')[1] ?? '',
        links: made.body['links'] as { id: number; by: string }[],
      };
    };
    const works = async (token: string) => (await findPreview(db, site, token)) !== undefined;
    const first = await make();
    expect([await works(first.token), first.links.map((link) => link.by)]).toEqual([true, ['Ines Varga']]);
    await call(audience, 'PUT', '/x', { ...maud, params, body: { audience: { kind: 'members' } } });
    expect(await works(first.token)).toBe(false);
    await call(audience, 'PUT', '/x', { ...maud, params, body: { audience: null } });
    expect(await works(first.token)).toBe(true);
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, ines.id));
    expect(await works(first.token)).toBe(false);
    await db.update(people).set({ suspendedAt: null }).where(eq(people.id, ines.id));
    expect(
      (
        await call(previewLink, 'POST', '/x', {
          ...maud,
          params: { id: String(await pageId('Jobs')) },
          body: { end: first.links[0]?.id },
        })
      ).status,
    ).toBe(404);
    expect(
      (await call(previewLink, 'POST', '/x', { ...maud, params, body: { end: first.links[0]?.id } })).body,
    ).toMatchObject({ links: [] });
    expect(await works(first.token)).toBe(false);
  });
});

describe('what is planned', () => {
  const due = (id: number) =>
    db
      .update(schedules)
      .set({ dueAt: new Date(Date.now() - 1000) })
      .where(eq(schedules.itemId, id));
  it('does not happen in the name of somebody paused since, or who may no longer', async () => {
    const juno = await signInAs('Juno');
    const history = await pageId('Our history');
    const params = { id: String(history) };
    const plan = async (summary: string) => {
      const page = await open(history);
      return call(publish, 'POST', '/x', {
        ...juno,
        params,
        body: { content: { ...page.content, summary }, version: page.version, note: '', at: '2065-01-01T10:00' },
      });
    };
    expect((await plan('Planned by Juno.')).status).toBe(200);
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, juno.id));
    await due(history);
    expect(await settleDue(db, true)).toBe(0);
    expect(JSON.stringify(await findLiveContent(db, history))).not.toContain('Planned by Juno.');
    expect((await getEditable(db, inventory, site.id, history)).planned).toMatchObject([
      { failed: 'Juno Park, who planned this, is paused.' },
    ]);
    await db.update(people).set({ suspendedAt: null }).where(eq(people.id, juno.id));
    expect((await plan('Planned by Juno again.')).status).toBe(200);
    await due(history);
    expect(await settleDue(db, true)).toBe(1);
    expect(JSON.stringify(await findLiveContent(db, history))).toContain('Planned by Juno again.');
  });
  it('is done once, however many look at the same moment', async () => {
    const maud = await signInAs('Maud');
    const id = await pageId('Timetable');
    const page = await open(id);
    await call(publish, 'POST', '/x', {
      ...maud,
      params: { id: String(id) },
      body: { content: { ...page.content, summary: 'Once.' }, version: page.version, note: '', at: '2065-01-01T10:00' },
    });
    await due(id);
    const out = async () =>
      (await db.execute<{ n: number }>(sql`select count(*)::int as n from publications where item_id = ${id}`)).rows[0]
        ?.n ?? 0;
    const before = await out();
    // A barrier: everybody has seen that it is due before anybody may take it, since its row is held meanwhile. Who
    // waits is asked outside the transaction: inside, the statistics stay as they were read first (PostgreSQL manual,
    // "Viewing Statistics").
    const settled: Promise<number>[] = [];
    await db.transaction(async (tx) => {
      await tx.execute(sql`select 1 from items where id = ${id} for update`);
      settled.push(...Array.from({ length: 5 }, () => settleDue(db, true)));
      for (let waits = 0; waits < 1;)
        waits = Number(
          (
            await db.execute<{ n: number }>(
              sql`select count(*)::int as n from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()`,
            )
          ).rows[0]?.n,
        );
    });
    const done = await Promise.all(settled);
    expect(done.reduce((sum, n) => sum + n, 0)).toBe(1);
    expect(await out()).toBe(before + 1);
  });
  it('of a page some fields only: nothing else of it, by no way', async () => {
    await inForce(
      { do: 'add-role', role: 'hours', name: 'Opening times', purpose: '' },
      { do: 'set-door', role: 'hours', section: 'pages', state: 'open' },
      ...(['page.view', 'page.send', 'page.create'] as const).map((permission): Operation => ({
        do: 'add-grant',
        role: 'hours',
        grant: { id: permission, effect: 'allow', permission, scope: {} },
      })),
      {
        do: 'add-grant',
        role: 'hours',
        grant: { id: 'edit', effect: 'allow', permission: 'page.edit', scope: { fields: ['hours', 'summary'] } },
      },
    );
    const hilda = await somebody('Hilda', { role: 'hours' });
    const quay = await pageId('South Quay');
    const at = { params: { id: String(quay) } };
    const page = await open(quay);
    let { version } = page;
    const keep = async (who: Who, more: object) => {
      const answer = await call(putDraft, 'PUT', '/x', {
        ...who,
        ...at,
        body: { content: { ...page.content, ...more }, version },
      });
      if (answer.status === 200) version = Number(answer.body['version']);
      return answer;
    };
    expect((await keep(hilda, { title: 'Mine now' })).body).toMatchObject({
      status: 403,
      detail:
        '“Page title” is not yours to change here. You may change “Summary” and “Ticket office hours”. Ask the keyholder if you need to.',
    });
    for (const more of [
      { body: doc(p('Mine.')) },
      { 'page.layout': 'plain' },
      { 'page.slug': 'mine' },
      { 'page.author': String(hilda.id) },
      { banner: null },
      { when: '2026-12-12T10:00' },
    ])
      expect((await keep(hilda, more)).status, JSON.stringify(more)).toBe(403);
    expect((await keep(hilda, { hours: 'Every day 07:00 to 19:00' })).status).toBe(200);
    // What somebody else wrote, right or not yet, stays as it is; their draft is not hers to drop.
    const maud = await signInAs('Maud');
    expect(
      (await keep({ ...maud, id: 1 }, { hours: 'Every day 07:00 to 19:00', body: doc(p('By Maud.')), title: '' }))
        .status,
    ).toBe(200);
    const drops = (who: { cookie: string }) =>
      call(drop, 'POST', '/x', { cookie: who.cookie, ...at, body: { version } });
    expect((await drops(hilda)).status).toBe(403);
    expect((await keep(hilda, { hours: 'Closed', body: doc(p('By Maud.')), title: 'Filled in for Maud' })).status).toBe(
      403,
    );
    expect((await keep(hilda, { hours: 'Closed', body: doc(p('By Maud.')), title: '' })).body['faults']).toMatchObject([
      { field: 'title' },
    ]);
    // Nor by sending, by putting aside, or on a new page.
    expect(
      (
        await call(send, 'POST', '/x', {
          ...hilda,
          ...at,
          body: { content: { ...page.content, hours: 'Closed' }, version, note: '', askedOf: null },
        })
      ).status,
    ).toBe(403);
    expect(
      (
        await call(aside, 'POST', '/x', {
          ...hilda,
          ...at,
          body: { content: { ...page.content, title: 'Mine', hours: 'Sundays' } },
        })
      ).status,
    ).toBe(200);
    const [kept] = (
      await db.execute<{ content: PageContent }>(
        sql`select content from revisions where item_id = ${quay} and kind = 'kept' order by id desc limit 1`,
      )
    ).rows;
    expect(kept?.content).toMatchObject({ title: page.content['title'], hours: 'Sundays' });
    expect(
      (await call(makePage, 'POST', '/x', { ...hilda, body: { parent: quay, layout: 'harbour', title: 'New' } }))
        .status,
    ).toBe(403);
    expect((await drops(maud)).status).toBe(200);
    // A page whose layout has no such field is not hers at all.
    await inForce(
      { do: 'remove-grant', role: 'hours', grant: 'edit' },
      {
        do: 'add-grant',
        role: 'hours',
        grant: { id: 'hours', effect: 'allow', permission: 'page.edit', scope: { fields: ['hours'] } },
      },
    );
    const access = await findAccess(db, hilda.token);
    const place = await findPlace(db, site.id, quay);
    expect(
      access &&
        place && [
          mayNow(access, 'page.edit', { place }).allowed,
          mayNow(access, 'page.edit', { place: { ...place, layout: 'plain' } }).allowed,
        ],
    ).toEqual([true, false]);
  });
});
