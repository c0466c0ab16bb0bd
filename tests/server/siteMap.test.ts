import { eq, sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import { db, type Tx } from '@/server/db/client';
import { tryOut } from '@/server/db/tryOut';
import { drafts, items } from '@/server/db/schema';
import { keptByChanges, type PageRow } from '@/server/tree/siteMap';
import { findSite } from '@/server/gate/access';
import { findAllPlaced, listPages } from '@/server/tree/tree';

// What is kept of all pages is compared with what is read anew, after every kind of change and while others are under
// way.
let site = 0;
const ids = new Map<string, number>();
const sorted = (rows: Iterable<PageRow>) => [...rows].sort((a, b) => a.id - b.id);
let worked = 0;
const kept = keptByChanges((rows) => {
  worked++;
  return sorted(rows);
});
const anew = (tx: Tx = db) => keptByChanges(sorted)(tx, site);
const isRight = async (tx: Tx = db) => expect(await kept(tx, site)).toEqual(await anew(tx));
const id = (slug: string) => ids.get(slug) ?? 0;
const rename = (tx: Tx, slug: string, name: string) =>
  tx
    .update(items)
    .set({ shortName: name })
    .where(eq(items.id, id(slug)));

beforeAll(async () => {
  site = (await findSite(db))?.id ?? 0;
  for (const row of await db.select({ id: items.id, slug: items.slug }).from(items)) ids.set(row.slug, row.id);
});

describe('what is kept of all pages', () => {
  it.each([
    ['a page is renamed', sql`update items set short_name = 'Quay' where slug = 'south-quay'`],
    ['a page is deleted', sql`update items set deleted_at = now() where slug = 'jobs'`],
    ['a page comes back', sql`update items set deleted_at = null where slug = 'jobs'`],
    ['a page is moved', sql`update items set position = 40 where slug = 'fares'`],
    [
      'a draft is begun',
      sql`insert into drafts (item_id, site_id, content, version) select id, site_id, '{"title":"Begun"}', 1 from items where slug = 'fares'`,
    ],
    [
      'a draft has another title',
      sql`update drafts set content = '{"title":"Other"}' where content->>'title' = 'Begun'`,
    ],
    [
      'a draft is sent',
      sql`insert into reviews (site_id, item_id, revision_id, sent_by, note) select site_id, id, live_revision_id, 1, '' from items where slug = 'fares'`,
    ],
    [
      'it is decided on',
      sql`update reviews set outcome = 'replaced' where item_id = (select id from items where slug = 'fares')`,
    ],
    ['the draft is dropped', sql`delete from drafts where content->>'title' = 'Other'`],
    [
      'a page is published again',
      sql`insert into publications (site_id, item_id, revision_id) select site_id, id, live_revision_id from items where slug = 'fares'`,
    ],
    [
      'it is taken down',
      sql`update items set down_revision_id = live_revision_id, live_revision_id = null where slug = 'fares'`,
    ],
    ['members only may visit it', sql`update items set audience = '{"kind":"members"}' where slug = 'harbours'`],
  ])('is right after %s', async (_, change) => {
    await kept(db, site);
    const before = worked;
    await db.execute(change);
    await isRight();
    expect(worked).toBe(before + 1);
  });
  it('is worked out once while nothing changes', async () => {
    const whole = await kept(db, site);
    const before = worked;
    await db.update(drafts).set({ updatedAt: new Date() });
    for (let i = 0; i < 3; i++) expect(await kept(db, site)).toBe(whole);
    expect(worked).toBe(before);
  });
  it('shows a transaction its own changes, and nobody else, also when they are taken back', async () => {
    const name = (rows: readonly PageRow[]) => rows.find((row) => row.id === id('about'))?.shortName;
    const was = name(await kept(db, site));
    await expect(
      db.transaction(async (tx) => {
        await rename(tx, 'about', 'Never');
        expect(name(await kept(tx, site))).toBe('Never');
        await isRight(tx);
        expect(name(await kept(db, site))).toBe(was);
        throw new Error('taken back');
      }),
    ).rejects.toThrow('taken back');
    expect(name(await kept(db, site))).toBe(was);
    await db.transaction(async (tx) => {
      await tryOut(tx, async (inner) => {
        await rename(inner, 'about', 'Tried');
        expect(name(await kept(inner, site))).toBe('Tried');
      });
      expect(name(await kept(tx, site))).toBe(was);
    });
    await isRight();
  });
  it('is right when what was begun first is finished last', async () => {
    let finish: () => void = () => undefined;
    const wait = new Promise<void>((done) => (finish = done));
    let begun: () => void = () => undefined;
    const isBegun = new Promise<void>((done) => (begun = done));
    const slow = db.transaction(async (tx) => {
      await rename(tx, 'cafe', 'Slow');
      begun();
      await wait;
    });
    await isBegun;
    await rename(db, 'menu', 'Quick');
    await isRight();
    finish();
    await slow;
    await isRight();
    expect((await kept(db, site)).find((row) => row.id === id('cafe'))?.shortName).toBe('Slow');
  });
  it('is right after many changes at once, and after the notes of old ones are gone', async () => {
    for (let n = 0; n < 40; n++) await db.execute(sql`update items set position = position`);
    await isRight();
    await db.execute(sql`delete from page_changes`);
    await isRight();
    await rename(db, 'cafe', 'After');
    await isRight();
  });
});

describe('where pages lie', () => {
  it('is the same of all together as of each asked for alone, also below one that is for some only', async () => {
    await db.execute(sql`update items set audience = '{"kind":"members"}' where slug = 'harbours'`);
    await db.execute(sql`update items set audience = '{"kind":"everyone"}' where slug = 'port-ennis'`);
    const pages = await listPages(db, site);
    const alone = await findAllPlaced(
      db,
      site,
      pages.map((page) => Number(page.id)),
    );
    expect(pages.map(({ place }) => place)).toEqual(pages.map((page) => alone.get(Number(page.id))?.place));
    const audienceOf = (slug: string) => pages.find((page) => page.slug === slug)?.place.audience?.kind;
    expect(['south-quay', 'parking', 'port-ennis', 'fares'].map(audienceOf)).toEqual([
      'members',
      'members',
      'everyone',
      undefined,
    ]);
  });
});
