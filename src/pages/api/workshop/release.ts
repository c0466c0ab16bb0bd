import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { goLive } from '@/server/plan/changes';

/** Makes the prepared plan the one in force. */
export const POST = endpoint({
  needs: 'plan.release',
  body: z.strictObject({ revision: z.int().max(2_147_483_647), note: z.string().trim().max(300) }),
  run: ({ tx, access, body }) => goLive(tx, access, body.revision, body.note),
});
