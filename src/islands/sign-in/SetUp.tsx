import { useState } from 'react';
import { Labelled, ProblemNote, Safe } from '../kit/parts';
import { useSend } from '../kit/useSend';

const FIELDS = [
  { id: 'name', label: 'Your name', type: 'text', complete: 'name', hint: 'As your colleagues know you.' },
  { id: 'email', label: 'Mail address', type: 'email', complete: 'username', hint: 'You sign in with it.' },
  {
    id: 'password',
    label: 'Password',
    type: 'password',
    complete: 'new-password',
    hint: 'At least 10 characters; a few words in a row are good.',
  },
] as const;

/** Makes the first keyholder of a new site, or takes the password of somebody invited. */
export function SetUp(props: { token: string; first: boolean }) {
  return (
    <Safe>
      <SetUpForm {...props} />
    </Safe>
  );
}

function SetUpForm({ token, first }: { token: string; first: boolean }) {
  const { act, busy, problem, faultOf } = useSend();
  const [given, setGiven] = useState({ name: '', email: '', password: '' });
  const go = async () => {
    const sent = await act('POST', '/api/set-up', first ? { token, ...given } : { token, password: given.password });
    if (sent?.ok) location.assign(sent.value.to);
  };
  return (
    <form
      className="card grid gap-4 p-6"
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <ProblemNote problem={problem && !problem.faults ? problem : null} />
      {FIELDS.filter((field) => first || field.id === 'password').map((field) => (
        <Labelled key={field.id} label={field.label} hint={field.hint} fault={faultOf(field.id)}>
          {(ids) => (
            <input
              {...ids}
              type={field.type}
              autoComplete={field.complete}
              required
              className="field"
              value={given[field.id]}
              onChange={(event) => setGiven({ ...given, [field.id]: event.target.value })}
            />
          )}
        </Labelled>
      ))}
      <button type="submit" className="btn btn-main" disabled={busy}>
        {first ? 'Make me the keyholder' : 'Keep this password and go in'}
      </button>
    </form>
  );
}
