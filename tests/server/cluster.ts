import { spawnSync } from 'node:child_process';
import { mkdtempSync, chmodSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { appUrl, startCluster, stopCluster } from '../../scripts/cluster';

export interface TestCluster {
  data: string;
  /** URL of a database in it. */
  url: (database: string) => string;
  stop: () => void;
}

/** A PostgreSQL cluster for one run of the tests, with the demo in `template_demo` to copy from. */
export async function makeTestCluster(fast = true): Promise<TestCluster> {
  const data = mkdtempSync(join(tmpdir(), 'safe-room-'));
  chmodSync(data, 0o755);
  const cluster = await startCluster(data, () => undefined, fast);
  const url = (database: string) => cluster.url.replace(/\/postgres$/, `/${database}`);
  const made = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/database.ts'], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: url('template_demo'), LOG_LEVEL: 'silent' },
  });
  if (made.status !== 0) throw new Error(made.stderr);
  return {
    data,
    url,
    stop: () => {
      stopCluster(data);
      rmSync(data, { recursive: true, force: true });
    },
  };
}

/** A database of its own, as the demo is at first; gives its URL, as the application's own role. */
export async function copyDemo(adminUrl: string, name: string): Promise<string> {
  const admin = new pg.Client({ connectionString: adminUrl });
  await admin.connect();
  await admin.query(`create database "${name}" template template_demo`);
  await admin.end();
  return appUrl(adminUrl.replace(/\/postgres$/, `/${name}`));
}
