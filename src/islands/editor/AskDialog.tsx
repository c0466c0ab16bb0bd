import { useState } from 'react';
import { CONSTRUCT_NAMES } from '@/core/toolbar';
import type { Note } from '@/core/wire';
import { sayBegin, sayList } from '@/core/words';
import { Dialog, Labelled, ProblemNote } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';
import { useAbout } from './about';
import type { Wish } from './kept';

/** Asks somebody who may for a change of a piece that has to stay. */
export default function AskDialog({
  item,
  field,
  wish,
  onSent,
  onClose,
}: {
  item: string;
  field: string;
  wish: Wish;
  /** Null in a trial, in which nothing is kept. */
  onSent: (notes: Note[] | null, said: string) => void;
  onClose: () => void;
}) {
  const { one } = useAbout();
  const { act, busy, problem } = useSend();
  const [text, setText, forget] = useKept(`wish ${item} ${field} ${wish.made}`);
  const [tried, setTried] = useState(false);
  const [construct = ''] = wish.made.split('.');
  const words = sayBegin(wish.words, 80);
  const send = async () => {
    setTried(true);
    if (text.trim() === '') return undefined;
    const sent = await act('POST', `/api/items/${item}/notes`, {
      text: words ? `“${words}”: ${text.trim()}` : text.trim(),
      wish: { field, made: wish.made },
    });
    if (!sent?.ok) return undefined;
    if (sent.value.trial)
      return onSent(null, 'This is a trial: in the real room it would now be asked. Nothing was kept.');
    forget();
    const to = sent.value.to ?? [];
    return onSent(
      sent.value.notes,
      to.length > 0
        ? `Asked. It stands on Today for ${sayList(to)}, and among the notes of this ${one}.`
        : `Nobody has the tool for it here at the moment. Your wish stands among the notes of this ${one}; tell the keyholder.`,
    );
  };
  return (
    <Dialog open onClose={onClose} title="Ask for a change">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <p className="clip">
          It is about {CONSTRUCT_NAMES[construct] ?? 'a piece'}
          {words && (
            <>
              : <q dir="auto">{words}</q>
            </>
          )}
          .
        </p>
        <ProblemNote problem={problem} />
        <Labelled
          label="What should change?"
          hint="It goes to those who may change it. They can answer, and settle it when it is done."
          fault={tried && text.trim() === '' ? 'Say what should change.' : undefined}
        >
          {(ids) => (
            <textarea
              {...ids}
              rows={3}
              maxLength={800}
              dir="auto"
              className="field"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Labelled>
        <div className="flex flex-wrap gap-2">
          <button type="submit" className="btn btn-main" disabled={busy}>
            Ask for it
          </button>
          <button type="button" className="btn" onClick={onClose}>
            Cancel
          </button>
        </div>
      </form>
    </Dialog>
  );
}
