import { useState } from 'react';
import type { ComingOut } from '@/core/wire';
import { Dialog, Labelled, ProblemNote, Said, TRIAL } from '../kit/parts';
import { send } from '../kit/send';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { Changes } from '../review/Changes';
import { useLoaded } from './useLoaded';

/** Puts a draft on the website from where it is listed: what visitors would see anew is read first. */
export function PublishHere({ item, title, one, href }: { item: string; title: string; one: string; href: string }) {
  const { isOpen, open, close, loaded, problem } = useLoaded(() => send('GET', `/api/items/${item}/changes`));
  return (
    <>
      <button type="button" className="link min-h-[28px] text-sm font-semibold" onClick={open}>
        Read and publish<span className="sr-only">: {title}</span>
      </button>
      <Dialog open={isOpen} onClose={close} title={title} wide>
        <ProblemNote problem={problem} />
        {!loaded && !problem && <p role="status">Looking what changed…</p>}
        {loaded && <Coming item={item} one={one} href={href} coming={loaded} />}
      </Dialog>
    </>
  );
}

function Coming({ item, one, href, coming }: { item: string; one: string; href: string; coming: ComingOut }) {
  const { changes, content, version, isUnfinished, findings, note } = coming;
  const { act, busy, problem, faultOf } = useSend();
  const [said, setSaid] = useState<string | null>(null);
  // The same words as on its edit screen.
  const [words, setWords, forget] = useKept(`change note ${item}`);
  const stops = findings.filter(({ rule }) => rule === 'block');
  const isReady = !isUnfinished && stops.length === 0;
  const publish = async () => {
    const sent = await act('POST', `/api/items/${item}/publish`, { content, version, note: words });
    if (!sent?.ok) return;
    forget();
    if (sent.value.trial) setSaid(TRIAL);
    else location.assign('/room?done=out');
  };
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        void publish();
      }}
    >
      <section aria-label="What changed">
        <p className="mb-3 text-ink-2">
          {isReady ? 'This is what visitors would see anew.' : `This ${one} cannot go out yet.`}
        </p>
        <Changes changes={changes} />
      </section>
      {(isUnfinished || findings.length > 0) && (
        <ul className="grid gap-2">
          {isUnfinished && (
            <li className="note note-brick">
              <strong>Must be set right.</strong> Something in it was typed and is not right yet.
            </li>
          )}
          {[...stops, ...findings.filter(({ rule }) => rule !== 'block')].map(({ rule, message }) => (
            <li key={message} className={`note clip ${rule === 'block' ? 'note-brick' : ''}`}>
              <strong>{rule === 'block' ? 'Must be set right.' : 'Look at this.'}</strong> {message}
            </li>
          ))}
        </ul>
      )}
      {isReady && note && (
        <Labelled
          label={note.label ?? 'What did you change?'}
          hint={
            note.hint ?? (note.required ? 'One sentence; it is asked for.' : 'One sentence, kept with this version.')
          }
          fault={faultOf('note')}
        >
          {(ids) => (
            <textarea
              {...ids}
              className="field"
              dir="auto"
              rows={2}
              maxLength={500}
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
          )}
        </Labelled>
      )}
      <ProblemNote problem={faultOf('note') ? null : problem} />
      <Said words={said} />
      <div className="flex flex-wrap items-center gap-3">
        {isReady && (
          <button type="submit" className="btn btn-main" disabled={busy}>
            Publish now
          </button>
        )}
        <a className={isReady ? 'link' : 'btn btn-main'} href={href}>
          {isReady ? 'Write on instead' : 'Set it right'}
        </a>
      </div>
    </form>
  );
}
