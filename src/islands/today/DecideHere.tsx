import type { Calendar } from '@/core/words';
import { Dialog, ProblemNote } from '../kit/parts';
import { send } from '../kit/send';
import { DecisionForm } from '../review/Decision';
import { ReviewLook } from '../review/ReviewLook';
import { useLoaded } from './useLoaded';

/** The second look where it is told that one waits: what changed, and below it the decision. */
export function DecideHere({
  review,
  title,
  writer,
  note,
  timeZone,
  calendar,
  now,
}: {
  review: number;
  title: string;
  writer: string;
  note: string;
  timeZone: string;
  calendar: Calendar;
  now: string;
}) {
  const { isOpen, open, close, loaded, problem } = useLoaded(() => send('GET', `/api/review/${review}/look`));
  return (
    <>
      <button type="button" className="link min-h-[28px] text-sm font-semibold" onClick={open}>
        Read and decide<span className="sr-only">: {title}</span>
      </button>
      <Dialog open={isOpen} onClose={close} title={title} wide>
        <p className="clip mb-3 text-ink-2">{`${writer} sent this${note ? `: “${note}”` : ', without a note.'}`}</p>
        <ProblemNote problem={problem} />
        {!loaded && !problem && <p role="status">Looking what changed…</p>}
        {loaded && (
          <div className="grid gap-4">
            <ReviewLook review={review} {...loaded} calendar={calendar} now={now} />
            <DecisionForm review={review} writer={writer.split(' ')[0] ?? writer} timeZone={timeZone} back="/room" />
          </div>
        )}
      </Dialog>
    </>
  );
}
