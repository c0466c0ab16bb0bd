import { useState } from 'react';
import { sayTime, zoneCity } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Labelled, ProblemNote, Said } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { Panel } from './Panel';

interface Clock {
  timeZone: string;
  now: string;
}
export interface PlannedRow {
  what: 'publish' | 'take-down';
  dueAt: string;
  by: string;
  failed: string | null;
}

/** When the page goes live or is taken down by itself, on the site's clock. */
export function SchedulePanel({
  page,
  planned,
  mayRetire,
  mayPublish,
  timeZone,
  now,
}: Clock & { page: string; planned: PlannedRow[]; mayRetire: boolean; mayPublish: boolean }) {
  const { act, busy, problem, faultOf } = useSend();
  const [at, setAt] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const say = (instant: string) => sayTime(new Date(instant), timeZone, new Date(now));
  const run = async (body: object) => {
    const sent = await act('POST', `/api/items/${page}/plan`, body);
    if (!sent?.ok) return;
    if (sent.value.trial) setSaid('This is a trial: nothing was planned.');
    else location.reload();
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
      anchor="pages.edit.schedule"
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
              {(entry.what === 'publish' ? mayPublish : mayRetire) && (
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
          <Labelled label="Take it down at" hint={`${zoneCity(timeZone)} time.`} fault={faultOf('at')}>
            {(ids) => (
              <input
                {...ids}
                type="datetime-local"
                className="field"
                value={at}
                onChange={(event) => setAt(event.target.value)}
              />
            )}
          </Labelled>
          <button type="submit" className="btn btn-small justify-self-start" disabled={busy || !at}>
            Plan it
          </button>
        </form>
      )}
    </Panel>
  );
}

export interface NoteRow {
  id: number;
  text: string;
  by: string;
  at: string;
  settled: boolean;
}

/** Words about the page among those who keep it. */
export function NotesPanel({ page, initial, timeZone, now }: Clock & { page: string; initial: NoteRow[] }) {
  const { act, busy, problem } = useSend();
  const [notes, setNotes] = useState(initial);
  const [text, setText, forget] = useKept(`note ${page}`);
  const run = async (body: object) => {
    const sent = await act<{ notes: NoteRow[] }>('POST', `/api/items/${page}/notes`, body);
    if (!sent?.ok) return;
    setNotes(sent.value.notes);
    if ('text' in body) forget();
  };
  const open = notes.filter((note) => !note.settled).length;
  return (
    <Panel
      name="Notes"
      value={open === 0 ? 'Nothing open' : open === 1 ? '1 open' : `${open} open`}
      anchor="pages.edit.notes"
      open={open > 0}
    >
      <ProblemNote problem={problem} />
      <ul className="grid gap-2">
        {notes.map((note) => (
          <li key={note.id} className={note.settled ? 'text-ink-2' : ''}>
            <p className={`clip whitespace-pre-wrap ${note.settled ? 'line-through' : ''}`} dir="auto">
              {note.text}
            </p>
            <p className="flex flex-wrap justify-between gap-2 text-sm text-ink-2">
              <span className="clip">
                {note.by}, {sayTime(new Date(note.at), timeZone, new Date(now))}
              </span>
              <button
                type="button"
                className="link min-h-[24px]"
                disabled={busy}
                onClick={() => void run({ settle: note.id, settled: !note.settled })}
              >
                {note.settled ? 'Open it again' : 'Settled'}
              </button>
            </p>
          </li>
        ))}
      </ul>
      <form
        className="grid gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) void run({ text });
        }}
      >
        <Labelled label="A new note" hint="For those who keep the page. Visitors never see it.">
          {(ids) => (
            <textarea
              {...ids}
              rows={2}
              maxLength={1000}
              dir="auto"
              className="field"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Labelled>
        <button type="submit" className="btn btn-small justify-self-start" disabled={busy || text.trim() === ''}>
          Add the note
        </button>
      </form>
    </Panel>
  );
}

export interface LinkRow {
  id: number;
  by: string;
  madeAt: string;
  expiresAt: string;
}

/** Links under which somebody without an account can look at the draft for some days: those there are, and a new one. */
export function PreviewLinkPanel({
  page,
  initial,
  timeZone,
  now,
  before,
}: Clock & { page: string; initial: LinkRow[]; /** Keeps the draft first. */ before: () => Promise<unknown> }) {
  const { act, busy, problem } = useSend();
  const [days, setDays] = useState(7);
  const [link, setLink] = useState<{ url: string; expiresAt: string } | null>(null);
  const [links, setLinks] = useState(initial);
  const [said, setSaid] = useState<string | null>(null);
  const say = (instant: string) => sayTime(new Date(instant), timeZone, new Date(now));
  const end = async (id: number) => {
    const sent = await act<{ links: LinkRow[] }>('POST', `/api/pages/${page}/preview-link`, { end: id });
    if (!sent?.ok) return;
    setLinks(sent.value.links);
    setLink(null);
    setSaid(sent.value.trial ? 'This is a trial: the link still works.' : 'The link leads nowhere any more.');
  };
  const make = async () => {
    await before();
    const sent = await act<{ url: string; expiresAt: string; links: LinkRow[] }>(
      'POST',
      `/api/pages/${page}/preview-link`,
      { days },
    );
    if (!sent?.ok) return;
    setLink(sent.value);
    setLinks(sent.value.links);
    setSaid(sent.value.trial ? 'This is a trial: the link leads nowhere.' : null);
  };
  const copy = async () => {
    await navigator.clipboard.writeText(link?.url ?? '');
    setSaid('The link is copied.');
  };
  return (
    <Panel
      name="Preview by a link"
      value={
        links.length === 0
          ? 'For somebody without an account'
          : links.length === 1
            ? 'One link works'
            : `${links.length} links work`
      }
      anchor="pages.edit.link"
    >
      <ProblemNote problem={problem} />
      <Said words={said} />
      {links.length > 0 && (
        <ul className="grid gap-2" aria-label="Links that work">
          {links.map((entry) => (
            <li key={entry.id} className="flex flex-wrap items-center justify-between gap-2 text-sm">
              <span className="clip">
                {entry.by}, {say(entry.madeAt)}; until {say(entry.expiresAt)}
              </span>
              <button type="button" className="btn btn-small" disabled={busy} onClick={() => void end(entry.id)}>
                End it
                <span className="sr-only">
                  : the link of {entry.by}, {say(entry.madeAt)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {link ? (
        <>
          <p>
            Whoever has this link sees the newest draft until {say(link.expiresAt)}. It is shown only now, and ends
            sooner when you may no longer change the page or fewer people may visit it.
          </p>
          <input
            className="field"
            readOnly
            aria-label="Link to the preview"
            value={link.url}
            onFocus={(event) => event.target.select()}
          />
          <button type="button" className="btn btn-small justify-self-start" onClick={() => void copy()}>
            <Icon name="copy" size={15} /> Copy it
          </button>
        </>
      ) : (
        <>
          <Labelled label="How long shall it work?">
            {(ids) => (
              <select {...ids} className="field" value={days} onChange={(event) => setDays(Number(event.target.value))}>
                {[1, 7, 30].map((n) => (
                  <option key={n} value={n}>
                    {n === 1 ? 'One day' : `${n} days`}
                  </option>
                ))}
              </select>
            )}
          </Labelled>
          <button
            type="button"
            className="btn btn-small justify-self-start"
            disabled={busy}
            onClick={() => void make()}
          >
            Make a link
          </button>
        </>
      )}
    </Panel>
  );
}
