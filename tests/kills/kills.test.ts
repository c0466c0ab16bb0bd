import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mustFindFreePort, restartCluster, stopCluster } from '../../scripts/cluster';
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

/** The application as it is started for real, on a port of its own; resolves when it listens. */
interface Server {
  process: ChildProcess;
  port: number;
}
async function startServer(): Promise<Server> {
  const port = await mustFindFreePort(4500 + Math.floor(Math.random() * 1000));
  const child = spawn(process.execPath, ['scripts/serve.mjs'], {
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    env: { ...process.env, DATABASE_URL: url, HOST: '127.0.0.1', PORT: String(port), LOG_LEVEL: 'silent' },
  });
  await new Promise<void>((ready, failed) => {
    child.once('message', () => ready());
    child.once('exit', (code) => failed(new Error(`the application ended with ${code}`)));
  });
  return { process: child, port };
}
const isGone = (child: ChildProcess) =>
  new Promise<void>((gone) =>
    child.exitCode !== null || child.signalCode !== null ? gone() : child.once('exit', () => gone()),
  );

/** What an editor's browser asks for, one thing after the other, without end; what was answered is remembered. */
class Editor {
  /** The last summary whose keeping, and the last whose publishing, was answered. */
  kept = '';
  published = '';
  /** Lengths of each kind of step so far, in ms. */
  readonly lengths = new Map<string, number[]>();
  /** Why the last request was not answered. */
  why = '';
  private turn = 0;
  constructor(
    private readonly name: string,
    private readonly cookie: string,
  ) {}

