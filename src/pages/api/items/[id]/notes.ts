import { z } from 'zod';
import { addNote, settleNote } from '@/server/items/notes';
import { endpoint, idSchema } from '@/server/gate/endpoint';

/** Adds a note to an item, or settles one. */
export const POST = endpoint({
  needs: 'item.edit',
  on: 'item',
  body: z.union([
    z.strictObject({ text: z.string().trim().min(1, 'Write something first.').max(1000) }),
    z.strictObject({ settle: idSchema, settled: z.boolean() }),
  ]),
  run: ({ tx, access, id, body }) =>
    'text' in body ? addNote(tx, access, id, body.text) : settleNote(tx, access, id, body.settle, body.settled),
});
