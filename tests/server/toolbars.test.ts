import { asc, eq } from 'drizzle-orm';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { documentOf, type DocumentNode, type PageContent } from '@/core/content';
import type { Operation } from '@/core/plan';
import { heldIn } from '@/core/toolbar';
import { h2, list, p, quote, table } from '@/demo/write';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as notes } from '@/pages/api/items/[id]/notes';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as copy } from '@/pages/api/pages/[id]/copy';
import { POST as describePicture } from '@/pages/api/pictures/[id]/describe';
import { GET as held } from '@/pages/api/workshop/held';
import { GET as used } from '@/pages/api/workshop/used';
import { db } from '@/server/db/client';
import { drafts, media, notes as notesTable, people, references } from '@/server/db/schema';
import { findAccess } from '@/server/gate/access';
import { getEditable } from '@/server/items/editable';
import { loadEditScreen } from '@/server/items/editScreen';
import { listOpenWishes } from '@/server/items/notes';
import { loadRoom } from '@/server/room';
import { findPlaced } from '@/server/tree/tree';
import { accessOf, call, inForce, pageId, signInAs, siteId, somebody, type Who } from './ask';
import { inventory } from '../inventory';

// Tools go by the text, the layout and the part of the website, at every keeping.

let [maud, ines, juno]: Who[] = [];
beforeAll(async () => {
  [maud, ines, juno] = await Promise.all(['Maud', 'Ines', 'Juno'].map(signInAs));
});
const shown = async (title: string) => getEditable(db, inventory, await siteId(), await pageId(title));
const bodyOf = (content: PageContent) => documentOf(content, 'body').content;

/** Keeps a page with its text made from the one it has. */
async function keep(
  title: string,
  as: Who | undefined,
  change: (blocks: DocumentNode[]) => DocumentNode[],
  more: PageContent = {},
) {
  const { content, draft } = await shown(title);
  return call(putDraft, 'PUT', '/x', {
    ...as,
    params: { id: String(await pageId(title)) },
    body: {
      content: { ...content, ...more, body: { type: 'doc', content: change([...bodyOf(content)]) } },
      version: draft?.version ?? 0,
    },
  });
}
const refusedFor = (...tools: string[]) => ({ status: 403, body: { kind: 'tool-missing', tools, field: 'body' } });
const rule = (role: string, id: string, when: object, then: object, more: object = {}): Operation => ({
  do: 'put-tool-rule',
  role,
  rule: { id, when: { roles: [role], ...when }, then, ...more },
});

