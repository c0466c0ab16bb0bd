import { z } from 'zod';
import { operationSchema } from '@/core/plan';
import { endpoint } from '@/server/gate/endpoint';
import { changePlan } from '@/server/plan/plans';

/** Applies operations to the prepared plan. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({ revision: z.int(), operations: z.array(operationSchema).min(1).max(50) }),
  run: ({ tx, access, body }) => changePlan(tx, access, body.revision, body.operations),
});
