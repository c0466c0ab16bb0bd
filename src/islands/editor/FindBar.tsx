import type { Editor } from '@tiptap/core';
import { useEditorState } from '@tiptap/react';
import { SearchQuery, setSearchState } from 'prosemirror-search';
import { useEffect, useRef, useState } from 'react';
import { foldedPattern } from './folded';
import { Icon } from '../kit/Icon';

/** Where something stands in the text. */
function placesOf(editor: Editor, query: SearchQuery): { from: number; to: number }[] {
  const places = [];
  if (query.valid)
    for (let at = query.findNext(editor.state, 0); at; at = query.findNext(editor.state, Math.max(at.to, at.from + 1)))
      places.push({ from: at.from, to: at.to });
  return places;
}

/** Words as they are written, with or without the accents that were not typed. */
const queryFor = (search: string, caseSensitive: boolean) =>
  new SearchQuery({ search: search && foldedPattern(search), caseSensitive, regexp: true });

/** Finds words in the text and puts others in their place. */
export default function FindBar({ editor, onClose }: { editor: Editor; onClose: () => void }) {
  const [find, setFind] = useState('');
  const [replace, setReplace] = useState('');
  const [caps, setCaps] = useState(false);
  const [said, setSaid] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const query = queryFor(find, caps);
  const places = placesOf(editor, query);
  const found = places.length;
  const selection = useEditorState({
    editor,
    selector: ({ editor: now }) => ({ from: now.state.selection.from, to: now.state.selection.to }),
  });
  const at = places.findIndex((place) => place.from === selection.from && place.to === selection.to);
  useEffect(() => {
    editor.view.dispatch(setSearchState(editor.state.tr, queryFor(find, caps)));
    setSaid('');
  }, [editor, find, caps]);
  // What is found is gone to while it is typed: the first from where the cursor is.
  useEffect(() => {
    const sought = queryFor(find, caps);
    const next = sought.valid
      ? (sought.findNext(editor.state, editor.state.selection.from) ?? sought.findNext(editor.state, 0))
      : null;
    if (next) goTo(next);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each change of what is sought
  }, [find, caps]);
  useEffect(() => {
    field.current?.focus();
    return () => {
      if (!editor.isDestroyed) editor.view.dispatch(setSearchState(editor.state.tr, new SearchQuery({ search: '' })));
    };
  }, [editor]);
  /** Marks a place and shows it in the middle of the window. */
  const goTo = ({ from, to }: { from: number; to: number }) => {
    editor.commands.setTextSelection({ from, to });
    const { node } = editor.view.domAtPos(from);
    (node instanceof Element ? node : node.parentElement)?.scrollIntoView({ block: 'center' });
  };
  const step = (by: 1 | -1) => {
    const next =
      at >= 0
        ? places[(at + by + found) % found]
        : by > 0
          ? (places.find((place) => place.from >= selection.from) ?? places[0])
          : (places.findLast((place) => place.to <= selection.from) ?? places.at(-1));
    if (next) goTo(next);
  };
  /** Puts the other words in some places, with the look the old ones had; one undo takes all of it back. */
  const put = (where: readonly { from: number; to: number }[]) => {
    const { tr, doc, schema } = editor.state;
    for (const { from, to } of where.toReversed()) {
      if (replace === '') tr.delete(from, to);
      else tr.replaceWith(from, to, schema.text(replace, doc.resolve(from).marksAcross(doc.resolve(to)) ?? []));
    }
    editor.view.dispatch(tr);
  };
  /** Replaces the one that is marked, or the next, and goes on to the one after it. */
  const replaceOne = () => {
    const place = at >= 0 ? places[at] : (places.find((one) => one.from >= selection.from) ?? places[0]);
    if (!place) return;
    put([place]);
    const left = placesOf(editor, query);
    const next = left.find((one) => one.from >= place.from + replace.length) ?? left[0];
    setSaid('One replaced.');
    if (next) goTo(next);
    else field.current?.focus();
  };
  const close = () => {
    onClose();
    editor.commands.focus();
  };
  return (
    <form
      aria-label="Find and replace"
      className="mb-3 flex flex-wrap items-end gap-2 rounded-[10px] border border-line-2 bg-paper px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        step(1);
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') close();
      }}
    >
      <label className="min-w-[9rem] flex-1">
        <span className="label">Find</span>
        <input ref={field} className="field py-1.5" value={find} onChange={(event) => setFind(event.target.value)} />
      </label>
      <label className="min-w-[9rem] flex-1">
        <span className="label">Put in its place</span>
        <input className="field py-1.5" value={replace} onChange={(event) => setReplace(event.target.value)} />
      </label>
      <button
        type="button"
        className="btn btn-small px-2"
        disabled={found === 0}
        aria-label="The one before"
        onClick={() => step(-1)}
      >
        <Icon name="up" size={16} />
      </button>
      <button type="submit" className="btn btn-small px-2" disabled={found === 0} aria-label="The next one">
        <Icon name="down" size={16} />
      </button>
      <button type="button" className="btn btn-small" disabled={found === 0} onClick={replaceOne}>
        Replace
      </button>
      <button
        type="button"
        className="btn btn-small"
        disabled={found === 0}
        onClick={() => {
          put(places);
          setSaid(`${found} replaced.`);
          // The button has nothing left to do; the focus must not fall out of the bar with it.
          field.current?.focus();
        }}
      >
        Replace all
      </button>
      <label className="flex min-h-[30px] items-center gap-1.5 text-sm">
        <input type="checkbox" className="h-4 w-4" checked={caps} onChange={(event) => setCaps(event.target.checked)} />{' '}
        Mind capitals
      </label>
      <button type="button" className="btn btn-quiet btn-small" onClick={close}>
        Close
      </button>
      <p role="status" className="w-full text-sm text-ink-2">
        {[
          said,
          find !== '' &&
            (found === 0
              ? said
                ? ''
                : 'Not in this text.'
              : at >= 0
                ? `${at + 1} of ${found} in this text.`
                : found === 1
                  ? 'Once in this text.'
                  : `${found} times in this text.`),
        ]
          .filter(Boolean)
          .join(' ')}
      </p>
    </form>
  );
}
