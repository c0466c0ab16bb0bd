import { withoutControls } from '../document';
import { Effort, wordDiff, type Line } from '../compareText';
import { textOf } from '../values';
import type { PageContent } from '../value';
import { isShortText, type FieldCommon, type FieldKind, type IdNames, type Read } from './kind';

const length = (text: string) => [...text].length;

/** Reads a text of at most so many characters: as typed, but for control characters. */
export function readText(field: { name: string; max: number }, given: unknown): { value: string } | { fault: string } {
  if (typeof given !== 'string') return { fault: `${field.name} must be text.` };
  const clean = withoutControls(given);
  if (length(clean) > field.max)
    return { fault: `${field.name} can have ${field.max} characters; this has ${length(clean)}.` };
  return { value: clean };
}

/** What changed in a text, word by word. */
export function compareWords(before: string, after: string): Line[] {
  if (before !== after) return [{ change: 'changed', kind: 'Text', pieces: wordDiff(before, after, new Effort()) }];
  return after === '' ? [] : [{ change: 'same', kind: 'Text', pieces: [{ change: 'same', text: after }] }];
}

const words = {
  read: (field: FieldCommon & { max: number }, given: unknown): Read => readText(field, given ?? ''),
  asBlocks: ({ id }: FieldCommon, content: PageContent) =>
    textOf(content, id)
      .split('\n')
      .filter(Boolean)
      .map((text) => ({ type: 'paragraph' as const, content: [{ type: 'text' as const, text }] })),
};

function saysShort(id: string, content: PageContent, names: IdNames): string {
  const text = textOf(content, id);
  return id === 'page.layout' && text ? names.layout(text) : text;
}

/** A line of words; `max` counts characters. */
export const short: FieldKind<{ kind: 'short'; max: number }> = {
  ...words,
  waits: (given, { id }) => id !== 'page.layout' && isShortText(given),
  say: ({ id }, content, names) => [saysShort(id, content, names)],
  compare: ({ id }, before, after, names) => compareWords(saysShort(id, before, names), saysShort(id, after, names)),
  check: ({ id, name }, content, look) => look.prose(name, textOf(content, id)),
  begins: ({ max }) => ({ as: 'words', max }),
  samples: {
    field: { id: 'x', kind: 'short', name: 'Short name', max: 20 },
    says: ['Late boats', 'Boats that are late'],
    words: ['Late boats', 'Boats that are late'],
    halfTyped: ['A name that is too long'],
    refuses: [7],
    finds: 'lorem ipsum',
  },
};

/** Words in several lines; `max` counts characters. */
export const long: FieldKind<{ kind: 'long'; max: number }> = {
  ...words,
  waits: isShortText,
  say: ({ id }, content) => [textOf(content, id)],
  compare: ({ id }, before, after) => compareWords(textOf(before, id), textOf(after, id)),
  check: ({ id, name }, content, look) => look.prose(name, textOf(content, id)),
  begins: ({ max }) => ({ as: 'words', max }),
  samples: {
    field: { id: 'x', kind: 'long', name: 'Summary', max: 40 },
    says: ['One line.\nAnother.', 'One line.'],
    words: ['One line.\nAnother.', 'One line.'],
    halfTyped: ['A summary of more characters than it can have'],
    refuses: [['x']],
    finds: 'lorem ipsum',
  },
};
