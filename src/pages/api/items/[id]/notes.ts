import { mustHavePanel } from '@/server/items/allowed';
import { addNote, settleNote } from '@/server/items/notes';
import { endpoint } from '@/server/gate/endpoint';

/** Adds a note to an item, answers one, asks for a change, or settles one. */
export const POST = endpoint('POST /api/items/[id]/notes', {
  needs: 'item.edit',
  on: 'item',
  run: ({ tx, access, id, thing, body }) => {
    mustHavePanel(access, thing, 'notes');
    return 'text' in body
      ? addNote(tx, access, id, thing, body)
      : settleNote(tx, access, id, body.settle, body.settled);
  },
});
