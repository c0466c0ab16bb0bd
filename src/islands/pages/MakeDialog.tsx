import { useMemo, useState } from 'react';
import { parseOutline, type ListedPage } from '@/core/content';
import { Dialog, Labelled, ProblemNote } from '../kit/parts';
import { PagePicker } from '../kit/PagePicker';
import { useSend } from '../kit/useSend';

interface LayoutChoice {
  id: string;
  name: string;
  purpose: string;
}

/** Makes one page and opens it, or several from an indented list, which is shown as a tree before anything is made. */
export function MakeDialog({
  below,
  pages,
  layouts,
  onClose,
  onMade,
}: {
  below: ListedPage | null;
  pages: readonly ListedPage[];
  layouts: readonly LayoutChoice[];
  onClose: () => void;
  onMade: (words: string) => void;
}) {
  const places = useMemo(() => pages.filter((page) => page.may.create), [pages]);
  const [parent, setParent] = useState(below?.id ?? places[0]?.id ?? '');
  const [layout, setLayout] = useState(layouts[0]?.id ?? '');
  const [many, setMany] = useState(false);
  const [title, setTitle] = useState('');
  const [outline, setOutline] = useState('');
  const { act, busy, problem, faultOf } = useSend();
  const parsed = useMemo(() => parseOutline(outline), [outline]);
  const where = pages.find((page) => page.id === parent);
  const make = async () => {
    const sent = await act(
      'POST',
      '/api/pages',
      many ? { parent: Number(parent), layout, outline } : { parent: Number(parent), layout, title },
    );
    if (!sent?.ok) return;
    if (sent.value.trial) onMade('This is a trial: in the real room it would be made now. Nothing was kept.');
    else if ('made' in sent.value)
      onMade(
        `${sent.value.made} ${sent.value.made === 1 ? 'page was' : 'pages were'} made below ${where?.title ?? 'it'}. They are drafts: visitors see nothing yet.`,
      );
    else location.assign(`/room/pages/${sent.value.id}`);
  };
  return (
    <Dialog open onClose={onClose} title={many ? 'Several new pages' : 'A new page'} wide={many}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <ProblemNote problem={problem && !faultOf('title') && !faultOf('outline') ? problem : null} />
        <div role="group" aria-label="How many" className="flex gap-2">
          {[false, true].map((several) => (
            <button
              key={String(several)}
              type="button"
              aria-pressed={many === several}
              className={`btn btn-small ${many === several ? 'bg-pine-soft text-pine-2' : ''}`}
              onClick={() => setMany(several)}
            >
              {several ? 'Several, from a list' : 'One page'}
            </button>
          ))}
        </div>
        {many ? (
          <div className="grid gap-4 md:grid-cols-2">
            <Labelled
              label="The list"
              hint="One title a line. Lines further in lie below the one before."
              fault={faultOf('outline')}
            >
              {(ids) => (
                <textarea
                  {...ids}
                  rows={10}
                  className="field font-mono text-sm"
                  value={outline}
                  placeholder={'Opening hours\n  Holidays\n  Groups\nPrices'}
                  onChange={(event) => setOutline(event.target.value)}
                  onKeyDown={(event) => {
                    // Tab indents, as in any list; Escape and Shift+Tab still lead out.
                    if (event.key !== 'Tab' || event.shiftKey) return;
                    event.preventDefault();
                    const { selectionStart: at, value } = event.currentTarget;
                    event.currentTarget.setRangeText('  ', at, at, 'end');
                    setOutline(`${value.slice(0, at)}  ${value.slice(at)}`);
                  }}
                />
              )}
            </Labelled>
            <section aria-label="What will be made" className="min-w-0">
              <p className="label">What will be made</p>
              <div className="max-h-[17rem] overflow-y-auto rounded-s border border-line bg-paper p-2" role="status">
                {!parsed.ok && (
                  <p className="text-ink-2">
                    {outline.trim() === ''
                      ? 'The tree appears here while you type.'
                      : `Line ${parsed.line}: ${parsed.message}`}
                  </p>
                )}
                {parsed.ok && (
                  <ul>
                    {parsed.entries.map((entry, i) => (
                      <li key={i} className="clip py-0.5" style={{ paddingLeft: `${entry.depth * 1.2}rem` }} dir="auto">
                        {entry.depth > 0 && <span className="text-ink-3">└ </span>}
                        {entry.title}
                      </li>
                    ))}
                  </ul>
                )}
              </div>
            </section>
          </div>
        ) : (
          <Labelled label="Title" hint="Visitors read it as the heading. It can be changed." fault={faultOf('title')}>
            {(ids) => (
              <input
                {...ids}
                className="field"
                maxLength={120}
                dir="auto"
                value={title}
                onChange={(event) => setTitle(event.target.value)}
              />
            )}
          </Labelled>
        )}
        <PagePicker label="Below" pages={places} value={parent} onChange={setParent} />
        <Labelled label="Layout" hint={layouts.find((choice) => choice.id === layout)?.purpose}>
          {(ids) => (
            <select {...ids} className="field" value={layout} onChange={(event) => setLayout(event.target.value)}>
              {layouts.map((choice) => (
                <option key={choice.id} value={choice.id}>
                  {choice.name}
                </option>
              ))}
            </select>
          )}
        </Labelled>
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="btn btn-main" disabled={busy || (many ? !parsed.ok : title.trim() === '')}>
            {busy
              ? 'Making…'
              : many && parsed.ok
                ? `Make ${parsed.entries.length} ${parsed.entries.length === 1 ? 'page' : 'pages'}`
                : many
                  ? 'Make the pages'
                  : 'Make it and open it'}
          </button>
        </div>
      </form>
    </Dialog>
  );
}

/** Copies a page, alone or with what lies below. */
export function CopyDialog({
  page,
  onClose,
  onDone,
}: {
  page: ListedPage;
  onClose: () => void;
  onDone: (words: string) => void;
}) {
  const [withBelow, setWithBelow] = useState(false);
  const { act, busy, problem } = useSend();
  const copy = async () => {
    const sent = await act('POST', `/api/pages/${page.id}/copy`, { withBelow });
    if (sent?.ok)
      onDone(
        sent.value.trial
          ? 'This is a trial: nothing was copied.'
          : `A copy of ${page.title} lies beside it${sent.value.made > 1 ? `, with ${sent.value.made - 1} below` : ''}. It is a draft: visitors see nothing of it.`,
      );
  };
  return (
    <Dialog open onClose={onClose} title={`Copy “${page.title}”`}>
      <div className="grid gap-4">
        <ProblemNote problem={problem} />
        <p>The copy begins with what the page says now, as a draft beside it.</p>
        {page.below > 0 && (
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="h-5 w-5"
              checked={withBelow}
              onChange={(event) => setWithBelow(event.target.checked)}
            />{' '}
            Copy what lies below it, too
          </label>
        )}
        <button type="button" className="btn btn-main justify-self-start" disabled={busy} onClick={() => void copy()}>
          {busy ? 'Copying…' : 'Copy it'}
        </button>
      </div>
    </Dialog>
  );
}
