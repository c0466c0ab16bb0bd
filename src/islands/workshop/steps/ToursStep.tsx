import type { Stop } from '@/core/tour';
import { inventory } from '@/office';
import { CommitInput } from '../../kit/CommitInput';
import { Icon } from '../../kit/Icon';
import { Empty } from '../../kit/parts';
import type { StepProps } from './step';

const DO = { press: 'waits for a press', type: 'waits for typing', see: 'shows only' };

function StopRow({
  stop,
  number,
  own,
  readOnly,
  onWords,
}: {
  stop: Stop;
  number: number;
  own: boolean;
  readOnly: boolean;
  onWords: (title: string, text: string) => void;
}) {
  const count = `${stop.title} ${stop.text}`.split(/\s+/).filter(Boolean).length;
  return (
    <li className="grid gap-1.5 py-3">
      <p className="flex flex-wrap items-center gap-2 text-sm text-ink-2">
        <strong className="text-ink">Stop {number}</strong> points at “{stop.controlName}” · {DO[stop.await]}
        {own && <span className="pill pill-sky">own words</span>}
        {stop.stale && (
          <span className="pill pill-brick whitespace-normal">
            <Icon name="warn" size={13} /> {stop.stale}
          </span>
        )}
        {count > 140 && <span className="pill pill-sun">{count} words: long for one stop</span>}
        {own && !readOnly && (
          <button type="button" className="link min-h-[24px] text-sm" onClick={() => onWords('', '')}>
            Back to the given words<span className="sr-only"> of stop {number}</span>
          </button>
        )}
      </p>
      <CommitInput
        aria-label={`Title of stop ${number}`}
        className="field font-semibold"
        maxLength={120}
        readOnly={readOnly}
        value={stop.title}
        onCommit={(title) => onWords(title, stop.text)}
      />
      <CommitInput
        aria-label={`Text of stop ${number}`}
        className="field"
        kind={{ rows: 2 }}
        maxLength={1200}
        readOnly={readOnly}
        value={stop.text}
        onCommit={(text) => onWords(stop.title, text)}
      />
    </li>
  );
}

/** Where each task lives: a tour for every ticked task, in the administrator's own words where there are any. */
export function ToursStep({ prepared, change, readOnly }: StepProps) {
  const { role, now } = prepared;
  const tasks = now.tasks.filter((task) => role.tasks.some((t) => t.task === task.task));
  if (tasks.length === 0)
    return (
      <Empty icon="way" title="No tours yet">
        Tours come with tasks. Tick the jobs of this role in step 1.
      </Empty>
    );
  return (
    <div className="grid gap-3">
      {tasks.map((task) => {
        const stale = task.tour.stops.filter((s) => s.stale).length;
        return (
          <details key={task.task} className="card p-0" open={tasks.length === 1}>
            <summary className="flex flex-wrap items-center gap-3 px-4 py-3">
              <Icon name="way" />
              <span className="clip flex-1 font-head text-[1.05rem] font-semibold">{task.name}</span>
              <span className="text-sm text-ink-2">
                {task.tour.stops.length} stops · {task.tour.minutes} min
              </span>
              {stale > 0 && <span className="pill pill-brick">{stale} to mend</span>}
            </summary>
            <ol className="divide-y divide-line border-t border-line px-4">
              {task.tour.stops.map((stop, i) => (
                <StopRow
                  key={stop.key}
                  stop={stop}
                  number={i + 1}
                  readOnly={readOnly || !inventory.tasks.has(task.task)}
                  own={role.tours[task.task]?.[stop.key] !== undefined}
                  onWords={(title, text) =>
                    change({ do: 'word-stop', role: role.id, task: task.task, stop: stop.key, title, text })
                  }
                />
              ))}
            </ol>
          </details>
        );
      })}
    </div>
  );
}
