import { closeHistory } from '@tiptap/pm/history';
import { DOMParser as SchemaParser, type Node } from '@tiptap/pm/model';
import { EditorContent, useEditorState } from '@tiptap/react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { parseDocument, renderDocument, type Document } from '@/core/content';
import type { Tool } from '@/core/inventory';
import type { TextTools } from '@/core/room';
import { later } from '../kit/later';
import { useKept } from '../kit/useKept';
import { useAbout } from './about';
import { asDocument, countOf } from './asDocument';
import { tidied } from './paste';
import type { PictureChoice } from './PictureChooser';
import { PreviewFrame } from './PreviewFrame';
import type { Wish } from './kept';
import { ModeSwitch, type Mode } from './ModeSwitch';
import { Toolbar } from './Toolbar';
import { useWriting, type PutIn } from './useWriting';
import { WritingSkeleton } from './WritingSkeleton';

// For few, and seldom: fetched when they are asked for.
const CodeView = later(() => import('./CodeView'), <WritingSkeleton />);
const FindBar = later(() => import('./FindBar'));

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

/** The text itself, besides what the inventory lists as ways of seeing it. */
const WRITING = { name: 'Writing', description: 'Text as it will look.' };

const OVERTAKEN =
  'The text itself was changed since: using this puts it in the place of all that, and what was written meanwhile goes. Undo brings it back.';

/** "124 words, 712 characters". */
function countsOf(doc: Node): string {
  const { words, characters } = countOf(doc);
  return `${words} ${words === 1 ? 'word' : 'words'}, ${characters} characters`;
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
  /** The HTML that was changed into `code`. */
  const [codeOf, setCodeOf, forgetCodeOf] = useKept(`code of ${previewHref} ${label}`);
  const editor = useWriting({
    label,
    loaded,
    tools: ids,
    keep,
    allTools,
    readOnly,
    pictures,
    onAsk: onAsk ?? null,
    onReady,
    onChange,
    onFind: tools.some((tool) => tool.id === 'find') ? () => setFinding(true) : null,
    onSay: setSaid,
  });
  const counts = useEditorState({ editor, selector: ({ editor: now }) => now && countsOf(now.state.doc) });
  useEffect(() => editor?.setEditable(!readOnly && mode === 'visual', false), [editor, readOnly, mode]);
  const area = useRef<HTMLDivElement>(null);
  useEffect(() => (full && area.current ? keepOut(area.current) : undefined), [full]);
  if (!editor) return <WritingSkeleton />;
  const html = () => {
    const written = asDocument(editor.state.doc);
    return written
      ? renderDocument(written, { whole: true, pictureUrl: (id) => pictures.find((picture) => picture.id === id)?.url })
      : '';
  };
  // HTML that was changed and not used yet waits, whatever is looked at meanwhile.
  // Made while it is wanted only: a long text takes a while.
  const asItIs = code !== '' || mode === 'code' ? html() : '';
  const waits = code !== '' && code !== asItIs;
  const isOvertaken = waits && codeOf !== '' && codeOf !== asItIs;
  const changeCode = (next: string) => {
    if (code === '') setCodeOf(asItIs);
    setCode(next);
  };
  const dropCode = () => {
    forgetCode();
    forgetCodeOf();
  };
  /** What would be there if HTML were used. */
  const asKept = (written: string) => {
    const { body } = new DOMParser().parseFromString(tidied(written), 'text/html');
    const parsed = parseDocument(
      SchemaParser.fromSchema(editor.schema).parse(body, { preserveWhitespace: 'full' }).toJSON(),
    );
    return parsed.ok ? renderDocument(parsed.document, { whole: true }) : '';
  };
  const takeCode = (used: string) => {
    editor
      .chain()
      // One undo takes it back, and nothing that was typed just before.
      .command(({ tr }) => Boolean(closeHistory(tr)))
      .setContent(tidied(used), { emitUpdate: true, parseOptions: { preserveWhitespace: 'full' } })
      .run();
    dropCode();
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
      data-html-waits={waits || mode === 'code' ? '' : undefined}
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
            <ModeSwitch
              modes={modes.map((id) => ({ ...(modeOf(id) ?? WRITING), id }))}
              mode={mode}
              onMode={(next) => void show(next)}
            />
          </div>,
        )}
      {finding && mode === 'visual' && <FindBar editor={editor} onClose={() => setFinding(false)} />}
      <p role="status" className={said ? 'note mb-3' : 'sr-only'}>
        {said}
      </p>
      {waits && mode !== 'code' && (
        <div className="note mb-3 flex flex-wrap items-center gap-2">
          <span className="min-w-[12rem] flex-1">
            You changed the text under “Code” and have not used it yet. {isOvertaken && OVERTAKEN}
          </span>
          <button type="button" className="btn btn-small" onClick={() => takeCode(code)}>
            Use it
          </button>
          <button type="button" className="btn btn-small" onClick={() => setMode('code')}>
            Go on with it
          </button>
          <button type="button" className="btn btn-quiet btn-small" onClick={dropCode}>
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
        {!readOnly && <p className="hint mt-1 border-t border-line pt-1">{counts ?? countsOf(editor.state.doc)}</p>}
      </div>
      {mode === 'preview' && previewHref !== null && <PreviewFrame src={previewHref} />}
      {mode === 'code' && (
        <CodeView
          code={code || asItIs}
          asKept={asKept}
          warning={isOvertaken ? OVERTAKEN : null}
          onCode={changeCode}
          onUse={takeCode}
        />
      )}
    </div>
  );
}
