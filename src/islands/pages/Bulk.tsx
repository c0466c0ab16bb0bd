import type { ListedPage } from '@/core/content';
import { useState } from 'react';
import type { BulkRow, Bulk, StepBack } from '@/core/wire';
import { Dialog, ProblemNote } from '../kit/parts';
import { PagePicker } from '../kit/PagePicker';
import { sendLong, type ProblemDetails } from '../kit/send';

type Kind = 'show' | 'hide' | 'members' | 'everyone' | 'as-above' | 'move' | 'take-down' | 'delete';

const KINDS: Record<Kind, string> = {
  show: 'Show in navigation',
  hide: 'Leave out of navigation',
  everyone: 'Let everyone visit',
  members: 'Members only',
  'as-above': 'Visitors as the page above',
  move: 'Move below…',
  'take-down': 'Take down',
  delete: 'Delete',
};
const bulkOf = (kind: Kind, parent: string): Bulk => {
  switch (kind) {
    case 'show':
      return { do: 'navigation', shown: true };
    case 'hide':
      return { do: 'navigation', shown: false };
    case 'members':
    case 'everyone':
    case 'as-above':
      return { do: 'audience', audience: kind };
    case 'move':
      return { do: 'move', parent: Number(parent), redirect: true };
    case 'take-down':
      return { do: 'take-down' };
    case 'delete':
      return { do: 'delete' };
  }
};

/** Says how many pages are chosen, and does the same with all of them: first shown for each, then done. */
export function BulkBar({
  chosen,
  pages,
  onClear,
  onDone,
}: {
  chosen: ReadonlyMap<string, string>;
  pages: readonly ListedPage[];
  onClear: () => void;
  /** With the steps that take it back. */ onDone: (words: string, back: StepBack[]) => void;
}) {
  const [kind, setKind] = useState<Kind>('show');
  const [parent, setParent] = useState('');
  const [outcome, setOutcome] = useState<BulkRow[] | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const ids = [...chosen.keys()].map(Number);
  const run = async (dry: boolean) => {
    setProblem(null);
    setProgress(0);
    const sent = await sendLong('/api/pages/bulk', { ids, bulk: bulkOf(kind, parent), dry }, setProgress);
    setProgress(null);
    if (!sent.ok) return setProblem(sent.problem);
    if (dry) return setOutcome(sent.value.rows);
    const refused = sent.value.rows.filter((row) => row.refused);
    setOutcome(null);
    return onDone(
      `${sent.value.rows.length - refused.length} of ${sent.value.rows.length} pages: ${KINDS[kind].replace('…', '').toLowerCase()}.${refused.length ? ` Left as they are: ${refused.map((row) => `${row.title} (${row.words})`).join(' ')}` : ''}${sent.value.trial ? ' This is a trial: nothing was kept.' : ''}`,
      sent.value.trial ? [] : (sent.value.back ?? []),
    );
  };
  /** Whether what lies below the pages chosen goes along, too. */
  const goesDown =
    ['move', 'take-down', 'delete'].includes(kind) && pages.some((page) => chosen.has(page.id) && page.below > 0);
  const going = outcome?.filter((row) => !row.refused).length ?? 0;
  return (
    <section
      aria-label="With all chosen"
      className="sticky top-0 z-20 mb-3 flex flex-wrap items-end gap-3 rounded-[10px] border border-line-2 bg-paper px-3 py-2"
    >
      <p className="self-center font-semibold" role="status">
        {chosen.size === 0 ? 'Mark pages first' : chosen.size === 1 ? '1 page chosen' : `${chosen.size} pages chosen`}
      </p>
      {chosen.size > 0 && (
        <>
          <label className="grid">
            <span className="sr-only">What shall be done</span>
            <select className="field" value={kind} onChange={(event) => setKind(event.target.value as Kind)}>
              {Object.entries(KINDS).map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          {kind === 'move' && (
            <div className="min-w-[14rem]">
              <PagePicker
                label="Below which page?"
                hideLabel
                pages={pages.filter((page) => page.may.arrange && !chosen.has(page.id))}
                value={parent}
                onChange={setParent}
              />
            </div>
          )}
          <button
            type="button"
            className="btn btn-main"
            disabled={progress !== null || (kind === 'move' && !parent)}
            onClick={() => void run(true)}
          >
            See what changes
          </button>
          <button type="button" className="btn btn-quiet" onClick={onClear}>
            Choose none
          </button>
        </>
      )}
      <ProblemNote problem={problem} />
      <Dialog
        open={outcome !== null}
        onClose={() => progress === null && setOutcome(null)}
        title={`${KINDS[kind].replace('…', '')}: what changes`}
        wide
      >
        <p className="mb-3 text-ink-2">All in one go. What cannot be done with one page leaves the others alone.</p>
        <ul className="mb-4 max-h-[50vh] overflow-y-auto rounded-s border border-line">
          {outcome?.map((row) => (
            <li
              key={row.id}
              className={`flex flex-wrap justify-between gap-x-4 border-b border-line px-3 py-1.5 last:border-b-0 ${row.refused ? 'bg-brick-soft' : ''}`}
            >
              <span className="clip font-semibold">{row.title}</span>
              <span className="clip">
                {row.refused && <span className="font-semibold text-brick">Stays as it is: </span>}
                {row.words}
              </span>
              {row.notes.length > 0 && (
                <span className="clip basis-full text-sm text-ink-2">{row.notes.join(' ')}</span>
              )}
            </li>
          ))}
        </ul>
        {progress !== null && (
          <p role="status" className="mb-3">
            <progress value={progress} max={ids.length} className="w-full" aria-label="How far it is" /> {progress} of{' '}
            {ids.length}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className={`btn ${kind === 'delete' || kind === 'take-down' ? 'btn-stop' : 'btn-main'}`}
            disabled={going === 0 || progress !== null}
            onClick={() => void run(false)}
          >
            {going === 0
              ? 'Nothing can be done'
              : `Do it with ${going} ${going === 1 ? 'page' : 'pages'}${goesDown ? ' and all that lies below' : ''}`}
          </button>
        </div>
      </Dialog>
    </section>
  );
}
