import { saveDraft } from '@/server/items/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps the draft of an item. */
export const PUT = endpoint('PUT /api/items/[id]/draft', {
  needs: 'item.edit',
  on: 'item',
  run: ({ tx, access, id, body }) => saveDraft(tx, access, id, body),
});
