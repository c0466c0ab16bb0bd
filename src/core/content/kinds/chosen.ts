import { textOf } from '../values';
import { isNothing, isShortText, never, type FieldCommon, type FieldKind, type Read } from './kind';

const isId = (given: unknown): given is string => typeof given === 'string' && given.length <= 40;
const readId =
  (what: string) =>
  ({ name }: FieldCommon, given: unknown): Read =>
    given === null || given === undefined || isId(given)
      ? { value: given ?? null }
      : { fault: `${name} must be ${what} of this site.` };

/** A picture, by its id. */
export const picture: FieldKind<{ kind: 'picture' }> = {
  large: true,
  read: readId('a picture'),
  waits: isShortText,
  say: ({ id }, content, names) => {
    const text = textOf(content, id);
    return [text && names.picture(text)];
  },
  line: 'Picture',
  refersTo: 'picture',
  asBlocks: ({ id }, content, found) => found(textOf(content, id) || null),
  check: ({ id, name }, content, look) => {
    if (textOf(content, id)) look.picture(name, textOf(content, id));
  },
  samples: {
    field: { id: 'x', kind: 'picture', name: 'Banner picture' },
    says: ['7', '8'],
    words: ['picture 7', 'picture 8'],
    needs: ['picture 7'],
    halfTyped: ['x'.repeat(41)],
    refuses: [7, {}],
    finds: 'gone',
  },
};

/** Somebody of the site, by their id. */
export const person: FieldKind<{ kind: 'person' }> = {
  read: readId('somebody'),
  waits: never,
  say: ({ id }, content, names) => {
    const text = textOf(content, id);
    return [text && names.person(text)];
  },
  refersTo: 'person',
  options: () => [{ id: 'me', name: 'Only whoever writes' }],
  samples: {
    field: { id: 'x', kind: 'person', name: 'Author' },
    says: ['7', '8'],
    words: ['person 7', 'person 8'],
    needs: ['person 7'],
    halfTyped: [],
    refuses: [7, 'x'.repeat(41)],
  },
};

/** One of some things. */
export const choice: FieldKind<{ kind: 'choice'; options: readonly { id: string; name: string }[] }> = {
  read: ({ name, options }, given) =>
    isNothing(given) || options.some((option) => option.id === given)
      ? { value: typeof given === 'string' ? given : '' }
      : { fault: `${name} must be one of ${options.map((option) => option.name).join(', ')}.` },
  waits: never,
  say: ({ id, options }, content) => [options.find((option) => option.id === textOf(content, id))?.name ?? ''],
  options: ({ options }) => options,
  begins: ({ options }) => ({ as: 'one-of', options: options.map(({ id, name }) => ({ id, name, value: id })) }),
  samples: {
    field: {
      id: 'x',
      kind: 'choice',
      name: 'Kind of event',
      options: [
        { id: 'outing', name: 'Outing' },
        { id: 'market', name: 'Market' },
      ],
    },
    says: ['outing', 'market'],
    words: ['Outing', 'Market'],
    halfTyped: [],
    refuses: ['regatta', 7],
  },
};

/** Yes or no. */
export const yes: FieldKind<{ kind: 'yes' }> = {
  read: ({ name }, given) =>
    given === undefined || given === null || typeof given === 'boolean'
      ? { value: given ?? false }
      : { fault: `${name} must be yes or no.` },
  waits: never,
  say: ({ id }, content) => [content[id] === true ? 'Yes' : content[id] === false ? 'No' : ''],
  begins: () => ({
    as: 'one-of',
    options: [
      { id: 'true', name: 'yes', value: true },
      { id: 'false', name: 'no', value: false },
    ],
  }),
  samples: {
    field: { id: 'x', kind: 'yes', name: 'Shown in navigation' },
    says: [true, false],
    words: ['Yes', 'No'],
    halfTyped: [],
    refuses: ['yes', 1],
  },
};