  private async send(
    server: Server,
    method: string,
    path: string,
    body: object,
  ): Promise<Record<string, unknown> | null> {
    const origin = `http://127.0.0.1:${server.port}`;
    const answer = await fetch(origin + path, {
      method,
      headers: { cookie: this.cookie, origin, 'content-type': 'application/json', connection: 'close' },
      body: JSON.stringify(body),
    }).catch((error: unknown) => {
      this.why = String(error);
      return null;
    });
    // What was cut off was not answered, also where the first half of the answer came.
    const text = await answer?.text().catch(() => null);
    if (!answer || typeof text !== 'string') return null;
    this.why = `${answer.status} ${text.slice(0, 200)}`;
    if (answer.status >= 500) return null;
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text.slice(0, 300)}`);
    return JSON.parse(text) as Record<string, unknown>;
  }

  /** One round of steps on the next page: each is named, and done when it is called. */
  async *round(server: Server): AsyncGenerator<{ name: string; run: () => Promise<boolean> }> {
    const i = this.turn++;
    const [id, other] = [ids[i % ids.length] ?? 0, homes[i % homes.length] ?? 0];
    const [row] = await ask<{ content: Record<string, unknown>; version: number }>(
      `select coalesce(d.content, r.content) as content, coalesce(d.version, 0) as version from items p left join drafts d on d.item_id = p.id left join revisions r on r.id = p.live_revision_id where p.id = ${id}`,
    );
    // Without its settings, which then stay as they are.
    const content = {
      ...Object.fromEntries(Object.entries(row?.content ?? {}).filter(([field]) => !field.startsWith('page.'))),
      summary: `Summary ${this.name} ${i}`,
    };
    let version = row?.version ?? 0;
    const step = (
      name: string,
      method: string,
      path: string,
      body: object,
      then: (answer: Record<string, unknown>) => void = () => undefined,
    ) => ({
      name,
      run: async () => {
        const started = performance.now();
        const answer = await this.send(server, method, path, body);
        if (!answer) return false;
        this.lengths.set(name, [...(this.lengths.get(name) ?? []), performance.now() - started]);
        then(answer);
        return true;
      },
    });
    yield step('save', 'PUT', `/api/items/${id}/draft`, { content, version }, (answer) => {
      version = Number(answer['version']);
      this.kept = content.summary;
    });
    yield step('publish', 'POST', `/api/items/${id}/publish`, { content, version, note: '' }, () => {
      this.published = content.summary;
    });
    yield step('move', 'POST', `/api/pages/${id}/move`, { parent: other, index: 0, redirect: true });
    yield step('bulk', 'POST', '/api/pages/bulk', { ids, bulk: { do: 'navigation', shown: i % 2 === 0 } });
    yield step('delete', 'POST', `/api/items/${id}/retire`, { do: 'delete' });
    yield step('restore', 'POST', `/api/items/${id}/bring-back`, {});
  }
  /** The middle of the lengths of a kind of step. */
  usual(name: string): number {
    const sorted = [...(this.lengths.get(name) ?? [])].sort((a, b) => a - b);
    return sorted[sorted.length >> 1] ?? 20;
  }
}

/** Somebody signed in who may do everything. */
async function beginEditing(): Promise<Editor> {
  const token = randomBytes(32).toString('base64url');
  await ask(
    `insert into sessions (token_hash, site_id, person_id, expires_at) select '${createHash('sha256').update(token).digest('hex')}', site_id, id, now() + interval '12 hours' from people where email = 'maud@larkhaven.example'`,
  );
  return new Editor(token.slice(0, 6), `safe_room_session=${token}`);
}

const STEPS = ['save', 'publish', 'move', 'bulk', 'delete', 'restore'];
/**
 * Works until the step that is wanted, and cuts it off at a moment spread evenly over a little more than its usual
 * length: before it reaches the database, between its writes, while it is answered, and just after. Gives whether it
 * was answered.
 */
async function cutOff(
  editor: Editor,
  server: Server,
  wanted: string,
  share: number,
  cut: () => void,
): Promise<boolean> {
  for await (const step of editor.round(server)) {
    if (step.name !== wanted) {
      if (!(await step.run())) throw new Error(`${step.name} was not answered: ${editor.why}`);
      continue;
    }
    const answered = step.run();
    await new Promise((go) => setTimeout(go, share * 1.2 * editor.usual(step.name)));
    cut();
    return answered;
  }
  throw new Error(`there is no step ${wanted}`);
}

/** What was answered is there, to the letter. */
async function mustBeKept(editor: Editor, when: string): Promise<void> {
  const rows = await ask<{ summary: string }>(
    `select content->>'summary' as summary from drafts union all select content->>'summary' from revisions`,
  );
  const words = rows.map((row) => row.summary);
  if (editor.kept) expect(words, `${when}: a draft whose keeping was answered`).toContain(editor.kept);
  if (editor.published)
    expect(
      (
        await ask<{ n: number }>(
          `select count(*)::int as n from publications q join revisions r on r.id = q.revision_id where r.kind <> 'adjusted' and r.content->>'summary' = '${editor.published}'`,
        )
      )[0]?.n,
      `${when}: a publication that was answered`,
    ).toBe(1);
}

/** What must hold whatever was cut off: every transaction is there whole or not at all. */
async function mustBeWhole(when: string): Promise<void> {
  // Publishing: what visitors see is the newest publication, and its content is that revision's.
  expect(
    await ask(
      `select p.id from items p where p.live_revision_id is distinct from (select revision_id from publications q where q.item_id = p.id order by q.id desc limit 1) and p.down_revision_id is null`,
    ),
    `${when}: live version and publication differ`,
  ).toEqual([]);
  // Saving and publishing: a draft is there or it was taken, never both of the same words.
  expect(
    await ask(
      `select d.item_id from drafts d join items p on p.id = d.item_id join revisions r on r.id = p.live_revision_id where d.content->>'summary' = r.content->>'summary' and d.content->>'summary' like 'Summary %'`,
    ),
    `${when}: published, and a draft still`,
  ).toEqual([]);
  // Moving: every path is that of the page above and its own id; places among neighbours are told apart.
  expect(
    await ask(
      `select p.id from items p left join items u on u.id = p.parent_id where p.path::text <> coalesce(u.path::text || '.', '') || p.id`,
    ),
    `${when}: a path that is not its parent's`,
  ).toEqual([]);
  expect(
    await ask(
      `select parent_id from items where type = 'page' and deleted_at is null and parent_id is not null group by parent_id, position having count(*) > 1`,
    ),
    `${when}: two pages in one place`,
  ).toEqual([]);
  // Many at once: all of them or none.
  expect(
    (
      await ask<{ n: number }>(`select count(distinct in_navigation)::int as n from items where id in (${ids.join()})`)
    )[0]?.n,
    `${when}: half of many`,
  ).toBe(1);
  // Deleting and restoring: what lies below a deleted page is deleted with it.
  expect(
    await ask(
      `select p.id from items p join items u on u.id = p.parent_id where u.deleted_at is not null and p.deleted_at is distinct from u.deleted_at`,
    ),
    `${when}: half a branch deleted`,
  ).toEqual([]);
  // What is looked for by columns is what the version in force says.
  expect(
    await ask(
      `select i.id from items i join revisions r on r.id = i.live_revision_id where i.type = 'page' and (r.content->>'page.inNavigation')::boolean <> i.in_navigation`,
    ),
    `${when}: a row and its version say two things`,
  ).toEqual([]);
  // Each thing done has its line in the activity, in the same transaction.
  expect(
    await ask(
      `select q.id from publications q join revisions r on r.id = q.revision_id where q.id > ${firstPublication} and not exists (select 1 from activity a where a.at = q.published_at and (r.kind = 'adjusted' or a.action = 'published' and a.href = '/room/pages/' || q.item_id))`,
    ),
    `${when}: published without a line`,
  ).toEqual([]);
}

