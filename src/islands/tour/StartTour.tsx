import type { Happening } from '@/core/inventory';
import { Icon } from '../kit/Icon';
import { startTour } from './model';

/** Starts a tour, or takes it up again where it was left. */
export function StartTour({
  task,
  minutes,
  at,
  did = [],
  anew = false,
  name,
}: {
  task: string;
  minutes: number;
  /** Where it was left, and what had been done by then. */ at?: number;
  did?: readonly Happening[];
  /** Offers the beginning, too. */ anew?: boolean;
  name: string;
}) {
  return (
    <>
      <button type="button" className="btn btn-quiet" onClick={() => startTour(task, at ?? 0, did)}>
        <Icon name="way" /> {at ? `Take up again at stop ${at + 1}` : `Point the way · ${minutes} min`}
        <span className="sr-only">: {name}</span>
      </button>
      {anew && at !== undefined && (
        <button type="button" className="btn btn-quiet btn-small" onClick={() => startTour(task, 0)}>
          From the beginning<span className="sr-only">: {name}</span>
        </button>
      )}
    </>
  );
}
