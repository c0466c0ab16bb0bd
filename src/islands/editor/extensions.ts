import { Extension, textblockTypeInputRule, type AnyExtension, type Node } from '@tiptap/core';
import { Blockquote } from '@tiptap/extension-blockquote';
import { Bold } from '@tiptap/extension-bold';
import { Document } from '@tiptap/extension-document';
import { HardBreak } from '@tiptap/extension-hard-break';
import { Heading } from '@tiptap/extension-heading';
import { Italic } from '@tiptap/extension-italic';
import { Link } from '@tiptap/extension-link';
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list';
import { Paragraph } from '@tiptap/extension-paragraph';
import { Table, TableCell, TableHeader, TableRow } from '@tiptap/extension-table';
import { Text } from '@tiptap/extension-text';
import { Gapcursor, Placeholder, UndoRedo } from '@tiptap/extensions';
import { isHref, parseDocument, renderDocument, thingOf } from '@/core/content';
import { search } from 'prosemirror-search';
import { handsOf } from '@/core/toolbar';
import { Guard, type GuardOptions } from './guard';
import { askButton, Kept, type KeptOptions } from './kept';
import { Alert, Highlight, PictureNode, Unknown, UnknownInlineNode } from './nodes';
import type { PictureChoice } from './PictureChooser';

/** A table that nobody here could make again: shown whole, as one piece that cannot be typed into. */
const lockedTable = (onAsk: KeptOptions['onAsk']) =>
  Table.extend({
    addNodeView() {
      return ({ node }) => {
        const dom = document.createElement('div');
        dom.className = 'locked-table';
        dom.contentEditable = 'false';
        const note = document.createElement('p');
        note.className = 'locked-note';
        note.textContent =
          'This table is kept as it is. Your toolbar has no table tools, so nobody can spoil it by accident. ';
        if (onAsk)
          note.append(
            askButton(() => onAsk({ made: 'table', words: node.textBetween(0, node.content.size, ' ', ' ').trim() })),
          );
        const shown = document.createElement('div');
        const parsed = parseDocument({ type: 'doc', content: [node.toJSON() as unknown] });
        // Comes from our own renderer, which escapes all text.
        shown.innerHTML = parsed.ok ? renderDocument(parsed.document) : '';
        dom.append(note, shown);
        return {
          dom,
          ignoreMutation: () => true,
          stopEvent: (event: Event) => event.target instanceof HTMLButtonElement,
        };
      };
    },
  });

/** Takes the typing shortcuts of an extension away, so that nothing is tried that the toolbar has not. */
const silent = <E extends AnyExtension>(extension: E): E =>
  (extension as unknown as Node).extend({
    addKeyboardShortcuts: () => ({}),
    addInputRules: () => [],
    addPasteRules: () => [],
  }) as unknown as E;

/** Headings; the keys and typing shortcuts only of the levels there is a tool for. */
function heading(allowed: ReadonlySet<string>) {
  const levels = ([2, 3] as const).filter((level) => allowed.has(`heading.${level}`));
  const all = Heading.configure({ levels: [2, 3] });
  if (levels.length === 0) return silent(all);
  const [only] = levels.length === 1 ? levels : [];
  return only === undefined
    ? all
    : all.extend({
        addKeyboardShortcuts() {
          return { [`Mod-Alt-${only}`]: () => this.editor.commands.toggleHeading({ level: only }) };
        },
        addInputRules() {
          return [
            textblockTypeInputRule({
              find: new RegExp(`^(#{${only}})\\s$`),
              type: this.type,
              getAttributes: { level: only },
            }),
          ];
        },
      });
}

/** Marks what “Find and replace” finds. */
const Search = Extension.create({ name: 'search', addProseMirrorPlugins: () => [search()] });

/** The full document schema, whatever the toolbar has; the toolbar only decides what answers to the keyboard. */
export function extensionsFor(
  guard: GuardOptions,
  pictures: readonly PictureChoice[] = [],
  onAsk: KeptOptions['onAsk'] = null,
): AnyExtension[] {
  const { allowed, tools, keep } = guard;
  const hands = handsOf(allowed, tools, keep);
  const isLocked = !allowed.has('table') && !allowed.has('table.rows') && hands.policyOf('table') === 'whole';
  // A table that is locked says so itself.
  const kept = { ...hands, makes: (made: string) => hands.makes(made) || (isLocked && made === 'table') };
  const when = <E extends AnyExtension>(tool: string, extension: E): E =>
    allowed.has(tool) ? extension : silent(extension);
  return [
    Document.extend({ content: 'block+' }),
    Paragraph,
    Text,
    HardBreak,
    UndoRedo,
    Gapcursor,
    Placeholder.configure({ placeholder: 'Write here' }),
    ListItem,
    ListKeymap,
    when('bold', Bold),
    when('italic', Italic),
    Link.configure({
      openOnClick: false,
      autolink: false,
      linkOnPaste: allowed.has('link.web'),
      isAllowedUri: (uri) => isHref(uri) || thingOf(uri) !== undefined,
      HTMLAttributes: { target: null, rel: null, class: null },
    }),
    heading(allowed),
    when('bullets', BulletList),
    when('numbers', OrderedList),
    when('quote', Blockquote),
    (isLocked ? lockedTable(onAsk) : Table).configure({ resizable: false }),
    TableRow.extend({ content: '(tableCell | tableHeader)+' }),
    TableHeader,
    TableCell,
    PictureNode.configure({ pictures }),
    Highlight,
    Alert,
    Unknown,
    UnknownInlineNode,
    Search,
    Guard.configure(guard),
    Kept.configure({ hands: kept, onAsk }),
  ];
}