describe('tools by place', () => {
  it('are those of the layout and the part of the website, as the screen has them', async () => {
    const harbours = String(await pageId('Harbours'));
    await inForce(
      rule('harbour-desk', 'short', { layouts: ['harbour'] }, { use: 'short' }),
      rule('harbour-desk', 'quotes', { branch: harbours, layouts: ['plain'] }, { add: ['quote'] }),
    );
    expect(await keep('South Quay', ines, (blocks) => [...blocks, h2('News')])).toMatchObject(refusedFor('heading.2'));
    expect(await keep('South Quay', ines, (blocks) => [...blocks, list('One', 'Two')])).toMatchObject({ status: 200 });
    expect(await keep('Left luggage', ines, (blocks) => [...blocks, h2('News'), quote('So she said.')])).toMatchObject({
      status: 200,
    });
    expect(await keep('South Quay', ines, (blocks) => [...blocks, quote('So.')])).toMatchObject(refusedFor('quote'));

    const access = await findAccess(db, ines?.token ?? '');
    if (!access) throw new Error('no access');
    for (const [title, has] of [
      ['South Quay', ['bold', 'italic', 'bullets', 'paste.form', 'mode.preview']],
      ['Left luggage', expect.arrayContaining(['heading.2', 'quote']) as string[]],
    ] as const) {
      const id = await pageId(title);
      const thing = await findPlaced(db, access.site.id, id);
      const screen = await loadEditScreen(db, access, thing ?? {}, id, await loadRoom(db, access), '/');
      expect(screen.toolbars[thing?.place.layout ?? '']?.['body']).toEqual({ tools: has, keep: {}, groups: [] });
    }
  });
  it('are those of the layout a page is given with the same keeping', async () => {
    expect(
      await keep('South Quay', ines, (blocks) => [...blocks, h2('News')], { 'page.layout': 'banner' }),
    ).toMatchObject({ status: 200 });
    expect(
      await keep('South Quay', ines, (blocks) => [...blocks, h2('More')], { 'page.layout': 'harbour' }),
    ).toMatchObject(refusedFor('heading.2'));
  });
  it('are never more than a cap lets anybody have, and are those of the code view where that is among them', async () => {
    await inForce({
      do: 'put-tool-rule',
      role: 'newsroom',
      rule: { id: 'plainly', when: { branch: String(await pageId('Contact')) }, then: { cap: ['bold'] } },
    });
    expect(await keep('Contact', juno, (blocks) => [...blocks, list('x')])).toMatchObject(refusedFor('bullets'));
    // The keyholder, too: the rule names nobody.
    expect(await keep('Contact', maud, (blocks) => [...blocks, list('x')])).toMatchObject(refusedFor('bullets'));
    await inForce(rule('keyholder', 'again', { fields: ['body'] }, { use: 'everything' }));
    expect(await keep('Jobs', maud, (blocks) => [...blocks, list('x'), table(['a'], ['b'])])).toMatchObject({
      status: 200,
    });
  });
  it('say what becomes of what none of them makes: words of a table may change, its rows may not', async () => {
    const fares = table(['Ticket', 'Price'], ['Child', '3.70']);
    expect(await keep('Our history', juno, () => [p('Before.'), fares, h2('Then')])).toMatchObject({ status: 200 });
    await inForce(
      rule(
        'newsroom',
        'tables',
        {},
        { take: ['table', 'table.rows', 'heading.2'] },
        { keep: { table: 'words', heading: 'whole' } },
      ),
    );
    const words = table(['Ticket', 'Price'], ['Child', '3.90']);
    expect(await keep('Our history', juno, (b) => b.map((one) => (one.type === 'table' ? words : one)))).toMatchObject({
      status: 200,
    });
    for (const bent of [
      table(['Ticket', 'Price'], ['Child', '3.90'], ['Adult', '7.40']),
      table(['Ticket', 'Price']),
      table(['Ticket'], ['Child']),
    ])
      expect((await keep('Our history', juno, (b) => b.map((one) => (one.type === 'table' ? bent : one)))).status).toBe(
        403,
      );
    expect(
      (await keep('Our history', juno, (b) => b.map((one) => (one.type === 'heading' ? h2('Later') : one)))).status,
    ).toBe(403);
    expect(await keep('Our history', juno, (b) => [...b, p('After.')])).toMatchObject({ status: 200 });
  });
  it('limit pictures to the page’s own, wherever they are chosen', async () => {
    const pictures = await db.select().from(media).orderBy(asc(media.id));
    const { content } = await shown('For the crew');
    const own = new Set(JSON.stringify(content).match(/"(?:banner|id)":"(\d+)"/g));
    const other = pictures.find(({ id }) => !own.has(String(id)));
    const inText = (id: number): DocumentNode => ({
      type: 'picture',
      attrs: { id: String(id), description: 'A boat', width: 'full' },
    });
    expect(await keep('For the crew', juno, (b) => [...b, inText(other?.id ?? 0)])).toMatchObject({ status: 200 });
    await inForce(
      rule('newsroom', 'own', {}, { take: ['picture.all'] }),
      rule('newsroom', 'own-2', {}, { add: ['picture.own', 'picture'] }),
    );
    const another = pictures.find(({ id }) => !own.has(String(id)) && id !== other?.id);
    expect(await keep('For the crew', juno, (b) => [...b, inText(another?.id ?? 0)])).toMatchObject({
      status: 422,
      body: { faults: [{ field: 'body' }] },
    });
    // What the draft shows is the page's own by now.
    expect(await keep('For the crew', juno, (b) => [...b, p('And:'), inText(other?.id ?? 0)])).toMatchObject({
      status: 200,
    });
    expect((await keep('Our history', juno, (b) => b, { banner: String(another?.id) })).status).toBe(422);
    // Those that belong to this part of the website, where a rule lets them.
    await inForce(rule('newsroom', 'own-2', {}, { add: ['picture.folder', 'picture'] }));
    const about = await pageId('About us');
    const put = (id: number | undefined, part: string | null) =>
      call(describePicture, 'POST', '/x', {
        ...maud,
        params: { id: String(id) },
        body: { description: 'A boat.', part },
      });
    expect((await put(another?.id, String(about))).status).toBe(200);
    expect(await keep('For the crew', juno, (b) => [...b, inText(another?.id ?? 0)])).toMatchObject({ status: 200 });
    const third = pictures.find(({ id }) => !own.has(String(id)) && id !== other?.id && id !== another?.id);
    expect((await put(third?.id, String(await pageId('Harbours')))).status).toBe(200);
    expect((await keep('For the crew', juno, (b) => [...b, inText(third?.id ?? 0)])).status).toBe(422);
    expect((await put(third?.id, '999999')).status).toBe(422);
    expect((await put(third?.id, null)).status).toBe(200);
  });
});