let ids: number[] = [];
let homes: number[] = [];
let firstPublication = 0;
beforeAll(async () => {
  ids = (
    await ask<{ id: number }>(`select id from items where slug in ('port-ennis', 'south-quay', 'jobs') order by id`)
  ).map((row) => row.id);
  homes = (
    await ask<{ id: number }>(`select id from items where slug in ('harbours', 'about', 'timetable') order by id`)
  ).map((row) => row.id);
  firstPublication = (await ask<{ id: number }>('select max(id) as id from publications'))[0]?.id ?? 0;
});

/** Brings back what the last worker left deleted, as an editor would. */
const bringAllBack = () => ask('update items set deleted_at = null, deleted_by = null');

describe('nothing is lost', () => {
  it(`when the application is killed in the middle of a step (${KILLS} times, seed ${SEED})`, async () => {
    const random = randomFrom(SEED);
    const editor = await beginEditing();
    const first = await startServer();
    // How long the steps take is measured, not guessed.
    for (let i = 0; i < 3; i++)
      for await (const step of editor.round(first)) expect(await step.run(), step.name).toBe(true);
    let [answered, cut] = [0, 0];
    let next = Promise.resolve(first);
    for (let kill = 0; kill < KILLS; kill++) {
      const server = await next;
      if (kill < KILLS - 1) next = startServer();
      const wanted = STEPS[kill % STEPS.length] ?? '';
      const done = await cutOff(editor, server, wanted, random(), () => server.process.kill('SIGKILL'));
      if (done) answered++;
      else cut++;
      await isGone(server.process);
      const when = `kill ${kill + 1} in “${wanted}”, ${done ? 'answered' : 'not answered'}`;
      await mustBeWhole(when);
      await mustBeKept(editor, when);
      await bringAllBack();
    }
    expect(cut, 'cut off before the answer').toBeGreaterThan(KILLS / 3);
    expect(answered + cut).toBe(KILLS);
  });

  it(`when PostgreSQL is killed in the middle of a step (${KILLS} times, seed ${SEED + 1}), and the application goes on with the new one`, async () => {
    const random = randomFrom(SEED + 1);
    const editor = await beginEditing();
    const server = await startServer();
    for (let i = 0; i < 3; i++)
      for await (const step of editor.round(server)) expect(await step.run(), step.name).toBe(true);
    const [before] = await ask<{ content: object }>(
      `select content from drafts where item_id = (select id from items where slug = 'parking')`,
    );
    for (let kill = 0; kill < KILLS; kill++) {
      const wanted = STEPS[kill % STEPS.length] ?? '';
      const done = await cutOff(editor, server, wanted, random(), () => stopCluster(cluster.data, 'immediate'));
      restartCluster(cluster.data);
      const when = `crash ${kill + 1} in “${wanted}”, ${done ? 'answered' : 'not answered'}`;
      await mustBeWhole(when);
      await mustBeKept(editor, when);
      await bringAllBack();
    }
    expect(
      await ask(`select content from drafts where item_id = (select id from items where slug = 'parking')`),
      'another draft',
    ).toEqual([before]);
    server.process.kill('SIGTERM');
    await isGone(server.process);
    expect(server.process.exitCode).toBe(0);
  });
});
