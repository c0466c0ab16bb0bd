import { putAside } from '@/server/items/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps a version that was not chosen when two people wrote at once. */
export const POST = endpoint('POST /api/items/[id]/aside', {
  needs: 'item.edit',
  on: 'item',
  run: ({ tx, access, id, body }) => putAside(tx, access, id, body.content),
});
