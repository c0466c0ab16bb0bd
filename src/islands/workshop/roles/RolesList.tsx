import { useState } from 'react';
import type { Operation } from '@/core/plan';
import { slugFrom } from '@/core/content';
import { freeId } from '@/core/ids';
import { byName, fold } from '@/core/words';
import { Icon } from '../../kit/Icon';
import { Dialog, Empty, ProblemNote, Safe } from '../../kit/parts';
import { useSend } from '../../kit/useSend';
import { Archive } from './Archive';
import type { DoingWithRole, RoleRow } from './model';
import { NameDialog } from './NameDialog';
import { RoleMenu } from './RoleMenu';

export interface RolesListProps {
  roles: RoleRow[];
  revision: number;
  mayEdit: boolean;
  mayMove: boolean;
  /** Whose order names stand in. */
  language: string;
}

/** Every role with how it stands; new ones, copies, names, comparing and archiving. */
export function RolesList(props: RolesListProps) {
  return (
    <Safe>
      <List {...props} />
    </Safe>
  );
}

const SORTS = {
  name: ['Name', (a: RoleRow, b: RoleRow, language: string) => byName(a.name, b.name, language)],
  problems: ['Problems first', (a: RoleRow, b: RoleRow) => b.problems.length - a.problems.length],
  people: ['Most people first', (a: RoleRow, b: RoleRow) => b.people.length - a.people.length],
  surplus: ['More than needed first', (a: RoleRow, b: RoleRow) => b.surplus.length - a.surplus.length],
  changed: ['Not yet live first', (a: RoleRow, b: RoleRow) => Number(b.changed) - Number(a.changed)],
} as const;

