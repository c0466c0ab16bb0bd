import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { returnToRelease } from '@/server/plan/plans';

/** Puts an earlier release in force again. */
export const POST = endpoint({
  needs: 'plan.release',
  body: z.strictObject({ revision: z.int(), to: z.int().min(1) }),
  run: ({ tx, access, body }) => returnToRelease(tx, access, body.revision, body.to),
});
