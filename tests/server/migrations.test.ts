import { randomBytes } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { expect, inject, it } from 'vitest';

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
  const steps = (JSON.parse(readFileSync(join(ALL, 'meta/_journal.json'), 'utf8')) as { entries: object[] }).entries
    .length;
  await migrate(drizzle(pool), { migrationsFolder: firstOf(2) });
  await pool.query(`insert into sites (name, time_zone) values ('Kept', 'Europe/London')`);
  for (let count = 3; count <= steps; count++) await migrate(drizzle(pool), { migrationsFolder: firstOf(count) });
  await migrate(drizzle(pool), { migrationsFolder: ALL });
  expect((await pool.query('select name, demo from sites')).rows).toEqual([{ name: 'Kept', demo: false }]);
  await pool.end();
});