function List({ roles, revision, mayEdit, mayMove, language }: RolesListProps) {
  const [typed, setTyped] = useState('');
  const [only, setOnly] = useState('');
  const [sort, setSort] = useState<keyof typeof SORTS>('name');
  const [doing, setDoing] = useState<DoingWithRole>(null);
  const { act, busy, problem, clear } = useSend();
  const words = fold(typed.trim());
  const there = roles.filter((r) => (only === 'archived') === r.archived);
  const shown = there
    .filter(
      (r) =>
        (words === '' || fold(`${r.name} ${r.purpose} ${r.people.join(' ')}`).includes(words)) &&
        (only !== 'problems' || r.problems.length > 0) &&
        (only !== 'surplus' || r.surplus.length > 0) &&
        (only !== 'changed' || r.changed) &&
        (only !== 'nobody' || r.people.length === 0),
    )
    .sort((a, b) => SORTS[sort][1](a, b, language) || SORTS.name[1](a, b, language));
  const prepare = async (to: string, ...operations: Operation[]) => {
    const sent = await act('POST', '/api/workshop/plan', { revision, operations });
    if (sent?.ok) location.assign(to);
  };
  const close = () => {
    setDoing(null);
    clear();
  };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <div className="min-w-[12rem] flex-1">
          <label className="label" htmlFor="roles-find">
            Find a role
          </label>
          <input
            id="roles-find"
            className="field"
            placeholder="Name, purpose or person"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </div>
        <div>
          <label className="label" htmlFor="roles-only">
            Show
          </label>
          <select id="roles-only" className="field" value={only} onChange={(event) => setOnly(event.target.value)}>
            <option value="">all roles</option>
            <option value="problems">with problems</option>
            <option value="surplus">that may do more than they need</option>
            <option value="changed">not yet live</option>
            <option value="nobody">nobody holds</option>
            <option value="archived">archived</option>
          </select>
        </div>
        <div>
          <label className="label" htmlFor="roles-sort">
            In order of
          </label>
          <select
            id="roles-sort"
            className="field"
            value={sort}
            onChange={(event) => setSort(event.target.value as keyof typeof SORTS)}
          >
            {Object.entries(SORTS).map(([id, [name]]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </div>
        {mayEdit && (
          <button
            type="button"
            className="btn btn-main"
            data-anchor="workshop.roles.new"
            onClick={() => setDoing({ kind: 'new', like: '' })}
          >
            <Icon name="plus" size={16} /> New role
          </button>
        )}
      </div>
      <p className="text-sm text-ink-2" role="status">
        {shown.length === there.length
          ? `${there.length} ${there.length === 1 ? 'role' : 'roles'}`
          : `${shown.length} of ${there.length} roles`}
      </p>
      {shown.length === 0 ? (
        <div className="card" data-anchor="workshop.roles.list">
          <Empty icon="search" title="No role fits">
            {only === 'archived' ? 'Nothing is archived.' : 'Change what you typed, or show all roles.'}
          </Empty>
        </div>
      ) : (
        <ul className="card divide-y divide-line p-0" data-anchor="workshop.roles.list" aria-label="Roles">
          {shown.map((role) => (
            <li
              key={role.id}
              className="grid items-center gap-x-4 gap-y-1 px-4 py-1.5 md:grid-cols-[minmax(0,1fr)_7.5rem_5.6rem_5.4rem_auto]"
            >
              <div className="min-w-0">
                <p className="flex flex-wrap items-center gap-2">
                  {role.archived ? (
                    <span className="clip font-head text-[1.05rem] font-semibold text-ink-2">{role.name}</span>
                  ) : (
                    <a className="link clip font-head text-[1.05rem]" href={`/workshop/roles/${role.id}/tasks`}>
                      {role.name}
                    </a>
                  )}
                  {role.changed && <span className="pill pill-sun">not yet live</span>}
                  {role.archived && (
                    <span className="pill pill-plain">
                      <Icon name="archive" size={13} /> archived
                    </span>
                  )}
                </p>
                <p dir="auto" className="line-clamp-2 text-left text-sm text-ink-2" title={role.purpose}>
                  {role.purpose}
                </p>
              </div>
              <p className="line-clamp-2 text-sm text-ink-2" title={role.people.join(', ')}>
                {role.people.length === 0
                  ? 'nobody'
                  : role.people.length > 2
                    ? `${role.people.length} people`
                    : role.people.join(', ')}
              </p>
              <p className="text-sm leading-tight">
                <strong className={role.tasksThatCan < role.tasks ? 'text-brick' : ''}>
                  {role.tasksThatCan}/{role.tasks}
                </strong>{' '}
                <span className="text-ink-2">tasks can be done</span>
              </p>
              <p className="text-sm leading-tight" title={role.surplus.join('; ')}>
                <strong className={role.surplus.length > 0 ? 'text-sun-ink' : ''}>{role.surplus.length}</strong>{' '}
                <span className="text-ink-2">more than needed</span>
              </p>
              <div className="flex flex-wrap items-center justify-end gap-1">
                {!role.archived && (
                  <>
                    <a className="btn btn-small" href={`/workshop/roles/${role.id}/tasks`}>
                      Prepare<span className="sr-only"> the room of {role.name}</span>
                    </a>
                    <RoleMenu label={`More for ${role.name}`}>
                      <button type="button" onClick={() => setDoing({ kind: 'compare', role })}>
                        Compare with another
                      </button>
                      {mayEdit && role.id !== 'keyholder' && (
                        <button type="button" onClick={() => setDoing({ kind: 'new', like: role.id })}>
                          Make a copy
                        </button>
                      )}
                      {mayEdit && (
                        <button type="button" onClick={() => setDoing({ kind: 'name', role })}>
                          Name and purpose
                        </button>
                      )}
                      {mayEdit && role.id !== 'keyholder' && (
                        <button type="button" onClick={() => setDoing({ kind: 'archive', role })}>
                          Archive
                        </button>
                      )}
                    </RoleMenu>
                  </>
                )}
                {role.archived && mayEdit && (
                  <button
                    type="button"
                    className="btn btn-small"
                    disabled={busy}
                    onClick={() => void prepare('/workshop', { do: 'archive-role', role: role.id, archived: false })}
                  >
                    Bring back<span className="sr-only"> {role.name}</span>
                  </button>
                )}
              </div>
              {role.problems.length > 0 && (
                <p
                  className="flex items-start gap-1.5 text-sm text-brick md:col-span-full"
                  title={role.problems.join(' ')}
                >
                  <Icon name="warn" size={15} className="mt-0.5" />{' '}
                  <span className="clip">
                    {role.problems[0]}
                    {role.problems.length > 1 && ` And ${role.problems.length - 1} more.`}
                  </span>
                </p>
              )}
            </li>
          ))}
        </ul>
      )}
      {(doing?.kind === 'new' || doing?.kind === 'name') && (
        <NameDialog
          doing={doing}
          roles={roles}
          busy={busy}
          problem={<ProblemNote problem={problem} />}
          onClose={close}
          onKeep={(name, purpose, like) => {
            if (doing.kind === 'name')
              return void prepare('/workshop', { do: 'name-role', role: doing.role.id, name, purpose });
            const id = freeId(roles, slugFrom(name) || 'role');
            void prepare(`/workshop/roles/${id}/tasks`, {
              do: 'add-role',
              role: id,
              name,
              purpose,
              ...(like && { like }),
            });
          }}
        />
      )}
      {doing?.kind === 'compare' && (
        <Dialog open onClose={close} title={`Compare ${doing.role.name} with…`}>
          <ul className="grid max-h-[60vh] gap-1 overflow-y-auto">
            {roles
              .filter((r) => r.id !== doing.role.id && !r.archived)
              .map((r) => (
                <li key={r.id}>
                  <a
                    className="link clip block rounded-s px-2 py-1.5 hover:bg-pine-soft"
                    href={`/workshop/compare?a=${doing.role.id}&b=${r.id}`}
                  >
                    {r.name}
                  </a>
                </li>
              ))}
          </ul>
        </Dialog>
      )}
      {doing?.kind === 'archive' && (
        <Archive
          role={doing.role}
          roles={roles}
          mayMove={mayMove}
          busy={busy}
          problem={<ProblemNote problem={problem} />}
          onClose={close}
          onMove={(to) => act('POST', '/api/people/move', { from: doing.role.id, to })}
          onArchive={() => void prepare('/workshop', { do: 'archive-role', role: doing.role.id, archived: true })}
        />
      )}
    </div>
  );
}
