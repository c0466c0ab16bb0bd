import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { config } from '../config';
import { log } from '../log';
import * as schema from './schema';

/** As many as all shares of requests together ask for (`gate/lanes.ts`), and what runs beside them. */
const MOST_CONNECTIONS = 24;

export const pool = new pg.Pool({
  connectionString: config.DATABASE_URL,
  max: MOST_CONNECTIONS,
  connectionTimeoutMillis: 10_000,
  idleTimeoutMillis: 30_000,
});
// A connection that breaks (PostgreSQL restarted) is replaced by the pool; without a listener it would end the process.
// The pool itself
// listens to idle ones only: one that breaks between two queries of a transaction tells nobody else.
const lost = (error: Error) => log.warn({ code: (error as { code?: string }).code }, 'a database connection was lost');
pool.on('error', lost);
pool.on('connect', (client) => void client.on('error', lost));

export const db = drizzle(pool, { schema, casing: 'snake_case' });
export type Db = NodePgDatabase<typeof schema>;
/** Either the pool or a transaction: what queries run on. */
export type Tx = Pick<
  Db,
  'select' | 'selectDistinct' | 'selectDistinctOn' | 'insert' | 'update' | 'delete' | 'execute' | 'transaction'
>;

/** PostgreSQL error code behind an error of Drizzle's, if any. */
export function pgCode(error: unknown): string | undefined {
  for (let e = error as { code?: unknown; cause?: unknown } | undefined; e; e = e.cause as typeof e)
    if (typeof e.code === 'string') return e.code;
  return undefined;
}

const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ENOENT',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
  '08000',
  '08001',
  '08003',
  '08006',
]);

/** Whether an error means that all connections are in use, and have been for long. */
export const isPoolFull = (error: unknown): boolean =>
  pgCode(error) === undefined &&
  pool.totalCount >= MOST_CONNECTIONS &&
  messagesOf(error).some((message) => /timeout exceeded when trying to connect/.test(message));

/** Whether an error means that PostgreSQL cannot be reached at this moment. */
export function isDatabaseAway(error: unknown): boolean {
  const code = pgCode(error);
  if (code) return AWAY.has(code);
  return messagesOf(error).some((message) =>
    /Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/.test(
      message,
    ),
  );
}

function messagesOf(error: unknown): string[] {
  const out: string[] = [];
  for (let e = error as { message?: string; cause?: unknown } | undefined; e; e = e.cause as typeof e)
    out.push(e.message ?? '');
  return out;
}
