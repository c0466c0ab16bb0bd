import { useEffect, useRef, useState } from 'react';
import type { Present } from '@/core/wire';
import { newKey, send } from '../kit/send';

const EVERY_MS = 15_000;
/** Who came at the same moment is seen a little later. */
const ONCE_MORE_MS = 2_500;

/** Says every few seconds that the page is open here, and who else has it open. */
export function usePresence(item: string, typing: boolean): Present[] {
  const [others, setOthers] = useState<Present[]>([]);
  const now = useRef(typing);
  now.current = typing;
  useEffect(() => {
    const path = `/api/items/${item}/presence` as const;
    const tell = () =>
      void send('POST', path, { typing: now.current }).then((sent) => sent.ok && setOthers(sent.value.others));
    const leave = () =>
      void fetch(path, {
        method: 'POST',
        keepalive: true,
        headers: { 'content-type': 'application/json', 'idempotency-key': newKey() },
        body: JSON.stringify({ typing: false, leaving: true }),
      }).catch(() => undefined);
    tell();
    const onceMore = setTimeout(tell, ONCE_MORE_MS);
    const timer = setInterval(tell, EVERY_MS);
    window.addEventListener('pagehide', leave);
    return () => {
      clearTimeout(onceMore);
      clearInterval(timer);
      window.removeEventListener('pagehide', leave);
    };
  }, [item]);
  return others;
}
