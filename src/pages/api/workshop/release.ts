import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { goLive } from '@/server/plan/plans';

/** Makes the prepared plan the one in force. */
export const POST = endpoint({
  needs: 'plan.release',
  body: z.strictObject({ revision: z.int(), note: z.string().trim().max(300) }),
  run: ({ tx, access, body }) => goLive(tx, access, body.revision, body.note),
});
