import { Extension } from '@tiptap/core';
import type { Node } from '@tiptap/pm/model';
import { Plugin, PluginKey } from '@tiptap/pm/state';
import { Decoration, DecorationSet } from '@tiptap/pm/view';
import type { DocumentNode } from '@/core/content';
import { CONSTRUCT_NAMES, makeOf, type Hands } from '@/core/toolbar';

/** What is asked to be changed: what a tool makes, and some words of it. */
export interface Wish {
  made: string;
  words: string;
}

export interface KeptOptions {
  hands: Hands;
  /** Asks for a change of a piece; null where nobody can be asked. */
  onAsk: ((wish: Wish) => void) | null;
}

/** The press that asks for a change of a piece, as plain elements: node views and decorations stand outside React. */
export function askButton(onAsk: () => void): HTMLButtonElement {
  const button = document.createElement('button');
  button.type = 'button';
  button.className = 'link kept-ask';
  button.textContent = 'Ask for a change';
  button.addEventListener('mousedown', (event) => event.preventDefault());
  button.addEventListener('click', onAsk);
  return button;
}

/** What a tool would have to make for a node to be there. */
const makeOfNode = ({ type, attrs }: Node) => makeOf({ type: type.name as DocumentNode['type'], attrs });

const begins = (words: string) => `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;

function noteOf(node: Node, { hands, onAsk }: KeptOptions): HTMLElement {
  const note = document.createElement('span');
  note.className = 'kept-note';
  note.contentEditable = 'false';
  const name = begins(CONSTRUCT_NAMES[node.type.name] ?? node.type.name);
  note.append(
    hands.policyOf(node.type.name) === 'whole'
      ? `${name} that stays as it is. `
      : `${name} that keeps its form; its words may change. `,
  );
  if (onAsk) note.append(askButton(() => onAsk({ made: makeOfNode(node), words: node.textContent })));
  return note;
}

/** The pieces of a text that have to stay carry a quiet mark, and say so. */
function marksIn(doc: Node, options: KeptOptions): DecorationSet {
  const { hands } = options;
  const found: Decoration[] = [];
  doc.descendants((node, at) => {
    const { name } = node.type;
    if (!node.isBlock || !(name in CONSTRUCT_NAMES)) return true;
    if (hands.makes(makeOfNode(node)) || hands.policyOf(name) === 'free') return true;
    found.push(
      Decoration.node(at, at + node.nodeSize, { class: 'kept-piece' }),
      Decoration.widget(at + node.nodeSize, () => noteOf(node, options), {
        side: -1,
        key: `kept ${at} ${name} ${node.textContent.length}`,
        ignoreSelection: true,
      }),
    );
    return false;
  });
  return DecorationSet.create(doc, found);
}

const KEY = new PluginKey<DecorationSet>('kept');

export const Kept = Extension.create<KeptOptions>({
  name: 'kept',
  addProseMirrorPlugins() {
    const { options } = this;
    return [
      new Plugin<DecorationSet>({
        key: KEY,
        state: {
          init: (_, state) => marksIn(state.doc, options),
          apply: (tr, marks, _, state) => (tr.docChanged ? marksIn(state.doc, options) : marks),
        },
        props: { decorations: (state) => KEY.getState(state) },
      }),
    ];
  },
});
