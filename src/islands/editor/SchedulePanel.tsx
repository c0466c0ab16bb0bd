import { useState } from 'react';
import { sayTime, zoneCity, type Calendar } from '@/core/words';
import type { Sends } from '@/core/wire';
import { reload } from '../kit/leaving';
import { Labelled, ProblemNote, Said } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { useAbout } from './about';
import { Panel } from './Panel';
import { WhenField } from '../kit/when/WhenField';

interface Clock {
  calendar: Calendar;
  now: string;
}
export interface PlannedRow {
  what: 'publish' | 'take-down';
  dueAt: string;
  by: string;
  failed: string | null;
}

/** When an item goes live or is taken down by itself, on the site's clock. */
export function SchedulePanel({
  item,
  planned,
  mayRetire,
  calendar,
  now,
}: Clock & { item: string; planned: PlannedRow[]; mayRetire: boolean }) {
  const { anchor } = useAbout();
  const { act, busy, problem, faultOf } = useSend();
  const [at, setAt] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const say = (instant: string) => sayTime(new Date(instant), calendar, new Date(now));
  const run = async (body: Sends<'POST /api/items/[id]/schedule'>) => {
    const sent = await act('POST', `/api/items/${item}/schedule`, body);
    if (!sent?.ok) return;
    if (sent.value.trial) setSaid('This is a trial: nothing was planned.');
    else void reload();
  };
  const coming = planned.filter((entry) => entry.failed === null);
  const words = { publish: 'Goes live', 'take-down': 'Is taken down' };
  return (
    <Panel
      name="Times"
      value={
        coming.length
          ? coming.map((entry) => `${words[entry.what]} ${say(entry.dueAt)}`).join(' · ')
          : 'Nothing happens by itself'
      }
      anchor={anchor('schedule')}
      open={planned.length > 0}
    >
      <Said words={said} />
      <ProblemNote problem={problem && !faultOf('at') ? problem : null} />
      {planned.map((entry) => (
        <div key={`${entry.what} ${entry.dueAt}`} className={`note ${entry.failed ? 'note-brick' : ''}`}>
          {entry.failed ? (
            <p className="clip">
              It should have {entry.what === 'publish' ? 'gone live' : 'been taken down'} {say(entry.dueAt)}, but:{' '}
              {entry.failed}
            </p>
          ) : (
            <>
              <p className="clip">
                {words[entry.what]} <strong>{say(entry.dueAt)}</strong>, planned by {entry.by}.
              </p>
              {(entry.what === 'publish' || mayRetire) && (
                <button
                  type="button"
                  className="btn btn-small mt-2"
                  disabled={busy}
                  onClick={() => void run({ callOff: entry.what })}
                >
                  Call it off
                </button>
              )}
            </>
          )}
        </div>
      ))}
      <p className="hint">To plan when it goes live, press “Publish now” and choose a time.</p>
      {mayRetire && (
        <form
          className="grid gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (at) void run({ at });
          }}
        >
          <Labelled label="Take it down at" hint={`${zoneCity(calendar.timeZone)} time.`} fault={faultOf('at')}>
            {(ids) => <WhenField {...ids} kind="moment" value={at} onChange={setAt} />}
          </Labelled>
          <button type="submit" className="btn btn-small justify-self-start" disabled={busy || !at}>
            Plan it
          </button>
        </form>
      )}
    </Panel>
  );
}
