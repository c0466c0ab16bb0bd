import { useEffect, useState } from 'react';
import type { PageContent } from '@/core/content';
import type { JudgedFinding } from '@/core/wire';
import { send } from '../kit/send';

const AFTER_CHANGE_MS = 900;

/**
 * What may be wrong with what is on the screen, looked at again a moment after every change. Null until the first
 * answer.
 */
export function useChecks(item: string, content: PageContent, on: boolean): JudgedFinding[] | null {
  const [findings, setFindings] = useState<JudgedFinding[] | null>(null);
  useEffect(() => {
    if (!on) return undefined;
    let current = true;
    const timer = setTimeout(() => {
      void send('POST', `/api/items/${item}/check`, { content }).then(
        (sent) => current && sent.ok && setFindings(sent.value.findings),
      );
    }, AFTER_CHANGE_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [item, content, on]);
  return findings;
}
