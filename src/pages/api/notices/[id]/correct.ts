import { endpoint } from '@/server/gate/endpoint';
import { correctNotice } from '@/server/notices/notices';

/** Sets a notice right that shows or is to come. */
export const POST = endpoint('POST /api/notices/[id]/correct', {
  needs: 'notice.post',
  on: 'notice',
  run: ({ tx, access, id, body }) => correctNotice(tx, access, id, body),
});
