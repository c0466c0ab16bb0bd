import { createHash, randomBytes } from 'node:crypto';
import { eq, lt } from 'drizzle-orm';
import { now } from '../clock';
import type { Tx } from '../db/client';
import { people, sessions } from '../db/schema';

const COOKIE = 'safe_room_session';
const LASTS_MS = 12 * 3600_000;

export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
export const newToken = (): string => randomBytes(32).toString('base64url');

export function readCookie(request: Request): string | undefined {
  for (const part of (request.headers.get('cookie') ?? '').split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === COOKIE && value) return value;
  }
  return undefined;
}

/** `Secure` only over HTTPS, so that http://127.0.0.1 works; browsers treat Lax as same-site only for anything that writes. */
export function sessionCookie(request: Request, token: string | null): string {
  const https = new URL(request.url).protocol === 'https:' || request.headers.get('x-forwarded-proto') === 'https';
  const life = token === null ? 'Max-Age=0' : `Max-Age=${LASTS_MS / 1000}`;
  return `${COOKIE}=${token ?? ''}; Path=/; HttpOnly; SameSite=Lax; ${life}${https ? '; Secure' : ''}`;
}

/** Begins a session and clears those that are over. Runs in a transaction. */
export async function beginSession(tx: Tx, siteId: number, personId: number): Promise<string> {
  const token = newToken();
  await tx.delete(sessions).where(lt(sessions.expiresAt, now()));
  await tx.insert(sessions).values({ tokenHash: hashToken(token), siteId, personId, expiresAt: new Date(now().getTime() + LASTS_MS) });
  await tx.update(people).set({ lastSeenAt: now() }).where(eq(people.id, personId));
  return token;
}

export const endSession = (tx: Tx, tokenHash: string) => tx.delete(sessions).where(eq(sessions.tokenHash, tokenHash));
