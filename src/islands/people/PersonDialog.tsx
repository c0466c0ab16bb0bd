import { KEYHOLDER } from '@/core/plan';
import { useState } from 'react';
import { Icon } from '../kit/Icon';
import { Confirm, Dialog, Labelled, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { Assignments } from './Assignments';
import type { PersonRow, RoleChoice } from './model';

import { LinkShown } from './LinkShown';

export function PersonDialog({
  person,
  roles,
  onClose,
}: {
  person: PersonRow;
  roles: RoleChoice[];
  onClose: (changed: boolean) => void;
}) {
  const { act, busy, problem, faultOf } = useSend();
  const [after, setAfter] = useState(person.given);
  const [asking, setAsking] = useState(false);
  const [trusting, setTrusting] = useState(false);
  const [link, setLink] = useState<{ link: string; until: string } | null>(null);
  const first = person.name.split(' ')[0] ?? person.name;
  const done = (sent: { ok: boolean } | null) => {
    if (sent?.ok) onClose(true);
  };
  const paused = person.state === 'paused';
  const isKeyholder = (given: typeof after) => given.some(({ role }) => role === KEYHOLDER);
  const keep = () =>
    void act('PUT', `/api/people/${person.id}/assignments`, { before: person.given, after }).then((sent) => {
      setTrusting(false);
      done(sent);
    });
  if (link !== null)
    return (
      <Dialog open onClose={() => onClose(true)} title={`A new link for ${person.name}`}>
        <LinkShown name={first} {...link} />
      </Dialog>
    );
  return (
    <Dialog open wide onClose={() => onClose(false)} title={person.name}>
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (isKeyholder(after) && !isKeyholder(person.given)) setTrusting(true);
          else keep();
        }}
      >
        <ProblemNote problem={problem} />
        <Details person={person} onKept={() => onClose(true)} />
        <p className="text-ink-2">
          {person.state === 'invited'
            ? 'Invited, has not chosen a password yet.'
            : person.lastSeen === 'never'
              ? 'Has never signed in.'
              : `Last seen ${person.lastSeen}.`}
        </p>
        <Assignments field="after" value={after} roles={roles} faultOf={faultOf} onChange={setAfter} />
        <div className="flex flex-wrap gap-2 border-t border-line pt-4">
          <button
            type="submit"
            className="btn btn-main"
            disabled={busy || JSON.stringify(after) === JSON.stringify(person.given)}
          >
            Keep these roles
          </button>
          <span className="flex-1" />
          {!paused && (
            <button
              type="button"
              className="btn"
              disabled={busy}
              onClick={() =>
                void act('POST', `/api/people/${person.id}/link`).then((sent) => {
                  if (sent?.ok && !sent.value.trial) setLink(sent.value);
                })
              }
            >
              New sign-in link
            </button>
          )}
          {!person.isMe &&
            (paused ? (
              <button
                type="button"
                className="btn"
                disabled={busy}
                onClick={() => void act('POST', `/api/people/${person.id}/pause`, { paused: false }).then(done)}
              >
                Let {first} work again
              </button>
            ) : (
              <button type="button" className="btn btn-stop" disabled={busy} onClick={() => setAsking(true)}>
                Pause the account
              </button>
            ))}
        </div>
      </form>
      <Confirm
        open={trusting}
        title={`Make ${person.name} a keyholder?`}
        yes="Make a keyholder"
        busy={busy}
        onNo={() => setTrusting(false)}
        onYes={keep}
      >
        {first} can then do everything there is: change every page, prepare every room, and make others keyholders.
      </Confirm>
      <Confirm
        open={asking}
        title={`Pause ${person.name}?`}
        yes="Pause the account"
        busy={busy}
        onNo={() => setAsking(false)}
        onYes={() =>
          void act('POST', `/api/people/${person.id}/pause`, { paused: true }).then((sent) => {
            setAsking(false);
            done(sent);
          })
        }
      >
        {first} is signed out at once and can do nothing until you let them work again. What they wrote stays.
      </Confirm>
    </Dialog>
  );
}

/** Somebody's name and mail address, changed by themselves: the roles below are another matter. */
function Details({ person, onKept }: { person: PersonRow; onKept: () => void }) {
  const { act, busy, problem, faultOf } = useSend();
  const [given, setGiven] = useState<{ name: string; email: string } | null>(null);
  if (given === null)
    return (
      <p className="flex flex-wrap items-center gap-2">
        <span className="clip">{person.email}</span>
        <button
          type="button"
          className="btn btn-small btn-quiet"
          onClick={() => setGiven({ name: person.name, email: person.email })}
        >
          <Icon name="draft" size={15} /> Change name or address
        </button>
      </p>
    );
  const isSame = given.name.trim() === person.name && given.email.trim() === person.email;
  const keep = () =>
    void act('PUT', `/api/people/${person.id}/details`, {
      before: { name: person.name, email: person.email },
      name: given.name,
      email: given.email.trim(),
    }).then((sent) => {
      if (sent?.ok) onKept();
    });
  // Inside the form of the roles, which Enter would send.
  const onEnter = (event: React.KeyboardEvent) => {
    if (event.key === 'Enter') {
      event.preventDefault();
      if (!isSame) keep();
    }
  };
  return (
    <div
      role="group"
      aria-label="Name and mail address"
      className="grid gap-3 rounded-s border border-line bg-paper p-3"
      onKeyDown={onEnter}
    >
      <ProblemNote problem={problem} />
      <div className="grid gap-3 md:grid-cols-2">
        <Labelled label="Name" fault={faultOf('name')}>
          {(ids) => (
            <input
              {...ids}
              className="field"
              autoFocus
              maxLength={300}
              value={given.name}
              onChange={(event) => setGiven({ ...given, name: event.target.value })}
            />
          )}
        </Labelled>
        <Labelled
          label="Mail address"
          hint="They sign in with it from then on; both addresses are written to."
          fault={faultOf('email')}
        >
          {(ids) => (
            <input
              {...ids}
              type="email"
              className="field"
              maxLength={300}
              value={given.email}
              onChange={(event) => setGiven({ ...given, email: event.target.value })}
            />
          )}
        </Labelled>
      </div>
      <div className="flex gap-2">
        <button type="button" className="btn btn-small btn-main" disabled={busy || isSame} onClick={keep}>
          Keep name and address
        </button>
        <button type="button" className="btn btn-small" onClick={() => setGiven(null)}>
          Cancel
        </button>
      </div>
    </div>
  );
}
