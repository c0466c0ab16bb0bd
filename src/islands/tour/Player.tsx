import { autoUpdate } from '@floating-ui/dom';
import { useEffect, useId, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import type { Tour } from '@/core/tour';
import { Icon } from '../kit/Icon';
import { firstActive, isToDo } from './model';
import { placeCard, type CardPlace } from './placing';
import { usePlayer } from './usePlayer';

interface Box {
  top: number;
  left: number;
  width: number;
  height: number;
}
const PAD = 5;
const NARROW_PX = 640;

/** The place for words of a tour in the dialog that is open; null while none is. */
function useDialog(isRunning: boolean): HTMLElement | null {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  useEffect(() => {
    if (!isRunning) {
      setSlot(null);
      return undefined;
    }
    const look = () => setSlot([...document.querySelectorAll<HTMLElement>('[data-tour-slot]')].at(-1) ?? null);
    look();
    // Dialogs are put at the end of the page.
    const observer = new MutationObserver(look);
    observer.observe(document.body, { childList: true });
    return () => observer.disconnect();
  }, [isRunning]);
  return slot;
}

/** Plays the tours of a room: points at the real control, waits for the action or shows the way. */
export function Player({ tours, screen }: { tours: Tour[]; screen: string }) {
  const { tour, stop, index, ended, control, situation, acted, off, strayed, taken, next, back, goTo, leave } =
    usePlayer(tours, screen);
  const card = useRef<HTMLDivElement>(null);
  const [ring, setRing] = useState<Box | null>(null);
  const [place, setPlace] = useState<CardPlace | null>(null);
  /** Where there is no room beside the control the card stands at the end of the window that is farther from it. */
  const [dock, setDock] = useState<'top' | 'bottom'>('bottom');
  /** Where one worked when the card was gone to. */
  const left = useRef<HTMLElement | null>(null);
  const id = useId();
  const slot = useDialog(tour !== null);
  const shown = tour !== null && (ended || situation !== null);

  useEffect(() => {
    if (!control) return undefined;
    const box = control.getBoundingClientRect();
    if (box.top < 60 || box.bottom > window.innerHeight - 60)
      control.scrollIntoView({ block: box.height > window.innerHeight * 0.6 ? 'start' : 'center' });
    return undefined;
  }, [control]);

  useEffect(() => {
    const floating = card.current;
    if (!control || !floating) {
      setRing(null);
      setPlace(null);
      return undefined;
    }
    return autoUpdate(control, floating, () => {
      const box = control.getBoundingClientRect();
      const top = Math.max(0, box.top - PAD);
      setRing({
        top,
        left: box.left - PAD,
        width: box.width + 2 * PAD,
        height: Math.min(window.innerHeight, box.bottom + PAD) - top,
      });
      if (window.innerWidth < NARROW_PX) {
        setPlace(null);
        setDock((box.top + box.bottom) / 2 > window.innerHeight / 2 ? 'top' : 'bottom');
        return;
      }
      void placeCard(control, floating).then((spot) => spot && setPlace(spot));
    });
  }, [control, stop, ended, slot]);

  // Each stop is read out from its beginning; an editor who is typing is not torn away.
  useEffect(() => {
    const at = document.activeElement;
    const isTyping =
      at instanceof HTMLElement &&
      at.closest('main') !== null &&
      (at.isContentEditable || at.matches('input, textarea'));
    if (shown && !slot && !isTyping) card.current?.focus({ preventScroll: true });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a dialog that closes gives the focus back by itself
  }, [shown, index, situation?.status, tour?.task]);

  // One key leads from where one works to the card and back: it stands far behind by Tab.
  useEffect(() => {
    if (!shown || slot) return undefined;
    const press = (event: KeyboardEvent) => {
      if (event.key !== 'F6' || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      const [at, floating] = [document.activeElement, card.current];
      if (!floating?.contains(at)) {
        if (at instanceof HTMLElement) left.current = at;
        floating?.focus({ preventScroll: true });
      } else if (left.current?.isConnected && left.current !== document.body) left.current.focus();
      else if (control) firstActive(control).focus();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [shown, slot, control]);

  if (!tour || !shown) return null;
  const total = tour.stops.length;
  const door = stop?.control.startsWith('door.') ?? false;
  const onward = index + 1 === total ? 'Finish' : 'Next';
  const rest = index + 1 === total ? 'Finish ends the tour without it' : 'Next shows the rest of the way';
  const waiting = acted
    ? `Good. Press ${onward} when you are done.`
    : off && stop?.await === 'press'
      ? `It cannot be pressed while there is nothing to do with it. ${rest}.`
      : stop && stop.until.length > 0
        ? `Waits until it is done; ${rest}.`
        : stop?.await === 'press' && !door
          ? 'Waits until you press it.'
          : stop?.await === 'type'
            ? 'Waits until you type.'
            : '';
  // Into a dialog that a stop leads to the tour follows with its words; any other lies over it.
  if (slot) {
    const isWithin = control !== null && slot.parentElement?.contains(control);
    return !ended && stop !== null && (isWithin || (stop.until.length > 0 && !strayed))
      ? createPortal(
          <div className="note note-pine mb-3" data-tour="dialog">
            <p className="clip">
              <strong>
                Stop {index + 1} of {total}
                {/* What it says to press has been pressed. */}
                {isWithin ? `: ${stop.title}.` : '.'}
              </strong>{' '}
              {stop.text}
            </p>
            <button type="button" className="link underline" onClick={leave}>
              Leave the tour
            </button>
          </div>,
          slot,
        )
      : null;
  }
  return (
    <>
      {ring && (
        <div
          aria-hidden="true"
          className="pointer-events-none fixed z-30 rounded-[10px] border-[3px] border-ring"
          style={{ ...ring, boxShadow: '0 0 0 9999px rgb(28 43 42 / 0.38)' }}
        />
      )}
      <div
        ref={card}
        role="dialog"
        aria-labelledby={`${id}-title`}
        aria-describedby={`${id}-text`}
        tabIndex={-1}
        onKeyDown={(event) => {
          if (event.key === 'Escape') leave();
        }}
        data-tour={situation?.status ?? 'ended'}
        data-stop={stop?.control}
        className="card fixed z-40 max-h-[45vh] w-[min(23rem,calc(100vw-1.5rem))] overflow-y-auto p-5 shadow-xl outline-none max-sm:p-3.5"
        style={
          place ? { left: place.left, top: place.top } : { left: '50%', [dock]: '1rem', transform: 'translateX(-50%)' }
        }
      >
        <div className="mb-2 flex items-center justify-between gap-3">
          <span className="pill pill-pine min-w-0">
            <Icon name="way" size={15} /> <span className="truncate">{tour.name}</span>
          </span>
          <span className="shrink-0 text-sm text-ink-2">{ended ? 'The end' : `Stop ${index + 1} of ${total}`}</span>
        </div>
        {ended ? (
          <>
            <h2 id={`${id}-title`}>{taken ? 'You have done it' : 'That is the way'}</h2>
            <p id={`${id}-text`} className="my-2">
              {taken
                ? `“${tour.name}”: this is how it goes, and you have done it once.`
                : `You have seen the way to “${tour.name.charAt(0).toLowerCase() + tour.name.slice(1)}”.${isToDo(tour) ? ' It counts as taken once you have done it.' : ''}`}{' '}
              The tour stays under Tours, should you need it again.
            </p>
          </>
        ) : (
          <>
            <h2 id={`${id}-title`} className="clip" aria-live="polite">
              {stop?.title}
            </h2>
            <div id={`${id}-text`} className="clip my-2">
              {situation?.status === 'pointing' && stop?.text}
              {situation?.status === 'waiting' && `Looking for “${stop?.controlName}”…`}
              {situation?.status === 'elsewhere' &&
                (situation.first
                  ? `“${stop?.controlName}” is on a screen further on. First: ${situation.first}.`
                  : `“${stop?.controlName}” is on another screen.`)}
              {situation?.status === 'absent' && (
                <>
                  {situation.why} The tour goes on without it: press {onward}.
                </>
              )}
            </div>
            <p role="status" className="text-sm font-semibold text-pine">
              {situation?.status === 'pointing' && waiting}
            </p>
            {situation?.status === 'pointing' && stop?.await === 'type' && (
              <p className="text-sm text-ink-2 max-sm:hidden">
                <kbd>F6</kbd> leads from the words to here and back.
              </p>
            )}
          </>
        )}
        <div
          role="progressbar"
          aria-label="How far the tour is"
          aria-valuemin={0}
          aria-valuemax={total}
          aria-valuenow={Math.min(index + 1, total)}
          className="my-3 h-1.5 rounded-full bg-line"
        >
          <div
            className="h-full rounded-full bg-pine"
            style={{ width: `${(Math.min(index + 1, total) / total) * 100}%` }}
          />
        </div>
        <div className="flex flex-wrap items-center justify-end gap-2">
          {ended ? (
            <button type="button" className="btn btn-main" onClick={leave}>
              Done
            </button>
          ) : (
            <>
              <button type="button" className="btn btn-quiet btn-small mr-auto -ml-2" onClick={leave}>
                Leave the tour
              </button>
              {control && (
                <button
                  type="button"
                  className="sr-only focus:not-sr-only focus:btn focus:btn-small"
                  onClick={() => firstActive(control).focus()}
                >
                  Go to “{stop?.controlName}”
                </button>
              )}
              {index > 0 && (
                <button type="button" className="btn" onClick={back}>
                  Back
                </button>
              )}
              {situation?.status === 'elsewhere' && situation.back !== null ? (
                <button type="button" className="btn btn-main" onClick={() => goTo(situation.back ?? 0)}>
                  Back to that stop
                </button>
              ) : situation?.status === 'elsewhere' ? (
                <a className="btn btn-main" href={situation.path}>
                  Take me there
                </a>
              ) : (
                <button type="button" className="btn btn-main" onClick={next}>
                  {onward}
                </button>
              )}
            </>
          )}
        </div>
      </div>
    </>
  );
}
