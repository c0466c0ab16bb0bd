import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { createInterface } from 'node:readline';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { restartCluster, stopCluster } from '../../scripts/cluster';
import { copyDemo, makeTestCluster, type TestCluster } from '../server/cluster';

const SEED = 20261125;
const KILLS = 30;
/** Numbers from 0 to 1, the same each time (mulberry32, T. Ettinger, public domain; value from memory). */
function randomFrom(seed: number) {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

let cluster: TestCluster;
let url = '';
beforeAll(async () => {
  cluster = await makeTestCluster(false);
  url = await copyDemo(cluster.url('postgres'), `kill_${randomBytes(4).toString('hex')}`);
});
afterAll(() => cluster.stop());

async function ask<T extends object>(sql: string): Promise<T[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query<T>(sql)).rows;
  } finally {
    await client.end();
  }
}

interface Worker { process: ChildProcess; lines: string[]; go: () => void; /** Resolves when it has said so many lines since it began. */ said: (count: number) => Promise<void> }

/** A process that will save, publish, move, change many, delete and restore without end once it is told to go; resolves when it is there. */
async function startWorker(pages: number[][]): Promise<Worker> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'tests/kills/worker.ts'], { stdio: ['pipe', 'pipe', 'ignore'], env: { ...process.env, DATABASE_URL: url, LOG_LEVEL: 'silent', KILL_PAGES: JSON.stringify(pages) } });
  const worker: Worker = { process: child, lines: [], go: () => child.stdin?.write('go\n'), said: () => Promise.resolve() };
  let waiting: { count: number; go: () => void } | null = null;
  const tell = () => {
    if (waiting && worker.lines.length >= waiting.count) waiting.go();
  };
  createInterface({ input: child.stdout ?? process.stdin }).on('line', (line) => {
    worker.lines.push(line);
    tell();
  });
  worker.said = (count) => new Promise((go, fail) => {
    waiting = { count, go };
    child.once('exit', () => fail(new Error(`it ended by itself: ${worker.lines.at(-1)}`)));
    tell();
  });
  await worker.said(1);
  return worker;
}
/** Lets it do some of its steps, and a moment of the next one. */
async function workAWhile(worker: Worker, random: () => number): Promise<void> {
  worker.go();
  await worker.said(2 + Math.floor(random() * 12));
  await new Promise((go) => setTimeout(go, random() * 8));
}
const isGone = (child: ChildProcess) => new Promise<void>((gone) => (child.exitCode !== null || child.signalCode !== null ? gone() : child.once('exit', () => gone())));

/** What must hold whatever was cut off: every transaction is there whole or not at all. */
async function mustBeWhole(when: string): Promise<void> {
  // Publishing: what visitors see is the newest publication, and its content is that revision's.
  expect(await ask(`select p.id from pages p where p.live_revision_id is distinct from (select revision_id from publications q where q.page_id = p.id order by q.id desc limit 1) and p.down_revision_id is null`), `${when}: live version and publication differ`).toEqual([]);
  // Saving and publishing: a draft is there or it was taken, never both of the same words.
  expect(await ask(`select d.page_id from drafts d join pages p on p.id = d.page_id join revisions r on r.id = p.live_revision_id where d.content->>'summary' = r.content->>'summary' and d.content->>'summary' like 'Summary %'`), `${when}: published, and a draft still`).toEqual([]);
  // Moving: every path is that of the page above and its own id; places among neighbours are told apart.
  expect(await ask(`select p.id from pages p left join pages u on u.id = p.parent_id where p.path::text <> coalesce(u.path::text || '.', '') || p.id`), `${when}: a path that is not its parent's`).toEqual([]);
  expect(await ask(`select parent_id from pages where deleted_at is null and parent_id is not null group by parent_id, position having count(*) > 1`), `${when}: two pages in one place`).toEqual([]);
  // Many at once: all of them or none.
  expect((await ask<{ n: number }>(`select count(distinct in_navigation)::int as n from pages where id in (${ids.join()})`))[0]?.n, `${when}: half of many`).toBe(1);
  // Deleting and restoring: what lies below a deleted page is deleted with it.
  expect(await ask(`select p.id from pages p join pages u on u.id = p.parent_id where u.deleted_at is not null and p.deleted_at is distinct from u.deleted_at`), `${when}: half a branch deleted`).toEqual([]);
  // Each thing done has its line in the activity, in the same transaction.
  expect(await ask(`select q.id from publications q where q.id > ${firstPublication} and not exists (select 1 from activity a where a.action = 'published' and a.href = '/room/pages/' || q.page_id and a.at = q.published_at)`), `${when}: published without a line`).toEqual([]);
}

