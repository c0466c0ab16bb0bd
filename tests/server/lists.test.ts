import { eq, sql } from 'drizzle-orm';
import type { PageContent } from '@/core/content';
import { describe, expect, it } from 'vitest';
import { listActivity, record } from '@/server/activity/activity';
import { beginTree } from '@/server/pages/listing';
import { findTargets, findTargetsBelow } from '@/server/tree/search';
import { addRevision } from '@/server/items/drafts';
import { mustFindItem } from '@/server/items/items';
import { listUnfinished } from '@/server/items/unfinished';
import { findLiveContents, listPages, rootPageId } from '@/server/tree/tree';
import { db } from '@/server/db/client';
import { activity, items } from '@/server/db/schema';
import { withSecurityHeaders } from '@/server/gate/headers';
import { authorizeSomewhere } from '@/server/gate/authorize';
import { Problem } from '@/server/gate/problems';
import { changesBetween, summarizeRoles } from '@/server/plan/overview';
import { getLivePlan, getPreparedPlan } from '@/server/plan/plans';
import { listPeople } from '@/server/people/people';
import { GET as getMedia } from '@/pages/media/[hash]';
import { findPictureUse } from '@/server/items/references';
import { listPictures } from '@/server/pictures/pictures';
import { accessOf, pageId, siteId } from './ask';
import { inventory } from '../inventory';

describe('the page tree', () => {
  it('comes parents first, with addresses, states and when it was last published', async () => {
    const pages = await listPages(db, await siteId());
    expect(pages).toHaveLength(22);
    for (const [i, page] of pages.entries())
      if (page.parent) expect(pages.findIndex((p) => p.id === page.parent)).toBeLessThan(i);
    const by = (address: string) => pages.find((p) => p.address === address);
    expect(by('/harbours/south-quay/parking')).toMatchObject({
      title: 'Parking at South Quay',
      shortName: 'Parking',
      place: { state: 'draft', layout: 'plain' },
    });
    expect(by('/harbours/skell-island/getting-around')?.place.state).toBe('waiting');
    expect(by('/fares')?.place.state).toBe('published');
    expect(by('/')?.place.path).toEqual([String(await rootPageId(db, await siteId()))]);
    for (const page of pages) expect(page.publishedAt).toBeInstanceOf(Date);
  });

  it('gives what a link can lead to: by words, changed last, and branch by branch; never what visitors do not see', async () => {
    const site = await accessOf('Maud');
    const cafe = { id: String(await pageId('The Slipway Café')), title: 'Café', address: '/cafe', below: true };
    expect(await findTargets(db, site, 'cafe', 50)).toContainEqual(cafe);
    expect(await findTargets(db, site, '', 2)).toHaveLength(2);
    const top = await findTargetsBelow(db, site, null);
    expect(top).toMatchObject([{ address: '/', below: true }]);
    const first = await findTargetsBelow(db, site, Number(top[0]?.id));
    expect(first).toContainEqual(cafe);
    // As they stand in the tree, whichever was made first.
    const stood = new Map(
      (await db.select({ id: items.id, position: items.position }).from(items)).map((row) => [
        String(row.id),
        row.position,
      ]),
    );
    const last = first.at(-1)?.id ?? '';
    await db
      .transaction(async (tx) => {
        await tx
          .update(items)
          .set({ position: -1 })
          .where(eq(items.id, Number(last)));
        const moved = await findTargetsBelow(tx, site, Number(top[0]?.id));
        expect(moved.map(({ id }) => id)).toEqual([last, ...first.slice(0, -1).map(({ id }) => id)]);
        throw new Error('taken back');
      })
      .catch((error: unknown) => expect(String(error)).toContain('taken back'));
    expect(first.map(({ id }) => stood.get(id))).toEqual(
      [...first.map(({ id }) => stood.get(id))].sort((a, b) => (a ?? 0) - (b ?? 0)),
    );
    expect(await findTargetsBelow(db, site, Number(cafe.id))).toMatchObject([{ address: '/cafe/menu', below: false }]);
    // A page that was never published is no place to go; one that is down stands there without an address while
    // something below it is live.
    await db
      .transaction(async (tx) => {
        await tx
          .update(items)
          .set({ liveRevisionId: null, downRevisionId: sql`live_revision_id` })
          .where(eq(items.id, Number(cafe.id)));
        expect(await findTargetsBelow(tx, site, Number(top[0]?.id))).toContainEqual({ ...cafe, address: null });
        await tx
          .update(items)
          .set({ liveRevisionId: null })
          .where(sql`path <@ (select path from items where id = ${cafe.id}) and id <> ${cafe.id}`);
        expect((await findTargetsBelow(tx, site, Number(top[0]?.id))).map((target) => target.id)).not.toContain(
          cafe.id,
        );
        throw new Error('undone');
      })
      .catch((error: unknown) => expect(error).toEqual(new Error('undone')));
  });

  it('is shown to each person as far as they may see it', async () => {
    const seen = async (first: string) => (await beginTree(db, await accessOf(first))).pages;
    const ines = await seen('Ines');
    expect(ines.map((p) => p.title)).toEqual([
      'Harbours',
      'South Quay',
      'Parking',
      'Lost and found',
      'Skell Island',
      'Getting around',
      'Port Ennis',
      'Left luggage',
    ]);
    expect(ines.every((p) => p.may.edit)).toBe(true);
    const priya = await seen('Priya');
    expect(priya).toHaveLength(22);
    expect(priya.some((p) => p.may.edit)).toBe(false);
    expect(await seen('Sam')).toEqual([]);
    expect((await seen('Oskar')).filter((p) => p.may.edit).map((p) => p.title)).toEqual(['Café', 'Menu']);
  });

  it('gives what visitors see of several pages at once', async () => {
    const ids = [String(await pageId('Fares')), String(await pageId('Jobs'))];
    expect([...(await findLiveContents(db, ids)).values()].map((c) => c['title']).sort()).toEqual(['Fares', 'Jobs']);
    expect(await findLiveContents(db, [])).toEqual(new Map());
  });
});

