import type { Calendar } from '@/core/words';
import { useState } from 'react';
import type { FieldChange } from '@/core/content';
import type { Remark } from '@/core/wire';
import { Dialog, ProblemNote, Safe } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { Changes } from './Changes';
import { RemarkThreads } from './Remarks';

const QUOTE = 300;

/** A draft that was sent: what changed, line by line, with remarks tied to lines. */
export function ReviewLook(props: {
  review: number;
  changes: FieldChange[];
  remarks: Remark[];
  calendar: Calendar;
  now: string;
}) {
  return (
    <Safe>
      <Look {...props} />
    </Safe>
  );
}

function Look({
  review,
  changes,
  remarks: initial,
  calendar,
  now,
}: {
  review: number;
  changes: FieldChange[];
  remarks: Remark[];
  calendar: Calendar;
  now: string;
}) {
  const [remarks, setRemarks] = useState(initial);
  const [full, setFull] = useState(false);
  const [making, setMaking] = useState<{ field: string; quote: string } | null>(null);
  const [text, setText, forget] = useKept(`remark ${review} ${making?.field ?? ''} ${making?.quote ?? ''}`);
  const { act, busy, problem } = useSend();
  const begin = (field: string, quote: string) => {
    setMaking({ field, quote: quote.slice(0, QUOTE) });
  };
  const make = async () => {
    if (!making) return;
    const sent = await act('POST', `/api/review/${review}/remarks`, { ...making, text, answers: null });
    if (!sent?.ok) return;
    forget();
    setRemarks(sent.value.remarks);
    setMaking(null);
  };
  return (
    <div className="grid gap-6">
      <div>
        <label className="mb-3 flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="h-5 w-5 accent-pine"
            checked={full}
            onChange={(event) => setFull(event.target.checked)}
          />{' '}
          Show also what did not change
        </label>
        <Changes changes={changes} full={full} onRemark={begin} />
      </div>
      <section aria-label="Remarks" data-anchor="review.look.remarks" className="card">
        <h2 className="mb-2 text-base">Remarks</h2>
        <RemarkThreads review={review} remarks={remarks} onChange={setRemarks} calendar={calendar} now={now} />
      </section>
      {making && (
        <Dialog open onClose={() => setMaking(null)} title="A remark on this line">
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (text.trim()) void make();
            }}
          >
            <ProblemNote problem={problem} />
            {making.quote && <blockquote className="clip text-sm">“{making.quote}”</blockquote>}
            <label className="grid gap-1">
              <span className="label mb-0">Your remark</span>
              <textarea
                rows={3}
                maxLength={1000}
                dir="auto"
                className="field"
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
            </label>
            <div className="flex gap-2">
              <button type="submit" className="btn btn-main btn-small" disabled={busy || text.trim() === ''}>
                Make the remark
              </button>
              <button type="button" className="btn btn-quiet btn-small" onClick={() => setMaking(null)}>
                Not now
              </button>
            </div>
          </form>
        </Dialog>
      )}
    </div>
  );
}
