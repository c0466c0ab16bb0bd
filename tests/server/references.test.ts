import { asc, eq } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { documentOf, referencesOf, type Document, type PageContent } from '@/core/content';
import { heldIn } from '@/core/toolbar';
import { doc, p } from '@/demo/write';
import { POST as aside } from '@/pages/api/items/[id]/aside';
import { POST as bringBack } from '@/pages/api/items/[id]/bring-back';
import { POST as check } from '@/pages/api/items/[id]/check';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as dropDraft } from '@/pages/api/items/[id]/drop';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { POST as send } from '@/pages/api/items/[id]/send';
import { GET as getVersion } from '@/pages/api/items/[id]/versions/[revision]';
import { POST as make } from '@/pages/api/pages/index';
import { GET as list } from '@/pages/api/pages/list';
import { POST as copy } from '@/pages/api/pages/[id]/copy';
import { POST as move } from '@/pages/api/pages/[id]/move';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { POST as begin } from '@/pages/api/vacancies/index';
import { findRedirect } from '@/server/tree/addresses';
import { findLiveContent } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { drafts, items, references, revisions } from '@/server/db/schema';
import { getEditable } from '@/server/items/editable';
import { formOf } from '@/server/items/forms';
import { withAddresses } from '@/server/items/links';
import { getReviewView } from '@/server/items/compared';
import { listPictures } from '@/server/pictures/pictures';
import { call, inForce, pageId, signInAs, siteId, type Who } from './ask';
import { inventory } from '../inventory';

let [maud, ines, priya]: Who[] = [];
let id: Record<string, number> = {};

beforeAll(async () => {
  [maud, ines, priya] = await Promise.all(['Maud', 'Ines', 'Priya'].map(signInAs));
  const titles = ['Fares', 'Season tickets', 'Jobs', 'Contact', 'Our history', 'South Quay', 'Timetable'];
  id = Object.fromEntries(await Promise.all(titles.map(async (title) => [title, await pageId(title)] as const)));
});
const params = (title: string) => ({ id: String(id[title]) });
const shown = async (title: string) => getEditable(db, inventory, await siteId(), id[title] ?? 0);
const hrefs = (content: unknown) => [...JSON.stringify(content).matchAll(/"href":"([^"]*)"/g)].map(([, href]) => href);
const linking = (...addresses: string[]): Document => doc(...addresses.map((address) => p(`See [there](${address}).`)));

/** Keeps a text as a draft, and publishes it if asked. */
async function write(title: string, body: Document, how: 'keep' | 'publish' = 'keep', as = maud) {
  const { content, draft } = await shown(title);
  const given = { ...content, body };
  const version = draft?.version ?? 0;
  return how === 'keep'
    ? call(putDraft, 'PUT', '/x', { ...as, params: params(title), body: { content: given, version } })
    : call(publish, 'POST', '/x', { ...as, params: params(title), body: { content: given, version, note: 'Links' } });
}
const stored = async (title: string): Promise<PageContent> =>
  (
    await db
      .select()
      .from(drafts)
      .where(eq(drafts.itemId, id[title] ?? 0))
  )[0]?.content ??
  (await findLiveContent(db, id[title] ?? 0)) ??
  {};

/** What is noted down says what the contents say, of every version and draft there is. */
async function expectNoted(): Promise<void> {
  const kept = [
    ...(await db
      .select({ item: items, revision: revisions.id, content: revisions.content })
      .from(revisions)
      .innerJoin(items, eq(items.id, revisions.itemId))),
    ...(await db
      .select({ item: items, content: drafts.content })
      .from(drafts)
      .innerJoin(items, eq(items.id, drafts.itemId))),
  ];
  const said = kept.flatMap(({ item, content, ...one }) => {
    const form = formOf(inventory, item);
    const needed = referencesOf(form.byId.values(), content).map((needs) => ({ ...needs, times: 1 }));
    const held = form.rich.flatMap(({ id: field }) =>
      [...heldIn(content[field])].map(([target, times]) => ({ field, kind: 'made', target, times })),
    );
    return [...needed, ...held].map(({ field, kind, target, times }) =>
      [item.id, 'revision' in one ? one.revision : 'draft', field, kind, target, times].join(' '),
    );
  });
  const noted = await db.select().from(references).orderBy(asc(references.id));
  expect(
    noted
      .map((row) => [row.itemId, row.revisionId ?? 'draft', row.field, row.kind, row.target, row.times].join(' '))
      .sort(),
  ).toEqual(said.sort());
}

