import { eq, sql } from 'drizzle-orm';
import { afterEach, describe, expect, it } from 'vitest';
import { publishingOf, type PublishingRules } from '@/core/plan';
import { doc, h3, p } from '@/demo/write';
import { GET as address } from '@/pages/api/pages/[id]/address';
import { POST as check } from '@/pages/api/items/[id]/check';
import { GET as content } from '@/pages/api/items/[id]/content';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { POST as drop } from '@/pages/api/items/[id]/drop';
import { POST as makePage } from '@/pages/api/pages/index';
import { POST as notes } from '@/pages/api/items/[id]/notes';
import { POST as scheduleFor } from '@/pages/api/items/[id]/schedule';
import { POST as presence } from '@/pages/api/items/[id]/presence';
import { POST as previewLink } from '@/pages/api/pages/[id]/preview-link';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as retire } from '@/pages/api/items/[id]/retire';
import { POST as sendPage } from '@/pages/api/items/[id]/send';
import { GET as version } from '@/pages/api/items/[id]/versions/[revision]';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { POST as remarks } from '@/pages/api/review/[id]/remarks';
import { findRedirect } from '@/server/tree/addresses';
import { getEditable } from '@/server/items/editable';
import { findPreview } from '@/server/items/previews';
import { listActivity } from '@/server/activity/activity';
import { settleDue } from '@/server/items/due';
import { listItemRemarks } from '@/server/items/remarks';
import { getReviewView } from '@/server/items/compared';
import { listWaiting } from '@/server/items/reviews';
import { findPlaced, listPages } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import {
  drafts,
  media,
  people,
  publications,
  presence as presenceTable,
  previewLinks,
  releases,
  schedules,
} from '@/server/db/schema';
import { getLivePlan } from '@/server/plan/plans';
import { findSite, type Site } from '@/server/gate/access';
import { accessOf, call, pageId, signInAs, siteId } from './ask';
import { inventory } from '../inventory';

const open = async (title: string) => {
  const id = await pageId(title);
  const page = await getEditable(db, inventory, await siteId(), id);
  return { id, params: { id: String(id) }, content: page.content, version: page.draft?.version ?? 0 };
};
const facts = async (id: number) => (await listPages(db, await siteId())).find((page) => page.id === String(id));

/** Puts other rules for publishing in force, as going live with them would. */
async function withRules(change: (rules: PublishingRules) => PublishingRules): Promise<void> {
  const site = await findSite(db);
  if (!site) throw new Error('no site');
  const plan = await getLivePlan(db, site);
  const [last] = await db
    .insert(releases)
    .values({
      siteId: site.id,
      number: 50 + Math.floor(Math.random() * 1e6),
      plan: { ...plan, publishing: change(publishingOf(plan)) },
    })
    .returning({ id: releases.id });
  const { sites } = await import('@/server/db/schema');
  await db
    .update(sites)
    .set({ liveReleaseId: last?.id ?? null })
    .where(eq(sites.id, site.id));
}

