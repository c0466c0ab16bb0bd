import { useId, useState } from 'react';
import { ASK_STOP } from '@/core/plan';
import type { Stop } from '@/core/tour';
import { CommitInput } from '../../kit/CommitInput';
import { Icon } from '../../kit/Icon';
import { Empty, useFocusLater } from '../../kit/parts';
import type { StepProps } from './step';
import { useInventory } from '../../kit/inventory';

const DO = { press: 'waits for a press', type: 'waits for typing', see: 'shows only' };

function StopRow({
  stop,
  number,
  of,
  own,
  readOnly,
  onWords,
  onMove,
  onLeaveOut,
}: {
  stop: Stop;
  number: number;
  /** How many there are. */ of: number;
  own: boolean;
  readOnly: boolean;
  onWords: (title: string, text: string) => void;
  onMove: (by: 1 | -1) => void;
  onLeaveOut: () => void;
}) {
  const focusLater = useFocusLater();
  // Several tours have the same stop.
  const id = useId();
  // The button pressed moves with its stop: the focus stays on it, or on its neighbour where it can go no further.
  const move = (by: 1 | -1) => {
    onMove(by);
    const isLast = by < 0 ? number === 2 : number === of - 1;
    focusLater(`${id} ${isLast ? -by : by}`);
  };
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
        {!readOnly && (
          <span className="ml-auto flex gap-1">
            {([-1, 1] as const).map((by) => (
              <button
                key={by}
                id={`${id} ${by}`}
                type="button"
                className="btn btn-quiet btn-small"
                disabled={by < 0 ? number === 1 : number === of}
                aria-label={`Stop ${number} ${by < 0 ? 'earlier' : 'later'}`}
                onClick={() => move(by)}
              >
                <Icon name="down" size={15} className={by < 0 ? 'rotate-180' : ''} />
              </button>
            ))}
            <button type="button" className="btn btn-quiet btn-small" disabled={of === 1} onClick={onLeaveOut}>
              Leave out<span className="sr-only"> stop {number}</span>
            </button>
          </span>
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

const isReworded = (own: { title?: string | undefined; text?: string | undefined } | undefined) =>
  own?.title !== undefined || own?.text !== undefined;
/** A stop by the name it is placed by: one that asks for a door stands where the door would. */
const placed = ({ key }: Stop, { section }: { section: string }) => (key === ASK_STOP ? `door.${section}` : key);

/** Where each task lives: a tour for every ticked task, in the administrator's own words where there are any. */
export function ToursStep({ prepared, change, readOnly }: StepProps) {
  const inventory = useInventory();
  const { role, now } = prepared;
  const focusLater = useFocusLater();
  const tasks = now.tasks.filter((task) => role.tasks.some((t) => t.task === task.task));
  const [isOpenAtFirst] = useState(tasks.length === 1);
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
          <details key={task.task} className="card p-0" open={isOpenAtFirst}>
            <summary id={`tour ${task.task}`} className="flex flex-wrap items-center gap-3 px-4 py-3">
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
                  of={task.tour.stops.length}
                  readOnly={readOnly || !inventory.tasks.has(task.task)}
                  own={isReworded(role.tours[task.task]?.[stop.key])}
                  onMove={(by) =>
                    change({ do: 'move-stop', role: role.id, task: task.task, stop: placed(stop, task), by })
                  }
                  onLeaveOut={() => {
                    change({
                      do: 'leave-stop-out',
                      role: role.id,
                      task: task.task,
                      stop: placed(stop, task),
                      out: true,
                    });
                    focusLater(`tour ${task.task}`);
                  }}
                  onWords={(title, text) =>
                    change({ do: 'word-stop', role: role.id, task: task.task, stop: stop.key, title, text })
                  }
                />
              ))}
            </ol>
            {task.tour.left.length > 0 && (
              <ul aria-label="Left out" className="grid gap-1 border-t border-line bg-paper px-4 py-2">
                {task.tour.left.map(({ key, title }) => (
                  <li key={key} className="flex flex-wrap items-center gap-3 text-ink-2">
                    <span className="clip">Left out: {title}</span>
                    {!readOnly && (
                      <button
                        type="button"
                        className="link min-h-[24px] text-sm"
                        onClick={() => {
                          change({ do: 'leave-stop-out', role: role.id, task: task.task, stop: key, out: false });
                          focusLater(`tour ${task.task}`);
                        }}
                      >
                        Take it in again<span className="sr-only">: {title}</span>
                      </button>
                    )}
                  </li>
                ))}
              </ul>
            )}
          </details>
        );
      })}
    </div>
  );
}
