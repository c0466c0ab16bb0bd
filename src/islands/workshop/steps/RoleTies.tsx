import { useState } from 'react';
import type { Plan, PlanRole } from '@/core/plan';
import { Icon } from '../../kit/Icon';
import type { Change } from '../usePlan';

function Tie({
  name,
  words,
  choices,
  onAdd,
  onRemove,
  tied,
  readOnly,
}: {
  name: string;
  words: string;
  choices: readonly PlanRole[];
  tied: readonly PlanRole[];
  onAdd: (id: string) => void;
  onRemove: (id: string) => void;
  readOnly: boolean;
}) {
  const [open, setOpen] = useState(false);
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="min-w-[9.5rem] font-semibold">{name}</span>
      {tied.map((role) => (
        <span
          key={role.id}
          className="inline-flex max-w-full items-center gap-1 rounded-s border border-line-2 bg-paper px-2 py-0.5 text-sm"
        >
          <span className="clip">{role.name}</span>
          {!readOnly && (
            <button
              type="button"
              className="flex h-6 w-6 items-center justify-center rounded-s hover:bg-brick-soft"
              aria-label={`${name}: take ${role.name} away`}
              onClick={() => onRemove(role.id)}
            >
              <Icon name="close" size={14} />
            </button>
          )}
        </span>
      ))}
      {tied.length === 0 && <span className="text-sm text-ink-2">{words}</span>}
      {!readOnly && choices.length > 0 && !open && (
        <button type="button" className="btn btn-quiet btn-small" onClick={() => setOpen(true)}>
          <Icon name="plus" size={15} /> Add<span className="sr-only"> a role: {name.toLowerCase()}</span>
        </button>
      )}
      {open && (
        <select
          autoFocus
          aria-label={`${name}: which role?`}
          className="field w-auto py-1 text-sm"
          value=""
          onBlur={() => setOpen(false)}
          onChange={(event) => {
            onAdd(event.target.value);
            setOpen(false);
          }}
        >
          <option value="">Which role?</option>
          {choices.map((role) => (
            <option key={role.id} value={role.id}>
              {role.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}

/** What a role has to do with other roles: which it builds on, and which nobody may hold together with it. */
export function RoleTies({
  plan,
  role,
  change,
  readOnly,
}: {
  plan: Plan;
  role: PlanRole;
  change: Change;
  readOnly: boolean;
}) {
  const others = plan.roles.filter((r) => r.id !== role.id && !r.archived);
  const apart = plan.apart.flatMap((pair) => (pair[0] === role.id ? [pair[1]] : pair[1] === role.id ? [pair[0]] : []));
  const buildsOn = (id: string, seen = new Set<string>()): boolean =>
    id === role.id ||
    (!seen.has(id) &&
      (seen.add(id), plan.roles.find((r) => r.id === id)?.extends.some((parent) => buildsOn(parent, seen)) ?? false));
  const named = (ids: readonly string[]) =>
    ids.map((id) => plan.roles.find((r) => r.id === id)).filter((r) => r !== undefined);
  return (
    <section className="card grid gap-2 px-4 py-3" aria-label="Ties to other roles">
      <Tie
        name="Builds on"
        words="no other role"
        readOnly={readOnly || role.id === 'keyholder'}
        tied={named(role.extends)}
        choices={others.filter((r) => r.id !== 'keyholder' && !role.extends.includes(r.id) && !buildsOn(r.id))}
        onAdd={(id) => change({ do: 'set-extends', role: role.id, extends: [...role.extends, id] })}
        onRemove={(id) =>
          change({ do: 'set-extends', role: role.id, extends: role.extends.filter((one) => one !== id) })
        }
      />
      <Tie
        name="Never together with"
        words="anybody may hold it beside other roles"
        readOnly={readOnly}
        tied={named(apart)}
        choices={others.filter((r) => !apart.includes(r.id))}
        onAdd={(id) => change({ do: 'keep-apart', role: role.id, other: id, apart: true })}
        onRemove={(id) => change({ do: 'keep-apart', role: role.id, other: id, apart: false })}
      />
    </section>
  );
}
