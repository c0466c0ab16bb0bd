import { type Document, type DocumentNode } from './document';
import { keptElsewhere, type Field, type Layout, type Layouts, type PageContent } from './layout';
import { sayCalendarDay, sayCalendarMoment } from '../words';
import { SETTINGS } from './settings';
import { documentOf, entriesOf, linkOf, numberOf, piecesOf, textOf } from './values';
import { type Line, compareDocuments, wordDiff, Effort } from './compareText';
export interface FieldChange {
  field: Field;
  changed: boolean;
  lines: Line[];
  /** Kept with the page, but its layout does not show it: visitors do not read it. */
  hidden?: true;
}

/** How ids in fields are told. */
export interface IdNames {
  picture: (id: string) => string;
  person: (id: string) => string;
  layout: (id: string) => string;
}

/** What a field that is not a rich text says, as text: a line for each thing in it. */
export function sayField(field: Field, content: PageContent, names: IdNames): string[] {
  const text = textOf(content, field.id);
  switch (field.kind) {
    case 'rich':
      return [];
    case 'short':
      return field.id === 'page.layout' && text ? [names.layout(text)] : [text];
    case 'long':
      return [text];
    case 'picture':
      return [text && names.picture(text)];
    case 'person':
      return [text && names.person(text)];
    case 'choice':
      return [field.options.find((option) => option.id === text)?.name ?? ''];
    case 'day':
      return [text && sayCalendarDay(text)];
    case 'moment':
      return [text && sayCalendarMoment(text)];
    case 'number':
      return [
        numberOf(content, field.id) === null
          ? ''
          : `${numberOf(content, field.id)}${field.unit ? ` ${field.unit}` : ''}`,
      ];
    case 'yes':
      return [content[field.id] === true ? 'Yes' : content[field.id] === false ? 'No' : ''];
    case 'link': {
      const link = linkOf(content, field.id);
      return [link ? `${link.words || link.href} (${link.href})` : ''];
    }
    case 'list':
      return entriesOf(content, field.id).map((entry) =>
        field.of
          .map((part) => entry[part.id] ?? '')
          .filter(Boolean)
          .join(' · '),
      );
    case 'pieces':
      return [];
  }
}

const KINDS: Partial<Record<Field['kind'], string>> = { picture: 'Picture', list: 'Entry' };

/** Pieces told one after the other, each as the text it holds, with its region and heading as a line before it. */
function comparePieces(
  field: Extract<Field, { kind: 'pieces' }>,
  before: PageContent,
  after: PageContent,
  names: IdNames,
): Line[] {
  const asDocument = (content: PageContent): Document => ({
    type: 'doc',
    content: piecesOf(content, field.id).flatMap((piece): DocumentNode[] => [
      {
        type: 'heading',
        attrs: { level: 2 },
        content: [
          {
            type: 'text',
            text: `${piece.heading || 'Without a heading'} (${field.regions.find((region) => region.id === piece.region)?.name ?? piece.region}${piece.picture ? `, with “${names.picture(piece.picture)}”` : ''})`,
          },
        ],
      },
      ...piece.text.content,
    ]),
  });
  return compareDocuments(asDocument(before), asDocument(after)).map((line) => ({
    ...line,
    kind: line.kind === 'Heading 2' ? 'Piece' : line.kind,
  }));
}

function linesOfField(field: Field, before: PageContent, after: PageContent, names: IdNames): Line[] {
  if (field.kind === 'rich') return compareDocuments(documentOf(before, field.id), documentOf(after, field.id));
  if (field.kind === 'pieces') return comparePieces(field, before, after, names);
  const [a, b] = [sayField(field, before, names).filter(Boolean), sayField(field, after, names).filter(Boolean)];
  const kind = KINDS[field.kind] ?? 'Text';
  if (a.join('\n') === b.join('\n'))
    return b.map((text) => ({ change: 'same', kind, pieces: [{ change: 'same', text }] }));
  if (field.kind === 'list') {
    const lines = (entries: string[]): Document => ({
      type: 'doc',
      content: entries.map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })),
    });
    return compareDocuments(lines(a), lines(b)).map((line) => ({ ...line, kind }));
  }
  if (field.kind === 'short' || field.kind === 'long')
    return [{ change: 'changed', kind, pieces: wordDiff(a[0] ?? '', b[0] ?? '', new Effort()) }];
  return [
    {
      change: 'changed',
      kind,
      pieces: [
        ...a.map((text) => ({ change: 'removed' as const, text })),
        ...b.map((text) => ({ change: 'added' as const, text })),
      ],
    },
  ];
}

/** One field of two contents, with what changed in it. */
export function compareField(field: Field, before: PageContent, after: PageContent, names: IdNames): FieldChange {
  const lines = linesOfField(field, before, after, names);
  return { field, lines, changed: lines.some((line) => line.change !== 'same') };
}

/** What a content shows: the values its layout has fields for, and its settings. */
export function shownBy(layout: Layout, content: PageContent): PageContent {
  const shown = new Set([...layout.fields, ...SETTINGS].map((field) => field.id));
  return Object.fromEntries(Object.entries(content).filter(([id]) => shown.has(id)));
}

/**
 * Everything that is stored with a page, with what changed in it: every field of the later layout against what the
 * earlier one showed, every setting, and what is kept from other layouts, marked as hidden, against what was kept of it
 * before. So whatever becomes visible stands in what is compared, whichever layout brings it up. A setting or hidden
 * field neither says is left out.
 */
export function compareContent(
  layouts: Layouts,
  [layoutBefore, before]: readonly [Layout, PageContent],
  [layout, after]: readonly [Layout, PageContent],
  names: IdNames,
): FieldChange[] {
  const shown = shownBy(layoutBefore, before);
  const settings = SETTINGS.filter(
    (field) => field.id !== 'page.redirect' && (before[field.id] !== undefined || after[field.id] !== undefined),
  );
  const change = (field: Field, earlier: PageContent) => compareField(field, earlier, after, names);
  const hidden = new Map(
    [...keptElsewhere(layouts, layout, after), ...keptElsewhere(layouts, layout, before)].map((field) => [
      field.id,
      field,
    ]),
  );
  return [
    ...layout.fields.map((field) => change(field, shown)),
    ...settings.map((field) => change(field, before)),
    ...[...hidden.values()]
      .map((field) => ({ ...change(field, before), hidden: true as const }))
      .filter((entry) => entry.lines.some((line) => line.pieces.some((piece) => piece.text !== ''))),
  ];
}
