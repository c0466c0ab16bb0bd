import { useState } from 'react';
import type { GivenAssignment } from '@/core/wire';
import { Dialog, Labelled, ProblemNote, TRIAL } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { Assignments } from './Assignments';
import type { RoleChoice } from './model';

import { LinkShown } from './LinkShown';

export function InviteDialog({ roles, onClose }: { roles: RoleChoice[]; onClose: (changed: boolean) => void }) {
  const { act, busy, problem, faultOf } = useSend();
  const [given, setGiven] = useState<{ name: string; email: string; assignments: GivenAssignment[] }>({
    name: '',
    email: '',
    assignments: [{ role: '' }],
  });
  const [made, setMade] = useState<{ link?: string; until?: string; trial?: true } | null>(null);
  if (made)
    return (
      <Dialog open onClose={() => onClose(true)} title={`${given.name} is invited`}>
        {made.trial ? <p>{TRIAL}</p> : <LinkShown name={given.name} link={made.link ?? ''} until={made.until ?? ''} />}
      </Dialog>
    );
  return (
    <Dialog open wide onClose={() => onClose(false)} title="Invite somebody">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void act('POST', '/api/people', given).then((sent) => {
            if (sent?.ok) setMade(sent.value);
          });
        }}
      >
        <ProblemNote problem={problem} />
        <div className="grid gap-3 md:grid-cols-2">
          <Labelled label="Name" fault={faultOf('name')}>
            {(ids) => (
              <input
                {...ids}
                className="field"
                required
                autoFocus
                maxLength={300}
                value={given.name}
                onChange={(event) => setGiven({ ...given, name: event.target.value })}
              />
            )}
          </Labelled>
          <Labelled label="Mail address" hint="They sign in with it." fault={faultOf('email')}>
            {(ids) => (
              <input
                {...ids}
                type="email"
                className="field"
                required
                maxLength={300}
                value={given.email}
                onChange={(event) => setGiven({ ...given, email: event.target.value })}
              />
            )}
          </Labelled>
        </div>
        <Assignments
          field="assignments"
          value={given.assignments}
          roles={roles}
          faultOf={faultOf}
          onChange={(assignments) => setGiven({ ...given, assignments })}
        />
        <button type="submit" className="btn btn-main justify-self-start" disabled={busy}>
          Invite and show the link
        </button>
      </form>
    </Dialog>
  );
}
