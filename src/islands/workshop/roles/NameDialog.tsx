import { useState, type ReactNode } from 'react';
import { Dialog, Labelled } from '../../kit/parts';
import type { DoingWithRole, RoleRow } from './model';

/** Asks for a role's name and purpose. */
export function NameDialog({
  doing,
  roles,
  busy,
  problem,
  onKeep,
  onClose,
}: {
  doing: Extract<DoingWithRole, { kind: 'new' | 'name' }>;
  roles: RoleRow[];
  busy: boolean;
  problem: ReactNode;
  onKeep: (name: string, purpose: string, like: string) => void;
  onClose: () => void;
}) {
  const old = doing.kind === 'name' ? doing.role : roles.find((r) => r.id === doing.like);
  const [name, setName] = useState(doing.kind === 'name' ? doing.role.name : old ? `${old.name}, copy` : '');
  const [purpose, setPurpose] = useState(old?.purpose ?? '');
  const [like, setLike] = useState(doing.kind === 'new' ? doing.like : '');
  const twin = roles.find(
    (r) =>
      r.name.trim().toLowerCase() === name.trim().toLowerCase() && !(doing.kind === 'name' && r.id === doing.role.id),
  );
  return (
    <Dialog open onClose={onClose} title={doing.kind === 'name' ? 'Name and purpose' : 'A new role'}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() && !twin) onKeep(name.trim(), purpose.trim(), like);
        }}
      >
        {problem}
        <Labelled
          label="Name"
          hint="As the people who hold it would say it themselves: Front desk."
          fault={twin ? 'There is a role of this name already.' : undefined}
        >
          {(ids) => (
            <input
              {...ids}
              className="field"
              autoFocus
              required
              maxLength={80}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          )}
        </Labelled>
        <Labelled label="What it is for">
          {(ids) => (
            <textarea
              {...ids}
              className="field"
              rows={2}
              maxLength={400}
              value={purpose}
              onChange={(event) => setPurpose(event.target.value)}
            />
          )}
        </Labelled>
        {doing.kind === 'new' && (
          <Labelled label="Begin with" hint="A copy stands on its own: later changes to the first do not reach it.">
            {(ids) => (
              <select {...ids} className="field" value={like} onChange={(event) => setLike(event.target.value)}>
                <option value="">an empty room</option>
                {roles
                  .filter((r) => r.id !== 'keyholder' && !r.archived)
                  .map((r) => (
                    <option key={r.id} value={r.id}>
                      a copy of {r.name}
                    </option>
                  ))}
              </select>
            )}
          </Labelled>
        )}
        <button
          type="submit"
          className="btn btn-main justify-self-start"
          disabled={busy || !name.trim() || twin !== undefined}
        >
          {doing.kind === 'name' ? 'Change name and purpose' : 'Make the role'}
        </button>
      </form>
    </Dialog>
  );
}
