import { useState } from 'react';
import type { JudgedFinding } from '@/core/wire';
import { zoneCity } from '@/core/words';
import { Icon, type IconName } from '../kit/Icon';
import { Confirm, Labelled } from '../kit/parts';
import { useAbout } from './about';
import type { DraftState } from './model';
import type { FieldFault } from './useDraft';
import { WhenField } from '../kit/when/WhenField';

export interface Finish {
  what: 'send' | 'publish';
  /** On the site's clock; at once when left out. */ at?: string;
}

interface KeepingProps {
  state: DraftState;
  /** Whether a room is only tried: nothing is kept. */
  isTrial: boolean;
  /** What happened meanwhile; null where nothing did. */
  news: string | null;
  faults: readonly FieldFault[];
  nameOf: (field: string) => string;
  onField: (field: string) => void;
  onChoose: () => void;
  onSignIn: () => void;
  onTryAgain: () => void;
}

/** How keeping stands, in the one line that is always in sight, with the way to whatever it waits for. */
function Keeping({ isTrial, state, news, faults, nameOf, onField, onChoose, onSignIn, onTryAgain }: KeepingProps) {
  const { one } = useAbout();
  const line = (icon: IconName, words: string, wrong = false) => (
    <span className={`flex items-center gap-2 text-sm ${wrong ? 'font-semibold text-brick' : 'text-ink-2'}`}>
      <Icon name={icon} size={16} className="shrink-0" /> {words}
    </span>
  );
  const way = (words: string, run: () => void) => (
    <button type="button" className="btn btn-small" onClick={run}>
      {words}
    </button>
  );
  const told = (() => {
    switch (state.status) {
      case 'trial':
        return line('eye', 'A trial: nothing is kept');
      case 'offline':
        return line('warn', 'Kept in this browser; the website is tried again', true);
      case 'signed-out':
        return (
          <>
            {line('warn', 'You are signed out: kept in this browser only', true)}
            {way('Sign in again', onSignIn)}
          </>
        );
      case 'conflict':
        return (
          <>
            {line('warn', `Two versions of this ${one}; yours is kept in this browser`, true)}
            {way('Choose', onChoose)}
          </>
        );
      case 'refused':
        return (
          <>
            {line('warn', 'Not kept by the website, only in this browser', true)}
            {faults.length === 0 && way('Try again', onTryAgain)}
          </>
        );
      default:
        if (faults.length > 0) return null;
        return isTrial ? line('eye', 'A trial: nothing is kept') : line('check', 'Everything you type is kept');
    }
  })();
  return (
    <div role="status" data-keeping className="flex min-w-0 flex-wrap items-center gap-2">
      {told}
      {news && line('user', news)}
      {faults.length > 0 && (
        <>
          {line('warn', `${state.status === 'refused' ? '' : 'Kept, but '}not right yet:`, true)}
          {faults.slice(0, 3).map((fault) => (
            <button
              key={fault.field}
              type="button"
              className="btn btn-small max-w-[14rem]"
              title={fault.message}
              onClick={() => onField(fault.field)}
            >
              <span className="truncate">{nameOf(fault.field)}</span>
            </button>
          ))}
          {faults.length > 3 && <span className="text-sm text-brick">and {faults.length - 3} more</span>}
        </>
      )}
    </div>
  );
}

