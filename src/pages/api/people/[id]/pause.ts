import { endpoint } from '@/server/gate/endpoint';
import { setSuspended } from '@/server/people/details';

/** Pauses an account, or lets it work again. */
export const POST = endpoint('POST /api/people/[id]/pause', {
  needs: 'person.manage',
  run: ({ tx, access, id, body }) => setSuspended(tx, access, id, body.paused),
});
