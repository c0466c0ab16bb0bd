import { endpoint } from '@/server/gate/endpoint';
import { stepOut } from '@/server/gate/step-in';

/** Ends a trial. */
export const POST = endpoint({ needs: 'signed-in', evenInTrial: true, run: ({ tx, access }) => stepOut(tx, access) });
