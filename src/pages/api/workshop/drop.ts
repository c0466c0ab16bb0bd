import { endpoint } from '@/server/gate/endpoint';
import { dropPrepared } from '@/server/plan/changes';

/** Drops what is prepared and not live: of the roles named (null for what concerns all), or everything. */
export const POST = endpoint('POST /api/workshop/drop', {
  needs: 'plan.edit',
  run: ({ tx, access, body }) => dropPrepared(tx, access, body.revision, body.roles),
});
