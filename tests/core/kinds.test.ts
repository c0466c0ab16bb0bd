import { describe, expect, it } from 'vitest';
import {
  checkPage,
  compareField,
  FIELD_KINDS,
  isEmptyValue,
  keptElsewhere,
  kindOfField,
  mergeContent,
  parseContent,
  plainText,
  readContent,
  referencesOf,
  telephoneHref,
  type Field,
  type FieldKindId,
  type FieldValue,
  type Layout,
  type PageContent,
} from '@/core/content';
import { hrefsIn } from '@/core/content';

// What is promised of every kind of field, whichever there are: a further one is tried here without a line.

const kinds = Object.keys(FIELD_KINDS) as FieldKindId[];
const called = (kind: string) => (id: string) => `${kind} ${id}`;
const names = { picture: called('picture'), person: called('person'), layout: called('layout') };
const title: Field = { id: 'title', kind: 'short', name: 'Title', max: 40 };

describe.each(kinds)('a field of the kind %s', (id) => {
  const { samples } = FIELD_KINDS[id];
  const field = samples.field;
  const kind = kindOfField(field);
  const [one, other] = samples.says;
  const layout: Layout = { id: 'own', name: 'Own', purpose: '', fields: [title, field] };
  const bare: Layout = { id: 'bare', name: 'Bare', purpose: '', fields: [title] };
  const layouts = new Map([layout, bare].map((each) => [each.id, each]));
  const content = (value: FieldValue): PageContent => ({ title: 'T', 'page.layout': 'own', [field.id]: value });
  const said = (value: FieldValue) =>
    [
      ...kind.say(field, content(value), names),
      ...(kind.texts?.(field, content(value)) ?? []).map(({ document }) => plainText(document)),
    ].filter(Boolean);

  it('has samples of its own kind, and is read as it was written', () => {
    expect(field.kind).toBe(id);
    for (const value of [one, other]) {
      expect(parseContent(layouts, 'own', content(value))).toEqual({ ok: true, layout, content: content(value) });
      expect(parseContent(layouts, 'own', JSON.parse(JSON.stringify(content(value))))).toMatchObject({
        content: content(value),
      });
    }
  });
  it('left out says nothing, is empty, and is read again as it is', () => {
    const read = parseContent(layouts, 'own', { title: 'T', 'page.layout': 'own' });
    if (!read.ok) throw new Error(JSON.stringify(read.faults));
    const value = read.content[field.id] as FieldValue;
    expect(isEmptyValue(value)).toBe(true);
    // "No" is something that is said.
    if (id !== 'yes') expect(said(value)).toEqual([]);
    expect(parseContent(layouts, 'own', read.content)).toEqual(read);
    const blocks = kind.asBlocks?.(field, content(value), () => []) ?? [];
    expect(blocks.map((block) => plainText(block)).join('')).toBe('');
  });
  it('refuses what it cannot say by its name, and takes nothing from the other fields', () => {
    for (const wrong of [...samples.halfTyped, ...samples.refuses]) {
      const read = readContent(layouts, 'own', { ...content(one), [field.id]: wrong });
      expect(
        read?.faults.map((fault) => fault.field),
        JSON.stringify(wrong),
      ).toEqual([field.id]);
      expect(read?.faults[0]?.message).toMatch(/[.!]$/);
      expect(read?.content['title']).toBe('T');
    }
  });
  it('lets wait only what its input can hold', () => {
    for (const wrong of samples.halfTyped) expect(kind.waits(wrong, field), JSON.stringify(wrong)).toBe(true);
    for (const wrong of samples.refuses) expect(kind.waits(wrong, field), JSON.stringify(wrong)).toBe(false);
    expect(kind.waits({ any: 'thing' }, field)).toBe(false);
    expect(kind.waits(Symbol.iterator, field)).toBe(false);
    expect(kind.waits('x'.repeat(30_000), field)).toBe(false);
  });
  it('tells what changed, and nothing where nothing did', () => {
    expect(compareField(field, content(one), content(one), names).changed).toBe(false);
    const { changed, lines } = compareField(field, content(one), content(other), names);
    expect(changed).toBe(true);
    expect(lines.flatMap(({ pieces }) => pieces).some(({ change }) => change !== 'same')).toBe(true);
    expect([one, other].map((value) => said(value).join(' '))).toEqual(samples.words);
  });
  it('is kept while another layout is chosen, and can be put into a text', () => {
    const elsewhere = parseContent(layouts, 'bare', { ...content(one), 'page.layout': 'bare' });
    if (!elsewhere.ok) throw new Error(JSON.stringify(elsewhere.faults));
    expect(keptElsewhere(layouts, bare, elsewhere.content)).toEqual([field]);
    const blocks = kind.asBlocks?.(field, content(one), (of) => (of === null ? [] : [{ type: 'paragraph' }]));
    // Every word of it, or the picture; without a form of its own it is told after its name.
    if (blocks && id !== 'picture')
      for (const word of samples.words[0].match(/[A-Za-z]{3,}/g) ?? []) expect(JSON.stringify(blocks)).toContain(word);
    if (blocks && id === 'picture') expect(blocks).toEqual([{ type: 'paragraph' }]);
  });
  it('is merged as a whole where only one changed it', () => {
    const [base, mine, theirs] = [content(one), { ...content(one), title: 'Mine' }, content(other)];
    expect(mergeContent(layout, base, mine, theirs)).toMatchObject({
      content: { ...content(other), title: 'Mine' },
      clashes: [],
    });
  });
  it('tells every thing that it needs to be there', () => {
    const found = referencesOf([field], content(one)).map((reference) => `${reference.kind} ${reference.target}`);
    expect(found).toEqual(samples.needs ?? []);
    // Written into a text it goes on needing it; somebody cannot be written into one.
    const blocks = kind.asBlocks?.(field, content(one), (of) =>
      of === null ? [] : [{ type: 'picture', attrs: { id: of } }],
    );
    const body: Field = { id: 'body', kind: 'rich', name: 'Text' };
    const inText = referencesOf([body], { body: { type: 'doc', content: blocks ?? [] } });
    expect(inText.map((reference) => `${reference.kind} ${reference.target}`)).toEqual(
      (samples.needs ?? []).filter((need) => !need.startsWith('person')),
    );
  });
  it('holds texts exactly where what it says is made of them', () => {
    const isText = JSON.stringify(one).includes('"type":"doc"');
    expect(kind.texts !== undefined).toBe(isText);
    expect((kind.texts?.(field, content(one)) ?? []).map(({ document }) => plainText(document)).join('')).toBe(
      isText ? samples.words[0] : '',
    );
  });
  it('is looked through before it is published without anything made up', () => {
    const look = { isThere: () => true, describe: () => 'A boat' };
    const findings = (value: FieldValue) =>
      checkPage(layout, content(value), look).filter((finding) => finding.field === field.id);
    expect(findings(one)).toEqual([]);
    // What is looked through has something that would be found, and the other way round.
    expect(samples.finds !== undefined).toBe(kind.check !== undefined);
    const gone = { ...look, describe: () => undefined };
    if (samples.finds !== undefined)
      expect(
        checkPage(layout, content(samples.finds), gone).filter((finding) => finding.field === field.id),
      ).not.toEqual([]);
    if (hrefsIn(one).some((href) => href.startsWith('/')))
      expect(checkPage(layout, content(one), { ...look, isThere: () => false })).toContainEqual(
        expect.objectContaining({ check: 'links', field: field.id }),
      );
    if (ids(one)) expect(checkPage(layout, content(one), { ...look, describe: () => '' })).not.toEqual([]);
  });
  it('begins with what it can say, if it is asked for', () => {
    const begins = kind.begins?.(field);
    const as = { string: 'words', number: 'number', boolean: 'one-of' }[typeof one as string];
    if (begins) expect(begins.as).toBe('options' in field ? 'one-of' : as);
    if (begins?.as === 'one-of')
      for (const { value } of begins.options)
        expect(parseContent(layouts, 'own', content(value))).toMatchObject({ ok: true });
    if (begins?.as === 'words') expect((one as string).length).toBeLessThanOrEqual(begins.max);
    if (begins?.as === 'number') expect(one).toBeGreaterThanOrEqual(begins.min);
  });
});
/** Whether a value shows a picture. */
const ids = (value: FieldValue) => JSON.stringify(value).includes('"picture":"') || value === '7';

describe('a telephone number', () => {
  // RFC 3966, section 3: visual separators are left out of what is dialled; ITU-T E.164: at most 15 digits. The numbers
  // are of the range that is kept for drama (Ofcom; 01632).
  it.each([
    ['+44 1632 960011', 'tel:+441632960011'],
    ['+44 (0)1632 960-011', 'tel:+441632960011'],
    ['01632/960 011', 'tel:01632960011'],
    ['tel:+441632960011', 'tel:+441632960011'],
    ['999', 'tel:999'],
    ['12', undefined],
    ['+44 1632 960011 9600', undefined],
    ['call the pier', undefined],
    ['javascript:1234', undefined],
  ])('“%s” is dialled as %s', (written, href) => {
    expect(telephoneHref(written)).toBe(href);
  });
});
