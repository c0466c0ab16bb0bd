import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { publishingOf, type Operation } from '@/core/plan';
import { GET as changes } from '@/pages/api/items/[id]/changes';
import { PUT as draft } from '@/pages/api/items/[id]/draft';
import { POST as check } from '@/pages/api/items/[id]/check';
import { POST as drop } from '@/pages/api/items/[id]/drop';
import { POST as aside } from '@/pages/api/items/[id]/aside';
import { POST as notes } from '@/pages/api/items/[id]/notes';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as schedule } from '@/pages/api/items/[id]/schedule';
import { POST as send } from '@/pages/api/items/[id]/send';
import { PUT as audience } from '@/pages/api/pages/[id]/audience';
import { POST as previewLink } from '@/pages/api/pages/[id]/preview-link';
import { POST as bulk } from '@/pages/api/pages/bulk';
import { POST as makePages } from '@/pages/api/pages/index';
import { POST as makeVacancy } from '@/pages/api/vacancies/index';
import { db } from '@/server/db/client';
import { drafts, items, revisions } from '@/server/db/schema';
import { findAccess, type Access } from '@/server/gate/access';
import { findPlaced } from '@/server/tree/tree';
import { loadEditScreen } from '@/server/items/editScreen';
import { layoutsToMake } from '@/server/pages/make';
import { getEditable } from '@/server/items/editable';
import { loadRoom } from '@/server/room';
import { accessOf, call, inForce, pageId, role, signInAs, siteId, somebody } from './ask';
import { inventory, layouts } from '../inventory';

// Somebody who may do everything with pages and vacancies, and nobody's room but this one changes.
await inForce(...role('writer', 'page.*', 'vacancy.*', 'media.view'));
const who = await somebody('Wren', { role: 'writer' });
const access = async () => (await findAccess(db, who.token)) as Access;
const say = (
  element: string,
  said: Extract<Operation, { do: 'set-element' }>['said'],
  place: Extract<Operation, { do: 'set-element' }>['place'] = {},
) => inForce({ do: 'set-element', role: 'writer', element, place, said });
const about = async (title: string) => {
  const id = await pageId(title);
  const { content, draft: kept } = await getEditable(db, inventory, await siteId(), id);
  return { id, content, version: kept?.version ?? 0, params: { id: String(id) } };
};
const keep = async (title: string, change: Record<string, unknown>) => {
  const { content, version, params } = await about(title);
  return call(draft, 'PUT', '/x', { ...who, params, body: { content: { ...content, ...change }, version } });
};

describe('a hidden field', () => {
  it('stays as it is, whichever way it is sent, and says so; the rest of the page is kept', async () => {
    await say('summary', { show: 'hidden' });
    const { content } = await about('Contact');
    expect((await keep('Contact', { summary: 'Mine' })).body).toMatchObject({
      status: 403,
      code: 'field-hidden',
      faults: [{ field: 'summary' }],
    });
    expect((await keep('Contact', { title: 'Contact us' })).status).toBe(200);
    const { version, params } = await about('Contact');
    for (const [route, more] of [
      [send, { note: 'x' }],
      [publish, { note: 'x' }],
    ] as const)
      expect(
        (
          await call(route, 'POST', '/x', {
            ...who,
            params,
            body: { content: { ...content, summary: 'Mine' }, version, ...more },
          })
        ).status,
      ).toBe(403);
    // What is put aside for another version keeps the field as it stood.
    await call(aside, 'POST', '/x', { ...who, params, body: { content: { ...content, summary: 'Mine' } } });
    const rows = await db
      .select()
      .from(revisions)
      .where(eq(revisions.itemId, Number(params.id)));
    expect(rows.every((row) => row.content['summary'] !== 'Mine')).toBe(true);
    expect((await about('Contact')).content['summary']).toBe(content['summary']);
    await say('summary', null);
  });
  it('is kept when a draft is dropped that somebody else wrote in it', async () => {
    const maud = await signInAs('Maud');
    const { content, version, params } = await about('Our history');
    await call(draft, 'PUT', '/x', { ...maud, params, body: { content: { ...content, summary: 'By Maud' }, version } });
    await say('summary', { show: 'hidden' });
    const dropped = await call(drop, 'POST', '/x', { ...who, params, body: { version: version + 1 } });
    expect(dropped.body).toMatchObject({ code: 'field-hidden' });
    expect((await about('Our history')).content['summary']).toBe('By Maud');
    await say('summary', null);
    await db.delete(drafts).where(eq(drafts.itemId, Number(params.id)));
  });
  it('is not changed in many pages at once either, nor are visitors’ rights whose panel is hidden', async () => {
    const ids = [await pageId('Contact'), await pageId('Our history')];
    const doIt = async (body: object) => (await call(bulk, 'POST', '/x', { ...who, body: { ids, bulk: body } })).body;
    await say('pages.edit.navigation', { show: 'hidden' });
    expect(JSON.stringify(await doIt({ do: 'navigation', shown: false }))).toContain('not on your edit screen');
    expect((await keep('Contact', { 'page.inNavigation': false })).body).toMatchObject({ code: 'field-hidden' });
    await say('pages.edit.navigation', null);
    await say('pages.edit.visitors', { show: 'hidden' });
    expect(JSON.stringify(await doIt({ do: 'audience', audience: 'members' }))).toContain('not on your edit screen');
    const one = { ...who, params: { id: String(ids[0]) }, body: { audience: { kind: 'members' } } };
    expect((await call(audience, 'PUT', '/x', one)).body).toMatchObject({ code: 'panel-hidden' });
    await say('pages.edit.visitors', null);
    const rows = await db
      .select()
      .from(items)
      .where(eq(items.id, ids[0] ?? 0));
    expect(rows[0]).toMatchObject({ inNavigation: true, audience: null });
  });
});

