import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { passwordSchema } from '@/server/gate/password';
import { readCookie } from '@/server/gate/sessions';
import { changePassword } from '@/server/gate/sign-in';

/** Changes the password of whoever is signed in. */
export const PUT = endpoint({
  needs: 'signed-in',
  body: z.strictObject({ current: z.string().max(1000), password: passwordSchema }),
  run: ({ tx, access, body, request }) => changePassword(tx, access, body, readCookie(request)),
});