describe('a copy of a page', () => {
  it('needs the tools for all it holds where it is put, and names those that are missing', async () => {
    const params = { id: String(await pageId('Jobs')) };
    await inForce(rule('newsroom', 'copies', { layouts: ['plain'], fields: ['body'] }, { use: 'short' }));
    // Maud has put a list and a table there above; Juno has no table tool on such pages.
    expect(await call(copy, 'POST', '/x', { ...juno, params, body: { withBelow: false } })).toMatchObject({
      status: 403,
      body: { kind: 'tool-missing', tools: expect.arrayContaining(['table']) as string[] },
    });
    await inForce(
      { do: 'remove-tool-rule', role: 'newsroom', rule: 'copies' },
      rule('newsroom', 'copies', { layouts: ['plain'], fields: ['body'] }, { use: 'everything' }),
    );
    expect((await call(copy, 'POST', '/x', { ...juno, params, body: { withBelow: false } })).status).toBe(200);
    await inForce({ do: 'remove-tool-rule', role: 'newsroom', rule: 'copies' });
  });
});

describe('what texts hold', () => {
  it('is written down with every keeping, and counted for a tool at once', async () => {
    const id = await pageId('Contact');
    await keep('Contact', juno, (b) => [...b, p('**One** and **two**')]);
    const { body } = await call(held, 'GET', '/x?made=bold', { ...maud });
    const places = body['places'] as { item: string; field: string; times: number; by: string; page: string }[];
    const [draft] = await db.select().from(drafts).where(eq(drafts.itemId, id));
    expect(places.find((place) => place.item === String(id))).toMatchObject({
      field: 'body',
      times: heldIn(draft?.content['body']).get('bold'),
      by: 'Juno Park',
      page: String(id),
    });
    // Every newest text is among them, and none twice.
    const all = await db.select().from(references).where(eq(references.target, 'bold'));
    expect(new Set(places.map(({ item, field }) => `${item} ${field}`)).size).toBe(places.length);
    expect(places.length).toBeLessThanOrEqual(all.length);
    expect((await call(held, 'GET', '/x?made=bold', { ...ines })).status).toBe(403);
  });
  it('tells of the last days what people made, once it is a version', async () => {
    const ask = async () =>
      ((await call(used, 'GET', '/x', { ...maud })).body['used'] as { person: string; made: string; times: number }[])
        .filter((one) => one.person === String(juno?.id) && one.made === 'bold')
        .reduce((sum, one) => sum + one.times, 0);
    const before = await ask();
    const { content, draft } = await shown('Contact');
    const waiting = heldIn(content['body']).get('bold') ?? 0;
    const stood = heldIn((await shown('Contact')).live?.['body']).get('bold') ?? 0;
    expect(
      await call(publish, 'POST', '/x', {
        ...juno,
        params: { id: String(await pageId('Contact')) },
        body: { content, version: draft?.version, note: 'Bold words' },
      }),
    ).toMatchObject({ status: 200 });
    expect(await ask()).toBe(before + waiting - stood);
  });
});