describe('a hidden panel', () => {
  it('cannot be used round the screen', async () => {
    const { params } = await about('Contact');
    const ways = {
      notes: () => call(notes, 'POST', '/x', { ...who, params, body: { text: 'A word' } }),
      link: () => call(previewLink, 'POST', '/x', { ...who, params, body: { days: 2 } }),
      schedule: () => call(schedule, 'POST', '/x', { ...who, params, body: { at: '2099-01-01T10:00' } }),
    };
    for (const [panel, way] of Object.entries(ways)) {
      await say(`pages.edit.${panel}`, { show: 'hidden' });
      expect((await way()).body, panel).toMatchObject({ status: 403, code: 'panel-hidden' });
      await say(`pages.edit.${panel}`, { lock: 'Ask the office.' });
      expect((await way()).body, panel).toMatchObject({
        code: 'field-locked',
        detail: expect.stringContaining('Ask the office.') as string,
      });
      await say(`pages.edit.${panel}`, null);
      expect((await way()).status, panel).toBe(200);
    }
  });
});

describe('a locked field', () => {
  it('is refused with the reason, on layouts it is locked on only', async () => {
    await say('page.day', { lock: 'Every date is set by the office.' }, { layouts: ['plain'] });
    expect((await keep('Contact', { 'page.day': '2030-01-01' })).body).toMatchObject({
      status: 403,
      code: 'field-locked',
      detail: '“Date of the page” is locked: Every date is set by the office.',
    });
    const other = await db.select().from(items).where(eq(items.layout, 'banner')).limit(1);
    const { content, draft: kept } = await getEditable(db, inventory, await siteId(), other[0]?.id ?? 0);
    const free = await call(draft, 'PUT', '/x', {
      ...who,
      params: { id: String(other[0]?.id) },
      body: { content: { ...content, 'page.day': '2030-01-01' }, version: kept?.version ?? 0 },
    });
    expect(free.status).toBe(200);
    await say('page.day', null, { layouts: ['plain'] });
  });
  it('holds for vacancies alike', async () => {
    const made = await call(makeVacancy, 'POST', '/x', {
      ...who,
      body: { title: 'Mate', page: String(await pageId('Jobs')) },
    });
    const params = { id: String(made.body['id']) };
    await say('terms', { lock: 'Only full time.' });
    const words = { content: { title: 'Mate', terms: 'part' }, version: 1 };
    expect((await call(draft, 'PUT', '/x', { ...who, params, body: words })).body).toMatchObject({
      code: 'field-locked',
    });
    await say('terms', { value: 'season', lock: 'Only for a season.' });
    const second = await call(makeVacancy, 'POST', '/x', {
      ...who,
      body: { title: 'Second mate', page: String(await pageId('Jobs')) },
    });
    const { content } = await getEditable(db, inventory, await siteId(), Number(second.body['id']));
    expect(content).toMatchObject({ title: 'Second mate', terms: 'season' });
    await say('terms', null);
  });
});

