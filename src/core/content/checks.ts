import { sayBegin } from '../words';
import { plainText, type Document, type DocumentNode } from './document';
import type { Look } from './kinds/kind';
import { kindOfField, type Layout } from './layout';
import type { PageContent } from './value';
import { thingOf } from './linked';
import { hrefsIn, ownPath } from './references';
import { searchResultOf, SETTINGS } from './settings';
import { isEmptyValue } from './values';

/** What is looked for before a page is published; the site says of each whether it stops, advises or is off. */
export const CHECKS = [
  { id: 'required', name: 'Fields left empty', description: 'A field that the layout asks for says nothing.' },
  {
    id: 'descriptions',
    name: 'Missing descriptions',
    description: 'A picture without a description, or a page without words for search results.',
  },
  { id: 'links', name: 'Broken links', description: 'A link to a page of this website that is not there.' },
  {
    id: 'empty',
    name: 'Empty pieces',
    description: 'A piece, a heading or a list entry that says nothing, or a heading nobody has changed.',
  },
  { id: 'headings', name: 'Headings out of order', description: 'A small heading that no heading stands above.' },
  { id: 'sample', name: 'Sample text', description: 'Words that were only there to fill a place.' },
  { id: 'sentences', name: 'Long sentences', description: 'More than 30 words without a full stop are hard to read.' },
] as const;
export type CheckId = (typeof CHECKS)[number]['id'];

export interface Finding {
  check: CheckId;
  /** Where to look: a field's id. */
  field: string;
  message: string;
}

/** What a page is checked against. */
export interface Around {
  /** Whether something answers at an address of this website. */
  isThere: (path: string) => boolean;
  /** The description of a picture, empty when it has none; undefined when the picture is gone. */
  describe: (picture: string) => string | undefined;
}

/** Longest sentence that is still read easily, in words (common practice, no source). */
const LONGEST_SENTENCE = 30;
const SAMPLE =
  /\b(?:lorem ipsum|dolor sit amet|sample text|placeholder|text goes here|type here|to be written|tbd|todo|xxx)\b/i;

const sentences = new Intl.Segmenter('en', { granularity: 'sentence' });
const wordsIn = (text: string) => text.split(/\s+/u).filter((word) => /[\p{L}\p{N}]/u.test(word)).length;

function* walk(nodes: readonly DocumentNode[]): Generator<DocumentNode> {
  for (const node of nodes) {
    yield node;
    if ('content' in node && node.content) yield* walk(node.content);
  }
}

/** What may be wrong with a page, in the order of its fields. Says only what is sure; style is left to people. */
export function checkPage(layout: Layout, content: PageContent, { isThere, describe }: Around): Finding[] {
  const found: Finding[] = [];
  const say = (check: CheckId, field: string, message: string) =>
    void (found.some((f) => f.message === message) || found.push({ check, field, message }));
  const picture = (field: string, name: string, id: string) => {
    const description = describe(id);
    if (description === undefined) say('links', field, `${name}: the picture is not there any more.`);
    else if (description.trim() === '')
      say(
        'descriptions',
        field,
        `${name}: the picture has no description, so people who cannot see it get nothing from it.`,
      );
  };
  const prose = (field: string, name: string, text: string) => {
    const sample = SAMPLE.exec(text);
    if (sample) say('sample', field, `${name}: “${sample[0]}” looks like sample text that was left.`);
    for (const { segment } of sentences.segment(text)) {
      const words = wordsIn(segment);
      if (words > LONGEST_SENTENCE)
        say(
          'sentences',
          field,
          `${name}: the sentence “${sayBegin(segment.trim())}” has ${words} words. Two sentences are easier to read.`,
        );
    }
  };
  const link = (field: string, name: string, href: string) => {
    const path = ownPath(href);
    if (path !== undefined && !isThere(path))
      say('links', field, `${name}: the link to ${sayBegin(href)} leads to no page of this website.`);
    // What is there goes by its address here.
    const gone = thingOf(href)?.kind;
    if (gone) say('links', field, `${name}: a link leads to a ${gone} that is not there any more.`);
  };
  const rich = (field: string, name: string, document: Document) => {
    let heading = 1;
    for (const node of walk(document.content)) {
      if (node.type === 'heading') {
        const text = plainText(node).trim();
        const level = Number(node.attrs?.['level']);
        if (text === '') say('empty', field, `${name}: a heading says nothing.`);
        if (level > heading + 1)
          say('headings', field, `${name}: the small heading “${sayBegin(text)}” has no heading above it.`);
        heading = level;
      }
      if (node.type === 'listItem' && plainText(node).trim() === '')
        say('empty', field, `${name}: an entry of a list says nothing.`);
      if (node.type === 'picture' && typeof node.attrs?.['id'] === 'string' && describe(node.attrs['id']) === undefined)
        say('links', field, `${name}: a picture is not there any more.`);
      if (node.type === 'picture' && node.attrs?.['description'] === '')
        say('descriptions', field, `${name}: a picture in the text has no description.`);
      if (node.type === 'paragraph' || node.type === 'heading') prose(field, name, plainText(node));
    }
    for (const href of hrefsIn(document)) link(field, name, href);
  };
  for (const field of layout.fields) {
    const value = content[field.id];
    if (field.required && (isEmptyValue(value) || (typeof value === 'string' && value.trim() === '')))
      say('required', field.id, `${field.name} is empty.`);
    const look: Look = {
      prose: (name, text) => prose(field.id, name, text),
      picture: (name, id) => picture(field.id, name, id),
      link: (name, href) => link(field.id, name, href),
      rich: (name, document) => rich(field.id, name, document),
      empty: (message) => say('empty', field.id, message),
    };
    kindOfField(field).check?.(field, content, look);
  }
  if (searchResultOf(content).text.trim() === '')
    say(
      'descriptions',
      'page.searchText',
      `${SETTINGS.find((s) => s.id === 'page.searchText')?.name ?? ''}: neither these nor a summary say what the page is about, so search results show nothing.`,
    );
  return found;
}
