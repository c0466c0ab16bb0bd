import type { Body, Gets, Kind, RouteAt, Sends } from '@/core/wire';

/** A refusal or failure as the server tells it (RFC 9457), or as the network's silence is told. */
export interface ProblemDetails {
  /** What kind of refusal it is, and which one. */
  kind: Kind | 'offline';
  code: string;
  status: number;
  title: string;
  detail: string;
  faults?: { field: string; message: string }[];
  [more: string]: unknown;
}

export type Sent<T> = { ok: true; value: T & { trial?: true } } | { ok: false; problem: ProblemDetails };

const OFFLINE: ProblemDetails = {
  kind: 'offline',
  code: 'offline',
  status: 0,
  title: 'No answer',
  detail: 'The website does not answer. Nothing was lost; try again in a moment.',
};

type Method = 'GET' | 'POST' | 'PUT';

export const newKey = (): string => crypto.randomUUID();

/**
 * Sends a request to an endpoint of ours, whose contract says by its address what goes and what comes. Never throws:
 * what goes wrong comes back as a problem. A request that writes carries a key, so that sending it twice has one effect;
 * give the same key to try the same thing again.
 */
export async function send<M extends Method, P extends string>(
  method: M,
  path: P,
  ...given: [...Body<RouteAt<M, P>>, key?: string]
): Promise<Sent<Gets<RouteAt<M, P>>>> {
  type T = Gets<RouteAt<M, P>>;
  const [body, key = newKey()] = given as unknown as [body?: unknown, key?: string];
  try {
    const response = await fetch(path, {
      method,
      headers: {
        accept: 'application/json',
        ...(method !== 'GET' && { 'content-type': 'application/json', 'idempotency-key': key }),
      },
      ...(method !== 'GET' && { body: JSON.stringify(body ?? {}) }),
    });
    const value: unknown = await response.json().catch(() => null);
    if (response.ok) return { ok: true, value: (value ?? {}) as T & { trial?: true } };
    if (value && typeof value === 'object' && 'detail' in value) return { ok: false, problem: value as ProblemDetails };
    return {
      ok: false,
      problem: {
        ...OFFLINE,
        status: response.status,
        detail: 'Something went wrong, and nothing was lost. Try again in a moment.',
      },
    };
  } catch {
    return { ok: false, problem: OFFLINE };
  }
}

/** Sends long work and is told how far it has come. Never throws. */
export async function sendLong<P extends string>(
  path: P,
  body: Sends<RouteAt<'POST', P>>,
  onProgress: (done: number) => void,
): Promise<Sent<Gets<RouteAt<'POST', P>>>> {
  type T = Gets<RouteAt<'POST', P>>;
  try {
    const response = await fetch(path, {
      method: 'POST',
      headers: { accept: 'application/x-ndjson', 'content-type': 'application/json', 'idempotency-key': newKey() },
      body: JSON.stringify(body),
    });
    const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
    let rest = '';
    for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
      const lines = (rest + part.value).split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) {
        const told = JSON.parse(line) as { done?: number; value?: T & { trial?: true }; problem?: ProblemDetails };
        if (told.done !== undefined) onProgress(told.done);
        if (told.value) return { ok: true, value: told.value };
        if (told.problem) return { ok: false, problem: told.problem };
      }
    }
    return { ok: false, problem: OFFLINE };
  } catch {
    return { ok: false, problem: OFFLINE };
  }
}