describe('a change that somebody without the tool asks for', () => {
  it('goes to whoever has it there, is answered and settled, and stands on nobody else’s Today', async () => {
    const id = await pageId('South Quay');
    const post = (as: Who | undefined, body: object) =>
      call(notes, 'POST', '/x', { ...as, params: { id: String(id) }, body });
    const wishesOf = async (first: string) => (await listOpenWishes(db, await accessOf(first))).map(({ text }) => text);
    const asked = await post(ines, { text: 'One more sailing, please.', wish: { field: 'body', made: 'table' } });
    expect(asked).toMatchObject({ status: 200, body: { to: ['Maud Ellery'] } });
    // Of two who could, not the one who is paused.
    const other = await somebody('Bo', { role: 'keyholder' });
    const named = async () =>
      (await post(ines, { text: 'And a table.', wish: { field: 'body', made: 'table' } })).body['to'];
    expect(await named()).toEqual(['Bo', 'Maud Ellery']);
    await db.update(people).set({ suspendedAt: new Date() }).where(eq(people.id, other.id));
    expect(await named()).toEqual(['Maud Ellery']);
    await db.delete(notesTable).where(eq(notesTable.text, 'And a table.'));
    expect(await wishesOf('Maud')).toEqual(['One more sailing, please.']);
    for (const other of ['Ines', 'Tomas', 'Oskar', 'Priya', 'Juno']) expect(await wishesOf(other)).toEqual([]);
    // Whoever loses the tool there is no longer asked.
    await inForce({
      do: 'put-tool-rule',
      role: 'keyholder',
      rule: { id: 'no-tables', when: { layouts: ['harbour'], fields: ['body'] }, then: { cap: ['bold'] } },
    });
    expect(await wishesOf('Maud')).toEqual([]);
    await inForce({ do: 'remove-tool-rule', role: 'keyholder', rule: 'no-tables' });
    const [note] = (asked.body['notes'] as { id: number }[]) ?? [];
    expect((await post(maud, { text: 'From Monday on.', answers: note?.id })).status).toBe(200);
    expect(await listOpenWishes(db, await accessOf('Ines'))).toMatchObject([
      { mine: true, mayAnswer: true, answer: { text: 'From Monday on.', by: 'Maud Ellery' } },
    ]);
    // Where the edit screen hides the notes it is read, and answered by nobody.
    const notesPanel = { do: 'set-element', role: 'harbour-desk', element: 'pages.edit.notes', place: {} } as const;
    await inForce({ ...notesPanel, said: { show: 'hidden' } });
    expect(await listOpenWishes(db, await accessOf('Ines'))).toMatchObject([{ mine: true, mayAnswer: false }]);
    expect((await post(ines, { text: 'Thanks.', answers: note?.id })).body).toMatchObject({ code: 'panel-hidden' });
    await inForce({ ...notesPanel, said: null });
    expect((await post(maud, { settle: note?.id, settled: true })).status).toBe(200);
    for (const first of ['Ines', 'Maud']) expect(await wishesOf(first)).toEqual([]);
    // Only of a text that is there, and by whoever may write there.
    expect((await post(ines, { text: 'x', wish: { field: 'title', made: 'table' } })).status).toBe(422);
    expect((await post(ines, { text: 'x', answers: 99_999 })).status).toBe(404);
    expect((await post(juno, { text: 'x', wish: { field: 'body', made: 'table' } })).status).toBe(403);
  });
});

// Last: in the year this is in, everybody else is signed out.
describe('tools by time', () => {
  it('are those of the day of the week, from midnight to midnight on the site’s clock', async () => {
    await inForce(rule('harbour-desk', 'weekends', { days: [6, 7] }, { take: ['heading.2', 'heading.3'] }));
    // In summer the clock of the site is an hour ahead of UTC; 8 July 2090 is a Saturday.
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2090-07-07T22:50:00Z') });
    try {
      const desk = await signInAs('Ines');
      const write = async () => keep('Left luggage', await signInAs('Ines'), (blocks) => [...blocks, h2('News')]);
      expect(await write()).toMatchObject({ status: 200 });
      vi.setSystemTime(new Date('2090-07-07T23:10:00Z'));
      expect(await write()).toMatchObject(refusedFor('heading.2'));
      const access = await findAccess(db, desk.token);
      if (!access) throw new Error('no access');
      const id = await pageId('Left luggage');
      const thing = await findPlaced(db, access.site.id, id);
      const screen = await loadEditScreen(db, access, thing ?? {}, id, await loadRoom(db, access), '/');
      expect(screen.toolbars[thing?.place.layout ?? '']?.['body']?.tools).not.toContain('heading.2');
      // What stood there stays, and its words may change.
      expect(await keep('Left luggage', desk, (blocks) => [...blocks, p('More.')])).toMatchObject({ status: 200 });
      vi.setSystemTime(new Date('2090-07-09T23:10:00Z'));
      expect(await write()).toMatchObject({ status: 200 });
    } finally {
      vi.useRealTimers();
      await inForce({ do: 'remove-tool-rule', role: 'harbour-desk', rule: 'weekends' });
    }
  });
});
