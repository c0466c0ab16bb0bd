import { and, eq, isNull, sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { POST as schedule } from '@/pages/api/items/[id]/schedule';
import { POST as publish } from '@/pages/api/items/[id]/publish';
import { POST as sendPage } from '@/pages/api/items/[id]/send';
import { POST as copy } from '@/pages/api/pages/[id]/copy';
import { POST as many } from '@/pages/api/pages/bulk';
import { POST as make } from '@/pages/api/pages/index';
import { POST as takeBack } from '@/pages/api/pages/take-back';
import { PUT as ownPassword } from '@/pages/api/own-password';
import { POST as previewLink } from '@/pages/api/pages/[id]/preview-link';
import { PUT as audience } from '@/pages/api/pages/[id]/audience';
import { POST as newLink } from '@/pages/api/people/[id]/link';
import { POST as importPeople } from '@/pages/api/people/import';
import { POST as describePicture } from '@/pages/api/pictures/[id]/describe';
import { POST as decide } from '@/pages/api/review/[id]/decide';
import { POST as setUp } from '@/pages/api/set-up';
import { POST as signIn } from '@/pages/api/sign-in';
import { POST as drop } from '@/pages/api/workshop/drop';
import { POST as change } from '@/pages/api/workshop/plan';
import { PUT as putDraft } from '@/pages/api/items/[id]/draft';
import { db } from '@/server/db/client';
import { assignments, drafts, items, media, rateLimits, schedules } from '@/server/db/schema';
import { findSite, type Site } from '@/server/gate/access';
import { settleDue } from '@/server/items/due';
import { getEditable } from '@/server/items/editable';
import { findPreview } from '@/server/items/previews';
import { findRedirect } from '@/server/tree/addresses';
import { getPlanState } from '@/server/plan/plans';
import { listPages } from '@/server/tree/tree';
import { call, inForce, pageId, role, signInAs, siteId, somebody } from './ask';
import { inventory } from '../inventory';

// The second of two like cases, and what happens in another order than usual.

const open = async (title: string) => {
  const id = await pageId(title);
  const page = await getEditable(db, inventory, await siteId(), id);
  return { id, params: { id: String(id) }, content: page.content, version: page.draft?.version ?? 0, live: page.live };
};
const liveOf = async (title: string, id: number) =>
  (await getEditable(db, inventory, await siteId(), id)).live?.[title];

describe('what was planned', () => {
  it('anew goes out at the new hour alone, with the new words', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Season tickets');
    const plan = async (summary: string, at: string) => {
      const now = await open('Season tickets');
      return call(publish, 'POST', '/x', {
        ...maud,
        params: page.params,
        body: { content: { ...now.content, summary }, version: now.version, note: '', at },
      });
    };
    expect((await plan('For Monday.', '2061-06-06T09:00')).status).toBe(200);
    expect((await plan('For Friday.', '2061-06-10T09:00')).status).toBe(200);
    const waiting = await db
      .select()
      .from(schedules)
      .where(and(eq(schedules.itemId, page.id), isNull(schedules.doneAt)));
    expect(waiting.map(({ dueAt }) => dueAt.toISOString())).toEqual(['2061-06-10T08:00:00.000Z']);
    await db
      .update(schedules)
      .set({ dueAt: new Date(Date.now() - 1000) })
      .where(eq(schedules.itemId, page.id));
    expect(await settleDue(db, true)).toBe(1);
    expect(await liveOf('summary', page.id)).toBe('For Friday.');
  });
  it('is done in the order of the hours, whatever was planned first', async () => {
    const maud = await signInAs('Maud');
    const page = await open('Our history');
    const down = await call(schedule, 'POST', '/x', { ...maud, params: page.params, body: { at: '2061-06-10T10:00' } });
    expect(down.status).toBe(200);
    const out = await call(publish, 'POST', '/x', {
      ...maud,
      params: page.params,
      body: {
        content: { ...page.content, summary: 'For an hour.' },
        version: page.version,
        note: '',
        at: '2061-06-10T09:00',
      },
    });
    expect(out.status).toBe(200);
    const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000);
    await db
      .update(schedules)
      .set({ dueAt: ago(1) })
      .where(and(eq(schedules.itemId, page.id), eq(schedules.what, 'take-down')));
    await db
      .update(schedules)
      .set({ dueAt: ago(60) })
      .where(and(eq(schedules.itemId, page.id), eq(schedules.what, 'publish')));
    expect(await settleDue(db, true)).toBe(2);
    const [row] = await db.select().from(items).where(eq(items.id, page.id));
    expect([row?.liveRevisionId, row?.downRevisionId === null]).toEqual([null, false]);
    expect((await getEditable(db, inventory, await siteId(), page.id)).content['summary']).toBe('For an hour.');
  });
});

