import { describe, expect, it } from 'vitest';
import { parseDocument, type Document, type DocumentNode } from '@/core/content';
import { acceptChange, handsOf, plainOut, type ConstructPolicy } from '@/core/toolbar';
import { alert, h2, h3, list, p, quote, steps, table } from '@/demo/write';
import { inventory } from '../inventory';

const doc = (...blocks: DocumentNode[]): Document => ({ type: 'doc', content: blocks });
const tools = [...inventory.tools.values()];
const allButCode = tools.map((tool) => tool.id).filter((id) => id !== 'mode.code');
const handsWith = (allowed: readonly string[], policy: Record<string, ConstructPolicy> = {}) => ({
  ...handsOf(new Set(allowed), tools),
  policyOf: (construct: string): ConstructPolicy => policy[construct] ?? 'free',
});
/** The faults of a change, each as "construct why", with some tools. */
const faults = (before: Document, after: Document, allowed: readonly string[] = [], policy = {}) => {
  for (const document of [before, after]) expect(parseDocument(document)).toEqual({ ok: true, document });
  return acceptChange(before, after, handsWith(allowed, policy)).map(({ construct, why }) => `${construct} ${why}`);
};
const fares = table(['Ticket', 'Price'], ['Child', '3.70'], ['Adult', '7.40']);
const picture = (id = '1', description = 'A boat'): DocumentNode => ({
  type: 'picture',
  attrs: { id, description, width: 'full' },
});
const blank: DocumentNode = { type: 'paragraph' };
const strange = (json: string): DocumentNode => ({ type: 'unknown', attrs: { json } });
const text = (words: string, ...marks: string[]): DocumentNode => ({
  type: 'text',
  text: words,
  ...(marks.length && { marks: marks.map((type) => ({ type: type as 'bold' })) }),
});
const line = (...content: DocumentNode[]): DocumentNode => ({ type: 'paragraph', content });
const lists = (type: 'bulletList' | 'orderedList', ...items: DocumentNode[][]): DocumentNode => ({
  type,
  ...(type === 'orderedList' && { attrs: { start: 1 } }),
  content: items.map((content) => ({ type: 'listItem', content })),
});
const until = (day: string, ...words: string[]): DocumentNode => ({
  type: 'alert',
  attrs: { until: day },
  content: words.map((one) => p(one)),
});
/** A table with other rows of cells. */
const grid = (rows: (readonly [string, number?])[][], type = 'tableCell'): DocumentNode => ({
  type: 'table',
  content: rows.map((cells) => ({
    type: 'tableRow',
    content: cells.map(([words, colspan = 1]) => ({
      type: type as 'tableCell',
      attrs: { colspan, rowspan: 1, colwidth: null },
      content: [p(words)],
    })),
  })),
});

const page = doc(h2('Waiting room'), p('Heated, **24 seats** and a kiosk.'), fares, list('one', 'two'), p('The end.'));
const change = (change: (blocks: DocumentNode[]) => DocumentNode[]): Document => doc(...change([...page.content]));

