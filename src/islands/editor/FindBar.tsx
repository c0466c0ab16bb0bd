import type { Editor } from '@tiptap/core';
import { findNext, findPrev, replaceAll, replaceNext, SearchQuery, setSearchState } from 'prosemirror-search';
import { useEffect, useRef, useState } from 'react';
import { Icon } from '../kit/Icon';

/** How often something stands in the text. */
function countOf(editor: Editor, query: SearchQuery): number {
  if (!query.valid) return 0;
  let count = 0;
  for (let at = query.findNext(editor.state, 0); at; at = query.findNext(editor.state, at.to)) count++;
  return count;
}

/** Finds words in the text and puts others in their place. */
export default function FindBar({ editor, onClose }: { editor: Editor; onClose: () => void }) {
  const [find, setFind] = useState('');
  const [replace, setReplace] = useState('');
  const [caps, setCaps] = useState(false);
  const [said, setSaid] = useState('');
  const field = useRef<HTMLInputElement>(null);
  const query = new SearchQuery({ search: find, replace, caseSensitive: caps, literal: true });
  const found = countOf(editor, query);
  useEffect(() => {
    editor.view.dispatch(setSearchState(editor.state.tr, new SearchQuery({ search: find, replace, caseSensitive: caps, literal: true })));
    setSaid('');
  }, [editor, find, replace, caps]);
  useEffect(() => {
    field.current?.focus();
    return () => {
      if (!editor.isDestroyed) editor.view.dispatch(setSearchState(editor.state.tr, new SearchQuery({ search: '' })));
    };
  }, [editor]);
  const run = (command: typeof findNext) => command(editor.state, editor.view.dispatch, editor.view);
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
        run(findNext);
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
      <button type="button" className="btn btn-small px-2" disabled={found === 0} aria-label="The one before" onClick={() => run(findPrev)}>
        <Icon name="up" size={16} />
      </button>
      <button type="submit" className="btn btn-small px-2" disabled={found === 0} aria-label="The next one">
        <Icon name="down" size={16} />
      </button>
      <button type="button" className="btn btn-small" disabled={found === 0} onClick={() => run(replaceNext)}>
        Replace
      </button>
      <button
        type="button"
        className="btn btn-small"
        disabled={found === 0}
        onClick={() => {
          run(replaceAll);
          setSaid(`${found} replaced.`);
          // The button has nothing left to do; the focus must not fall out of the bar with it.
          field.current?.focus();
        }}
      >
        Replace all
      </button>
      <label className="flex min-h-[30px] items-center gap-1.5 text-sm">
        <input type="checkbox" className="h-4 w-4" checked={caps} onChange={(event) => setCaps(event.target.checked)} /> Mind capitals
      </label>
      <button type="button" className="btn btn-quiet btn-small" onClick={close}>
        Close
      </button>
      <p role="status" className="w-full text-sm text-ink-2">
        {said || (find !== '' && (found === 0 ? 'Not in this text.' : found === 1 ? 'Once in this text.' : `${found} times in this text.`))}
      </p>
    </form>
  );
}
