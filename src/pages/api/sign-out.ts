import type { APIRoute } from 'astro';
import { db } from '@/server/db/client';
import { answerFault, json } from '@/server/gate/endpoint';
import { refuseForeign } from '@/server/gate/origin';
import { endSession, hashToken, readCookie, sessionCookie } from '@/server/gate/sessions';

/** Ends the session. Open to everybody: it can only end one's own. */
export const POST: APIRoute = async ({ request }) => {
  try {
    refuseForeign(request);
    const token = readCookie(request);
    if (token) await endSession(db, hashToken(token));
    return json({ to: '/sign-in' }, 200, { 'set-cookie': sessionCookie(request, null) });
  } catch (error) {
    return answerFault(error, request);
  }
};
