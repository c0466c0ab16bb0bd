import { useState } from 'react';
import { Icon } from '../kit/Icon';
import { Confirm, Labelled } from '../kit/parts';
import type { FindingRow } from './useChecks';

export interface Finish { what: 'send' | 'publish'; /** On the site's clock; at once when left out. */ at?: string }

/** What can be done with the draft, always in sight: send it, or publish it now or later. */
export function FinishBar({ may, readOnly, busy, dirty, down, reviewers, askedOf, findings, timeZone, onFinish }: { may: { send: boolean; publish: boolean }; readOnly: boolean; busy: boolean; dirty: boolean; down: boolean; reviewers: { id: string; name: string }[]; askedOf: string; findings: FindingRow[]; timeZone: string; onFinish: (how: Finish) => void }) {
  const [asking, setAsking] = useState(false);
  const [later, setLater] = useState(false);
  const [at, setAt] = useState('');
  const asked = reviewers.find((person) => person.id === askedOf) ?? (reviewers.length === 1 ? reviewers[0] : undefined);
  const stops = findings.filter((finding) => finding.rule === 'block');
  const cannot = stops.length > 0;
  return (
    <div className="sticky bottom-0 z-10 flex flex-wrap items-center justify-between gap-3 border-t border-line bg-sheet px-4 py-3 md:px-10">
      <span className="flex items-center gap-2 text-sm text-ink-2">
        <Icon name={readOnly ? 'eye' : 'check'} size={16} /> {readOnly ? 'You can read this page' : 'Everything you type is kept'}
      </span>
      <div className="flex flex-wrap gap-2">
        {may.publish && (
          <button type="button" className={`btn ${may.send ? '' : 'btn-main'}`} disabled={busy || (!dirty && !down)} data-anchor="pages.edit.publish" onClick={() => setAsking(true)}>
            Publish now
          </button>
        )}
        {may.send && (
          <button type="button" className="btn btn-main" disabled={busy || !dirty} data-anchor="pages.edit.send" onClick={() => onFinish({ what: 'send' })}>
            <span className="max-w-[22rem] truncate">{busy ? 'Sending…' : asked ? `Send to ${asked.name.split(' ')[0]} for a second look` : 'Send for a second look'}</span>
          </button>
        )}
      </div>
      <Confirm
        open={asking}
        title="Publish without a second look?"
        yes={later ? 'Plan it' : 'Publish now'}
        busy={busy || cannot || (later && !at)}
        onYes={() => {
          setAsking(false);
          onFinish({ what: 'publish', ...(later && { at }) });
        }}
        onNo={() => setAsking(false)}
      >
        <p>Visitors see your draft {later ? 'from the hour you choose' : 'at once'}. The version before stays under “Earlier versions”.</p>
        <fieldset className="mt-3 flex flex-wrap gap-4">
          <legend className="sr-only">When?</legend>
          {[false, true].map((yes) => (
            <label key={String(yes)} className="flex min-h-[28px] items-center gap-2 text-ink">
              <input type="radio" name="when" className="h-4 w-4 accent-pine" checked={later === yes} onChange={() => setLater(yes)} /> {yes ? 'At a time' : 'At once'}
            </label>
          ))}
        </fieldset>
        {later && (
          <div className="mt-2">
            <Labelled label="When shall it go live?" hint={`On the site’s clock (${timeZone}).`}>
              {(ids) => <input {...ids} type="datetime-local" className="field" value={at} onChange={(event) => setAt(event.target.value)} />}
            </Labelled>
          </div>
        )}
        {findings.length > 0 && (
          <div className={`note mt-3 text-ink ${cannot ? 'note-brick' : ''}`}>
            <strong>{cannot ? 'This website wants these set right first:' : 'Look at these first:'}</strong>
            <ul className="mt-1 list-disc pl-5">
              {(cannot ? stops : findings).slice(0, 6).map((finding) => (
                <li key={finding.message} className="clip">{finding.message}</li>
              ))}
            </ul>
          </div>
        )}
      </Confirm>
    </div>
  );
}
