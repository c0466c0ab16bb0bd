import { endpoint } from '@/server/gate/endpoint';
import { changeOwnToday } from '@/server/today/own';

/** Changes how one's own Today is arranged, within what the plan leaves free. */
export const PUT = endpoint('PUT /api/own-today', {
  needs: 'signed-in',
  run: ({ tx, access, body }) => changeOwnToday(tx, access, body),
});
