import { useState } from 'react';
import { EVERY_WORDS, dutyStanding } from '@/core/duties';
import type { Duty } from '@/core/wire';
import { sayCalendarDay, sayTime, type Calendar } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Confirm, Empty, Labelled, ProblemNote, Said, Safe, TRIAL, useFocusLater } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { DutyForm } from './DutyForm';

interface Props {
  duties: Duty[];
  /** Whom a duty can be given to; nobody where they may give none. */
  people: { id: string; name: string }[];
  me: string;
  mayManage: boolean;
  /** The day it is, on the site's clock. */
  today: string;
  calendar: Calendar;
  now: string;
}

/** By the day they are due, those without one last. */
const inOrder = (duties: readonly Duty[]): Duty[] =>
  duties.toSorted((a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.id - b.id);

/** What has to be looked after: whose turn, until when; given, ticked off, handed over. */
export function Duties(props: Props) {
  return (
    <Safe>
      <List {...props} />
    </Safe>
  );
}

function List({ duties, people, me, mayManage, today, calendar, now }: Props) {
  const focusLater = useFocusLater();
  const [rows, setRows] = useState(duties);
  const [writing, setWriting] = useState(false);
  const [changing, setChanging] = useState<number | null>(null);
  const [removing, setRemoving] = useState<Duty | null>(null);
  const [whose, setWhose] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const { act, busy, problem } = useSend();
  const put = (duty: Duty, words: string, trial: boolean) => {
    if (trial) return setSaid(TRIAL);
    setRows(inOrder([...rows.filter(({ id }) => id !== duty.id), duty]));
    return setSaid(words);
  };
  const turn = async (duty: Duty, what: 'tick' | 'untick') => {
    const sent = await act('POST', `/api/duties/${duty.id}/turn`, { do: what, version: duty.version });
    if (!sent?.ok) return;
    const { due, every } = sent.value.duty;
    put(
      sent.value.duty,
      what === 'untick'
        ? 'It is open again.'
        : every && due
          ? `Ticked off. It is due again on ${sayCalendarDay(due, calendar.language)}.`
          : 'Ticked off.',
      sent.value.trial === true,
    );
  };
  const remove = async () => {
    const sent = removing && (await act('POST', `/api/duties/${removing.id}/remove`));
    if (removing && sent?.ok && sent.value.trial !== true) {
      setRows(rows.filter(({ id }) => id !== removing.id));
      setSaid('It is taken away. Its words stay in the activity.');
    } else if (sent?.ok) setSaid(TRIAL);
    setChanging(null);
    setRemoving(null);
  };
  const shown = rows.filter((duty) => whose === '' || duty.whose.id === whose);
  const open = shown.filter(({ over }) => !over);
  const over = shown.filter((duty) => duty.over);
  const named = [...new Map(rows.map((duty) => [duty.whose.id, duty.whose.name]))];
  const line = (duty: Duty) => {
    const stands = duty.over ? 'later' : dutyStanding(duty.due, today);
    if (changing === duty.id)
      return (
        <li key={duty.id} className="p-2">
          <DutyForm
            old={duty}
            people={people}
            me={me}
            onClose={() => {
              setChanging(null);
              focusLater(`change-${duty.id}`);
            }}
            onRemove={() => setRemoving(duty)}
            onDone={(after, trial) => {
              setChanging(null);
              put(
                after,
                after.whose.id === duty.whose.id ? 'It is changed.' : `It is ${after.whose.name}’s turn now.`,
                trial,
              );
              focusLater(`change-${duty.id}`);
            }}
          />
        </li>
      );
    return (
      <li
        key={duty.id}
        className="grid items-center gap-x-4 gap-y-1 px-4 py-2.5 md:grid-cols-[minmax(0,1fr)_11rem_12rem_auto]"
      >
        <div className="min-w-0">
          <p className={`clip ${duty.over ? 'text-ink-2' : 'font-semibold'}`}>{duty.text}</p>
          <p className="clip text-sm text-ink-2">
            Given by {duty.by.name}
            {duty.done &&
              ` · ${duty.over ? '' : 'last '}ticked off by ${duty.done.by}, ${sayTime(new Date(duty.done.at), calendar, new Date(now))}`}
            {duty.mayTick && !duty.over && duty.done && (
              <button
                type="button"
                className="no-print link ml-2"
                disabled={busy}
                onClick={() => void turn(duty, 'untick')}
              >
                Take the tick back<span className="sr-only">: {duty.text}</span>
              </button>
            )}
          </p>
        </div>
        <div className="min-w-0">
          <p className="clip">{duty.whose.name}</p>
          {duty.away && !duty.over && <p className="text-sm font-semibold text-brick">{duty.away}</p>}
        </div>
        <div>
          {duty.due && !duty.over && (
            <p className={stands === 'late' ? 'font-semibold text-brick' : ''}>
              {stands === 'late' && 'Late: '}
              {stands === 'today' ? 'Today' : sayCalendarDay(duty.due, calendar.language)}
            </p>
          )}
          {duty.every && <p className="text-sm text-ink-2">{EVERY_WORDS[duty.every]}</p>}
        </div>
        <div className="no-print flex flex-wrap justify-end gap-1.5">
          {duty.mayTick && (
            <button
              type="button"
              className="btn btn-small"
              disabled={busy}
              onClick={() => void turn(duty, duty.over ? 'untick' : 'tick')}
            >
              {duty.over ? (
                'Not done yet'
              ) : (
                <>
                  <Icon name="check" size={15} /> Tick off
                </>
              )}
              <span className="sr-only">: {duty.text}</span>
            </button>
          )}
          {mayManage && !duty.over && (
            <button
              id={`change-${duty.id}`}
              type="button"
              className="btn btn-small btn-quiet"
              onClick={() => setChanging(duty.id)}
            >
              Change
              <span className="sr-only">: {duty.text}</span>
            </button>
          )}
        </div>
      </li>
    );
  };
  return (
    <>
      <Said words={said} />
      <ProblemNote problem={problem} />
      <div className="no-print mb-4 flex flex-wrap items-end gap-3">
        {mayManage && !writing && (
          <button
            id="new-duty"
            type="button"
            className="btn btn-main"
            data-anchor="duties.list.new"
            onClick={() => setWriting(true)}
          >
            <Icon name="plus" /> New duty
          </button>
        )}
        <div className="ml-auto flex flex-wrap items-end gap-3">
          {named.length > 1 && (
            <Labelled label="Whose turn">
              {(ids) => (
                <select {...ids} className="field" value={whose} onChange={(event) => setWhose(event.target.value)}>
                  <option value="">everybody’s</option>
                  {named.map(([id, name]) => (
                    <option key={id} value={id}>
                      {id === me ? `${name} (you)` : name}
                    </option>
                  ))}
                </select>
              )}
            </Labelled>
          )}
          <button type="button" className="btn" data-anchor="duties.list.print" onClick={() => print()}>
            <Icon name="print" /> Print this sheet
          </button>
        </div>
      </div>
      {writing && (
        <DutyForm
          people={people}
          me={me}
          onClose={() => {
            setWriting(false);
            focusLater('new-duty');
          }}
          onDone={(duty, trial) => {
            setWriting(false);
            put(duty, `It is ${duty.whose.id === me ? 'your' : `${duty.whose.name}’s`} turn.`, trial);
            focusLater('new-duty');
          }}
        />
      )}
      <section aria-label="To be looked after" data-anchor="duties.list.open">
        <h2 className="mb-2">To be looked after</h2>
        {open.length === 0 ? (
          <Empty icon="duties" title={whose === '' ? 'Nothing is open.' : 'Nothing is open for them.'} />
        ) : (
          <ul className="card divide-y divide-line p-0">{open.map(line)}</ul>
        )}
      </section>
      {over.length > 0 && (
        <details className="no-print mt-6">
          <summary className="link">Done in the last thirty days ({over.length})</summary>
          <ul className="card mt-2 divide-y divide-line p-0">{over.map(line)}</ul>
        </details>
      )}
      <Confirm
        open={removing !== null}
        title="Take this duty away?"
        yes="Take it away"
        busy={busy}
        onYes={() => void remove()}
        onNo={() => setRemoving(null)}
      >
        <p className="clip">“{removing?.text}”</p>
        <p>It is no longer anybody’s turn. What was done of it stays in the activity.</p>
      </Confirm>
    </>
  );
}