describe('screens that list', () => {
  it('open where the permission is held somewhere, and say where when it is not', async () => {
    await expect(authorizeSomewhere(db, await accessOf('Ines'), 'page.view')).resolves.toBeUndefined();
    await expect(authorizeSomewhere(db, await accessOf('Oskar'), 'notice.post')).resolves.toBeUndefined();
    const refused = await authorizeSomewhere(db, await accessOf('Lotte'), 'review.view').catch(
      (error: unknown) => error,
    );
    expect(refused).toBeInstanceOf(Problem);
    expect(refused).toMatchObject({
      kind: 'refused',
      detail:
        'Your room does not include this: you may not see what waits for a second look. Ask Maud Ellery if you need to.',
    });
  });
});

describe('unfinished work and activity', () => {
  it('lists a person’s own drafts and what they sent', async () => {
    const of = async (first: string) =>
      (await listUnfinished(db, await accessOf(first))).map((u) => [u.title, u.state, u.mayPublish]);
    // Ines writes and sends, others publish; what was sent waits for somebody else.
    expect(await of('Ines')).toEqual([['Parking at South Quay', 'draft', false]]);
    expect(await of('Tomas')).toEqual([['Getting around on Skell', 'waiting', false]]);
    expect(await of('Juno')).toEqual([['Electrician for the chargers', 'draft', true]]);
    expect(await of('Priya')).toEqual([]);
  });

  it('lists what was done, newest first, cut where it is endless', async () => {
    const access = await accessOf('Maud');
    await record(db, access, 'tried', 'x'.repeat(1000), { detail: 'y'.repeat(1000) });
    const [newest, ...rest] = await listActivity(db, access.site.id, 3);
    expect(newest).toMatchObject({ who: 'Maud Ellery', action: 'tried' });
    expect([newest?.subject.length, newest?.detail.length, rest.length]).toEqual([300, 500, 2]);
    // From an instant on, to before another.
    const at = new Date('2031-05-01T00:00:00Z');
    await db
      .insert(activity)
      .values({ siteId: access.site.id, personId: access.signedInId, action: 'at an hour', subject: 'x', at });
    const tried = async (from: Date, until: Date) =>
      (await listActivity(db, access.site.id, 50, { action: 'at an hour', from, until })).length;
    const [before, later] = [new Date(at.getTime() - 1), new Date(at.getTime() + 1)];
    expect([await tried(at, later), await tried(before, at)]).toEqual([1, 0]);
  });
});

describe('the overview of roles', () => {
  it('says of each role who holds it and how its room stands', async () => {
    const site = (await accessOf('Maud')).site;
    const [plan, people, pages] = [
      await getLivePlan(db, site),
      await listPeople(db, site.id),
      await listPages(db, site.id),
    ];
    const roles = summarizeRoles(inventory, plan, plan, people, pages);
    expect(roles.map((r) => [r.id, r.people.length, `${r.figures.tasksThatCan}/${r.figures.tasks}`])).toEqual([
      ['keyholder', 1, '6/6'],
      ['front-line', 0, '2/2'],
      ['harbour-desk', 2, '5/6'],
      ['second-look', 1, '2/2'],
      ['cafe-manager', 1, '3/3'],
      ['picture-keeper', 1, '1/1'],
      ['newsroom', 1, '5/5'],
      ['seasonal-helper', 1, '1/1'],
    ]);
    expect(roles.every((r) => !r.changed)).toBe(true);
  });

  it('counts a change of a role for everybody whose role builds on it', async () => {
    const site = (await accessOf('Maud')).site;
    const { plan } = await getPreparedPlan(db, site.id);
    const next = {
      ...plan,
      roles: plan.roles.map((r) =>
        r.id === 'front-line' ? { ...r, grants: r.grants.filter((g) => g.permission !== 'notice.post') } : r,
      ),
    };
    const change = changesBetween(inventory, plan, next, await listPeople(db, site.id), await listPages(db, site.id));
    expect(change.roles.map((role) => [role.role, role.lines, role.people.map((p) => p.name)])).toEqual([
      ['front-line', ['They may no longer post notices.'], ['Ines Varga', 'Sam Ollis', 'Tomas Reed']],
    ]);
    expect(change.people.map((p) => [p.name, p.effects.filter((e) => e.kind === 'loss').map((e) => e.words)])).toEqual(
      ['Ines Varga', 'Sam Ollis', 'Tomas Reed'].map((name) => [
        name,
        ['“Post a sailing notice” can no longer be done.', 'May no longer post notices, on the whole website.'],
      ]),
    );
  });
});