describe('settings of a page', () => {
  it('leave no redirect behind where none is wanted', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Contact');
    const put = async (slug: string, redirect: boolean) => {
      const now = await open('Contact');
      return call(publish, 'POST', '/x', {
        ...maud,
        params: page.params,
        body: {
          content: { ...now.content, 'page.slug': slug, 'page.redirect': redirect },
          version: now.version,
          note: '',
        },
      });
    };
    const before = (await facts(page.id))?.address ?? '';
    expect((await put('write-to-us', false)).status).toBe(200);
    expect(await findRedirect(db, await siteId(), before)).toBeUndefined();
    expect((await put('contact', true)).status).toBe(200);
    expect(await findRedirect(db, await siteId(), before.replace(/[^/]+$/, 'write-to-us'))).toBe(String(page.id));
  });
  it('change with the words: kept as a draft, compared, and true once published', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Season tickets');
    const content = {
      ...page.content,
      'page.slug': 'cards',
      'page.shortName': 'Cards',
      'page.inNavigation': false,
      'page.language': 'cy',
      'page.day': '2026-11-01',
      'page.layout': 'banner',
      banner: null,
    };
    expect(
      (await call(putDraft, 'PUT', '/x', { ...maud, params: page.params, body: { content, version: page.version } }))
        .status,
    ).toBe(200);
    expect(await facts(page.id)).toMatchObject({
      slug: 'season-tickets',
      inNavigation: true,
      address: '/fares/season-tickets',
    });
    const told = await call(address, 'GET', '/x?slug=cards&own=', { ...maud, params: page.params });
    expect(told.body).toMatchObject({ address: '/fares/cards', fault: null, changes: 1 });
    expect(
      (await call(publish, 'POST', '/x', { ...maud, params: page.params, body: { content, version: 1, note: '' } }))
        .status,
    ).toBe(200);
    expect(await facts(page.id)).toMatchObject({
      slug: 'cards',
      shortName: 'Cards',
      inNavigation: false,
      address: '/fares/cards',
      day: '2026-11-01',
      language: 'cy',
      place: { layout: 'banner' },
    });
    expect(await findRedirect(db, await siteId(), '/fares/season-tickets')).toBe(String(page.id));
  });
  it.each([
    ['page.layout', 'poster', 'There is no layout “poster”.'],
    ['page.author', '99999', 'This author is nobody of this website.'],
    ['page.language', 'xx', 'Language must be one of'],
  ])('%s “%s” is refused with the reason', async (field, value, words) => {
    const maud = await signInAs('Maud');
    const page = await open('Jobs');
    const answer = await call(putDraft, 'PUT', '/x', {
      ...maud,
      params: page.params,
      body: { content: { ...page.content, [field]: value }, version: page.version },
    });
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toContain(words);
    expect(answer.body['faults']).toEqual([expect.objectContaining({ field })]);
  });
  it.each([
    ['page.slug', 'Two Words', 'An address is made of small letters'],
    ['page.ownAddress', 'no-slash', 'An address of its own begins with a slash'],
    ['page.day', '2026-02-30', 'Date of the page must be a day'],
  ])(
    '%s “%s” is kept as typed beside what it says until it is right, and goes nowhere',
    async (field, value, words) => {
      const maud = await signInAs('Maud');
      const page = await open('Jobs');
      const content = { ...page.content, summary: `With ${field}.`, [field]: value };
      const kept = await call(putDraft, 'PUT', '/x', {
        ...maud,
        params: page.params,
        body: { content, version: page.version },
      });
      expect(kept).toMatchObject({
        status: 200,
        body: { faults: [{ field, message: expect.stringContaining(words) as string }] },
      });
      const now = await getEditable(db, inventory, await siteId(), page.id);
      expect(now).toMatchObject({
        unfinished: { [field]: value },
        faults: [{ field }],
        content: { summary: `With ${field}.`, [field]: page.content[field] },
      });
      for (const route of [publish, sendPage])
        expect(
          await call(route, 'POST', '/x', {
            ...maud,
            params: page.params,
            body: { content, version: kept.body['version'], note: '' },
          }),
        ).toMatchObject({ status: 422, body: { faults: [{ field }] } });
      const right = await call(putDraft, 'PUT', '/x', {
        ...maud,
        params: page.params,
        body: { content: page.content, version: kept.body['version'] },
      });
      expect(right).toMatchObject({ status: 200, body: { faults: [] } });
      expect((await getEditable(db, inventory, await siteId(), page.id)).unfinished).toEqual({});
      expect(
        (await call(drop, 'POST', '/x', { ...maud, params: page.params, body: { version: right.body['version'] } }))
          .status,
      ).toBe(200);
    },
  );
  it('an address that is taken, or Safe Room’s own, is told while it is typed', async () => {
    const maud = await signInAs('Maud');
    const { params } = await open('Timetable');
    const ask = async (query: string) => (await call(address, 'GET', `/x?${query}`, { ...maud, params })).body['fault'];
    expect(await ask('slug=&own=/harbours/port-ennis')).toBe(
      'The address /harbours/port-ennis is taken. Choose another.',
    );
    expect(await ask('slug=workshop&own=')).toBe('The address /workshop is taken. Choose another.');
    expect(await ask('slug=Winter%20times&own=')).toContain('small letters');
    expect(await ask('slug=timetable&own=')).toBeNull();
  });
  it('text that a new layout has no place for is kept, and is there again', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Port Ennis');
    const hours = page.content['hours'];
    expect(hours).toBeTruthy();
    const plain = { ...page.content, 'page.layout': 'plain' };
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: { content: plain, version: page.version, note: '' },
        })
      ).status,
    ).toBe(200);
    const after = await getEditable(db, inventory, await siteId(), page.id);
    expect(after.layout.id).toBe('plain');
    expect(after.content['hours']).toBe(hours);
    const back = { ...after.content, 'page.layout': 'harbour' };
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: { content: back, version: 0, note: '' },
        })
      ).status,
    ).toBe(200);
    expect((await getEditable(db, inventory, await siteId(), page.id)).content['hours']).toBe(hours);
  });
});