let ids: number[] = [];
let homes: number[] = [];
let firstPublication = 0;
beforeAll(async () => {
  ids = (await ask<{ id: number }>(`select id from pages where slug in ('port-ennis', 'south-quay', 'jobs') order by id`)).map((row) => row.id);
  homes = (await ask<{ id: number }>(`select id from pages where slug in ('harbours', 'about', 'timetable') order by id`)).map((row) => row.id);
  firstPublication = (await ask<{ id: number }>('select max(id) as id from publications'))[0]?.id ?? 0;
});

/** Brings back what the last worker left deleted, as an editor would. */
const bringAllBack = () => ask('update pages set deleted_at = null, deleted_by = null');

describe('nothing is lost', () => {
  it(`when the application is killed at random points (${KILLS} times, seed ${SEED})`, { timeout: 300_000 }, async () => {
    const random = randomFrom(SEED);
    const cut = new Set<string>();
    let next = startWorker([ids, homes]);
    for (let kill = 1; kill <= KILLS; kill++) {
      const worker = await next;
      if (kill < KILLS) next = startWorker([ids, homes]);
      await workAWhile(worker, random);
      worker.process.kill('SIGKILL');
      await isGone(worker.process);
      const doing = worker.lines.at(-1) ?? '';
      expect(doing).not.toMatch(/^ended/);
      cut.add(doing.split(' ')[0] ?? '');
      await mustBeWhole(`kill ${kill} at “${doing}”`);
      await bringAllBack();
    }
    expect([...cut].sort(), 'which steps were cut off').toEqual(expect.arrayContaining(['bulk', 'move', 'publish', 'save']));
  });

  it(`when PostgreSQL is killed at random points (${KILLS} times, seed ${SEED + 1})`, { timeout: 300_000 }, async () => {
    const random = randomFrom(SEED + 1);
    let next = startWorker([ids, homes]);
    for (let kill = 1; kill <= KILLS; kill++) {
      const worker = await next;
      if (kill < KILLS) next = startWorker([ids, homes]);
      await workAWhile(worker, random);
      stopCluster(cluster.data, 'immediate');
      await isGone(worker.process);
      restartCluster(cluster.data);
      await mustBeWhole(`crash ${kill} at “${worker.lines.at(-2)}”`);
      await bringAllBack();
    }
  });

  it('a draft whose keeping was answered is there after a crash, to the letter', async () => {
    const [before] = await ask<{ content: { summary: string } }>(`select content from drafts where page_id = (select id from pages where slug = 'parking')`);
    const worker = await startWorker([ids, homes]);
    worker.go();
    // It has gone on to publish, so its keeping of the draft was answered.
    await worker.said(3);
    stopCluster(cluster.data, 'immediate');
    await isGone(worker.process);
    restartCluster(cluster.data);
    const words = await ask<{ summary: string }>(`select content->>'summary' as summary from drafts union all select content->>'summary' from revisions`);
    expect(words.map((row) => row.summary)).toContain(`Summary ${worker.process.pid} 0`);
    const [after] = await ask<{ content: { summary: string } }>(`select content from drafts where page_id = (select id from pages where slug = 'parking')`);
    expect(after).toEqual(before);
  });
});
