import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { TZDate } from '@date-fns/tz';
import { describe, expect, it } from 'vitest';
import { openToolBundle, readToolQuestion, resolveTools, toolsIn, toolsOfSet, type ToolBundle } from '@/core/toolbar';
import { at, FIELDS, makeBundle, TOOLS } from './toolbars';
import { randomFrom } from './worlds';

// Toolbars by rule, against a program written from the rules' own words, with lists instead of ranks: for each role the
// rules
// that hold are compared pair by pair, and every closure is walked anew.

/** The same question, answered by going through the words one by one. */
function naive(bundle: ToolBundle, asked: { person: string; page: string; field: string; at: string }): string[] {
  const page = bundle.pages.find((one) => one.id === asked.page);
  const person = bundle.people.find((one) => one.id === asked.person);
  if (!page || !person || person.suspended) return [];
  const above = (id: string | null): string[] => {
    const here = bundle.pages.find((one) => one.id === id);
    return here ? [...above(here.parent), here.id] : [];
  };
  const path = above(page.id);
  const now = Date.parse(asked.at);
  const counting = person.assignments.filter(
    (a) =>
      (!a.from || Date.parse(a.from) <= now) &&
      (!a.until || now < Date.parse(a.until)) &&
      (!a.branch || path.includes(a.branch)),
  );
  const builtOn = (role: string): string[] => [
    role,
    ...(bundle.roles.find((one) => one.id === role)?.extends ?? []).flatMap(builtOn),
  ];
  const setOf = (id: string): string[] => {
    const set = bundle.profiles.find((one) => one.id === id);
    if (!set) return [];
    const kept = (set.base ? setOf(set.base) : []).filter((tool) => !set.take.includes(tool));
    return [...kept, ...set.add];
  };
  const isHere = ({ when }: ToolBundle['rules'][number]) =>
    (!when.branch || path.includes(when.branch)) &&
    (!when.layouts || when.layouts.includes(page.layout)) &&
    (!when.states || when.states.includes(page.state)) &&
    (!when.fields || when.fields.includes(asked.field)) &&
    (!when.days || when.days.includes(new TZDate(now, bundle.timeZone ?? 'UTC').getDay() || 7));
  const isFor = ({ when }: ToolBundle['rules'][number], role: string) =>
    !when.roles || when.roles.some((named) => builtOn(role).includes(named));
  /** Whether the first is weaker: by the first thing in which they differ, else by standing higher in the list. */
  const isWeaker = (a: ToolBundle['rules'][number], b: ToolBundle['rules'][number], role: string): boolean => {
    const marks = ({ when }: ToolBundle['rules'][number]) => [
      when.fields ? 1 : 0,
      when.branch ? above(when.branch).length : 0,
      when.layouts ? 1 : 0,
      when.states ? 1 : 0,
      when.days ? 1 : 0,
      when.roles ? (when.roles.includes(role) ? 2 : 1) : 0,
    ];
    const [left, right] = [marks(a), marks(b)];
    for (let i = 0; i < left.length; i++) if (left[i] !== right[i]) return (left[i] ?? 0) < (right[i] ?? 0);
    return bundle.rules.indexOf(a) < bundle.rules.indexOf(b);
  };
  const all = new Set<string>();
  for (const { role } of counting) {
    const left = bundle.rules.filter((rule) => isHere(rule) && isFor(rule, role) && !('cap' in rule.then));
    let tools: string[] = [];
    while (left.length > 0) {
      const weakest = left.find((one) => left.every((other) => other === one || isWeaker(one, other, role)));
      if (!weakest) throw new Error('no weakest rule');
      left.splice(left.indexOf(weakest), 1);
      const { use, add, take } = weakest.then;
      if (use) tools = setOf(use);
      if (add) tools = [...tools, ...add];
      if (take) tools = tools.filter((tool) => !take.includes(tool));
    }
    tools.forEach((tool) => all.add(tool));
  }
  const caps = bundle.rules.filter(
    (rule) => rule.then.cap && isHere(rule) && counting.some(({ role }) => isFor(rule, role)),
  );
  return bundle.tools.filter((tool) => all.has(tool) && caps.every((rule) => rule.then.cap?.includes(tool)));
}

