import { getSchema } from '@tiptap/core';
import { LCS } from 'node-diff3';
import fc from 'fast-check';
import { parseFragment } from 'parse5';
import { describe, expect, it } from 'vitest';
import {
  addressOf,
  compareContent,
  compareDocuments,
  escapeHtml,
  isHref,
  parseContent,
  parseDocument,
  plainText,
  renderDocument,
  sameContent,
  treesOf,
  type Document,
  type DocumentNode,
} from '@/core/content';
import { canonical, sameJson } from '@/core/json';
import { extensionsFor } from '@/islands/editor/extensions';
import { getLayout, layouts } from '../inventory';
import { doc, h2, list, p, table } from '@/demo/write';
import { randomFrom } from '../oracles/worlds';

const SEED = 20261125;
const ok = (value: unknown): Document => {
  const parsed = parseDocument(value);
  if (!parsed.ok) throw new Error(`${parsed.path}: ${parsed.message}`);
  return parsed.document;
};

// Random values that look like documents; some of them are.
const texts = fc.record({
  type: fc.constant('text'),
  text: fc.string({ minLength: 0, maxLength: 12 }),
  marks: fc.option(
    fc.uniqueArray(fc.constantFrom({ type: 'bold' }, { type: 'italic' }, { type: 'link', attrs: { href: '/fares' } }), {
      maxLength: 2,
      selector: (m) => m.type,
    }),
    { nil: undefined },
  ),
});
const documents = fc.letrec<{ node: object }>((tie) => ({
  node: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    texts,
    fc.constant({ type: 'hardBreak' }),
    fc.record({
      type: fc.constantFrom(
        'paragraph',
        'bulletList',
        'listItem',
        'blockquote',
        'table',
        'tableRow',
        'tableCell',
        'tableHeader',
        'highlight',
        'alert',
      ),
      content: fc.array(tie('node'), { maxLength: 3 }),
    }),
    fc.constantFrom(
      { type: 'picture', attrs: { id: '7', description: 'A boat', width: 'half' } },
      { type: 'unknown', attrs: { json: '{}' } },
      { type: 'unknownInline', attrs: { json: '{}' } },
    ),
    fc.record({
      type: fc.constant('heading'),
      attrs: fc.record({ level: fc.constantFrom(2, 3) }),
      content: fc.array(texts, { maxLength: 2 }),
    }),
  ),
})).node;
const wholes = fc.array(documents, { minLength: 1, maxLength: 4 }).map((content) => ({ type: 'doc', content }));

describe('the document schema', () => {
  // Oracle: ProseMirror's own model, with the schema the writing area uses.
  it(`accepts just what ProseMirror's model holds valid (seed ${SEED})`, () => {
    const schema = getSchema(
      extensionsFor({
        allowed: new Set(),
        tools: [],
        keep: {},
        isPlain: () => false,
        mayShow: () => true,
        loaded: doc(p('')),
        say: () => undefined,
      }),
    );
    const valid = (value: object) => {
      try {
        schema.nodeFromJSON(value).check();
        return true;
      } catch {
        return false;
      }
    };
    let accepted = 0;
    fc.assert(
      fc.property(wholes, (value) => {
        const ours = parseDocument(value).ok;
        if (ours) accepted++;
        expect(ours).toBe(valid(value));
      }),
      { seed: SEED, numRuns: 3000 },
    );
    expect(accepted).toBeGreaterThan(50);
  });
  it('says where the first fault is', () => {
    expect(parseDocument({ type: 'doc', content: [{ type: 'paragraph' }, { type: 'tableRow' }] })).toEqual({
      ok: false,
      path: '/content/1',
      message: '“tableRow” cannot stand here',
    });
    expect(parseDocument('text')).toMatchObject({ ok: false });
    expect(parseDocument({ type: 'doc', content: [{ type: 'heading', attrs: { level: 1 } }] })).toMatchObject({
      ok: false,
      path: '/content/0',
    });
  });
  it('drops attributes it does not know and gives the same text for the same document', () => {
    const messy = {
      content: [
        {
          content: [
            {
              text: 'x',
              type: 'text',
              marks: [{ type: 'link', attrs: { href: '/', target: '_blank', onclick: 'x' } }, { type: 'bold' }],
            },
          ],
          type: 'paragraph',
          attrs: { style: 'x' },
        },
      ],
      type: 'doc',
    };
    expect(canonical(ok(messy))).toBe(
      '{"content":[{"content":[{"marks":[{"type":"bold"},{"attrs":{"href":"/"},"type":"link"}],"text":"x","type":"text"}],"type":"paragraph"}],"type":"doc"}',
    );
  });
  it('keeps parts it does not know whole, in blocks and in lines, and shows visitors nothing of them', () => {
    const later = {
      type: 'doc',
      content: [
        { type: 'sailingBoard', attrs: { harbour: 'quay' }, content: [{ type: 'x' }] },
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'At ' },
            { type: 'clock', attrs: { zone: 'utc' } },
          ],
        },
      ],
    };
    const once = ok(later);
    expect(once.content[0]).toEqual({ type: 'unknown', attrs: { json: canonical(later.content[0]) } });
    expect(ok(once)).toEqual(once);
    expect(renderDocument(once)).toBe('<p>At </p>');
    expect(renderDocument(once, { whole: true })).toContain('data-unknown="{&quot;attrs&quot;:{&quot;harbour&quot;');
    expect(parseDocument({ type: 'doc', content: [{ type: 'later', text: 'x'.repeat(20_001) }] })).toMatchObject({
      ok: false,
    });
  });
  it('refuses texts nested too deeply', () => {
    let node: DocumentNode = p('x');
    for (let i = 0; i < 14; i++) node = { type: 'blockquote', content: [node] };
    expect(parseDocument({ type: 'doc', content: [node] })).toMatchObject({
      ok: false,
      message: 'the text is nested too deeply',
    });
  });
});