describe('without any tool', () => {
  it.each<[string, Document, Document]>([
    ['writing on', page, change((b) => b.with(1, p('Heated, **24 seats** and a kiosk. Dry, too.')))],
    ['other words in a heading', page, change((b) => b.with(0, h2('The room to wait in')))],
    ['all other words in a heading', page, change((b) => b.with(0, h2('Kiosk')))],
    ['writing within bold words', page, change((b) => b.with(1, p('Heated, **24 good seats** and a kiosk.')))],
    ['typing over bold words', page, change((b) => b.with(1, p('Heated, **60 chairs** and a kiosk.')))],
    ['taking the look of words away', page, change((b) => b.with(1, p('Heated, 24 seats and a kiosk.')))],
    ['taking a block away', page, change((b) => b.slice(2))],
    ['taking everything away', page, doc(blank)],
    ['moving a heading', page, change(([a, ...b]) => [...b, a as DocumentNode])],
    ['moving a table', page, change((b) => [b[2] as DocumentNode, ...b.toSpliced(2, 1)])],
    ['moving bold words', page, change((b) => b.with(1, p('**24 seats**, heated, and a kiosk.')))],
    [
      'another word in a cell',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price'], ['Child', '3.90'], ['Adult', '7.40']))),
    ],
    ['another entry of a list', page, change((b) => b.with(3, list('one', 'one and a half', 'two')))],
    ['a list parted in two', page, change((b) => b.toSpliced(3, 1, list('one'), p('between'), list('two')))],
    [
      'a heading parted by a picture line',
      doc(h2('Quay and ramp'), p('a')),
      doc(h2('Quay '), blank, h2('and ramp'), p('a')),
    ],
    ['bold words parted by a new line', doc(p('**one two**')), doc(p('**one **'), p('**two**'))],
    [
      'bold words parted, then written on',
      doc(p('**Hello**')),
      doc(p('**Hel and much more of it**'), p('**lo and as much again**')),
    ],
    ['two lists that become one', doc(list('a'), list('b')), doc(list('a', 'b'))],
    ['pictures in another order', doc(picture('1'), picture('2')), doc(picture('2'), picture('1'))],
    ['a row of a table taken away', doc(fares), doc(table(['Ticket', 'Price'], ['Adult', '7.40']))],
    ['a column of a table taken away', doc(fares), doc(table(['Ticket'], ['Child'], ['Adult']))],
    ['a part nobody knows, moved', doc(strange('{"a":1}'), p('x')), doc(p('x'), strange('{"a":1}'))],
    ['the same word twice, one taken away', doc(p('the **the** the')), doc(p('**the** the'))],
    ['a heading that becomes plain', doc(h2('Quay'), p('a')), doc(p('Quay'), p('a'))],
  ])('is accepted: %s', (_, before, after) => {
    expect(faults(before, after)).toEqual([]);
  });

  const bold = doc(p('Sail **now** or wait for the next boat.'));
  it.each<[string, Document, Document, string]>([
    // Marks.
    ['bold on a word', bold, doc(p('Sail **now** or **wait** for the next boat.')), 'bold'],
    [
      'bold on part of a word',
      bold,
      doc(line(text('Sail '), text('now', 'bold'), text(' or w'), text('ai', 'bold'), text('t for the next boat.'))),
      'bold',
    ],
    ['bold on one letter', doc(p('Sail')), doc(line(text('S', 'bold'), text('ail'))), 'bold'],
    ['bold that spreads to the word beside', bold, doc(p('Sail **now or** wait for the next boat.')), 'bold'],
    ['bold that spreads to the word before', bold, doc(p('**Sail now** or wait for the next boat.')), 'bold'],
    ['bold that spreads to everything', bold, doc(p('**Sail now or wait for the next boat.**')), 'bold'],
    ['bold that changes its word, as often as before', bold, doc(p('Sail now or **wait** for the next boat.')), 'bold'],
    ['bold that changes its word within few letters', doc(p('**no** go on')), doc(p('no go **on**')), 'bold'],
    ['bold on a paragraph that was written new', bold, doc(...bold.content, p('**New words**')), 'bold'],
    ['bold in two new places for one that is gone', doc(p('a **b** c')), doc(p('x **y** z **w** v')), 'bold'],
    [
      'bold within a cell',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price'], ['Child', '**3.70**'], ['Adult', '7.40']))),
      'bold',
    ],
    ['bold within a heading', page, change((b) => b.with(0, h2('Waiting **room**'))), 'bold'],
    ['bold within an entry', page, change((b) => b.with(3, list('**one**', 'two'))), 'bold'],
    ['italic where bold was', bold, doc(p('Sail _now_ or wait for the next boat.')), 'italic'],
    [
      'italic added to bold',
      bold,
      doc(line(text('Sail '), text('now', 'bold', 'italic'), text(' or wait for the next boat.'))),
      'italic',
    ],
    [
      'bold over a break',
      doc(line(text('a'), { type: 'hardBreak' }, text('b'))),
      doc(line(text('a', 'bold'), { type: 'hardBreak' }, text('b', 'bold'))),
      'bold',
    ],
    // Links.
    ['a link', page, change((b) => b.with(1, p('[Heated](/x), **24 seats** and a kiosk.'))), 'link'],
    ['a link that leads elsewhere', doc(p('See [fares](/fares).')), doc(p('See [fares](/cheap).')), 'link'],
    [
      'a link to another website',
      doc(p('See [fares](/fares).')),
      doc(p('See [fares](https://larkhaven.example).')),
      'link',
    ],
    [
      'a link that becomes a mail address',
      doc(p('[Ask](https://a.example)')),
      doc(p('[Ask](mailto:a@b.example)')),
      'link',
    ],
    ['a link to another part of the page', doc(p('[Ask](/fares)')), doc(p('[Ask](/fares#child)')), 'link'],
    ['a link on further words', doc(p('See [fares](/fares) today.')), doc(p('See [fares today](/fares).')), 'link'],
    [
      'a second link to the same',
      doc(p('See [fares](/fares) today.')),
      doc(p('[See](/fares) [fares](/fares) today.')),
      'link',
    ],
    ['two links that change places', doc(p('[a](/a) and [b](/b)')), doc(p('[a](/b) and [b](/a)')), 'link'],
    // Headings.
    ['a heading', page, change((b) => [...b, h2('New')]), 'heading'],
    ['a small heading', page, change((b) => [...b, h3('New')]), 'heading'],
    ['a paragraph that becomes a heading', page, change((b) => b.with(4, h2('The end.'))), 'heading'],
    ['a heading of another level', page, change((b) => b.with(0, h3('Waiting room'))), 'heading'],
    [
      'a heading and a paragraph that change places as to look',
      doc(h2('Quay'), p('Ramp')),
      doc(p('Quay'), h2('Ramp')),
      'heading',
    ],
    [
      'a paragraph drawn into a heading',
      doc(h2('Quay'), p('and the ramp beside it')),
      doc(h2('Quay and the ramp beside it')),
      'heading',
    ],
    ['an empty heading', doc(p('a')), doc(p('a'), { type: 'heading', attrs: { level: 2 } }), 'heading'],
    [
      'a heading in an entry',
      page,
      change((b) => b.with(3, lists('bulletList', [p('one'), h2('x')], [p('two')]))),
      'heading',
    ],
    // Lists.
    ['a list', page, change((b) => [...b, list('x')]), 'bulletList'],
    ['a paragraph that becomes a list', page, change((b) => b.with(4, list('The end.'))), 'bulletList'],
    [
      'a paragraph drawn into a list',
      doc(list('one'), p('Something quite different')),
      doc(list('one', 'Something quite different')),
      'bulletList',
    ],
    ['a numbered list where one with dots was', page, change((b) => b.with(3, steps('one', 'two'))), 'orderedList'],
    ['two lists of two kinds that become one', doc(list('one'), steps('two')), doc(list('one', 'two')), 'bulletList'],
    [
      'a list that begins at another number',
      doc(steps('one')),
      doc({ ...steps('one'), attrs: { start: 7 } }),
      'orderedList',
    ],
    [
      'a list within an entry',
      doc(list('one', 'two')),
      doc(lists('bulletList', [p('one'), lists('bulletList', [p('two')])])),
      'bulletList',
    ],
    [
      'a list within an entry, of new words',
      doc(list('one')),
      doc(lists('bulletList', [p('one'), lists('bulletList', [p('new')])])),
      'bulletList',
    ],
    [
      'a numbered list within an entry',
      doc(list('one')),
      doc(lists('bulletList', [p('one'), lists('orderedList', [p('new')])])),
      'orderedList',
    ],
    [
      'a list in a cell',
      doc(grid([['a']].map((row) => row.map((one) => [one] as const)))),
      doc({
        type: 'table',
        content: [
          {
            type: 'tableRow',
            content: [{ type: 'tableCell', attrs: { colspan: 1, rowspan: 1, colwidth: null }, content: [list('a')] }],
          },
        ],
      }),
      'bulletList',
    ],
    // Quotes and boxes.
    ['a quote', page, change((b) => [...b, quote('x')]), 'blockquote'],
    ['a paragraph that becomes a quote', page, change((b) => b.with(4, quote('The end.'))), 'blockquote'],
    ['a quote around everything', page, doc({ type: 'blockquote', content: page.content }), 'blockquote'],
    ['a second quote beside one', doc(quote('Said so')), doc(quote('Said so'), quote('Said so')), 'blockquote'],
    ['a second heading beside one', doc(h2('Quay'), p('a')), doc(h2('Quay'), h2('Ramp'), p('a')), 'heading'],
    ['a second list beside one', doc(list('one')), doc(list('one'), list('two')), 'bulletList'],
    [
      'a quote within a quote',
      doc(quote('Said so')),
      doc({ type: 'blockquote', content: [quote('Said so')] }),
      'blockquote',
    ],
    [
      'a paragraph drawn into a quote',
      doc(quote('Said so'), p('Nobody said this')),
      doc({ type: 'blockquote', content: [p('Said so'), p('Nobody said this')] }),
      'blockquote',
    ],
    ['a box', page, change((b) => [...b, { type: 'highlight', content: [p('x')] }]), 'highlight'],
    [
      'a paragraph that comes into a box',
      page,
      change((b) => b.with(4, { type: 'highlight', content: [p('The end.')] })),
      'highlight',
    ],
    [
      'a box that becomes an alert',
      doc({ type: 'highlight', content: [p('Mind the gap')] }),
      doc(until('2030-01-01', 'Mind the gap')),
      'alert',
    ],
    ['an alert', page, change((b) => [...b, alert('2030-01-01', 'Mind the gap')]), 'alert'],
    [
      'an alert that stays longer',
      doc(until('2030-01-01', 'Mind the gap')),
      doc(until('2031-01-01', 'Mind the gap')),
      'alert',
    ],
    [
      'a list in a box',
      doc({ type: 'highlight', content: [p('a')] }),
      doc({ type: 'highlight', content: [p('a'), list('b')] }),
      'bulletList',
    ],
    // Pictures and parts nobody knows.
    ['a picture', page, change((b) => [...b, picture()]), 'picture'],
    ['another picture', doc(picture('1')), doc(picture('2')), 'picture'],
    ['the same picture twice', doc(picture()), doc(picture(), picture()), 'picture'],
    ['another description of a picture', doc(picture('1', 'A boat')), doc(picture('1', 'A buoy')), 'picture'],
    [
      'a narrower picture',
      doc(picture()),
      doc({ type: 'picture', attrs: { id: '1', description: 'A boat', width: 'half' } }),
      'picture',
    ],
    ['a picture in an entry', doc(list('a')), doc(lists('bulletList', [p('a'), picture()])), 'picture'],
    [
      'the same picture twice in an entry',
      doc(lists('bulletList', [p('a'), picture()])),
      doc(lists('bulletList', [p('a'), picture(), picture()])),
      'picture',
    ],
    ['a part nobody knows', page, change((b) => [...b, strange('{"type":"film"}')]), 'unknown'],
    ['another part nobody knows', doc(strange('{"a":1}')), doc(strange('{"a":2}')), 'unknown'],
    [
      'a part nobody knows within a line',
      doc(p('a')),
      doc(line(text('a'), { type: 'unknownInline', attrs: { json: '{"a":1}' } })),
      'unknownInline',
    ],
    // Tables.
    ['a table', page, change((b) => [...b, table(['a'], ['b'])]), 'table'],
    [
      'a table parted in two',
      page,
      change((b) => b.toSpliced(2, 1, table(['Ticket', 'Price'], ['Child', '3.70']), table(['Adult', '7.40']))),
      'table',
    ],
    [
      'a row more',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price'], ['Child', '3.70'], ['Adult', '7.40'], ['Dog', '1.00']))),
      'table',
    ],
    [
      'a column more',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price', 'Return'], ['Child', '3.70', '5'], ['Adult', '7.40', '9']))),
      'table',
    ],
    ['joined cells', doc(grid([[['a'], ['b']]])), doc(grid([[['a', 2]]])), 'table'],
    [
      'cells that become a heading of the table',
      doc(grid([[['a'], ['b']]])),
      doc(grid([[['a'], ['b']]], 'tableHeader')),
      'table',
    ],
    ['the same table twice', doc(fares), doc(fares, fares), 'table'],
    [
      'a table within a cell',
      doc(grid([[['a']]])),
      doc({
        type: 'table',
        content: [
          {
            type: 'tableRow',
            content: [
              {
                type: 'tableCell',
                attrs: { colspan: 1, rowspan: 1, colwidth: null },
                content: [p('a'), grid([[['b']]])],
              },
            ],
          },
        ],
      }),
      'table',
    ],
    ['a paragraph that becomes a table', doc(p('a'), fares), doc(table(['a']), fares), 'table'],
  ])('is refused: %s', (_, before, after, construct) => {
    expect(faults(before, after)).toContain(`${construct} new`);
    // With every tool, and with the code view, nothing is.
    expect(faults(before, after, [...allButCode, 'mode.code'])).toEqual([]);
    const isStrange = construct.startsWith('unknown');
    expect(faults(before, after, allButCode)).toEqual(isStrange ? [`${construct} new`] : []);
  });
});

