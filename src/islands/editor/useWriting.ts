import { Slice } from '@tiptap/pm/model';
import { useEditor, type Editor } from '@tiptap/react';
import { useEffect, useRef, useState } from 'react';
import { emptyDocument, type Document } from '@/core/content';
import type { Tool } from '@/core/inventory';
import type { TextTools } from '@/core/room';
import { handy } from '@/core/toolbar';
import { asDocument } from './asDocument';
import { extensionsFor } from './extensions';
import { pastedInWords, readPasted, type Pasted } from './paste';
import type { PictureChoice } from './PictureChooser';
import { putDocument } from './putIn';
import { inSight, onBarsChange } from './inSight';
import type { Wish } from './kept';

/** Puts a text into a writing area; `undoable`: one undo there takes it back. */
export type PutIn = (text: Document, undoable: boolean) => void;

/** The editor of a writing area: what it takes by key and from the clipboard, and what it tells. Null at first. */
export function useWriting({
  label,
  loaded,
  tools: ids,
  keep,
  allTools,
  readOnly,
  pictures,
  onAsk,
  onReady,
  onChange,
  onFind,
  onSay,
}: {
  label: string;
  loaded: Document;
  /** Ids of those it is written with. */
  tools: TextTools['tools'];
  keep: TextTools['keep'];
  allTools: readonly Tool[];
  readOnly: boolean;
  pictures: PictureChoice[];
  onAsk: ((wish: Wish) => void) | null;
  onReady: (put: PutIn) => () => void;
  onChange: (document: Document) => void;
  /** Opens finding; null without that tool. */
  onFind: (() => void) | null;
  /** What is told of what was done; empty when the next thing is done. */
  onSay: (words: string) => void;
}): Editor | null {
  const reading = useRef<Pasted | null>(null);
  const pasted = useRef('');
  const byKey = useRef(false);
  const change = useRef(onChange);
  change.current = onChange;
  const [allowed] = useState(() =>
    handy(
      ids,
      allTools.map((tool) => tool.id),
    ),
  );
  // What comes from outside comes as plain words, where there is no tool for more.
  const plainly = useRef(false);
  const editor = useEditor({
    immediatelyRender: false,
    shouldRerenderOnTransaction: false,
    injectCSS: false,
    editable: !readOnly,
    extensions: extensionsFor(
      {
        allowed,
        tools: allTools,
        keep,
        loaded,
        mayShow: (id) => pictures.some((picture) => picture.id === id),
        isPlain: () => {
          const is = plainly.current;
          plainly.current = false;
          return is;
        },
        say: (words) => onSay([words, pasted.current].filter(Boolean).join(' ')),
      },
      pictures,
      onAsk,
    ),
    content: loaded,
    editorProps: {
      ...inSight(),
      // What a word processor or a web page puts on the clipboard is tidied first, and what has no place here is told.
      transformPastedHTML: (html) => {
        const read = readPasted(html);
        reading.current = read;
        // What was cut or copied in a writing area says so.
        plainly.current = !allowed.has('paste.form') && !html.includes('data-pm-slice');
        return read.html;
      },
      // A heading, list or table that comes first is one, also behind words that stand there already.
      transformPasted: (slice, view) => {
        if (reading.current) {
          const there = slice.content.textBetween(0, slice.content.size, ' ', ' ');
          pasted.current = pastedInWords(reading.current, there, ids.includes('picture'));
          reading.current = null;
          onSay(pasted.current);
        }
        const first = slice.content.firstChild;
        const isStructure =
          slice.openStart > 0 && slice.content.childCount > 1 && first !== null && first.type.name !== 'paragraph';
        return isStructure && view.state.selection.$from.parent.content.size > 0
          ? new Slice(slice.content, 0, slice.openEnd)
          : slice;
      },
      handlePaste: (_, event) => {
        const data = event.clipboardData;
        if (!data || data.files.length === 0 || data.types.includes('text/html') || data.types.includes('text/plain'))
          return false;
        onSay(
          ids.includes('picture')
            ? 'A picture or file cannot be pasted into a text. Pictures of the website are put in with the tool “Picture”.'
            : 'A picture or file cannot be pasted into a text. Ask whoever looks after the pictures.',
        );
        return true;
      },
      // What was said stands until the next thing is done.
      handleDOMEvents: {
        keydown: (_, event) => {
          byKey.current = true;
          onSay('');
          pasted.current = '';
          if (!(event.ctrlKey || event.metaKey) || event.altKey || event.key.toLowerCase() !== 'f' || !onFind)
            return false;
          event.preventDefault();
          onFind();
          return true;
        },
        mousedown: () => {
          byKey.current = false;
          onSay('');
        },
      },
      attributes: {
        class: 'prose',
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': label,
        ...(readOnly && { 'aria-readonly': 'true' }),
      },
    },
    // A key that moves the cursor brings its line into sight; a press with the mouse is there already.
    onSelectionUpdate: ({ editor: now }) => {
      if (byKey.current && now.isFocused) now.commands.scrollIntoView();
    },
    onUpdate: ({ editor: now }) => {
      change.current(asDocument(now.state.doc) ?? emptyDocument());
    },
  });
  useEffect(() => {
    if (!editor) return undefined;
    const toLine = () => {
      if (byKey.current && editor.isFocused) editor.commands.scrollIntoView();
    };
    let end = () => {};
    const begin = () => {
      end();
      end = onBarsChange(toLine);
    };
    editor.on('focus', begin);
    return () => {
      editor.off('focus', begin);
      end();
    };
  }, [editor]);
  const ready = useRef(onReady);
  ready.current = onReady;
  useEffect(
    () => (editor ? ready.current((text, undoable) => putDocument(editor, text, undoable)) : undefined),
    [editor],
  );
  return editor;
}