describe('addresses a link may have', () => {
  // RFC 3986 for the forms; the refused ones are from the OWASP XSS Filter Evasion Cheat Sheet (values from memory).
  it.each([
    'https://larkhaven.example/fares?x=1#y',
    'http://[2001:db8::7]/c',
    'mailto:hello@larkhaven.example',
    'tel:+555010200',
    '/harbours/skell-island',
    '/',
    '#hours',
    'HTTPS://LARKHAVEN.EXAMPLE',
  ])('%s is one', (href) => expect(isHref(href)).toBe(true));
  it.each([
    'javascript:alert(1)',
    'JaVaScRiPt:alert(1)',
    ' javascript:alert(1)',
    'java\tscript:alert(1)',
    'data:text/html,<script>alert(1)</script>',
    'vbscript:msgbox(1)',
    '//evil.example',
    '/\\evil.example',
    '\\\\evil.example',
    'https://a b',
    'ftp://x',
    '',
    `https://x/${'y'.repeat(2000)}`,
  ])('%j is none', (href) => expect(isHref(href)).toBe(false));
});

describe('rendering', () => {
  // Vectors from the OWASP XSS Filter Evasion Cheat Sheet (from memory), as text and as link targets.
  const vectors = [
    '<script>alert(1)</script>',
    '"><img src=x onerror=alert(1)>',
    "'-alert(1)-'",
    '<svg/onload=alert(1)>',
    '</p><iframe src=javascript:alert(1)>',
    '&lt;script&gt;',
    '<a href="javascript:alert(1)">x</a>',
    '\u0000<b>',
  ];
  const elements = (node: object, out: { name: string; attrs: string[] }[] = []) => {
    const n = node as { tagName?: string; attrs?: { name: string }[]; childNodes?: object[] };
    if (n.tagName) out.push({ name: n.tagName, attrs: (n.attrs ?? []).map((a) => a.name) });
    for (const child of n.childNodes ?? []) elements(child, out);
    return out;
  };
  // Oracle: the HTML standard's parsing algorithm, by the package parse5.
  it.each(vectors)('keeps %j as mere text', (vector) => {
    const tree = parseFragment(
      renderDocument(
        ok(doc({ type: 'paragraph', content: [{ type: 'text', text: vector.replaceAll('\u0000', '') }] })),
      ),
    );
    expect(elements(tree)).toEqual([{ name: 'p', attrs: [] }]);
    expect((tree.childNodes[0] as { childNodes: { value: string }[] }).childNodes[0]?.value).toBe(
      vector.replaceAll('\u0000', ''),
    );
  });
  it('escapes what ends an attribute, and leaves a bad address out', () => {
    const html = renderDocument({
      type: 'doc',
      content: [
        {
          type: 'paragraph',
          content: [
            { type: 'text', text: 'a', marks: [{ type: 'link', attrs: { href: 'https://x/"onmouseover=alert(1)' } }] },
            { type: 'text', text: 'b', marks: [{ type: 'link', attrs: { href: 'javascript:alert(1)' } }] },
          ],
        },
      ],
    });
    expect(html).toBe('<p><a href="https://x/&quot;onmouseover=alert(1)">a</a>b</p>');
  });
  it('gives every block its element', () => {
    expect(renderDocument(doc(h2('A'), p('**b** _c_'), list('d'), table(['E'], ['f'])))).toBe(
      '<h2>A</h2>\n<p><strong>b</strong> <em>c</em></p>\n<ul><li><p>d</p></li></ul>\n<div class="table"><table><tbody><tr><th><p>E</p></th></tr><tr><td><p>f</p></td></tr></tbody></table></div>',
    );
    expect(escapeHtml(`<&>"'`)).toBe('&lt;&amp;&gt;&quot;&#39;');
  });
});

