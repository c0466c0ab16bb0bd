import { config } from '../config';
import { Problem } from './problems';

const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])(:\d{1,5})?$/i;

/** Whether a request asks for this site by a name it may be asked by. */
export const isOurHost = (request: Request): boolean =>
  config.ORIGIN !== undefined || LOOPBACK.test(request.headers.get('host') ?? '');

/**
 * Where this site is reached, for links that leave it and for cookies: from the settings, never from what a request
 * says of itself.
 */
export function originOf(request: Request): string {
  if (config.ORIGIN !== undefined) return config.ORIGIN;
  const host = request.headers.get('host') ?? '';
  return `http://${LOOPBACK.test(host) ? host.toLowerCase() : `127.0.0.1:${config.PORT}`}`;
}

/** The name this site is asked by. */
export const hostOf = (request: Request): string => new URL(originOf(request)).host;

/**
 * Refuses what a page of another origin sends: whatever writes must come from this site (OWASP CSRF Prevention Cheat
 * Sheet, "Fetch Metadata" and "Verifying Origin").
 */
export function refuseForeign(request: Request): void {
  if (!isOurHost(request)) throw new Problem('unknown-host');
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const origin = request.headers.get('origin');
  const ours = origin
    ? origin.toLowerCase() === originOf(request)
    : request.headers.get('sec-fetch-site') === 'same-origin';
  if (!ours) throw new Problem('foreign-request');
}
