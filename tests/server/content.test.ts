import { eq, sql } from 'drizzle-orm';
import pg from 'pg';
import { describe, expect, it, inject } from 'vitest';
import { documentOf, type PageContent } from '@/core/content';
import { doc, h2, p } from '@/demo/write';
import { POST as aside } from '@/pages/api/items/[id]/aside';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as dropDraft } from '@/pages/api/items/[id]/drop';
import { POST as publishPage } from '@/pages/api/items/[id]/publish';
import { POST as sendPage } from '@/pages/api/items/[id]/send';
import { GET as getVersion } from '@/pages/api/items/[id]/versions/[revision]';
import { POST as decideReview } from '@/pages/api/review/[id]/decide';
import { getEditable } from '@/server/items/editable';
import { getReviewView } from '@/server/items/compared';
import { listWaiting } from '@/server/items/reviews';
import { findLiveContent } from '@/server/tree/tree';
import { db, pgCode } from '@/server/db/client';
import { activity, drafts, revisions, reviews } from '@/server/db/schema';
import { call, pageId, signInAs, siteId } from './ask';
import { inventory } from '../inventory';

const page = async (title: string) => {
  const id = await pageId(title);
  return { id, params: { id: String(id) }, content: (await findLiveContent(db, id)) ?? {} };
};
const withText = (content: PageContent, text: string): PageContent => ({
  ...content,
  body: { type: 'doc', content: [...documentOf(content, 'body').content, p(text)] },
});

