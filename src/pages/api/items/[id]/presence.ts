import { z } from 'zod';
import { tellPresence } from '@/server/items/presence';
import { endpoint } from '@/server/gate/endpoint';

/** Says that somebody has it open, and asks who else has. */
export const POST = endpoint({
  needs: 'item.view',
  on: 'item',
  body: z.strictObject({ typing: z.boolean(), leaving: z.boolean().default(false) }),
  run: ({ tx, access, id, body }) => tellPresence(tx, access, id, body),
});
