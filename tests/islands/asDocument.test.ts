import { EditorState } from '@tiptap/pm/state';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { parseDocument, plainText, type Document } from '@/core/content';
import { alert, h2, list, p, quote, steps, table } from '@/demo/write';
import { asDocument, countOf } from '@/islands/editor/asDocument';
import { chosen, COMMANDS, PLAIN, schema } from '../oracles/commands';

const SEED = 20261201;
const text: Document = {
  type: 'doc',
  content: [
    h2('Boats'),
    p('The **last boat** goes at [noon](/fares).'),
    list('rope', 'fog'),
    table(['a', 'b'], ['c', 'd']),
    steps('one', 'two'),
    quote('Žluť'),
    alert('2090-01-01', 'Gales – 👩‍👧 stay in'),
    p(''),
  ],
};
/** Read anew and whole, as the server does. */
function readWhole(state: EditorState): Document | null {
  const parsed = parseDocument(state.doc.toJSON());
  return parsed.ok ? parsed.document : null;
}

it('reads block by block what reading the whole text gives, after any commands; blocks not touched are the same', () => {
  const commands = [...Object.values(COMMANDS).flat(), ...PLAIN];
  let kept = 0;
  fc.assert(
    fc.property(
      fc.array(fc.record({ which: fc.nat(commands.length - 1), at: fc.nat(), length: fc.nat(12) }), { maxLength: 8 }),
      (steps_) => {
        let state = EditorState.create({ doc: schema.nodeFromJSON(text) });
        for (const { which, at, length } of steps_) {
          const before = state;
          state = state.apply(state.tr.setSelection(chosen(state, at % (state.doc.content.size + 1), length)));
          commands[which]?.(state, (tr) => (state = state.apply(tr)));
          const read = asDocument(state.doc);
          expect(read).toEqual(readWhole(state));
          expect(asDocument(state.doc)).toBe(read);
          state.doc.children.forEach((child, i) => {
            const was = before.doc.children.indexOf(child);
            if (was < 0) return;
            kept++;
            expect(read?.content[i]).toBe(asDocument(before.doc)?.content[was]);
          });
          // Words as a person counts them: what a white space parts and holds a letter or a figure.
          const whole = read ? plainText(read) : '';
          expect(countOf(state.doc)).toEqual({
            words: whole.split(/\s+/u).filter((word) => /[\p{L}\p{N}]/u.test(word)).length,
            characters: [...whole].length,
          });
        }
      },
    ),
    { seed: SEED, numRuns: 300 },
  );
  expect(kept).toBeGreaterThan(1000);
});

it('keeps to the limits of a whole text, though each block is within them', () => {
  const many = (count: number, words: string) =>
    schema.nodeFromJSON({ type: 'doc', content: Array.from({ length: count }, () => p(words)) });
  expect(asDocument(many(9_000, 'a'))?.content).toHaveLength(9_000);
  expect(asDocument(many(11_000, 'a'))).toBeNull();
  expect(asDocument(many(39, 'x'.repeat(10_000)))?.content).toHaveLength(39);
  expect(asDocument(many(41, 'x'.repeat(10_000)))).toBeNull();
  expect(asDocument(schema.nodeFromJSON({ type: 'doc', content: [] }))).toBeNull();
});