describe('house styles and pictures', () => {
  const alert = (until: string | null) => doc({ type: 'alert', attrs: { until }, content: [p('Fog.')] });
  it('an alert is told apart by word, and is left out after its last day', () => {
    expect(renderDocument(alert('2026-11-25'), { today: '2026-11-25' })).toBe(
      '<div data-style="alert" data-until="2026-11-25"><p data-word>For now, until 25 November 2026</p><p>Fog.</p></div>',
    );
    expect(renderDocument(alert('2026-11-25'), { today: '2026-11-26' })).toBe('');
    expect(renderDocument(alert(null), { today: '2026-11-26' })).toContain('<p data-word>For now</p>');
    expect(renderDocument(doc({ type: 'highlight', content: [p('Always.')] }))).toBe(
      '<div data-style="highlight"><p>Always.</p></div>',
    );
    expect(parseDocument(alert('soon'))).toMatchObject({ ok: false });
  });
  it('a picture that is gone leaves nothing, one that is there keeps its description and width', () => {
    const text = doc({ type: 'picture', attrs: { id: '7', description: 'A "boat"', width: 'half' } });
    expect(renderDocument(text)).toBe('');
    expect(renderDocument(text, { pictureUrl: () => '/media/x' })).toBe(
      '<img src="/media/x" alt="A &quot;boat&quot;" data-picture="7" data-width="half" loading="lazy">',
    );
    expect(parseDocument(doc({ type: 'picture', attrs: { id: '7', description: '', width: '4000px' } }))).toMatchObject(
      { ok: false },
    );
  });
});

