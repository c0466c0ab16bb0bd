import { z } from 'zod';
import { saveDraft } from '@/server/items/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps the draft of an item. */
export const PUT = endpoint({
  needs: 'item.edit',
  on: 'item',
  body: z.strictObject({
    content: z.unknown(),
    version: z.int().min(0).max(2_147_483_647),
    over: z.boolean().optional(),
  }),
  run: ({ tx, access, id, body }) => saveDraft(tx, access, id, body),
});
