import { useEffect, useState } from 'react';
import type { Preparing } from '@/core/wire';
import { send } from '../kit/send';

const EVERY_MS = 15_000;

/** Says which role is prepared here, and who else prepares what. */
export function usePreparing(role: string | null): Preparing[] {
  const [others, setOthers] = useState<Preparing[]>([]);
  useEffect(() => {
    const tell = () =>
      void send('POST', '/api/workshop/presence', { role }).then((sent) => sent.ok && setOthers(sent.value.others));
    tell();
    const timer = setInterval(tell, EVERY_MS);
    return () => clearInterval(timer);
  }, [role]);
  return others;
}
