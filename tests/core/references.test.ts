import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hrefsIn, isHref, parseDocument, referencesOf, renderDocument, thingOf, withHrefs } from '@/core/content';
import { getLayout } from '../inventory';
import { doc, list, p } from '@/demo/write';

describe('links that name things', () => {
  it.each([
    ['page:12', { kind: 'page', id: '12', rest: '' }],
    ['page:12#winter', { kind: 'page', id: '12', rest: '#winter' }],
    ['picture:7?of=a#b', { kind: 'picture', id: '7', rest: '?of=a#b' }],
  ])('%s is one', (href, thing) => expect(thingOf(href)).toEqual(thing));
  it.each([
    'page:',
    'page:x',
    'page:12/more',
    'pages:12',
    'page:1234567890',
    ' page:12',
    '/page:12',
    'person:1',
    'page:1#a b',
  ])('%j is none', (href) => expect(thingOf(href)).toBeUndefined());
  it('nobody can type one, a kept text can hold one, and visitors never get one', () => {
    const text = doc(p('See [there](page:12).'));
    expect(isHref('page:12')).toBe(false);
    expect(parseDocument(text)).toEqual({ ok: true, document: text });
    expect(renderDocument(text)).toBe('<p>See there.</p>');
    expect(renderDocument(text, { whole: true })).toBe('<p>See <a href="page:12">there</a>.</p>');
  });
});

describe('addresses in a content', () => {
  const content = {
    title: 'href: /no',
    booking: { href: '/fares', words: '/fares' },
    body: doc(list('[a](/fares) and [b](https://a.example)')),
    pieces: [{ id: 'x', region: 'main', heading: '', text: doc(p('[c](#d)')), picture: null }],
  };
  it('are found wherever they stand, and changed there alone', () => {
    expect(hrefsIn(content)).toEqual(['/fares', '/fares', 'https://a.example', '#d']);
    const named = withHrefs(content, (href) => href.replace('/fares', 'page:3'));
    expect(hrefsIn(named)).toEqual(['page:3', 'page:3', 'https://a.example', '#d']);
    expect(named).toEqual(JSON.parse(JSON.stringify(content).replaceAll('"href":"/fares"', '"href":"page:3"')));
    expect([named.title, named.booking.words, named.pieces]).toEqual([content.title, '/fares', content.pieces]);
    expect(named.pieces).toBe(content.pieces);
    expect(withHrefs(content, (href) => href)).toBe(content);
  });

  it('are found and changed as a plain walk finds them, in any JSON, whatever its objects call their own', () => {
    /** A second, plain program: through the text of the JSON, where JSON.parse tells of each member. */
    const plainly = (value: unknown): string[] => {
      const found: string[] = [];
      JSON.parse(JSON.stringify(value), (key, one: unknown) => {
        if (key === 'href' && typeof one === 'string') found.push(one);
        return one;
      });
      return found.sort();
    };
    const { tree } = fc.letrec<{ tree: unknown }>((tie) => ({
      tree: fc.oneof(
        { maxDepth: 5 },
        fc.constantFrom('/a', '/b', 'c', 1, null, true),
        fc.array(tie('tree'), { maxLength: 4 }),
        fc
          .array(fc.tuple(fc.constantFrom('href', 'attrs', '__proto__', 'constructor', 'type'), tie('tree')), {
            maxLength: 4,
          })
          .map(
            (entries) =>
              JSON.parse(`{${entries.map(([k, v]) => `${JSON.stringify(k)}:${JSON.stringify(v)}`).join()}}`) as unknown,
          ),
      ),
    }));
    fc.assert(
      fc.property(tree, (value) => {
        const before = JSON.stringify(value);
        expect(hrefsIn(value).sort()).toEqual(plainly(value));
        const changed = withHrefs(value, (href) => (href === '/a' ? '/z' : href));
        expect(JSON.stringify(changed)).toBe(JSON.stringify(value).replaceAll('"href":"/a"', '"href":"/z"'));
        expect(JSON.stringify(value)).toBe(before);
        if (!hrefsIn(value).includes('/a')) expect(changed).toBe(value);
      }),
    );
  });
});

describe('what a content needs', () => {
  it('is told by field, each thing once: pages, pictures, people, and addresses where nothing is', () => {
    const picture = { type: 'picture' as const, attrs: { id: '5', description: '', width: 'full' } };
    const fields = [...getLayout('banner').fields, ...getLayout('event').fields, ...getLayout('pieces').fields].filter(
      (field, i, all) => all.findIndex((other) => other.id === field.id) === i,
    );
    const found = referencesOf([...fields, { id: 'page.author', kind: 'person', name: 'Author' }], {
      title: 'page:9',
      banner: '4',
      'page.author': '2',
      booking: { href: 'page:12?x', words: '' },
      body: doc(p('[a](page:3) [b](page:3#c) [d](picture:8) [e](/none/?x) [f](https://a.example)'), {
        type: 'blockquote',
        content: [picture],
      }),
      pieces: [{ id: 'x', region: 'main', heading: '', text: doc(picture), picture: '6' }],
      elsewhere: { href: 'page:99', words: '' },
    });
    expect(found.map((one) => `${one.field} ${one.kind} ${one.target}`).sort()).toEqual([
      'banner picture 4',
      'body address /none',
      'body page 3',
      'body picture 5',
      'body picture 8',
      'booking page 12',
      'page.author person 2',
      'pieces picture 5',
      'pieces picture 6',
    ]);
  });
});
