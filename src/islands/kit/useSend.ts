import { useRef, useState } from 'react';
import type { Body, Gets, RouteAt } from '@/core/wire';
import { answered } from './happened';
import { newKey, send, type ProblemDetails, type Sent } from './send';

/** State of one action: nothing yet, under way, or refused with a problem. */
export type SendState = { status: 'idle' } | { status: 'busy' } | { status: 'problem'; problem: ProblemDetails };

/**
 * One action that writes, guarded against double clicks: while it is under way it cannot be started again, and a
 * retry after a failure carries the same key, so that it is done once at most.
 */
export function useSend() {
  const [state, setState] = useState<SendState>({ status: 'idle' });
  const busy = useRef(false);
  const key = useRef(newKey());
  async function act<M extends 'POST' | 'PUT', P extends string>(
    method: M,
    path: P,
    ...body: Body<RouteAt<M, P>>
  ): Promise<Sent<Gets<RouteAt<M, P>>> | null> {
    if (busy.current) return null;
    busy.current = true;
    setState({ status: 'busy' });
    const sent = await send(method, path, ...([body[0], key.current] as unknown as [...Body<RouteAt<M, P>>, string]));
    busy.current = false;
    if (sent.ok || sent.problem.status !== 0) key.current = newKey();
    if (sent.ok) answered(method, path);
    setState(sent.ok ? { status: 'idle' } : { status: 'problem', problem: sent.problem });
    return sent;
  }
  const faultOf = (field: string) =>
    state.status === 'problem' ? state.problem.faults?.find((f) => f.field === field)?.message : undefined;
  return {
    state,
    act,
    busy: state.status === 'busy',
    problem: state.status === 'problem' ? state.problem : null,
    faultOf,
    clear: () => setState({ status: 'idle' }),
  };
}