describe('what is asked for', () => {
  it('must say something before it is sent or published, and may wait while it is written', async () => {
    await say('summary', { required: true });
    expect((await keep('Contact', { summary: '  ', title: 'Contact us all' })).status).toBe(200);
    const { content, version, params } = await about('Contact');
    for (const route of [send, publish])
      expect(
        (await call(route, 'POST', '/x', { ...who, params, body: { content, version, note: 'x' } })).body,
      ).toMatchObject({ status: 422, code: 'content-faulty', faults: [{ field: 'summary' }] });
    // Kept all the same: nothing of it is lost.
    expect((await about('Contact')).content['title']).toBe('Contact us all');
    // Told before they try, with the panel where it lies in one.
    await say('page.searchText', { required: true });
    expect((await call(check, 'POST', '/x', { ...who, params, body: { content } })).body['findings']).toMatchObject([
      { field: 'summary', rule: 'block', message: '“Summary” is asked for. Fill it in first.' },
      { field: 'page.searchText', message: '“Words under it” (in “Search result”) is asked for. Fill it in first.' },
    ]);
    await say('page.searchText', null);
    const later = { content, version, note: 'x', at: '2099-01-01T10:00' };
    expect((await call(publish, 'POST', '/x', { ...who, params, body: later })).body).toMatchObject({ status: 422 });
    await say('summary', { required: true, show: 'hidden' });
    // What they cannot fill in is not asked of them.
    const free = await about('Contact');
    expect(
      (
        await call(send, 'POST', '/x', {
          ...who,
          params,
          body: { content: free.content, version: free.version, note: '' },
        })
      ).status,
    ).toBe(200);
    await say('summary', null);
  });
  it('is a word about the change, too', async () => {
    await say('pages.edit.note', { required: true });
    await keep('Our history', { title: 'Our whole history' });
    const { content, version, params } = await about('Our history');
    const sent = (note: string) => call(send, 'POST', '/x', { ...who, params, body: { content, version, note } });
    expect((await sent(' ')).body).toMatchObject({ code: 'note-wanted' });
    expect((await sent('New title')).status).toBe(200);
    await say('pages.edit.note', null);
  });
});

describe('what is filled beforehand and offered', () => {
  it('is there in what is made, one by one and by a list, and only what a field can hold', async () => {
    await say('summary', { value: 'Say it in a sentence.' });
    await say('page.inNavigation', { value: false });
    await say('page.day', { value: 'never' });
    // Rights hang on whose it is: no plan makes it somebody else's.
    await say('page.author', { value: String((await signInAs('Juno')).id) });
    const parent = await pageId('About us');
    const one = await call(makePages, 'POST', '/x', { ...who, body: { parent, layout: 'plain', title: 'One' } });
    const many = await call(makePages, 'POST', '/x', {
      ...who,
      body: { parent, layout: 'plain', outline: 'Two\n  Three' },
    });
    for (const id of [one.body['id'], many.body['first']]) {
      const { content } = await getEditable(db, inventory, await siteId(), Number(id));
      expect(content).toMatchObject({ summary: 'Say it in a sentence.', 'page.inNavigation': false });
      expect(content['page.day']).not.toBe('never');
      expect(content['page.author']).toBe(String(who.id));
    }
    for (const id of ['page.author', 'summary', 'page.inNavigation', 'page.day']) await say(id, null);
  });
  it('is, for a layout, what the new page is then made with: offered exactly where it is taken, for each of the demo', async () => {
    await say('page.layout', { choices: ['plain', 'harbour'] });
    const parent = await pageId('About us');
    for (const name of ['Maud', 'Ines', 'Juno', 'Priya', 'Oskar', 'Wren']) {
      const one = name === 'Wren' ? who : await signInAs(name);
      const theirs = (await findAccess(db, one.token)) as Access;
      const above = (await loadRoom(db, theirs)).pages.filter(({ id }) => id === String(parent));
      const offered = layoutsToMake(theirs, above);
      for (const layout of layouts.keys()) {
        const { status } = await call(makePages, 'POST', '/x', { ...one, body: { parent, layout, title: layout } });
        expect(`${name} ${layout} ${offered.includes(layout)}`).toBe(`${name} ${layout} ${status === 200}`);
      }
    }
    await say('page.layout', null);
  });
  it('is all that can be chosen: layouts for a new page and for one there is, and an author', async () => {
    await say('page.layout', { choices: ['plain'] });
    const parent = await pageId('About us');
    const make = (layout: string) => call(makePages, 'POST', '/x', { ...who, body: { parent, layout, title: layout } });
    expect((await make('event')).body).toMatchObject({ status: 403, code: 'choice-not-offered' });
    expect((await make('plain')).status).toBe(200);
    expect(layoutsToMake(await access(), (await loadRoom(db, await access())).pages)).toEqual(['plain']);
    expect((await keep('Lost and found', { 'page.layout': 'event' })).body).toMatchObject({
      code: 'choice-not-offered',
    });
    // What stood there may be chosen again, and a draft dropped that changed it.
    await say('page.layout', { choices: ['event'] });
    expect((await keep('Lost and found', { 'page.layout': 'event' })).status).toBe(200);
    expect((await keep('Lost and found', { 'page.layout': 'banner' })).body).toMatchObject({
      code: 'choice-not-offered',
    });
    expect((await keep('Lost and found', { 'page.layout': 'plain' })).status).toBe(200);
    await keep('Lost and found', { 'page.layout': 'event' });
    const lost = await about('Lost and found');
    const dropped = await call(drop, 'POST', '/x', { ...who, params: lost.params, body: { version: lost.version } });
    expect(dropped.status).toBe(200);
    await say('page.layout', null);
    await say('page.author', { choices: ['me'] });
    const { id: oskar } = await signInAs('Oskar');
    expect((await keep('Lost and found', { 'page.author': String(oskar) })).body).toMatchObject({
      code: 'choice-not-offered',
    });
    await say('page.author', null);
  });
});

