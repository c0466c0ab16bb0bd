import { useState } from 'react';
import { Labelled, ProblemNote, Safe } from '../kit/parts';
import { useSend } from '../kit/useSend';

export interface DemoSignIn {
  name: string;
  email: string;
  password: string;
  does: string;
}

/** Signing in; while the demo is loaded, its people can be chosen with one press. */
export function SignIn(props: { next: string | null; demo: DemoSignIn[] }) {
  return (
    <Safe>
      <SignInCard {...props} />
    </Safe>
  );
}

function SignInCard({ next, demo }: { next: string | null; demo: DemoSignIn[] }) {
  const { act, busy, problem } = useSend();
  const [shown, setShown] = useState(false);
  const go = async ({ email, password }: { email: string; password: string }) => {
    const sent = await act('POST', '/api/sign-in', { email, password, ...(next && { next }) });
    if (sent?.ok) location.assign(sent.value.to);
  };
  return (
    <>
      <form
        className="card grid gap-4 p-6"
        method="post"
        onSubmit={(event) => {
          event.preventDefault();
          // Read from the form itself, so that what was typed while the page was still loading counts.
          const typed = (name: string) =>
            event.currentTarget.querySelector<HTMLInputElement>(`input[name="${name}"]`)?.value ?? '';
          void go({ email: typed('email'), password: typed('password') });
        }}
      >
        <ProblemNote problem={problem} />
        <Labelled label="Mail address">
          {(ids) => <input {...ids} type="email" autoComplete="username" required className="field" name="email" />}
        </Labelled>
        <div>
          <Labelled label="Password">
            {(ids) => (
              <input
                {...ids}
                type={shown ? 'text' : 'password'}
                autoComplete="current-password"
                required
                className="field"
                name="password"
              />
            )}
          </Labelled>
          <label className="mt-1.5 flex min-h-[24px] items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="h-4 w-4 accent-pine"
              checked={shown}
              onChange={(event) => setShown(event.target.checked)}
            />{' '}
            Show what I type
          </label>
        </div>
        <button type="submit" className="btn btn-main" disabled={busy}>
          {busy ? 'Signing in…' : 'Sign in'}
        </button>
        <p className="hint">
          Forgotten the password, or never had one? Ask your keyholder; nobody can read it, but they can give you a new
          one.
        </p>
      </form>
      {demo.length > 0 && (
        <section className="mt-6" aria-label="People of the demo">
          <h2 className="mb-1 text-base">The demo’s people</h2>
          <p className="hint mb-2">
            Larkhaven Ferries is invented, and so is everybody here. Press a name to come in as that person.
          </p>
          <ul className="grid gap-1.5">
            {demo.map((person) => (
              <li key={person.email}>
                <button
                  type="button"
                  disabled={busy}
                  className="flex w-full flex-wrap items-baseline justify-between gap-x-4 rounded-s border border-line bg-sheet px-3 py-2 text-left hover:border-pine hover:bg-pine-wash"
                  onClick={() => void go(person)}
                >
                  <span>
                    <strong>{person.name}</strong> <span className="text-ink-2">{person.does}</span>
                  </span>
                  <code className="text-sm text-ink-2">
                    {person.email} · {person.password}
                  </code>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
