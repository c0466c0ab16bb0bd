import { endpoint } from '@/server/gate/endpoint';
import { stepOut } from '@/server/gate/step-in';

/** Ends a trial. */
export const POST = endpoint('POST /api/workshop/step-out', {
  needs: 'signed-in',
  evenInTrial: true,
  run: ({ tx, access }) => stepOut(tx, access),
});
