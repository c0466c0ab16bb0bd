import { useState } from 'react';
import type { ImportedLink, ImportRow } from '@/core/wire';
import { FilePick } from '../kit/FilePick';
import { Icon } from '../kit/Icon';
import { Confirm, Dialog, Labelled, ProblemNote } from '../kit/parts';
import { useSend } from '../kit/useSend';
import { Assignments } from './Assignments';
import { OutcomeTable } from './OutcomeTable';
import type { GivenAssignment, PersonRow, RoleChoice } from './model';

const TRIAL = 'This is a trial: in the real room it would be done now. Nothing was kept.';

/** A one-time link, to be handed over: it is shown instead of mailed. */
export function LinkShown({ name, link, until }: { name: string; link: string; until: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <div className="grid gap-3" role="status">
      <p>
        Hand this link to {name}. It works once, until {until}. With it they choose their own password; you never learn
        it.
      </p>
      <div className="flex flex-wrap gap-2">
        <input
          readOnly
          aria-label="One-time link"
          className="field flex-1 font-mono text-sm"
          value={link}
          onFocus={(event) => event.currentTarget.select()}
        />
        <button
          type="button"
          className="btn"
          onClick={() =>
            void navigator.clipboard.writeText(link).then(
              () => setCopied(true),
              () => undefined,
            )
          }
        >
          <Icon name={copied ? 'check' : 'copy'} size={16} /> {copied ? 'Copied' : 'Copy'}
        </button>
      </div>
      <p className="text-sm text-ink-2">
        It is shown only now. If it gets lost, make a new one: the old one ends with it.
      </p>
    </div>
  );
}

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
  const [link, setLink] = useState<{ link: string; until: string } | null>(null);
  const first = person.name.split(' ')[0] ?? person.name;
  const done = (sent: { ok: boolean } | null) => {
    if (sent?.ok) onClose(true);
  };
  const paused = person.state === 'paused';
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
          void act('PUT', `/api/people/${person.id}/assignments`, { before: person.given, after }).then(done);
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

/** The links of everybody who came new from a file: to be copied or kept as a table, now or never. */
function LinksShown({ lines, links }: { lines: number; links: readonly ImportedLink[] }) {
  const [copied, setCopied] = useState(false);
  const table = [
    ['name', 'email', 'link', 'works until'],
    ...links.map((row) => [row.name, row.email, row.link, row.until]),
  ]
    .map((cells) => cells.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(','))
    .join('\r\n');
  return (
    <div className="grid gap-3" role="status">
      <p>
        {lines === 1 ? 'The line is done.' : `All ${lines} lines are done.`}{' '}
        {links.length > 0 &&
          'Hand each person their link. They are shown only now; whoever loses theirs gets a new one from you.'}
      </p>
      {links.length > 0 && (
        <>
          <ul className="grid max-h-[45vh] gap-1.5 overflow-auto" aria-label="One-time links" tabIndex={0}>
            {links.map((row) => (
              <li key={row.email} className="rounded-s border border-line px-3 py-2">
                <p className="clip">
                  <strong>{row.name}</strong>{' '}
                  <span className="text-ink-2">
                    {row.email}, until {row.until}
                  </span>
                </p>
                <p className="clip font-mono text-sm select-all">{row.link}</p>
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="btn"
              onClick={() =>
                void navigator.clipboard.writeText(table).then(
                  () => setCopied(true),
                  () => undefined,
                )
              }
            >
              <Icon name={copied ? 'check' : 'copy'} size={16} /> {copied ? 'Copied' : 'Copy all'}
            </button>
            <a className="btn" download="links.csv" href={`data:text/csv;charset=utf-8,${encodeURIComponent(table)}`}>
              Keep as CSV
            </a>
          </div>
        </>
      )}
    </div>
  );
}

export function ImportDialog({ onClose }: { onClose: (changed: boolean) => void }) {
  const { act, busy, problem, clear } = useSend();
  const [csv, setCsv] = useState('');
  const [rows, setRows] = useState<ImportRow[] | null>(null);
  const [done, setDone] = useState<{ lines: number; links: ImportedLink[]; trial: boolean } | null>(null);
  const faults = rows?.filter((r) => r.outcome === 'fault').length ?? 0;
  const work = rows?.filter((r) => r.outcome === 'new' || r.outcome === 'more').length ?? 0;
  const run = async (confirm: boolean) => {
    const sent = await act('POST', '/api/people/import', { csv, confirm });
    if (sent?.ok && sent.value.done)
      setDone({
        lines: sent.value.rows.length,
        links: sent.value.trial ? [] : sent.value.links,
        trial: sent.value.trial ?? false,
      });
    else if (sent?.ok) setRows(sent.value.rows);
  };
  if (done)
    return (
      <Dialog
        open
        wide
        onClose={() => onClose(true)}
        title={
          done.trial
            ? 'A trial'
            : done.links.length === 1
              ? 'One person is invited'
              : `${done.links.length} people are invited`
        }
      >
        {done.trial ? <p>{TRIAL}</p> : <LinksShown lines={done.lines} links={done.links} />}
      </Dialog>
    );
  return (
    <Dialog open wide onClose={() => onClose(false)} title="Read people from a file">
      <div className="grid gap-4">
        <ProblemNote problem={problem} />
        <FilePick
          label="A CSV file"
          hint="First line: name,email,role,branch,from,until. One line for each role of a person; the branch by its address, like /harbours; days like 2026-11-25."
          accept=".csv,text/csv"
          text={csv}
          rows={5}
          onText={(text) => {
            setCsv(text);
            setRows(null);
            clear();
          }}
        />
        {rows === null ? (
          <button
            type="button"
            className="btn btn-main justify-self-start"
            disabled={busy || csv.trim() === ''}
            onClick={() => void run(false)}
          >
            {busy ? 'Reading…' : 'Show what would happen'}
          </button>
        ) : (
          <>
            <OutcomeTable
              label="What would happen, line by line"
              head={['Line', 'Who', '', 'What would happen']}
              fault="fault"
              rows={rows.map((row, i) => ({
                key: String(i),
                line: row.line,
                who: row.name,
                detail: row.email,
                outcome: row.outcome,
                says: row.says,
              }))}
            />
            <div className="flex flex-wrap items-center gap-3" role="status">
              <button
                type="button"
                className="btn btn-main"
                disabled={busy || faults > 0 || work === 0}
                onClick={() => void run(true)}
              >
                {busy ? 'Working…' : `Do it for ${work} ${work === 1 ? 'line' : 'lines'}`}
              </button>
              <span className="text-ink-2">
                {faults > 0
                  ? `${faults} ${faults === 1 ? 'line has a fault' : 'lines have faults'}: mend the file first. Nobody was added.`
                  : work === 0
                    ? 'There is nothing to do.'
                    : 'Each new person gets a one-time link, shown to you afterwards.'}
              </span>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
