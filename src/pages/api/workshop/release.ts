import { endpoint } from '@/server/gate/endpoint';
import { goLive } from '@/server/plan/goLive';

/** Makes what is prepared the plan in force: of the roles named (null for what concerns all), or everything. */
export const POST = endpoint('POST /api/workshop/release', {
  needs: 'plan.release',
  run: ({ tx, access, body }) => goLive(tx, access, body.revision, body),
});
