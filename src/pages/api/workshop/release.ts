import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { goLive } from '@/server/plan/changes';

/** Makes what is prepared the plan in force: of the roles named (null for what concerns all), or everything. */
export const POST = endpoint({
  needs: 'plan.release',
  body: z.strictObject({
    revision: z.int().max(2_147_483_647),
    note: z.string().trim().max(300),
    roles: z.array(z.string().max(80).nullable()).min(1).max(500).nullable().default(null),
  }),
  run: ({ tx, access, body }) => goLive(tx, access, body.revision, body),
});
