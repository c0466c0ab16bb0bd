import { bringBack } from '@/server/pages/deleted';
import { endpoint } from '@/server/gate/endpoint';

/** Brings a deleted item back, with what was deleted with it. */
export const POST = endpoint('POST /api/items/[id]/bring-back', {
  needs: 'item.retire',
  on: 'deletedItem',
  run: async ({ tx, access, id }) => ({ id: String(id), ...(await bringBack(tx, access, [id])) }),
});
