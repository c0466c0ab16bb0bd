import { endpoint } from '@/server/gate/endpoint';
import { readCookie } from '@/server/gate/sessions';
import { changePassword } from '@/server/gate/sign-in';

/** Changes the password of whoever is signed in. */
export const PUT = endpoint('PUT /api/own-password', {
  needs: 'signed-in',
  run: ({ tx, access, body, request }) => changePassword(tx, access, body, readCookie(request)),
});
