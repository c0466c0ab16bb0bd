import { z } from 'zod';
import { operationSchema } from '@/core/plan';
import { endpoint } from '@/server/gate/endpoint';
import { changePlan } from '@/server/plan/changes';

/** Applies operations to the prepared plan; `role` is the one that is prepared. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({
    revision: z.int().max(2_147_483_647),
    role: z.string().max(80).nullable().default(null),
    operations: z.array(operationSchema).min(1).max(50),
  }),
  run: ({ tx, access, body }) => changePlan(tx, access, body.revision, body.operations, body.role),
});
