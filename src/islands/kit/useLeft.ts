import { useEffect, useRef } from 'react';

const ENDS = ['pointerup', 'pointercancel', 'click', 'keydown', 'change'];
/** Whether an event ends a press. A list that opens under the pointer keeps its end to itself; it changes at most. */
const isEnd = ({ type, target }: Event) => type !== 'change' || target instanceof HTMLSelectElement;

let isPressed = false;
let due: (() => void)[] = [];
if (typeof window !== 'undefined') {
  window.addEventListener('pointerdown', () => (isPressed = true), true);
  for (const end of ENDS)
    window.addEventListener(
      end,
      (event) => {
        if (!isEnd(event)) return;
        isPressed = false;
        const acts = due;
        due = [];
        for (const act of acts) act();
      },
      true,
    );
}

/**
 * For a field that sets what was typed when it is left: gives what its `blur` does. It is done, too, when the field goes
 * from the screen. Where the field is left by a press, it is done when the pointer is let go, before the press counts:
 * what moves on the screen meanwhile would slip from under the pointer, and the press be lost.
 */
export function useLeft(commit: () => void): () => void {
  const latest = useRef(commit);
  latest.current = commit;
  const isGone = useRef(false);
  useEffect(() => {
    isGone.current = false;
    return () => {
      isGone.current = true;
      latest.current();
    };
  }, []);
  return () => {
    const act = () => {
      if (!isGone.current) latest.current();
    };
    if (isPressed) due.push(act);
    else act();
  };
}
