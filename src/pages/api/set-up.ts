import type { APIRoute } from 'astro';
import { invitedSchema, keyholderSchema } from '@/core/wire';
import { db } from '@/server/db/client';
import { readBody } from '@/server/gate/body';
import { answerFault, json, parseBody } from '@/server/gate/endpoint';
import { refuseForeign } from '@/server/gate/origin';
import { sessionCookie } from '@/server/gate/sessions';
import { choosePassword, setUpKeyholder } from '@/server/gate/set-up';

/**
 * Makes the first keyholder by the link that the start command prints, or takes the password somebody invited has
 * chosen; once.
 */
export const POST: APIRoute = async ({ request }) => {
  try {
    refuseForeign(request);
    const raw = await readBody(request, 'little');
    const isFirst = typeof raw === 'object' && raw !== null && 'email' in raw;
    const session = await db.transaction((tx) =>
      isFirst ? setUpKeyholder(tx, parseBody(keyholderSchema, raw)) : choosePassword(tx, parseBody(invitedSchema, raw)),
    );
    return json({ to: isFirst ? '/workshop' : '/room' }, 200, { 'set-cookie': sessionCookie(request, session) });
  } catch (error) {
    return answerFault(error, request);
  }
};
