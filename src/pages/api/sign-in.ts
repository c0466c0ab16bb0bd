import type { APIRoute } from 'astro';
import { ROUTES } from '@/core/wire';
import { db } from '@/server/db/client';
import { readBody } from '@/server/gate/body';
import { answerFault, json, parseBody } from '@/server/gate/endpoint';
import { hostOf, refuseForeign } from '@/server/gate/origin';
import { browserCookie, newToken, readBrowserCookie, readCookie, sessionCookie } from '@/server/gate/sessions';
import { signIn } from '@/server/gate/sign-in';

/** Begins a session. Open to everybody; wrong tries are counted. */
export const POST: APIRoute = async ({ request, clientAddress }) => {
  try {
    refuseForeign(request);
    const given = parseBody(ROUTES['POST /api/sign-in'].body, await readBody(request, 'little'));
    const browser = readBrowserCookie(request);
    const newBrowser = browser ?? newToken();
    const { token, to } = await signIn(db, given, {
      address: clientAddress,
      host: hostOf(request),
      browser,
      session: readCookie(request),
      newBrowser,
    });
    const answer = json({ to }, 200, { 'set-cookie': sessionCookie(request, token) });
    answer.headers.append('set-cookie', browserCookie(request, newBrowser));
    return answer;
  } catch (error) {
    return answerFault(error, request);
  }
};
