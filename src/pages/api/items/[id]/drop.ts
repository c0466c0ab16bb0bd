import { dropDraft } from '@/server/items/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Puts the draft of an item aside; it says again what visitors see. */
export const POST = endpoint('POST /api/items/[id]/drop', {
  needs: 'item.edit',
  on: 'item',
  run: ({ tx, access, id, body }) => dropDraft(tx, access, id, body.version),
});
