import type { Editor } from '@tiptap/core';
import { closeHistory } from '@tiptap/pm/history';
import { diffIndices } from 'node-diff3';
import { canonical } from '@/core/json';
import type { Document } from '@/core/content';

/**
 * Says of a change that it comes from outside the writing area: the guard lets it pass, since it was let through
 * already.
 */
export const FROM_OUTSIDE = 'fromOutside';

/**
 * Puts other text into a writing area while somebody may be writing there: block by block, and only those that differ,
 * so that cursor, selection and what can be undone stay where they are in all the others. `undoable`: one undo takes it
 * back, and nothing else.
 */
export function putDocument(editor: Editor, next: Document, undoable: boolean): void {
  const { doc, schema } = editor.state;
  const wanted = schema.nodeFromJSON(next);
  const keys = (node: typeof doc) => node.children.map((child) => canonical(child.toJSON()));
  const starts = doc.children.reduce<number[]>((list, child) => [...list, (list.at(-1) ?? 0) + child.nodeSize], [0]);
  const { tr } = editor.state;
  // From the end, so that what stands before keeps its place.
  for (const {
    buffer1: [from, count],
    buffer2: [to, many],
  } of diffIndices(keys(doc), keys(wanted)).reverse())
    tr.replaceWith(starts[from] ?? 0, starts[from + count] ?? doc.content.size, wanted.children.slice(to, to + many));
  if (!tr.docChanged) return;
  if (undoable) closeHistory(tr);
  editor.view.dispatch(tr.setMeta(FROM_OUTSIDE, true).setMeta('addToHistory', undoable));
}
