import { useEffect, useRef, useState } from 'react';
import type { Present } from '@/core/wire';
import { newKey, send } from '../kit/send';

const EVERY_MS = 15_000;
/** While somebody else is there: what they write is here soon after. */
const TOGETHER_MS = 5_000;
/** Who came at the same moment is seen a little later. */
const ONCE_MORE_MS = 2_500;

/**
 * Says every few seconds that the page is open here, and who else has it open. `onVersion` learns which version of the
 * draft there is.
 */
export function usePresence(item: string, typing: boolean, onVersion: (version: number) => void): Present[] {
  const [others, setOthers] = useState<Present[]>([]);
  const isTogether = others.length > 0;
  const heard = useRef(onVersion);
  heard.current = onVersion;
  const now = useRef(typing);
  now.current = typing;
  useEffect(() => {
    const path = `/api/items/${item}/presence` as const;
    const tell = () =>
      void send('POST', path, { typing: now.current }).then((sent) => {
        if (!sent.ok) return;
        setOthers(sent.value.others);
        heard.current(sent.value.version);
      });
    const leave = () =>
      void fetch(path, {
        method: 'POST',
        keepalive: true,
        headers: { 'content-type': 'application/json', 'idempotency-key': newKey() },
        body: JSON.stringify({ typing: false, leaving: true }),
      }).catch(() => undefined);
    tell();
    const onceMore = setTimeout(tell, ONCE_MORE_MS);
    const timer = setInterval(tell, isTogether ? TOGETHER_MS : EVERY_MS);
    window.addEventListener('pagehide', leave);
    return () => {
      clearTimeout(onceMore);
      clearInterval(timer);
      window.removeEventListener('pagehide', leave);
    };
  }, [item, isTogether]);
  return others;
}