describe('the second look', () => {
  it('stays another person’s for everybody who wrote in it, also after it was sent back', async () => {
    const [ines, tomas, maud] = [await signInAs('Ines'), await signInAs('Tomas'), await signInAs('Maud')];
    const site = await siteId();
    await db.insert(assignments).values([{ siteId: site, personId: ines.id, roleId: 'second-look' }]);
    const page = await open('Skell Island');
    const put = async (who: typeof ines, summary: string) => {
      const now = await open('Skell Island');
      return call(putDraft, 'PUT', '/x', {
        ...who,
        params: page.params,
        body: { content: { ...now.content, summary }, version: now.version },
      });
    };
    const send = async (who: typeof ines, summary: string) => {
      const now = await open('Skell Island');
      return call(sendPage, 'POST', '/x', {
        ...who,
        params: page.params,
        body: { content: { ...now.content, summary }, version: now.version, note: 'Please look.' },
      });
    };
    expect((await put(ines, 'Ines wrote.')).status).toBe(200);
    const first = await send(tomas, 'Ines and Tomas wrote.');
    expect(first.status).toBe(200);
    const look = (who: typeof ines, id: unknown, outcome: string) =>
      call(decide, 'POST', '/x', { ...who, params: { id: String(id) }, body: { outcome, word: 'Once more, please.' } });
    expect((await look(ines, first.body['review'], 'published')).status).toBe(403);
    expect((await look(maud, first.body['review'], 'sent-back')).status).toBe(200);
    const [draft] = await db.select().from(drafts).where(eq(drafts.itemId, page.id));
    expect(draft?.writers.toSorted()).toEqual([ines.id, tomas.id].toSorted());
    const again = await send(tomas, 'Tomas alone changed this.');
    expect(again.status).toBe(200);
    expect((await look(ines, again.body['review'], 'published')).status).toBe(403);
    expect((await look(maud, again.body['review'], 'published')).status).toBe(200);
    await db.delete(assignments).where(and(eq(assignments.personId, ines.id), eq(assignments.roleId, 'second-look')));
  });
});

