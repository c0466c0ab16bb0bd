import { anyOf } from './list';

/** The thing is in one of these states. */
export const states = {
  ...anyOf('state', (names) => `in what is ${names.join(' or ')}`),
  others: (all: readonly string[][], known: { states: readonly string[] }) =>
    (all.length > 0 ? known.states : known.states.slice(0, 1)).map((state) => ({ state })),
};
