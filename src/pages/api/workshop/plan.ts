import { endpoint } from '@/server/gate/endpoint';
import { changePlan } from '@/server/plan/changes';

/** Applies operations to the prepared plan; `role` is the one that is prepared. */
export const POST = endpoint('POST /api/workshop/plan', {
  needs: 'plan.edit',
  run: ({ tx, access, body }) => changePlan(tx, access, body.revision, body.operations, body.role),
});