describe('links that let in', () => {
  it('to choose a password end with a password changed by oneself', async () => {
    const maud = await signInAs('Maud');
    const signedIn = await call(signIn, 'POST', '/x', {
      body: { email: 'lotte@larkhaven.example', password: 'says-what-it-shows' },
    });
    const cookie = signedIn.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; ');
    const lotte = await signInAs('Lotte');
    const made = await call(newLink, 'POST', '/x', { ...maud, params: { id: String(lotte.id) } });
    const token = new URL(String(made.body['link'])).searchParams.get('token') ?? '';
    const changed = await call(ownPassword, 'PUT', '/x', {
      cookie,
      body: { current: 'says-what-it-shows', password: 'four-grey-gulls-dancing' },
    });
    expect(changed.status).toBe(200);
    const used = await call(setUp, 'POST', '/x', { body: { token, password: 'five-green-boats-asleep' } });
    expect(used.body.code).toBe('link-used');
  });
  it('to preview end when other roles may visit than when they were made', async () => {
    const maud = await signInAs('Maud');
    const page = await open('For the crew');
    const only = (role: string) =>
      call(audience, 'PUT', '/x', {
        ...maud,
        params: page.params,
        body: { audience: { kind: 'roles', roles: [role] } },
      });
    expect((await only('newsroom')).status).toBe(200);
    const made = await call(previewLink, 'POST', '/x', { ...maud, params: page.params, body: { days: 7 } });
    const token = String(made.body['url']).split('/preview/')[1] ?? '';
    const site = (await findSite(db)) as Site;
    expect(await findPreview(db, site, token)).toMatchObject({ itemId: page.id });
    expect((await only('cafe-manager')).status).toBe(200);
    expect(await findPreview(db, site, token)).toBeUndefined();
    expect((await only('newsroom')).status).toBe(200);
    expect(await findPreview(db, site, token)).toMatchObject({ itemId: page.id });
  });
  it('a right sign-in counts against nobody who comes from the same address', async () => {
    await db.delete(rateLimits);
    const codes: number[] = [];
    for (let i = 0; i < 64; i++)
      codes.push(
        (await call(signIn, 'POST', '/x', { body: { email: 'oskar@larkhaven.example', password: 'soup-of-the-day' } }))
          .status,
      );
    expect(new Set(codes)).toEqual(new Set([200]));
  });
  it('a list of people changes neither one’s own roles nor a keyholder’s, whichever line they stand in', async () => {
    const pat = await somebody('Pat', { role: 'keyholder' });
    await db.delete(assignments).where(eq(assignments.personId, pat.id));
    const site = await siteId();
    // Somebody who looks after people and is no keyholder.
    const { inForce, role } = await import('./ask');
    await inForce(...role('people-keeper', 'person.*', 'page.view'));
    await db.insert(assignments).values({ siteId: site, personId: pat.id, roleId: 'people-keeper' });
    const csv = [
      'name,email,role',
      'Una,una@larkhaven.example,people-keeper',
      'Pat,pat@larkhaven.example,people-keeper',
      'Maud Ellery,maud@larkhaven.example,people-keeper',
    ].join('\n');
    const told = await call(importPeople, 'POST', '/x', { ...pat, body: { csv, confirm: false } });
    const rows = JSON.stringify(told.body);
    expect(told.status).toBeLessThan(500);
    const confirmed = await call(importPeople, 'POST', '/x', { ...pat, body: { csv, confirm: true } });
    expect(confirmed.body['done'], rows).not.toBe(true);
    const held = await db
      .select()
      .from(assignments)
      .where(eq(assignments.personId, (await signInAs('Maud')).id));
    expect(held.map(({ roleId }) => roleId)).toContain('keyholder');
    expect(held.map(({ roleId }) => roleId)).not.toContain('people-keeper');
  });
});

describe('what stays', () => {
  it('a picture described stays in its part of the website', async () => {
    const maud = await signInAs('Maud');
    const [picture] = await db.select().from(media).limit(1);
    const part = String(await pageId('Harbours'));
    const say = (body: object) =>
      call(describePicture, 'POST', '/x', { ...maud, params: { id: String(picture?.id) }, body });
    expect((await say({ description: 'A boat', part })).status).toBe(200);
    expect((await say({ description: 'A red boat' })).status).toBe(200);
    const [now] = await db
      .select()
      .from(media)
      .where(eq(media.id, picture?.id ?? 0));
    expect([now?.description, String(now?.pageId)]).toEqual(['A red boat', part]);
  });
  it('an old address that visitors use goes on leading there when the page moves once more without being asked to', async () => {
    const maud = await signInAs('Maud');
    const site = await siteId();
    const rename = async (slug: string, redirect: boolean) => {
      const now = await open('Contact');
      return call(publish, 'POST', '/x', {
        ...maud,
        params: now.params,
        body: {
          content: { ...now.content, 'page.slug': slug, 'page.redirect': redirect },
          version: now.version,
          note: '',
        },
      });
    };
    const { id } = await open('Contact');
    const address = async () => (await listPages(db, site)).find((page) => page.id === String(id))?.address ?? '';
    const first = await address();
    expect((await rename('write-to-us', true)).status).toBe(200);
    expect(await findRedirect(db, site, first)).toBe(String(id));
    expect((await rename('reach-us', false)).status).toBe(200);
    expect((await rename('contact', false)).status).toBe(200);
    expect((await rename('say-hello', false)).status).toBe(200);
    expect(await findRedirect(db, site, first)).toBe(String(id));
  });
  it('many pages moved and taken back stand in the order they stood in', async () => {
    const maud = await signInAs('Maud');
    const site = await siteId();
    const cafe = await pageId('The Slipway Café');
    const order = async () =>
      (
        await db
          .select()
          .from(items)
          .where(and(eq(items.siteId, site), eq(items.parentId, await pageId('South Quay')), isNull(items.deletedAt)))
      )
        .toSorted((one, other) => one.position - other.position || one.id - other.id)
        .map(({ id }) => id);
    const before = await order();
    expect(before.length).toBeGreaterThan(1);
    const moved = await call(many, 'POST', '/x', {
      ...maud,
      body: { ids: before, bulk: { do: 'move', parent: cafe, redirect: false } },
    });
    expect(moved.status, JSON.stringify(moved.body)).toBe(200);
    expect(await order()).toEqual([]);
    const back = await call(takeBack, 'POST', '/x', { ...maud, body: { steps: moved.body['back'] } });
    expect(back.status, JSON.stringify([moved.body, back.body])).toBe(200);
    expect(await order()).toEqual(before);
  });
});

