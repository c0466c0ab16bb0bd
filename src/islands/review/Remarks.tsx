import { useState } from 'react';
import type { Remark, Sends } from '@/core/wire';
import { sayTime, type Calendar } from '@/core/words';
import { ProblemNote, useFocusLater } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

/** Remarks with their answers; each can be answered, settled and opened again. */
export function RemarkThreads({
  review,
  remarks,
  onChange,
  calendar,
  now,
}: {
  review: number;
  remarks: Remark[];
  onChange: (remarks: Remark[]) => void;
  calendar: Calendar;
  now: string;
}) {
  const { act, busy, problem } = useSend();
  const [answering, setAnswering] = useState<number | null>(null);
  const [answer, setAnswer, forget] = useKept(`answer ${review} ${answering ?? ''}`);
  const focusLater = useFocusLater();
  const close = () => {
    if (answering !== null) focusLater(`answer-${answering}`);
    setAnswering(null);
  };
  const run = async (body: Sends<'POST /api/review/[id]/remarks'>) => {
    const sent = await act('POST', `/api/review/${review}/remarks`, body);
    if (!sent?.ok) return;
    onChange(sent.value.remarks);
    if (answering !== null) forget();
    close();
  };
  const when = (at: string) => sayTime(new Date(at), calendar, new Date(now));
  const firsts = remarks.filter((remark) => remark.answers === null);
  return (
    <div className="grid gap-3">
      <ProblemNote problem={problem} />
      <ul className="grid gap-3">
        {firsts.map((remark) => (
          <li key={remark.id} className={`border-l-3 pl-3 ${remark.settled ? 'border-line text-ink-2' : 'border-sun'}`}>
            {remark.quote && <blockquote className="clip text-sm text-ink-2">“{remark.quote}”</blockquote>}
            <p className="clip" dir="auto">
              {remark.text}
            </p>
            <p className="clip text-sm text-ink-2">
              {remark.by}, {when(remark.at)}
              {remark.settled && ` · settled ${when(remark.settled)}`}
            </p>
            {remarks
              .filter((answer) => answer.answers === remark.id)
              .map((answer) => (
                <div key={answer.id} className="mt-1 ml-3">
                  <p className="clip" dir="auto">
                    {answer.text}
                  </p>
                  <p className="clip text-sm text-ink-2">
                    {answer.by}, {when(answer.at)}
                  </p>
                </div>
              ))}
            {answering === remark.id ? (
              <form
                className="mt-2 grid gap-2"
                onSubmit={(event) => {
                  event.preventDefault();
                  if (answer.trim()) void run({ field: remark.field, quote: '', text: answer, answers: remark.id });
                }}
              >
                <textarea
                  aria-label="Your answer"
                  autoFocus
                  rows={2}
                  maxLength={1000}
                  dir="auto"
                  className="field"
                  value={answer}
                  onChange={(event) => setAnswer(event.target.value)}
                />
                <div className="flex gap-2">
                  <button type="submit" className="btn btn-main btn-small" disabled={busy || answer.trim() === ''}>
                    Answer
                  </button>
                  <button type="button" className="btn btn-quiet btn-small" onClick={close}>
                    Not now
                  </button>
                </div>
              </form>
            ) : (
              <p className="mt-1 flex flex-wrap gap-x-4">
                <button
                  id={`answer-${remark.id}`}
                  type="button"
                  className="link min-h-[24px] text-sm"
                  onClick={() => setAnswering(remark.id)}
                >
                  Answer<span className="sr-only">: {remark.text}</span>
                </button>
                <button
                  type="button"
                  className="link min-h-[24px] text-sm"
                  disabled={busy}
                  onClick={() => void run({ settle: remark.id, settled: remark.settled === null })}
                >
                  {remark.settled ? 'Open it again' : 'Settled'}
                  <span className="sr-only">: {remark.text}</span>
                </button>
              </p>
            )}
          </li>
        ))}
      </ul>
      {firsts.length === 0 && <p className="text-ink-2">No remarks. Press “Remark” beside a line to make one.</p>}
    </div>
  );
}
