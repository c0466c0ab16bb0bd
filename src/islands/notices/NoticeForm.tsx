import { useState, useRef } from 'react';
import { fieldTime, zoneCity } from '@/core/words';
import { PagePicker } from '../kit/PagePicker';
import { ProblemNote, Labelled } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { WhenField } from '../kit/when/WhenField';
import type { NoticePlace, NoticeRow } from './model';

const MOST = 300;
/** Posts a notice, or sets one right. */
export function NoticeForm({
  old,
  top,
  suggestedEnd,
  example = 'Closed on Friday from 14:00. Open again on Saturday at 9:00.',
  timeZone,
  onDone,
  onClose,
}: {
  old?: NoticeRow;
  top: NoticePlace | null;
  suggestedEnd: string;
  /** A notice as one writes them here. */ example?: string | undefined;
  timeZone: string;
  /** `isLater`: it begins at an hour that has not come. */
  onDone: (trial: boolean, isLater: boolean) => void;
  onClose: () => void;
}) {
  const { act, busy, problem, faultOf } = useSend();
  // A notice half written is still there when one comes back to it.
  const [text, setText, forget] = useKept(old ? `notice ${old.id}` : 'notice', old?.text);
  const [kind, setKind] = useState<'information' | 'warning'>(old?.kind ?? 'warning');
  const [place, setPlace] = useState(top?.isWhole ? '' : (top?.id ?? ''));
  const [wanted, setAlone] = useState(false);
  const mustBeAlone = top?.onlyAlone.includes(place === '' ? top.id : place) ?? false;
  const alone = wanted || mustBeAlone;
  const [from, setFrom] = useState(old?.from ?? '');
  const [ends, setEnds] = useState(!old || old.until !== null);
  const [until, setUntil] = useState(old?.until ?? suggestedEnd);
  const [missing, setMissing] = useState(false);
  const area = useRef<HTMLTextAreaElement>(null);
  const post = async () => {
    if (text.trim() === '') {
      setMissing(true);
      area.current?.focus();
      return;
    }
    const sent = await act('POST', old ? `/api/notices/${old.id}/correct` : '/api/notices', {
      text,
      kind,
      ...(old ? { was: old.text } : { alone, ...(place !== '' && { page: place }) }),
      ...(from && { from }),
      ...(ends && until && { until }),
    });
    if (!sent?.ok) return;
    forget();
    onDone(sent.value.trial === true, from > fieldTime(new Date(), timeZone));
  };
  return (
    <form
      className="card mb-6 grid gap-4 bg-paper"
      aria-label={old ? 'Set this notice right' : 'Post a notice'}
      onSubmit={(event) => {
        event.preventDefault();
        void post();
      }}
    >
      <ProblemNote problem={problem} />
      <Labelled
        label="What should visitors read?"
        anchor="notices.form.text"
        fault={missing && text.trim() === '' ? 'Write what visitors should read.' : faultOf('text')}
        hint={`What, where, until when. ${MOST - [...text].length} characters left.`}
      >
        {(ids) => (
          <textarea
            {...ids}
            ref={area}
            autoFocus
            rows={2}
            maxLength={MOST}
            className="field"
            value={text}
            onChange={(event) => setText(event.target.value)}
            placeholder={example}
          />
        )}
      </Labelled>
      <div className="grid gap-4 md:grid-cols-2">
        {old ? (
          <div>
            <p className="label">Where does it show?</p>
            <p className="min-h-[42px] py-2">{old.where}</p>
          </div>
        ) : (
          <div data-anchor="notices.form.place">
            <PagePicker
              label="Where does it show?"
              pages="notice.post"
              value={place}
              {...(top?.isWhole ? { whole: alone ? 'The front page' : 'The whole website' } : { now: top?.name ?? '' })}
              onChange={setPlace}
            />
            {faultOf('page') && <p className="mt-1 text-brick">{faultOf('page')}</p>}
            <label className="mt-1 flex items-start gap-2 text-sm">
              <input
                type="checkbox"
                className="mt-1 h-4 w-4 shrink-0 accent-pine"
                checked={!alone}
                disabled={mustBeAlone}
                onChange={(event) => setAlone(!event.target.checked)}
              />
              <span>
                And on all pages below it
                {mustBeAlone && (
                  <span className="block text-ink-2">You may not post on all of these, so it shows there alone.</span>
                )}
              </span>
            </label>
          </div>
        )}
        <fieldset>
          <legend className="label">What kind is it?</legend>
          <div className="flex min-h-[42px] flex-wrap items-center gap-4">
            {(['warning', 'information'] as const).map((k) => (
              <label key={k} className="flex items-center gap-2">
                <input
                  type="radio"
                  name="kind"
                  className="h-4 w-4 accent-pine"
                  checked={kind === k}
                  onChange={() => setKind(k)}
                />{' '}
                {k === 'warning' ? 'Warning' : 'Information'}
              </label>
            ))}
          </div>
        </fieldset>
        {old?.state !== 'showing' && (
          <Labelled
            label="When does it begin?"
            fault={faultOf('from')}
            hint={from ? `${zoneCity(timeZone)} time.` : 'Left empty: at once.'}
          >
            {(ids) => <WhenField {...ids} kind="moment" value={from} onChange={setFrom} />}
          </Labelled>
        )}
        <div data-anchor="notices.form.until">
          <Labelled
            label="When does it end?"
            fault={faultOf('until')}
            hint={ends ? `${zoneCity(timeZone)} time.` : 'Somebody must end it.'}
          >
            {(ids) => <WhenField {...ids} kind="moment" value={until} disabled={!ends} onChange={setUntil} />}
          </Labelled>
          <label className="mt-1 flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="h-4 w-4 accent-pine"
              checked={!ends}
              onChange={(event) => setEnds(!event.target.checked)}
            />{' '}
            No end; I end it myself
          </label>
        </div>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <button type="submit" className="btn btn-main" disabled={busy} data-anchor="notices.form.send">
          {busy ? 'Putting it there…' : old ? 'Set it right' : 'Put it on the website'}
        </button>
        <button
          type="button"
          className="btn"
          onClick={() => {
            if (old) forget();
            onClose();
          }}
        >
          Cancel
        </button>
        {!old && (
          <span className="hint">
            Shows across the top of{' '}
            {alone
              ? 'that page alone'
              : top?.isWhole && place === ''
                ? 'every page of the website'
                : 'that page and all below it'}
            {from ? ', from that hour on' : ', at once'}.
          </span>
        )}
      </div>
    </form>
  );
}
