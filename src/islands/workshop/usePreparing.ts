import { useEffect, useState } from 'react';
import { send } from '../kit/send';

export interface Preparing {
  name: string;
  role: string | null;
}
const EVERY_MS = 15_000;

/** Says which role is prepared here, and who else prepares what. */
export function usePreparing(role: string | null): Preparing[] {
  const [others, setOthers] = useState<Preparing[]>([]);
  useEffect(() => {
    const tell = () =>
      void send<{ others: Preparing[] }>('POST', '/api/workshop/presence', { role }).then(
        (sent) => sent.ok && setOthers(sent.value.others),
      );
    tell();
    const timer = setInterval(tell, EVERY_MS);
    return () => clearInterval(timer);
  }, [role]);
  return others;
}
