import { missingInWords } from '@/core/task';
import { Icon } from '../../kit/Icon';
import { Empty } from '../../kit/parts';
import { doorNameOf } from '../model';
import type { StepProps } from './step';
import { useInventory } from '../../kit/inventory';

/** The list of tasks to try, and the way in. */
export function WalkStep({ prepared, stepIn, readOnly }: StepProps) {
  const inventory = useInventory();
  const { now, person } = prepared;
  const who = person.id === '0' ? 'somebody with this role' : person.name;
  return (
    <div className="grid gap-5">
      <section className="card flex flex-wrap items-center gap-4 bg-pine-wash" aria-label="Step in">
        <Icon name="door" size={30} />
        <div className="min-w-[16rem] flex-1">
          <h2 className="text-base">See the room as {who}</h2>
          <p className="text-ink-2">
            Exactly as prepared here, also what is not live yet. It is a trial: nothing you do there is kept, and
            nothing is done in anybody’s name.
          </p>
        </div>
        {!readOnly && (
          <button type="button" className="btn btn-main" onClick={stepIn}>
            Step in
          </button>
        )}
      </section>
      <section aria-label="Tasks to try">
        <h2 className="mb-1.5 text-base">Try each of these</h2>
        <ol className="card divide-y divide-line p-0">
          {now.tasks.map((task) => (
            <li key={task.task} className="grid gap-1 px-4 py-3">
              <p className="flex flex-wrap items-center gap-2">
                <strong className="clip flex-1">{task.name}</strong>
                {task.verdict.can ? (
                  <span className="pill pill-pine">
                    <Icon name="check" size={14} /> can be done
                  </span>
                ) : (
                  <span className="pill pill-brick whitespace-normal">
                    <Icon name="warn" size={14} />{' '}
                    {missingInWords(inventory, task.verdict.missing, doorNameOf(inventory, prepared.role))}
                  </span>
                )}
              </p>
              <p className="text-sm text-ink-2">{task.tour.stops.map((stop) => stop.controlName).join(' → ')}</p>
            </li>
          ))}
        </ol>
        {now.tasks.length === 0 && (
          <Empty icon="check" title="Nothing to try yet">
            Tick the jobs of this role in step 1.
          </Empty>
        )}
      </section>
    </div>
  );
}