describe('before a page goes out', () => {
  afterEach(() => withRules(() => publishingOf({})));
  const bad = (content: Record<string, unknown>) => ({
    ...content,
    body: doc(h3('Too small'), p('Lorem ipsum. [Gone](/nowhere)')),
  });
  it('says in plain words what may be wrong', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Jobs');
    const answer = await call(check, 'POST', '/x', {
      ...maud,
      params: page.params,
      body: { content: bad(page.content) },
    });
    expect(
      (answer.body['findings'] as { check: string; rule: string; message: string }[]).map(
        ({ check: id, rule, message }) => [id, rule, message],
      ),
    ).toEqual([
      ['headings', 'advise', 'Text: the small heading “Too small” has no heading above it.'],
      ['sample', 'block', 'Text: “Lorem ipsum” looks like sample text that was left.'],
      ['links', 'advise', 'Text: the link to /nowhere leads to no page of this website.'],
    ]);
  });
  it('what the site stops does not go out, by whichever way, and the draft is kept', async () => {
    const [maud, ines] = [await signInAs('Maud'), await signInAs('Ines')];
    const page = await open('Left luggage');
    for (const body of [{}, { at: '2061-01-01T00:00' }])
      expect(
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: { content: bad(page.content), version: 0, note: '', ...body },
        }),
      ).toMatchObject({ status: 422, body: { findings: [{ check: 'sample' }] } });
    const answer = await call(sendPage, 'POST', '/x', {
      ...ines,
      params: page.params,
      body: { content: { ...page.content, summary: 'Text goes here' }, version: 0, note: '' },
    });
    expect(answer.body.detail).toBe(
      'This website wants these set right first: Summary: “Text goes here” looks like sample text that was left.',
    );
    expect((await getEditable(db, inventory, await siteId(), page.id)).versions[0]?.live).toBe(true);
  });
  it('the site decides which stop, and whether a change note is asked for', async () => {
    const ines = await signInAs('Ines');
    const page = await open('Left luggage');
    await withRules((rules) => ({ noteRequired: true, checks: { ...rules.checks, sample: 'off' } }));
    const body = { content: { ...page.content, summary: 'Text goes here' }, version: 0, note: ' ' };
    expect(await call(sendPage, 'POST', '/x', { ...ines, params: page.params, body })).toMatchObject({
      status: 422,
      body: { faults: [{ field: 'note', message: 'Say in a sentence what you changed; this website asks for it.' }] },
    });
    expect(
      (await call(sendPage, 'POST', '/x', { ...ines, params: page.params, body: { ...body, note: 'New summary' } }))
        .status,
    ).toBe(200);
  });
});