describe('toolbars by rule', () => {
  it('are those a plain reading of the rules gives, in 6,000 random worlds (seed 20261127)', () => {
    const counts = new Map<number, number>();
    let answered = 0;
    for (let n = 0; n < 6000; n++) {
      const random = randomFrom(20_261_127 + n);
      const bundle = makeBundle(random);
      const opened = openToolBundle(bundle);
      if (!opened.ok) throw new Error(JSON.stringify(opened.faults));
      const kept = toolsIn(opened.world);
      for (let k = 0; k < 3; k++) {
        const question = {
          person: random.oneOf(bundle.people).id,
          page: random.oneOf(bundle.pages).id,
          field: random.oneOf(FIELDS),
          at: at(random.below(7 * 24)),
        };
        const read = readToolQuestion(opened, question);
        if (!read.ok) throw new Error(JSON.stringify(read.faults));
        const { roles, spot } = read.question;
        const answer = resolveTools(opened.world, roles, spot);
        // What is kept for spots that no rule tells apart is the same.
        expect(kept(roles, spot).tools).toEqual(answer.tools);
        expect(answer.tools, `world ${n}: ${JSON.stringify({ question, bundle })}`).toEqual(naive(bundle, question));
        // Every tool is there, or it is said why not.
        expect([...answer.tools, ...answer.missing.map((one) => one.tool)].sort()).toEqual([...TOOLS].sort());
        counts.set(answer.tools.length, (counts.get(answer.tools.length) ?? 0) + 1);
        answered++;
      }
    }
    expect(answered).toBe(18_000);
    // Neither all nor nothing most of the time.
    expect(counts.size).toBeGreaterThan(8);
    expect((counts.get(0) ?? 0) / answered).toBeLessThan(0.75);
  });

  it('a change of a base flows through, but for what a set takes or adds itself', () => {
    const set = (id: string, base: string | undefined, add: string[], take: string[]) =>
      [id, { id, base, add, take }] as const;
    const sets = new Map([
      set('long', undefined, ['bold', 'table'], []),
      set('short', 'long', ['link.page'], ['table']),
    ]);
    expect([...toolsOfSet(sets, 'short')]).toEqual(['bold', 'link.page']);
    sets.set(...set('long', undefined, ['bold', 'table', 'italic'], []));
    expect([...toolsOfSet(sets, 'short')]).toEqual(['bold', 'italic', 'link.page']);
    // What it takes and adds stays: taken goes first.
    sets.set(...set('short', 'long', ['table'], ['table', 'bold']));
    expect([...toolsOfSet(sets, 'short')]).toEqual(['italic', 'table']);
  });

  const small = (): ToolBundle => ({
    roles: [
      { id: 'desk', extends: ['base'] },
      { id: 'base', extends: [] },
    ],
    people: [{ id: 'ana', assignments: [{ role: 'desk' }] }],
    pages: [
      { id: 'home', parent: null, layout: 'plain', state: 'published' },
      { id: 'quay', parent: 'home', layout: 'news', state: 'draft' },
    ],
    layouts: [
      { id: 'plain', fields: ['body'] },
      { id: 'news', fields: ['summary', 'body'] },
    ],
    tools: ['bold', 'link', 'table'],
    profiles: [{ id: 'all', add: ['bold', 'link', 'table'], take: [] }],
    rules: [
      { id: 'everybody', when: {}, then: { use: 'all' } },
      { id: 'no-tables', when: { roles: ['base'], layouts: ['news'] }, then: { take: ['table'] } },
      { id: 'short', when: { fields: ['summary'] }, then: { cap: ['bold'] } },
    ],
  });
  const ask = (bundle: ToolBundle, page: string, field: string) => {
    const opened = openToolBundle(bundle);
    if (!opened.ok) throw new Error(JSON.stringify(opened.faults));
    const read = readToolQuestion(opened, { person: 'ana', page, field, at: '2026-11-27T12:00:00Z' });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    return resolveTools(opened.world, read.question.roles, read.question.spot);
  };
  it('say which rule did what, for which role, and of what is missing which rule took it or would give it', () => {
    expect(ask(small(), 'home', 'body')).toEqual({
      tools: ['bold', 'link', 'table'],
      steps: [{ rule: 'everybody', role: 'desk', did: 'use', tools: ['bold', 'link', 'table'] }],
      missing: [],
      keep: {},
    });
    expect(ask(small(), 'quay', 'summary')).toEqual({
      tools: ['bold'],
      steps: [
        { rule: 'everybody', role: 'desk', did: 'use', tools: ['bold', 'link', 'table'] },
        { rule: 'no-tables', role: 'desk', did: 'take', tools: ['table'] },
        { rule: 'short', role: null, did: 'cap', tools: ['link'] },
      ],
      missing: [
        { tool: 'link', rule: 'short', why: 'capped' },
        { tool: 'table', rule: 'no-tables', why: 'taken' },
      ],
      keep: {},
    });
    const bare = { ...small(), rules: [{ id: 'there', when: { layouts: ['plain'] }, then: { add: ['table'] } }] };
    expect(ask(bare, 'quay', 'body').missing).toEqual([
      { tool: 'bold', rule: null, why: 'nowhere' },
      { tool: 'link', rule: null, why: 'nowhere' },
      { tool: 'table', rule: 'there', why: 'elsewhere' },
    ]);
  });

  const withBroken = (change: (bundle: Record<string, unknown[]>) => void): unknown => {
    const bundle = structuredClone(small()) as unknown as Record<string, unknown[]>;
    change(bundle);
    return bundle;
  };
  it.each<[string, unknown, string[]]>([
    ['no object', 7, ['$']],
    ['a missing list', withBroken((b) => delete b['rules']), ['$.rules']],
    ['something of no name', { ...small(), more: 1 }, ['$.more']],
    ['a role twice', withBroken((b) => b['roles']?.push({ id: 'base', extends: [] })), ['$.roles[2].id']],
    ['a clock that is not there', { ...small(), timeZone: 'Europe/Larkhaven' }, ['$.timeZone']],
    [
      'a day no week has',
      withBroken((b) => b['rules']?.push({ id: 'x', when: { days: [8] }, then: { add: [] } })),
      ['$.rules[3].when.days[0]'],
    ],
    [
      'a day twice',
      withBroken((b) => b['rules']?.push({ id: 'x', when: { days: [6, 6] }, then: { add: [] } })),
      ['$.rules[3].when.days[1]'],
    ],
    ['a tool twice', withBroken((b) => b['tools']?.push('bold')), ['$.tools[3]']],
    [
      'a role that is not there',
      withBroken((b) => b['roles']?.push({ id: 'x', extends: ['y'] })),
      ['$.roles[2].extends[0]'],
    ],
    [
      'a layout that is not there',
      withBroken((b) => b['pages']?.push({ id: 'x', parent: 'home', layout: 'no', state: 'draft' })),
      ['$.pages[2].layout'],
    ],
    [
      'a set that is not there',
      withBroken((b) => b['rules']?.push({ id: 'x', when: {}, then: { use: 'no' } })),
      ['$.rules[3].then.use'],
    ],
    [
      'a tool that is not there',
      withBroken((b) => b['rules']?.push({ id: 'x', when: {}, then: { add: ['no'] } })),
      ['$.rules[3].then.add[0]'],
    ],
    [
      'a rule that does two things',
      withBroken((b) => b['rules']?.push({ id: 'x', when: {}, then: { add: [], take: [] } })),
      ['$.rules[3].then'],
    ],
    [
      'a rule that does nothing',
      withBroken((b) => b['rules']?.push({ id: 'x', when: {}, then: {} })),
      ['$.rules[3].then'],
    ],
    [
      'a field no layout has',
      withBroken((b) => b['rules']?.push({ id: 'x', when: { fields: ['no'] }, then: { add: [] } })),
      ['$.rules[3].when.fields[0]'],
    ],
    [
      'sets in a circle',
      withBroken(
        (b) =>
          (b['profiles'] = [
            { id: 'all', base: 'b', add: [], take: [] },
            { id: 'b', base: 'all', add: [], take: [] },
          ]),
      ),
      ['$.profiles[1].base'],
    ],
    [
      'pages in a circle',
      withBroken(
        (b) =>
          (b['pages'] = [
            { id: 'home', parent: 'quay', layout: 'plain', state: 's' },
            { id: 'quay', parent: 'home', layout: 'plain', state: 's' },
          ]),
      ),
      ['$.pages[1].parent'],
    ],
    [
      'roles in a circle',
      withBroken(
        (b) =>
          (b['roles'] = [
            { id: 'desk', extends: ['base'] },
            { id: 'base', extends: ['desk'] },
          ]),
      ),
      ['$.roles[1].extends'],
    ],
    [
      'an instant without its offset',
      withBroken((b) => (b['people'] = [{ id: 'ana', assignments: [{ role: 'desk', from: '2026-01-01T00:00:00' }] }])),
      ['$.people[0].assignments[0].from'],
    ],
  ])('a bundle with %s is refused by its path', (_, bundle, paths) => {
    const opened = openToolBundle(bundle);
    expect(opened.ok ? [] : opened.faults.map((fault) => fault.path)).toEqual(paths);
  });
  it('a question about nobody, nowhere or no field is refused by its path', () => {
    const opened = openToolBundle(small());
    if (!opened.ok) throw new Error('the bundle is broken');
    const read = readToolQuestion(opened, { person: 'x', page: 'y', field: 'z', at: '2026-11-27T12:00:00Z' });
    expect(read.ok ? [] : read.faults.map((fault) => fault.path)).toEqual(['$.person', '$.page', '$.field']);
    expect(readToolQuestion(opened, { person: 'ana', page: 'home', field: 'body', at: 'noon' })).toMatchObject({
      ok: false,
      faults: [{ path: '$.at' }],
    });
  });

  it('are answered on the command line, or nothing is', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'toolbar-')), 'bundle.json');
    writeFileSync(file, JSON.stringify(small()));
    const run = (input: string, bundle = file) =>
      spawnSync(process.execPath, ['--import', 'tsx', 'scripts/cli.ts', 'toolbar', '--bundle', bundle], {
        input,
        encoding: 'utf8',
        env: { PATH: process.env['PATH'] },
      });
    const question = { person: 'ana', page: 'quay', field: 'summary', at: '2026-11-27T12:00:00Z' };
    const done = run(`${JSON.stringify(question)}\n\n${JSON.stringify({ ...question, field: 'body' })}\n`);
    expect([done.status, done.stderr]).toEqual([0, '']);
    const answers = done.stdout
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { tools: string[]; because: unknown[] });
    expect(answers.map((answer) => answer.tools)).toEqual([['bold'], ['bold', 'link']]);
    expect(answers[1]?.because).toEqual([
      { rule: 'everybody', role: 'desk', did: 'use', tools: ['bold', 'link', 'table'] },
      { rule: 'no-tables', role: 'desk', did: 'take', tools: ['table'] },
      { tool: 'table', rule: 'no-tables', why: 'taken' },
    ]);
    const bad = run(`${JSON.stringify(question)}\n{"person":"ana"}\n`);
    expect([bad.status, bad.stdout, bad.stderr.split('\n').length]).toEqual([2, '', 4]);
    writeFileSync(file, JSON.stringify({ ...small(), tools: [] }));
    const broken = run(JSON.stringify(question));
    expect([broken.status, broken.stdout, broken.stderr.split('\n')[0]]).toEqual([
      2,
      '',
      '$.profiles[0].add[0]: there is no tool "bold"',
    ]);
  });
});
