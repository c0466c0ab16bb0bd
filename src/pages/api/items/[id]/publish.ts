import { publishDraft } from '@/server/items/reviews';
import { authorize } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps what is on the screen and puts it on the website, at once or at an hour to come. */
export const POST = endpoint('POST /api/items/[id]/publish', {
  needs: 'item.publish',
  on: 'item',
  run: async ({ tx, access, id, body, thing }) => {
    await authorize(tx, access, 'item.edit', thing);
    return publishDraft(tx, access, id, body);
  },
});
