import { endpoint } from '@/server/gate/endpoint';
import { correctionSchema, correctNotice } from '@/server/notices/notices';

/** Sets a notice right that shows or is to come. */
export const POST = endpoint({
  needs: 'notice.post',
  on: 'notice',
  body: correctionSchema,
  run: ({ tx, access, id, body }) => correctNotice(tx, access, id, body),
});
