import { endpoint } from '@/server/gate/endpoint';
import { forgetWrongTries } from '@/server/gate/sign-in';

/** Says that one has read of wrong tries with one's own mail address. */
export const PUT = endpoint('PUT /api/own-tries', {
  needs: 'signed-in',
  run: async ({ tx, access }) => void (await forgetWrongTries(tx, access)),
});
