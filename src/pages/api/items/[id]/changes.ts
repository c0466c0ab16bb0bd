import { authorize } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';
import { getComingOut } from '@/server/items/compared';

/** What publishing the draft of an item would change for visitors: for whoever may publish it. */
export const GET = endpoint('GET /api/items/[id]/changes', {
  needs: 'item.publish',
  on: 'item',
  run: async ({ tx, access, id, thing }) => {
    await authorize(tx, access, 'item.edit', thing);
    return getComingOut(tx, access, id);
  },
});
