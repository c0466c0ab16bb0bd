import { useState } from 'react';
import { useSend } from '../kit/useSend';

/** Tells what a change of the plan did not leave on somebody's Today, until they say that they have read it. */
export function NotKeptNote({ told }: { told: string[] }) {
  const { act, busy } = useSend();
  const [isRead, setRead] = useState(false);
  if (isRead) return null;
  return (
    <div
      className="note mt-5 flex flex-wrap items-center justify-between gap-3"
      role="region"
      aria-label="Changed on Today"
    >
      <div className="min-w-0 flex-1">
        <p>
          <strong>Your Today is not as it was,</strong> because your room was prepared anew:
        </p>
        <ul className="list-disc pl-5">
          {told.map((says) => (
            <li key={says} className="clip">
              {says}
            </li>
          ))}
        </ul>
      </div>
      <button
        type="button"
        className="btn btn-small"
        disabled={busy}
        onClick={() => void act('PUT', '/api/own-today', { do: 'heard' }).then((sent) => sent?.ok && setRead(true))}
      >
        I have read this
      </button>
    </div>
  );
}
