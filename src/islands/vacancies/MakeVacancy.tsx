import { useState } from 'react';
import { PagePicker } from '../kit/PagePicker';
import { ProblemNote, Labelled } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

/** The first page one may begin a vacancy on. */
export type FirstPage = { id: string; name: string } | null;
/** Begins a vacancy. */
export function MakeForm({ first, onClose, onTrial }: { first: FirstPage; onClose: () => void; onTrial: () => void }) {
  const { act, busy, problem, faultOf } = useSend();
  const [title, setTitle, forget] = useKept('vacancy');
  const [page, setPage] = useState(first?.id ?? '');
  const [missing, setMissing] = useState(false);
  const begin = async () => {
    if (title.trim() === '') return setMissing(true);
    const sent = await act('POST', '/api/vacancies', { title, page });
    if (!sent?.ok) return undefined;
    forget();
    if (sent.value.trial) return onTrial();
    return location.assign(`/room/vacancies/${sent.value.id}`);
  };
  return (
    <form
      className="card mb-6 grid max-w-2xl gap-4 bg-paper"
      aria-label="New vacancy"
      onSubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <ProblemNote problem={problem} />
      <Labelled
        label="Which job?"
        anchor="vacancies.form.title"
        fault={missing && title.trim() === '' ? 'Say which job it is.' : faultOf('title')}
        hint="As people look for it: “Deckhand”."
      >
        {(ids) => (
          <input
            {...ids}
            autoFocus
            maxLength={120}
            className="field"
            value={title}
            onChange={(event) => setTitle(event.target.value)}
          />
        )}
      </Labelled>
      <div data-anchor="vacancies.form.page">
        <PagePicker
          label="On which page?"
          pages="vacancy.create"
          value={page}
          now={first?.name ?? ''}
          onChange={setPage}
        />
        {faultOf('page') && <p className="mt-1 text-brick">{faultOf('page')}</p>}
        <p className="hint mt-1">Visitors read it there.</p>
      </div>
      <div className="flex flex-wrap gap-2">
        <button type="submit" className="btn btn-main" disabled={busy} data-anchor="vacancies.form.send">
          {busy ? 'One moment…' : 'Begin it'}
        </button>
        <button type="button" className="btn" onClick={onClose}>
          Cancel
        </button>
      </div>
    </form>
  );
}
