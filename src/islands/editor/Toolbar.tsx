import type { Editor } from '@tiptap/core';
import { useEditorState } from '@tiptap/react';
import { Toolbar as RadixToolbar } from 'radix-ui';
import { useEffect, useLayoutEffect, useRef, useState, type MouseEvent } from 'react';
import { groupTools, type Tool } from '@/core/inventory';
import { dialogLater } from '../kit/later';
import { Icon, type IconName } from '../kit/Icon';
import { useAbout } from './about';
import type { PictureChoice } from './PictureChooser';

const LinkDialog = dialogLater(() => import('./LinkDialog'));
const PictureInText = dialogLater(() => import('./PictureInText'));
const AlertDialog = dialogLater(() => import('./AlertDialog'));

interface Action {
  icon: IconName | null;
  isOn: (e: Editor) => boolean;
  /** False when it can do nothing where the cursor is. */ run: (e: Editor) => boolean;
  /** Why it can do nothing there. */ why?: string;
}
const ACTIONS: Record<string, Action> = {
  bold: { icon: 'bold', isOn: (e) => e.isActive('bold'), run: (e) => e.chain().focus().toggleBold().run() },
  italic: { icon: 'italic', isOn: (e) => e.isActive('italic'), run: (e) => e.chain().focus().toggleItalic().run() },
  'heading.2': {
    icon: 'heading',
    isOn: (e) => e.isActive('heading', { level: 2 }),
    run: (e) => e.chain().focus().toggleHeading({ level: 2 }).run(),
  },
  'heading.3': {
    icon: null,
    isOn: (e) => e.isActive('heading', { level: 3 }),
    run: (e) => e.chain().focus().toggleHeading({ level: 3 }).run(),
  },
  bullets: {
    icon: 'list',
    isOn: (e) => e.isActive('bulletList'),
    run: (e) => e.chain().focus().toggleBulletList().run(),
  },
  numbers: {
    icon: 'numbers',
    isOn: (e) => e.isActive('orderedList'),
    run: (e) => e.chain().focus().toggleOrderedList().run(),
  },
  quote: {
    icon: 'quote',
    isOn: (e) => e.isActive('blockquote'),
    run: (e) => e.chain().focus().toggleBlockquote().run(),
  },
  table: {
    icon: 'table',
    isOn: (e) => e.isActive('table'),
    run: (e) => !e.isActive('table') && e.chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
    why: 'The cursor is in a table, and none stands in another. Put it outside for a second one.',
  },
  highlight: {
    icon: 'highlight',
    isOn: (e) => e.isActive('highlight'),
    run: (e) => e.chain().focus().toggleWrap('highlight').run(),
    why: 'A box holds paragraphs and lists. Make plain text of this first, or put the cursor into a paragraph.',
  },
};
const REMOVE_TABLE = 'Remove table';
const IN_TABLE: [name: string, run: (e: Editor) => boolean, why: string][] = [
  ['Row below', (e) => e.chain().focus().addRowAfter().run(), ''],
  ['Column after', (e) => e.chain().focus().addColumnAfter().run(), ''],
  ['Header row', (e) => e.chain().focus().toggleHeaderRow().run(), ''],
  [
    'Remove row',
    (e) => e.chain().focus().deleteRow().run(),
    'This is the only row. “Remove table” takes the whole table away.',
  ],
  [
    'Remove column',
    (e) => e.chain().focus().deleteColumn().run(),
    'This is the only column. “Remove table” takes the whole table away.',
  ],
  [REMOVE_TABLE, (e) => e.chain().focus().deleteTable().run(), ''],
];

/** Room for the button that holds the rest, in px. */
const MORE_PX = 84;

/** A press with the mouse leaves the cursor in the text, so that not one letter typed after it is lost. */
const keepFocus = (event: MouseEvent) => event.preventDefault();

interface ToolbarProps {
  editor: Editor;
  tools: readonly Tool[];
  /** Groups that stand before the others. */
  first: readonly Tool['group'][];
  pictures: PictureChoice[];
  finding: boolean;
  full: boolean;
  onFind: () => void;
  onFull: () => void;
  onSay: (words: string) => void;
}