describe('at a time', () => {
  const later = '2061-06-01T09:00';
  it('a page goes live by itself at its hour, once, and says so', async () => {
    const maud = await signInAs('Maud');
    const page = await open('School boat');
    const content = { ...page.content, summary: 'From June by the new pier.' };
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: { content, version: 0, note: '', at: '2020-01-01T00:00' },
        })
      ).body.detail,
    ).toBe('That hour has passed already. Choose one that is still to come.');
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: { content, version: 0, note: '', at: later },
        })
      ).status,
    ).toBe(200);
    const before = await getEditable(db, inventory, await siteId(), page.id);
    expect(before.planned).toMatchObject([{ what: 'publish', dueAt: '2061-06-01T08:00:00.000Z', by: 'Maud Ellery' }]);
    expect(before.live?.['summary']).toBe(page.content['summary']);
    expect(before.content['summary']).toBe('From June by the new pier.');
    expect(await settleDue(db, true)).toBe(0);
    const due = new Date(Date.now() - 60_000);
    await db.update(schedules).set({ dueAt: due });
    const done = await Promise.all([settleDue(db, true), settleDue(db, true), settleDue(db, true)]);
    expect(done.reduce((sum, n) => sum + n, 0)).toBe(1);
    const after = await getEditable(db, inventory, await siteId(), page.id);
    expect(after.live?.['summary']).toBe('From June by the new pier.');
    expect(after.planned).toEqual([]);
    expect((await facts(page.id))?.publishedAt).toEqual(due);
  });
  it('is done once also where two processes come to it at the same instant', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Left luggage');
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: {
            content: { ...page.content, summary: 'Lockers by the gate.' },
            version: page.version,
            note: '',
            at: later,
          },
        })
      ).status,
    ).toBe(200);
    await db
      .update(schedules)
      .set({ dueAt: new Date(Date.now() - 60_000) })
      .where(eq(schedules.itemId, page.id));
    const before = await db.$count(publications, eq(publications.itemId, page.id));
    // The page is held, so that whoever has taken the work waits in the middle of it until the other has come, too.
    let letGo = () => {};
    const held = new Promise<void>((go) => {
      letGo = go;
    });
    let isHeld = () => {};
    const holding = new Promise<void>((go) => {
      isHeld = go;
    });
    const holder = db.transaction(async (tx) => {
      await tx.execute(sql`select 1 from items where id = ${page.id} for update`);
      isHeld();
      await held;
    });
    await holding;
    let ended = 0;
    const both = [settleDue(db, true), settleDue(db, true)].map((one) =>
      one.finally(() => {
        ended++;
      }),
    );
    const waiting = async () =>
      Number(
        (
          await db.execute<{ n: string }>(
            sql`select count(*) as n from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()`,
          )
        ).rows[0]?.n,
      );
    // Either one waits and the other has left it to it, or both wait, which would be wrong.
    await expect.poll(async () => ended + (await waiting()), { timeout: 300_000 }).toBe(2);
    letGo();
    await holder;
    expect((await Promise.all(both)).sort()).toEqual([0, 1]);
    expect(await db.$count(publications, eq(publications.itemId, page.id))).toBe(before + 1);
  });
  it('calling off leaves a newer draft of somebody else as it is', async () => {
    const [maud, priya] = [await signInAs('Maud'), await signInAs('Ines')];
    const page = await open('Lost and found');
    const plan = { content: { ...page.content, summary: 'Planned.' }, version: page.version, note: '', at: later };
    expect((await call(publish, 'POST', '/x', { ...maud, params: page.params, body: plan })).status).toBe(200);
    expect(
      (
        await call(putDraft, 'PUT', '/x', {
          ...priya,
          params: page.params,
          body: { content: { ...page.content, summary: 'Newer words.' }, version: 0 },
        })
      ).status,
    ).toBe(200);
    expect(
      (await call(scheduleFor, 'POST', '/x', { ...maud, params: page.params, body: { callOff: 'publish' } })).status,
    ).toBe(200);
    expect((await getEditable(db, inventory, await siteId(), page.id)).content['summary']).toBe('Newer words.');
    await db.delete(drafts).where(eq(drafts.itemId, page.id));
  });
  it('what is called off becomes a draft again', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Timetable');
    await call(publish, 'POST', '/x', {
      ...maud,
      params: page.params,
      body: { content: { ...page.content, summary: 'Not yet.' }, version: 0, note: '', at: later },
    });
    expect(
      (await call(scheduleFor, 'POST', '/x', { ...maud, params: page.params, body: { callOff: 'publish' } })).status,
    ).toBe(200);
    const after = await getEditable(db, inventory, await siteId(), page.id);
    expect(after).toMatchObject({ planned: [], draft: { version: 1 } });
    expect(after.content['summary']).toBe('Not yet.');
    expect(
      (await call(scheduleFor, 'POST', '/x', { ...maud, params: page.params, body: { callOff: 'publish' } })).status,
    ).toBe(409);
  });
  it('a page is taken down by itself; whoever may not take down cannot plan it', async () => {
    const [maud, ines] = [await signInAs('Maud'), await signInAs('Ines')];
    const page = await open('Contact');
    expect(
      (
        await call(scheduleFor, 'POST', '/x', {
          ...ines,
          params: { id: String(await pageId('Left luggage')) },
          body: { at: later },
        })
      ).status,
    ).toBe(403);
    expect((await call(scheduleFor, 'POST', '/x', { ...maud, params: page.params, body: { at: later } })).status).toBe(
      200,
    );
    await db
      .update(schedules)
      .set({ dueAt: new Date(Date.now() - 1000) })
      .where(eq(schedules.itemId, page.id));
    expect(await settleDue(db, true)).toBe(1);
    expect(await facts(page.id)).toMatchObject({ live: false, place: { state: 'down' } });
  });
  it('what cannot be done at its time is told on the page, and not tried for ever', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Getting around on Skell');
    await call(publish, 'POST', '/x', {
      ...maud,
      params: page.params,
      body: { content: { ...page.content, 'page.ownAddress': '/pony' }, version: 0, note: '', at: later },
    });
    const other = await open('Skell Island');
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: other.params,
          body: { content: { ...other.content, 'page.ownAddress': '/pony' }, version: 0, note: '' },
        })
      ).status,
    ).toBe(200);
    await db
      .update(schedules)
      .set({ dueAt: new Date(Date.now() - 1000) })
      .where(eq(schedules.itemId, page.id));
    expect(await settleDue(db, true)).toBe(0);
    expect((await getEditable(db, inventory, await siteId(), page.id)).planned).toMatchObject([
      { failed: 'The address /pony is taken. Choose another.' },
    ]);
    expect(await settleDue(db, true)).toBe(0);
    expect(
      (await listActivity(db, await siteId(), 20)).filter((line) => line.action.endsWith('could not be done')),
    ).toMatchObject([
      {
        who: 'Maud Ellery',
        action: 'planned to publish, and it could not be done',
        detail: 'The address /pony is taken. Choose another.',
      },
    ]);
  });
});

