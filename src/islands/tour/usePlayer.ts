import { useCallback, useEffect, useRef, useState } from 'react';
import type { Tour } from '@/core/tour';
import { newKey } from '../kit/send';
import type { Happening } from '@/core/inventory';
import { onHappened } from '../kit/happened';
import {
  afterHappening,
  caughtUp,
  findControl,
  findRunning,
  firstActive,
  isAction,
  isDoneByPress,
  isOff,
  isOtherPress,
  isTaken,
  isTyped,
  keepRunning,
  onTourStart,
  situationOf,
  type Running,
  type Situation,
} from './model';

const WAIT_MS = 3000;

/** Tells the server how far one is; sent also while the page is being left. */
function remember({ task, did }: Running, stop: number, end: 'taken' | 'seen' | null): void {
  void fetch(`/api/tours/${task}`, {
    method: 'PUT',
    keepalive: true,
    headers: { 'content-type': 'application/json', 'idempotency-key': newKey() },
    body: JSON.stringify({ stop, done: end === 'taken', seen: end !== null, did }),
  }).catch(() => undefined);
}

/** The state of the tour player: which stop, where its control is, and what moves it on. */
export function usePlayer(tours: readonly Tour[], screen: string) {
  const [running, setRunning] = useState<Running | null>(null);
  const [control, setControl] = useState<HTMLElement | null>(null);
  const [waited, setWaited] = useState(false);
  const [acted, setActed] = useState(false);
  /** It is there, and cannot be pressed. */
  const [off, setOff] = useState(false);
  /** What was pressed last since the stop is shown is another control: what opens then did not come of this one. */
  const [strayed, setStrayed] = useState(false);
  const tour = tours.find((t) => t.task === running?.task) ?? null;
  const index = running?.index ?? 0;
  const stop = tour?.stops[index] ?? null;
  const ended = tour !== null && index >= tour.stops.length;
  const opener = useRef<HTMLElement | null>(null);

  const go = useCallback((tour: Tour, next: number, more?: Happening) => {
    const did = [...(findRunning()?.did ?? []), ...(more ? [more] : [])];
    const now: Running = { task: tour.task, index: next, did };
    keepRunning(now);
    remember(
      now,
      Math.min(next, tour.stops.length - 1),
      next < tour.stops.length ? null : isTaken(tour, did) ? 'taken' : 'seen',
    );
    setRunning(now);
  }, []);
  const leave = useCallback(() => {
    keepRunning(null);
    setRunning(null);
    opener.current?.focus();
  }, []);

  useEffect(() => {
    const begin = () => {
      const found = findRunning();
      if (found && document.activeElement instanceof HTMLElement) opener.current = document.activeElement;
      setRunning(found);
    };
    begin();
    const found = findRunning();
    const at = tours.find((t) => t.task === found?.task);
    if (found && at) {
      const index = caughtUp(at, found.index, screen);
      if (index !== found.index) go(at, index);
    }
    return onTourStart(begin);
  }, [tours, screen, go]);

  // Looks for the control until it is there, and notices when it goes.
  useEffect(() => {
    setWaited(false);
    setActed(false);
    setStrayed(false);
    if (!stop) {
      setControl(null);
      return undefined;
    }
    const look = () => {
      const found = findControl(stop);
      setControl(found);
      setOff(found !== null && isOff(firstActive(found)));
    };
    look();
    const observer = new MutationObserver(look);
    observer.observe(document.body, {
      childList: true,
      subtree: true,
      attributes: true,
      attributeFilter: ['data-anchor', 'hidden', 'class', 'open', 'disabled', 'aria-disabled'],
    });
    const timer = setTimeout(() => setWaited(true), WAIT_MS);
    return () => {
      observer.disconnect();
      clearTimeout(timer);
    };
  }, [stop]);

  // Waits for the action. The next stop is kept before the press takes effect, since it may leave the screen.
  useEffect(() => {
    if (!tour || !stop || !control) return undefined;
    const pressed = (event: Event) => {
      if (isAction(stop, event.target)) {
        setStrayed(false);
        if (isDoneByPress(tour, index)) go(tour, index + 1);
      } else if (isOtherPress(stop, event.target)) setStrayed(true);
    };
    const typed = (event: Event) => {
      if (isTyped(tour, stop, event.target)) setActed(true);
    };
    document.addEventListener('click', pressed, true);
    if (stop.await === 'type') document.addEventListener('input', typed, true);
    return () => {
      document.removeEventListener('click', pressed, true);
      document.removeEventListener('input', typed, true);
    };
  }, [tour, stop, control, index, go]);

  // What is done counts, whichever stop is shown and whichever thing it was done to.
  useEffect(() => {
    if (!tour) return undefined;
    return onHappened((what) => {
      const next = afterHappening(tour, index, what);
      if (next !== undefined) go(tour, next, what);
    });
  }, [tour, index, go]);

  const situation: Situation | null = tour && stop ? situationOf(tour, index, screen, control !== null, waited) : null;
  const next = () => {
    if (!tour) return;
    // A door only leads somewhere, so Next may open it; whatever changes something is left to the editor.
    if (
      control &&
      stop?.control.startsWith('door.') &&
      control instanceof HTMLAnchorElement &&
      control.getAttribute('aria-current') !== 'page'
    )
      control.click();
    else go(tour, index + 1);
  };
  const back = () => tour && index > 0 && go(tour, index - 1);
  const goTo = (at: number) => tour && go(tour, at);
  const taken = tour !== null && isTaken(tour, running?.did ?? []);
  return { tour, stop, index, ended, control, situation, acted, off, strayed, taken, next, back, goTo, leave };
}
