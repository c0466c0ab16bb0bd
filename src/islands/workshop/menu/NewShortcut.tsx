import { useState } from 'react';
import { asHref } from '@/core/content';
import type { PlanRole, Shortcut } from '@/core/plan';
import { Icon } from '../../kit/Icon';
import { PagePicker } from '../../kit/PagePicker';
import { Labelled } from '../../kit/parts';
import type { WorkshopPage } from '../model';
import { ofInventory } from '@/core/inventory';
import { useInventory } from '../../kit/inventory';

/** What a shortcut can lead to that is the same for everybody: screens of the Room, and lists with a filter. */
const placesToGo = ofInventory((inventory) => [
  ...[...inventory.screens.values()]
    .filter(({ path }) => path.startsWith('/room') && !path.includes('[') && path !== '/room')
    .map(({ path, name }) => ({ to: path, name })),
  { to: '/room/pages?view=list&state=draft', name: 'Pages with a draft' },
  { to: '/room/pages?view=list&state=waiting', name: 'Pages waiting for a second look' },
  { to: '/room/pages?view=list&links=broken', name: 'Pages with broken links' },
]);
/** One more shortcut: to a task, a page, a screen or list, or an address outside. */
export function NewShortcut({
  role,
  pages,
  onAdd,
}: {
  role: PlanRole;
  pages: readonly WorkshopPage[];
  onAdd: (one: Omit<Shortcut, 'id'>) => void;
}) {
  const inventory = useInventory();
  const [kind, setKind] = useState<'task' | 'page' | 'screen' | 'address'>('task');
  const [target, setTarget] = useState('');
  const [name, setName] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const taskName = (id: string) =>
    role.tasks.find(({ task }) => task === id)?.name ?? inventory.tasks.get(id)?.name ?? id;
  const suggested =
    kind === 'task'
      ? target && taskName(target)
      : kind === 'page'
        ? pages.find(({ id }) => id === target)?.title
        : placesToGo(inventory).find(({ to }) => to === target)?.name;
  const add = () => {
    const to =
      kind === 'task'
        ? `task:${target}`
        : kind === 'page'
          ? `page:${target}`
          : kind === 'address'
            ? asHref(target.trim())
            : target;
    const called = name.trim() || suggested || '';
    if (!target.trim()) return setFault('Choose where it leads.');
    if (kind === 'address' && !/^(https?:\/\/[^\s]+|mailto:[^\s]+|tel:[^\s]+)$/i.test(to))
      return setFault('An address outside begins with https://, mailto: or tel:.');
    if (!called) return setFault('Say what it is called.');
    onAdd({ name: called.slice(0, 60), to });
    setFault(null);
    setTarget('');
    return setName('');
  };
  return (
    <form
      className="grid items-end gap-3 md:grid-cols-[10rem_minmax(0,1fr)_minmax(0,1fr)_auto]"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Labelled label="Leads to">
        {(ids) => (
          <select
            {...ids}
            className="field"
            value={kind}
            onChange={(event) => {
              setKind(event.target.value as typeof kind);
              setTarget('');
            }}
          >
            <option value="task">a task</option>
            <option value="page">a page</option>
            <option value="screen">a screen or list</option>
            <option value="address">an address outside</option>
          </select>
        )}
      </Labelled>
      {kind === 'page' ? (
        <PagePicker label="Which page" pages={pages} value={target} onChange={setTarget} />
      ) : kind === 'address' ? (
        <Labelled label="Which address">
          {(ids) => (
            <input
              {...ids}
              className="field"
              placeholder="https://…"
              value={target}
              onChange={(event) => setTarget(event.target.value)}
            />
          )}
        </Labelled>
      ) : (
        <Labelled label={kind === 'task' ? 'Which task' : 'Which screen'}>
          {(ids) => (
            <select {...ids} className="field" value={target} onChange={(event) => setTarget(event.target.value)}>
              <option value="">Choose…</option>
              {kind === 'task'
                ? role.tasks.map(({ task }) => (
                    <option key={task} value={task}>
                      {taskName(task)}
                    </option>
                  ))
                : placesToGo(inventory).map((one) => (
                    <option key={one.to} value={one.to}>
                      {one.name}
                    </option>
                  ))}
            </select>
          )}
        </Labelled>
      )}
      <Labelled label="Called">
        {(ids) => (
          <input
            {...ids}
            className="field"
            maxLength={60}
            placeholder={suggested}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Labelled>
      <button type="submit" className="btn">
        <Icon name="plus" size={15} /> Add
      </button>
      {fault && (
        <p role="alert" className="font-semibold text-brick md:col-span-4">
          {fault}
        </p>
      )}
    </form>
  );
}
