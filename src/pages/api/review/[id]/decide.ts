import { decideReview } from '@/server/items/reviews';
import { endpoint } from '@/server/gate/endpoint';

/** Publishes what was sent, now or at an hour to come, or sends it back. Nobody decides on their own work. */
export const POST = endpoint('POST /api/review/[id]/decide', {
  needs: 'review.decide',
  on: 'review',
  run: ({ tx, access, id, body }) => decideReview(tx, access, id, body),
});
