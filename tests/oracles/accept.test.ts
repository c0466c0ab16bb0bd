import { spawnSync } from 'node:child_process';
import { lift } from '@tiptap/pm/commands';
import type { Node } from '@tiptap/pm/model';
import { EditorState, TextSelection } from '@tiptap/pm/state';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documentOf, type Document } from '@/core/content';
import { acceptChange, handsOf } from '@/core/toolbar';
import { HOME } from '@/demo/pages';
import { alert, h2, h3, highlight, list, p, quote, steps, table } from '@/demo/write';
import { chosen, clean, COMMANDS, isWithin, mark, PLAIN, schema, tools } from './commands';

const SEED = 20261127;
/** Texts of the demo, and one that holds everything a text can hold. */
const TEXTS: Document[] = [];
const visit = (page: typeof HOME) => {
  const body = page.body ?? documentOf(page.fields ?? {}, 'body');
  if (body.content.length > 1) TEXTS.push(body);
  page.below?.forEach(visit);
};
visit(HOME);
TEXTS.push({
  type: 'doc',
  content: [
    h2('Fares and **times**'),
    p('See [fares](/fares), **now _or_ never**, and [us](https://larkhaven.example).'),
    list('one **two** three', 'four [five](/x)', 'six'),
    steps('seven', 'eight'),
    quote('nine **ten**'),
    h3('Small'),
    highlight('eleven'),
    alert('2090-01-01', 'twelve'),
    { type: 'picture', attrs: { id: '1', description: 'A boat', width: 'half' } },
    table(['a', 'b'], ['**c**', 'd'], ['e', 'f']),
    { type: 'unknown', attrs: { json: '{"type":"film"}' } },
    p('The end.'),
  ],
});

describe('what a toolbar does', () => {
  // Oracle: ProseMirror's model and commands (prosemirror-model, -commands, -schema-list, -tables).
  it(`is accepted, in any order, on any text (seed ${SEED})`, () => {
    const done = new Map<string, number>();
    const step = fc.record({
      from: fc.double({ min: 0, max: 1, noNaN: true }),
      length: fc.nat(14),
      tool: fc.nat(),
      which: fc.nat(),
    });
    fc.assert(
      fc.property(
        fc.constantFrom(...TEXTS),
        fc.subarray(Object.keys(COMMANDS), { minLength: 1 }),
        fc.array(step, { minLength: 1, maxLength: 8 }),
        (before, allowed, steps) => {
          let state = EditorState.create({ schema, doc: schema.nodeFromJSON(before) });
          const log: string[] = [];
          for (const { from, length, tool, which } of steps) {
            const start = Math.floor(from * state.doc.content.size);
            const selection = chosen(state, start, length);
            state = state.apply(state.tr.setSelection(selection));
            const name = tool % 3 === 0 ? 'keys' : (allowed[tool % allowed.length] ?? '');
            const commands = name === 'keys' ? PLAIN : (COMMANDS[name] ?? []);
            const command = commands[which % commands.length];
            if (!command) continue;
            const was = state;
            try {
              command(state, (tr) => void (state = state.apply(tr)));
              clean(state.doc);
            } catch {
              // What the schema or its limits do not hold is refused by other means.
              state = was;
            }
            if (state.doc.eq(was.doc)) continue;
            done.set(name, (done.get(name) ?? 0) + 1);
            log.push(`${name}[${which % commands.length}] at ${selection.from}–${selection.to}`);
          }
          const hands = { ...handsOf(new Set(allowed), tools), policyOf: () => 'free' as const };
          const faults = acceptChange(clean(schema.nodeFromJSON(before)), clean(state.doc), hands);
          expect(faults, `${log.join(', ')}\n${state.doc.toString()}`).toEqual([]);
        },
      ),
      { seed: SEED, numRuns: 4000 },
    );
    // Every tool, and the keys, did something often.
    for (const name of [...Object.keys(COMMANDS), 'keys']) expect(done.get(name) ?? 0, name).toBeGreaterThan(50);
  });

  it(`is refused where a tool it took is not at hand (seed ${SEED})`, () => {
    let refused = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...TEXTS),
        fc.constantFrom(
          'bold',
          'italic',
          'link.page',
          'heading.2',
          'heading.3',
          'bullets',
          'numbers',
          'quote',
          'picture',
        ),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 1, max: 14 }),
        (before, tool, from, length) => {
          let state = EditorState.create({ schema, doc: schema.nodeFromJSON(before) });
          const start = Math.floor(from * state.doc.content.size);
          const selection = chosen(state, start, length);
          state = state.apply(state.tr.setSelection(selection));
          const words = state.doc.textBetween(selection.from, selection.to, '\n', ' ').trim();
          if (words === '' || !isWithin(state)) return;
          const was = state;
          COMMANDS[tool]?.[0]?.(state, (tr) => void (state = state.apply(tr)));
          let after: Document;
          try {
            after = clean(state.doc);
          } catch {
            return;
          }
          const others = new Set(tools.map((one) => one.id).filter((id) => id !== tool && id !== 'mode.code'));
          const faults = acceptChange(clean(was.doc), after, handsOf(others, tools));
          const hadIt = (doc: Node) => JSON.stringify(doc.toJSON());
          // Taking a look away is no making.
          const isMore =
            !state.doc.eq(was.doc) &&
            (['heading.2', 'heading.3', 'bullets', 'numbers', 'quote', 'picture'].includes(tool) ||
              !state.doc.rangeHasMark(selection.from, selection.to, mark(tool.split('.')[0] ?? '')) === false) &&
            hadIt(state.doc).length > hadIt(was.doc).length;
          if (!isMore) return;
          refused++;
          expect(
            faults.filter((fault) => fault.why === 'new'),
            `${tool} at ${selection.from}–${selection.to}: ${state.doc.toString()}`,
          ).not.toEqual([]);
        },
      ),
      { seed: SEED, numRuns: 3000 },
    );
    expect(refused).toBeGreaterThan(300);
  });
  it('is lifted out of a box by nobody’s tool, and still accepted', () => {
    const before: Document = { type: 'doc', content: [quote('a'), p('b')] };
    let state = EditorState.create({ schema, doc: schema.nodeFromJSON(before) });
    state = state.apply(state.tr.setSelection(TextSelection.create(state.doc, 3)));
    lift(state, (tr) => void (state = state.apply(tr)));
    expect(acceptChange(clean(schema.nodeFromJSON(before)), clean(state.doc), handsOf(new Set(), tools))).toEqual([]);
  });
});

