import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { APIRoute } from 'astro';
import { describe, expect, it } from 'vitest';
import { decide } from '@/core/access';
import { parseContent, type Document } from '@/core/content';
import { inventory, layouts } from '../inventory';
import type { ShownContent } from '@/server/work/compare';
import { randomFrom, type Random } from '../oracles/worlds';
import { call, ORIGIN, pageId, signInAs } from './ask';

const SEED = 20261126;
/** How many in the test command; `INPUTS=20000 npm run server -- inputs` sends the lot. */
const TRIES = Number(process.env['INPUTS'] ?? 4_000);
const ROOT = join(import.meta.dirname, '../../src/pages/api');
const files = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
  .filter((f) => f.endsWith('.ts'))
  .sort();

// What no person types, and some do: null bytes, halves of a character, numbers no row has, texts as long as fit,
// things nested deep,
// searches made of signs, markup and quotes, other kinds than asked for.
const ODD_TEXTS = [
  '',
  ' ',
  '\0',
  'a\0b',
  '\ud800',
  'x\udfff y',
  '-'.repeat(300),
  '"'.repeat(99),
  "'); drop table items; --",
  '%',
  '\\',
  '../../etc/passwd',
  '<script>alert(1)</script>',
  '🛳️'.repeat(60),
  'x'.repeat(5000),
  '\u202e\u0000\u200b',
  '2031-02-30T25:61',
  '2031-01-01T10:00',
  '/harbours',
  '//x',
  'javascript:alert(1)',
  'keyholder',
  '__proto__',
  'constructor',
  '1e9',
  '-1',
  '0',
  '99999999999999999999',
];
const ODD_NUMBERS = [0, 1, -1, 2, 3, 999_999_999, 2_147_483_647, 2_147_483_648, 9_007_199_254_740_991, 1.5, 1e308, -0];

function deep(random: Random, levels: number): unknown {
  let value: unknown = 'x';
  for (let i = 0; i < levels; i++) value = random.chance(0.5) ? [value] : { type: 'bulletList', content: [value] };
  return value;
}
function anything(random: Random, depth = 0): unknown {
  const kind = random.below(depth > 3 ? 5 : 9);
  if (kind === 0) return random.oneOf(ODD_NUMBERS);
  if (kind === 1) return random.oneOf([true, false, null]);
  if (kind < 5) return random.oneOf(ODD_TEXTS);
  if (kind === 5) return Array.from({ length: random.below(4) }, () => anything(random, depth + 1));
  if (kind === 6) return deep(random, random.oneOf([3, 50, 1500]));
  return Object.fromEntries(
    Array.from({ length: random.below(4) }, () => [
      random.oneOf([...KEYS, ...ODD_TEXTS.slice(0, 6)]),
      anything(random, depth + 1),
    ]),
  );
}
/** Every name a body of ours has, read from the endpoints themselves. */
const KEYS = [
  'text',
  'kind',
  'page',
  'from',
  'until',
  'content',
  'version',
  'over',
  'note',
  'at',
  'askedOf',
  'withBelow',
  'parent',
  'index',
  'redirect',
  'dry',
  'settle',
  'settled',
  'callOff',
  'typing',
  'leaving',
  'days',
  'end',
  'do',
  'ids',
  'bulk',
  'name',
  'filter',
  'layout',
  'title',
  'outline',
  'before',
  'after',
  'paused',
  'csv',
  'confirm',
  'email',
  'assignments',
  'to',
  'description',
  'outcome',
  'word',
  'field',
  'quote',
  'answers',
  'stop',
  'done',
  'revision',
  'direction',
  'role',
  'also',
  'operations',
  'roles',
  'person',
  'token',
  'password',
  'current',
  'next',
  'body',
  'page.layout',
  'page.slug',
  'intro',
  'pieces',
  'type',
  'attrs',
  'marks',
  'href',
  'json',
  'audience',
  'plan',
  'grant',
  'id',
  'effect',
  'permission',
  'scope',
  'task',
];
/** Bodies that nearly fit, one thing in them odd: they get further in. */
const NEAR: object[] = [
  {
    content: {
      title: 'x',
      body: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text: 'x' }] }] },
    },
    version: 0,
    note: '',
  },
  { text: 'x', kind: 'warning', until: '2001-01-01T10:00' },
  { parent: 1, layout: 'plain', title: '' },
  { parent: 1, layout: 'nope', outline: 'a\n b' },
  { name: 'x', email: 'x@y.example', assignments: [{ role: 'nobody' }] },
  { csv: 'name,email,role\na,b@c.example,none', confirm: false },
  {
    revision: 1,
    operations: [
      { do: 'add-grant', role: 'x', grant: { id: 'g', effect: 'allow', permission: 'page.edit', scope: {} } },
    ],
  },
  {
    revision: 1,
    role: null,
    operations: [{ do: 'word-stop', role: 'newsroom', task: 't', stop: 's', title: '', text: '' }],
  },
  { text: '{"format":"safe-room-plan/1","roles":[]}' },
  { outcome: 'sent-back', word: '' },
  { field: 'body', quote: '', text: 'x', answers: 7 },
  { ids: [1, 2], bulk: { do: 'move', parent: 1, redirect: true }, dry: true },
  { name: 'x', filter: { q: 'x' } },
  { parent: 1, index: 0, dry: true },
  { description: '' },
  { before: [], after: [{ role: 'x', from: '2031-01-01' }] },
  { email: 'nobody@x.example', password: 'x' },
  { token: 'x', password: 'long enough to be one' },
  { current: 'x', password: 'four-grey-gulls-dancing' },
];
function spoiled(random: Random, value: unknown): unknown {
  if (Array.isArray(value))
    return value.length > 0 && random.chance(0.7)
      ? value.map((one, i) => (i === 0 ? spoiled(random, one) : (one as unknown)))
      : anything(random);
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value);
    const at = random.below(entries.length + 1);
    return Object.fromEntries([
      ...entries.map(([key, inner], i): [string, unknown] => (i === at ? [key, spoiled(random, inner)] : [key, inner])),
      ...(at === entries.length ? [[random.oneOf(KEYS), anything(random)]] : []),
    ]);
  }
  return anything(random);
}

