import { getSchema } from '@tiptap/core';
import { setBlockType, splitBlock, toggleMark, wrapIn } from '@tiptap/pm/commands';
import type { Node, Schema } from '@tiptap/pm/model';
import { liftListItem, sinkListItem, splitListItem, wrapInList } from '@tiptap/pm/schema-list';
import { TextSelection, type Command, type EditorState, type Selection } from '@tiptap/pm/state';
import { addColumnAfter, addRowAfter, deleteColumn, deleteRow, mergeCells, splitCell } from '@tiptap/pm/tables';
import { parseDocument, type Document } from '@/core/content';
import { p, table } from '@/demo/write';
import { extensionsFor } from '@/islands/editor/extensions';
import { inventory } from '../inventory';

export const tools = [...inventory.tools.values()];
export const schema: Schema = getSchema(
  extensionsFor({
    allowed: new Set(),
    tools: [],
    keep: {},
    isPlain: () => false,
    mayShow: () => true,
    loaded: { type: 'doc', content: [p('')] },
    say: () => undefined,
  }),
);
export const node = (name: string) => {
  const type = schema.nodes[name];
  if (!type) throw new Error(`no node ${name}`);
  return type;
};
export const mark = (name: string) => {
  const type = schema.marks[name];
  if (!type) throw new Error(`no mark ${name}`);
  return type;
};

/** Adds or takes away a link, as the dialog does. */
const link =
  (href: string): Command =>
  (state, dispatch) => {
    const { from, to, empty } = state.selection;
    if (empty) return false;
    dispatch?.(state.tr.addMark(from, to, mark('link').create({ href })));
    return true;
  };
const put =
  (made: () => Node): Command =>
  (state, dispatch) => {
    if (!isWithin(state)) return false;
    dispatch?.(state.tr.replaceSelectionWith(made()));
    return true;
  };
/** Only in a list of the kind that the tool makes: an entry moved further in makes a list of its kind. */
const inList =
  (list: string, command: Command): Command =>
  (state, dispatch) => {
    const { $from } = state.selection;
    for (let depth = $from.depth; depth > 0; depth--)
      if ($from.node(depth).type === node('listItem'))
        return $from.node(depth - 1).type === node(list) && command(state, dispatch);
    return false;
  };

/** What each tool does: ProseMirror's own commands, as the toolbar and its keys call them. */
export const COMMANDS: Record<string, readonly Command[]> = {
  bold: [toggleMark(mark('bold'))],
  italic: [toggleMark(mark('italic'))],
  'link.page': [link('/fares')],
  'link.web': [link('https://larkhaven.example')],
  'heading.2': [setBlockType(node('heading'), { level: 2 }), setBlockType(node('paragraph'))],
  'heading.3': [setBlockType(node('heading'), { level: 3 }), setBlockType(node('paragraph'))],
  bullets: [
    wrapInList(node('bulletList')),
    inList('bulletList', liftListItem(node('listItem'))),
    inList('bulletList', sinkListItem(node('listItem'))),
  ],
  numbers: [
    wrapInList(node('orderedList'), { start: 1 }),
    inList('orderedList', liftListItem(node('listItem'))),
    inList('orderedList', sinkListItem(node('listItem'))),
  ],
  quote: [wrapIn(node('blockquote'))],
  highlight: [wrapIn(node('highlight'))],
  alert: [wrapIn(node('alert'), { until: '2090-01-01' })],
  picture: [put(() => node('picture').create({ id: '9', description: 'A gull', width: 'full' }))],
  table: [
    put(() => schema.nodeFromJSON(table(['x', 'y'], ['1', '2']))),
    addRowAfter,
    deleteRow,
    addColumnAfter,
    deleteColumn,
    mergeCells,
    splitCell,
  ],
  'table.rows': [addRowAfter, deleteRow, addColumnAfter, deleteColumn],
};
/** What the keys do without any tool, within a paragraph. */
export const isWithin = (state: EditorState) => state.selection.$from.sameParent(state.selection.$to);
const type =
  (words: string): Command =>
  (state, dispatch) => {
    if (!isWithin(state)) return false;
    dispatch?.(state.tr.insertText(words));
    return true;
  };
const erase: Command = (state, dispatch) => {
  if (state.selection.empty || !isWithin(state)) return false;
  dispatch?.(state.tr.deleteSelection());
  return true;
};
export const PLAIN: readonly Command[] = [
  type('qu'),
  type('Ž žluť '),
  erase,
  splitBlock,
  splitListItem(node('listItem')),
];

/** Words chosen from some place on; as in the writing area never from one cell of a table into another. */
export function chosen(state: EditorState, start: number, length: number): Selection {
  const selection = TextSelection.between(
    state.doc.resolve(start),
    state.doc.resolve(Math.min(state.doc.content.size, start + length)),
  );
  const { $from, $to } = selection;
  for (let depth = $from.depth; depth > 0; depth--)
    if (
      $from.node(depth).type.spec['tableRole'] === 'cell' ||
      $from.node(depth).type.spec['tableRole'] === 'header_cell'
    )
      return $to.depth >= depth && $to.start(depth) === $from.start(depth)
        ? selection
        : TextSelection.create(state.doc, selection.from);
  for (let depth = $to.depth; depth > 0; depth--)
    if ($to.node(depth).type.name === 'table') return TextSelection.create(state.doc, selection.from);
  return selection;
}

export const clean = (doc: Node): Document => {
  const parsed = parseDocument(doc.toJSON());
  if (!parsed.ok) throw new Error(`${parsed.path}: ${parsed.message}`);
  return parsed.document;
};

/** The keys with words of one's own: what is written twice over is another thing each time. */
export const keysTyping = (words: string): readonly Command[] => [type(words), type(`${words} `), ...PLAIN.slice(2)];
