import { DOMParser as SchemaParser, Slice } from '@tiptap/pm/model';
import { EditorContent, useEditor, useEditorState } from '@tiptap/react';
import { lazy, Suspense, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { emptyDocument, parseDocument, plainText, renderDocument, type Document } from '@/core/content';
import type { Tool } from '@/core/inventory';
import type { TextTools } from '@/core/room';
import { handy } from '@/core/toolbar';
import { Icon } from '../kit/Icon';
import { useKept } from '../kit/useKept';
import { useAbout } from './about';
import { extensionsFor } from './extensions';
import { pastedInWords, readPasted, tidied } from './paste';
import type { PictureChoice } from './PictureChooser';
import { PreviewFrame } from './PreviewFrame';
import { putDocument } from './putIn';
import { inSight } from './inSight';
import type { Wish } from './kept';
import { Toolbar } from './Toolbar';
import { WritingSkeleton } from './WritingSkeleton';

// For few, and seldom: fetched when they are asked for.
const CodeView = lazy(() => import('./CodeView'));
const FindBar = lazy(() => import('./FindBar'));

/** Puts a text into a writing area; `undoable`: one undo there takes it back. */
export type PutIn = (text: Document, undoable: boolean) => void;

export interface WritingProps {
  label: string;
  loaded: Document;
  /** Tells how a text is put in from outside, at once and without making the area anew; gives what ends it. */
  onReady: (put: PutIn) => () => void;
  /** What it is written with. */
  with: TextTools;
  /** All tools there are, so that it is known what is missing. */
  allTools: readonly Tool[];
  readOnly: boolean;
  pictures: PictureChoice[];
  /** Null where it cannot be previewed. */
  previewHref: string | null;
  /** One of several on a page: lower. */
  small?: boolean;
  /**
   * Where its toolbar stands when it shares the place with others; null while it is another's turn. Over the text
   * itself when left out.
   */
  toolbarIn?: HTMLElement | null;
  /** Asks somebody else for a change of a piece that has to stay; left out where nobody can be asked. */
  onAsk?: ((wish: Wish) => void) | undefined;
  onChange: (document: Document) => void;
  /** Called before the preview is shown: keeps the draft first. */
  onPreview: () => Promise<unknown>;
}

type Mode = 'visual' | 'preview' | 'code';
/** The text itself, besides what the inventory lists as ways of seeing it. */
const WRITING = { name: 'Writing', description: 'Text as it will look.' };

/** "124 words, 712 characters". */
function countsOf(json: unknown): string {
  const parsed = parseDocument(json);
  const text = parsed.ok ? plainText(parsed.document) : '';
  const words = text.split(/\s+/u).filter((word) => /[\p{L}\p{N}]/u.test(word)).length;
  return `${words} ${words === 1 ? 'word' : 'words'}, ${[...text].length} characters`;
}

/**
 * Keeps focus and pointer from what lies behind an area that fills the window; a running tour may still lead there.
 * Gives what ends it.
 */
function keepOut(area: HTMLElement): () => void {
  const behind: Element[] = [];
  for (let at: HTMLElement = area; at !== document.body && at.parentElement; at = at.parentElement)
    behind.push(
      ...[...at.parentElement.children].filter(
        (element) => element !== at && !element.hasAttribute('inert') && !element.querySelector('[data-tour]'),
      ),
    );
  for (const element of behind) element.setAttribute('inert', '');
  return () => {
    for (const element of behind) element.removeAttribute('inert');
  };
}

/** The writing area: one rich field with the toolbar and the modes that somebody has. */
export default function WritingArea({
  label,
  loaded,
  onReady,
  with: { tools: ids, keep, groups },
  allTools,
  readOnly,
  pictures,
  small = false,
  toolbarIn,
  previewHref,
  onAsk = undefined,
  onChange,
  onPreview,
}: WritingProps) {
  const { anchor } = useAbout();
  const [mode, setMode] = useState<Mode>('visual');
  const tools = useMemo(() => allTools.filter((tool) => ids.includes(tool.id)), [allTools, ids]);
  const modeOf = (id: Mode) => (id === 'visual' ? WRITING : tools.find((tool) => tool.id === `mode.${id}`));
  const modes = (['visual', 'preview', 'code'] as const).filter(
    (id) => modeOf(id) && (id !== 'preview' || previewHref !== null),
  );
  const [said, setSaid] = useState('');
  const [finding, setFinding] = useState(false);
  const [full, setFull] = useState(false);
  const [code, setCode, forgetCode] = useKept(`code ${previewHref} ${label}`);
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
        say: (words) => setSaid([words, pasted.current].filter(Boolean).join(' ')),
      },
      pictures,
      onAsk ?? null,
    ),
    content: loaded,
    editorProps: {
      ...inSight(),
      // What a word processor or a web page puts on the clipboard is tidied first, and what has no place here is told.
      transformPastedHTML: (html) => {
        const read = readPasted(html);
        pasted.current = pastedInWords(read);
        setSaid(pasted.current);
        // What was cut or copied in a writing area says so.
        plainly.current = !allowed.has('paste.form') && !html.includes('data-pm-slice');
        return read.html;
      },
      // A heading, list or table that comes first is one, also behind words that stand there already.
      transformPasted: (slice, view) => {
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
        setSaid(
          tools.some((tool) => tool.id === 'picture')
            ? 'A picture or file cannot be pasted into a text. Pictures of the website are put in with the tool “Picture”.'
            : 'A picture or file cannot be pasted into a text. Ask whoever looks after the pictures.',
        );
        return true;
      },
      // What was said stands until the next thing is done.
      handleDOMEvents: {
        keydown: (_, event) => {
          byKey.current = true;
          setSaid('');
          pasted.current = '';
          if (
            !(event.ctrlKey || event.metaKey) ||
            event.altKey ||
            event.key.toLowerCase() !== 'f' ||
            !tools.some((tool) => tool.id === 'find')
          )
            return false;
          event.preventDefault();
          setFinding(true);
          return true;
        },
        mousedown: () => {
          byKey.current = false;
          setSaid('');
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
      const parsed = parseDocument(now.getJSON());
      change.current(parsed.ok ? parsed.document : emptyDocument());
    },
  });
  const ready = useRef(onReady);
  ready.current = onReady;
  useEffect(
    () => (editor ? ready.current((text, undoable) => putDocument(editor, text, undoable)) : undefined),
    [editor],
  );
  const counts =
    useEditorState({ editor, selector: ({ editor: now }) => (now ? countsOf(now.getJSON()) : null) }) ??
    countsOf(loaded);
  useEffect(() => editor?.setEditable(!readOnly && mode === 'visual', false), [editor, readOnly, mode]);
  const area = useRef<HTMLDivElement>(null);
  useEffect(() => (full && area.current ? keepOut(area.current) : undefined), [full]);
  if (!editor) return <WritingSkeleton />;
  const html = () => {
    const parsed = parseDocument(editor.getJSON());
    return parsed.ok
      ? renderDocument(parsed.document, {
          whole: true,
          pictureUrl: (id) => pictures.find((picture) => picture.id === id)?.url,
        })
      : '';
  };
  // HTML that was changed and not used yet waits, whatever is looked at meanwhile.
  const waits = code !== '' && code !== html();
  /** What would be there if HTML were used. */
  const asKept = (written: string) => {
    const { body } = new DOMParser().parseFromString(tidied(written), 'text/html');
    const parsed = parseDocument(
      SchemaParser.fromSchema(editor.schema).parse(body, { preserveWhitespace: 'full' }).toJSON(),
    );
    return parsed.ok ? renderDocument(parsed.document, { whole: true }) : '';
  };
  const takeCode = (used: string) => {
    editor.commands.setContent(tidied(used), { emitUpdate: true, parseOptions: { preserveWhitespace: 'full' } });
    forgetCode();
    setMode('visual');
  };
  const isShared = toolbarIn !== undefined && !full;
  const inPlace = (bar: ReactNode) => (!isShared ? bar : toolbarIn && createPortal(bar, toolbarIn));
  const show = async (next: Mode) => {
    if (next === 'preview') await onPreview();
    setMode(next);
  };
  return (
    <div
      ref={area}
      className={
        full
          ? 'fixed inset-0 z-30 flex flex-col overflow-y-auto bg-sheet px-4 py-4 md:px-[12vw]'
          : `flex min-h-0 flex-col ${small ? 'small-area' : ''}`
      }
      onKeyDown={(event) => event.key === 'Escape' && full && setFull(false)}
    >
      {!readOnly &&
        inPlace(
          <div
            className={`z-10 flex items-start justify-between gap-2 rounded-[10px] border border-line-2 bg-paper px-1.5 py-1 ${isShared ? '' : 'sticky top-0 mb-3'}`}
            data-anchor={anchor('toolbar')}
            data-over={isShared ? undefined : 'top'}
          >
            {mode === 'visual' ? (
              <Toolbar
                editor={editor}
                tools={tools}
                first={groups}
                pictures={pictures}
                finding={finding}
                full={full}
                onFind={() => setFinding(!finding)}
                onFull={() => setFull(!full)}
                onSay={setSaid}
              />
            ) : (
              <span className="px-2 text-ink-2">{modeOf(mode)?.description}</span>
            )}
            {modes.length > 1 && (
              <div role="group" aria-label="How the text is shown" className="ml-auto flex shrink-0 gap-1">
                {modes.map((id) => (
                  <button
                    key={id}
                    type="button"
                    aria-pressed={mode === id}
                    title={`${modeOf(id)?.name}: ${modeOf(id)?.description}`}
                    data-anchor={id === 'preview' ? anchor('preview') : undefined}
                    onClick={() => void show(id)}
                    className={`flex min-h-[36px] items-center gap-1.5 rounded-s px-2 text-sm font-semibold hover:bg-pine-soft ${mode === id ? 'bg-sheet text-pine shadow-[inset_0_0_0_1px_var(--color-line-2)]' : 'text-ink-2'}`}
                  >
                    <Icon name={id === 'visual' ? 'draft' : id === 'preview' ? 'screen' : 'code'} size={16} />{' '}
                    <span className="max-2xl:sr-only">{modeOf(id)?.name}</span>
                  </button>
                ))}
              </div>
            )}
          </div>,
        )}
      {finding && mode === 'visual' && (
        <Suspense fallback={null}>
          <FindBar editor={editor} onClose={() => setFinding(false)} />
        </Suspense>
      )}
      <p role="status" className={said ? 'note mb-3' : 'sr-only'}>
        {said}
      </p>
      {waits && mode !== 'code' && (
        <div className="note mb-3 flex flex-wrap items-center gap-2">
          <span className="min-w-[12rem] flex-1">You changed the text under “Code” and have not used it yet.</span>
          <button type="button" className="btn btn-small" onClick={() => takeCode(code)}>
            Use it
          </button>
          <button type="button" className="btn btn-small" onClick={() => setMode('code')}>
            Go on with it
          </button>
          <button type="button" className="btn btn-quiet btn-small" onClick={forgetCode}>
            Forget it
          </button>
        </div>
      )}
      <div
        className={
          mode === 'visual'
            ? readOnly
              ? ''
              : 'rounded-[10px] border border-line-2 bg-sheet px-4 pt-3 pb-1 focus-within:border-pine'
            : 'hidden'
        }
        data-anchor={anchor('body')}
      >
        <EditorContent editor={editor} />
        {!readOnly && <p className="hint mt-1 border-t border-line pt-1">{counts}</p>}
      </div>
      {mode === 'preview' && previewHref !== null && <PreviewFrame src={previewHref} />}
      {mode === 'code' && (
        <Suspense fallback={<WritingSkeleton />}>
          <CodeView code={code || html()} asKept={asKept} onCode={setCode} onUse={takeCode} />
        </Suspense>
      )}
    </div>
  );
}
