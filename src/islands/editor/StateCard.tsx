import { sayDay, sayTime, type Calendar } from '@/core/words';
import { useAbout } from './about';
import { DraftMark } from './panels';
import type { DraftState } from './model';
import type { VersionRow } from './VersionsPanel';

interface StateCardProps {
  state: DraftState;
  readOnly: boolean;
  dirty: boolean;
  live: VersionRow | undefined;
  down: boolean;
  waiting: { sentBy: string; sentAt: string; askedOf: string | null } | null;
  mine: boolean;
  address: string | null;
  calendar: Calendar;
  now: string;
  onTryAgain: () => void;
}

/** Whether the draft is kept, and which version visitors see. */
export function StateCard({
  state,
  readOnly,
  dirty,
  live,
  down,
  waiting,
  mine,
  address,
  calendar,
  now,
  onTryAgain,
}: StateCardProps) {
  const { one, anchor } = useAbout();
  return (
    <section aria-label="What visitors see" data-anchor={anchor('state')}>
      {!readOnly && <DraftMark state={state} calendar={calendar} />}
      <p className="mt-2">
        {live && address === null ? (
          'It is published. Visitors see it once its page is on the website.'
        ) : live ? (
          <>
            Visitors {dirty || waiting ? 'still ' : ''}see the version from{' '}
            <strong>{sayDay(new Date(live.at), calendar, new Date(now))}</strong>.{' '}
            <a className="link" href={address ?? undefined} target="_blank" rel="noreferrer">
              Look
            </a>
          </>
        ) : down ? (
          `It is taken down: visitors do not see this ${one}.`
        ) : (
          `Visitors do not see this ${one} yet.`
        )}
      </p>
      {waiting && (
        <p className="mt-2 text-ink-2">
          <span className="pill pill-sky">Second look</span> {mine ? 'You' : waiting.sentBy} sent a version{' '}
          {sayTime(new Date(waiting.sentAt), calendar, new Date(now))}; it waits
          {waiting.askedOf && ` for ${waiting.askedOf}`}. {!readOnly && 'Sending again replaces it.'}
        </p>
      )}
      <div role="alert">
        {(state.status === 'offline' || state.status === 'refused') && (
          <p className="note note-brick mt-2">{state.detail}</p>
        )}
      </div>
      {state.status === 'refused' && (
        <button type="button" className="btn btn-small mt-2" onClick={onTryAgain}>
          Try to keep it again
        </button>
      )}
    </section>
  );
}
