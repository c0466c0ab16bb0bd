import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { tellPreparing } from '@/server/plan/presence';

/** Says which role somebody prepares, and asks who else prepares what. */
export const POST = endpoint({
  needs: 'plan.view',
  body: z.strictObject({ role: z.string().max(80).nullable() }),
  run: ({ tx, access, body }) => tellPreparing(tx, access, body.role),
});
