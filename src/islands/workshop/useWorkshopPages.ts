import { useCallback, useEffect, useState } from 'react';
import { send, type ProblemDetails } from '../kit/send';
import type { WorkshopPage } from './model';

/** Every page of the site, asked for once the screen is there, so that no screen carries all of them; null until they have come. */
export function useWorkshopPages(): {
  pages: WorkshopPage[] | null;
  problem: ProblemDetails | null;
  again: () => void;
} {
  const [pages, setPages] = useState<WorkshopPage[] | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const again = useCallback(() => {
    setProblem(null);
    void send<{ pages: WorkshopPage[] }>('GET', '/api/workshop/pages').then((sent) =>
      sent.ok ? setPages(sent.value.pages) : setProblem(sent.problem),
    );
  }, []);
  useEffect(again, [again]);
  return { pages, problem, again };
}
