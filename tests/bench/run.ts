// Measures and writes docs/bench.md. Builds what is old; makes a cluster of its own.
// usage: npm run bench
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { chromium } from '@playwright/test';
import { decide, type Place } from '../../src/core/access';
import { askable, makeFinder } from '../../src/core/ask';
import { acceptChange, handsOf } from '../../src/core/toolbar';
import { policyOf } from '../../src/core/plan';
import { figures, room } from '../../src/core/room';
import { DEMO_PEOPLE } from '../../src/demo/people';
import { demoPlan } from '../../src/demo/plan';
import { HOME } from '../../src/demo/pages';
import { p } from '../../src/demo/write';
import { buildWhenOld } from '../../scripts/build';
import { mustFindFreePort } from '../../scripts/cluster';
import { copyDemo, makeTestCluster } from '../server/cluster';
import { QUESTIONS } from '../core/questions';
import { measureAccess } from './access';
import { measureCrowd } from './crowd';
import { measureComparing, measurePages, measureScreens, measureWork } from './pages';
import { measureMerge, measureToday } from './today';
import { measureToolbars } from './toolbars';
import { measureTyping } from './typing';
import { inventory } from '../inventory';

const median = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;
const rows: [string, string][] = [];
const say = (what: string, value: string) => {
  rows.push([what, value]);
  console.log(`${what.padEnd(58)} ${value}`);
};

/** Runs something for about half a second after warming up; gives operations a second. */
function rate(run: () => void): number {
  for (let i = 0; i < 200; i++) run();
  const started = performance.now();
  let count = 0;
  while (performance.now() - started < 500) {
    run();
    count++;
  }
  return (count * 1000) / (performance.now() - started);
}

buildWhenOld(console.log);
const accessTable = await measureAccess();
const places: Place[] = Array.from({ length: 20 }, (_, i) => ({
  path: ['1', String(2 + (i % 4)), String(10 + i)],
  layout: 'plain',
  state: 'published',
  author: '1',
}));
const plan = demoPlan(inventory, (key) => ({ home: '1', harbours: '2', cafe: '3', about: '4' })[key] ?? '1');
const person = { id: '1', name: 'Ines', assignments: [{ role: 'harbour-desk' }] };
const policy = policyOf(inventory, plan, [person]);
let i = 0;
say(
  'decide(), one question, demo plan',
  `${Math.round(rate(() => decide(policy, { person: '1', permission: 'page.edit', place: places[i++ % places.length], atMs: 0 })) / 1000)} k a second`,
);
const input = { inventory, plan, person, places, nowMs: 0 };
say('room(), demo plan, 20 pages', `${Math.round(rate(() => room(input)))} a second`);
const made = room(input);
say('figures() of a room', `${Math.round(rate(() => figures(inventory, made)) / 1000)} k a second`);
const finder = makeFinder(askable({ ...input, person: { ...person, assignments: [{ role: 'keyholder' }] } }));
const ranks = QUESTIONS.map(([asked, wanted]) =>
  finder(asked, 10).findIndex((entry) => wanted.split('|').includes(`${entry.kind} ${entry.id}`)),
);
const shareOf = (most: number) =>
  `${Math.round((100 * ranks.filter((rank) => rank >= 0 && rank < most).length) / ranks.length)} %`;
say(
  `“Where do I…?”, ${QUESTIONS.length} plain questions`,
  `${shareOf(3)} among the first three, ${shareOf(1)} first; ${Math.round(rate(() => finder(QUESTIONS[i++ % QUESTIONS.length]?.[0] ?? '')))} answers a second`,
);
const home = HOME.body ?? { type: 'doc', content: [] };
const more: typeof home = { ...home, content: [...home.content, p('One more.')] };
say(
  'acceptChange() of a word more in the start page’s text, without any tool',
  `${Math.round(rate(() => acceptChange(home, more, handsOf(new Set(), [...inventory.tools.values()]))))} a second`,
);

