import { removeDuty } from '@/server/duties/duties';
import { endpoint } from '@/server/gate/endpoint';

/** Takes a duty out of the list. */
export const POST = endpoint('POST /api/duties/[id]/remove', {
  needs: 'duty.manage',
  run: ({ tx, access, id }) => removeDuty(tx, access, id),
});
