import { z } from 'zod';
import { publishDraft } from '@/server/items/reviews';
import { authorize } from '@/server/gate/authorize';
import { endpoint } from '@/server/gate/endpoint';

/** Keeps what is on the screen and puts it on the website, at once or at an hour to come. */
export const POST = endpoint({
  needs: 'item.publish',
  on: 'item',
  body: z.strictObject({
    content: z.unknown(),
    version: z.int().min(0).max(2_147_483_647),
    note: z.string().trim().max(500),
    at: z.string().max(20).optional(),
  }),
  run: async ({ tx, access, id, body, thing }) => {
    await authorize(tx, access, 'item.edit', thing);
    return publishDraft(tx, access, id, body);
  },
});
