import type { Node } from '@tiptap/pm/model';
import { parseDocument, plainText, type Document, type DocumentNode } from '@/core/content';

/** From here on a text may be near the limits of the document schema, which are those of a whole text. */
const NEAR = { parts: 15_000, positions: 300_000 };

interface Read {
  block: DocumentNode;
  parts: number;
  words: number;
  characters: number;
}
const reads = new WeakMap<Node, Read | null>();
const documents = new WeakMap<Node, Document | null>();

const wordsIn = (text: string) => text.split(/\s+/u).filter((word) => /[\p{L}\p{N}]/u.test(word)).length;

/** A block at the top of a text; null where it does not fit. */
function readOf(node: Node): Read | null {
  const known = reads.get(node);
  if (known !== undefined) return known;
  const parsed = parseDocument({ type: 'doc', content: [node.toJSON() as unknown] });
  const [block] = parsed.ok ? parsed.document.content : [];
  const text = block ? plainText(block) : '';
  let parts = 1;
  node.descendants(() => void parts++);
  const read = block ? { block, parts, words: wordsIn(text), characters: [...text].length } : null;
  reads.set(node, read);
  return read;
}

/**
 * A writing area's text as a document of the core; null where it does not fit the schema. The same object for the same
 * text, and for the same block in the next one: with every key only the block that was typed in is read.
 */
export function asDocument(doc: Node): Document | null {
  const known = documents.get(doc);
  if (known !== undefined) return known;
  const document = readDocument(doc);
  documents.set(doc, document);
  return document;
}

function readDocument(doc: Node): Document | null {
  const content: DocumentNode[] = [];
  let parts = 0;
  for (const child of doc.children) {
    const read = readOf(child);
    if (!read) return null;
    content.push(read.block);
    parts += read.parts;
  }
  if (parts < NEAR.parts && doc.content.size < NEAR.positions && parts > 0) return { type: 'doc', content };
  const parsed = parseDocument(doc.toJSON());
  return parsed.ok ? parsed.document : null;
}

/** How many words and characters a text has, line breaks between blocks counted as one character. */
export function countOf(doc: Node): { words: number; characters: number } {
  let [words, characters] = [0, Math.max(0, doc.childCount - 1)];
  for (const child of doc.children) {
    const read = readOf(child);
    words += read?.words ?? 0;
    characters += read?.characters ?? 0;
  }
  return { words, characters };
}
