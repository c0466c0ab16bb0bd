import { changeDuty } from '@/server/duties/duties';
import { endpoint } from '@/server/gate/endpoint';

/** Changes a duty, or hands it over to somebody else. */
export const PUT = endpoint('PUT /api/duties/[id]', {
  needs: 'duty.manage',
  run: ({ tx, access, id, body }) => changeDuty(tx, access, id, body),
});
