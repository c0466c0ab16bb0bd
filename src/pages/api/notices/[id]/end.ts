import { endpoint } from '@/server/gate/endpoint';
import { endNotice } from '@/server/notices/notices';

/** Takes a notice off the website. */
export const POST = endpoint('POST /api/notices/[id]/end', {
  needs: 'notice.end',
  on: 'notice',
  run: ({ tx, access, id }) => endNotice(tx, access, id),
});
