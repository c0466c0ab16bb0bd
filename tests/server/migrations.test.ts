import { randomBytes } from 'node:crypto';
import { cpSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { expect, inject, it } from 'vitest';
import { referencesOf, startSettings, type PageContent } from '@/core/content';
import type { Tx } from '@/server/db/client';
import { formOf } from '@/server/items/forms';
import { getLivePlan, getPlanState } from '@/server/plan/plans';
import { demo } from '../core/operations';
import { inventory } from '../inventory';

/** Migrations until what hangs on pages came to hang on items. */
const BEFORE_ITEMS = 13;
/** And until every version of a page said its settings. */
const BEFORE_SETTINGS = 16;
const ALL = join(import.meta.dirname, '../../src/server/db/migrations');

/** The first `count` migrations, in a folder of their own. */
function firstOf(count: number): string {
  const folder = mkdtempSync(join(tmpdir(), 'migrations-'));
  cpSync(ALL, folder, { recursive: true });
  const journal = JSON.parse(readFileSync(join(ALL, 'meta/_journal.json'), 'utf8')) as { entries: object[] };
  writeFileSync(
    join(folder, 'meta/_journal.json'),
    JSON.stringify({ ...journal, entries: journal.entries.slice(0, count) }),
  );
  return folder;
}

/**
 * Every column, key and index is there by the name under which the newest snapshot of the declared tables has it, and
 * no other.
 */
async function expectAsDeclared(pool: pg.Pool): Promise<void> {
  interface Snapshot {
    tables: Record<
      string,
      Record<'columns' | 'indexes' | 'foreignKeys' | 'uniqueConstraints', object> & { name: string }
    >;
  }
  const [newest = ''] = readdirSync(join(ALL, 'meta')).filter((file) => file.endsWith('_snapshot.json'));
  const { tables } = JSON.parse(readFileSync(join(ALL, 'meta', newest), 'utf8')) as Snapshot;
  const declared = Object.values(tables).flatMap((table) =>
    (['columns', 'indexes', 'foreignKeys', 'uniqueConstraints'] as const).flatMap((kind) =>
      Object.keys(table[kind]).map(
        // A unique constraint is kept by an index of its name.
        (name) => `${kind === 'uniqueConstraints' ? 'indexes' : kind} ${table.name} ${name}`,
      ),
    ),
  );
  const { rows } = await pool.query<{ what: string }>(`
    select 'columns ' || table_name || ' ' || column_name as what from information_schema.columns where table_schema = 'public'
    union all select 'foreignKeys ' || conrelid::regclass || ' ' || conname from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace
    union all select 'indexes ' || indrelid::regclass || ' ' || indexrelid::regclass from pg_index join pg_class c on c.oid = indrelid where c.relnamespace = 'public'::regnamespace and not indisprimary`);
  expect(rows.map((row) => row.what).sort()).toEqual(declared.sort());
}

it('migrations run on a database in use, one after the other, and lose nothing', async () => {
  const name = `m_${randomBytes(6).toString('hex')}`;
  const admin = new pg.Client({ connectionString: inject('adminUrl') });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const pool = new pg.Pool({ connectionString: inject('adminUrl').replace(/\/postgres$/, `/${name}`) });
  await migrate(drizzle(pool), { migrationsFolder: firstOf(2) });
  // What was in use then: a person, a page with a draft, a plan of the first form, a release of it and a change to a
  // role.
  const { apart: _, ...first } = demo;
  const [, role] = demo.roles;
  const content = { title: 'Tide tables', body: { type: 'doc', content: [] } };
  await pool.query(`insert into sites (name, time_zone) values ('Kept', 'Europe/London')`);
  await pool.query(`insert into people (site_id, name, email, password_hash) values (1, 'A', 'a@b.example', 'x')`);
  await pool.query(
    `insert into pages (site_id, path, slug, position, layout) values (1, 'new', '', 0, 'plain'); update pages set path = id::text::ltree`,
  );
  await pool.query(`insert into drafts (page_id, site_id, content, version, allowance) values (1, 1, $1, 3, '{}')`, [
    content,
  ]);
  const steps = `insert into plan_steps (site_id, operation, before, after, made_by) values (1, $1, $2, $3, 1)`;
  const operation = { do: 'name-role', role: role?.id, name: 'New', purpose: '' };
  const change = [operation, role, { ...role, name: 'New', purpose: '' }];
  await pool.query(steps, change);
  await pool.query(`insert into plans (site_id, plan, revision) values (1, $1, 7)`, [first]);
  await pool.query(`insert into releases (site_id, number, plan) values (1, 1, $1)`, [first]);
  for (let n = 3; n <= BEFORE_ITEMS; n++) await migrate(drizzle(pool), { migrationsFolder: firstOf(n) });
  // What hangs on a page: a version that is live, a look at another, work planned, notes, somebody who has it open, a
  // link to look at it.
  await pool.query(`
    insert into revisions (site_id, page_id, number, content, kind, note, made_by) values (1, 1, 1, '{"title":"Tides","page.inNavigation":true}', 'published', 'First', 1), (1, 1, 2, '{"title":"Tides of today"}', 'sent', '', 1);
    update pages set live_revision_id = 1, audience = '{"kind":"members"}';
    insert into publications (site_id, page_id, revision_id, published_by) values (1, 1, 1, 1);
    insert into reviews (site_id, page_id, revision_id, sent_by, note) values (1, 1, 2, 1, 'Look');
    insert into remarks (site_id, review_id, field, quote, text) values (1, 1, 'title', 'Tides', 'Which?');
    insert into schedules (site_id, page_id, what, due_at, made_by) values (1, 1, 'take-down', '2040-01-01', 1);
    insert into page_notes (site_id, page_id, text) values (1, 1, 'Ask the harbour');
    insert into presence (page_id, person_id, site_id) values (1, 1, 1);
    insert into preview_links (token_hash, site_id, page_id, expires_at) values ('x', 1, 1, '2040-01-01');
    insert into redirects (site_id, address, page_id) values (1, '/tide', 1);
    insert into notices (site_id, page_id, kind, text, starts_at) values (1, 1, 'warning', 'Fog', '2020-01-01');
    insert into pages (site_id, parent_id, path, slug, position, layout) values (1, 1, '1.2', 'fares', 0, 'plain');
    insert into blobs values ('abc', 'image/png', ''); insert into media (site_id, name, description, hash) values (1, 'Quay', '', 'abc'), (1, 'Quay', '', 'abc');`);
  // Links as they were kept then: by address.
  const linked = (...hrefs: string[]) => ({
    title: 'Says "href": "/fares"',
    banner: '2',
    'page.author': '1',
    booking: { href: hrefs[0], words: '' },
    body: {
      type: 'doc',
      content: [
        { type: 'picture', attrs: { id: '1' } },
        ...hrefs.map((href) => ({ type: 'text', text: 'Go', marks: [{ type: 'link', attrs: { href } }] })),
      ],
    },
  });
  const [byAddress, byName] = [
    ['/fares/?from=a#b', '/fares', '/tide', '/', '/media/abc', '/fares/none', '/search', 'https://a.example/fares'],
    ['page:2?from=a#b', 'page:2', 'page:1', 'page:1', 'picture:1', '/fares/none', '/search', 'https://a.example/fares'],
  ];
  await pool.query(`insert into revisions (site_id, page_id, number, content, kind) values (1, 1, 3, $1, 'kept')`, [
    linked(...byAddress),
  ]);
  await pool.query(`insert into drafts (page_id, site_id, content, version, allowance) values (2, 1, $1, 1, $2)`, [
    linked(...byAddress),
    { body: { bold: 1, 'link:/fares': 2, 'link:/none': 1 } },
  ]);
  const tables =
    `revisions publications reviews remarks schedules drafts presence preview_links redirects notices`.split(' ');
  const rowsOf = async (names: readonly string[]) =>
    Object.fromEntries(
      await Promise.all(
        names.map(
          async (table) =>
            [table, (await pool.query<Record<string, unknown>>(`select * from ${table} order by 1`)).rows] as const,
        ),
      ),
    );
  const before = await rowsOf([...tables, 'pages', 'page_notes']);
  for (let n = BEFORE_ITEMS + 1; n <= BEFORE_SETTINGS; n++)
    await migrate(drizzle(pool), { migrationsFolder: firstOf(n) });
  const called = (rows: Record<string, unknown>[] | undefined, table: string) =>
    rows?.map(({ page_id: page, ...row }) => ({
      ...row,
      // All that were kept then led visitors on.
      ...(table === 'redirects' && { leads: true }),
      ...(page !== undefined && { [['redirects', 'notices'].includes(table) ? 'page_id' : 'item_id']: page }),
    }));
  const after = await rowsOf([...tables, 'items', 'notes']);
  const names = new Map(byAddress.map((address, i) => [address, byName[i]]));
  const named = JSON.parse(JSON.stringify(before).replaceAll('link:/fares', 'link:page:2'), (key, value: unknown) =>
    key === 'href' && typeof value === 'string' ? (names.get(value) ?? value) : value,
  ) as typeof before;
  const plain = JSON.parse(JSON.stringify(after)) as typeof after;
  for (const table of tables) expect(plain[table], table).toEqual(called(named[table], table));
  const needed = await pool.query(
    `select field, kind, target, item_id, revision_id from item_references order by item_id, field, kind, target`,
  );
  const fields = [...formOf(inventory, { type: 'page' }).byId.values()];
  expect(needed.rows).toEqual(
    [
      [1, 3],
      [2, null],
    ].flatMap(([item, revision]) =>
      referencesOf(fields, linked(...byName) as unknown as PageContent)
        .map((one) => ({ ...one, item_id: item, revision_id: revision }))
        .sort((a, b) => {
          const [x, y] = [a, b].map((one) => `${one.field} ${one.kind} ${one.target}`);
          return (x ?? '') < (y ?? '') ? -1 : 1;
        }),
    ),
  );
  expect(after['notes']).toEqual(called(before['page_notes'], 'notes'));
  expect(after['items']).toEqual(before['pages']?.map((row) => ({ ...row, type: 'page' })));
  // Settings that were changed beside any words: the version in force says them from now on, and is one of its own.
  await pool.query(`update items set in_navigation = false, short_name = 'Tides', author_id = 1 where id = 1`);
  const contents = async (where: string) =>
    (
      await pool.query<{ content: PageContent }>(
        `select content from revisions r join items i on i.id = item_id where ${where} order by r.id`,
      )
    ).rows.map((row) => row.content);
  const said = await contents('true');
  const db = drizzle(pool, { casing: 'snake_case' });
  await migrate(db, { migrationsFolder: ALL });
  await expectAsDeclared(pool);
  expect((await pool.query('select name, demo, languages from sites')).rows).toEqual([
    { name: 'Kept', demo: false, languages: ['en'] },
  ]);
  expect(
    (
      await pool.query(
        'select email, password_hash, wrong_tries from people join accounts on accounts.id = account_id order by people.id',
      )
    ).rows,
  ).toEqual([{ email: 'a@b.example', password_hash: 'x', wrong_tries: 0 }]);
  const inForce = {
    ...startSettings({ layout: 'plain', slug: '', author: '1', language: 'en', inNavigation: false }),
    'page.shortName': 'Tides',
  };
  expect((await pool.query('select content, version from drafts where item_id = 1')).rows).toEqual([
    { content: { ...inForce, ...content }, version: 3 },
  ]);
  expect(await contents(`kind <> 'adjusted'`)).toEqual(said.map((one) => ({ ...inForce, ...one })));
  expect(await contents('r.id = live_revision_id')).toEqual([{ ...inForce, title: 'Tides' }]);
  expect(
    (await pool.query(`select revision_id = live_revision_id as live from publications join items i on i.id = item_id`))
      .rows,
  ).toEqual([{ live: false }, { live: true }]);
  // From here on nothing is rewritten: the same forms once more, as no migration has seen them.
  await pool.query(steps, change);
  const release = await pool.query<{ id: number }>(
    `insert into releases (site_id, number, plan) values (1, 2, $1) returning id`,
    [first],
  );
  const tx = db as unknown as Tx;
  const whole = { ...demo, apart: [] };
  for (const id of [1, release.rows[0]?.id ?? 0])
    expect(await getLivePlan(tx, { id: 1, liveReleaseId: id })).toEqual(whole);
  const state = await getPlanState(tx, inventory, 1, { personId: 1, role: role?.id ?? '' });
  expect([state.plan, state.revision, state.recent.length]).toEqual([whole, 7, 2]);
  expect(state.undo?.words).toBe('Role called “New”');
  expect((await pool.query('select plan ? $1 as has from releases order by id', ['apart'])).rows).toEqual([
    { has: true },
    { has: false },
  ]);
  await pool.end();
});