describe('cross-site scripting', () => {
  // Vectors after the OWASP "XSS Filter Evasion Cheat Sheet" (values from memory), as text, as addresses, as
  // descriptions and as parts unknown.
  const VECTORS = [
    '<script>alert(1)</script>',
    '<SCRIPT SRC=https://evil.example/x.js></SCRIPT>',
    '<img src=x onerror=alert(1)>',
    '<IMG SRC="javascript:alert(1)">',
    '<svg onload=alert(1)>',
    '<body onload=alert(1)>',
    '"><script>alert(1)</script>',
    "';alert(1)//",
    '<iframe src="javascript:alert(1)"></iframe>',
    'javascript:alert(1)',
    'JaVaScRiPt:alert(1)',
    'java\tscript:alert(1)',
    'java\nscript:alert(1)',
    ' javascript:alert(1)',
    'jav&#x09;ascript:alert(1)',
    '&#106;avascript:alert(1)',
    'vbscript:msgbox(1)',
    'data:text/html;base64,PHNjcmlwdD4=',
    'data:image/svg+xml,<svg onload=alert(1)>',
    '//evil.example',
    '/\\evil.example',
    'http:evil.example',
    'livescript:alert(1)',
    'mocha:alert(1)',
    'x" onmouseover="alert(1)',
    "x' onmouseover='alert(1)",
    '<a href="jAvAsCrIpT&colon;alert&lpar;1&rpar;">x</a>',
    '<math><mtext></form><form><mglyph><style></math><img src onerror=alert(1)>',
    '<!--<img src="--><img src=x onerror=alert(1)//">',
    '\u0000<script>alert(1)</script>',
  ].map((vector) => vector.replaceAll('\\t', '\t').replaceAll('\\n', '\n'));
  const ELEMENTS = new Set(['p', 'a', 'img', 'div', 'span', 'strong', 'h2']);
  const safe = (html: string, what: string) => {
    const visit = (node: unknown): void => {
      const {
        nodeName,
        attrs = [],
        childNodes = [],
      } = node as { nodeName: string; attrs?: { name: string; value: string }[]; childNodes?: unknown[] };
      if (!nodeName.startsWith('#')) expect(ELEMENTS.has(nodeName), `${what} makes <${nodeName}>`).toBe(true);
      for (const { name, value } of attrs) {
        expect(name, what).not.toMatch(/^on|^style$|^srcdoc$/);
        if (name === 'href' || name === 'src')
          expect(value, what).toMatch(/^(https?:\/\/|mailto:|tel:|#|\/(?![/\\]))/i);
      }
      childNodes.forEach(visit);
    };
    visit(parseFragment(html));
  };
  it.each(VECTORS)('%j does nothing, wherever it stands', (vector) => {
    for (const whole of [undefined, true] as const) {
      const options = { pictureUrl: () => '/media/x', ...(whole && { whole }) };
      const texts = [
        { type: 'doc', content: [{ type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: vector }] }] },
        {
          type: 'doc',
          content: [
            {
              type: 'paragraph',
              content: [{ type: 'text', text: vector, marks: [{ type: 'link', attrs: { href: vector } }] }],
            },
          ],
        },
        { type: 'doc', content: [{ type: 'picture', attrs: { id: '7', description: vector, width: 'full' } }] },
        { type: 'doc', content: [{ type: 'picture', attrs: { id: vector, description: '', width: vector } }] },
        {
          type: 'doc',
          content: [
            { type: vector, attrs: { x: vector } },
            { type: 'paragraph', content: [{ type: vector }] },
          ],
        },
        { type: 'doc', content: [{ type: 'alert', attrs: { until: vector }, content: [{ type: 'paragraph' }] }] },
        { type: 'doc', content: [{ type: 'heading', attrs: { level: vector } }] },
      ];
      for (const value of texts) {
        const parsed = parseDocument(value);
        if (parsed.ok) safe(renderDocument(parsed.document, options), vector);
      }
    }
    // As text it is shown to the letter.
    const shown = parseFragment(
      renderDocument(ok(doc({ type: 'paragraph', content: [{ type: 'text', text: vector }] }))),
    );
    const words = (shown.childNodes[0] as { childNodes: { value?: string }[] }).childNodes[0]?.value;
    expect(words).toBe(vector.replaceAll('\u0000', ''));
  });
});

describe('a page’s content', () => {
  const parse = (value: unknown) => parseContent(layouts, 'harbour', value);
  it('keeps long, right-to-left and pictographic titles up to the limit, counted in characters', () => {
    const title = '⛴️שלום'.repeat(15);
    expect(parse({ title, body: doc(p('x')) })).toMatchObject({ ok: true, content: { title } });
    expect(parse({ title: '😀'.repeat(120) })).toMatchObject({ ok: true });
    expect(parse({ title: 'x'.repeat(300) })).toEqual({
      ok: false,
      faults: [{ field: 'title', message: 'Page title can have 120 characters; this has 300.' }],
    });
  });
  it('names every field that does not fit', () => {
    const parsed = parse({ title: ' ', banner: 7, body: { type: 'doc', content: [] }, colour: 'red' });
    expect(parsed.ok ? [] : parsed.faults.map((f) => f.field)).toEqual(['banner', 'body', 'colour', 'title']);
  });
  it('is the same whatever order its keys came in', () => {
    expect(
      sameContent(
        { title: 'a', body: doc(p('x')) },
        JSON.parse(
          '{"body":{"content":[{"content":[{"text":"x","type":"text"}],"type":"paragraph"}],"type":"doc"},"title":"a"}',
        ) as never,
      ),
    ).toBe(true);
    expect(sameContent({ title: 'a' }, { title: 'b' })).toBe(false);
  });
});

