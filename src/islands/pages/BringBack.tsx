import { useState } from 'react';
import { ProblemNote, Safe, Said } from '../kit/parts';
import { useSend } from '../kit/useSend';

/** Brings a deleted page back and says where it is. */
export function BringBack({ page, title }: { page: string; title: string }) {
  const { act, busy, problem } = useSend();
  const [said, setSaid] = useState<string | null>(null);
  const [back, setBack] = useState(false);
  const bring = async () => {
    const sent = await act('POST', `/api/items/${page}/bring-back`);
    if (!sent?.ok) return;
    setBack(!sent.value.trial);
    setSaid(
      sent.value.trial
        ? 'This is a trial: nothing was brought back.'
        : `It is back${sent.value.pages > 1 ? `, with ${sent.value.pages - 1} below` : ''}.${sent.value.renamed ? ' Its address was taken meanwhile, so it has another one.' : ''}`,
    );
  };
  return (
    <Safe>
      <div>
        <ProblemNote problem={problem} />
        <Said words={said} />
        {back ? (
          <a className="link" href={`/room/pages/${page}`}>
            Open “{title}”
          </a>
        ) : (
          <button type="button" className="btn" disabled={busy} onClick={() => void bring()}>
            Bring it back<span className="sr-only">: {title}</span>
          </button>
        )}
      </div>
    </Safe>
  );
}