describe('the edit screen', () => {
  it('is given what is prepared for whoever asks, and for nobody else', async () => {
    await say('summary', { label: 'In a sentence', show: 'closed' });
    await say('pages.edit.result', { show: 'hidden' });
    await inForce({
      do: 'arrange-screen',
      role: 'writer',
      place: {},
      arrangement: { main: ['summary', 'title'], side: ['pages.edit.versions'] },
    });
    const screen = async (of: Access) => {
      const id = await pageId('Contact');
      const thing = await findPlaced(db, of.site.id, id);
      return loadEditScreen(db, of, { ...thing }, id, await loadRoom(db, of), null);
    };
    const mine = await screen(await access());
    expect(mine.screens['plain']?.elements).toMatchObject({
      summary: { label: 'In a sentence', show: 'closed' },
      'page.searchText': { show: 'hidden' },
    });
    expect(mine.screens['plain']?.main.slice(0, 2)).toEqual(['summary', 'title']);
    expect(mine.screens['plain']?.side[0]).toBe('pages.edit.versions');
    expect(mine.controls).not.toContain('pages.edit.result');
    expect(mine.theirFields).not.toContain('page.searchText');
    const hers = await screen(await accessOf('Maud'));
    expect(hers.screens['plain']?.elements).toEqual({});
    expect(hers.controls).toContain('pages.edit.result');
    expect(hers.theirFields).toBeNull();
  });
});

describe('publishing without the edit screen', () => {
  it('asks for a word about the change as the edit screen does, or not at all where it has no place for one', async () => {
    const { body: none } = await call(changes, 'GET', '/x', { ...who, params: (await about('Our history')).params });
    expect(none).toMatchObject({ status: 409, code: 'no-draft' });
    await keep('Our history', { summary: 'Older than the bridge.' });
    const { params } = await about('Our history');
    const coming = async () => (await call(changes, 'GET', '/x', { ...who, params })).body;
    expect(await coming()).toMatchObject({
      isUnfinished: false,
      note: { label: null, required: false },
      content: { summary: 'Older than the bridge.' },
    });
    // Against what visitors see now: the text is as it was.
    const { changes: told } = (await coming()) as { changes: { field: { id: string }; changed: boolean }[] };
    const changed = told.filter((one) => one.changed).map(({ field }) => field.id);
    expect([changed.includes('summary'), changed.includes('body')]).toEqual([true, false]);
    const usual = publishingOf((await access()).plan);
    await inForce({ do: 'set-publishing', publishing: { ...usual, noteRequired: true } });
    expect(await coming()).toMatchObject({ note: { label: null, required: true } });
    await inForce({ do: 'set-publishing', publishing: usual });
    await say('pages.edit.note', { required: true, label: 'Why?' });
    expect(await coming()).toMatchObject({ note: { label: 'Why?', required: true } });
    const { content, version } = await about('Our history');
    const out = (note: string) => call(publish, 'POST', '/x', { ...who, params, body: { content, version, note } });
    expect((await out(' ')).body).toMatchObject({ code: 'note-wanted', faults: [{ field: 'note' }] });
    await say('pages.edit.note', { show: 'hidden' });
    expect(await coming()).toMatchObject({ note: null });
    await say('pages.edit.note', null);
  });
  it('tells what is typed and not right yet', async () => {
    await keep('Our history', { title: 'x'.repeat(300) });
    const { content, version, params } = await about('Our history');
    expect((await call(changes, 'GET', '/x', { ...who, params })).body).toMatchObject({ isUnfinished: true });
    await keep('Our history', { title: content['title'] });
    expect((await call(changes, 'GET', '/x', { ...who, params })).body).toMatchObject({
      isUnfinished: false,
      version: version + 1,
    });
    await db.delete(drafts).where(eq(drafts.itemId, Number(params.id)));
  });
});
