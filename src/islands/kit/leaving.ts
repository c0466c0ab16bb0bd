import { useEffect, useRef } from 'react';

/** What on a screen is not yet with the server. */
interface Unsent {
  isThere: () => boolean;
  /** Sends it; whether one may leave then. */
  settle: () => Promise<boolean>;
}
const all = new Set<Unsent>();
const settleAll = async (): Promise<boolean> =>
  (await Promise.all([...all].filter((one) => one.isThere()).map((one) => one.settle()))).every(Boolean);

/** Loads the screen anew, when what was typed on it is with the server. */
export async function reload(): Promise<void> {
  if (await settleAll()) location.reload();
}

/**
 * Links away are followed when what is not yet with the server is there, what is set by the very press, too. Only where
 * something would be lost does the browser ask.
 */
export function useUnsent(given: Unsent): void {
  const latest = useRef(given);
  latest.current = given;
  useEffect(() => {
    const mine: Unsent = { isThere: () => latest.current.isThere(), settle: () => latest.current.settle() };
    const wait = (event: MouseEvent) => {
      const link = event.target instanceof Element ? event.target.closest('a') : null;
      if (!link || link.target || link.origin !== location.origin || link.pathname === location.pathname) return;
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.shiftKey || !mine.isThere()) return;
      event.preventDefault();
      void settleAll().then((may) => may && location.assign(link.href));
    };
    const warn = (event: BeforeUnloadEvent) => {
      if (mine.isThere()) event.preventDefault();
    };
    all.add(mine);
    window.addEventListener('click', wait);
    window.addEventListener('beforeunload', warn);
    return () => {
      all.delete(mine);
      window.removeEventListener('click', wait);
      window.removeEventListener('beforeunload', warn);
    };
  }, []);
}
