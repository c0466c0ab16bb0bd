import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { parseStrictly } from '@/core/json';
import { linkKindOf, openToolBundle } from '@/core/toolbar';

// RFC 8259, section 4: "The names within an object SHOULD be unique."
it.each([
  ['{"a":1,"a":2}', ['$.a']],
  ['{"a":[{"b":1},{"b":1,"c":{"d":1,"d":1}}]}', ['$.a[1].c.d']],
  ['{"a":1,"\\u0061":2}', ['$.a']],
  ['{"a":"\\"a\\":1,","b":{"a":1}}', []],
  ['{"__proto__":1}', ['$.__proto__']],
  ['[{"x":"{"},{"x":"}"}]', []],
  ['{', ['$']],
])('names stand there once: %s', (text, paths) => {
  const read = parseStrictly(text);
  expect(read.ok ? [] : read.faults.map(({ path }) => path)).toEqual(paths);
});
it('whatever JSON writes is read as it was (seed 20261201)', () => {
  fc.assert(
    fc.property(fc.json(), (text) => {
      if (text.includes('__proto__')) return;
      expect(parseStrictly(text)).toEqual({ ok: true, value: JSON.parse(text) as unknown });
    }),
    { seed: 20261201, numRuns: 500 },
  );
});

// RFC 3986, section 5.2.4, is how a browser takes dots out before it asks.
it.each([
  ['/fares', 'page'],
  ['/x/../media/ab', 'file'],
  ['/MEDIA/ab', 'file'],
  ['/./media/ab', 'file'],
  ['/%6dedia/ab', 'file'],
  ['/x/%2e%2e/media/ab', 'file'],
  ['/media/../fares', 'page'],
  ['/mediation', 'page'],
  ['/100%', 'page'],
  ['picture:7', 'file'],
])('%s leads to a %s', (href, kind) => {
  expect(linkKindOf(href)).toBe(kind);
});

const bundle = () => ({
  roles: [{ id: 'a', extends: [] as string[] }],
  people: [{ id: 'u', assignments: [{ role: 'a' }] as object[] }],
  pages: [{ id: 'home', parent: null as string | null, layout: 'plain', state: 'draft' }],
  layouts: [{ id: 'plain', fields: ['body'] }],
  tools: ['bold', 'list'],
  profiles: [{ id: 's', add: ['bold'], take: [] as string[] }],
  rules: [] as object[],
});
const faults = (change: (b: ReturnType<typeof bundle>) => void) => {
  const b = bundle();
  change(b);
  const opened = openToolBundle(b);
  return opened.ok ? [] : opened.faults.map(({ path }) => path);
};
it('what would never hold, or stands against itself, is refused by its path', () => {
  expect(faults(() => undefined)).toEqual([]);
  expect(faults((b) => b.pages.push({ id: 'other', parent: null, layout: 'plain', state: 'draft' }))).toEqual([
    '$.pages[1].parent',
  ]);
  expect(faults((b) => b.profiles[0]?.take.push('bold'))).toEqual(['$.profiles[0].take[0]']);
  expect(faults((b) => b.rules.push({ id: 'q', when: { roles: [] }, then: { add: ['bold'] } }))).toEqual([
    '$.rules[0].when.roles',
  ]);
  expect(
    faults((b) =>
      b.people[0]?.assignments.push({ role: 'a', from: '2026-02-01T00:00:00Z', until: '2026-01-01T00:00:00Z' }),
    ),
  ).toEqual(['$.people[0].assignments[1].until']);
});

it('long chains are answered or refused, by every command, and each fault has its path', () => {
  const folder = mkdtempSync(join(tmpdir(), 'safe-room-'));
  const n = 20_000;
  const roles = Array.from({ length: n }, (_, i) => ({ id: `r${i}`, extends: i === 0 ? [] : [`r${i - 1}`] }));
  const pages = Array.from({ length: n }, (_, i) => ({
    id: `p${i}`,
    parent: i === 0 ? null : `p${i - 1}`,
    layout: 'plain',
    state: 'draft',
  }));
  const run = (command: string, file: object, question: object | string) => {
    writeFileSync(join(folder, 'bundle.json'), JSON.stringify(file));
    const { status, stdout, stderr } = spawnSync(
      process.execPath,
      ['--import', 'tsx', 'scripts/cli.ts', command, '--bundle', join(folder, 'bundle.json')],
      { input: typeof question === 'string' ? question : JSON.stringify(question), encoding: 'utf8', timeout: 60_000 },
    );
    return { status, out: stdout + stderr };
  };
  const at = '2026-12-01T09:00:00Z';
  const tools = { ...bundle(), roles: [{ id: 'a', extends: [] }], pages };
  const asked = { person: 'u', page: `p${n - 1}`, field: 'body', at };
  expect(run('toolbar', tools, asked)).toMatchObject({ status: 0 });
  expect(
    run('toolbar', { ...tools, roles, people: [{ id: 'u', assignments: [{ role: `r${n - 1}` }] }] }, asked),
  ).toMatchObject({ status: 2, out: expect.stringMatching(/\$\.roles\[\d+\]\.extends/) as string });
  const access = {
    roles: roles.map((role) => ({ ...role, name: role.id, grants: [] })),
    people: [{ id: 'u', assignments: [{ role: `r${n - 1}` }] }],
    pages: pages.map((page) => ({ ...page, author: 'u' })),
    apart: [],
  };
  expect(run('decide', access, { person: 'u', permission: 'page.edit', page: `p${n - 1}`, at })).toMatchObject({
    status: 0,
  });
  expect(run('accept', {}, '{"before":1,"before":2,"after":1,"tools":[],"policy":{"__proto__":"free"}}')).toMatchObject(
    {
      status: 2,
      out: 'line 1, $.before: stands there twice\nline 1, $.policy.__proto__: nothing of this name belongs here\n',
    },
  );
  rmSync(folder, { recursive: true });
});
