import { z } from 'zod';
import { sendForReview } from '@/server/items/reviews';
import { authorize } from '@/server/gate/authorize';
import { endpoint, idSchema } from '@/server/gate/endpoint';

/** Keeps what is on the screen and sends it for a second look. */
export const POST = endpoint({
  needs: 'item.send',
  on: 'item',
  body: z.strictObject({
    content: z.unknown(),
    version: z.int().min(0).max(2_147_483_647),
    note: z.string().trim().max(500),
    askedOf: idSchema.nullable().optional(),
  }),
  run: async ({ tx, access, id, body, thing }) => {
    await authorize(tx, access, 'item.edit', thing);
    return sendForReview(tx, access, id, body);
  },
});
