import { z } from 'zod';
import { addNote, settleNote } from '@/server/content/notes';
import { endpoint, idSchema } from '@/server/gate/endpoint';

/** Adds a note to a page, or settles one. */
export const POST = endpoint({
  needs: 'page.edit',
  on: 'page',
  body: z.union([
    z.strictObject({ text: z.string().trim().min(1, 'Write something first.').max(1000) }),
    z.strictObject({ settle: idSchema, settled: z.boolean() }),
  ]),
  run: ({ tx, access, id, body }) =>
    'text' in body ? addNote(tx, access, id, body.text) : settleNote(tx, access, id, body.settle, body.settled),
});
