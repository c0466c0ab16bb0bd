import { addNote, settleNote } from '@/server/items/notes';
import { endpoint } from '@/server/gate/endpoint';

/** Adds a note to an item, or settles one. */
export const POST = endpoint('POST /api/items/[id]/notes', {
  needs: 'item.edit',
  on: 'item',
  run: ({ tx, access, id, body }) =>
    'text' in body ? addNote(tx, access, id, body.text) : settleNote(tx, access, id, body.settle, body.settled),
});
