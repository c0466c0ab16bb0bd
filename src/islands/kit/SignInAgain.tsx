import { useState } from 'react';
import { Dialog, Labelled, ProblemNote } from './parts';
import { useSend } from './useSend';

/** Signing in again without leaving the screen, so that what was typed is still there. */
export function SignInAgain({ open, onDone, onClose }: { open: boolean; onDone: () => void; onClose: () => void }) {
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const { act, busy, problem } = useSend();
  const go = async () => {
    const sent = await act('POST', '/api/sign-in', { email, password });
    if (sent?.ok) {
      setPassword('');
      onDone();
    }
  };
  return (
    <Dialog open={open} onClose={onClose} title="Sign in again">
      <p className="mb-4">
        Your session has ended. What you typed is still here and is saved as soon as you are signed in.
      </p>
      <ProblemNote problem={problem} />
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <Labelled label="Mail address">
          {(ids) => (
            <input
              {...ids}
              type="email"
              autoComplete="username"
              required
              className="field"
              value={email}
              onChange={(e) => setEmail(e.target.value)}
            />
          )}
        </Labelled>
        <Labelled label="Password">
          {(ids) => (
            <input
              {...ids}
              type="password"
              autoComplete="current-password"
              required
              className="field"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
            />
          )}
        </Labelled>
        <button type="submit" className="btn btn-main justify-self-start" disabled={busy}>
          Sign in and save
        </button>
      </form>
    </Dialog>
  );
}
