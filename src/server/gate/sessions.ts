import { createHash, randomBytes } from 'node:crypto';
import { eq, lt } from 'drizzle-orm';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, sessions } from '../db/schema';
import { originOf } from './origin';

const COOKIE = 'safe_room_session';
const LASTS_MS = 12 * 3600_000;
const BROWSER_COOKIE = 'safe_room_browser';
const BROWSER_LASTS_S = 400 * 86_400;

export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
export const newToken = (): string => randomBytes(32).toString('base64url');

function findCookie(request: Request, wanted: string): string | undefined {
  for (const part of (request.headers.get('cookie') ?? '').split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === wanted && value) return value;
  }
  return undefined;
}

export const readCookie = (request: Request): string | undefined => findCookie(request, COOKIE);
/** The token a browser keeps once somebody has signed in from it; it lets nobody in by itself. */
export const readBrowserCookie = (request: Request): string | undefined => findCookie(request, BROWSER_COOKIE);

/**
 * `Secure` only over HTTPS, so that http://127.0.0.1 works; browsers treat Lax as same-site only for anything that
 * writes.
 */
export function sessionCookie(request: Request, token: string | null): string {
  return cookie(request, COOKIE, token ?? '', token === null ? 0 : LASTS_MS / 1000);
}

export const browserCookie = (request: Request, browser: string): string =>
  cookie(request, BROWSER_COOKIE, browser, BROWSER_LASTS_S);

const cookie = (request: Request, name: string, value: string, lastsS: number) =>
  `${name}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${lastsS}${originOf(request).startsWith('https:') ? '; Secure' : ''}`;

/** Begins a session and clears those that are over. Runs in a transaction. */
export async function beginSession(tx: Tx, siteId: number, personId: number): Promise<string> {
  const token = newToken();
  await tx.delete(sessions).where(lt(sessions.expiresAt, now()));
  await tx
    .insert(sessions)
    .values({ tokenHash: hashToken(token), siteId, personId, expiresAt: new Date(now().getTime() + LASTS_MS) });
  await tx.update(people).set({ lastSeenAt: now() }).where(eq(people.id, personId));
  return token;
}

export const endSession = (tx: Tx, tokenHash: string) => tx.delete(sessions).where(eq(sessions.tokenHash, tokenHash));