describe('whatever is sent', () => {
  it(`is answered without failing: ${TRIES} requests to every endpoint (seed ${SEED})`, async () => {
    const routes: { file: string; method: string; route: APIRoute }[] = [];
    for (const file of files)
      for (const [method, route] of Object.entries((await import(join(ROOT, file))) as Record<string, APIRoute>))
        routes.push({ file, method, route });
    const random = randomFrom(SEED);
    const people = [await signInAs('Maud'), await signInAs('Ines')];
    const broken: string[] = [];
    const counts = new Map<number, number>();
    const one = async (n: number) => {
      const { file, method, route } = routes[n % routes.length] as (typeof routes)[number];
      // It would end the session of everybody who asks after it.
      if (file === 'sign-out.ts') return;
      // Signing in hashes a password each time and takes long: a few hundred of those are enough.
      if (/^(sign-in|set-up|own-password)/.test(file) && n > 3000) return;
      const body = random.chance(0.6) ? spoiled(random, random.oneOf(NEAR)) : anything(random);
      const id = random.oneOf(['1', '2', '3', '9', '0', '-1', '2147483648', '99999999999', 'x', "1'--", '\0', '1e3']);
      const query = random.chance(0.5)
        ? `?${['q', 'below', 'with', 'slug', 'own', 'branch', 'row', 'permission', 'on', 'who', 'from', 'as', 'sort', 'offset', 'days'].map((name) => `${name}=${encodeURIComponent(random.oneOf(ODD_TEXTS).replace(/[\ud800-\udfff]/g, ''))}`).join('&')}`
        : '';
      const raw = random.chance(0.05)
        ? random.oneOf(['', '{', '[]', 'null', '"x"', '{"a":1e999}', `${'['.repeat(5000)}${']'.repeat(5000)}`, '\0'])
        : JSON.stringify(body);
      const answer = await call(route, method, `/x${query}`, {
        cookie: random.oneOf(people).cookie,
        body: raw,
        params: {
          id,
          revision: random.oneOf(['1', 'x', '\0', '99999999999']),
          task: random.oneOf(['x', 'pages.find', '\0', '__proto__']),
        },
        headers: random.chance(0.1) ? { 'idempotency-key': random.oneOf(['k', 'x'.repeat(100), 'same', '%00']) } : {},
      });
      counts.set(answer.status, (counts.get(answer.status) ?? 0) + 1);
      if (answer.status >= 500)
        broken.push(`${answer.status} ${method} ${file} ${id} ${query.slice(0, 80)} ${raw.slice(0, 300)}`);
    };
    for (let n = 0; n < TRIES; n += 8) await Promise.all(Array.from({ length: 8 }, (_, i) => one(n + i)));
    expect(
      [...new Set(broken.map((line) => line.split(' ').slice(0, 3).join(' ')))].map((head) =>
        broken.find((line) => line.startsWith(head)),
      ),
    ).toEqual([]);
    expect([...counts.keys()].sort()).toEqual(expect.arrayContaining([200, 403, 404, 409, 422]));
  });

  it('a body is given up while it arrives, and not begun for who is not signed in', async () => {
    const { POST } = await import('@/pages/api/notices/index');
    let sent = 0;
    const endless = () =>
      new ReadableStream<Uint8Array>({
        pull: (stream) => {
          sent += 65_536;
          stream.enqueue(new Uint8Array(65_536).fill(120));
          if (sent > 200_000_000) stream.close();
        },
      });
    const send = async (cookie: string | null) =>
      POST({
        request: new Request(`${ORIGIN}/x`, {
          method: 'POST',
          headers: {
            host: '127.0.0.1:4400',
            origin: ORIGIN,
            'content-type': 'application/json',
            ...(cookie && { cookie }),
          },
          body: endless(),
          duplex: 'half',
        } as RequestInit),
        params: {},
      } as unknown as Parameters<APIRoute>[0]);
    expect((await send(null)).status).toBe(401);
    expect(sent).toBeLessThan(300_000);
    expect((await send((await signInAs('Maud')).cookie)).status).toBe(413);
    expect(sent).toBeLessThan(4_000_000);
  });

  it('two texts of any length are compared while others are answered, as many as there is room for', async () => {
    const { GET: version } = await import('@/pages/api/items/[id]/versions/[revision]');
    const { POST: aside } = await import('@/pages/api/items/[id]/aside');
    const { getEditable } = await import('@/server/items/editable');
    const { findSite } = await import('@/server/gate/access');
    const { compareApart } = await import('@/server/work/compare');
    const { Problem } = await import('@/server/gate/problems');
    const { db } = await import('@/server/db/client');
    const maud = await signInAs('Maud');
    const id = await pageId('Jobs');
    const site = (await findSite(db))?.id ?? 0;
    const page = await getEditable(db, inventory, site, id);
    const long = (seed: number, words = 8_000) => {
      const random = randomFrom(seed);
      return {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [{ type: 'text', text: Array.from({ length: words }, () => `w${random.below(5000)}`).join(' ') }],
          },
        ],
      };
    };
    for (const seed of [1, 2])
      expect(
        (
          await call(aside, 'POST', '/x', {
            ...maud,
            params: { id: String(id) },
            body: { content: { ...page.content, body: long(seed) } },
          })
        ).status,
      ).toBe(200);
    const [b, a] = (await getEditable(db, inventory, site, id)).versions
      .filter((v) => v.kind === 'kept')
      .map((v) => v.revisionId);
    const compared = await call(version, 'GET', `/x?with=${b}`, {
      ...maud,
      params: { id: String(id), revision: String(a) },
    });
    expect(compared.status).toBe(200);
    // As many as may ask at once are answered, those beyond are told so; the rest of the server goes on meanwhile.
    const text = (seed: number): ShownContent => ['plain', { title: 'A', body: long(seed, 800) as Document }];
    let answered = 0;
    const asked = Array.from({ length: 30 }, () =>
      compareApart(inventory, 'page', text(1), text(2), { pictures: [], people: [] }).then(
        (changes) => {
          answered++;
          return changes.length > 0;
        },
        (error: unknown): string => (error instanceof Problem ? String(error.code) : String(error)),
      ),
    );
    await new Promise(setImmediate);
    expect(answered).toBeLessThan(20);
    const came = await Promise.all(asked);
    expect(new Set(came)).toEqual(new Set([true, 'compare-too-long']));
    expect(came.filter((one) => one === true).length).toBe(answered);
    expect(answered).toBeGreaterThanOrEqual(20);
  });

  it('roles chained twenty thousand deep are decided on like any others', () => {
    const roles = new Map(
      Array.from({ length: 20_000 }, (_, i) => [
        `r${i}`,
        {
          id: `r${i}`,
          name: '',
          extends: i === 19_999 ? [] : [`r${i + 1}`],
          grants: i === 19_999 ? [{ id: 'g', effect: 'allow' as const, permission: 'page.edit', scope: {} }] : [],
        },
      ]),
    );
    const found = decide(
      {
        roles,
        people: new Map([['u', { id: 'u', name: '', assignments: [{ role: 'r0' }] }]]),
        secondPerson: new Set(),
      },
      { person: 'u', permission: 'page.edit', atMs: 0 },
    );
    expect([found.allowed, found.decidedBy?.roles.length]).toEqual([true, 20_000]);
  });

  it('content nested as deep as anybody likes is refused or kept, never a failure', () => {
    for (const levels of [10, 200, 2000]) {
      let node: object = { type: 'paragraph' };
      for (let i = 0; i < levels; i++)
        node = { type: 'bulletList', content: [{ type: 'listItem', content: [{ type: 'paragraph' }, node] }] };
      expect(() =>
        parseContent(layouts, 'plain', { title: 'x', body: { type: 'doc', content: [node] } }),
      ).not.toThrow();
    }
  });
});
