import { Problem } from '../gate/problems';

/** Of things done together, those that could not be done, each with why. */
export type Refused = ReadonlyMap<number, Problem>;

/**
 * Looks at each for what stands in its way, before anything is done with any of them. `check` gives what doing it
 * needs, or throws a Problem.
 */
export function sortOut<T>(
  ids: readonly number[],
  check: (id: number) => T,
): { can: ReadonlyMap<number, T>; refused: Refused } {
  const can = new Map<number, T>();
  const refused = new Map<number, Problem>();
  for (const id of ids)
    try {
      can.set(id, check(id));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      refused.set(id, error as Problem);
    }
  return { can, refused };
}

/** Where just one was asked for: throws what stood in its way. */
export function mustBeDone(refused: Refused): void {
  for (const problem of refused.values()) throw problem;
}
