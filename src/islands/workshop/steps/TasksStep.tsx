import { useMemo, useState } from 'react';
import { applyOperation, operationInWords, reachOf, roleNames, type Operation } from '@/core/plan';
import { mendMissing, missingInWords, type Missing } from '@/core/task';
import { CommitInput } from '../../kit/CommitInput';
import { Icon } from '../../kit/Icon';
import { Labelled } from '../../kit/parts';
import { doorNameOf, roomWithAllTasks, verdictOn } from '../model';
import type { StepProps } from './step';
import { allowOn, doorsFor } from './WherePanel';
import { useInventory } from '../../kit/inventory';

/** As many things one after the other as keep anybody from a task, and some more. */
const MOST_STEPS = 8;

const MEND: Record<Missing['kind'], string> = {
  permission: 'Allow it',
  door: 'Open the door',
  tool: 'Give the tool',
  denied: '',
  apart: 'Allow them together',
  field: '',
  panel: 'Show the panel',
};

function OwnWords({
  task,
  name,
  said,
  onCommit,
}: {
  task: string;
  name: string;
  said: readonly string[];
  onCommit: (name: string, said: readonly string[]) => void;
}) {
  return (
    <div
      role="group"
      className="mt-2 grid gap-3 rounded-s border border-line bg-paper p-3 md:grid-cols-2"
      aria-label={`Own words for ${task}`}
    >
      <Labelled label="What they call it">
        {(ids) => (
          <CommitInput
            {...ids}
            className="field"
            maxLength={100}
            placeholder={task}
            value={name}
            onCommit={(next) => onCommit(next, said)}
          />
        )}
      </Labelled>
      <Labelled
        label="Words they use for it"
        hint="As they say it themselves, with commas between. “Where do I…?” finds it by them."
      >
        {(ids) => (
          <CommitInput
            {...ids}
            className="field"
            value={said.join(', ')}
            onCommit={(words) =>
              onCommit(
                name,
                words
                  .split(',')
                  .map((w) => w.trim().slice(0, 60))
                  .filter(Boolean)
                  .slice(0, 30),
              )
            }
          />
        )}
      </Labelled>
      <p className="hint md:col-span-2">What you type is set when you leave the field.</p>
    </div>
  );
}

