import type { Happening } from '@/core/inventory';
import type { Stop, Tour } from '@/core/tour';

/** Where somebody is in the tour they are taking: kept for the browser tab, so that it goes on over screens. */
export interface Running {
  task: string;
  index: number;
  /** What has happened of what its stops wait for. */ did: readonly Happening[];
}
const KEY = 'safe-room-tour';
const EVENT = 'safe-room-tour';

export function findRunning(): Running | null {
  try {
    const value = JSON.parse(sessionStorage.getItem(KEY) ?? 'null') as Running | null;
    return value && typeof value.task === 'string' && Number.isInteger(value.index) && Array.isArray(value.did)
      ? value
      : null;
  } catch {
    return null;
  }
}

export function keepRunning(running: Running | null): void {
  if (running) sessionStorage.setItem(KEY, JSON.stringify(running));
  else sessionStorage.removeItem(KEY);
}

/** Starts a tour where the editor is, or takes it up again at a stop, with what was done of it before. */
export function startTour(task: string, index = 0, did: readonly Happening[] = []): void {
  keepRunning({ task, index, did });
  window.dispatchEvent(new Event(EVENT));
}
export function onTourStart(run: () => void): () => void {
  window.addEventListener(EVENT, run);
  return () => window.removeEventListener(EVENT, run);
}

/** What the player shows for a stop: the control, the way to it, or why it cannot be shown. */
export type Situation =
  | { status: 'pointing' }
  /** On another screen; or on this one, at an earlier stop that opens what is wanted. */
  | { status: 'elsewhere'; path: string; first: string | null; back: number | null }
  | { status: 'waiting' }
  | { status: 'absent'; why: string };

/**
 * What to show for a stop, given the screen one is on and whether its control is there. `waited` turns a control
 * that has not come in time into one that is absent.
 */
export function situationOf(tour: Tour, index: number, screen: string, found: boolean, waited: boolean): Situation {
  const stop = tour.stops[index];
  if (!stop) return { status: 'absent', why: 'The tour has ended.' };
  if (found) return { status: 'pointing' };
  if (stop.stale) return { status: 'absent', why: stop.stale };
  const framed = stop.control.startsWith('door.') || stop.control.startsWith('frame.');
  if (!framed && stop.screen !== screen) {
    if (stop.path) return { status: 'elsewhere', path: stop.path, first: null, back: null };
    const before = tour.stops
      .slice(0, index)
      .reverse()
      .find((s) => s.path !== null && !s.control.startsWith('door.') && !s.control.startsWith('frame.'));
    return {
      status: 'elsewhere',
      path: before?.path ?? '/room',
      first: before?.title ?? null,
      back: before?.screen === screen ? tour.stops.indexOf(before) : null,
    };
  }
  if (!waited) return { status: 'waiting' };
  return {
    status: 'absent',
    why: `“${stop.controlName}” is not on this screen now${stop.appears ? `; it is there ${stop.appears}` : ''}.`,
  };
}

/**
 * The stop to show on a screen just reached. A press can lead there before the player has taken over and heard it;
 * who already stands where the next stop is has done this one.
 */
export function caughtUp(tour: Tour, index: number, screen: string): number {
  const stop = tour.stops[index];
  const left = stop?.await === 'press' && (stop.control.startsWith('door.') || stop.screen !== screen);
  return left && tour.stops[index + 1]?.screen === screen ? index + 1 : index;
}

/**
 * Whether a press is all a stop waits for: one that leads to another screen waits until that is reached, one with a
 * result for the result.
 */
export function isDoneByPress(tour: Tour, index: number): boolean {
  const [stop, next] = [tour.stops[index], tour.stops[index + 1]];
  return (
    stop?.await === 'press' &&
    stop.until.length === 0 &&
    (next === undefined || next.screen === stop.screen || isFramed(next))
  );
}
const isFramed = (stop: Stop) => stop.control.startsWith('door.') || stop.control.startsWith('frame.');

/**
 * Where a tour goes on when something has happened: behind the stop that waits for it, from the one shown on; undefined
 * when none does.
 */
export function afterHappening(tour: Tour, index: number, what: Happening): number | undefined {
  const at = tour.stops.findIndex((stop, i) => i >= index && stop.until.includes(what));
  return at < 0 ? undefined : at + 1;
}

/** Whether there is something to be done in a tour, and not only to be looked at. */
export const isToDo = (tour: Pick<Tour, 'stops'>): boolean => tour.stops.some(({ until }) => until.length > 0);

/** Whether all has happened that a tour waits for: it is then taken, else only seen. */
export const isTaken = (tour: Tour, did: readonly Happening[]): boolean =>
  isToDo(tour) && tour.stops.every(({ until }) => until.length === 0 || until.some((one) => did.includes(one)));

/** The element a stop points at, when it is there and can be seen. */
export function findControl(stop: Stop): HTMLElement | null {
  for (const element of document.querySelectorAll<HTMLElement>(`[data-anchor="${CSS.escape(stop.control)}"]`))
    if (element.getClientRects().length > 0) return element;
  return null;
}

const ACTIVE = 'a[href], button, input, textarea, select, [contenteditable="true"], [role="menuitem"], [role="option"]';

/**
 * Whether a press is on the control a stop points at, or on another of its kind in a list: on it, or on something in it
 * that acts.
 */
export function isAction(stop: Stop, target: EventTarget | null): boolean {
  const control = target instanceof Element ? target.closest(`[data-anchor="${CSS.escape(stop.control)}"]`) : null;
  return control !== null && target instanceof Element && (control.matches(ACTIVE) || target.closest(ACTIVE) !== null);
}

/** Whether a press is on the button or link of another control. */
export function isOtherPress(stop: Stop, target: EventTarget | null): boolean {
  const button = target instanceof Element ? target.closest('button, a[href]') : null;
  const anchor = anchorOf(button);
  return anchor !== undefined && anchor !== stop.control;
}

/** The control something on the screen is part of. */
const anchorOf = (target: EventTarget | null): string | undefined =>
  (target instanceof Element ? target.closest<HTMLElement>('[data-anchor]') : null)?.dataset['anchor'];

/**
 * Whether typing is what a stop waits for: in its control, or in another field of the same screen, since what has to be
 * changed may stand there; not where another stop of the tour wants words.
 */
export function isTyped(tour: Tour, stop: Stop, target: EventTarget | null): boolean {
  const anchor = anchorOf(target);
  if (!(target instanceof Element) || anchor === undefined) return false;
  if (target.closest(`[data-anchor="${CSS.escape(stop.control)}"]`)) return true;
  return anchor.startsWith(`${stop.screen}.`) && !tour.stops.some((other) => other.control === anchor);
}

export const isOff = (element: HTMLElement) => element.matches(':disabled, [aria-disabled="true"]');
export const firstActive = (control: HTMLElement): HTMLElement =>
  control.matches(ACTIVE) ? control : (control.querySelector<HTMLElement>(ACTIVE) ?? control);
