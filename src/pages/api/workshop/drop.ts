import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { dropPrepared } from '@/server/plan/changes';

/** Drops what is prepared and not live: of the roles named (null for what concerns all), or everything. */
export const POST = endpoint({
  needs: 'plan.edit',
  body: z.strictObject({
    revision: z.int().max(2_147_483_647),
    roles: z.array(z.string().max(80).nullable()).min(1).max(500).nullable(),
  }),
  run: ({ tx, access, body }) => dropPrepared(tx, access, body.revision, body.roles),
});
