/**
 * Content-Security-Policy for every page. Astro gives the hashes of its own inline scripts in a policy of its own
 * (`experimental.csp`); here they are joined with the rest. Inline styles are allowed, inline scripts are not.
 */
const BASE =
  "default-src 'self'; img-src 'self' data:; style-src 'self' 'unsafe-inline'; font-src 'self'; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-src 'self'; frame-ancestors 'self'";

export function withSecurityHeaders(response: Response, isPrivate: boolean): Response {
  const { headers } = response;
  if (headers.get('content-type')?.startsWith('text/html')) {
    const scripts = /script-src[^;]*/.exec(headers.get('content-security-policy') ?? '')?.[0] ?? "script-src 'self'";
    headers.set('content-security-policy', `${BASE}; ${scripts}`);
  }
  headers.set('x-content-type-options', 'nosniff');
  headers.set('referrer-policy', 'same-origin');
  headers.set('cross-origin-opener-policy', 'same-origin');
  headers.set('permissions-policy', 'camera=(), microphone=(), geolocation=()');
  if (isPrivate) headers.set('cache-control', 'no-store');
  return response;
}
