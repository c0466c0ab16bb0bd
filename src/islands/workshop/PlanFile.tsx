import { useState } from 'react';
import type { RoleDifference } from '@/core/release';
import { FilePick } from '../kit/FilePick';
import { Icon } from '../kit/Icon';
import { ProblemNote, Safe } from '../kit/parts';
import { useSend } from '../kit/useSend';

/**
 * Brings a plan in from a file: first what would change, then, when confirmed, one change of the prepared plan that can
 * be undone.
 */
export function PlanFile() {
  return (
    <Safe>
      <Form />
    </Safe>
  );
}

function Form() {
  const [text, setText] = useState('');
  const [told, setTold] = useState<{ revision: number; differences: RoleDifference[] } | null>(null);
  const { act, busy, problem, clear } = useSend();
  const look = async () => {
    const sent = await act('POST', '/api/workshop/import', { text });
    setTold(sent?.ok && 'differences' in sent.value ? sent.value : null);
  };
  const keep = async () => {
    const sent = await act('POST', '/api/workshop/import', { text, confirm: told?.revision });
    if (sent?.ok) location.assign('/workshop/release');
  };
  return (
    <div className="card grid gap-4">
      <FilePick
        label="A plan (JSON) or a matrix of rules (CSV)"
        hint="Nothing happens yet: first you see what would change."
        accept=".json,.csv,application/json,text/csv"
        text={text}
        onText={(next) => {
          setText(next);
          setTold(null);
          clear();
        }}
      />
      <ProblemNote problem={problem}>
        {problem?.faults && (
          <ul className="mt-2 max-h-56 list-disc overflow-y-auto pl-5">
            {problem.faults.map((fault, i) => (
              <li key={i}>
                <code className="text-sm">{fault.field}</code>: {fault.message}
              </li>
            ))}
          </ul>
        )}
      </ProblemNote>
      {told === null ? (
        <button
          type="button"
          className="btn btn-main justify-self-start"
          disabled={busy || text.trim() === ''}
          onClick={() => void look()}
        >
          {busy ? 'Reading…' : 'Show what would change'}
        </button>
      ) : told.differences.length === 0 ? (
        <p className="note note-pine" role="status">
          It says what is prepared already. There is nothing to do.
        </p>
      ) : (
        <div className="grid gap-3" role="status">
          <h3>This would change in the prepared plan</h3>
          <ul className="grid max-h-[22rem] gap-2 overflow-y-auto">
            {told.differences.map((role) => (
              <li key={role.role || role.name}>
                <strong className="clip">{role.name}</strong>
                <ul>
                  {role.lines.map((line, i) => (
                    <li key={i} className="flex gap-2">
                      <Icon name="next" size={15} className="mt-1 text-pine" />
                      <span className="clip">{line}</span>
                    </li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
          <p className="text-sm text-ink-2">
            Nobody’s room changes before you go live, and one Undo takes it all back.
          </p>
          <div className="flex flex-wrap gap-2">
            <button type="button" className="btn btn-main" disabled={busy} onClick={() => void keep()}>
              Put it into the prepared plan
            </button>
            <button type="button" className="btn" onClick={() => setTold(null)}>
              Cancel
            </button>
          </div>
        </div>
      )}
    </div>
  );
}
