import { getEditable } from '@/server/items/editable';
import { endpoint } from '@/server/gate/endpoint';

/** What an item says newest. */
export const GET = endpoint('GET /api/items/[id]/content', {
  needs: 'item.view',
  on: 'item',
  run: async ({ tx, access, id }) => ({ content: (await getEditable(tx, access.site.id, id)).content }),
});