it('is answered on the command line, or nothing is', () => {
  const run = (input: string) =>
    spawnSync(process.execPath, ['--import', 'tsx', 'scripts/cli.ts', 'accept'], {
      input,
      encoding: 'utf8',
      env: { PATH: process.env['PATH'] },
    });
  const doc = (...content: object[]) => ({ type: 'doc', content });
  const line = (question: object) => `${JSON.stringify(question)}\n`;
  const done = run(
    line({ before: doc(p('a')), after: doc(p('a'), h2('b')), tools: ['heading.2'] }) +
      '\n' +
      line({ before: doc(p('a')), after: doc(p('a'), h2('b')), tools: ['bold', 'mode.preview'] }) +
      line({ before: doc(h2('b')), after: doc(h2('c')), tools: [], policy: { heading: 'whole' } }) +
      line({ before: doc(h2('b')), after: doc(h3('c')), tools: ['mode.code'], policy: { heading: 'whole' } }) +
      line({ before: doc(h2('b')), after: doc(h2('b'), { type: 'tableRow' }), tools: ['mode.code'] }),
  );
  expect([done.status, done.stderr]).toEqual([0, '']);
  expect(
    done.stdout
      .trim()
      .split('\n')
      .map((answer) => JSON.parse(answer) as unknown),
  ).toEqual([
    { accepted: true, faults: [] },
    { accepted: false, faults: [{ construct: 'heading', path: '/content/1', why: 'new' }] },
    { accepted: false, faults: [{ construct: 'heading', path: '/content/0', why: 'changed' }] },
    { accepted: true, faults: [] },
    { accepted: false, faults: [{ construct: 'doc', path: '/content/1', why: 'unfit' }] },
  ]);
  const bad = run(
    line({ before: doc(p('a')), after: doc(p('a')), tools: ['moon', 'bold', 'bold'], policy: { sun: 'free' } }) +
      line({ before: doc({ type: 'tableRow' }), after: 1, tools: [] }) +
      line({ before: doc(p('a')), tools: 1, policy: { table: 'gone' } }),
  );
  expect([bad.status, bad.stdout]).toEqual([2, '']);
  expect(
    bad.stderr
      .trim()
      .split('\n')
      .map((told) => told.split(': ')[0]),
  ).toEqual([
    'line 1, $.tools[0]',
    'line 1, $.tools[2]',
    'line 1, $.policy.sun',
    'line 2, $.before.content[0]',
    'line 2, $.after',
    'line 3, $.after',
    'line 3, $.tools',
    'line 3, $.policy.table',
  ]);
});