describe('comparing', () => {
  it('tells words changed one after the other as one change, whatever stands around them', () => {
    const line = (text: string) => doc({ type: 'paragraph', content: [{ type: 'text', text }] });
    const told = (before: string, after: string) =>
      compareDocuments(line(before), line(after)).flatMap(({ pieces }) =>
        pieces.map(({ change, text }) => `${change}: ${text}`),
      );
    expect(
      told('Lockers take coins of one pound, at the pier', 'TOMAS REWROTE coins of one pound, at the pier'),
    ).toEqual(['removed: Lockers take', 'added: TOMAS REWROTE', 'same:  coins of one pound, at the pier']);
    const words = fc
      .array(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1, maxLength: 8 })
      .map((all) => all.join(' '));
    fc.assert(
      fc.property(words, words, (before, after) => {
        const pieces = compareDocuments(line(before), line(after)).flatMap((one) => one.pieces);
        for (const [i, piece] of pieces.entries()) {
          const isChanged = (at: number) => pieces[at] !== undefined && pieces[at].change !== 'same';
          if (piece.change === 'same' && piece.text.trim() === '')
            expect(isChanged(i - 1) && isChanged(i - 2) && isChanged(i + 1), JSON.stringify(pieces)).toBe(false);
          if (piece.change === 'removed') expect(pieces[i + 1]?.change).not.toBe('removed');
        }
      }),
    );
  });
  const paragraphs = fc
    .array(fc.stringMatching(/^[a-c ]{0,12}$/), { minLength: 1, maxLength: 6 })
    .map((lines) =>
      doc(
        ...lines.map((text) => ({
          type: 'paragraph' as const,
          ...(text && { content: [{ type: 'text' as const, text }] }),
        })),
      ),
    );
  it(`gives the new text without the removed pieces and the old one without the added (seed ${SEED})`, () => {
    fc.assert(
      fc.property(paragraphs, paragraphs, (a, b) => {
        const lines = compareDocuments(a, b);
        const side = (gone: string) =>
          lines
            .filter((l) => l.change !== gone)
            .map((l) => ({
              ...l,
              text: l.pieces
                .filter((x) => x.change !== gone)
                .map((x) => x.text)
                .join(''),
            }));
        expect(side('removed').map((l) => l.text)).toEqual(b.content.map((n) => plainText(n)));
        const old = side('added')
          .filter((l) => l.change !== 'moved')
          .map((l) => l.text);
        for (const line of lines.filter((l) => l.change === 'moved').sort((x, y) => (x.from ?? 0) - (y.from ?? 0)))
          old.splice(line.from ?? 0, 0, line.pieces.map((x) => x.text).join(''));
        expect(old).toEqual(a.content.map((n) => plainText(n)));
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
  it('tells what became of the look of words that stayed, also in a line whose words changed', () => {
    const line = (...content: object[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] }) as Document;
    const text = (words: string, ...marks: object[]) => ({ type: 'text', text: words, ...(marks.length && { marks }) });
    const looks = (a: Document, b: Document) =>
      compareDocuments(a, b).flatMap((one) => one.pieces.map((piece) => [piece.change, piece.text, piece.look ?? '']));
    expect(
      looks(
        line(text('Bring a coat today')),
        line(text('Bring '), text('a coat', { type: 'bold' }), text(' tomorrow')),
      ),
    ).toEqual([
      ['same', 'Bring ', ''],
      ['same', 'a coat', 'now bold'],
      ['same', ' ', ''],
      ['removed', 'today', ''],
      ['added', 'tomorrow', ''],
    ]);
    expect(
      looks(
        line(text('See '), text('fares', { type: 'link', attrs: { href: '/fares' } })),
        line(text('See '), text('fares', { type: 'link', attrs: { href: '/jobs' } })),
      ),
    ).toEqual([
      ['same', 'See ', ''],
      ['same', 'fares', 'now a link to /jobs, no longer a link to /fares'],
    ]);
  });
  it('looks for few changes only where a long text was written anew, and loses none of either', () => {
    const random = randomFrom(SEED);
    const anew = () => Array.from({ length: 2_000 }, () => `w${random.below(5_000)}`).join(' ');
    const text = (last: string) =>
      doc(
        ...[...Array.from({ length: 20 }, anew), last].map((words) => ({
          type: 'paragraph' as const,
          content: [{ type: 'text' as const, text: words }],
        })),
      );
    const [a, b] = [text('The last boat leaves at six'), text('The last boat leaves at seven')];
    const lines = compareDocuments(a, b);
    const side = (gone: string) =>
      lines.map((line) =>
        line.pieces
          .filter((piece) => piece.change !== gone)
          .map((piece) => piece.text)
          .join(''),
      );
    expect(side('added')).toEqual(a.content.map((node) => plainText(node)));
    expect(side('removed')).toEqual(b.content.map((node) => plainText(node)));
    expect(
      lines
        .at(-1)
        ?.pieces.filter((piece) => piece.change !== 'same')
        .map((piece) => piece.text),
    ).toEqual(['six', 'seven']);
  });
  // Oracle: the longest common subsequence of `node-diff3`, another algorithm (Hunt and McIlroy, 1976) than the one
  // that compares here.
  it(`keeps as many lines as can be kept (seed ${SEED})`, () => {
    fc.assert(
      fc.property(paragraphs, paragraphs, (a, b) => {
        const texts = (document: Document) => document.content.map((node) => plainText(node));
        let kept = 0;
        for (let at = LCS(texts(a), texts(b)); at.chain; at = at.chain) kept++;
        expect(compareDocuments(a, b).filter((line) => line.change === 'same')).toHaveLength(kept);
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
  it('tells words, look, tables and pictures apart', () => {
    const layout = getLayout('banner');
    const before = {
      title: 'Café',
      banner: '1',
      body: doc(p('Open from eight.'), table(['To'], ['Skell']), p('bold')),
    };
    const after = {
      title: 'Café',
      banner: '2',
      body: doc(p('Open from nine.'), table(['To'], ['Ennis']), p('**bold**')),
    };
    const changes = compareContent(layouts, [layout, before], [layout, after], {
      picture: (id) => `picture ${id}`,
      person: String,
      layout: String,
    });
    expect(changes.filter((c) => c.changed).map((c) => c.field.id)).toEqual(['banner', 'body']);
    expect(changes.find((c) => c.field.id === 'body')?.lines.map((l) => [l.change, l.kind])).toEqual([
      ['changed', 'Text'],
      ['same', 'Table row'],
      ['changed', 'Table row'],
      ['changed', 'Text, look changed'],
    ]);
    expect(changes.find((c) => c.field.id === 'banner')?.lines[0]?.pieces).toEqual([
      { change: 'removed', text: 'picture 1' },
      { change: 'added', text: 'picture 2' },
    ]);
  });
});

describe('trees and addresses', () => {
  const pages = [
    { id: '1', parent: null, slug: '' },
    { id: '2', parent: '1', slug: 'harbours' },
    { id: '3', parent: '2', slug: 'skell island' },
    { id: '4', parent: '1', slug: 'café' },
  ];
  it('gives addresses that the URL standard leaves as they are', () => {
    const map = new Map(pages.map((page) => [page.id, page]));
    for (const page of pages)
      expect(new URL(addressOf(map, page.id), 'https://larkhaven.example').pathname).toBe(addressOf(map, page.id));
    expect(addressOf(map, '3')).toBe('/harbours/skell%20island');
  });
  it('lets a branch stand alone when what is above it cannot be seen', () => {
    expect(treesOf(pages.slice(1)).map((n) => [n.page.id, n.below.map((b) => b.page.id)])).toEqual([
      ['2', ['3']],
      ['4', []],
    ]);
  });
});

it('two values are the same as JSON exactly when their canonical forms are', () => {
  const json = fc.jsonValue({ maxDepth: 3 });
  const shuffled = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(shuffled)
      : typeof value === 'object' && value !== null
        ? Object.fromEntries([
            ...Object.entries(value)
              .reverse()
              .map(([key, one]) => [key, shuffled(one)] as const),
            ['not there', undefined] as const,
          ])
        : value;
  const near = json.chain((value) =>
    fc.constantFrom(
      value,
      shuffled(value),
      [value],
      { a: value },
      { a: shuffled(value), b: undefined },
      undefined,
      null,
    ),
  );
  fc.assert(
    fc.property(fc.oneof(json, near), fc.oneof(json, near), (a, b) => {
      expect(sameJson(a, b)).toBe(canonical(a) === canonical(b));
      expect(sameJson(a, shuffled(a))).toBe(true);
    }),
    { numRuns: 500 },
  );
});

it('canonical JSON orders keys by UTF-16 code units, as the example of RFC 8785, section 3.2.3, does (from memory)', () => {
  const keys = ['\u20ac', '\r', '\ufb33', '1', '\ud83d\ude00', '\u0080', '\u00f6'];
  const ordered = ['\r', '1', '\u0080', '\u00f6', '\u20ac', '\ud83d\ude00', '\ufb33'];
  expect(
    Object.keys(JSON.parse(canonical(Object.fromEntries(keys.map((key) => [`${key} `, 0])))) as object).map((key) =>
      key.slice(0, -1),
    ),
  ).toEqual(ordered);
});

it('canonical JSON leaves out what is undefined and no white space in', () => {
  expect(canonical({ b: [{ z: 1, a: null }], a: 'x', c: undefined })).toBe('{"a":"x","b":[{"a":null,"z":1}]}');
});
