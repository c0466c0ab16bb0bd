import { useRef, useState } from 'react';
import { Labelled, ProblemNote, Said, Safe } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { WhenField } from '../kit/when/WhenField';

interface Props {
  review: number;
  writer: string;
  timeZone: string;
  /** The screen on which is told what came of it. */ back: '/room/review' | '/room';
}

/** Publishes what was sent, or sends it back with a word. */
export function DecisionForm(props: Props) {
  return (
    <Safe>
      <DecisionCard {...props} />
    </Safe>
  );
}

function DecisionCard({ review, writer, timeZone, back }: Props) {
  const { act, busy, problem, faultOf } = useSend();
  const [word, setWord, forget] = useKept(`decision ${review}`);
  const [fault, setFault] = useState<string>();
  const [at, setAt] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const area = useRef<HTMLTextAreaElement>(null);
  // Remarks on single places say enough; the server has counted them too.
  const remarked = () => document.querySelector('[data-anchor="review.look.remarks"] li') !== null;
  const decide = async (outcome: 'published' | 'sent-back') => {
    if (outcome === 'sent-back' && word.trim() === '' && !remarked()) {
      setFault(`Say what should be different, so that ${writer} need not guess.`);
      area.current?.focus();
      return;
    }
    const sent = await act('POST', `/api/review/${review}/decide`, {
      outcome,
      word,
      ...(outcome === 'published' && at && { at }),
    });
    if (!sent?.ok) return;
    forget();
    if (sent.value.trial) setSaid('This is a trial: in the real room it would be decided now. Nothing was kept.');
    else
      location.assign(
        `${back}?done=${outcome === 'published' && at ? 'planned' : outcome === 'sent-back' && word.trim() === '' ? 'remarked' : outcome}`,
      );
  };
  return (
    <div className="card grid gap-3">
      <Said words={said} />
      <ProblemNote problem={problem && !faultOf('word') ? problem : null} />
      <Labelled
        label="A word to go with it"
        anchor="review.look.word"
        hint="Needed when it goes back without remarks."
        fault={fault ?? faultOf('word')}
      >
        {(ids) => (
          <textarea
            {...ids}
            ref={area}
            rows={4}
            maxLength={1000}
            className="field"
            value={word}
            onChange={(event) => {
              setWord(event.target.value);
              setFault(undefined);
            }}
          />
        )}
      </Labelled>
      <button
        type="button"
        className="btn btn-main"
        data-anchor="review.look.publish"
        disabled={busy || at === ''}
        onClick={() => void decide('published')}
      >
        {at === null ? 'Publish it' : 'Plan to publish it'}
      </button>
      <label className="flex items-center gap-2" data-anchor="review.look.later">
        <input
          type="checkbox"
          className="h-5 w-5 accent-pine"
          checked={at !== null}
          onChange={(event) => setAt(event.target.checked ? '' : null)}
        />{' '}
        Publish later
      </label>
      {at !== null && (
        <Labelled label="When shall it go live?" hint={`On the site’s clock (${timeZone}).`} fault={faultOf('at')}>
          {(ids) => <WhenField {...ids} kind="moment" value={at} onChange={setAt} />}
        </Labelled>
      )}
      <button
        type="button"
        className="btn"
        data-anchor="review.look.back"
        disabled={busy}
        onClick={() => void decide('sent-back')}
      >
        Send it back
      </button>
      <p className="hint">“Publish it” puts it on the website at once. “Send it back” changes nothing there.</p>
    </div>
  );
}