it('one tool at hand makes its own kind alone', () => {
  const more = (...blocks: DocumentNode[]) => doc(p('a'), ...blocks);
  expect(faults(more(), more(h2('x')), ['heading.2'])).toEqual([]);
  expect(faults(more(), more(h3('x')), ['heading.2'])).toEqual(['heading new']);
  const kinds = {
    page: '/fares',
    file: '/media/ab',
    web: 'https://a.example',
    mail: 'mailto:a@b.example',
    phone: 'tel:1',
  };
  for (const [kind, href] of Object.entries(kinds))
    for (const tool of Object.keys(kinds))
      expect(faults(more(), more(p(`[x](${href})`)), [`link.${tool}`]), `${kind} with ${tool}`).toEqual(
        kind === tool ? [] : ['link new'],
      );
  const rows = [table(['a'], ['b']), table(['a'], ['b'], ['c'])] as const;
  expect(faults(doc(rows[0]), doc(rows[1]), ['table.rows'])).toEqual([]);
  expect(faults(doc(blank), doc(rows[1]), ['table.rows'])).toEqual(['table new']);
  // Also where tables are kept whole, as is usual: one has to be there, whatever rows it has.
  expect(faults(doc(rows[0]), doc(rows[1]), ['table.rows'], { table: 'whole' })).toEqual([]);
  expect(faults(doc(rows[1]), doc(rows[0]), ['table.rows'], { table: 'whole' })).toEqual([]);
  expect(faults(doc(rows[0]), doc(p('a')), ['table.rows'], { table: 'whole' })).toEqual(['table gone']);
  expect(faults(doc(rows[0], rows[0]), doc(rows[1]), ['table.rows'], { table: 'whole' })).toEqual(['table changed']);
});