describe('a second look', () => {
  it('is asked of somebody by name, who must be able to give it', async () => {
    const ines = await signInAs('Ines');
    const page = await open('South Quay');
    const idOf = async (name: string) =>
      (await db.select({ id: people.id }).from(people).where(eq(people.name, name)))[0]?.id;
    const body = {
      content: { ...page.content, summary: 'Five minutes from the station.' },
      version: 0,
      note: 'Shorter',
    };
    expect(
      (
        await call(sendPage, 'POST', '/x', {
          ...ines,
          params: page.params,
          body: { ...body, askedOf: await idOf('Sam Ollis') },
        })
      ).body.detail,
    ).toContain('cannot give this a second look');
    expect(
      (await call(sendPage, 'POST', '/x', { ...ines, params: page.params, body: { ...body, askedOf: ines.id } }))
        .status,
    ).toBe(422);
    expect(
      (
        await call(sendPage, 'POST', '/x', {
          ...ines,
          params: page.params,
          body: { ...body, askedOf: await idOf('Priya Nand') },
        })
      ).status,
    ).toBe(200);
    expect((await listWaiting(db, await siteId())).find((entry) => entry.itemId === String(page.id))).toMatchObject({
      askedOf: 'Priya Nand',
      sentBy: 'Ines Varga',
      note: 'Shorter',
    });
  });
  it('has remarks tied to places, answered and settled; with remarks it goes back without a word', async () => {
    const [priya, ines, sam] = [await signInAs('Priya'), await signInAs('Ines'), await signInAs('Sam')];
    const page = await open('South Quay');
    const review = (await listWaiting(db, await siteId())).find((entry) => entry.itemId === String(page.id));
    const params = { id: String(review?.id) };
    const made = await call(remarks, 'POST', '/x', {
      ...priya,
      params,
      body: { field: 'summary', quote: 'Five minutes', text: 'On foot?', answers: null },
    });
    const [first] = made.body['remarks'] as { id: number }[];
    expect(
      (
        await call(remarks, 'POST', '/x', {
          ...sam,
          params,
          body: { field: 'summary', quote: '', text: 'x', answers: null },
        })
      ).status,
    ).toBe(403);
    expect(
      (await call(decide, 'POST', '/x', { ...ines, params, body: { outcome: 'published', word: '' } })).status,
    ).toBe(403);
    expect(
      (await call(decide, 'POST', '/x', { ...priya, params, body: { outcome: 'sent-back', word: '' } })).status,
    ).toBe(200);
    expect((await getEditable(db, inventory, await siteId(), page.id)).draft?.sentBackWord).toBe(
      '1 remark on the text',
    );
    expect(
      (
        await listItemRemarks(
          db,
          await accessOf('Ines'),
          page.id,
          (await findPlaced(db, await siteId(), page.id)) ?? {},
        )
      )?.remarks,
    ).toMatchObject([{ text: 'On foot?', quote: 'Five minutes', settled: null }]);
    const answered = await call(remarks, 'POST', '/x', {
      ...ines,
      params,
      body: { field: 'summary', quote: '', text: 'Yes.', answers: first?.id },
    });
    expect(answered.body['remarks']).toMatchObject([
      { text: 'On foot?' },
      { text: 'Yes.', answers: first?.id, by: 'Ines Varga' },
    ]);
    // A remark is settled with the look it was made in, and with no other.
    const ennis = await open('Left luggage');
    const sent = await call(sendPage, 'POST', '/x', {
      ...ines,
      params: { id: String(ennis.id) },
      body: { content: { ...ennis.content, summary: 'Another look.' }, version: ennis.version, note: '' },
    });
    const other = { id: sent.body['review'] as number };
    const elsewhere = { id: String(other.id) };
    expect(
      (await call(remarks, 'POST', '/x', { ...priya, params: elsewhere, body: { settle: first?.id, settled: true } }))
        .status,
    ).toBe(404);
    const settled = await call(remarks, 'POST', '/x', { ...ines, params, body: { settle: first?.id, settled: true } });
    expect((settled.body['remarks'] as { settled: string | null }[])[0]?.settled).toBeTruthy();
    expect(
      await listItemRemarks(db, await accessOf('Ines'), page.id, (await findPlaced(db, await siteId(), page.id)) ?? {}),
    ).toBeNull();
  });
  it('compares fields, banner and address too, and publishes at an hour to come', async () => {
    const [priya, ines] = [await signInAs('Priya'), await signInAs('Ines')];
    const page = await open('Port Ennis');
    const [picture] = await db.select({ id: media.id, name: media.name }).from(media).limit(1);
    const content = { ...page.content, hours: 'Closed', banner: String(picture?.id), 'page.slug': 'ennis' };
    const sent = await call(sendPage, 'POST', '/x', {
      ...ines,
      params: page.params,
      body: { content, version: page.version, note: '' },
    });
    expect(sent.status).toBe(200);
    const view = await getReviewView(db, inventory, await siteId(), Number(sent.body['review']));
    expect(view.changes.filter((change) => change.changed).map((change) => change.field.name)).toEqual([
      'Banner picture',
      'Ticket office hours',
      'Last part of the address',
    ]);
    expect(
      (
        await call(decide, 'POST', '/x', {
          ...priya,
          params: { id: String(view.id) },
          body: { outcome: 'published', word: '', at: '2061-01-01T00:00' },
        })
      ).status,
    ).toBe(200);
    expect((await getEditable(db, inventory, await siteId(), page.id)).planned).toMatchObject([
      { what: 'publish', by: 'Priya Nand' },
    ]);
  });
  it('any two versions are compared, and the older can be written on from', async () => {
    const maud = await signInAs('Maud');
    const page = await open('The Slipway Café');
    for (const summary of ['Second.', 'Third.'])
      await call(publish, 'POST', '/x', {
        ...maud,
        params: page.params,
        body: { content: { ...page.content, summary }, version: 0, note: summary },
      });
    const [third, second, first] = (await getEditable(db, inventory, await siteId(), page.id)).versions;
    expect([third?.note, second?.note, third?.live, second?.live]).toEqual(['Third.', 'Second.', true, false]);
    const answer = await call(version, 'GET', `/x?with=${second?.revisionId}`, {
      ...maud,
      params: { ...page.params, revision: String(first?.revisionId) },
    });
    const changed = (
      answer.body['changes'] as {
        changed: boolean;
        field: { id: string };
        lines: { pieces: { change: string; text: string }[] }[];
      }[]
    ).filter((change) => change.changed);
    expect(changed.map((change) => change.field.id)).toEqual(['summary']);
    expect((answer.body['content'] as { summary: string }).summary).toBe(page.content['summary']);
    expect((await call(version, 'GET', '/x', { ...maud, params: { ...page.params, revision: '1' } })).status).toBe(404);
  });
});