/**
 * The tools somebody has, as the inventory names and groups them: one tab stop, arrow keys between the tools (WAI-ARIA
 * toolbar pattern).
 */
export function Toolbar({ editor, tools, first, pictures, finding, full, onFind, onFull, onSay }: ToolbarProps) {
  const { anchor } = useAbout();
  const [asking, setAsking] = useState<'link' | 'picture' | 'alert' | null>(null);
  const on = useEditorState({
    editor,
    selector: ({ editor: e }) =>
      Object.fromEntries(Object.entries(ACTIONS).map(([tool, action]) => [tool, action.isOn(e)])),
  });
  const active = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      link: e.isActive('link'),
      picture: e.isActive('picture'),
      alert: e.isActive('alert'),
    }),
  });
  // The keys the inventory names for Link; those of the other tools come with the editor.
  const links = tools.filter((tool) => tool.id.startsWith('link.'));
  const mayLink = links.length > 0;
  useEffect(() => {
    const { dom } = editor.view;
    const onKey = (event: KeyboardEvent) => {
      if (
        !mayLink ||
        !(event.ctrlKey || event.metaKey) ||
        event.altKey ||
        event.shiftKey ||
        event.key.toLowerCase() !== 'k'
      )
        return;
      event.preventDefault();
      setAsking('link');
    };
    dom.addEventListener('keydown', onKey);
    return () => dom.removeEventListener('keydown', onKey);
  }, [editor, mayLink]);
  // A text that begins with a table has the cursor in it before anybody put one there.
  const [isBegun, setBegun] = useState(editor.isFocused);
  useEffect(() => {
    const begin = () => setBegun(true);
    editor.on('focus', begin);
    return () => {
      editor.off('focus', begin);
    };
  }, [editor]);
  const inTable = isBegun && on['table'] && tools.some((tool) => tool.id.startsWith('table'));
  const button = (
    label: string,
    pressed: boolean,
    run: () => void,
    icon: IconName | null,
    words: boolean,
    more: { anchor?: string; keys?: string | undefined } = {},
  ) => (
    <RadixToolbar.Button
      key={label}
      aria-pressed={pressed}
      title={more.keys ? `${label} (${more.keys})` : label}
      aria-keyshortcuts={more.keys?.replace('Ctrl', 'Control').replaceAll(' ', '+')}
      data-anchor={more.anchor}
      onMouseDown={keepFocus}
      onClick={run}
      className={`flex min-h-[32px] min-w-[32px] items-center justify-center gap-1 rounded-s px-1.5 text-[0.92rem] font-semibold hover:bg-pine-soft ${pressed ? 'bg-pine-soft text-pine-2' : 'text-ink'}`}
    >
      {icon && <Icon name={icon} />}
      <span className={words ? '' : 'sr-only'}>{label}</span>
    </RadixToolbar.Button>
  );
  /** What a press could not do is said: no button is silent. */
  const act = (label: string, run: (e: Editor) => boolean, why: string | undefined) => {
    onSay('');
    // What is refused on the way says so itself.
    if (!run(editor)) onSay(`“${label}” cannot be used here. ${why || 'Put the cursor into a paragraph.'}`);
  };
  const buttonsOf = (tool: Tool) => {
    const { name, keys } = tool;
    switch (tool.id) {
      case 'link.page':
      case 'link.file':
      case 'link.web':
      case 'link.mail':
      case 'link.phone':
        // One button for all kinds; the dialog offers those there are.
        return tool === links[0]
          ? button('Link', active.link, () => setAsking('link'), 'link', true, {
              anchor: anchor('tool.link'),
              keys: 'Ctrl K',
            })
          : [];
      case 'picture':
        return button(name, active.picture, () => setAsking('picture'), 'picture', true, { keys });
      case 'alert':
        return button(name, active.alert, () => setAsking('alert'), 'alert', true, { keys });
      case 'find':
        return button(name, finding, onFind, 'find', false, { keys });
      case 'full':
        return button(name, full, onFull, 'full', false, { keys });
      default: {
        const action = ACTIONS[tool.id];
        if (!action) return [];
        const { icon, run, why } = action;
        return button(name, on[tool.id] ?? false, () => act(name, run, why), icon, tool.group !== 'words', { keys });
      }
    }
  };
  // One row: what does not fit stands behind More, in the same order. All of it is measured anew when the room changes;
  // the room does not hang on what stands in the row (contain-inline-size), or the two would change one another for ever.
  const row = useRef<HTMLDivElement>(null);
  const [fits, setFits] = useState(Infinity);
  const [open, setOpen] = useState(false);
  const groups = groupTools(tools, first).map((group) => ({ id: group.id, buttons: group.tools.flatMap(buttonsOf) }));
  const extra = inTable
    ? IN_TABLE.filter(([label]) => label !== REMOVE_TABLE || tools.some(({ id }) => id === 'table')).map(
        ([label, run, why]) => button(label, false, () => act(label, run, why), null, true),
      )
    : [];
  const all = groups.flatMap((group, g) => group.buttons.map((one, i) => ({ one, first: g > 0 && i === 0 })));
  useLayoutEffect(() => {
    const element = row.current;
    if (!element) return undefined;
    const measure = () => {
      const children = [...element.querySelectorAll<HTMLElement>('[data-tool]')];
      for (const child of children) child.style.display = '';
      const room = element.clientWidth;
      const widths = children.map((child) => child.offsetWidth + 2);
      const needed = widths.reduce((sum, width) => sum + width, 0);
      let left = needed <= room ? room : room - MORE_PX;
      let count = 0;
      for (const width of widths) {
        left -= width;
        if (left < 0) break;
        count++;
      }
      setFits(count);
      children.forEach((child, i) => {
        child.style.display = i < count ? '' : 'none';
      });
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, [all.length]);
  const held = (list: typeof all) =>
    list.map(({ one, first }, i) => (
      <div key={i} data-tool className={`shrink-0 ${first ? 'ml-0.5 border-l border-line-2 pl-1' : ''}`}>
        {one}
      </div>
    ));
  const more = all.slice(fits);
  return (
    <>
      <RadixToolbar.Root
        aria-label="Toolbar"
        className="min-w-0 flex-1"
        onKeyDown={(event) => {
          // Back into the text without leaving by Tab.
          if (event.key === 'Escape') editor.commands.focus();
        }}
      >
        <div ref={row} className="flex min-w-0 items-center gap-x-0.5 overflow-hidden contain-inline-size">
          {held(all)}
          {more.length > 0 && (
            <RadixToolbar.Button
              aria-expanded={open}
              title="More tools"
              onMouseDown={keepFocus}
              onClick={() => setOpen(!open)}
              className={`flex min-h-[32px] shrink-0 items-center gap-1 rounded-s px-1.5 text-[0.92rem] font-semibold hover:bg-pine-soft ${open ? 'bg-pine-soft text-pine-2' : ''}`}
            >
              More <Icon name={open ? 'up' : 'down'} size={14} />
            </RadixToolbar.Button>
          )}
        </div>
        {extra.length > 0 && (
          <div role="group" aria-label="Table" className="mt-1 flex flex-wrap gap-1 border-t border-line-2 pt-1">
            {extra}
          </div>
        )}
        {open && more.length > 0 && (
          <div
            role="group"
            aria-label="More tools"
            className="mt-1 flex flex-wrap gap-x-0.5 gap-y-1 border-t border-line-2 pt-1"
          >
            {more.map(({ one }, i) => (
              <div key={i}>{one}</div>
            ))}
          </div>
        )}
      </RadixToolbar.Root>
      {asking === 'link' && (
        <LinkDialog
          editor={editor}
          kinds={links.map((tool) => tool.id)}
          pictures={pictures}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === 'picture' && <PictureInText editor={editor} pictures={pictures} onClose={() => setAsking(null)} />}
      {asking === 'alert' && <AlertDialog editor={editor} onClose={() => setAsking(null)} />}
    </>
  );
}