describe('what had to stay', () => {
  const whole = { table: 'whole', heading: 'whole', bold: 'whole', picture: 'whole' };
  const words = { table: 'words', heading: 'words', bold: 'words', bulletList: 'words', link: 'words' };
  it.each<[string, Document, Document, object, string[]]>([
    ['a whole table, moved', page, change((b) => [b[2] as DocumentNode, ...b.toSpliced(2, 1)]), whole, []],
    [
      'a whole table with another word',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price'], ['Child', '0'], ['Adult', '7.40']))),
      whole,
      ['table changed'],
    ],
    ['a whole table that is gone', page, change((b) => b.toSpliced(2, 1)), whole, ['table gone']],
    ['one of twins', doc(fares, fares), doc(fares), whole, ['table gone']],
    [
      'a whole heading with another word',
      page,
      change((b) => b.with(0, h2('The waiting room'))),
      whole,
      ['heading changed'],
    ],
    ['a whole heading, and words elsewhere', page, change((b) => b.with(4, p('Or not.'))), whole, []],
    [
      'whole bold words, written on',
      page,
      change((b) => b.with(1, p('Heated, **24 seats more** and a kiosk.'))),
      whole,
      ['bold changed'],
    ],
    [
      'a whole heading in two pieces that say the same',
      doc(h2('Quay')),
      doc({ ...h2(''), content: [text('Qu'), text('ay')] }),
      whole,
      [],
    ],
    ['a whole picture that is gone', doc(picture(), p('a')), doc(p('a')), whole, ['picture gone']],
    [
      'other words in a table',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price'], ['Dog', '0'], ['Cat', '7.40']))),
      words,
      [],
    ],
    [
      'a row of a table taken away',
      page,
      change((b) => b.with(2, table(['Ticket', 'Price'], ['Adult', '7.40']))),
      words,
      ['table changed'],
    ],
    ['other words in a heading', page, change((b) => b.with(0, h2('Kiosk'))), words, []],
    ['a heading that is gone', page, change((b) => b.slice(1)), words, ['heading gone']],
    ['bold words typed over', page, change((b) => b.with(1, p('Heated, **60 chairs** and a kiosk.'))), words, []],
    [
      'bold words that become plain',
      page,
      change((b) => b.with(1, p('Heated, 24 seats and a kiosk.'))),
      words,
      ['bold gone'],
    ],
    ['an entry of a list taken away', page, change((b) => b.with(3, list('one'))), words, ['bulletList changed']],
    ['other words of a link', doc(p('[x](/a) b')), doc(p('[xy](/a) b')), words, []],
    ['a heading parted in two', doc(h2('Quay and ramp')), doc(h2('Quay '), h2('and ramp')), words, ['heading changed']],
  ])('%s', (_, before, after, policy, expected) => {
    expect(faults(before, after, [], policy)).toEqual(expected);
    // Whoever has the tools has a free hand.
    expect(
      faults(
        before,
        after,
        tools.map((tool) => tool.id),
        policy,
      ),
    ).toEqual([]);
  });
});