describe('keeping a draft', () => {
  it('never writes over newer work: the second of two is told and sees both', async () => {
    const { params, content } = await page('Skell Island');
    const [ines, tomas] = [await signInAs('Ines'), await signInAs('Tomas')];
    const mine = withText(content, 'Ines wrote this.');
    const theirs = withText(content, 'Tomas wrote this.');
    expect(await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: mine, version: 0 } })).toMatchObject({
      status: 200,
      body: { version: 1 },
    });
    const clash = await call(putDraft, 'PUT', '/x', { ...tomas, params, body: { content: theirs, version: 0 } });
    expect(clash).toMatchObject({
      status: 409,
      body: { kind: 'conflict', theirs: { draft: { version: 1, updatedBy: 'Ines Varga' } } },
    });
    expect((clash.body['theirs'] as { content: PageContent }).content['body']).toEqual(mine['body']);
    // Knowingly kept over the other one, which is put aside and can be read again.
    expect(
      await call(putDraft, 'PUT', '/x', { ...tomas, params, body: { content: theirs, version: 1, over: true } }),
    ).toMatchObject({ status: 200, body: { version: 2 } });
    const now = await getEditable(db, inventory, await siteId(), Number(params.id));
    expect(now.content['body']).toEqual(theirs['body']);
    const kept = now.versions.find((v) => v.kind === 'kept');
    expect(kept).toMatchObject({ by: 'Ines Varga' });
    const look = await call(getVersion, 'GET', '/x', {
      ...ines,
      params: { ...params, revision: String(kept?.revisionId) },
    });
    expect(JSON.stringify(look.body)).toContain('Ines wrote this.');
    expect(await call(aside, 'POST', '/x', { ...ines, params, body: { content: mine } })).toMatchObject({
      status: 200,
    });
    expect(
      (await getEditable(db, inventory, await siteId(), Number(params.id))).versions.filter((v) => v.kind === 'kept'),
    ).toHaveLength(2);
  });

  it('refuses what was made with a tool the toolbar has not, and keeps what was there', async () => {
    const { params, content } = await page('South Quay');
    const ines = await signInAs('Ines');
    const body = documentOf(content, 'body').content;
    const made = { ...content, body: { type: 'doc', content: [...body, { type: 'blockquote', content: [p('x')] }] } };
    expect(await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: made, version: 0 } })).toMatchObject({
      status: 403,
      body: { kind: 'tool-missing', tools: ['quote'] },
    });
    const noTable = { ...content, body: { type: 'doc', content: body.filter((n) => n.type !== 'table') } };
    expect(
      await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: noTable, version: 0 } }),
    ).toMatchObject({ status: 403, body: { kind: 'tool-missing' } });
    const bent = {
      ...content,
      body: {
        type: 'doc',
        content: body.map((n) =>
          n.type === 'table' ? { ...n, content: [(n as { content: object[] }).content[0]] } : n,
        ),
      },
    };
    expect((await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: bent, version: 0 } })).status).toBe(
      403,
    );
    expect(
      await call(putDraft, 'PUT', '/x', {
        ...ines,
        params,
        body: { content: withText(content, 'Around the table.'), version: 0 },
      }),
    ).toMatchObject({ status: 200 });
    const kept = (await getEditable(db, inventory, await siteId(), Number(params.id))).content;
    expect(documentOf(kept, 'body').content.find((n) => n.type === 'table')).toEqual(
      body.find((n) => n.type === 'table'),
    );
  });

  it('gives back what a draft once held, also where only an earlier draft did', async () => {
    const { params, content } = await page('Left luggage');
    const [maud, ines] = [await signInAs('Maud'), await signInAs('Ines')];
    const quote = { type: 'blockquote', content: [p('As the harbour master says.')] };
    const body = documentOf(content, 'body').content;
    const put = async (by: { cookie: string }, blocks: object[], version: number) =>
      (
        await call(putDraft, 'PUT', '/x', {
          ...by,
          params,
          body: { content: { ...content, body: { type: 'doc', content: blocks } }, version },
        })
      ).status;
    expect(await put(ines, [...body, quote], 0)).toBe(403);
    expect(await put(maud, [...body, quote], 0)).toBe(200);
    expect(await put(ines, body, 1)).toBe(200);
    expect(await put(ines, [...body, quote], 2)).toBe(200);
    expect(await put(ines, [...body, quote, quote], 3)).toBe(403);
    await db.delete(drafts).where(eq(drafts.itemId, Number(params.id)));
  });
  it('takes up again from a version somebody goes back to what that one holds, and from no other', async () => {
    const { params, content } = await page('Left luggage');
    const [maud, ines] = [await signInAs('Maud'), await signInAs('Ines')];
    const quote = { type: 'blockquote', content: [p('As the harbour master says.')] };
    const body = documentOf(content, 'body').content;
    const say = (blocks: object[]) => ({ ...content, body: { type: 'doc', content: blocks } });
    const out = async (blocks: object[]) =>
      (
        await call(publishPage, 'POST', '/x', {
          ...maud,
          params,
          body: { content: say(blocks), version: 0, note: 'x' },
        })
      ).status;
    expect([await out([...body, quote]), await out(body)]).toEqual([200, 200]);
    const { versions } = await getEditable(db, inventory, await siteId(), Number(params.id));
    const with_ = versions[1]?.revisionId;
    const put = async (blocks: object[], version: number, from?: number) =>
      (await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: say(blocks), version, from } })).status;
    // It held it once: that alone is no right to it.
    expect(await put([...body, quote], 0)).toBe(403);
    const [other] = (await getEditable(db, inventory, await siteId(), Number((await page('Fares')).params.id)))
      .versions;
    expect(await put([...body, quote], 0, other?.revisionId)).toBe(404);
    expect(await put([...body, quote], 0, with_)).toBe(200);
    expect(await put([...body, quote, p('And more.')], 1)).toBe(200);
    expect(await put(body, 2)).toBe(200);
    expect(await put([...body, quote], 3)).toBe(200);
    expect(await put([...body, quote, quote], 4)).toBe(403);
    await db.delete(drafts).where(eq(drafts.itemId, Number(params.id)));
  });
  it('lets somebody with the code view make what the schema holds', async () => {
    const { params, content } = await page('Fares');
    const maud = await signInAs('Maud');
    expect(
      (
        await call(putDraft, 'PUT', '/x', {
          ...maud,
          params,
          body: { content: { ...content, body: doc(h2('New')) }, version: 0 },
        })
      ).status,
    ).toBe(200);
  });

  it.each([
    [
      'a script in a link',
      (c: PageContent) => ({
        ...c,
        body: {
          type: 'doc',
          content: [
            {
              type: 'paragraph',
              content: [{ type: 'text', text: 'x', marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }] }],
            },
          ],
        },
      }),
    ],
    ['a field the layout has not', (c: PageContent) => ({ ...c, colour: 'red' })],
    ['nothing', () => null],
  ])('refuses %s with a sentence, and leaves the draft as it was', async (_, spoil) => {
    const { params, content } = await page('Port Ennis');
    const answer = await call(putDraft, 'PUT', '/x', {
      ...(await signInAs('Ines')),
      params,
      body: { content: spoil(content), version: 0 },
    });
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toMatch(/\.$/);
    expect(
      await db
        .select()
        .from(drafts)
        .where(eq(drafts.itemId, Number(params.id))),
    ).toEqual([]);
  });

  it('keeps what is right where something is not, by whatever way, and what is not as it was typed', async () => {
    const { params, content } = await page('Port Ennis');
    const ines = await signInAs('Ines');
    const typed = { ...content, title: 'x'.repeat(300), banner: '99999', summary: 'This is right.' };
    const kept = await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: typed, version: 0 } });
    expect(kept).toMatchObject({ status: 200, body: { version: 1 } });
    expect((kept.body['faults'] as { field: string }[]).map((fault) => fault.field).sort()).toEqual([
      'banner',
      'title',
    ]);
    const now = await getEditable(db, inventory, await siteId(), Number(params.id));
    expect(now).toMatchObject({
      unfinished: { title: 'x'.repeat(300), banner: '99999' },
      content: { title: content['title'], banner: content['banner'], summary: 'This is right.' },
    });
    // Somebody else who was writing meanwhile gets it as it was typed, to choose from.
    const clash = await call(putDraft, 'PUT', '/x', {
      ...(await signInAs('Tomas')),
      params,
      body: { content, version: 0 },
    });
    expect(clash).toMatchObject({ status: 409, body: { theirs: { content: { title: 'x'.repeat(300) } } } });
    // Only what an editor's fields can hold waits so: no text, however long, and nothing that nobody can type.
    for (const odd of [
      { title: { deep: 'object' } },
      { title: 'x'.repeat(30_000) },
      { banner: ['9'] },
      { body: { type: 'doc', content: 'none' } },
    ])
      expect(
        (await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: { ...content, ...odd }, version: 1 } }))
          .status,
        JSON.stringify(odd).slice(0, 60),
      ).toBe(422);
    expect((await call(dropDraft, 'POST', '/x', { ...ines, params, body: { version: 1 } })).status).toBe(200);
  });
  it('keeps emoji and right-to-left text as typed', async () => {
    const { params, content } = await page('Left luggage');
    const ines = await signInAs('Ines');
    const title = 'שלום ⛴️ מוזמנים 👩‍👩‍👧';
    expect(
      (await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: { ...content, title }, version: 0 } }))
        .status,
    ).toBe(200);
    expect((await getEditable(db, inventory, await siteId(), Number(params.id))).content['title']).toBe(title);
    expect((await call(dropDraft, 'POST', '/x', { ...ines, params, body: { version: 1 } })).status).toBe(200);
    const now = await getEditable(db, inventory, await siteId(), Number(params.id));
    expect([now.content['title'], now.versions.find((v) => v.kind === 'kept')?.note]).toEqual([
      'Left luggage',
      'Draft put aside',
    ]);
  });
});

