import { z } from 'zod';
import { inPlainWords } from '../../json';
import { compareDocuments } from '../compareText';
import { emptyDocument, parseDocument, type Document, type DocumentNode } from '../document';
import type { PageContent, Piece } from '../value';
import { documentOf, isEmptyDocument, piecesOf } from '../values';
import { never, type FieldKind, type IdNames } from './kind';
import { readText } from './text';

const textDocument = (text: string): Document => ({
  type: 'doc',
  content: [{ type: 'paragraph', content: [{ type: 'text', text }] }],
});

/** A rich text. */
export const rich: FieldKind<{ kind: 'rich' }> = {
  large: true,
  read: ({ name }, given) => {
    const parsed = parseDocument(given ?? emptyDocument());
    return parsed.ok ? { value: parsed.document } : { fault: `${name}: ${parsed.message}.` };
  },
  waits: never,
  say: () => [],
  compare: ({ id }, before, after) => compareDocuments(documentOf(before, id), documentOf(after, id)),
  texts: ({ id, name }, content) => [{ key: id, name, document: documentOf(content, id) }],
  asBlocks: ({ id }, content) => documentOf(content, id).content,
  check: ({ id, name }, content, look) => look.rich(name, documentOf(content, id)),
  samples: {
    field: { id: 'x', kind: 'rich', name: 'Text' },
    says: [textDocument('The boat leaves.'), textDocument('The boat comes back.')],
    words: ['The boat leaves.', 'The boat comes back.'],
    halfTyped: [],
    refuses: [{ type: 'doc', content: [{ type: 'heading', attrs: { level: 9 } }] }, 'words'],
    finds: textDocument('lorem ipsum'),
  },
};

type Pieces = { kind: 'pieces'; regions: readonly { id: string; name: string }[]; most: number };

/** The heading a new piece begins with; nobody means it to be seen. */
export const PIECE_HEADING = 'New piece';

const pieceSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/i),
  region: z.string(),
  heading: z.string().default(''),
  text: z.unknown(),
  picture: z.string().max(40).nullable().default(null),
});

const headed = (text: string): DocumentNode => ({
  type: 'heading',
  attrs: { level: 2 },
  content: [{ type: 'text', text }],
});

/** Pieces one after the other, each as the text it holds, with its region and heading as a line before it. */
const asOneText = ({ id, regions }: Pieces & { id: string }, content: PageContent, names: IdNames): Document => ({
  type: 'doc',
  content: piecesOf(content, id).flatMap((piece): DocumentNode[] => [
    headed(
      `${piece.heading || 'Without a heading'} (${regions.find((region) => region.id === piece.region)?.name ?? piece.region}${piece.picture ? `, with “${names.picture(piece.picture)}”` : ''})`,
    ),
    ...piece.text.content,
  ]),
});

/** The page's body in ordered pieces, each in one of the regions. */
export const pieces: FieldKind<Pieces> = {
  large: true,
  read: (field, given) => {
    const list = z
      .array(pieceSchema)
      .max(field.most)
      .safeParse(given ?? [], { error: inPlainWords });
    if (!list.success) return { fault: `${field.name} does not fit: ${list.error.issues[0]?.message ?? ''}.` };
    const value: Piece[] = [];
    for (const raw of list.data) {
      if (!field.regions.some((region) => region.id === raw.region))
        return { fault: `${field.name} has no part “${raw.region.slice(0, 40)}”.` };
      if (value.some((piece) => piece.id === raw.id)) return { fault: `${field.name} holds the same piece twice.` };
      const heading = readText({ name: 'The heading of a piece', max: 120 }, raw.heading);
      if ('fault' in heading) return heading;
      const text = parseDocument(raw.text ?? emptyDocument());
      if (!text.ok) return { fault: `${raw.heading || field.name}: ${text.message}.` };
      value.push({ id: raw.id, region: raw.region, heading: heading.value, text: text.document, picture: raw.picture });
    }
    return { value };
  },
  waits: never,
  say: () => [],
  compare: (field, before, after, names) =>
    compareDocuments(asOneText(field, before, names), asOneText(field, after, names)).map((line) => ({
      ...line,
      kind: line.kind === 'Heading 2' ? 'Piece' : line.kind,
    })),
  texts: ({ id, name }, content) =>
    piecesOf(content, id).map((piece) => ({
      key: `${id}/${piece.id}`,
      name: piece.heading || name,
      document: piece.text,
    })),
  asBlocks: ({ id }, content, picture) =>
    piecesOf(content, id).flatMap((piece): DocumentNode[] => [
      ...(piece.heading ? [headed(piece.heading)] : []),
      ...picture(piece.picture),
      ...piece.text.content,
    ]),
  check: ({ id }, content, look) => {
    for (const [i, piece] of piecesOf(content, id).entries()) {
      const name = piece.heading || `Piece ${i + 1}`;
      if (piece.heading === PIECE_HEADING)
        look.empty(`Piece ${i + 1} still has the heading it began with, “${PIECE_HEADING}”.`);
      if (isEmptyDocument(piece.text) && piece.picture === null) look.empty(`${name}: this piece says nothing.`);
      if (piece.picture !== null) look.picture(name, piece.picture);
      look.rich(name, piece.text);
    }
  },
  samples: {
    field: { id: 'x', kind: 'pieces', name: 'Pieces', most: 2, regions: [{ id: 'main', name: 'Main part' }] },
    says: [
      [{ id: 'a', region: 'main', heading: 'Tides', text: textDocument('High at noon.'), picture: '7' }],
      [{ id: 'a', region: 'main', heading: 'Tides', text: textDocument('Low at noon.'), picture: null }],
    ],
    words: ['High at noon.', 'Low at noon.'],
    needs: ['picture 7'],
    halfTyped: [],
    refuses: [[{ id: 'a', region: 'nowhere', text: null }], 'words'],
    finds: [{ id: 'a', region: 'main', heading: PIECE_HEADING, text: textDocument('High at noon.'), picture: null }],
  },
};
