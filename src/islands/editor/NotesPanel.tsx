import { useState } from 'react';
import type { Note, Sends } from '@/core/wire';
import { sayTime } from '@/core/words';
import { Labelled, ProblemNote } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { useAbout } from './about';
import { Panel } from './Panel';

interface Clock {
  timeZone: string;
  now: string;
}

/** Words about an item among those who keep it. */
export function NotesPanel({ item, initial, timeZone, now }: Clock & { item: string; initial: Note[] }) {
  const { one, anchor } = useAbout();
  const { act, busy, problem } = useSend();
  const [notes, setNotes] = useState(initial);
  const [text, setText, forget] = useKept(`note ${item}`);
  const run = async (body: Sends<'POST /api/items/[id]/notes'>) => {
    const sent = await act('POST', `/api/items/${item}/notes`, body);
    if (!sent?.ok) return;
    setNotes(sent.value.notes);
    if ('text' in body) forget();
  };
  const open = notes.filter((note) => !note.settled).length;
  return (
    <Panel
      name="Notes"
      value={open === 0 ? 'Nothing open' : open === 1 ? '1 open' : `${open} open`}
      anchor={anchor('notes')}
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
