import type { APIRoute } from 'astro';
import { z } from 'zod';
import { db } from '@/server/db/client';
import { answerFault, json, parseBody, readBody, refuseForeign } from '@/server/gate/endpoint';
import { sessionCookie } from '@/server/gate/sessions';
import { signIn } from '@/server/gate/sign-in';

const body = z.strictObject({ email: z.string().trim().max(300), password: z.string().max(1000), next: z.string().max(500).optional() });

/** Begins a session. Open to everybody; wrong tries are counted. */
export const POST: APIRoute = async ({ request, clientAddress }) => {
  try {
    refuseForeign(request);
    const given = parseBody(body, await readBody(request));
    const { token, to } = await signIn(db, given, clientAddress);
    return json({ to }, 200, { 'set-cookie': sessionCookie(request, token) });
  } catch (error) {
    return answerFault(error, request);
  }
};
