import { mustBeDone } from '@/server/items/together';
import { previewRetiring, putBack, takeItemsDown } from '@/server/pages/retire';
import { deleteItems } from '@/server/pages/deleted';
import { endpoint } from '@/server/gate/endpoint';

/**
 * Takes an item and all below it off the website or deletes it, puts it back, or only looks what that would take along.
 */
export const POST = endpoint('POST /api/items/[id]/retire', {
  needs: 'item.retire',
  on: 'item',
  run: async ({ tx, access, id, body }) => {
    if (body.do === 'look') return (await previewRetiring(tx, access, [id])).get(id) ?? {};
    if (body.do === 'put-back') return putBack(tx, access, [id]);
    const { pages, refused } = await (body.do === 'delete' ? deleteItems : takeItemsDown)(tx, access, [id]);
    mustBeDone(refused);
    return { pages };
  },
});
