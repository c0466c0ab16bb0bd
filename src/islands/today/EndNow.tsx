import { useEffect, useRef, useState } from 'react';
import { Confirm, focusOn, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';

/** Ends a notice where it is read. */
export function EndNow({ id, text }: { id: number; text: string }) {
  const { act, busy, problem, clear } = useSend();
  const [isAsking, setAsking] = useState(false);
  const [isEnded, setEnded] = useState(false);
  const told = useRef<HTMLSpanElement>(null);
  // What was pressed is gone: the focus goes to what came of it.
  useEffect(() => {
    if (!isEnded) return undefined;
    // Behind the dialog, which gives the focus back in a task of its own when it has gone.
    const timer = setTimeout(() => focusOn(told.current));
    return () => clearTimeout(timer);
  }, [isEnded]);
  const end = async () => {
    const sent = await act('POST', `/api/notices/${id}/end`);
    if (!sent?.ok) return;
    setAsking(false);
    setEnded(true);
  };
  if (isEnded)
    return (
      <span ref={told} role="status" className="font-semibold">
        {' '}
        Ended: visitors no longer see it.
      </span>
    );
  return (
    <>
      {' '}
      <button type="button" className="link min-h-[28px] font-semibold" onClick={() => setAsking(true)}>
        End now<span className="sr-only">: {text}</span>
      </button>
      <Confirm
        open={isAsking}
        title="End this notice now?"
        yes="End it"
        busy={busy}
        onYes={() => void end()}
        onNo={() => {
          setAsking(false);
          clear();
        }}
      >
        <ProblemNote problem={problem} />
        <p className="clip">“{text}”</p>
        <p>Visitors no longer see it from this moment on.</p>
      </Confirm>
    </>
  );
}