describe('pages made at once', () => {
  it('gives two of one title addresses of their own, at the top of the list and deeper', async () => {
    const parent = await pageId('Season tickets');
    const made = await call(make, 'POST', '/x', {
      ...(await signInAs('Maud')),
      body: { parent, layout: 'banner', outline: 'Twins\n\tChild\n\tChild\nTwins' },
    });
    expect(made.status, JSON.stringify(made.body)).toBe(200);
    const pages = await listPages(db, await siteId());
    const rows = await db
      .select({ id: items.id })
      .from(items)
      .where(sql`path <@ (select path from items where id = ${parent}) and id <> ${parent}`);
    const all = rows.map((row) =>
      (pages.find((page) => page.id === String(row.id))?.address ?? '').split('/').slice(-2).join('/'),
    );
    for (const one of ['twins', 'twins-2', 'twins/child', 'twins/child-2'])
      expect(all.filter((path) => path.endsWith(one))).toHaveLength(1);
  });
  it('as copies are, of what lies below, those one may make', async () => {
    const quay = await pageId('South Quay');
    // Of what lies below only what one may make there.
    await inForce(
      ...role('copier', 'page.view', 'page.create', 'page.edit'),
      {
        do: 'add-grant',
        role: 'copier',
        grant: { id: 'not', effect: 'deny', permission: 'page.create', scope: { layouts: ['plain'] } },
      },
      {
        do: 'put-tool-rule',
        role: 'copier',
        rule: { id: 'copier', when: { roles: ['copier'] }, then: { add: [...inventory.tools.keys()] } },
      },
    );
    const lie = async () =>
      (await listPages(db, await siteId())).filter(({ address }) => /^\/harbours\/south-quay\/[^/]+$/.test(address));
    await db
      .update(items)
      .set({ layout: 'banner' })
      .where(eq(items.id, Number((await lie())[0]?.id)));
    const below = await lie();
    const kept = below.filter(({ place }) => place.layout !== 'plain');
    expect([below.length, kept.length]).toEqual([2, 1]);
    const some = await call(copy, 'POST', '/x', {
      ...(await somebody('Cop', { role: 'copier' })),
      params: { id: String(quay) },
      body: { withBelow: true },
    });
    expect(some.body, JSON.stringify(some.body)).toMatchObject({ made: 1 + kept.length });
  });
});

describe('what is prepared', () => {
  it('can be dropped for what is in force, also where that names a page that is gone for good', async () => {
    const maud = await signInAs('Maud');
    const state = async () => getPlanState(db, inventory, await siteId(), { personId: maud.id, role: null });
    await inForce({
      do: 'add-grant',
      role: 'newsroom',
      grant: { id: 'lost', effect: 'allow', permission: 'page.edit', scope: { branch: '999999' } },
    });
    for (const roles of [null, ['newsroom']]) {
      const gone = await call(change, 'POST', '/x', {
        ...maud,
        body: {
          revision: (await state()).revision,
          role: 'newsroom',
          operations: [{ do: 'remove-grant', role: 'newsroom', grant: 'lost' }],
        },
      });
      expect(gone.status, JSON.stringify(gone.body)).toBe(200);
      const back = await call(drop, 'POST', '/x', { ...maud, body: { revision: (await state()).revision, roles } });
      expect(back.status, JSON.stringify(back.body)).toBe(200);
      expect((await state()).plan.roles.find(({ id }) => id === 'newsroom')?.grants.map(({ id }) => id)).toContain(
        'lost',
      );
    }
  });
});
