import { isHref } from '../document';
import { thingOf } from '../linked';
import { linkOf } from '../values';
import { isShortText, type FieldKind } from './kind';
import { readText } from './text';

/** Where something leads, and the words it stands on. */
export const link: FieldKind<{ kind: 'link' }> = {
  read: ({ name }, given) => {
    if (given === undefined || given === null) return { value: null };
    const { href, words } = given as { href?: unknown; words?: unknown };
    if (typeof href !== 'string' || !(isHref(href) || thingOf(href)))
      return { fault: `${name} leads to no page, web address, mail address or phone number.` };
    const read = readText({ name: `The words of ${name}`, max: 120 }, words ?? '');
    return 'fault' in read ? read : { value: { href, words: read.value } };
  },
  waits: (given) =>
    typeof given === 'object' &&
    given !== null &&
    Object.keys(given).every((key) => key === 'href' || key === 'words') &&
    Object.values(given).every(isShortText),
  say: ({ id }, content) => {
    const value = linkOf(content, id);
    return [value ? `${value.words || value.href} (${value.href})` : ''];
  },
  asBlocks: ({ id }, content) => {
    const value = linkOf(content, id);
    if (!value) return [];
    const marks = [{ type: 'link' as const, attrs: { href: value.href } }];
    return [{ type: 'paragraph', content: [{ type: 'text', text: value.words || value.href, marks }] }];
  },
  check: ({ id, name }, content, look) => look.link(name, linkOf(content, id)?.href ?? ''),
  samples: {
    field: { id: 'x', kind: 'link', name: 'Where to book' },
    says: [
      { href: '/fares', words: 'Fares' },
      { href: 'page:12', words: 'Book here' },
    ],
    needs: ['address /fares'],
    words: ['Fares (/fares)', 'Book here (page:12)'],
    halfTyped: [{ href: 'javascript:alert(1)', words: '' }],
    refuses: ['fares'],
    finds: { href: 'page:99', words: 'Gone' },
  },
};
