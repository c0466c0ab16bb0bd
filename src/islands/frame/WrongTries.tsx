import { useState } from 'react';
import { useSend } from '../kit/useSend';

/** Tells somebody that wrong passwords were tried with their mail address, until they say that they have read it. */
export function WrongTries({ times, since }: { times: number; since: string }) {
  const { act, busy } = useSend();
  const [read, setRead] = useState(false);
  if (read) return null;
  return (
    <div
      className="note note-brick mb-4 flex flex-wrap items-center justify-between gap-3"
      role="region"
      aria-label="Wrong passwords"
    >
      <p className="min-w-0 flex-1">
        <strong>{times} wrong passwords were tried with your mail address</strong>, the first of them {since}. If that
        was not you, choose a new password: press your name, then “Change your password”.
      </p>
      <button
        type="button"
        className="btn btn-small"
        disabled={busy}
        onClick={() => void act('PUT', '/api/own-tries').then((sent) => sent?.ok && setRead(true))}
      >
        I have read this
      </button>
    </div>
  );
}