describe('what leaves the server', () => {
  it('carries a policy that lets no inline script run, whatever it came with', () => {
    const html = withSecurityHeaders(
      new Response('', {
        headers: {
          'content-type': 'text/html',
          'content-security-policy': "script-src 'self' 'sha256-abc'; style-src 'self'",
        },
      }),
      true,
    );
    const policy = html.headers.get('content-security-policy') ?? '';
    expect(policy).toContain("script-src 'self' 'sha256-abc'");
    expect(policy).toContain("default-src 'self'");
    expect(html.headers.get('cache-control')).toBe('no-store');
    const bare = withSecurityHeaders(new Response('', { headers: { 'content-type': 'text/html' } }), false);
    expect(bare.headers.get('content-security-policy')).toMatch(/script-src 'self'$/);
    expect([bare.headers.get('x-content-type-options'), bare.headers.get('cache-control')]).toEqual(['nosniff', null]);
  });

  it('knows where a picture is seen: at the top, in a text, in a piece, and not where it only was', async () => {
    const [banner = '', inText = '', inPiece = ''] = (await listPictures(db, await siteId())).map(({ id }) => id);
    const jobs = await pageId('Jobs');
    const before = await findPictureUse(db, inventory, await siteId());
    const content = {
      title: 'Jobs',
      banner,
      body: { type: 'doc', content: [{ type: 'blockquote', content: [{ type: 'picture', attrs: { id: inText } }] }] },
      pieces: [{ id: 'p', region: 'main', heading: '', text: { type: 'doc', content: [] }, picture: inPiece }],
    };
    const item = await mustFindItem(db, await siteId(), jobs);
    const made = await addRevision(
      db,
      { inventory, signedInId: 1 },
      item,
      content as unknown as PageContent,
      'published',
      '',
      { writers: [] },
    );
    await db.update(items).set({ liveRevisionId: made }).where(eq(items.id, jobs));
    const after = await findPictureUse(db, inventory, await siteId());
    const isOn = (use: typeof before, picture: string) => use.get(picture)?.some((page) => page.page === String(jobs));
    for (const picture of [banner, inText, inPiece])
      expect([isOn(before, picture) ?? false, isOn(after, picture)]).toEqual([false, true]);
    expect(after.get(inText)?.find((page) => page.page === String(jobs))?.title).toBe('Jobs');
    await db.execute(sql`update items set live_revision_id = null where id = ${jobs}`);
    expect(isOn(await findPictureUse(db, inventory, await siteId()), inText) ?? false).toBe(false);
  });

  it('shows drawings in a sandbox, to be kept for good, and says when there is none', async () => {
    const [picture] = await listPictures(db, await siteId());
    const ask = (hash: string) =>
      getMedia({ params: { hash }, request: new Request('http://127.0.0.1/x') } as unknown as Parameters<
        typeof getMedia
      >[0]);
    const drawing = await ask(picture?.url.split('/').at(-1) ?? '');
    expect(drawing.headers.get('content-security-policy')).toBe(
      "default-src 'none'; style-src 'unsafe-inline'; sandbox",
    );
    expect(drawing.headers.get('cache-control')).toContain('immutable');
    expect((await drawing.text()).startsWith('<svg')).toBe(true);
    expect((await ask('0'.repeat(64))).status).toBe(404);
  });

  // RFC 9457, section 3: members type, title, status, detail; media type application/problem+json.
  it('tells a problem in the form of RFC 9457', async () => {
    const response = new Problem('tried-too-often', { minutes: '1 minute' }, { seconds: 60 }).toResponse({
      'retry-after': '60',
    });
    expect([response.status, response.headers.get('content-type'), response.headers.get('retry-after')]).toEqual([
      429,
      'application/problem+json; charset=utf-8',
      '60',
    ]);
    expect(await response.json()).toEqual({
      type: '/problems/tried-too-often',
      title: 'Too many tries',
      status: 429,
      detail: 'That was tried too often. Wait 1 minute, or ask the keyholder for a new password.',
      kind: 'too-many',
      code: 'tried-too-often',
      seconds: 60,
    });
  });
});
