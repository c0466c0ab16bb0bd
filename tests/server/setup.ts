import { randomBytes } from 'node:crypto';
import { afterAll, inject } from 'vitest';
import { copyDemo } from './cluster';

// Each file has a database of its own. The environment is set before anything of the server is loaded.
process.env['DATABASE_URL'] = await copyDemo(inject('adminUrl'), `t_${randomBytes(6).toString('hex')}`);
process.env['LOG_LEVEL'] = 'silent';
afterAll(async () => {
  const { pool } = await import('@/server/db/client');
  await pool.end();
});
