import { Extension } from '@tiptap/core';
import { Fragment, Slice } from '@tiptap/pm/model';
import { Plugin } from '@tiptap/pm/state';
import { parseDocument, type Document, type DocumentNode } from '@/core/content';
import type { Tool } from '@/core/inventory';
import { FROM_OUTSIDE } from './putIn';
import { constructsOf, losesProtected, mergeConstructs, missingTools, plainOut } from '@/core/toolbar';

export interface GuardOptions {
  allowed: ReadonlySet<string>;
  tools: readonly Tool[];
  /** The text as it was loaded: whatever it holds may stay. */
  loaded: Document;
  say: (words: string) => void;
}

const clean = (doc: { toJSON(): unknown }): Document | null => {
  const parsed = parseDocument(doc.toJSON());
  return parsed.ok ? parsed.document : null;
};

/**
 * Refuses, while typing, what the server would refuse when saving: anything that needs a tool the toolbar has not.
 * The same function of the core decides in both places. Pasted text loses only what cannot be made here.
 */
export const Guard = Extension.create<GuardOptions>({
  name: 'guard',
  addProseMirrorPlugins() {
    const { allowed, tools, loaded, say } = this.options;
    let allowance = constructsOf(loaded);
    return [
      new Plugin({
        filterTransaction(tr, state) {
          if (!tr.docChanged) return true;
          const after = clean(tr.doc);
          if (!after) {
            say('That does not fit into this text, so it was left out.');
            return false;
          }
          if (tr.getMeta(FROM_OUTSIDE)) {
            allowance = mergeConstructs(allowance, constructsOf(after));
            return true;
          }
          const missing = missingTools(allowed, tools, allowance, after);
          if (missing.length) {
            say(
              `That needs ${missing.map((tool) => `“${tool.name}”`).join(' and ')}, which your toolbar does not have.`,
            );
            return false;
          }
          const before = clean(state.doc);
          if (before && losesProtected(allowed, tools, before, after)) {
            say(
              `${before.content.some((node) => node.type === 'table') ? 'The table' : 'The picture'} is kept as it is: your toolbar could not make it again.`,
            );
            return false;
          }
          allowance = mergeConstructs(allowance, constructsOf(after));
          return true;
        },
        props: {
          transformPasted(slice, view) {
            const { nodes, dropped } = plainOut(allowed, tools, (slice.content.toJSON() ?? []) as DocumentNode[]);
            if (dropped.length === 0) return slice;
            say(`Pasted as plain text where your toolbar has no ${dropped.map((name) => `“${name}”`).join(', ')}.`);
            return Slice.maxOpen(Fragment.fromJSON(view.state.schema, nodes));
          },
        },
      }),
    ];
  },
});
