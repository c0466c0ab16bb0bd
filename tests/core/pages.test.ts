import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addressChanges,
  addressOf,
  checkPage,
  freeSlug,
  isOwnAddress,
  isReserved,
  isSlug,
  keptElsewhere,
  mergeContent,
  parseContent,
  parseOutline,
  plainText,
  readContent,
  kindOfField,
  searchResultOf,
  SETTINGS,
  settingsOf,
  slugFrom,
  startSettings,
  type Addressed,
  type PageContent,
  type Piece,
} from '@/core/content';
import { doc, h2, h3, list, p } from '@/demo/write';
import { getLayout, layouts } from '../inventory';

const SEED = 20261125;
const BASE = 'https://larkhaven.example';

describe('addresses', () => {
  // Oracle: the URL standard as Node.js implements it; RFC 3986, section 2.3, names the characters that need no
  // escaping.
  const UNRESERVED = /^[A-Za-z0-9\-._~]*$/;
  it(`a part made from any title stands in an address as it is (seed ${SEED})`, () => {
    fc.assert(
      fc.property(fc.oneof(fc.string({ unit: 'grapheme', maxLength: 120 }), fc.lorem()), (title) => {
        const slug = slugFrom(title);
        expect(slug === '' || isSlug(slug), slug).toBe(true);
        expect(slug).toMatch(UNRESERVED);
        expect(new URL(`/${slug}`, BASE).pathname).toBe(`/${slug}`);
        expect(slugFrom(slug)).toBe(slug);
      }),
      { seed: SEED, numRuns: 2000 },
    );
  });
  it.each([
    ['Port Ennis', 'port-ennis'],
    ['The Slipway Café', 'the-slipway-cafe'],
    ['What’s on?', 'whats-on'],
    ['Straße & Ærø', 'strasse-aero'],
    ['  10:40 — late!  ', '10-40-late'],
    ['שלום', ''],
    ['ﬁne', 'fine'],
  ])('“%s” becomes “%s”', (title, slug) => {
    expect(slugFrom(title)).toBe(slug);
  });
  it(`an address of its own is one the URL standard leaves alone (seed ${SEED})`, () => {
    const parts = fc.array(
      fc.oneof(fc.stringMatching(/^[a-z0-9-]{0,8}$/), fc.constantFrom('..', '.', 'A', 'ü', 'a b', '%2e', '')),
      { minLength: 1, maxLength: 4 },
    );
    let accepted = 0;
    fc.assert(
      fc.property(parts, (list) => {
        const address = `/${list.join('/')}`;
        if (!isOwnAddress(address)) return;
        accepted++;
        const url = new URL(address, BASE);
        expect([url.pathname, url.search, url.hash, url.host]).toEqual([address, '', '', 'larkhaven.example']);
      }),
      { seed: SEED, numRuns: 2000 },
    );
    expect(accepted).toBeGreaterThan(100);
  });
  it.each([
    '',
    '/',
    'fares',
    '/Fares',
    '/a//b',
    '/a/',
    '/a/../b',
    '//evil.example',
    '/a?b',
    '/a#b',
    `/${'x'.repeat(220)}`,
  ])('“%s” is no address of its own', (address) => {
    expect(isOwnAddress(address)).toBe(false);
  });
  it('what Safe Room answers itself is kept clear of', () => {
    expect(['/room', '/room/pages', '/api/x', '/search', '/rooms', '/harbours/room'].map(isReserved)).toEqual([
      true,
      true,
      true,
      true,
      false,
      false,
    ]);
  });
  it('a slug that is taken gets the first number that is free', () => {
    expect([
      freeSlug('fares', new Set()),
      freeSlug('fares', new Set(['fares'])),
      freeSlug('fares', new Set(['fares', 'fares-2'])),
      freeSlug('', new Set()),
    ]).toEqual(['fares', 'fares-2', 'fares-3', 'page']);
    const long = 'x'.repeat(80);
    expect(isSlug(freeSlug(long, new Set([long])))).toBe(true);
  });

  const pages = new Map<string, Addressed>([
    ['1', { id: '1', parent: null, slug: '' }],
    ['2', { id: '2', parent: '1', slug: 'harbours' }],
    ['3', { id: '3', parent: '2', slug: 'quay' }],
    ['4', { id: '4', parent: '3', slug: 'parking' }],
    ['5', { id: '5', parent: '1', slug: 'fares' }],
  ]);
  it('a page of its own address takes those below it along', () => {
    const own = new Map(pages).set('3', { id: '3', parent: '2', slug: 'quay', ownAddress: '/south' });
    expect(['1', '2', '3', '4'].map((id) => addressOf(own, id))).toEqual([
      '/',
      '/harbours',
      '/south',
      '/south/parking',
    ]);
    expect(addressChanges(pages, own)).toEqual([
      { page: '3', from: '/harbours/quay', to: '/south' },
      { page: '4', from: '/harbours/quay/parking', to: '/south/parking' },
    ]);
  });
  it(`a move changes the addresses of just what is moved and lies below it (seed ${SEED})`, () => {
    const trees = fc
      .array(fc.nat(), { minLength: 2, maxLength: 14 })
      .map(
        (parents) =>
          new Map<string, Addressed>(
            parents.map((n, i) => [
              String(i),
              { id: String(i), parent: i === 0 ? null : String(n % i), slug: i === 0 ? '' : `p${i}` },
            ]),
          ),
      );
    const above = (tree: Map<string, Addressed>, id: string): string[] => {
      const out: string[] = [];
      for (let at = tree.get(id)?.parent; at; at = tree.get(at)?.parent) out.push(at);
      return out;
    };
    fc.assert(
      fc.property(trees, fc.nat(), fc.nat(), (tree, a, b) => {
        const [id, to] = [String(1 + (a % (tree.size - 1))), String(b % tree.size)];
        if (to === id || above(tree, to).includes(id)) return;
        const own = tree.get(id);
        if (!own || own.parent === to) return;
        const after = new Map(tree).set(id, { ...own, parent: to });
        const branch = [...tree.keys()].filter((page) => page === id || above(tree, page).includes(id));
        expect(
          addressChanges(tree, after)
            .map((change) => change.page)
            .sort(),
        ).toEqual(branch.sort());
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
});

describe('an indented list', () => {
  const read = (text: string) => {
    const parsed = parseOutline(text);
    return parsed.ok
      ? parsed.entries.map((entry) => `${'.'.repeat(entry.depth)}${entry.title}`)
      : `${parsed.line}: ${parsed.message}`;
  };
  it('is read with spaces, tabs and signs of lists, as word processors and mails paste it', () => {
    const expected = ['Boats', '.Heron', '..Cabin', '.Tern', 'Crews'];
    expect(read('Boats\n  Heron\n    Cabin\n  Tern\nCrews')).toEqual(expected);
    expect(read('Boats\r\n\tHeron\r\n\t\tCabin\r\n\tTern\r\nCrews\r\n')).toEqual(expected);
    expect(read('• Boats\n   ◦ Heron\n      - Cabin\n   ◦ Tern\n• Crews')).toEqual(expected);
    expect(read('1. Boats\n   a Heron\n\n\n2) Crews')).toEqual(['Boats', '.a Heron', 'Crews']);
    expect(read('    Boats\n        Heron')).toEqual(['Boats', '.Heron']);
  });
  it('says which line does not fit', () => {
    expect(read('')).toBe('1: There is no title yet.');
    expect(read('A\n    B\n  C')).toBe('3: “C” stands between two levels. Move it under the title it belongs to.');
    expect(read('  A\nB')).toBe('2: “B” stands further left than the first title.');
    expect(read(Array.from({ length: 8 }, (_, i) => `${' '.repeat(i)}x${i}`).join('\n'))).toBe(
      '7: “x6” lies deeper than 6 levels.',
    );
    expect(read('x'.repeat(121))).toMatch(/^1: .*longer than 120 characters\.$/);
    expect(read(Array.from({ length: 201 }, () => 'x').join('\n'))).toBe('201: More than 200 pages at once.');
  });
  it(`what is written as a list is read as it was meant (seed ${SEED})`, () => {
    const outlines = fc
      .array(fc.tuple(fc.stringMatching(/^[A-Za-z][a-z ]{0,8}[a-z]$/), fc.nat({ max: 3 })), {
        minLength: 1,
        maxLength: 12,
      })
      .map((list) => {
        let deep = -1;
        return list.map(([title, depth]) => ({ title, depth: (deep = Math.min(depth, deep + 1)) }));
      });
    fc.assert(
      fc.property(outlines, fc.constantFrom('  ', '\t', '    '), (entries, indent) => {
        expect(parseOutline(entries.map((entry) => indent.repeat(entry.depth) + entry.title).join('\n'))).toEqual({
          ok: true,
          entries,
        });
      }),
      { seed: SEED, numRuns: 500 },
    );
  });
});

describe('typed fields', () => {
  const parse = (value: object) => parseContent(layouts, 'event', { title: 'Fair', ...value });
  const faults = (value: object) => {
    const parsed = parse(value);
    return parsed.ok ? [] : parsed.faults.map((fault) => fault.message);
  };
  it('take what fits', () => {
    const content = {
      when: '2026-12-01T18:30',
      lastDay: '2028-02-29',
      sort: 'market',
      price: 4.5,
      booking: { href: 'https://larkhaven.example/book', words: 'Book' },
      programme: [{ time: '18:30', what: 'Lights' }],
    };
    expect(parse(content)).toMatchObject({ ok: true, content });
    expect(parse({})).toMatchObject({ ok: true, content: { when: '', price: null, booking: null, programme: [] } });
  });
  it.each([
    [{ when: '2026-12-01' }, 'Begins must be a day and an hour'],
    [{ when: '2026-02-30T10:00' }, 'Begins must be'],
    [{ when: '2026-12-01T24:00' }, 'Begins must be'],
    [{ lastDay: '2027-02-29' }, 'Last day must be a day'],
    [{ sort: 'party' }, 'Kind of event must be one of Outing, Market, Works on the pier.'],
    [{ price: -1 }, 'Price must be a number from 0 to 1000.'],
    [{ price: Infinity }, 'Price must be'],
    [{ price: '4' }, 'Price must be'],
    [{ booking: { href: 'javascript:alert(1)', words: 'x' } }, 'Where to book leads to no page'],
    [{ programme: 'x' }, 'Programme must be a list.'],
    [
      { programme: [{ what: 'x'.repeat(161) }] },
      'Programme, entry 1, What happens can have 160 characters; this has 161.',
    ],
    [{ programme: Array.from({ length: 31 }, () => ({})) }, 'Programme can have 30 entries; this has 31.'],
    [{ intro: { type: 'doc', content: [{ type: 'tableRow' }] } }, 'Opening words: “tableRow” cannot stand here.'],
    [{ banner: { a: 1 } }, 'Banner picture must be a picture of this site.'],
  ])('%j is refused: %s', (value, words) => {
    expect(faults(value).join(' ')).toContain(words);
  });
  const piece = (id: string, more: Partial<Piece> = {}): Piece => ({
    id,
    region: 'main',
    heading: id,
    text: doc(p(id)),
    picture: null,
    ...more,
  });
  const pieces = (value: unknown) => {
    const parsed = parseContent(layouts, 'pieces', { title: 'x', pieces: value });
    return parsed.ok ? null : parsed.faults[0]?.message;
  };
  it('a body in pieces: each in a region that is there, none twice, each text checked', () => {
    expect(pieces([piece('a'), piece('b', { region: 'side' })])).toBeNull();
    expect(pieces([piece('a'), piece('a')])).toBe('Pieces holds the same piece twice.');
    expect(pieces([piece('a', { region: 'attic' })])).toBe('Pieces has no part “attic”.');
    expect(pieces([piece('a', { text: { type: 'doc', content: [] } })])).toContain('a:');
    expect(pieces([{ ...piece('a'), id: '<b>' }])).toContain('does not fit');
  });
  it('every layout’s fields of the same id have the same kind, so that text finds its place again', () => {
    const kinds = new Map<string, string>();
    for (const layout of layouts.values())
      for (const field of layout.fields) {
        expect(kinds.get(field.id) ?? field.kind, `${layout.id}.${field.id}`).toBe(field.kind);
        kinds.set(field.id, field.kind);
      }
  });
  it('text of a layout left is kept while it fits there, and named', () => {
    const parsed = parseContent(layouts, 'harbour', { title: 'x', hours: 'Daily', 'page.layout': 'plain' });
    expect(parsed).toMatchObject({ ok: true, layout: { id: 'plain' }, content: { hours: 'Daily' } });
    if (parsed.ok)
      expect(keptElsewhere(layouts, parsed.layout, parsed.content).map((field) => field.id)).toEqual(['hours']);
    expect(
      parseContent(layouts, 'harbour', { title: 'x', hours: 'x'.repeat(401), 'page.layout': 'plain' }),
    ).toMatchObject({ ok: false, faults: [{ field: 'hours' }] });
  });
  it('a page begins with all of its settings, and columns hold what they say', () => {
    const page = { layout: 'plain', slug: 'fares', author: '3', language: 'cy' };
    const start = startSettings(page);
    expect(Object.keys(start)).toEqual(SETTINGS.map((setting) => setting.id));
    expect(readContent(layouts, 'plain', { title: 'x', ...start })?.faults).toEqual([]);
    expect(settingsOf(start)).toEqual({
      ...page,
      ownAddress: null,
      redirect: true,
      shortName: null,
      inNavigation: true,
      day: null,
    });
    expect(settingsOf({ ...start, 'page.slug': 'prices', 'page.inNavigation': false })).toMatchObject({
      slug: 'prices',
      inNavigation: false,
    });
    expect(searchResultOf({ title: 'Fares', summary: 'Prices.', 'page.searchTitle': '  ' })).toEqual({
      title: 'Fares',
      text: 'Prices.',
    });
  });
});

describe('putting two people’s changes together', () => {
  const layout = getLayout('harbour');
  const text = (content: PageContent) =>
    layout.fields
      .flatMap((field) => kindOfField(field).texts?.(field, content) ?? [])
      .map((rich) => plainText(rich.document))
      .join('|');
  const base = { title: 'Quay', summary: 'Old', hours: 'Daily', body: doc(p('one'), p('two'), p('three')) };
  it('fields and blocks that do not touch are both kept', () => {
    const merged = mergeContent(
      layout,
      base,
      { ...base, summary: 'Mine', body: doc(p('ONE'), p('two'), p('three')) },
      { ...base, hours: 'Theirs', body: doc(p('one'), p('two'), p('three'), p('four')) },
    );
    expect(merged.clashes).toEqual([]);
    expect(merged.content).toMatchObject({ title: 'Quay', summary: 'Mine', hours: 'Theirs' });
    expect(text(merged.content)).toBe('ONE\ntwo\nthree\nfour');
  });
  it('what both changed differently is a clash, and each is chosen by itself', () => {
    const mine = { ...base, summary: 'Mine', body: doc(p('one'), p('2 mine'), p('three'), p('more')) };
    const theirs = { ...base, summary: 'Theirs', body: doc(p('ONE'), p('2 theirs'), p('three')) };
    const merged = mergeContent(layout, base, mine, theirs);
    expect(merged.clashes.map((clash) => clash.name)).toEqual(['Summary', 'Text']);
    expect(merged.content['summary']).toBe('Mine');
    const [summary, body] = merged.clashes;
    expect(merged.choose(new Set([summary?.id ?? '']))['summary']).toBe('Theirs');
    expect(text(merged.choose(new Set([body?.id ?? ''])))).toBe('ONE\n2 theirs\nthree\nmore');
  });
  it('the same change twice is no clash', () => {
    const both = { ...base, summary: 'Same', body: doc(p('one'), p('same'), p('three')) };
    expect(mergeContent(layout, base, both, both)).toMatchObject({ clashes: [], content: both });
  });
  it(`whoever changed nothing gets the other’s version whole, either way round (seed ${SEED})`, () => {
    const bodies = fc
      .array(fc.stringMatching(/^[a-c]{1,3}$/), { minLength: 1, maxLength: 6 })
      .map((lines) => doc(...lines.map((line) => p(line))));
    fc.assert(
      fc.property(bodies, bodies, fc.string(), (a, b, summary) => {
        const [from, to] = [
          { ...base, body: a },
          { ...base, summary, body: b },
        ];
        for (const merged of [mergeContent(layout, from, to, from), mergeContent(layout, from, from, to)]) {
          expect(merged.clashes).toEqual([]);
          expect(merged.content).toEqual(to);
        }
      }),
      { seed: SEED, numRuns: 300 },
    );
  });
  it(`every block of the result was written by one of them, and is valid (seed ${SEED})`, () => {
    const bodies = fc
      .array(fc.stringMatching(/^[a-d]{1,2}$/), { minLength: 1, maxLength: 6 })
      .map((lines) => doc(...lines.map((line) => p(line))));
    fc.assert(
      fc.property(bodies, bodies, bodies, (b, m, t) => {
        const merged = mergeContent(layout, { ...base, body: b }, { ...base, body: m }, { ...base, body: t });
        const known = new Set([b, m, t].flatMap((document) => document.content.map((node) => plainText(node))));
        for (const content of [merged.content, merged.choose(new Set(merged.clashes.map((clash) => clash.id)))]) {
          expect(parseContent(layouts, 'harbour', content).ok).toBe(true);
          for (const line of text(content).split('\n').filter(Boolean)) expect(known.has(line), line).toBe(true);
        }
      }),
      { seed: SEED, numRuns: 300 },
    );
  });
  it(`no block that either wrote is lost: it stands in the result, or on its writer’s side of a clash (seed ${SEED})`, () => {
    // Blocks taken out, put in, written anew, by each of two; what each writes is known by a letter of theirs.
    const edits = fc.array(
      fc.record({ at: fc.nat(5), out: fc.nat(2), put: fc.nat(3) }, { requiredKeys: ['at', 'out', 'put'] }),
      { maxLength: 3 },
    );
    let clashing = 0;
    fc.assert(
      fc.property(fc.nat(5), edits, edits, (many, one, other) => {
        const from = Array.from({ length: many + 1 }, (_, i) => `base ${i}`);
        const edited = (who: string, list: typeof one) => {
          const lines = [...from];
          for (const [n, { at, out, put }] of list.entries())
            lines.splice(at, out, ...Array.from({ length: put }, (_, i) => `${who} ${n} ${i}`));
          return lines.length > 0 ? lines : [`${who} all`];
        };
        const [mine, theirs] = [edited('mine', one), edited('theirs', other)];
        const page = (lines: readonly string[]) => ({ ...base, body: doc(...lines.map((line) => p(line))) });
        const merged = mergeContent(layout, page(from), page(mine), page(theirs));
        const linesOf = (content: PageContent) => text({ title: '', ...content }).split(/[\n|]/);
        const told = [merged.content, ...merged.clashes.map((clash) => clash.mine)].flatMap(linesOf);
        const toldTheirs = [merged.content, ...merged.clashes.map((clash) => clash.theirs)].flatMap(linesOf);
        if (merged.clashes.length > 0) clashing++;
        for (const line of mine.filter((l) => l.startsWith('mine'))) expect(told, line).toContain(line);
        for (const line of theirs.filter((l) => l.startsWith('theirs'))) expect(toldTheirs, line).toContain(line);
        // What neither touched stays.
        for (const line of from.filter((l) => mine.includes(l) && theirs.includes(l)))
          expect([...told, ...toldTheirs], line).toContain(line);
      }),
      { seed: SEED, numRuns: 800 },
    );
    expect(clashing).toBeGreaterThan(100);
  });
});

describe('what is looked for before publishing', () => {
  const around = {
    isThere: (path: string) => path === '/fares',
    describe: (id: string) => ({ '1': 'A boat', '2': '' })[id],
  };
  const found = (layout: string, content: PageContent) =>
    checkPage(getLayout(layout), content, around).map((finding) => finding.check);
  const said = (content: PageContent) =>
    found('banner', { title: 'Boats', summary: 'About boats.', banner: null, ...content });
  it('a page in order has nothing to set right', () => {
    expect(
      said({
        banner: '1',
        body: doc(h2('Fares'), h3('Children'), p('See the [fares](/fares?day=1#top), or https://elsewhere.example.')),
      }),
    ).toEqual([]);
  });
  it.each<[string, PageContent, string[]]>([
    ['words for search results missing', { summary: ' ' }, ['descriptions']],
    ['a banner without a description', { banner: '2' }, ['descriptions']],
    ['a picture that is gone', { banner: '9' }, ['links']],
    ['a link that leads nowhere', { body: doc(p('[here](/nowhere)')) }, ['links']],
    ['a small heading first', { body: doc(h3('Children'), h2('Fares')) }, ['headings']],
    ['an empty heading', { body: doc({ type: 'heading', attrs: { level: 2 } }) }, ['empty']],
    ['an empty list entry', { body: doc(list('one', '')) }, ['empty']],
    ['sample text', { body: doc(p('Lorem ipsum dolor sit amet.')) }, ['sample']],
    ['a long sentence', { body: doc(p(`${'word '.repeat(31)}.`)) }, ['sentences']],
    [
      'two sentences that are long only together',
      { body: doc(p(`${'word '.repeat(20)}end. ${'Word '.repeat(20)}.`)) },
      [],
    ],
    [
      'a picture in the text without a description',
      { body: doc({ type: 'picture', attrs: { id: '1', description: '', width: 'full' } }) },
      ['descriptions'],
    ],
  ])('%s', (_, content, checks) => {
    expect(said(content)).toEqual(checks);
  });
  it('fields that are asked for, untouched headings and empty pieces', () => {
    expect(
      found('event', { title: 'Fair', summary: 's', when: '', sort: 'market', programme: [{ time: '', what: '' }] }),
    ).toEqual(['required', 'empty']);
    const empty: Piece = {
      id: 'a',
      region: 'main',
      heading: 'New piece',
      text: doc({ type: 'paragraph' }),
      picture: null,
    };
    expect(
      found('pieces', {
        title: 'Long',
        summary: 's',
        pieces: [empty, { ...empty, id: 'b', heading: 'Boats', picture: '1' }],
      }),
    ).toEqual(['empty', 'empty']);
  });
});