/** What can be done with the draft, always in sight: send it, or publish it now or later. */
export function FinishBar({
  isTrial,
  state,
  news,
  faults,
  nameOf,
  onField,
  onChoose,
  onSignIn,
  onTryAgain,
  controls,
  readOnly,
  busy,
  dirty,
  down,
  wasPublic,
  reviewers,
  askedOf,
  findings,
  timeZone,
  onFinish,
}: KeepingProps & {
  controls: readonly string[];
  readOnly: boolean;
  busy: boolean;
  dirty: boolean;
  down: boolean;
  /** Whether visitors ever saw a version of it. */ wasPublic: boolean;
  reviewers: { id: string; name: string }[];
  askedOf: string;
  findings: JudgedFinding[];
  timeZone: string;
  onFinish: (how: Finish) => void;
}) {
  const { one, anchor } = useAbout();
  const maySend = controls.includes(anchor('send'));
  const [asking, setAsking] = useState(false);
  const [later, setLater] = useState(false);
  const [at, setAt] = useState('');
  const asked =
    reviewers.find((person) => person.id === askedOf) ?? (reviewers.length === 1 ? reviewers[0] : undefined);
  const stops = findings.filter((finding) => finding.rule === 'block');
  const cannot = stops.length > 0;
  return (
    <div
      data-over="bottom"
      className="sticky bottom-0 z-10 flex flex-wrap items-center justify-between gap-x-3 gap-y-2 border-t border-line bg-sheet px-4 py-2 md:px-[40px] md:py-2.5"
    >
      {readOnly ? (
        <span className="flex items-center gap-2 text-sm text-ink-2">
          <Icon name="eye" size={16} /> You can read this {one}
        </span>
      ) : (
        <Keeping
          isTrial={isTrial}
          state={state}
          news={news}
          faults={faults}
          nameOf={nameOf}
          onField={onField}
          onChoose={onChoose}
          onSignIn={onSignIn}
          onTryAgain={onTryAgain}
        />
      )}
      <div className="flex gap-2 max-sm:w-full max-sm:[&>button]:min-h-[36px] max-sm:[&>button]:flex-1 max-sm:[&>button]:px-2 max-sm:[&>button]:text-sm">
        {controls.includes(anchor('publish')) && (
          <button
            type="button"
            className={`btn ${maySend ? '' : 'btn-main'}`}
            disabled={busy || (!dirty && !down)}
            data-anchor={anchor('publish')}
            onClick={() => (faults[0] ? onField(faults[0].field) : setAsking(true))}
          >
            Publish now
          </button>
        )}
        {maySend && (
          <button
            type="button"
            className="btn btn-main"
            disabled={busy || !dirty}
            data-anchor={anchor('send')}
            onClick={() => onFinish({ what: 'send' })}
          >
            <span className="max-w-[22rem] truncate max-sm:whitespace-normal">
              {busy
                ? 'Sending…'
                : asked
                  ? `Send to ${asked.name.split(' ')[0]} for a second look`
                  : 'Send for a second look'}
            </span>
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
        <p>
          Visitors see your draft {later ? 'from the hour you choose' : 'at once'}.
          {wasPublic && ' The version before stays under “Earlier versions”.'}
        </p>
        <fieldset className="mt-3 flex flex-wrap gap-4">
          <legend className="sr-only">When?</legend>
          {[false, true].map((yes) => (
            <label key={String(yes)} className="flex min-h-[28px] items-center gap-2 text-ink">
              <input
                type="radio"
                name="when"
                className="h-4 w-4 accent-pine"
                checked={later === yes}
                onChange={() => setLater(yes)}
              />{' '}
              {yes ? 'At a time' : 'At once'}
            </label>
          ))}
        </fieldset>
        {later && (
          <div className="mt-2">
            <Labelled label="When shall it go live?" hint={`${zoneCity(timeZone)} time.`}>
              {(ids) => <WhenField {...ids} kind="moment" value={at} onChange={setAt} />}
            </Labelled>
          </div>
        )}
        {findings.length > 0 && (
          <div className={`note mt-3 text-ink ${cannot ? 'note-brick' : ''}`}>
            <strong>{cannot ? 'This website wants these set right first:' : 'Look at these first:'}</strong>
            <ul className="mt-1 list-disc pl-5">
              {(cannot ? stops : findings).slice(0, 6).map((finding) => (
                <li key={finding.message} className="clip">
                  {finding.message}
                </li>
              ))}
            </ul>
          </div>
        )}
      </Confirm>
    </div>
  );
}