it('what stands in another text one began with, or went back to, is not new', () => {
  const [before, once] = [doc(p('a')), doc(p('a'), h2('Quay'), p('**b**'))];
  const after = doc(p('a'), h2('Quay'), p('and more'));
  expect(acceptChange(before, after, handsWith([])).length).toBe(1);
  expect(acceptChange(before, after, handsWith([]), [before, once])).toEqual([]);
  expect(acceptChange(before, doc(...after.content, h3('x')), handsWith([]), [before, once])).toMatchObject([
    { construct: 'heading', why: 'new', path: '/content/3' },
  ]);
});

it('two long texts of any look are compared', () => {
  const long = (seed: number, look: (i: number) => string) =>
    doc(
      ...Array.from({ length: 400 }, (_, i) =>
        p(Array.from({ length: 25 }, (_, k) => `w${(i * 31 + k * 7 + seed) % 97}`).join(' ') + look(i)),
      ),
    );
  const none = () => '';
  expect(
    faults(
      long(0, (i) => (i % 2 === 0 ? ' **loud**' : '')),
      long(5, none),
    ),
  ).toEqual([]);
  expect(
    faults(
      long(0, none),
      long(5, (i) => (i === 200 ? ' **loud**' : '')),
    ),
  ).toEqual(['bold new']);
  // Each link is a look of its own: past what comparing may cost their letters are counted.
  const links = (from: number) => long(from, (i) => ` [a${i}](/${from + i}) [b${i}](/${from}/${i})`);
  expect(faults(links(0), links(5)).length).toBeGreaterThan(100);
  expect(faults(links(0), doc(p('x'), ...links(0).content.toReversed()))).toEqual([]);
});

describe('pasting', () => {
  it('turns what cannot be made here into plain text and says what', () => {
    const { nodes, dropped } = plainOut(
      new Set(['bold', 'link.web']),
      tools,
      doc(h2('Fares'), p('**from** [here](/x) or [there](https://a.example)'), list('one', 'two'), fares).content,
    );
    expect(nodes.every((n) => n.type === 'paragraph')).toBe(true);
    expect(dropped.sort()).toEqual(['Heading', 'Link to a page', 'List', 'Table']);
    expect(faults(doc(blank), { type: 'doc', content: nodes }, ['bold', 'link.web'])).toEqual([]);
  });
  it('leaves alone what can be made', () => {
    const given = doc(h2('a'), list('b'), fares).content;
    expect(plainOut(new Set(tools.map((t) => t.id)), tools, given)).toEqual({ nodes: given, dropped: [] });
  });
});
