import { tellPresence } from '@/server/items/presence';
import { endpoint } from '@/server/gate/endpoint';

/** Says that somebody has it open, and asks who else has. */
export const POST = endpoint('POST /api/items/[id]/presence', {
  needs: 'item.view',
  on: 'item',
  run: ({ tx, access, id, body }) => tellPresence(tx, access, id, body),
});