describe('the second look', () => {
  it('goes from the writer to somebody else to the website, with nothing done twice', async () => {
    const { id, params, content } = await page('Parking at South Quay');
    const [ines, priya, maud] = [await signInAs('Ines'), await signInAs('Priya'), await signInAs('Maud')];
    const start = await getEditable(db, inventory, await siteId(), id);
    const next = withText(content, 'The barrier is gone.');
    const key = { 'idempotency-key': 'one-press' };
    const body = { content: next, version: start.draft?.version ?? 0, note: 'Barrier' };
    const [a, b] = await Promise.all([
      call(sendPage, 'POST', '/x', { ...ines, params, body, headers: key }),
      call(sendPage, 'POST', '/x', { ...ines, params, body, headers: key }),
    ]);
    expect([a.status, b.status, a.body['review']]).toEqual([200, 200, b.body['review']]);
    const mine = (await listWaiting(db, await siteId())).filter((w) => w.itemId === String(id));
    expect(mine).toHaveLength(1);
    const review = { id: String(mine[0]?.id) };

    expect(
      (await getReviewView(db, inventory, await siteId(), Number(review.id))).changes
        .find((c) => c.changed)
        ?.lines.at(-1),
    ).toMatchObject({ change: 'added', pieces: [{ text: 'The barrier is gone.' }] });
    expect(
      (await call(decideReview, 'POST', '/x', { ...ines, params: review, body: { outcome: 'published', word: '' } }))
        .status,
    ).toBe(403);
    expect(
      await call(decideReview, 'POST', '/x', { ...priya, params: review, body: { outcome: 'sent-back', word: ' ' } }),
    ).toMatchObject({ status: 422, body: { faults: [{ field: 'word' }] } });
    expect(
      (
        await call(decideReview, 'POST', '/x', {
          ...priya,
          params: review,
          body: { outcome: 'sent-back', word: 'Which one?' },
        })
      ).status,
    ).toBe(200);
    const back = await getEditable(db, inventory, await siteId(), id);
    expect(back).toMatchObject({ draft: { sentBackWord: 'Which one?' }, waiting: null });
    expect(await findLiveContent(db, id)).toEqual(content);

    await call(sendPage, 'POST', '/x', {
      ...ines,
      params,
      body: { content: withText(content, 'The west barrier is gone.'), version: back.draft?.version, note: '' },
    });
    const again = (await listWaiting(db, await siteId())).find((w) => w.itemId === String(id));
    const [first, second] = await Promise.all(
      [priya, maud].map((who) =>
        call(decideReview, 'POST', '/x', {
          ...who,
          params: { id: String(again?.id) },
          body: { outcome: 'published', word: '' },
        }),
      ),
    );
    expect([first?.status, second?.status].sort()).toEqual([200, 409]);
    expect(JSON.stringify(await findLiveContent(db, id))).toContain('The west barrier is gone.');
  });

  it('that sends back leaves a newer draft of somebody else as it is', async () => {
    const [maud, ines, priya] = [await signInAs('Maud'), await signInAs('Ines'), await signInAs('Priya')];
    const id = await pageId('Left luggage');
    const params = { id: String(id) };
    const now = async () => getEditable(db, inventory, await siteId(), id);
    const words = async (summary: string) => ({ content: { ...(await now()).content, summary } });
    expect(
      (
        await call(sendPage, 'POST', '/x', {
          ...ines,
          params,
          body: { ...(await words('Sent words.')), version: 0, note: '' },
        })
      ).status,
    ).toBe(200);
    await call(putDraft, 'PUT', '/x', { ...maud, params, body: { ...(await words('Begun meanwhile.')), version: 0 } });
    const review = (await listWaiting(db, await siteId())).find((entry) => entry.itemId === String(id));
    const back = { outcome: 'sent-back', word: 'Shorter, please.' };
    expect(
      (await call(decideReview, 'POST', '/x', { ...priya, params: { id: String(review?.id) }, body: back })).status,
    ).toBe(200);
    expect(await now()).toMatchObject({
      content: { summary: 'Begun meanwhile.' },
      draft: { sentBackWord: 'Shorter, please.' },
    });
    // Nor is it let go by whoever has an older version on the screen.
    await call(putDraft, 'PUT', '/x', { ...maud, params, body: { ...(await words('Newer.')), version: 1 } });
    expect((await call(dropDraft, 'POST', '/x', { ...ines, params, body: { version: 1 } })).status).toBe(409);
    expect((await now()).content['summary']).toBe('Newer.');
  });
  it('is never given to one’s own work, not even by a keyholder', async () => {
    const { id, params, content } = await page('Contact');
    const maud = await signInAs('Maud');
    const sent = await call(sendPage, 'POST', '/x', {
      ...maud,
      params,
      body: { content: withText(content, 'New.'), version: 0, note: '' },
    });
    expect(
      await call(decideReview, 'POST', '/x', {
        ...maud,
        params: { id: String(sent.body['review']) },
        body: { outcome: 'published', word: '' },
      }),
    ).toMatchObject({
      status: 403,
      body: { detail: 'Nobody gives the second look to their own work. Somebody else will have to look at it.' },
    });
    expect((await getEditable(db, inventory, await siteId(), id)).waiting?.sentBy).toBe('Maud Ellery');
  });

  it('is not asked for where nothing differs; publishing replaces what waits', async () => {
    const { id, params, content } = await page('Jobs');
    const juno = await signInAs('Juno');
    expect(
      await call(sendPage, 'POST', '/x', { ...juno, params, body: { content, version: 0, note: '' } }),
    ).toMatchObject({ status: 409, body: { kind: 'already-done' } });
    await call(sendPage, 'POST', '/x', {
      ...juno,
      params,
      body: { content: withText(content, 'One.'), version: 0, note: '' },
    });
    expect(
      (
        await call(publishPage, 'POST', '/x', {
          ...juno,
          params,
          body: { content: withText(content, 'Two.'), version: 0, note: 'at once' },
        })
      ).status,
    ).toBe(200);
    const [row] = await db.select().from(reviews).where(eq(reviews.itemId, id));
    expect(row?.outcome).toBe('replaced');
    expect(JSON.stringify(await findLiveContent(db, id))).toContain('Two.');
  });
});

