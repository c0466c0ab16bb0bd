import { useState, type ReactNode } from 'react';
import { Confirm, Dialog, Labelled } from '../../kit/parts';
import type { RoleRow } from './model';

/** Archives a role nobody holds; before that, offers to give its holders another one. */
export function Archive({
  role,
  roles,
  mayMove,
  busy,
  problem,
  onMove,
  onArchive,
  onClose,
}: {
  role: RoleRow;
  roles: RoleRow[];
  mayMove: boolean;
  busy: boolean;
  problem: ReactNode;
  onMove: (to: string) => Promise<{ ok: boolean } | null>;
  onArchive: () => void;
  onClose: () => void;
}) {
  const [people, setPeople] = useState(role.people);
  const [to, setTo] = useState('');
  if (role.under.length > 0)
    return (
      <Dialog open onClose={onClose} title={`${role.name} is built on`}>
        <p>
          {role.under.join(', ')} {role.under.length === 1 ? 'builds' : 'build'} on it: let{' '}
          {role.under.length === 1 ? 'that role' : 'those roles'} stand on their own first, under Access.
        </p>
      </Dialog>
    );
  if (people.length === 0)
    return (
      <Confirm open title={`Archive ${role.name}?`} yes="Archive it" busy={busy} onYes={onArchive} onNo={onClose}>
        {problem}
        <p>Nobody holds it. It goes out of the lists when you go live; you can bring it back whenever you like.</p>
      </Confirm>
    );
  return (
    <Dialog open onClose={onClose} title={`${role.name} is still held`}>
      <div className="grid gap-4">
        {problem}
        <p>
          {people.length === 1
            ? `${people[0]} holds it.`
            : `${people.length} people hold it: ${people.slice(0, 8).join(', ')}${people.length > 8 ? '…' : ''}.`}{' '}
          A role can be archived when nobody holds it.
        </p>
        {mayMove ? (
          <>
            <Labelled
              label="Give them another role instead"
              hint="Branch and dates stay. This counts at once, for all of them together."
            >
              {(ids) => (
                <select {...ids} className="field" value={to} onChange={(event) => setTo(event.target.value)}>
                  <option value="">Which role?</option>
                  {roles
                    .filter((r) => r.id !== role.id && !r.archived && r.id !== 'keyholder')
                    .map((r) => (
                      <option key={r.id} value={r.id}>
                        {r.name}
                      </option>
                    ))}
                </select>
              )}
            </Labelled>
            <button
              type="button"
              className="btn btn-main justify-self-start"
              disabled={busy || to === ''}
              onClick={() =>
                void onMove(to).then((sent) => {
                  if (sent?.ok) setPeople([]);
                })
              }
            >
              Move {people.length === 1 ? 'this person' : `these ${people.length}`}
            </button>
          </>
        ) : (
          <p>Ask somebody who may give people roles to change that first.</p>
        )}
      </div>
    </Dialog>
  );
}
