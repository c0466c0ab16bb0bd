import { compareDocuments } from '../compareText';
import type { Document } from '../document';
import type { Entry, PageContent } from '../value';
import { entriesOf } from '../values';
import { isShortText, type FieldKind } from './kind';
import { readText } from './text';

type List = { kind: 'list'; entry: string; of: readonly { id: string; name: string; max: number }[]; most: number };

/** The entries as lines, what stands in each parted by something. */
const linesOf = ({ id, of }: List & { id: string }, content: PageContent, between: string): string[] =>
  entriesOf(content, id).map((entry) =>
    of
      .map((part) => entry[part.id] ?? '')
      .filter(Boolean)
      .join(between),
  );
const paragraph = (text: string) => ({
  type: 'paragraph' as const,
  ...(text && { content: [{ type: 'text' as const, text }] }),
});

/** A list of small entries with fields of their own. */
export const entryList: FieldKind<List> = {
  large: true,
  read: (field, given) => {
    const raws: unknown = given ?? [];
    if (!Array.isArray(raws)) return { fault: `${field.name} must be a list.` };
    if (raws.length > field.most)
      return { fault: `${field.name} can have ${field.most} entries; this has ${raws.length}.` };
    const value: Entry[] = [];
    for (const [i, raw] of raws.entries()) {
      const entry: Entry = {};
      for (const part of field.of) {
        const read = readText(
          { ...part, name: `${field.name}, entry ${i + 1}, ${part.name}` },
          (raw as Entry | null)?.[part.id] ?? '',
        );
        if ('fault' in read) return read;
        entry[part.id] = read.value;
      }
      value.push(entry);
    }
    return { value };
  },
  waits: (given, { most }) =>
    Array.isArray(given) &&
    given.length <= 2 * most &&
    given.every(
      (entry) => typeof entry === 'object' && entry !== null && Object.values(entry as object).every(isShortText),
    ),
  say: (field, content) => linesOf(field, content, ' · '),
  compare: (field, before, after) => {
    const asText = (content: PageContent): Document => ({
      type: 'doc',
      content: linesOf(field, content, ' · ').filter(Boolean).map(paragraph),
    });
    return compareDocuments(asText(before), asText(after)).map((line) => ({ ...line, kind: 'Entry' }));
  },
  asBlocks: (field, content) => linesOf(field, content, ': ').map(paragraph),
  check: ({ id, name, of }, content, look) => {
    for (const [i, entry] of entriesOf(content, id).entries()) {
      if (Object.values(entry).every((text) => text.trim() === '')) look.empty(`${name}: entry ${i + 1} says nothing.`);
      for (const part of of) look.prose(`${name}, entry ${i + 1}`, entry[part.id] ?? '');
    }
  },
  samples: {
    field: {
      id: 'x',
      kind: 'list',
      name: 'Programme',
      entry: 'entry',
      most: 2,
      of: [
        { id: 'time', name: 'Time', max: 5 },
        { id: 'what', name: 'What happens', max: 40 },
      ],
    },
    says: [[{ time: '10:00', what: 'Market opens' }], [{ time: '11:00', what: 'Market opens' }]],
    words: ['10:00 · Market opens', '11:00 · Market opens'],
    halfTyped: [[{ time: 'at noon', what: '' }]],
    refuses: ['words'],
    finds: [{ time: '', what: '' }],
  },
};
