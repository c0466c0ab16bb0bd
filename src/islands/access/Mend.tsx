import { useState } from 'react';
import type { Operation } from '@/core/plan';
import { ProblemNote, Safe } from '../kit/parts';
import { useSend } from '../kit/useSend';

export interface RemedyRow {
  steps: string[];
  alsoFor: string[];
  besides: string[];
  prepare: { role: string; operations: Operation[] } | null;
  elsewhere: string | null;
}

/**
 * The least changes that would allow something, each with whom else it reaches, what else it gives away, and one press
 * that prepares it. Then the whole question is asked again, of the plan as it is prepared.
 */
export function Mend(props: { remedies: RemedyRow[]; revision: number; mayEdit: boolean }) {
  return (
    <Safe>
      <Cards {...props} />
    </Safe>
  );
}

function Cards({ remedies, revision, mayEdit }: { remedies: RemedyRow[]; revision: number; mayEdit: boolean }) {
  const { act, busy, problem } = useSend();
  const [isDone, setDone] = useState(false);
  const prepare = async ({ role, operations }: NonNullable<RemedyRow['prepare']>) => {
    const sent = await act('POST', '/api/workshop/plan', { revision, role, operations });
    if (!sent?.ok) return;
    setDone(true);
    const next = new URLSearchParams(location.search);
    next.set('plan', 'prepared');
    next.set('mended', role);
    location.assign(`${location.pathname}?${next.toString()}`);
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
          {remedy.besides.length > 0 && (
            <div className="text-sm">
              <p className="text-ink-2">They would have with it:</p>
              <ul className="clip ml-5 list-disc">
                {remedy.besides.map((gain) => (
                  <li key={gain}>{gain}</li>
                ))}
              </ul>
            </div>
          )}
          {remedy.prepare && mayEdit && (
            <button
              type="button"
              className="btn btn-main justify-self-start"
              disabled={busy || isDone}
              onClick={() => remedy.prepare && void prepare(remedy.prepare)}
            >
              Prepare this
            </button>
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
