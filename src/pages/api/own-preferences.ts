import { endpoint } from '@/server/gate/endpoint';
import { changePreferences } from '@/server/own';

/** Chooses how one reads the back office. */
export const PUT = endpoint('PUT /api/own-preferences', {
  needs: 'signed-in',
  run: ({ tx, access, body }) => changePreferences(tx, access, body),
});
