import { z } from 'zod';
import { dropDraft } from '@/server/items/drafts';
import { endpoint } from '@/server/gate/endpoint';

/** Puts the draft of an item aside; it says again what visitors see. */
export const POST = endpoint({
  needs: 'item.edit',
  on: 'item',
  body: z.strictObject({ version: z.int().min(1).max(2_147_483_647) }),
  run: ({ tx, access, id, body }) => dropDraft(tx, access, id, body.version),
});
