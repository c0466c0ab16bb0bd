import { useState } from 'react';
import { Dialog, Labelled, ProblemNote, Said } from '../kit/parts';
import { useSend } from '../kit/useSend';

const FIELDS = [
  { id: 'current', label: 'Password now', complete: 'current-password', hint: undefined },
  {
    id: 'password',
    label: 'New password',
    complete: 'new-password',
    hint: 'At least 10 characters; a few words in a row are good.',
  },
] as const;

/** Changes the password of whoever is signed in. */
export default function OwnPassword({ onClose }: { onClose: () => void }) {
  const { act, busy, problem, faultOf } = useSend();
  const [given, setGiven] = useState({ current: '', password: '' });
  const [done, setDone] = useState(false);
  const change = async () => {
    const sent = await act('PUT', '/api/own-password', given);
    if (sent?.ok) setDone(true);
  };
  return (
    <Dialog open onClose={onClose} title="Change your password">
      <Said
        words={done ? 'Your password is changed. Wherever else you were signed in, the new one is asked for.' : null}
      />
      {!done && (
        <form
          className="grid gap-4"
          onSubmit={(event) => {
            event.preventDefault();
            void change();
          }}
        >
          <ProblemNote problem={problem && !problem.faults ? problem : null} />
          {FIELDS.map((field) => (
            <Labelled key={field.id} label={field.label} hint={field.hint} fault={faultOf(field.id)}>
              {(ids) => (
                <input
                  {...ids}
                  type="password"
                  autoComplete={field.complete}
                  required
                  className="field"
                  value={given[field.id]}
                  onChange={(event) => setGiven({ ...given, [field.id]: event.target.value })}
                />
              )}
            </Labelled>
          ))}
          <button type="submit" className="btn btn-main justify-self-start" disabled={busy}>
            {busy ? 'Changing…' : 'Change it'}
          </button>
        </form>
      )}
    </Dialog>
  );
}
