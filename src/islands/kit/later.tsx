import { useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { Dialog } from './parts';

const AGAIN_MS = 5000;

/** What is said in the place of a part whose script did not come. */
function Lost({ onAgain }: { onAgain: () => void }) {
  return (
    <div role="alert" className="note flex flex-wrap items-center gap-2">
      <span className="min-w-[12rem] flex-1">
        The website does not answer, so this part is not there yet. Nothing you typed is lost; it is tried again by
        itself.
      </span>
      <button type="button" className="btn btn-small" onClick={onAgain}>
        Try again now
      </button>
    </div>
  );
}

/**
 * A part of a screen whose script is fetched when it is first drawn; `waiting` stands in its place meanwhile. Where it
 * does not come, that is said, and it is tried again: by the button, as soon as there is a network, and by itself.
 */
export function later<P extends object>(
  load: () => Promise<{ default: ComponentType<P> }>,
  waiting: ReactNode = null,
  around: (lost: ReactNode, props: P) => ReactNode = (lost) => lost,
): ComponentType<P> {
  let Part: ComponentType<P> | undefined;
  return function Later(props: P) {
    const [state, setState] = useState<'there' | 'waiting' | 'lost'>(Part ? 'there' : 'waiting');
    useEffect(() => {
      if (state !== 'waiting') return undefined;
      let isGone = false;
      load().then(
        (module) => {
          Part = module.default;
          if (!isGone) setState('there');
        },
        () => !isGone && setState('lost'),
      );
      return () => {
        isGone = true;
      };
    }, [state]);
    const again = () => setState('waiting');
    useEffect(() => {
      if (state !== 'lost') return undefined;
      const timer = setInterval(again, AGAIN_MS);
      window.addEventListener('online', again);
      return () => {
        clearInterval(timer);
        window.removeEventListener('online', again);
      };
    }, [state]);
    if (Part && state === 'there') return <Part {...props} />;
    return state === 'lost' ? around(<Lost onAgain={again} />, props) : waiting;
  };
}

/** The same for a dialog: what is lost is said in one, too, and can be left. */
export const dialogLater = <P extends { onClose: () => void }>(
  load: () => Promise<{ default: ComponentType<P> }>,
): ComponentType<P> =>
  later(load, null, (lost, { onClose }) => (
    <Dialog open onClose={onClose} title="One moment">
      {lost}
    </Dialog>
  ));
