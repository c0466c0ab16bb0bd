import { useState } from 'react';
import type { ProblemDetails, Sent } from '../kit/send';

/** What a dialog shows once it is open: asked for each time it opens, so that it is of now. */
export function useLoaded<T>(ask: () => Promise<Sent<T>>) {
  const [isOpen, setOpen] = useState(false);
  const [loaded, setLoaded] = useState<T | null>(null);
  const [problem, setProblem] = useState<ProblemDetails | null>(null);
  const open = async () => {
    setOpen(true);
    setLoaded(null);
    setProblem(null);
    const sent = await ask();
    if (sent.ok) setLoaded(sent.value);
    else setProblem(sent.problem);
  };
  return { isOpen, open: () => void open(), close: () => setOpen(false), loaded, problem };
}
