import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareContent, type Field, type FieldValue, type Layout, type PageContent } from '@/core/content';

// Whatever becomes visible to visitors stood on the screen of the second look, whichever layout, field or tool brings
// it up. Layouts,
// fields and contents are generated; every value has words of its own, so that it can be told where they stand.
const POOL: Field[] = [
  { id: 'title', kind: 'short', name: 'Title', max: 200, required: true },
  { id: 'lead', kind: 'long', name: 'Lead', max: 400 },
  { id: 'body', kind: 'rich', name: 'Text' },
  { id: 'more', kind: 'rich', name: 'More' },
  { id: 'aside', kind: 'long', name: 'Aside', max: 400 },
  { id: 'link', kind: 'link', name: 'Link' },
  {
    id: 'times',
    kind: 'list',
    name: 'Times',
    entry: 'Time',
    of: [
      { id: 'day', name: 'Day', max: 80 },
      { id: 'hours', name: 'Hours', max: 80 },
    ],
    most: 9,
  },
  { id: 'parts', kind: 'pieces', name: 'Parts', regions: [{ id: 'main', name: 'Main' }], most: 9 },
  { id: 'price', kind: 'number', name: 'Price', min: 0, max: 1e9 },
  { id: 'shot', kind: 'picture', name: 'Picture' },
];
const layoutsOf = (subsets: Field[][]): ReadonlyMap<string, Layout> =>
  new Map(
    subsets.map((fields, i) => [
      `l${i}`,
      { id: `l${i}`, name: `Layout ${i}`, purpose: '', fields: [POOL[0] as Field, ...fields] },
    ]),
  );
const words = fc.integer({ min: 100_000, max: 999_999 }).map((n) => `w${n}`);
const paragraph = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] });
const document = fc
  .array(
    fc.oneof(
      words.map(paragraph),
      words.map((text) => ({ type: 'bulletList', content: [{ type: 'listItem', content: [paragraph(text)] }] })),
      words.map((text) => ({ type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text }] })),
      words.map((text) => ({
        type: 'table',
        content: [{ type: 'tableRow', content: [{ type: 'tableCell', content: [paragraph(text)] }] }],
      })),
    ),
    { maxLength: 4 },
  )
  .map((content) => ({ type: 'doc', content: content.length ? content : [{ type: 'paragraph' }] }));
const valueOf = (field: Field): fc.Arbitrary<unknown> => {
  switch (field.kind) {
    case 'rich':
      return document;
    case 'link':
      return fc.tuple(words, words).map(([page, text]) => ({ href: `/${page}`, words: text }));
    case 'list':
      return fc.array(fc.record({ day: words, hours: words }), { maxLength: 3 });
    case 'pieces':
      return fc
        .array(fc.tuple(words, document), { maxLength: 3 })
        .map((list) =>
          list.map(([heading, text], i) => ({ id: `p${i}`, region: 'main', heading, text, picture: null })),
        );
    case 'number':
      return fc.integer({ min: 100_000, max: 999_999 });
    case 'picture':
      return words;
    default:
      return words;
  }
};
const content = (layout: fc.Arbitrary<string>) =>
  fc
    .tuple(
      layout,
      fc.record(
        Object.fromEntries(POOL.map((field) => [field.id, fc.option(valueOf(field), { nil: undefined, freq: 4 })])),
      ),
    )
    .map(([named, values]): PageContent => ({
      'page.layout': named,
      ...Object.fromEntries(Object.entries(values).filter(([, value]) => value !== undefined)),
    }));

/**
 * Every word a value says, told without any code of ours: what stands in it as text, but for what only names a part.
 */
function said(value: FieldValue | undefined): string[] {
  const found: string[] = [];
  const visit = (one: unknown, key = ''): void => {
    if (['id', 'region', 'type', 'level'].includes(key)) return;
    if (typeof one === 'string' || typeof one === 'number') found.push(...(String(one).match(/w?\d{6}/g) ?? []));
    else if (Array.isArray(one)) one.forEach((entry) => visit(entry));
    else if (one && typeof one === 'object') for (const [name, entry] of Object.entries(one)) visit(entry, name);
  };
  visit(value);
  return found;
}
const visible = (layout: Layout, page: PageContent) => new Set(layout.fields.flatMap((field) => said(page[field.id])));

describe('the second look', () => {
  it('shows as added whatever comes into sight, and as removed whatever goes out of it, by any change of words and layout', () => {
    let hidden = 0;
    fc.assert(
      fc.property(
        fc.array(fc.subarray(POOL.slice(1)), { minLength: 2, maxLength: 4 }),
        fc.nat(3),
        fc.nat(3),
        content(fc.constant('')),
        content(fc.constant('')),
        fc.boolean(),
        (subsets, a, b, before, other, kept) => {
          const layouts = layoutsOf(subsets);
          const [first, second] = [layouts.get(`l${a % subsets.length}`), layouts.get(`l${b % subsets.length}`)];
          if (!first || !second) throw new Error('no layout');
          // Half of the time only the layout changes: then what comes up was stored all the while.
          const after = kept ? before : other;
          const changes = compareContent(
            layouts,
            [first, { ...before, 'page.layout': first.id }],
            [second, { ...after, 'page.layout': second.id }],
            { picture: String, person: String, layout: String },
          );
          const told = (change: 'added' | 'removed') =>
            new Set(
              changes
                .filter((entry) => !entry.hidden && entry.changed)
                .flatMap((entry) => entry.lines)
                .filter((line) => line.change !== 'same')
                .flatMap((line) =>
                  line.pieces
                    .filter((piece) => piece.change === change)
                    .flatMap((piece) => piece.text.match(/w?\d{6}/g) ?? []),
                ),
            );
          const [was, is] = [visible(first, before), visible(second, after)];
          for (const word of is)
            if (!was.has(word)) expect(told('added'), `“${word}” comes into sight`).toContain(word);
          // What goes with its field is told where it is kept, marked as not seen.
          const away = new Set(
            changes
              .filter((entry) => entry.hidden)
              .flatMap((entry) =>
                entry.lines.flatMap((line) => line.pieces.flatMap((piece) => piece.text.match(/w?\d{6}/g) ?? [])),
              ),
          );
          for (const word of was)
            if (!is.has(word)) {
              if (away.has(word)) hidden++;
              expect([...told('removed'), ...away], `“${word}” goes out of sight`).toContain(word);
            }
        },
      ),
      { numRuns: 500, seed: 20261127 },
    );
    expect(hidden).toBeGreaterThan(100);
  });
});
