import type { Happening } from '@/core/inventory';

const EVENT = 'safe-room-happened';

/** Says that something was done, for whoever waits for it: a tour. */
export const happened = (what: Happening): boolean => window.dispatchEvent(new CustomEvent(EVENT, { detail: what }));

/** Says that a request that writes was answered, whichever thing it was about. */
export const answered = (method: 'POST' | 'PUT', path: string): boolean =>
  happened(`${method} /api/${path.replace(/^\/api\//, '').replaceAll(/(?<=\/)\d+(?=\/|$)/g, '[id]')}`);

export function onHappened(hear: (what: Happening) => void): () => void {
  const listen = (event: Event) => hear((event as CustomEvent<Happening>).detail);
  window.addEventListener(EVENT, listen);
  return () => window.removeEventListener(EVENT, listen);
}
