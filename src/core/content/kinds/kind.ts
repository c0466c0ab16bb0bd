import type { DocumentNode } from '../document';
import type { FieldValue, PageContent, RichText } from '../value';
import type { Line } from '../compareText';

/** What every field has, whatever its kind. */
export interface FieldCommon {
  id: string;
  name: string;
  hint?: string;
  required?: true;
}

export type Read = { value: FieldValue } | { fault: string };

/** How ids in fields are told. */
export interface IdNames {
  picture: (id: string) => string;
  person: (id: string) => string;
  layout: (id: string) => string;
}

/** What can be looked for in what a field holds before it is published; each tells what it finds. */
export interface Look {
  prose: (name: string, text: string) => void;
  picture: (name: string, id: string) => void;
  link: (name: string, href: string) => void;
  rich: (name: string, document: RichText['document']) => void;
  /** A piece, a heading or an entry that says nothing. */
  empty: (message: string) => void;
}

/** How the administrator is asked what a field of something new begins with. */
export type Begins =
  | { as: 'words'; max: number }
  | { as: 'number'; min: number; max: number }
  | { as: 'one-of'; options: readonly { id: string; name: string; value: FieldValue & (string | boolean) }[] };

/**
 * A kind of field: all that is to be known of it but its input. `Shape` is what a layout says of such a field beside
 * what every field has. A content is asked by the field's id.
 */
export interface FieldKind<Shape extends { kind: string }> {
  /** Reads what was sent; what is not right is a fault: a sentence that begins with the field's name. */
  read(this: void, field: FieldCommon & Shape, given: unknown): Read;
  /** Whether what is not right can be kept as it was typed: only what its input can hold. */
  waits(this: void, given: unknown, field: FieldCommon & Shape): boolean;
  /** What it says, as text: a line for each thing in it. Of one that holds texts (`texts`) nothing. */
  say(this: void, field: FieldCommon & Shape, content: PageContent, names: IdNames): string[];
  /** What changed from one content to another, where that is not told as a whole. */
  compare?(this: void, field: FieldCommon & Shape, before: PageContent, after: PageContent, names: IdNames): Line[];
  /** It takes more than a few words to fill in: on an edit screen it has a row of its own. */
  large?: true;
  /** What a line of it is called where it is compared; "Text" where nothing is said. */
  line?: string;
  /** The rich texts in it. */
  texts?(this: void, field: FieldCommon & Shape, content: PageContent): RichText[];
  /** The kind of thing its value is the id of. */
  refersTo?: 'picture' | 'person';
  /** What it says, as somebody would write it in a text; after its name where nothing is said. */
  asBlocks?(
    this: void,
    field: FieldCommon & Shape,
    content: PageContent,
    picture: (id: string | null) => DocumentNode[],
  ): DocumentNode[];
  /** What is looked for in it before it is published. */
  check?(this: void, field: FieldCommon & Shape, content: PageContent, look: Look): void;
  /** What an administrator can limit it to. */
  options?(this: void, field: FieldCommon & Shape): readonly { id: string; name: string }[];
  /** How somebody says what something new begins with; not at all where nothing is said. */
  begins?(this: void, field: FieldCommon & Shape): Begins;
  samples: {
    field: FieldCommon & Shape;
    says: readonly [FieldValue, FieldValue];
    /** What both say in words; of texts their words. */
    words: readonly [string, string];
    /** What the first of them needs to be there: `picture 7`, `address /fares`. */
    needs?: readonly string[];
    /** Refused, and kept as it was typed; refused, and typed by nobody. */
    halfTyped: readonly unknown[];
    refuses: readonly unknown[];
    /** Something in which there is something to find before it is published. */
    finds?: FieldValue;
  };
}

/** Longest text that waits in a field until it is right, in characters. */
const LONGEST_WAITING = 20_000;
export const isShortText = (given: unknown): boolean => typeof given === 'string' && given.length <= LONGEST_WAITING;
export const isNothing = (given: unknown): given is undefined | null | '' =>
  given === undefined || given === null || given === '';
export const never = (): boolean => false;
