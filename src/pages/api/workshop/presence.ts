import { endpoint } from '@/server/gate/endpoint';
import { tellPreparing } from '@/server/plan/presence';

/** Says which role somebody prepares, and asks who else prepares what. */
export const POST = endpoint('POST /api/workshop/presence', {
  needs: 'plan.view',
  run: ({ tx, access, body }) => tellPreparing(tx, access, body.role),
});
