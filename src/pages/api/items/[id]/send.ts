import { sendForReview } from '@/server/items/reviews';
import { authorize } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps what is on the screen and sends it for a second look. */
export const POST = endpoint('POST /api/items/[id]/send', {
  needs: 'item.send',
  on: 'item',
  run: async ({ tx, access, id, body, thing }) => {
    await authorize(tx, access, 'item.edit', thing);
    return sendForReview(tx, access, id, body);
  },
});
