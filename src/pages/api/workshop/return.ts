import { endpoint } from '@/server/gate/endpoint';
import { returnToRelease } from '@/server/plan/goLive';

/** Puts an earlier release in force again. */
export const POST = endpoint('POST /api/workshop/return', {
  needs: 'plan.release',
  run: ({ tx, access, body }) => returnToRelease(tx, access, body.revision, body.to),
});