measureComparing(say);
measureToolbars(rate, say);
measureMerge(rate, say);
const cluster = await makeTestCluster();
const port = await mustFindFreePort(4700);
const databaseUrl = await copyDemo(cluster.url('postgres'), 'bench');
const server = spawn(process.execPath, ['scripts/serve.mjs'], {
  stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  env: { ...process.env, DATABASE_URL: databaseUrl, HOST: '127.0.0.1', PORT: String(port) },
});
await new Promise((ready) => server.once('message', ready));
const url = `http://127.0.0.1:${port}`;
const cookieOf = async (first: string) => {
  const { email, password } = DEMO_PEOPLE.find((p) => p.name.startsWith(first)) ?? { email: '', password: '' };
  const answer = await fetch(`${url}/api/sign-in`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: url },
    body: JSON.stringify({ email, password }),
  });
  return (answer.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
};
const [ines, maud] = [await cookieOf('Ines'), await cookieOf('Maud')];
const screens: [string, string, string][] = [
  ['Website: start', '/', ''],
  ['Website: a harbour', '/harbours/south-quay', ''],
  ['Room: Today', '/room', ines],
  ['Room: page tree', '/room/pages', ines],
  ['Room: a page', '/room/pages/3', ines],
  ['Room: notices', '/room/notices', ines],
  ['Room: second look', '/room/review', maud],
  ['Workshop: roles', '/workshop', maud],
  ['Workshop: menu step', '/workshop/roles/harbour-desk/menu', maud],
];
for (const [name, path, cookie] of screens) {
  const times: number[] = [];
  for (let n = 0; n < 120; n++) {
    const started = performance.now();
    const answer = await fetch(url + path, { headers: { cookie } });
    await answer.text();
    if (answer.status !== 200) throw new Error(`${path}: ${answer.status}`);
    if (n >= 20) times.push(performance.now() - started);
  }
  say(`${name}, rendered by the server`, `${median(times).toFixed(1)} ms median`);
}

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--disable-dev-shm-usage',
  ],
});
for (const [name, path, cookie] of screens) {
  const context = await browser.newContext();
  const [key = '', value = ''] = cookie.split('=');
  if (cookie) await context.addCookies([{ name: key, value, url }]);
  const page = await context.newPage();
  const sizes = { first: 0, writing: 0 };
  // What is fetched ahead and then run answers twice.
  const files = new Set<string>();
  page.on('response', (response) => {
    const file = `dist/client${new URL(response.url()).pathname}.gz`;
    if (!file.endsWith('.js.gz') || files.has(file) || !existsSync(file)) return;
    files.add(file);
    sizes[file.includes('WritingArea') ? 'writing' : 'first'] += statSync(file).size;
  });
  await page.goto(url + path, { waitUntil: 'networkidle' });
  await page.waitForFunction(() => !document.querySelector('astro-island[ssr]:not([client="visible"])'));
  say(
    `${name}, script on first load (gzip)`,
    `${(sizes.first / 1000).toFixed(0)} kB${sizes.writing ? ` + ${(sizes.writing / 1000).toFixed(0)} kB writing area` : ''}`,
  );
  await context.close();
}
await measureTyping(browser, url, maud, say);
await browser.close();
// As the owner of the tables: only they may have them analysed, as happens by itself in time.
const filled = await measurePages(url, cluster.url('bench'), maud, say);
await measureToday(url, cluster.url('bench'), maud, say);
await measureScreens(url, filled, maud, say);
await measureWork(url, databaseUrl, maud, say);
await measureCrowd(url, { maud, ines, pages: Array.from({ length: 200 }, (_, n) => filled.deep - 1 - n) }, say);
server.kill('SIGTERM');
await new Promise((ended) => server.once('exit', ended));
cluster.stop();

const version = (JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }).version;
writeFileSync(
  'docs/bench.md',
  `# Measured

\`npm run bench\` writes this page. Version ${version}, ${new Date().toISOString().slice(0, 10)}, ${cpus().length} × ${cpus()[0]?.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node.js ${process.version}, PostgreSQL on the same machine, the demo's data, one request at a time.

## Access

The same random policies for every engine: about four roles to a closure, rules with branches, layouts, states and own work, denies, assignments on branches, some with dates; 25 permissions. Questions are random triples of person, permission and page. The ability library gets one ability for each person, its conditions as functions on page numbers; the two other engines get only what concerns the one person (and for the enforcement library the one permission) asked about.

${accessTable}

Aims: at least 30 times the ability library at M and L; 15 M decisions a second at M; L compiled in 1 s and 100 MB; "who can" and "what can they" at L in 2 ms; one person in 0.1 ms, one role in 50 ms.

## Screens and the rest

| what | measured |
|---|---|
${rows.map(([what, value]) => `| ${what} | ${value} |`).join('\n')}

Aims at 5,000 pages: every screen under 60 ms median and 150 kB of HTML, a page of the website under 25 ms, a branch of 200 brought back in 1 s, something done to 1,000 pages in 3 s. Today and the page tree of the demo under 50 ms median; first load of the Room at most 180 kB of compressed script, the writing area apart; of the edit screen at most 330 kB with it. What is written “beside” something was measured beside it in the same run.
`,
);
