// A visitor's page beside 50 of the worst requests at once: nobody holds anybody else up.
import { randomUUID } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { p } from '../../src/demo/write';

const AT_ONCE = 50;

/** Asks for a page over and over in a thread of its own, so that what sends the crowd delays no measuring. */
const PROBE = `
const { parentPort, workerData } = require('node:worker_threads');
let isOver = false;
parentPort.on('message', () => { isOver = true; });
(async () => {
  const waits = [];
  while (!isOver) {
    const started = performance.now();
    const answer = await fetch(workerData.url, { headers: { cookie: workerData.cookie } });
    await answer.text();
    if (!answer.ok) throw new Error('the page answered ' + answer.status);
    waits.push(performance.now() - started);
    await new Promise((done) => setTimeout(done, 5));
  }
  parentPort.postMessage(waits.sort((a, b) => a - b));
})();`;

/** How long somebody waits for a page while something is going on: each wait in ms, the shortest first. */
async function waitsBeside(page: { url: string; cookie: string }, during: () => Promise<unknown>): Promise<number[]> {
  const probe = new Worker(PROBE, { eval: true, workerData: page });
  const waits = new Promise<number[]>((done, failed) => {
    probe.once('message', done);
    probe.once('error', failed);
  });
  await during();
  probe.postMessage('over');
  const found = await waits;
  await probe.terminate();
  return found;
}

export async function measureCrowd(
  url: string,
  {
    maud,
    ines,
    pages,
  }: {
    maud: string;
    ines: string;
    /** Without a draft, as many as are asked for at once, twice. */ pages: readonly number[];
  },
  say: (what: string, value: string) => void,
): Promise<void> {
  const send = (method: string, path: string, body: string, cookie: string) =>
    fetch(url + path, {
      method,
      headers: {
        origin: url,
        'content-type': 'application/json',
        'idempotency-key': randomUUID(),
        ...(cookie && { cookie }),
      },
      body,
    }).then((answer) => answer.text());
  const words = Array.from({ length: 20_000 }, (_, i) => `word${i}`);
  const linked = (turn: number) =>
    JSON.stringify({
      content: {
        title: 'Crowd',
        body: {
          type: 'doc',
          content: Array.from({ length: 500 }, (_, block) => ({
            type: 'paragraph',
            content: Array.from({ length: 10 }, (_, i) => ({
              type: 'text',
              text: `${words.slice(block * 40 + i * 4, block * 40 + i * 4 + 4).join(' ')} `,
              marks: [{ type: 'link', attrs: { href: `/to-${turn}-${block}-${i}` } }],
            })),
          })),
        },
      },
      version: 0,
    });
  const texts = [linked(1), linked(2)];
  const plain = JSON.stringify({
    content: { title: 'Crowd', body: { type: 'doc', content: [p('Short.')] } },
    version: 0,
  });
  const kinds: [what: string, one: (n: number) => Promise<unknown>][] = [
    ['nothing', () => Promise.resolve()],
    [
      'signing in with a wrong password, not signed in',
      (n) =>
        send(
          'POST',
          '/api/sign-in',
          JSON.stringify({ email: `crowd${n}@larkhaven.example`, password: 'x'.repeat(200) }),
          '',
        ),
    ],
    ['a body too long, not signed in', () => send('POST', '/api/sign-in', 'x'.repeat(2_000_000), '')],
    [
      'a search of the website',
      (n) => fetch(`${url}/search?q=lantern%20bicycle%20${n}`).then((answer) => answer.text()),
    ],
    [
      'a text of 20,000 words with 5,000 links kept',
      (n) => send('PUT', `/api/items/${pages[n]}/draft`, texts[n % 2] ?? '', maud),
    ],
    [
      'a body of 2 MB that is no text',
      () => send('PUT', `/api/items/${pages[0]}/draft`, `{"content":${'['.repeat(999_000)}`, maud),
    ],
    ['a short text kept', (n) => send('PUT', `/api/items/${pages[AT_ONCE + n]}/draft`, plain, maud)],
    [
      'the list of all pages',
      () =>
        fetch(`${url}/api/pages/list?sort=title&dir=up`, { headers: { cookie: maud } }).then((answer) => answer.text()),
    ],
  ];
  const probes = [
    ['a visitor’s page', { url: `${url}/`, cookie: '' }],
    ['an editor’s Today', { url: `${url}/room`, cookie: ines }],
  ] as const;
  for (const [what, one] of kinds)
    for (const [whose, probe] of probes) {
      const waits = await waitsBeside(probe, () =>
        what === 'nothing'
          ? new Promise((done) => setTimeout(done, 1500))
          : Promise.all(Array.from({ length: AT_ONCE }, (_, n) => one(n))),
      );
      const at = (share: number) =>
        (waits[Math.min(waits.length - 1, Math.floor(waits.length * share))] ?? 0).toFixed(0);
      say(
        `${whose} beside ${what === 'nothing' ? 'nothing' : `${AT_ONCE} × ${what}`}`,
        `${at(0.5)} ms median, ${at(0.95)} ms of 95 in 100, ${at(1)} ms at most`,
      );
    }
}
