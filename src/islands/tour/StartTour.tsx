import { Icon } from '../kit/Icon';
import { startTour } from './model';

/** Starts a tour, or takes it up again where it was left. */
export function StartTour({ task, minutes, at, name }: { task: string; minutes: number; at?: number; name: string }) {
  return (
    <button type="button" className="btn btn-quiet" onClick={() => startTour(task, at ?? 0)}>
      <Icon name="way" /> {at ? `Take up again at stop ${at + 1}` : `Point the way · ${minutes} min`}
      <span className="sr-only">: {name}</span>
    </button>
  );
}
