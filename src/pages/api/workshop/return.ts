import { z } from 'zod';
import { endpoint, idSchema } from '@/server/gate/endpoint';
import { returnToRelease } from '@/server/plan/changes';

/** Puts an earlier release in force again. */
export const POST = endpoint({
  needs: 'plan.release',
  body: z.strictObject({ revision: z.int().max(2_147_483_647), to: idSchema }),
  run: ({ tx, access, body }) => returnToRelease(tx, access, body.revision, body.to),
});