describe('around a page', () => {
  it('says who else has it open, until they leave or are silent', async () => {
    const [ines, tomas] = [await signInAs('Ines'), await signInAs('Tomas')];
    const params = { id: String(await pageId('Skell Island')) };
    const tell = async (who: typeof ines, body: object) =>
      (await call(presence, 'POST', '/x', { ...who, params, body: { typing: false, ...body } })).body['others'];
    expect(await tell(ines, { typing: true })).toEqual([]);
    expect(await tell(tomas, {})).toEqual([{ id: String(ines.id), name: 'Ines Varga', typing: true }]);
    await db
      .update(presenceTable)
      .set({ seenAt: new Date(Date.now() - 60_000) })
      .where(eq(presenceTable.personId, ines.id));
    expect(await tell(tomas, {})).toEqual([]);
    await tell(ines, {});
    await tell(tomas, { leaving: true });
    expect(await tell(ines, {})).toEqual([]);
  });
  it('says which version of the draft there is, so that who only looks on can ask for it', async () => {
    const ines = await signInAs('Ines');
    const id = await pageId('Left luggage');
    const params = { id: String(id) };
    const told = async () =>
      (await call(presence, 'POST', '/x', { ...ines, params, body: { typing: false } })).body['version'];
    const newest = async () => (await call(content, 'GET', '/x', { ...ines, params })).body;
    expect([await told(), (await newest())['version']]).toEqual([0, 0]);
    const said = { ...((await newest())['content'] as object), title: 'Lockers', 'page.day': 'soon' };
    for (const version of [0, 1])
      await call(putDraft, 'PUT', '/x', { ...ines, params, body: { content: said, version } });
    // What is not right yet of it is said, too: as its writer sees it.
    expect([await told(), await newest()]).toMatchObject([
      2,
      { version: 2, content: { title: 'Lockers', 'page.day': 'soon' } },
    ]);
  });
  it('keeps notes that visitors never see, and settles them', async () => {
    const ines = await signInAs('Ines');
    const params = { id: String(await pageId('Skell Island')) };
    const made = await call(notes, 'POST', '/x', { ...ines, params, body: { text: 'Ask about the light.' } });
    const [note] = made.body['notes'] as { id: number }[];
    expect(
      (await call(notes, 'POST', '/x', { ...ines, params, body: { settle: note?.id, settled: true } })).body['notes'],
    ).toMatchObject([{ text: 'Ask about the light.', by: 'Ines Varga', settled: true }]);
    // By the address of another page it is not there.
    expect(
      (
        await call(notes, 'POST', '/x', {
          ...ines,
          params: { id: String(await pageId('Port Ennis')) },
          body: { settle: note?.id, settled: false },
        })
      ).status,
    ).toBe(404);
    expect((await call(notes, 'POST', '/x', { ...ines, params, body: { text: '  ' } })).status).toBe(422);
  });
  it('is shown by a link that ends, and only its hash is kept', async () => {
    const ines = await signInAs('Ines');
    const id = await pageId('Skell Island');
    const made = await call(previewLink, 'POST', '/x', { ...ines, params: { id: String(id) }, body: { days: 7 } });
    const token = String(made.body['url']).split('/preview/')[1] ?? '';
    expect(await findPreview(db, (await findSite(db)) as Site, token)).toMatchObject({ itemId: id });
    expect(JSON.stringify(await db.select().from(previewLinks))).not.toContain(token);
    expect(await findPreview(db, (await findSite(db)) as Site, `${token}x`)).toBeUndefined();
    await db.update(previewLinks).set({ expiresAt: new Date(Date.now() - 1000) });
    expect(await findPreview(db, (await findSite(db)) as Site, token)).toBeUndefined();
  });
  it('a draft that is all there is of a page cannot be let go, and a page taken down can be published anew', async () => {
    const maud = await signInAs('Maud');
    const made = await call(makePage, 'POST', '/x', {
      ...maud,
      body: { parent: await pageId('Jobs'), layout: 'event', title: 'New' },
    });
    expect(
      (await call(drop, 'POST', '/x', { ...maud, params: { id: String(made.body['id']) }, body: { version: 1 } })).body
        .detail,
    ).toContain('Delete it if it is not needed.');
    const page = await open('Lost and found');
    await call(retire, 'POST', '/x', { ...maud, params: page.params, body: { do: 'take-down' } });
    expect(
      (
        await call(publish, 'POST', '/x', {
          ...maud,
          params: page.params,
          body: { content: page.content, version: 0, note: '' },
        })
      ).status,
    ).toBe(200);
    expect(await facts(page.id)).toMatchObject({ live: true, place: { state: 'published' } });
  });
});