describe('links in texts', () => {
  it('of the demo name pages', async () => {
    await expectNoted();
    expect(await db.$count(references, eq(references.kind, 'page'))).toBeGreaterThan(5);
    expect(await db.$count(references, eq(references.kind, 'address'))).toBe(0);
  });

  it('name what they lead to, are shown as addresses, and follow a page that moves', async () => {
    const [picture] = await listPictures(db, await siteId());
    const written = linking(
      '/fares?of=winter#boats',
      '/fares/',
      '/',
      picture?.url ?? '',
      '/nowhere',
      'https://a.example/fares',
      '#top',
    );
    expect((await write('Jobs', written, 'publish')).status).toBe(200);
    expect(hrefs(await stored('Jobs'))).toEqual([
      `page:${id['Fares']}?of=winter#boats`,
      `page:${id['Fares']}`,
      `page:${await pageId('Three harbours, one short crossing')}`,
      `picture:${picture?.id}`,
      '/nowhere',
      'https://a.example/fares',
      '#top',
    ]);
    const answer = await call(move, 'POST', '/x', {
      ...maud,
      params: params('Fares'),
      body: { parent: id['Contact'], index: 0, redirect: false },
    });
    expect(answer.status).toBe(200);
    const now = await shown('Jobs');
    expect(hrefs(now.content)).toEqual(hrefs(now.live));
    expect(hrefs(now.content).slice(0, 2)).toEqual(['/about/contact/fares?of=winter#boats', '/about/contact/fares']);
    expect(hrefs(await withAddresses(db, await siteId(), await findLiveContent(db, id['Jobs'] ?? 0)))).toEqual(
      hrefs(now.content),
    );
  });

  it('of old versions are compared and brought back as addresses of today', async () => {
    const { versions } = await shown('Jobs');
    const given = { ...maud, params: { ...params('Jobs'), revision: String(versions[0]?.revisionId) } };
    const version = await call(getVersion, 'GET', `/x?with=${versions[1]?.revisionId}`, given);
    expect(hrefs(version.body['content'])[1]).toBe('/about/contact/fares');
    expect(JSON.stringify(version.body['changes'])).not.toContain('page:');
    const { content } = version.body as { content: PageContent };
    expect((await write('Jobs', documentOf(content, 'body'))).body['faults']).toEqual([]);
    expect(hrefs(await stored('Jobs'))).toEqual(hrefs(await findLiveContent(db, id['Jobs'] ?? 0)));
    // What an address led to before is found by it, too.
    const moved = { ...maud, params: params('Fares'), body: { parent: id['Jobs'], index: 0, redirect: true } };
    expect((await call(move, 'POST', '/x', moved)).status).toBe(200);
    expect((await write('Our history', linking('/about/contact/fares'))).status).toBe(200);
    expect(hrefs(await stored('Our history'))).toEqual([`page:${id['Fares']}`]);
    expect(hrefs((await shown('Our history')).content)).toEqual(['/about/jobs/fares']);
  });

  it('tell nobody where a page is that they do not see, and are nothing to try numbers with', async () => {
    const secret = await pageId('For the crew');
    const audience = { kind: 'roles' as const, roles: ['keyholder'] };
    await db.update(items).set({ audience }).where(eq(items.id, secret));
    const { live } = await shown('South Quay');
    const before = documentOf(live ?? {}, 'body');
    const added = (body: Document): Document => ({ ...before, content: [...before.content, ...body.content] });
    const harbour = (body: Document) => write('South Quay', added(body), 'keep', ines);
    const last = async () => hrefs((await stored('South Quay'))['body']).at(-1);
    // By address it stays what it is, and leads to no page for them; a number tried names nothing, there or not.
    expect((await harbour(linking('/about/crew'))).status).toBe(200);
    expect(await last()).toBe('/about/crew');
    const asked = { ...ines, params: params('South Quay') };
    for (const href of [`page:${secret}`, 'page:999999', `page:${id['Fares']}#x`]) {
      expect((await harbour(linking(href))).status).toBe(200);
      expect(await last()).toBe('page:0');
      expect(hrefs((await shown('South Quay')).content['body']).at(-1)).toBe('page:0');
      const { content } = await shown('South Quay');
      const given = { content: { ...content, body: added(linking(href)) } };
      const found = await call(check, 'POST', '/x', { ...asked, body: given });
      expect(JSON.stringify(found.body)).toContain('a link leads to a page that is not there any more');
      expect(JSON.stringify(found.body)).not.toContain('/about/crew');
    }
    // The same page for somebody who sees it; from then on it is the text's own, whoever goes on writing.
    expect((await write('South Quay', added(linking('/about/crew')))).status).toBe(200);
    expect(await last()).toBe(`page:${secret}`);
    expect((await harbour(doc(p('Now [there](/about/crew).'), p('More.')))).status).toBe(200);
    expect(await last()).toBe(`page:${secret}`);
  });

  it('to a page that is deleted name it still: told before, found in the list, right again when it is back', async () => {
    expect((await write('Our history', linking('/timetable'), 'publish')).status).toBe(200);
    const asked = { ...maud, params: params('Timetable') };
    const before = await call(retire, 'POST', '/x', { ...asked, body: { do: 'look' } });
    expect(before.body['links']).toEqual(
      expect.arrayContaining([expect.objectContaining({ title: 'History', address: '/timetable' })]),
    );
    const broken = async () => {
      const { body } = await call(list, 'GET', '/api/pages/list?links=broken', { ...maud });
      return (body['pages'] as { title: string }[]).map((page) => page.title);
    };
    expect(await broken()).toEqual(['Jobs']);
    expect((await call(retire, 'POST', '/x', { ...asked, body: { do: 'delete' } })).status).toBe(200);
    expect(await broken()).toEqual(expect.arrayContaining(['Jobs', 'History']));
    const { content } = await shown('Our history');
    expect(hrefs(content)).toEqual([`page:${id['Timetable']}`]);
    const found = await call(check, 'POST', '/x', { ...maud, params: params('Our history'), body: { content } });
    expect(JSON.stringify(found.body['findings'])).toContain('a link leads to a page that is not there any more');
    // Somebody may go on writing beside it.
    const body = documentOf(content, 'body');
    expect((await write('Our history', { ...body, content: [...body.content, p('More.')] })).status).toBe(200);
    // Or go on from an older version that leads there still, where the newest does not.
    expect((await write('Our history', doc(p('No link.')), 'publish')).status).toBe(200);
    const [, older] = (await shown('Our history')).versions;
    const one = { ...maud, params: { ...params('Our history'), revision: String(older?.revisionId) } };
    const again = (await call(getVersion, 'GET', '/x', one)).body['content'] as PageContent;
    expect(hrefs(again)).toEqual([`page:${id['Timetable']}`]);
    expect((await write('Our history', documentOf(again, 'body'))).status).toBe(200);
    expect(hrefs(await stored('Our history'))).toEqual([`page:${id['Timetable']}`]);
    // A text with such a link, taken over into another page, keeps its words.
    expect((await write('Contact', documentOf(again, 'body'))).status).toBe(200);
    expect(hrefs((await stored('Contact'))['body'])).toEqual(['page:0']);
    expect((await call(bringBack, 'POST', '/x', asked)).status).toBe(200);
    expect(hrefs((await shown('Our history')).content)).toEqual(['/timetable']);
    expect(await broken()).toEqual(['Jobs']);
  });

  it('are noted down whatever becomes of a text: sent, sent back, put aside, copied, dropped, begun', async () => {
    const { content, draft } = await shown('Season tickets');
    const given = { content: { ...content, body: linking('/timetable') }, version: draft?.version ?? 0, note: 'Words' };
    const sent = await call(send, 'POST', '/x', { ...maud, params: params('Season tickets'), body: given });
    const review = String(sent.body['review']);
    const view = await getReviewView(db, inventory, await siteId(), Number(review));
    expect(JSON.stringify(view.changes)).not.toContain('page:');
    await expectNoted();
    const word = { outcome: 'sent-back', word: 'Not yet.' };
    expect((await call(decide, 'POST', '/x', { ...priya, params: { id: review }, body: word })).status).toBe(200);
    expect(hrefs(await stored('Season tickets'))).toEqual([`page:${id['Timetable']}`]);
    await expectNoted();
    const other = { content: { ...content, body: linking('/about/contact') } };
    expect((await call(aside, 'POST', '/x', { ...maud, params: params('Season tickets'), body: other })).status).toBe(
      200,
    );
    const copied = await call(copy, 'POST', '/x', { ...maud, params: params('Jobs'), body: { withBelow: false } });
    expect(copied.status).toBe(200);
    const made = { ...maud, body: { page: String(id['Jobs']), title: 'Deckhand in spring' } };
    expect((await call(begin, 'POST', '/x', made)).status).toBe(200);
    await expectNoted();
    const { draft: newest } = await shown('Season tickets');
    const dropped = { ...maud, params: params('Season tickets'), body: { version: newest?.version } };
    expect((await call(dropDraft, 'POST', '/x', dropped)).status).toBe(200);
    await expectNoted();
  });

  it('to a page moved meanwhile, without its old address leading there, are still the same for a text that was open', async () => {
    const before = documentOf((await shown('South Quay')).content, 'body');
    expect((await write('South Quay', added(before, '/about/contact'), 'publish')).status).toBe(200);
    const body = documentOf((await shown('South Quay')).content, 'body');
    const at = { ...maud, params: params('Contact'), body: { parent: id['Timetable'], index: 0, redirect: false } };
    expect((await call(move, 'POST', '/x', at)).status).toBe(200);
    expect(await findRedirect(db, await siteId(), '/about/contact')).toBeUndefined();
    await inForce({ do: 'set-tool', role: 'harbour-desk', tool: 'link.page', on: false });
    // As the browser of somebody without the tool has it, with a word more.
    const more = { ...body, content: [...body.content, p('More.')] };
    expect(await write('South Quay', more, 'keep', ines)).toMatchObject({ status: 200, body: { faults: [] } });
    expect(hrefs((await stored('South Quay'))['body']).at(-1)).toBe(`page:${id['Contact']}`);
    await inForce({ do: 'set-tool', role: 'harbour-desk', tool: 'link.page', on: true });
  });

  it('that were made before there was a page ask for no tool when there is one', async () => {
    const harbour = await shown('South Quay');
    const { content: draft } = harbour;
    const body = documentOf(draft, 'body');
    const text = (address: string): Document => ({ ...body, content: [...body.content, p(`See [it](${address}).`)] });
    expect((await write('South Quay', text('/harbours/spring'))).status).toBe(200);
    expect(hrefs(await stored('South Quay')).at(-1)).toBe('/harbours/spring');
    const harbours = await pageId('Harbours');
    const made = await call(make, 'POST', '/x', {
      ...maud,
      body: { parent: harbours, title: 'Spring', layout: 'plain' },
    });
    expect(made.status).toBe(200);
    // Somebody whose toolbar has no Link goes on writing.
    await inForce({ do: 'set-tool', role: 'harbour-desk', tool: 'link.page', on: false });
    const more = { ...text('/harbours/spring'), content: [...text('/harbours/spring').content, p('More.')] };
    expect(await write('South Quay', more, 'keep', ines)).toMatchObject({ status: 200 });
    expect(hrefs((await stored('South Quay'))['body']).at(-1)).toBe(`page:${String(made.body['id'])}`);
    expect((await write('South Quay', added(more, '/timetable'), 'keep', ines)).body.kind).toBe('tool-missing');
  });
});

const added = (text: Document, address: string): Document => ({
  ...text,
  content: [...text.content, p(`And [there](${address}).`)],
});
