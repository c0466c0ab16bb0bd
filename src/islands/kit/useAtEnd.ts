import { useEffect, useRef } from 'react';

/** Does something, as it is by then, when a part of the screen goes. */
export function useAtEnd(act: () => void): void {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => () => latest.current(), []);
}
