import { useId, useState } from 'react';
import { freeId } from '@/core/ids';
import { allDoors, type Menu, type PlanRole } from '@/core/plan';
import { getEntry } from '@/core/inventory';
import { CommitInput } from '../../kit/CommitInput';
import { Icon } from '../../kit/Icon';
import type { WorkshopPage } from '../model';
import { NewShortcut } from './NewShortcut';
import { useInventory } from '../../kit/inventory';

/** What the menu has beside its doors: where one begins, groups with headings, hints, shortcuts. */
export function MenuExtras({
  role,
  pages,
  readOnly,
  onChange,
}: {
  role: PlanRole;
  pages: readonly WorkshopPage[];
  readOnly: boolean;
  onChange: (menu: Menu) => void;
}) {
  const inventory = useInventory();
  const id = useId();
  const { menu } = role;
  const shown = allDoors(inventory, role.doors).filter(({ state }) => state === 'open' || state === 'look');
  const nameOf = (section: string) =>
    role.doors.find((door) => door.section === section)?.name ?? getEntry(inventory.controls, `door.${section}`).name;
  const groupOf = (section: string) => menu.groups.findIndex(({ doors }) => doors.includes(section));
  const put = (section: string, at: number) =>
    onChange({
      ...menu,
      groups: menu.groups.map((group, i) => ({
        ...group,
        doors: [...group.doors.filter((one) => one !== section), ...(i === at ? [section] : [])],
      })),
    });
  const [naming, setNaming] = useState('');
  const { first: begins, ...rest } = menu;
  return (
    <fieldset disabled={readOnly} className="mt-4 grid gap-5">
      <div className="max-w-sm">
        <label className="label" htmlFor={`${id}-first`}>
          After signing in they begin with
        </label>
        <select
          id={`${id}-first`}
          className="field"
          value={begins ?? ''}
          onChange={(event) => onChange(event.target.value ? { ...rest, first: event.target.value } : rest)}
        >
          <option value="">Today</option>
          {shown.map(({ section }) => (
            <option key={section} value={section}>
              {nameOf(section)}
            </option>
          ))}
        </select>
      </div>
      <section aria-label="Groups and hints">
        <h2 className="mb-1.5 text-base">Groups and hints</h2>
        <ul className="divide-y divide-line rounded-[10px] border border-line bg-sheet">
          {shown.map(({ section }) => (
            <li
              key={section}
              className="grid items-center gap-3 px-3 py-2 md:grid-cols-[minmax(0,1fr)_11rem_minmax(0,1.6fr)]"
            >
              <span className="clip font-semibold">{nameOf(section)}</span>
              <select
                className="field"
                aria-label={`Group of ${nameOf(section)}`}
                value={groupOf(section)}
                onChange={(event) => {
                  const at = Number(event.target.value);
                  if (at < menu.groups.length) put(section, at);
                  else setNaming(section);
                }}
              >
                <option value={-1}>by itself</option>
                {menu.groups.map((group, i) => (
                  <option key={group.name} value={i}>
                    {group.name}
                  </option>
                ))}
                <option value={menu.groups.length}>a new group…</option>
              </select>
              <CommitInput
                className="field"
                aria-label={`Hint of ${nameOf(section)}`}
                placeholder="A word on what is behind it"
                maxLength={120}
                value={menu.hints[section] ?? ''}
                onCommit={(hint) => {
                  const { [section]: _, ...others } = menu.hints;
                  onChange({ ...menu, hints: hint ? { ...others, [section]: hint } : others });
                }}
              />
              {naming === section && (
                <form
                  className="flex gap-2 md:col-span-3"
                  onSubmit={(event) => {
                    event.preventDefault();
                    const typed = new FormData(event.currentTarget).get('name');
                    const name = typeof typed === 'string' ? typed.trim() : '';
                    if (!name) return;
                    const without = menu.groups.map((group) => ({
                      ...group,
                      doors: group.doors.filter((one) => one !== section),
                    }));
                    onChange({ ...menu, groups: [...without, { name, doors: [section] }] });
                    setNaming('');
                  }}
                >
                  <input className="field" name="name" maxLength={40} aria-label="Heading of the new group" autoFocus />
                  <button type="submit" className="btn">
                    Make it
                  </button>
                </form>
              )}
            </li>
          ))}
        </ul>
        {menu.groups.length > 0 && (
          <ul className="mt-2 grid gap-2">
            {menu.groups.map((group, i) => (
              <li key={i} className="flex flex-wrap items-center gap-2">
                <span className="w-56">
                  <CommitInput
                    className="field"
                    aria-label={`Heading of group ${i + 1}`}
                    maxLength={40}
                    value={group.name}
                    required
                    onCommit={(name) =>
                      onChange({ ...menu, groups: menu.groups.map((one, k) => (k === i ? { ...one, name } : one)) })
                    }
                  />
                </span>
                <span className="text-sm text-ink-2">{group.doors.map(nameOf).join(', ')}</span>
              </li>
            ))}
          </ul>
        )}
      </section>
      <section aria-label="Shortcuts">
        <h2 className="mb-1.5 text-base">Shortcuts</h2>
        {menu.shortcuts.length === 0 ? (
          <p className="mb-2 text-ink-2">None yet. A shortcut stands in the menu behind the doors.</p>
        ) : (
          <ul className="mb-2 divide-y divide-line rounded-[10px] border border-line bg-sheet">
            {menu.shortcuts.map((one, i) => (
              <li key={one.id} className="flex flex-wrap items-center gap-3 px-3 py-2">
                <span className="clip min-w-0 flex-1">
                  <span className="font-semibold">{one.name}</span> <span className="text-sm text-ink-2">{one.to}</span>
                </span>
                <button
                  type="button"
                  className="btn btn-small"
                  disabled={i === 0}
                  onClick={() =>
                    onChange({ ...menu, shortcuts: menu.shortcuts.toSpliced(i, 1).toSpliced(i - 1, 0, one) })
                  }
                >
                  <Icon name="up" size={15} />
                  <span className="sr-only">Further up: {one.name}</span>
                </button>
                <button
                  type="button"
                  className="btn btn-small"
                  onClick={() => onChange({ ...menu, shortcuts: menu.shortcuts.toSpliced(i, 1) })}
                >
                  <Icon name="close" size={15} />
                  <span className="sr-only">Take away: {one.name}</span>
                </button>
              </li>
            ))}
          </ul>
        )}
        {!readOnly && menu.shortcuts.length < 20 && (
          <NewShortcut
            role={role}
            pages={pages}
            onAdd={(one) =>
              onChange({ ...menu, shortcuts: [...menu.shortcuts, { id: freeId(menu.shortcuts, 's1'), ...one }] })
            }
          />
        )}
      </section>
    </fieldset>
  );
}
