import { describe, expect, it } from 'vitest';
import type { Document } from '@/core/content';
import { constructsOf, losesProtected, mergeConstructs, missingTools, plainOut } from '@/core/toolbar';
import { inventory } from '@/office';
import { alert, doc, h2, h3, list, p, quote, steps, table } from '@/demo/write';

const tools = [...inventory.tools.values()];
const missing = (allowed: string[], before: Document, after: Document) =>
  missingTools(new Set(allowed), tools, constructsOf(before), after).map((t) => t.id);
const fares = table(['Ticket', 'Price'], ['Child', '3.70']);

describe('what a text holds that tools make', () => {
  it('is counted by kind, links by where they lead, tables by all they hold', () => {
    const counts = constructsOf(doc(h2('a'), h3('b'), p('**c** d **e** [f](/fares)'), list('x', 'y'), fares));
    expect(counts).toMatchObject({ heading: 2, bold: 2, 'link:/fares': 1, bulletList: 1 });
    expect(Object.keys(counts).filter((k) => k.startsWith('table:'))).toHaveLength(1);
  });
  it('counts a mark once that runs on over a line break, anew in a new paragraph, and the letters it stands on', () => {
    expect(
      constructsOf({
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'a', marks: [{ type: 'bold' }] },
              { type: 'hardBreak' },
              { type: 'text', text: 'b', marks: [{ type: 'bold' }] },
            ],
          },
          p('**c**'),
        ],
      }),
    ).toEqual({ bold: 2, 'letters bold': 3 });
  });
});

describe('a mark nobody can make', () => {
  const link = (...texts: string[]): Document => ({
    type: 'doc',
    content: texts.map((text) => ({
      type: 'paragraph',
      content: [{ type: 'text', text, marks: [{ type: 'link', attrs: { href: '/fares' } }] }],
    })),
  });
  const missing = (after: Document) =>
    missingTools(new Set(['bold']), [...inventory.tools.values()], constructsOf(link('See all our fares')), after).map(
      (tool) => tool.id,
    );
  it.each([
    ['may be parted in two by a new line', link('See all', ' our fares'), []],
    ['may be written on', link('See all our new fares for the summer'), []],
    ['may be shortened', link('See fares'), []],
    ['may not spread over further paragraphs', link('See all our fares', 'and more', 'and more', 'and more'), ['link']],
    ['may not stand where it never stood', doc(p('[x](/elsewhere)')), ['link']],
  ] as [string, Document, string[]][])('%s', (_, after, expected) => {
    expect(missing(after)).toEqual(expected);
  });
  it('a part that is not known comes in by the code view alone', () => {
    const strange = (json: string): Document => ({ type: 'doc', content: [{ type: 'unknown', attrs: { json } }] });

    const all = new Set(tools.map((tool) => tool.id));
    expect(missingTools(all, tools, {}, strange('{"a":1}')).map((tool) => tool.id)).toEqual(['mode.code']);
    expect(
      missingTools(all, tools, constructsOf(strange('{"a":1}')), strange('{"a":2}')).map((tool) => tool.id),
    ).toEqual(['mode.code']);
    expect(missingTools(all, tools, constructsOf(strange('{"a":1}')), strange('{"a":1}'))).toEqual([]);
    expect(missingTools(new Set([...all, 'mode.code']), tools, {}, strange('{"a":1}'))).toEqual([]);
  });
  it('twin tables, pictures and alerts are each asked for', () => {
    const twins = doc(table(['To'], ['Skell']), table(['To'], ['Skell']));
    const none = new Set<string>();

    expect(losesProtected(none, tools, twins, doc(table(['To'], ['Skell'])))).toBe(true);
    expect(losesProtected(new Set(['table']), tools, twins, doc(p('')))).toBe(false);
    const picture: Document = {
      type: 'doc',
      content: [{ type: 'picture', attrs: { id: '1', description: 'A boat', width: 'full' } }],
    };
    expect(losesProtected(none, tools, picture, doc(p('')))).toBe(true);
    // With the tool it may be changed and taken away, whichever kind is asked about first.
    expect(losesProtected(new Set(['picture']), tools, picture, doc(p('')))).toBe(false);
    expect(losesProtected(new Set(['picture']), tools, doc(table(['To'], ['Skell'])), doc(p('')))).toBe(true);
    expect(missingTools(none, tools, {}, doc(alert('2030-01-01', 'Mind the gap'))).map((tool) => tool.id)).toEqual([
      'alert',
    ]);
  });
});

describe('what needs a tool the toolbar has not', () => {
  const before = doc(h2('Waiting room'), p('Heated, **24 seats**.'), fares, list('one'));
  it.each([
    ['typing', doc(h2('Waiting room'), p('Heated, **24 seats**, dry.'), fares, list('one')), []],
    [
      'changing words in a heading and in bold',
      doc(h2('The waiting room'), p('Heated, **30 seats**.'), fares, list('one')),
      [],
    ],
    ['taking things away', doc(p('Heated.')), []],
    ['a new heading', doc(h2('Waiting room'), h3('More'), p('Heated, **24 seats**.'), fares, list('one')), ['heading']],
    ['new bold words', doc(h2('Waiting room'), p('**Heated**, **24 seats**.'), fares, list('one')), ['bold']],
    ['a link', doc(h2('Waiting room'), p('[Heated](/x)'), fares, list('one')), ['link']],
    [
      'a changed table',
      doc(h2('Waiting room'), p('Heated'), table(['Ticket', 'Price'], ['Child', '0.00']), list('one')),
      ['table'],
    ],
    ['another list', doc(h2('Waiting room'), list('a'), p(''), list('one')), ['bullets']],
    ['a quote and steps', doc(quote('a'), steps('b')), ['quote', 'numbers']],
  ] as [string, Document, string[]][])('%s', (_, after, expected) => {
    expect(missing([], before, after).sort()).toEqual(expected.sort());
    expect(
      missing(
        tools.map((t) => t.id),
        before,
        after,
      ),
    ).toEqual([]);
  });
  it('allows back what was there once', () => {
    const allowance = mergeConstructs(constructsOf(before), constructsOf(doc(p('x'))));
    expect(missingTools(new Set(), tools, allowance, before)).toEqual([]);
  });
});

describe('protected blocks', () => {
  it('are lost when a table is gone or changed, unless the table tool is there', () => {
    const before = doc(p('a'), fares);
    expect(losesProtected(new Set(), tools, before, doc(p('b'), fares, p('c')))).toBe(false);
    expect(losesProtected(new Set(['bold']), tools, before, doc(p('b')))).toBe(true);
    expect(losesProtected(new Set(['table']), tools, before, doc(p('b')))).toBe(false);
  });
});

describe('pasting', () => {
  it('turns what cannot be made here into plain text and says what', () => {
    const { nodes, dropped } = plainOut(
      new Set(['bold']),
      tools,
      doc(h2('Fares'), p('**from** [here](/x)'), list('one', 'two'), fares).content,
    );
    expect(nodes.every((n) => n.type === 'paragraph')).toBe(true);
    expect(dropped.sort()).toEqual(['Heading', 'Link', 'List', 'Table']);
    expect(missing(['bold'], doc(p('')), { type: 'doc', content: nodes })).toEqual([]);
  });
  it('leaves alone what can be made', () => {
    const given = doc(h2('a'), list('b'), fares).content;
    expect(plainOut(new Set(tools.map((t) => t.id)), tools, given)).toEqual({ nodes: given, dropped: [] });
  });
});
