import { mergeAttributes, Node } from '@tiptap/core';
import { sayCalendarDay } from '@/core/words';
import type { PictureChoice } from './PictureChooser';

/** Nodes of the document schema that no library brings: a picture, the two house styles, and what is not known. */

const data = (name: string, fallback: string | null = null) => ({
  default: fallback,
  parseHTML: (element: HTMLElement) => element.getAttribute(`data-${name}`) ?? fallback,
  renderHTML: (attributes: Record<string, unknown>) =>
    attributes[name] === null ? {} : { [`data-${name}`]: attributes[name] },
});

/**
 * A picture of the website in the text. Its width is a share of the line, so that it can never be wider than its place.
 */
export const PictureNode = Node.create<{ pictures: readonly PictureChoice[] }>({
  name: 'picture',
  group: 'block',
  atom: true,
  draggable: true,
  addOptions: () => ({ pictures: [] }),
  addAttributes: () => ({
    id: {
      default: '',
      parseHTML: (element) => element.getAttribute('data-picture') ?? '',
      renderHTML: (attributes) => ({ 'data-picture': String(attributes['id']) }),
    },
    description: {
      default: '',
      parseHTML: (element) => element.getAttribute('alt') ?? '',
      renderHTML: (attributes) => ({ alt: String(attributes['description']) }),
    },
    width: data('width', 'full'),
  }),
  parseHTML: () => [{ tag: 'img[data-picture]' }],
  renderHTML({ HTMLAttributes, node }) {
    const url = this.options.pictures.find((picture) => picture.id === node.attrs['id'])?.url;
    return [
      'img',
      mergeAttributes(HTMLAttributes, {
        src: url ?? '',
        ...(url === undefined && { alt: 'A picture that is not there any more' }),
      }),
    ];
  },
});

const STYLED = '(paragraph | bulletList | orderedList)+';

/** A box for what shall always stand out. */
export const Highlight = Node.create({
  name: 'highlight',
  group: 'block',
  content: STYLED,
  defining: true,
  parseHTML: () => [{ tag: 'div[data-style="highlight"]' }],
  renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-style': 'highlight' }), 0],
});

/** A box for what is true for a while; after its last day it is left out on the website. */
export const Alert = Node.create({
  name: 'alert',
  group: 'block',
  content: STYLED,
  defining: true,
  addAttributes: () => ({ until: data('until') }),
  parseHTML: () => [{ tag: 'div[data-style="alert"]' }, { tag: 'p[data-word]', ignore: true, priority: 100 }],
  renderHTML: ({ HTMLAttributes, node }) => {
    const until: unknown = node.attrs['until'];
    return [
      'div',
      mergeAttributes(HTMLAttributes, { 'data-style': 'alert' }),
      [
        'p',
        { 'data-word': '', contenteditable: 'false' },
        `For now${typeof until === 'string' && until ? `, until ${sayCalendarDay(until)}` : ''}`,
      ],
      ['div', {}, 0],
    ];
  },
});

const unknownWords = 'A part this version does not know. It is kept as it is.';
export const Unknown = Node.create({
  name: 'unknown',
  group: 'block',
  atom: true,
  addAttributes: () => ({
    json: {
      default: '{}',
      parseHTML: (element) => element.getAttribute('data-unknown') ?? '{}',
      renderHTML: (attributes) => ({ 'data-unknown': String(attributes['json']) }),
    },
  }),
  parseHTML: () => [{ tag: 'div[data-unknown]' }],
  renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { class: 'unknown-part' }), unknownWords],
});
export const UnknownInlineNode = Node.create({
  name: 'unknownInline',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({
    json: {
      default: '{}',
      parseHTML: (element) => element.getAttribute('data-unknown') ?? '{}',
      renderHTML: (attributes) => ({ 'data-unknown': String(attributes['json']) }),
    },
  }),
  parseHTML: () => [{ tag: 'span[data-unknown]' }],
  renderHTML: ({ HTMLAttributes }) => ['span', mergeAttributes(HTMLAttributes, { class: 'unknown-part' }), '…'],
});
