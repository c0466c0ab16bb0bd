import { remark, settleRemark } from '@/server/items/remarks';
import { endpoint } from '@/server/gate/endpoint';

/** Makes, answers or settles a remark on a draft that was sent. Whoever reads it and whoever wrote it may. */
export const POST = endpoint('POST /api/review/[id]/remarks', {
  needs: 'signed-in',
  on: 'review',
  run: ({ tx, access, id, thing, body }) =>
    'settle' in body
      ? settleRemark(tx, access, id, thing, body.settle, body.settled)
      : remark(tx, access, id, thing, body),
});
