import { z } from 'zod';
import { decideReview } from '@/server/items/reviews';
import { endpoint } from '@/server/gate/endpoint';

/** Publishes what was sent, now or at an hour to come, or sends it back. Nobody decides on their own work. */
export const POST = endpoint({
  needs: 'review.decide',
  on: 'review',
  body: z.strictObject({
    outcome: z.enum(['published', 'sent-back']),
    word: z.string().trim().max(1000),
    at: z.string().max(20).optional(),
  }),
  run: ({ tx, access, id, body }) => decideReview(tx, access, id, body),
});
