import { asHref } from '../document';
import { textOf } from '../values';
import { isNothing, isShortText, type FieldKind } from './kind';
import { readText } from './text';

/** As many characters as a number can have as it is written: 15 digits (ITU-T E.164), with what parts them. */
const MOST = 40;

/** What to dial for a number as it is written, `tel:+441632960011`; undefined where it is none (RFC 3966). */
export function telephoneHref(written: string): string | undefined {
  const href = asHref(written);
  return /^tel:\+?\d{3,15}$/.test(href) ? href : undefined;
}

/** A telephone number, as people write it: "+44 (0)1632 960011". */
export const telephone: FieldKind<{ kind: 'telephone' }> = {
  read: ({ name }, given) => {
    if (isNothing(given)) return { value: '' };
    const read = readText({ name, max: MOST }, given);
    if ('fault' in read || read.value.trim() === '') return read;
    return telephoneHref(read.value) ? read : { fault: `${name} must be a telephone number, like +44 1632 960011.` };
  },
  waits: isShortText,
  say: ({ id }, content) => [textOf(content, id)],
  begins: () => ({ as: 'words', max: MOST }),
  samples: {
    field: { id: 'x', kind: 'telephone', name: 'Telephone' },
    says: ['+44 (0)1632 960011', '01632 960 012'],
    words: ['+44 (0)1632 960011', '01632 960 012'],
    halfTyped: ['ring twice', '12', '+44 1632 960011 960011 960011'],
    refuses: [7],
  },
};
