// Brings the database named by DATABASE_URL up to date: creates it where it is missing, migrates, loads first data.
// usage: tsx scripts/database.ts [--no-demo]    prints one JSON line: {"fresh":bool,"demo":bool,"token"?:string}
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { isKeyholderThere, makeSetupToken } from '../src/server/gate/set-up';
import { seedDemo, seedEmpty } from '../src/demo/seed';
import { findSite } from '../src/server/gate/access';
import { db, pool } from '../src/server/db/client';

const url = new URL(process.env['DATABASE_URL'] ?? '');
const name = url.pathname.slice(1);
if (name !== 'postgres') {
  const admin = new pg.Client({ connectionString: Object.assign(new URL(url), { pathname: '/postgres' }).toString() });
  await admin.connect();
  const there = await admin.query('select 1 from pg_database where datname = $1', [name]);
  if (there.rowCount === 0) await admin.query(`create database "${name.replaceAll('"', '')}"`);
  await admin.end();
}
await migrate(drizzle(pool), { migrationsFolder: new URL('../src/server/db/migrations', import.meta.url).pathname });
let site = await findSite(db);
const fresh = !site;
if (!site) {
  await (process.argv.includes('--no-demo') ? seedEmpty(db, new Date()) : seedDemo(db, new Date()));
  site = await findSite(db);
}
const token = site && !(await isKeyholderThere(db, site.id)) ? await makeSetupToken(db, site.id) : undefined;
console.log(JSON.stringify({ fresh, demo: site?.demo ?? false, token }));
await pool.end();
