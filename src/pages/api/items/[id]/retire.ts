import { deleteItem, previewRetire, putBack, takeItemDown } from '@/server/pages/retire';
import { endpoint } from '@/server/gate/endpoint';

const DO = { look: previewRetire, 'take-down': takeItemDown, 'put-back': putBack, delete: deleteItem } as const;

/**
 * Takes an item and all below it off the website or deletes it, puts it back, or only looks what that would take along.
 */
export const POST = endpoint('POST /api/items/[id]/retire', {
  needs: 'item.retire',
  on: 'item',
  run: async ({ tx, access, id, body }) => (await DO[body.do](tx, access, id)) ?? {},
});
