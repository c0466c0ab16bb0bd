import { useState } from 'react';
import { groupTools } from '@/core/inventory';
import { freeId } from '@/core/ids';
import { groupsOf, setWithTool, type Plan, type PlanToolSet } from '@/core/plan';
import { toolsOfSet, type RuleNames } from '@/core/toolbar';
import { Icon } from '../../kit/Icon';
import { Confirm, Dialog } from '../../kit/parts';
import { toolIcon } from './ToolChip';
import { useInventory } from '../../kit/inventory';

/** All sets of tools side by side: what each holds, what it differs in, and where it is used. */
export function SetsDialog({
  plan,
  role,
  names,
  readOnly,
  onPut,
  onRemove,
  onClose,
}: {
  plan: Plan;
  role: string;
  names: RuleNames;
  readOnly: boolean;
  onPut: (set: PlanToolSet) => void;
  onRemove: (set: string) => void;
  onClose: () => void;
}) {
  const inventory = useInventory();
  const { rules } = plan.toolbars;
  // What the role in hand writes with stands first.
  const isTheirs = (set: PlanToolSet) =>
    rules.some((rule) => rule.then.use === set.id && (rule.when.roles?.includes(role) ?? true));
  const sets = plan.toolbars.sets.toSorted((a, b) => Number(isTheirs(b)) - Number(isTheirs(a)));
  const byId = new Map(sets.map((set) => [set.id, set]));
  const held = new Map(sets.map((set) => [set.id, toolsOfSet(byId, set.id)]));
  /** The groups that stand first in a set, by itself or by its bases. */
  const orderOf = (set: PlanToolSet) => groupsOf(plan.toolbars, set.id);
  const [onlyDifferent, setOnlyDifferent] = useState(false);
  const [name, setName] = useState('');
  const [asking, setAsking] = useState<{ set: PlanToolSet; others: string } | null>(null);
  /** The sets that are put together from one, by whatever way, and itself. */
  const from = (id: string): string[] => [id, ...sets.filter((set) => set.base === id).flatMap((set) => from(set.id))];
  const usersOf = (id: string) =>
    [...new Set(rules.filter((rule) => rule.then.use === id).flatMap((rule) => rule.when.roles ?? ['']))].map((one) =>
      one === '' ? 'everybody' : names.role(one),
    );
  /** Whom a change of a set reaches besides the role in hand. */
  const othersOf = (id: string) => [...new Set(from(id).flatMap(usersOf))].filter((one) => one !== names.role(role));
  const put = (set: PlanToolSet) => {
    const others = othersOf(set.id);
    if (others.length > 0) setAsking({ set, others: others.join(', ') });
    else onPut(set);
  };
  const shown = [...inventory.tools.values()].filter(
    (tool) => !onlyDifferent || new Set(sets.map((set) => held.get(set.id)?.has(tool.id))).size > 1,
  );
  return (
    <Dialog open onClose={onClose} wide title="All sets of tools side by side">
      <div className="mb-3 flex flex-wrap items-end gap-4">
        <label className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            className="h-4 w-4 accent-pine"
            checked={onlyDifferent}
            onChange={(event) => setOnlyDifferent(event.target.checked)}
          />
          Only what differs
        </label>
        {!readOnly && (
          <form
            className="ml-auto flex items-end gap-2"
            aria-label="A new set"
            onSubmit={(event) => {
              event.preventDefault();
              const wish = name
                .trim()
                .toLowerCase()
                .replaceAll(/[^a-z0-9]+/g, '-')
                .replaceAll(/^-|-$/g, '');
              if (name.trim() === '') return;
              onPut({ id: freeId(sets, wish || 'set'), name: name.trim(), add: [], take: [] });
              setName('');
            }}
          >
            <label>
              <span className="label">Name of a new set</span>
              <input className="field" maxLength={80} value={name} onChange={(event) => setName(event.target.value)} />
            </label>
            <button type="submit" className="btn" disabled={name.trim() === ''}>
              <Icon name="plus" size={16} /> Make it
            </button>
          </form>
        )}
      </div>
      {/* The names of tools stay in sight however many sets there are. */}
      <div className="overflow-x-auto">
        <table className="w-full border-separate border-spacing-0 text-sm" aria-label="Sets of tools">
          <thead>
            <tr>
              <td className="sticky left-0 z-10 border border-line bg-sheet p-2" />
              {sets.map((set) => (
                <th
                  key={set.id}
                  scope="col"
                  className="min-w-[9rem] border border-line bg-sheet p-2 text-left align-top font-normal"
                >
                  <strong className="clip block">{set.name}</strong>
                  {!readOnly && (
                    <label className="mt-1 block">
                      <span className="hint block">begins as</span>
                      <select
                        aria-label={`“${set.name}” begins as`}
                        className="field px-1 py-0.5 text-sm"
                        value={set.base ?? ''}
                        onChange={(event) => {
                          const { base: _, ...rest } = set;
                          put(event.target.value === '' ? rest : { ...rest, base: event.target.value });
                        }}
                      >
                        <option value="">nothing</option>
                        {sets
                          .filter((other) => !from(set.id).includes(other.id))
                          .map((other) => (
                            <option key={other.id} value={other.id}>
                              {other.name}
                            </option>
                          ))}
                      </select>
                    </label>
                  )}
                  {!readOnly && (
                    <details className="mt-1">
                      <summary className="cursor-pointer text-pine underline">
                        Order of groups<span className="sr-only"> in “{set.name}”</span>
                      </summary>
                      <ol className="mt-1 grid gap-0.5">
                        {groupTools([...inventory.tools.values()], orderOf(set)).map((group, i, all) => (
                          <li key={group.id} className="flex items-center justify-between gap-1">
                            {group.name}
                            <button
                              type="button"
                              className="flex h-6 w-6 shrink-0 items-center justify-center rounded-s text-ink-2 hover:bg-pine-soft disabled:opacity-40"
                              aria-label={`“${group.name}” further to the front in “${set.name}”`}
                              disabled={i === 0}
                              onClick={() => {
                                const ids = all.map(({ id }) => id);
                                ids.splice(i - 1, 2, group.id, ids[i - 1] ?? group.id);
                                put({ ...set, groups: ids });
                              }}
                            >
                              <Icon name="up" size={14} />
                            </button>
                          </li>
                        ))}
                      </ol>
                    </details>
                  )}
                  <span className="hint mt-1 block">
                    {usersOf(set.id).length > 0
                      ? `for ${usersOf(set.id).join(', ')}`
                      : from(set.id).length > 1
                        ? 'only other sets begin as it'
                        : 'nobody uses it'}
                  </span>
                  {!readOnly && usersOf(set.id).length === 0 && from(set.id).length === 1 && (
                    <button type="button" className="btn btn-quiet btn-stop btn-small" onClick={() => onRemove(set.id)}>
                      Do away with it<span className="sr-only">: {set.name}</span>
                    </button>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((tool) => (
              <tr key={tool.id}>
                <th
                  scope="row"
                  className="sticky left-0 z-10 min-w-[11rem] border border-line bg-sheet p-1.5 text-left font-normal"
                  title={tool.description}
                >
                  <span className="flex items-center gap-1.5">
                    <Icon name={toolIcon(tool.id)} size={15} /> {tool.name}
                  </span>
                </th>
                {sets.map((set) => {
                  const on = held.get(set.id)?.has(tool.id) ?? false;
                  const isOwn = set.add.includes(tool.id) || set.take.includes(tool.id);
                  return (
                    <td key={set.id} className={`border border-line p-1.5 ${isOwn && set.base ? 'bg-sun-soft' : ''}`}>
                      <label className="flex min-h-6 items-center gap-1.5">
                        <input
                          type="checkbox"
                          className="h-4 w-4 accent-pine"
                          aria-label={`${tool.name} in “${set.name}”`}
                          disabled={readOnly}
                          checked={on}
                          onChange={(event) =>
                            put(setWithTool({ inventory }, sets, set, tool.id, event.target.checked))
                          }
                        />
                        {set.base && isOwn && <span className="text-xs">{on ? 'added' : 'taken'}</span>}
                      </label>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {sets.length === 0 && <p>There are no sets yet. Give one a name to begin with.</p>}
      <Confirm
        open={asking !== null}
        title="Others write with it, too"
        yes="Change it for all of them"
        onNo={() => setAsking(null)}
        onYes={() => {
          if (asking) onPut(asking.set);
          setAsking(null);
        }}
      >
        A change of “{asking?.set.name}” also reaches {asking?.others}.
      </Confirm>
    </Dialog>
  );
}