/** Which jobs this role must get done, and whether each can be done. */
export function TasksStep({ facts, plan, prepared, change, setFocus, readOnly }: StepProps) {
  const inventory = useInventory();
  const [open, setOpen] = useState<string | null>(null);
  const all = useMemo(
    () => roomWithAllTasks(inventory, facts, plan, prepared.person),
    [inventory, facts, plan, prepared.person],
  );
  const { role, person } = prepared;
  // Allowed where the role works already; a role that works nowhere yet is asked about under Access.
  const reach = reachOf(inventory, plan, { role: role.id });
  const where =
    reach === 'whole' || reach.length === 0
      ? 'everywhere'
      : reach.length === 1
        ? `on ${facts.pages.find((p) => p.id === reach[0]?.branch)?.title ?? 'its page'}`
        : `on its ${reach.length} pages`;
  const mends = useMemo(() => {
    const spots = reach === 'whole' ? [] : reach;
    const mendsOf = (missing: Missing, now: typeof plan): Operation[] => {
      const theirs = now.roles.find(({ id }) => id === role.id) ?? role;
      if (missing.kind === 'permission')
        return [...allowOn(inventory, role.id, missing.id, spots), ...doorsFor(inventory, theirs, [missing.id])];
      // Each is allowed somewhere: together where the role works.
      if (missing.kind === 'apart') return missing.ids.flatMap((id) => allowOn(inventory, role.id, id, spots));
      const op = mendMissing(role.id, missing);
      return op ? [op] : [];
    };
    /** All it takes until a task can be done; null where that is for a person to decide. */
    const wholeMend = (task: string): Operation[] | null => {
      const done: Operation[] = [];
      let next = plan;
      for (let step = 0; step < MOST_STEPS; step++) {
        const verdict = verdictOn(inventory, facts, next, person, task);
        if (!verdict || verdict.can) return verdict ? done : null;
        const before = done.length;
        for (const operation of mendsOf(verdict.missing, next)) {
          const applied = applyOperation(inventory, next, operation);
          if (!applied.ok) continue;
          next = applied.plan;
          done.push(operation);
        }
        if (done.length === before) return null;
      }
      return null;
    };
    return new Map(
      all.tasks.flatMap(({ task, verdict }) =>
        verdict.can || !role.tasks.some((ticked) => ticked.task === task) ? [] : [[task, wholeMend(task)] as const],
      ),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- how far the role reaches goes by the plan
  }, [all, facts, person, plan, role]);
  const sections = inventory.sections
    .filter((section) => section.tasks.length > 0)
    .sort((a, b) => Number(a.face === 'frame') - Number(b.face === 'frame'));
  return (
    <div className="grid gap-5">
      {sections.map((section) => (
        <section key={section.id} aria-label={section.name}>
          <h2 className="mb-1.5 flex items-center gap-2 text-base">{section.name}</h2>
          <ul className="card divide-y divide-line p-0">
            {section.tasks.map((task) => {
              const ticked = role.tasks.find((t) => t.task === task.id);
              const verdict = all.tasks.find((t) => t.task === task.id)?.verdict;
              const missing = verdict && !verdict.can ? verdict.missing : null;
              const mend = mends.get(task.id);
              return (
                <li key={task.id} className="px-4 py-2.5">
                  <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
                    <label className="flex min-w-[15rem] flex-1 items-start gap-3">
                      <input
                        type="checkbox"
                        className="mt-1 h-[18px] w-[18px] shrink-0 accent-pine"
                        disabled={readOnly}
                        checked={ticked !== undefined}
                        onChange={(event) =>
                          change({ do: 'tick-task', role: role.id, task: task.id, ticked: event.target.checked })
                        }
                      />
                      <span className="min-w-0">
                        <span className="clip block font-semibold">{ticked?.name ?? task.name}</span>
                        <span className="block text-sm text-ink-2">{task.purpose}</span>
                      </span>
                    </label>
                    {verdict?.can && (
                      <span className={`pill ${ticked ? 'pill-pine' : 'pill-plain font-normal'}`}>
                        <Icon name="check" size={14} /> {ticked ? 'can be done' : 'could be done'}
                      </span>
                    )}
                    {missing && (
                      <span className="flex flex-wrap items-center gap-2">
                        <span className={`pill whitespace-normal ${ticked ? 'pill-brick' : 'pill-plain font-normal'}`}>
                          <Icon name={ticked ? 'warn' : 'lock'} size={14} />{' '}
                          {missingInWords(inventory, missing, doorNameOf(inventory, role))}
                        </span>
                        {ticked && mend && !readOnly && (
                          <button
                            type="button"
                            className="btn btn-small"
                            title={mend.map((op) => operationInWords(inventory, op, roleNames(plan))).join('; ')}
                            onClick={() => {
                              if (missing.kind === 'permission') setFocus(missing.id);
                              change(...mend);
                            }}
                          >
                            {MEND[missing.kind]}
                            {((missing.kind === 'permission' && inventory.permissions.get(missing.id)?.placed) ||
                              missing.kind === 'apart') &&
                              ` ${where}`}
                            {mend.length > 1 && `, and ${mend.length - 1} more it takes`}
                            <span className="sr-only"> for {task.name}</span>
                          </button>
                        )}
                      </span>
                    )}
                    {ticked && !readOnly && (
                      <button
                        type="button"
                        className="btn btn-quiet btn-small"
                        aria-expanded={open === task.id}
                        onClick={() => setOpen(open === task.id ? null : task.id)}
                      >
                        Own words<span className="sr-only"> for {task.name}</span>
                      </button>
                    )}
                  </div>
                  {ticked && open === task.id && (
                    <OwnWords
                      task={task.name}
                      name={ticked.name ?? ''}
                      said={ticked.said ?? []}
                      onCommit={(name, said) =>
                        change({
                          do: 'name-task',
                          role: role.id,
                          task: task.id,
                          name: name === task.name ? '' : name,
                          said: [...said],
                        })
                      }
                    />
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      ))}
    </div>
  );
}
