import { makeDuty } from '@/server/duties/duties';
import { endpoint } from '@/server/gate/endpoint';

/** Gives somebody something to look after. */
export const POST = endpoint('POST /api/duties', {
  needs: 'duty.manage',
  run: ({ tx, access, body }) => makeDuty(tx, access, body),
});
