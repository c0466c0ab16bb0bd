import type { APIRoute } from 'astro';
import { z } from 'zod';
import { db } from '@/server/db/client';
import { readBody } from '@/server/gate/body';
import { answerFault, json, parseBody } from '@/server/gate/endpoint';
import { refuseForeign } from '@/server/gate/origin';
import { passwordSchema } from '@/server/gate/password';
import { sessionCookie } from '@/server/gate/sessions';
import { choosePassword, setUpKeyholder } from '@/server/gate/set-up';

const token = z.string().max(200);
const keyholder = z.strictObject({
  token,
  name: z.string().trim().min(1, 'Say your name.').max(300),
  email: z.email('Write a mail address, like maud@example.org.').max(300),
  password: passwordSchema,
});
const person = z.strictObject({ token, password: passwordSchema });

/**
 * Makes the first keyholder by the link that the start command prints, or takes the password somebody invited has
 * chosen; once.
 */
export const POST: APIRoute = async ({ request }) => {
  try {
    refuseForeign(request);
    const raw = await readBody(request);
    const isFirst = typeof raw === 'object' && raw !== null && 'email' in raw;
    const session = await db.transaction((tx) =>
      isFirst ? setUpKeyholder(tx, parseBody(keyholder, raw)) : choosePassword(tx, parseBody(person, raw)),
    );
    return json({ to: isFirst ? '/workshop' : '/room' }, 200, { 'set-cookie': sessionCookie(request, session) });
  } catch (error) {
    return answerFault(error, request);
  }
};
