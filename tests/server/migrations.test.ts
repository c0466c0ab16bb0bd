import { randomBytes } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { expect, inject, it } from 'vitest';
import type { Tx } from '@/server/db/client';
import { getLivePlan, getPlanState } from '@/server/plan/plans';
import { demo } from '../core/operations';

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

it('migrations run on a database in use, one after the other, and lose nothing', async () => {
  const name = `m_${randomBytes(6).toString('hex')}`;
  const admin = new pg.Client({ connectionString: inject('adminUrl') });
  await admin.connect();
  await admin.query(`create database ${name}`);
  await admin.end();
  const pool = new pg.Pool({ connectionString: inject('adminUrl').replace(/\/postgres$/, `/${name}`) });
  const count = (JSON.parse(readFileSync(join(ALL, 'meta/_journal.json'), 'utf8')) as { entries: object[] }).entries
    .length;
  await migrate(drizzle(pool), { migrationsFolder: firstOf(2) });
  // What was in use then: a person, a page with a draft, a plan of the first form, a release of it and a change to a role.
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
  for (let n = 3; n <= count; n++) await migrate(drizzle(pool), { migrationsFolder: firstOf(n) });
  const db = drizzle(pool, { casing: 'snake_case' });
  await migrate(db, { migrationsFolder: ALL });
  expect((await pool.query('select name, demo from sites')).rows).toEqual([{ name: 'Kept', demo: false }]);
  expect((await pool.query('select content, version from drafts')).rows).toEqual([{ content, version: 3 }]);
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
  const state = await getPlanState(tx, 1, { personId: 1, role: role?.id ?? '' });
  expect([state.plan, state.revision, state.recent.length]).toEqual([whole, 7, 2]);
  expect(state.undo?.words).toBe('Role called “New”');
  expect((await pool.query('select plan ? $1 as has from releases order by id', ['apart'])).rows).toEqual([
    { has: true },
    { has: false },
  ]);
  await pool.end();
});
