import type { Happening } from '@/core/inventory';

const EVENT = 'safe-room-happened';

/** What an answer of the server means has happened: the request as “METHOD /path”, with what it asked for. */
const RESULTS: readonly (readonly [Happening, RegExp])[] = [
  ['notice.posted', /^POST \/api\/notices$/],
  ['notice.ended', /^POST \/api\/notices\/\d+\/end$/],
  ['page.made', /^POST \/api\/pages$/],
  ['page.moved', /^POST \/api\/pages\/\d+\/move$/],
  ['page.retired', /^POST \/api\/pages\/\d+\/retire$/],
  ['page.sent', /^POST \/api\/pages\/\d+\/send$/],
  ['page.published', /^POST \/api\/pages\/\d+\/publish$/],
  ['picture.described', /^POST \/api\/pictures\/\d+\/describe$/],
  ['review.decided', /^POST \/api\/review\/\d+\/decide$/],
  ['person.invited', /^POST \/api\/people$/],
];

/** Says that something was done, for whoever waits for it: a tour. */
export const happened = (what: Happening): boolean => window.dispatchEvent(new CustomEvent(EVENT, { detail: what }));

/** Says what an answer means, if anything. */
export function answered(method: string, path: string): void {
  const result = RESULTS.find(([, pattern]) => pattern.test(`${method} ${path}`));
  if (result) happened(result[0]);
}

export function onHappened(hear: (what: Happening) => void): () => void {
  const listen = (event: Event) => hear((event as CustomEvent<Happening>).detail);
  window.addEventListener(EVENT, listen);
  return () => window.removeEventListener(EVENT, listen);
}
