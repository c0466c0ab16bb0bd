import { useCallback, useEffect, useState } from 'react';
import type { PickedPage } from '@/core/wire';
import { send, type ProblemDetails, type Sent } from './send';

/**
 * Which pages: all somebody may know of, those on which they may do something (a permission), or, for whoever prepares
 * rooms, all there are.
 */
export type PageSource = 'seen' | 'plan' | `${string}.${string}`;
const addressOf = (source: PageSource) =>
  source === 'plan'
    ? '/api/workshop/pages'
    : source === 'seen'
      ? '/api/pages/pick'
      : (`/api/pages/pick?for=${encodeURIComponent(source)}` as const);

const asked = new Map<PageSource, Promise<Sent<{ pages: PickedPage[] }>>>();

/**
 * Pages of the site: asked for once a screen, by the first that needs them, so that no screen carries all of them. Null
 * until they are there; `again` asks once more after a problem. Pages given are there at once.
 */
export function usePages<P extends PickedPage = PickedPage>(
  source: PageSource | readonly P[],
): { pages: readonly P[] | null; problem: ProblemDetails | null; again: () => void } {
  const [pages, setPages] = useState<readonly P[] | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const isGiven = typeof source !== 'string';
  const again = useCallback(() => {
    if (typeof source !== 'string') return;
    setProblem(null);
    const asking = asked.get(source) ?? send('GET', addressOf(source));
    asked.set(source, asking);
    void asking.then((sent) => {
      if (sent.ok) return setPages(sent.value.pages as P[]);
      asked.delete(source);
      setProblem(sent.problem);
    });
  }, [source]);
  // What is given is another list each time; only what is to be asked for is asked for.
  useEffect(() => {
    if (!isGiven) again();
  }, [isGiven, again]);
  return { pages: isGiven ? source : pages, problem, again };
}
