import { useState } from 'react';
import type { GivenAssignment, ManyRow } from '@/core/wire';
import { fold } from '@/core/words';
import { Icon } from '../kit/Icon';
import { Dialog, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { AssignmentFields } from './Assignments';
import { OutcomeTable } from './OutcomeTable';
import type { RoleChoice } from './model';

export type ManyKind = 'give' | 'take' | 'pause' | 'resume';
export interface SomePerson {
  id: string;
  name: string;
  /** What tells them from others of that name. */ detail: string;
}

const TITLE: Record<ManyKind, (who: string) => string> = {
  give: (who) => `Give ${who} a role`,
  take: (who) => `Take a role from ${who}`,
  pause: (who) => `Pause ${who}`,
  resume: (who) => `Let ${who} work again`,
};
const people = (n: number) => (n === 1 ? 'one person' : `${n} people`);

/**
 * The same change for several people: what, what it would do to each, then doing it. `role` is fixed where one is being
 * prepared; then the people are chosen here.
 */
export function ManyDialog({
  kind,
  everybody,
  chosen: first,
  role,
  roles,
  onClose,
}: {
  kind: ManyKind;
  everybody: readonly SomePerson[];
  chosen: readonly string[];
  role?: RoleChoice;
  roles: readonly RoleChoice[];
  onClose: (changed: boolean) => void;
}) {
  const { act, busy, problem, faultOf, clear } = useSend();
  const [chosen, setChosen] = useState<readonly string[]>(first);
  const [given, setGiven] = useState<GivenAssignment>({ role: role?.id ?? '' });
  const [told, setTold] = useState<{ rows: ManyRow[]; done: boolean; trial?: true } | null>(null);
  const change =
    kind === 'give' ? { do: kind, assignment: given } : kind === 'take' ? { do: kind, role: given.role } : { do: kind };
  const isSaid = kind === 'pause' || kind === 'resume' || given.role !== '';
  const run = async (confirm: boolean) => {
    const sent = await act('POST', '/api/people/many', { people: chosen.map(Number), change, confirm });
    if (sent?.ok) setTold({ ...sent.value, ...(sent.value.trial && { trial: true as const }) });
  };
  const changed = told?.rows.filter((row) => row.outcome === 'done').length ?? 0;
  const left = told?.rows.filter((row) => row.outcome === 'fault').length ?? 0;
  const who =
    chosen.length === 1 ? (everybody.find((p) => p.id === chosen[0])?.name ?? 'one person') : people(chosen.length);
  return (
    <Dialog
      open
      wide
      onClose={() => onClose(told?.done ?? false)}
      title={role ? `Give “${role.name}” to people` : TITLE[kind](who)}
    >
      <div className="grid gap-4">
        <ProblemNote problem={problem} />
        {told === null ? (
          <form
            className="grid gap-4"
            onSubmit={(event) => {
              event.preventDefault();
              void run(false);
            }}
          >
            {role && (
              <Choose
                everybody={everybody}
                chosen={chosen}
                onChange={(ids) => {
                  setChosen(ids);
                  clear();
                }}
              />
            )}
            {kind === 'give' && (
              <AssignmentFields id="many" value={given} roles={roles} fixedRole={role} onChange={setGiven} />
            )}
            {kind === 'take' && (
              <div>
                <label className="label" htmlFor="many-role">
                  Role
                </label>
                <select
                  id="many-role"
                  className="field"
                  required
                  value={given.role}
                  onChange={(event) => setGiven({ role: event.target.value })}
                >
                  <option value="">Which role?</option>
                  {roles.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                      {one.archived ? ' (archived)' : ''}
                    </option>
                  ))}
                </select>
                <p className="hint mt-1">On every part of the site, and for all times.</p>
              </div>
            )}
            {faultOf('people') && <p className="font-semibold text-brick">{faultOf('people')}</p>}
            <button
              type="submit"
              className="btn btn-main justify-self-start"
              disabled={busy || !isSaid || chosen.length === 0}
            >
              {busy ? 'Working…' : 'Show what would happen'}
            </button>
          </form>
        ) : (
          <>
            <OutcomeTable
              label="What would happen, person by person"
              head={['Who', '', told.done && !told.trial ? 'What happened' : 'What would happen']}
              rows={told.rows.map((row) => ({ key: row.id, who: row.name, outcome: row.outcome, says: row.says }))}
            />
            <div className="flex flex-wrap items-center gap-3" role="status">
              {told.done ? (
                <>
                  <button type="button" className="btn btn-main" onClick={() => onClose(true)}>
                    Close
                  </button>
                  <span className="text-ink-2">
                    {told.trial
                      ? 'This is a trial: in the real room it would be done now. Nothing was kept.'
                      : `Done for ${people(changed)}.${left > 0 ? ` ${left === 1 ? 'One was' : `${left} were`} left out.` : ''}`}
                  </span>
                </>
              ) : (
                <>
                  <button
                    type="button"
                    className={`btn ${kind === 'pause' || kind === 'take' ? 'btn-stop' : 'btn-main'}`}
                    disabled={busy || changed === 0}
                    onClick={() => void run(true)}
                  >
                    {busy ? 'Working…' : `Do it for ${people(changed)}`}
                  </button>
                  <button
                    type="button"
                    className="btn"
                    disabled={busy}
                    onClick={() => {
                      setTold(null);
                      clear();
                    }}
                  >
                    Back
                  </button>
                  <span className="text-ink-2">
                    {changed === 0
                      ? 'There is nothing to do.'
                      : left > 0
                        ? `${left === 1 ? 'One is' : `${left} are`} left out, for the reason said.`
                        : 'Nothing has happened yet.'}
                  </span>
                </>
              )}
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}

/** Chooses any number of people from a list that can be narrowed by typing. */
function Choose({
  everybody,
  chosen,
  onChange,
}: {
  everybody: readonly SomePerson[];
  chosen: readonly string[];
  onChange: (ids: string[]) => void;
}) {
  const [typed, setTyped] = useState('');
  const words = fold(typed.trim());
  const shown = everybody.filter((p) => fold(`${p.name} ${p.detail}`).includes(words));
  return (
    <fieldset className="grid gap-2">
      <legend className="label">To whom</legend>
      <input
        className="field"
        aria-label="Find somebody"
        placeholder="Find somebody by name"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <ul className="grid max-h-48 gap-0.5 overflow-y-auto rounded-s border border-line p-1.5" aria-label="People">
        {shown.map((p) => (
          <li key={p.id}>
            <label className="flex items-start gap-2 rounded-s px-1.5 py-1 hover:bg-pine-soft">
              <input
                type="checkbox"
                className="mt-1"
                checked={chosen.includes(p.id)}
                onChange={(event) =>
                  onChange(event.target.checked ? [...chosen, p.id] : chosen.filter((id) => id !== p.id))
                }
              />
              <span className="clip">
                {p.name} <span className="text-ink-2">{p.detail}</span>
              </span>
            </label>
          </li>
        ))}
        {shown.length === 0 && (
          <li className="px-2 py-1 text-ink-2">
            <Icon name="search" size={14} /> Nobody fits.
          </li>
        )}
      </ul>
      <p className="text-sm text-ink-2" role="status">
        {chosen.length === 0 ? 'Nobody is chosen yet.' : `${people(chosen.length)} chosen.`}
      </p>
    </fieldset>
  );
}
