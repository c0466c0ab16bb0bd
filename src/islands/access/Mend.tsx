import { useState } from 'react';
import type { Operation } from '@/core/plan';
import { Icon } from '../kit/Icon';
import { ProblemNote, Safe } from '../kit/parts';
import { useSend } from '../kit/useSend';

export interface RemedyRow {
  steps: string[];
  alsoFor: string[];
  prepare: { role: string; operations: Operation[] } | null;
  elsewhere: string | null;
}

/** The least changes that would allow something, each with whom else it reaches and one press that prepares it. */
export function Mend(props: { remedies: RemedyRow[]; revision: number; mayEdit: boolean }) {
  return (
    <Safe>
      <Cards {...props} />
    </Safe>
  );
}

function Cards({ remedies, revision, mayEdit }: { remedies: RemedyRow[]; revision: number; mayEdit: boolean }) {
  const { act, busy, problem } = useSend();
  const [done, setDone] = useState<number | null>(null);
  const prepare = async (at: number, { role, operations }: NonNullable<RemedyRow['prepare']>) => {
    const sent = await act('POST', '/api/workshop/plan', { revision, role, operations });
    if (sent?.ok) setDone(at);
  };
  return (
    <div className="grid gap-3">
      <ProblemNote problem={problem} />
      {remedies.map((remedy, i) => (
        <article key={i} className="card grid gap-2" aria-label={i === 0 ? 'The least change' : `Another way, ${i}`}>
          <p className="text-sm font-semibold text-ink-2">{i === 0 ? 'The least change' : 'Or'}</p>
          <ul className="clip">
            {remedy.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ul>
          {remedy.prepare && (
            <p className="clip text-sm text-ink-2">
              {remedy.alsoFor.length === 0
                ? 'It counts for nobody else.'
                : `It would count for ${remedy.alsoFor.length > 5 ? `${remedy.alsoFor.length} others` : remedy.alsoFor.join(', ')}, too.`}
            </p>
          )}
          {remedy.prepare && mayEdit && done === null && (
            <button
              type="button"
              className="btn btn-main justify-self-start"
              disabled={busy}
              onClick={() => remedy.prepare && void prepare(i, remedy.prepare)}
            >
              Prepare this
            </button>
          )}
          {remedy.prepare && done === i && (
            <p role="status" className="note note-pine flex flex-wrap items-center gap-3">
              <Icon name="check" size={16} /> It is prepared; nobody has it before you go live.
              <a className="link underline" href={`/workshop/roles/${remedy.prepare.role}/access`}>
                See the room
              </a>
              <a className="link underline" href="/workshop/release">
                Review and go live
              </a>
            </p>
          )}
          {remedy.elsewhere && (
            <a className="btn btn-small justify-self-start" href={remedy.elsewhere}>
              Change it under People
            </a>
          )}
        </article>
      ))}
    </div>
  );
}