describe('what was written once', () => {
  it('cannot be changed or removed, whoever tries', async () => {
    const owner = new pg.Client({
      connectionString: Object.assign(new URL(inject('adminUrl')), {
        pathname: new URL(process.env['DATABASE_URL'] ?? '').pathname,
      }).toString(),
    });
    await owner.connect();
    // The application's own role may not even try; whoever may is stopped by the table itself.
    for (const attempt of [
      'update revisions set note = note',
      'delete from revisions',
      'update releases set note = note',
      'delete from activity',
    ])
      expect(
        await owner.query(attempt).then(
          () => 'done',
          (error: { code: string }) => error.code,
        ),
        attempt,
      ).toBe('23001');
    await owner.end();
    for (const attempt of [
      () => db.update(revisions).set({ note: 'x' }),
      () => db.delete(revisions),
      () => db.update(activity).set({ action: 'x' }),
      () => db.delete(activity),
    ]) {
      const code = await attempt().then(
        () => 'done',
        (error: unknown) => pgCode(error),
      );
      expect(code).toBe('42501');
    }
  });
  it('stands in tables the application cannot alter', async () => {
    for (const attempt of [
      'alter table items add column x int',
      'drop table activity',
      'create table x (a int)',
      'alter table releases disable trigger releases_stay',
      'truncate revisions',
    ])
      expect(
        await db.execute(sql.raw(attempt)).then(
          () => 'done',
          (error: unknown) => pgCode(error),
        ),
        attempt,
      ).toBe('42501');
  });
});
