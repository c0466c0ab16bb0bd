import { useState } from 'react';
import { EVERY_WORDS, dutyStanding } from '@/core/duties';
import type { Duty } from '@/core/wire';
import { sayCalendarDay } from '@/core/words';
import { ProblemNote, Said, TRIAL } from '../kit/parts';
import { useSend } from '../kit/useSend';

type Own = Pick<Duty, 'id' | 'text' | 'due' | 'every' | 'version'> & { mayGiveBack: boolean };

/** What it is one's turn to look after: ticked off where it is read, or given back. */
export function OwnDuties({
  duties,
  today,
  language,
  wide = false,
}: {
  duties: Own[];
  today: string;
  language: string;
  /** Over the whole screen: beside one another where there is room, so that what follows is not pushed down. */
  wide?: boolean;
}) {
  const { act, busy, problem } = useSend();
  const [rows, setRows] = useState(duties);
  const [isTried, setTried] = useState(false);
  /** What was done to some of them, and where a tick can be taken back from. */
  const [done, setDone] = useState<ReadonlyMap<number, 'tick' | 'give-back'>>(new Map());
  const turn = async ({ id, version }: Own, what: 'tick' | 'untick' | 'give-back') => {
    const sent = await act('POST', `/api/duties/${id}/turn`, { do: what, version });
    if (!sent?.ok) return;
    if (sent.value.trial === true) return setTried(true);
    const { duty } = sent.value;
    setRows(rows.map((row) => (row.id === id ? { ...row, version: duty.version, due: duty.due } : row)));
    const next = new Map(done);
    if (what === 'untick') next.delete(id);
    else next.set(id, what);
    setDone(next);
  };
  return (
    <>
      <ProblemNote problem={problem} />
      <Said words={isTried ? TRIAL : null} />
      <ul
        className={
          wide ? 'grid grid-cols-[repeat(auto-fill,minmax(min(100%,18rem),1fr))] gap-x-8' : 'divide-y divide-line'
        }
      >
        {rows.map((duty) => {
          const stands = dutyStanding(duty.due, today);
          const was = done.get(duty.id);
          return (
            <li key={duty.id} className="py-2">
              <p className={`clip ${was ? 'text-ink-2' : ''}`}>{duty.text}</p>
              <p className="text-sm text-ink-2" role={was ? 'status' : undefined}>
                {was === 'tick' &&
                  (duty.every && duty.due
                    ? `Ticked off; due again on ${sayCalendarDay(duty.due, language)}.`
                    : 'Ticked off.')}
                {was === 'give-back' && 'Given back.'}
                {!was && duty.due && (
                  <span className={stands === 'late' ? 'font-semibold text-brick' : ''}>
                    {stands === 'late' ? 'Late: ' : 'Until '}
                    {stands === 'today' ? 'today' : sayCalendarDay(duty.due, language)}
                  </span>
                )}
                {!was && duty.every && ` · ${EVERY_WORDS[duty.every]}`}
              </p>
              <div className="flex flex-wrap gap-x-4 text-sm">
                {was !== 'give-back' && (
                  <button
                    type="button"
                    className="link min-h-[28px] font-semibold"
                    disabled={busy}
                    onClick={() => void turn(duty, was ? 'untick' : 'tick')}
                  >
                    {was ? 'Take it back' : 'Tick off'}
                    <span className="sr-only">: {duty.text}</span>
                  </button>
                )}
                {!was && duty.mayGiveBack && (
                  <button
                    type="button"
                    className="link min-h-[28px]"
                    disabled={busy}
                    onClick={() => void turn(duty, 'give-back')}
                  >
                    Give it back
                    <span className="sr-only">: {duty.text}</span>
                  </button>
                )}
              </div>
            </li>
          );
        })}
      </ul>
    </>
  );
}
