import { Extension } from '@tiptap/core';
import { Fragment, Slice } from '@tiptap/pm/model';
import { Plugin } from '@tiptap/pm/state';
import type { Document, DocumentNode } from '@/core/content';
import type { Tool } from '@/core/inventory';
import { canonical } from '@/core/json';
import { asDocument } from './asDocument';
import { FROM_OUTSIDE } from './putIn';
import { acceptChange, handsOf, makersOf, plainOut, type ConstructPolicy } from '@/core/toolbar';

export interface GuardOptions {
  allowed: ReadonlySet<string>;
  tools: readonly Tool[];
  /** What rules say becomes of constructs no tool here makes. */
  keep: Readonly<Record<string, ConstructPolicy>>;
  /** Whether what is being pasted shall come as plain words. */
  isPlain: () => boolean;
  /** The text as it was loaded: whatever it holds may stay. */
  loaded: Document;
  /** Whether a picture may be chosen here, by its id. */
  mayShow: (picture: string) => boolean;
  say: (words: string) => void;
}

/** Some nodes without the pictures that have to stay out, wherever they lie. */
const withoutPictures = (nodes: readonly DocumentNode[], isOut: (id: string) => boolean): DocumentNode[] =>
  nodes.flatMap((node): DocumentNode[] => {
    if (node.type === 'picture') return isOut(String(node.attrs?.['id'])) ? [] : [node];
    return 'content' in node && node.content ? [{ ...node, content: withoutPictures(node.content, isOut) }] : [node];
  });

/**
 * Refuses, while typing, what the server would refuse when saving: anything that needs a tool the toolbar has not.
 * The same function of the core decides in both places. Pasted text loses only what cannot be made here.
 */
export const Guard = Extension.create<GuardOptions>({
  name: 'guard',
  addProseMirrorPlugins() {
    const { allowed, tools, keep, loaded, isPlain, mayShow, say } = this.options;
    const hands = handsOf(allowed, tools, keep);
    /** The text as it came, here and from outside: what stands in any of them needs no tool. */
    const came = [loaded];
    return [
      new Plugin({
        filterTransaction(tr, state) {
          if (!tr.docChanged) return true;
          const after = asDocument(tr.doc);
          if (!after) {
            say('That does not fit into this text, so it was left out.');
            return false;
          }
          if (tr.getMeta(FROM_OUTSIDE)) {
            came.push(after);
            return true;
          }
          const before = asDocument(state.doc) ?? loaded;
          const [fault, ...others] = acceptChange(before, after, hands, [before, ...came]);
          if (!fault) return true;
          const missing = [fault, ...others]
            .filter(({ why }) => why === 'new')
            .flatMap(({ made }) => makersOf(tools, made).map((tool) => `“${tool.name}”`));
          say(
            missing.length > 0
              ? `That needs ${[...new Set(missing)].join(' and ')}, which your toolbar does not have.`
              : `The ${fault.construct} is kept as it is: your toolbar could not make it again.`,
          );
          return false;
        },
        props: {
          transformPasted(slice, view) {
            const isAll = isPlain();
            const { nodes: pasted, dropped } = plainOut(
              isAll ? new Set() : allowed,
              tools,
              (slice.content.toJSON() ?? []) as DocumentNode[],
            );
            const holds = (text: Document, id: string) =>
              canonical(withoutPictures(text.content, (one) => one === id)) !== canonical(text.content);
            const nodes = withoutPictures(pasted, (id) => !mayShow(id) && !came.some((text) => holds(text, id)));
            const isLess = canonical(nodes) !== canonical(pasted);
            if (dropped.length === 0 && !isLess) return slice;
            say(
              [
                isAll && dropped.length > 0 && 'Pasted as plain words: your toolbar does not paste with form.',
                !isAll &&
                  dropped.length > 0 &&
                  `Pasted as plain text where your toolbar has no ${dropped.map((name) => `“${name}”`).join(', ')}.`,
                isLess && 'A picture was left out: here it cannot be chosen.',
              ]
                .filter(Boolean)
                .join(' '),
            );
            return Slice.maxOpen(Fragment.fromJSON(view.state.schema, nodes));
          },
        },
      }),
    ];
  },
});
