import { useState } from 'react';
import type { Note, Sends } from '@/core/wire';
import { sayTime, type Calendar } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Labelled, ProblemNote } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { useAbout } from './about';
import { Panel } from './Panel';

interface Clock {
  calendar: Calendar;
  now: string;
}

const Words = ({ note }: { note: Note }) => (
  <p className={`clip whitespace-pre-wrap ${note.settled ? 'line-through' : ''}`} dir="auto">
    {note.text}
  </p>
);

/** Words about an item among those who keep it, with answers; what is asked to be changed is among them. */
export function NotesPanel({ item, initial, calendar, now }: Clock & { item: string; initial: Note[] }) {
  const { one, anchor } = useAbout();
  const { act, busy, problem } = useSend();
  const [notes, setNotes] = useState(initial);
  const [text, setText, forget] = useKept(`note ${item}`);
  const [answering, setAnswering] = useState<number | null>(null);
  const [answer, setAnswer, forgetAnswer] = useKept(`answer to note ${item} ${answering ?? ''}`);
  const run = async (body: Sends<'POST /api/items/[id]/notes'>) => {
    const sent = await act('POST', `/api/items/${item}/notes`, body);
    if (!sent?.ok) return;
    setNotes(sent.value.notes);
    if (!('text' in body)) return;
    if (body.answers === undefined) return forget();
    forgetAnswer();
    setAnswering(null);
  };
  const open = notes.filter((note) => !note.settled && note.answers === null).length;
  return (
    <Panel
      name="Notes"
      value={open === 0 ? 'Nothing open' : open === 1 ? '1 open' : `${open} open`}
      anchor={anchor('notes')}
      open={open > 0}
    >
      <ProblemNote problem={problem} />
      <ul className="grid gap-2">
        {notes
          .filter((note) => note.answers === null)
          .map((note) => (
            <li key={note.id} className={note.settled ? 'text-ink-2' : ''}>
              {note.wish && (
                <p className="text-sm font-semibold">
                  <Icon name="remark" size={14} /> Asked for a change
                </p>
              )}
              <Words note={note} />
              {notes
                .filter((answer) => answer.answers === note.id)
                .toReversed()
                .map((answer) => (
                  <div key={answer.id} className="mt-1 ml-3 border-l-3 border-line pl-2">
                    <Words note={answer} />
                    <p className="clip text-sm text-ink-2">
                      {answer.by}, {sayTime(new Date(answer.at), calendar, new Date(now))}
                    </p>
                  </div>
                ))}
              <p className="flex flex-wrap justify-between gap-2 text-sm text-ink-2">
                <span className="clip">
                  {note.by}, {sayTime(new Date(note.at), calendar, new Date(now))}
                </span>
                <span className="flex gap-3">
                  {!note.settled && (
                    <button type="button" className="link min-h-[24px]" onClick={() => setAnswering(note.id)}>
                      Answer<span className="sr-only">: {note.text}</span>
                    </button>
                  )}
                  <button
                    type="button"
                    className="link min-h-[24px]"
                    disabled={busy}
                    onClick={() => void run({ settle: note.id, settled: !note.settled })}
                  >
                    {note.settled ? 'Open it again' : 'Settled'}
                  </button>
                </span>
              </p>
              {answering === note.id && (
                <form
                  className="mt-1 grid gap-2"
                  onSubmit={(event) => {
                    event.preventDefault();
                    if (answer.trim()) void run({ text: answer, answers: note.id });
                  }}
                >
                  <textarea
                    aria-label="Your answer"
                    autoFocus
                    rows={2}
                    maxLength={1000}
                    dir="auto"
                    className="field"
                    value={answer}
                    onChange={(event) => setAnswer(event.target.value)}
                  />
                  <span className="flex gap-2">
                    <button type="submit" className="btn btn-small" disabled={busy || answer.trim() === ''}>
                      Send the answer
                    </button>
                    <button type="button" className="btn btn-quiet btn-small" onClick={() => setAnswering(null)}>
                      Cancel
                    </button>
                  </span>
                </form>
              )}
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
        <Labelled label="A new note" hint={`For those who keep the ${one}. Visitors never see it.`}>
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
