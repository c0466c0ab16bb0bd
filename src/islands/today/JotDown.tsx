import { useId, useState } from 'react';
import { ProblemNote } from '../kit/parts';
import { useKept } from '../kit/useKept';
import { useSend } from '../kit/useSend';

/** A line that becomes a draft page; kept in the browser until it is one. */
export function JotDown({
  entry,
  parent,
  above,
  layout,
}: {
  entry: string;
  parent: number;
  above: string;
  layout: string;
}) {
  const id = useId();
  const [title, setTitle, forget] = useKept(`jot ${entry}`, '');
  const [made, setMade] = useState<{ id: string; title: string } | null>(null);
  const { act, busy, problem, faultOf } = useSend();
  const keep = async () => {
    const sent = await act('POST', '/api/pages', { parent, layout, title });
    if (!sent?.ok || !('id' in sent.value)) return;
    setMade({ id: sent.value.id, title });
    forget();
  };
  return (
    <form
      className="grid gap-2 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label htmlFor={id} className="text-sm text-ink-2">
        A title is enough; it becomes a draft below {above}.
      </label>
      <div className="flex gap-2">
        <input
          id={id}
          className="field min-w-0 flex-1"
          maxLength={120}
          required
          value={title}
          aria-invalid={faultOf('title') !== undefined}
          onChange={(event) => setTitle(event.target.value)}
        />
        <button type="submit" className="btn" disabled={busy}>
          Keep it
        </button>
      </div>
      <div role="status">
        {made && (
          <p className="clip text-sm">
            Kept as a draft:{' '}
            <a className="link" href={`/room/pages/${made.id}`}>
              {made.title}
            </a>
          </p>
        )}
      </div>
      <ProblemNote problem={problem} />
    </form>
  );
}
