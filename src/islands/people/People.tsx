import { useMemo, useState } from 'react';
import { Icon } from '../kit/Icon';
import { Empty, Safe } from '../kit/parts';
import { ImportDialog } from './ImportDialog';
import { InviteDialog } from './InviteDialog';
import { PersonDialog } from './PersonDialog';
import { ManyDialog, type ManyKind } from './Many';
import { findPeople, type PersonRow, type RoleChoice } from './model';

export interface PeopleProps {
  people: PersonRow[];
  roles: RoleChoice[];
  mayManage: boolean;
  busyKeyholders: { name: string; times: number }[];
}

/** Who can sign in, with which roles, where and until when; inviting, pausing and assigning for who may. */
export function People(props: PeopleProps) {
  return (
    <Safe>
      <List {...props} />
    </Safe>
  );
}

function List({ people, roles, mayManage, busyKeyholders }: PeopleProps) {
  const [typed, setTyped] = useState('');
  const [only, setOnly] = useState('');
  const [open, setOpen] = useState<PersonRow | 'invite' | 'import' | null>(null);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [many, setMany] = useState<ManyKind | null>(null);
  const shown = useMemo(() => findPeople(people, typed, only), [people, typed, only]);
  const soon = people.filter((p) => p.endsSoon !== null);
  // Only who is in sight counts as chosen: nobody is changed whom the list does not show.
  const marked = shown.filter((person) => chosen.includes(person.id)).map((person) => person.id);
  const close = (changed: boolean) => {
    setOpen(null);
    setMany(null);
    if (changed) location.reload();
  };
  return (
    <div className="grid min-w-0 gap-4 [&>*]:min-w-0">
      {mayManage && (soon.length > 0 || busyKeyholders.length > 0) && (
        <div className="grid gap-2">
          {soon.length > 0 && (
            <section className="note" aria-label="Ending soon">
              <strong>Ending soon: </strong>
              {soon.map((person, i) => (
                <span key={person.id}>
                  {i > 0 && ', '}
                  <button type="button" className="link underline" onClick={() => setOpen(person)}>
                    {person.name}
                  </button>{' '}
                  ({person.endsSoon})
                </span>
              ))}
              . After that they can do nothing, and nobody has to think of it.
            </section>
          )}
          {busyKeyholders.map((k) => (
            <p key={k.name} className="note">
              <strong>{k.name}</strong> did editors’ work {k.times} times in 30 days with a keyholder account, where one
              slip can reach everything. A second account with a plain role is safer for every day.
            </p>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-[12rem] flex-1" data-anchor="people.list.find">
          <label className="label" htmlFor="people-find">
            Find somebody
          </label>
          <input
            id="people-find"
            className="field"
            placeholder="Name, mail address or role"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </div>
        <div>
          <label className="label" htmlFor="people-only">
            Show
          </label>
          <select id="people-only" className="field" value={only} onChange={(event) => setOnly(event.target.value)}>
            <option value="">everybody</option>
            <option value="active">active</option>
            <option value="invited">invited</option>
            <option value="paused">paused</option>
            <option value="soon">ending soon</option>
            <option value="none">without a role</option>
          </select>
        </div>
        {mayManage && (
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="btn btn-main"
              data-anchor="people.list.invite"
              onClick={() => setOpen('invite')}
            >
              <Icon name="plus" size={16} /> Invite somebody
            </button>
            <button type="button" className="btn" data-anchor="people.list.import" onClick={() => setOpen('import')}>
              Read from a file
            </button>
            <a className="btn btn-quiet" href="/room/people/outbox">
              <Icon name="inbox" size={16} /> Outbox
            </a>
          </div>
        )}
      </div>
      <div className="flex min-h-9 flex-wrap items-center gap-2">
        <p className="text-sm text-ink-2" role="status">
          {shown.length === people.length
            ? `${people.length} ${people.length === 1 ? 'person' : 'people'}`
            : `${shown.length} of ${people.length} people`}
          {marked.length > 0 && `, ${marked.length} chosen`}
        </p>
        {marked.length > 0 && (
          <>
            <button type="button" className="btn btn-small" onClick={() => setMany('give')}>
              Give a role…
            </button>
            <button type="button" className="btn btn-small" onClick={() => setMany('take')}>
              Take a role away…
            </button>
            <button type="button" className="btn btn-small" onClick={() => setMany('pause')}>
              Pause…
            </button>
            <button type="button" className="btn btn-small" onClick={() => setMany('resume')}>
              Let work again…
            </button>
            <button type="button" className="btn btn-small btn-quiet" onClick={() => setChosen([])}>
              Choose nobody
            </button>
          </>
        )}
      </div>
      <div
        className="relative overflow-x-auto"
        data-anchor="people.list.all"
        tabIndex={0}
        role="region"
        aria-label="Who can sign in"
      >
        {shown.length === 0 ? (
          <Empty icon="search" title="Nobody fits">
            Change what you typed, or show everybody.
          </Empty>
        ) : (
          <table className="w-full min-w-[46rem] border-collapse text-left">
            <thead>
              <tr className="border-b border-line-2 text-ink-2">
                {mayManage && (
                  <th scope="col" className="w-9 py-2">
                    <input
                      type="checkbox"
                      className="size-5"
                      aria-label="Choose everybody shown"
                      checked={marked.length === shown.length}
                      ref={(box) => {
                        if (box) box.indeterminate = marked.length > 0 && marked.length < shown.length;
                      }}
                      onChange={(event) => setChosen(event.target.checked ? shown.map((person) => person.id) : [])}
                    />
                  </th>
                )}
                {['Name', 'Role', 'Where', 'How long', 'Last seen', ...(mayManage ? [''] : [])].map((head) => (
                  <th key={head} scope="col" className="py-2 pr-4 font-semibold">
                    {head || <span className="sr-only">Change</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {shown.map((person) => (
                <tr
                  key={person.id}
                  className={`border-b border-line align-top ${marked.includes(person.id) ? 'bg-pine-wash' : ''}`}
                >
                  {mayManage && (
                    <td className="py-2">
                      <input
                        type="checkbox"
                        className="size-5"
                        aria-label={`Choose ${person.name}`}
                        checked={marked.includes(person.id)}
                        onChange={(event) =>
                          setChosen(
                            event.target.checked ? [...marked, person.id] : marked.filter((id) => id !== person.id),
                          )
                        }
                      />
                    </td>
                  )}
                  <th scope="row" className="py-2 pr-4 font-semibold">
                    <span className="clip">{person.name}</span>{' '}
                    {person.isKeyholder && <span className="pill pill-sun font-normal">keyholder</span>}{' '}
                    {person.state === 'paused' && (
                      <span className="pill pill-brick">
                        <Icon name="lock" size={13} /> paused
                      </span>
                    )}{' '}
                    {person.state === 'invited' && (
                      <span className="pill pill-sky">
                        <Icon name="clock" size={13} /> invited
                      </span>
                    )}
                    <span className="clip block text-sm font-normal text-ink-2">{person.email}</span>
                  </th>
                  <td className="py-2 pr-4">
                    {person.held.length === 0 ? (
                      <span className="text-ink-2">no role</span>
                    ) : (
                      person.held.map((h, i) => (
                        <div key={i} className={`clip ${h.over ? 'text-ink-3 line-through' : ''}`}>
                          {h.role}
                        </div>
                      ))
                    )}
                  </td>
                  <td className="py-2 pr-4">
                    {person.held.map((h, i) => (
                      <div key={i} className="clip">
                        {h.where}
                      </div>
                    ))}
                  </td>
                  <td className="py-2 pr-4">
                    {person.held.map((h, i) => (
                      <div key={i}>{h.times}</div>
                    ))}
                  </td>
                  <td className="py-2 pr-4 text-ink-2">{person.lastSeen}</td>
                  {mayManage && (
                    <td className="py-2 text-right">
                      <button type="button" className="btn btn-small" onClick={() => setOpen(person)}>
                        Change<span className="sr-only"> {person.name}</span>
                      </button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      {many && (
        <ManyDialog
          kind={many}
          everybody={people.map((p) => ({ id: p.id, name: p.name, detail: p.email }))}
          chosen={marked}
          roles={roles}
          onClose={close}
        />
      )}
      {open === 'invite' && <InviteDialog roles={roles} onClose={close} />}
      {open === 'import' && <ImportDialog onClose={close} />}
      {open !== null && typeof open === 'object' && <PersonDialog person={open} roles={roles} onClose={close} />}
    </div>
  );
}
