// Brings the database named by DATABASE_URL (as its owner) up to date: creates it where it is missing, migrates, says
// what the
// application's own role may do, loads first data.
// usage: tsx scripts/database.ts [--no-demo]    prints one JSON line: {"fresh":bool,"demo":bool,"token"?:string}
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { isKeyholderThere, makeSetupToken } from '../src/server/gate/set-up';
import { seedDemo, seedEmpty } from '../src/demo/seed';
import { findSite } from '../src/server/gate/access';
import { db, pool } from '../src/server/db/client';
import { APP_ROLE, appUrl } from './cluster';

/**
 * The application reads and writes; it may alter no table, and neither change nor remove what is only ever added to.
 */
async function grant(): Promise<void> {
  const password = new URL(appUrl(url.toString())).password;
  const there = await pool.query('select 1 from pg_roles where rolname = $1', [APP_ROLE]);
  // Two databases of one cluster may be made at once.
  await pool
    .query(`${there.rowCount ? 'alter' : 'create'} role ${APP_ROLE} login password '${password}'`)
    .catch((error: { code?: string }) => {
      if (error.code !== '42710' && error.code !== 'XX000') throw error;
    });
  await pool.query(`
    revoke create on schema public from public;
    grant usage on schema public to ${APP_ROLE};
    grant select, insert, update, delete on all tables in schema public to ${APP_ROLE};
    grant usage on all sequences in schema public to ${APP_ROLE};
    revoke update, delete, truncate on revisions, publications, releases, activity from ${APP_ROLE};`);
}

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
await grant();
let site = await findSite(db);
const fresh = !site;
if (!site) {
  await (process.argv.includes('--no-demo') ? seedEmpty(db, new Date()) : seedDemo(db, new Date()));
  site = await findSite(db);
}
const token = site && !(await isKeyholderThere(db, site.id)) ? await makeSetupToken(db, site.id) : undefined;
console.log(JSON.stringify({ fresh, demo: site?.demo ?? false, token }));
await pool.end();
